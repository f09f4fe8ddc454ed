using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;

namespace FirstCoat.Core.Sequence;

/// <summary>A question on which practitioners differ.</summary>
public enum School
{
    /// <summary>Which template: paint before it has run, or after.</summary>
    Order,
    Hold,
    Sides,
    Blast,
    Filler,
    Gaps,
    Wiring,
    Trim,
}

/// <summary>How a build runs: by which template, and by which schools.</summary>
public sealed record Way(string Template, TemplateChoices Choices);

/// <summary>One answer to a question on which practitioners differ.</summary>
/// <param name="Key">What it is called among the answers to that question.</param>
/// <param name="Way">How the build runs with this answer and all others as they are.</param>
/// <param name="Again">What tends to be done again because of it, at a scale of 1.</param>
public sealed record SchoolOption(School School, string Key, Way Way, DoingAgain Again);

/// <summary>The questions on which practitioners differ, and what each answer risks.</summary>
/// <remarks>Chances and hours are rules of thumb, no record; <see cref="DoingAgain.Learned"/> puts the shop's own in
/// their place as it grows.</remarks>
public static class Schools
{
    /// <summary>The questions that a vehicle asks, with their answers; none for work that has no choices.</summary>
    /// <param name="chosen">How it runs now.</param>
    public static IReadOnlyList<SchoolOption> Of(Way chosen, Construction construction)
    {
        if (!Templates.HasChoices(chosen.Template))
        {
            return [];
        }

        var c = chosen.Choices;
        return
        [
            .. Orders.Select(o => new SchoolOption(School.Order, o.Key, chosen with { Template = o.Key }, o.Again)),
            .. Answers(School.Hold, Holds, v => c with { Hold = v }),
            // A wood frame has no side that is the other's reference, and no composite is blasted.
            .. construction == Construction.WoodFramed ? [] : Answers(School.Sides, Sides, v => c with { Sides = v }),
            .. construction == Construction.Composite ? [] : Answers(School.Blast, Blasts, v => c with { Blast = v }),
            .. Answers(School.Filler, Fillers, v => c with { Filler = v }),
            .. Answers(School.Gaps, Gaps, v => c with { Gaps = v }),
            .. Answers(School.Wiring, Wirings, v => c with { Wiring = v }),
            .. Answers(School.Trim, Trims, v => c with { Trim = v }),
        ];

        IEnumerable<SchoolOption> Answers<T>(
            School school,
            IEnumerable<(T Value, DoingAgain Again)> answers,
            Func<T, TemplateChoices> with
        )
            where T : struct, Enum =>
            answers.Select(a => new SchoolOption(
                school,
                a.Value.ToString(),
                chosen with
                {
                    Choices = with(a.Value),
                },
                a.Again
            ));
    }

    /// <summary>The stages in which it shows that a school went wrong.</summary>
    public static IReadOnlyList<Stage> StagesOf(School school) =>
        school switch
        {
            School.Order => [Stage.Colour, Stage.Polish],
            School.Hold or School.Sides => [Stage.Metal],
            School.Blast => [Stage.Strip, Stage.Epoxy],
            School.Filler => [Stage.Fill],
            School.Gaps => [Stage.Metal, Stage.Fill],
            School.Wiring => [Stage.Driveline],
            _ => [Stage.Trim],
        };

    private static readonly (string Key, DoingAgain Again)[] Orders =
    [
        (Templates.PaintThenAssemble, new(1 / 3.0, 16, "paint is chipped in assembly")),
        (Templates.DriveFirst, new(1 / 12.0, 10, "chips at the second build")),
    ];

    private static readonly (SupportState Value, DoingAgain Again)[] Holds =
    [
        (SupportState.Jig, new(1 / 25.0, 40, "set to a bent point")),
        (SupportState.OwnChassis, new(1 / 7.0, 52, "flexes while it is cut")),
        (SupportState.Cart, new(1 / 12.0, 40, "the floor is not level")),
        (SupportState.Rotisserie, new(1 / 12.0, 30, "sags between its pivots")),
        (SupportState.Wheels, new(1 / 6.0, 48, "settles while it is cut")),
    ];

    private static readonly (SideSchool Value, DoingAgain Again)[] Sides =
    [
        (SideSchool.OneAtATime, new(1 / 20.0, 30, "the mirrored part is off")),
        (SideSchool.Both, new(1 / 6.0, 64, "the shell twists")),
    ];

    private static readonly (BlastSchool Value, DoingAgain Again)[] Blasts =
    [
        (BlastSchool.BareFirst, new(1 / 8.0, 10, "rusts again before its primer")),
        (BlastSchool.AfterFabrication, new(1 / 5.0, 24, "more rust once the metal is done")),
        (BlastSchool.WhereNeeded, new(1 / 4.0, 18, "rust creeps out of what was left")),
    ];

    private static readonly (FillerSchool Value, DoingAgain Again)[] Fillers =
    [
        (FillerSchool.EpoxyFirst, new(1 / 6.0, 9, "sanded through")),
        (FillerSchool.FillerFirst, new(1 / 10.0, 40, "rust creeps while it is open")),
    ];

    private static readonly (GapSchool Value, DoingAgain Again)[] Gaps =
    [
        (GapSchool.Both, new(1 / 20.0, 12, "a gap is missed twice")),
        (GapSchool.BeforeFinish, new(1 / 6.0, 20, "coats close a gap")),
        (GapSchool.AfterUniformCoat, new(1 / 4.0, 30, "metal is opened under primer")),
    ];

    private static readonly (WiringSchool Value, DoingAgain Again)[] Wirings =
    [
        (WiringSchool.AfterPaint, new(1 / 6.0, 8, "a hole is drilled through paint")),
        (WiringSchool.OnBareMetal, new(1 / 8.0, 6, "a loom is singed or painted")),
    ];

    private static readonly (TrimSchool Value, DoingAgain Again)[] Trims =
    [
        (TrimSchool.InHouse, new(1 / 6.0, 8, "a cover is sewn again")),
        (TrimSchool.Visiting, new(1 / 8.0, 10, "comes when it is not ready")),
    ];
}

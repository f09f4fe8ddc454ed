using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using FirstCoat.Core.Tests.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>A template of the shop's own is its build's sequence without what belongs to that vehicle.</summary>
public sealed class ShopTemplateTests
{
    private static readonly Build Build = new RecordedShop().Build(1);

    private static List<Operation> Make(TemplateChoices? choices = null, decimal scale = 1) =>
        [
            .. Templates.Make(
                Templates.DriveFirst,
                Build.Id,
                Build.Vehicle,
                Build.Brief.Grade,
                scale,
                Guid.CreateVersion7,
                choices
            ),
        ];

    private static ShopTemplate Saved(List<Operation> all, params Guid[] found) =>
        ShopTemplate.From(Guid.CreateVersion7(), "Our way", Build, all, found.ToHashSet(), default, default);

    private static IReadOnlyList<Operation> Made(ShopTemplate template, decimal scale = 1, FinishGrade? grade = null) =>
        template.Make(Guid.CreateVersion7(), Build.Vehicle, grade ?? Build.Brief.Grade, scale, Guid.CreateVersion7);

    private static List<string> Shown(IEnumerable<Operation> all)
    {
        var names = all.ToDictionary(o => o.Id, o => o.Name);
        return
        [
            .. all.OrderBy(o => o.Position)
                .Select(o =>
                    $"{o.TemplateKey} {o.Name} {o.Kind} {o.Stage} {o.Trade} {o.BudgetMinutes} {o.ClockMinutes} {o.Station} "
                    + $"{o.Coat} {o.Held} {o.Gate} {o.Hazard} {o.WithoutStop} {string.Join(' ', o.Panels)} {o.Terms.Sets} "
                    + $"{(o.Terms.Hold is { } h ? names[h.Until] : "")} {(o.Terms.ClosedUntil is { } c ? names[c] : "")} "
                    + string.Join(
                        ',',
                        o.After.Select(a => $"{names[a.Operation]} {a.AtMostMinutes} {a.LagMinutes} {a.Lapse}")
                    )
                ),
        ];
    }

    [Fact]
    public void What_is_made_from_it_is_the_sequence_that_was_saved_with_ids_of_its_own()
    {
        var all = Make(new(Sides: SideSchool.Both, Filler: FillerSchool.FillerFirst));
        var made = Made(Saved(all));
        Shown(made).ShouldBe(Shown(all));
        made.Select(o => o.Id).Intersect(all.Select(o => o.Id)).ShouldBeEmpty();
        OperationOrder.Check([.. made]);
        made.ToList().ForEach(o => o.Check());
    }

    [Fact]
    public void What_was_done_who_did_it_its_dates_and_what_was_found_stay_with_that_vehicle()
    {
        var all = Make();
        var floor = all.Single(o => o.TemplateKey == "floor");
        floor.Finish("Ada", Instant.FromUtc(2026, 3, 2, 12, 0));
        floor.PersonId = Guid.CreateVersion7();
        floor.Terms = floor.Terms with
        {
            PinnedOn = new(2026, 3, 9),
            NotBefore = new(2026, 3, 9),
            Deadline = new(2026, 4, 1),
            Preferred = [Guid.CreateVersion7()],
        };
        var found = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = Build.Id,
            Name = "New cross member",
            Trade = Trade.Metal,
            BudgetMinutes = 600,
            Position = 99,
            After = [new(floor.Id, 0)],
        };
        var tail = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = Build.Id,
            Name = "Exhaust",
            Trade = Trade.Mechanic,
            BudgetMinutes = 60,
            Position = 100,
            After = [new(found.Id, 0)],
        };
        all.AddRange([found, tail]);
        var made = Made(Saved(all, found.Id, floor.Id));
        made.ShouldNotContain(o => o.Name == "New cross member");
        var again = made.Single(o => o.TemplateKey == "floor");
        (again.IsDone, again.PersonId).ShouldBe((false, null));
        (again.Terms.PinnedOn, again.Terms.NotBefore, again.Terms.Deadline, again.Terms.Preferred.Count).ShouldBe(
            (null, null, null, 0)
        );
        // What came after what is left out comes after what that came after; added by hand, it is in.
        made.Single(o => o.Name == "Exhaust").After.ShouldHaveSingleItem().Operation.ShouldBe(again.Id);
    }

    [Fact]
    public void Hours_follow_scale_and_finish_from_those_it_was_saved_with()
    {
        var one = Make(scale: 1).Single(o => o.TemplateKey == "floor").BudgetMinutes;
        var build = new RecordedShop().Build(2);
        build.Terms = build.Terms with { Scale = 0.5m };
        var half = Templates.Make(
            Templates.DriveFirst,
            build.Id,
            build.Vehicle,
            build.Brief.Grade,
            0.5m,
            Guid.CreateVersion7
        );
        var template = ShopTemplate.From(
            Guid.CreateVersion7(),
            "Half",
            build,
            half,
            new HashSet<Guid>(),
            default,
            default
        );
        int Floor(decimal scale, FinishGrade grade) =>
            Made(template, scale, grade).Single(o => o.TemplateKey == "floor").BudgetMinutes;
        Floor(1, build.Brief.Grade).ShouldBe(one);
        Floor(0.5m, build.Brief.Grade).ShouldBe(one / 2);
        Floor(1, FinishGrade.Concours).ShouldBeGreaterThan(Floor(1, FinishGrade.Show));
    }

    [Fact]
    public void A_body_without_a_panel_leaves_it_out_and_a_share_that_was_found_is_allowed_again()
    {
        var all = Make();
        var side = all.Single(o => o.TemplateKey == "sillR");
        var (minutes, panels) = (side.BudgetMinutes, side.Panels.Count);
        new Allowance(side, 600, false).TakeOut("sillR", Guid.CreateVersion7());
        side.Finish("Ada", Instant.FromUtc(2026, 3, 2, 12, 0));
        var template = Saved([.. all.Select(Allowance.Unfound)]);
        var again = Made(template).Single(o => o.TemplateKey == "sillR");
        (again.BudgetMinutes, again.Panels.Count).ShouldBe((minutes, panels));
        // The build that it came from keeps what was found.
        side.BudgetMinutes.ShouldBe(minutes - 600);
        var van = Build.Vehicle with { Style = BodyStyleKey.Van, Dimensions = BodyDimensions.Of(BodyStyleKey.Van) };
        var there = Body.Unfold(van.Style, van.Dimensions).Panels.Select(p => p.Key).ToHashSet();
        template
            .Make(Guid.CreateVersion7(), van, FinishGrade.Show, 1, Guid.CreateVersion7)
            .SelectMany(o => o.Panels)
            .ShouldAllBe(p => there.Contains(p));
    }

    [Fact]
    public void It_is_offered_until_it_is_dropped_and_known_after_that()
    {
        var template = Saved(Make());
        var shelf = new TemplateShelf([template]);
        shelf.Offered.Select(t => t.Name).ShouldContain("Our way");
        template.Dropped = true;
        shelf.Offered.ShouldBe(Templates.All);
        shelf.Knows(template.Key).ShouldBeTrue();
        shelf.Knows("own-none").ShouldBeFalse();
        // It runs as it was saved: practitioners differed when it was made.
        Core.Sequence.Schools.Of(new(template.Key, new()), Construction.Unitary).ShouldBeEmpty();
        Should
            .Throw<Refusal>(() =>
                shelf.Make(new("own-none", new()), Build.Id, Build.Vehicle, FinishGrade.Show, 1, Guid.CreateVersion7)
            )
            .Field.ShouldBe("template");
        Should.Throw<Refusal>(() => Saved([])).Field.ShouldBe("name");
    }
}

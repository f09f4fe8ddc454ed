using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Plan;

/// <summary>What may be tried beside the real plan.</summary>
public enum WhatIfKind
{
    NewBuild,
    Absence,
    MoreStations,
    Promise,
    Saturdays,
    Rank,

    /// <summary>A client pays nothing until some day.</summary>
    NoPayments,
}

/// <summary>A build that may come.</summary>
/// <param name="Scale">Multiplies the template's hours.</param>
public sealed record MaybeBuild(
    Guid Id,
    string Client,
    string Make,
    string Model,
    BodyStyleKey Style,
    Construction Construction,
    FinishGrade Grade,
    string Template,
    decimal Scale,
    LocalDate Arrives,
    LocalDate? Promised
)
{
    public Vehicle ToVehicle() =>
        new(Make, Model, null, Style, Construction, "", "", "#8A8F94", BodyDimensions.Of(Style));
}

/// <summary>One thing that is tried.</summary>
public sealed record WhatIfChange(WhatIfKind Kind)
{
    /// <summary>Whose promise or place in the queue moves.</summary>
    public Guid? BuildId { get; init; }

    /// <summary>The day promised instead; null: nothing is promised.</summary>
    public LocalDate? Promised { get; init; }

    public int? Priority { get; init; }

    /// <summary>Who is away; or who works on Saturdays, null: everybody.</summary>
    public Guid? PersonId { get; init; }

    /// <summary>First and last day.</summary>
    public LocalDate? From { get; init; }

    /// <summary>The last day; of a client who pays nothing, the first on which they pay again.</summary>
    public LocalDate? To { get; init; }

    public StationKind? Station { get; init; }

    /// <summary>How many more of that kind.</summary>
    public int Count { get; init; } = 1;

    public MaybeBuild? Build { get; init; }

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check()
    {
        Refusal.When(To < From, "to", "It ends after it starts.");
        switch (Kind)
        {
            case WhatIfKind.NewBuild:
                Refusal.When(Build is null, "build", "Say which build may come.");
                Build!.ToVehicle().Check();
                Refusal.Text(Build.Client, "client", 100);
                Refusal.When(
                    Build.Scale is <= 0 or > 10,
                    "scale",
                    "The hours are multiplied by more than 0 and at most 10."
                );
                break;
            case WhatIfKind.Absence:
                Refusal.When(PersonId is null, "personId", "Say who is away.");
                Refusal.When(From is null || To is null, "from", "Say from when to when.");
                break;
            case WhatIfKind.MoreStations:
                Refusal.When(Station is null, "station", "Say which kind of station.");
                Refusal.When(Count is < 1 or > 20, "count", "Between one and twenty more.");
                break;
            case WhatIfKind.Promise:
                Refusal.When(BuildId is null, "buildId", "Say which build.");
                break;
            case WhatIfKind.Saturdays:
                Refusal.When(From is null, "from", "Say from which day on.");
                break;
            case WhatIfKind.NoPayments:
                Refusal.When(BuildId is null, "buildId", "Say which build.");
                Refusal.When(To is null, "to", "Say from which day on they pay again.");
                break;
            case WhatIfKind.Rank:
                Refusal.When(BuildId is null, "buildId", "Say which build.");
                Refusal.When(
                    Priority is null or < 0 or > 10_000,
                    "priority",
                    "The place in the queue must be between 0 and 10,000."
                );
                break;
            default:
                throw new Refusal("kind", "That cannot be tried.");
        }
    }
}

/// <summary>A sandbox beside the real plan, until it is adopted or dropped.</summary>
public sealed class WhatIf : Recorded
{
    public required string Name { get; set; }
    public List<WhatIfChange> Changes { get; set; } = [];
    public Instant? AdoptedAt { get; private set; }
    public string? AdoptedBy { get; private set; }

    public bool IsOpen => AdoptedAt is null;

    /// <summary>Takes it into the real plan.</summary>
    public void Adopt(string by, Instant at)
    {
        Refusal.When(!IsOpen, "id", $"{AdoptedBy} has adopted it already.");
        (AdoptedBy, AdoptedAt) = (by, at);
    }

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.Text(Name, "name", 100),
            () =>
                Refusal.When(
                    Changes.Count is < 1 or > 20,
                    "changes",
                    "Between one and twenty things are tried at once."
                ),
            () => Changes.ForEach(c => c.Check()),
            () =>
                Refusal.When(
                    Changes.Where(c => c.Build is not null).GroupBy(c => c.Build!.Id).Any(g => g.Count() > 1),
                    "changes",
                    "Each build that may come stands once."
                )
        );

    /// <summary>Builds whose money must be known for it.</summary>
    public IReadOnlySet<Guid> OfMoney =>
        Changes.Where(c => c.Kind == WhatIfKind.NoPayments).Select(c => c.BuildId).OfType<Guid>().ToHashSet();

    /// <summary>The facts as they would be.</summary>
    /// <param name="facts">Read for this alone: people and builds in it are changed.</param>
    /// <param name="templates">From which a new build is made.</param>
    public PlanFacts Apply(PlanFacts facts, TemplateShelf templates) =>
        Changes.Aggregate(facts, (f, c) => Apply(f, c, templates));

    private PlanFacts Apply(PlanFacts f, WhatIfChange c, TemplateShelf templates)
    {
        switch (c.Kind)
        {
            case WhatIfKind.NewBuild:
                var (build, operations) = Open(
                    c.Build!,
                    templates,
                    f.Builds.Select(b => b.Number).DefaultIfEmpty(0).Max() + 1,
                    f.Builds.Select(b => b.Priority).DefaultIfEmpty(0).Max() + 1,
                    Guid.CreateVersion7
                );
                return f with { Builds = [.. f.Builds, build], Operations = [.. f.Operations, .. operations] };
            case WhatIfKind.Absence:
                foreach (var p in f.People.Where(p => p.Id == c.PersonId))
                {
                    p.Absences = [.. p.Absences, Absence(c)];
                }

                return f;
            case WhatIfKind.MoreStations:
                return f with
                {
                    Stations =
                    [
                        .. f.Stations,
                        .. Enumerable
                            .Range(1, c.Count)
                            .Select(n => new Station
                            {
                                Id = Guid.CreateVersion7(),
                                Name = $"another {c.Station} {n}",
                                Kind = c.Station!.Value,
                            }),
                    ],
                };
            case WhatIfKind.Promise:
                foreach (var b in f.Builds.Where(b => b.Id == c.BuildId))
                {
                    b.Brief = b.Brief with { Promised = c.Promised };
                }

                return f;
            case WhatIfKind.NoPayments:
                foreach (var b in f.Builds.Where(b => b.Id == c.BuildId))
                {
                    b.Terms = Unpaid(b.Terms, c.To!.Value);
                }

                return f;
            case WhatIfKind.Rank:
                foreach (var b in f.Builds.Where(b => b.Id == c.BuildId))
                {
                    b.Priority = c.Priority!.Value;
                }

                return f;
            default:
                foreach (var p in f.People.Where(p => c.PersonId is null || p.Id == c.PersonId))
                {
                    p.Terms = p.Terms with { Hours = WithSaturdays(p.Terms.Hours, f.Shop.Week, c.From!.Value, c.To) };
                }

                return f;
        }
    }

    /// <summary>The terms of a build for which nothing is paid before a day.</summary>
    public static BuildTerms Unpaid(BuildTerms terms, LocalDate paysFrom) =>
        terms with
        {
            Spending = (terms.Spending ?? new(null, false)) with { PaysFrom = paysFrom },
        };

    /// <summary>The absence that is tried: whole days, for the reason that the sandbox is called by.</summary>
    public Absence Absence(WhatIfChange c) =>
        new(c.From!.Value.AtMidnight(), c.To!.Value.PlusDays(1).AtMidnight(), Name);

    /// <summary>A build that may come, as it would be opened: its first work is not before it arrives.</summary>
    public static (Build Build, IReadOnlyList<Operation> Operations) Open(
        MaybeBuild m,
        TemplateShelf templates,
        int number,
        int priority,
        Func<Guid> newId
    )
    {
        var build = new Build
        {
            Id = m.Id,
            Number = number,
            ClientId = Guid.Empty,
            Vehicle = m.ToVehicle(),
            Brief = new(m.Grade, OriginalityPolicy.OriginalLook, m.Promised, null, []),
            Contract = new(ContractKind.TimeAndMaterials),
            Template = m.Template,
            Priority = priority,
        };
        build.Open();
        var operations = templates.Make(new(m.Template, new()), m.Id, m.ToVehicle(), m.Grade, m.Scale, newId);
        foreach (var first in operations.Where(o => o.After.Count == 0))
        {
            first.Terms = first.Terms with { NotBefore = m.Arrives };
        }

        return (build, operations);
    }

    /// <summary>Hours in which Saturdays are worked like the Fridays of the same week, from a day on and, where it
    /// ends, up to one.</summary>
    public static List<PersonHours> WithSaturdays(
        IReadOnlyList<PersonHours> own,
        IReadOnlyList<DayShift> shop,
        LocalDate from,
        LocalDate? to
    )
    {
        List<DayShift> At(LocalDate day) => own.Where(h => h.From <= day).MaxBy(h => h.From)?.Week ?? [.. shop];
        static List<DayShift> Longer(List<DayShift> week) =>
            week.Any(d => d.Day == IsoDayOfWeek.Saturday)
                ? week
                :
                [
                    .. week,
                    .. week.Where(d => d.Day == IsoDayOfWeek.Friday)
                        .Select(d => d with { Day = IsoDayOfWeek.Saturday }),
                ];
        var inside = own.Where(h => h.From > from && !(h.From > to));
        var hours = own.Where(h => h.From < from)
            .Append(new(from, Longer(At(from))))
            .Concat(inside.Select(h => h with { Week = Longer(h.Week) }));
        return to is { } last
            ?
            [
                .. hours
                    .Append(new(last.PlusDays(1), At(last.PlusDays(1))))
                    .Concat(own.Where(h => h.From > last.PlusDays(1))),
            ]
            : [.. hours];
    }
}

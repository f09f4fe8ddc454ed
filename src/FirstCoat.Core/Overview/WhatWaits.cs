using FirstCoat.Core.Builds;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using FirstCoat.Core.Teardown;
using NodaTime;

namespace FirstCoat.Core.Overview;

/// <summary>The groups of a build's pages, in the order of work.</summary>
public enum PageGroup
{
    Body,
    TakeIn,
    Work,
    Apart,
    Measure,
    Coats,
    Together,
    Goods,
    Record,
    Client,
}

/// <summary>How much waits for somebody on the pages of a group, and what it is.</summary>
public sealed record Waiting(PageGroup Group, int Count, string Says);

/// <summary>What of a build may wait for somebody; what plainly does not may be left out.</summary>
/// <param name="Today">In the shop.</param>
public sealed record WaitFacts(BuildStatus Status, LocalDate Today)
{
    public IReadOnlyCollection<Decision> Decisions { get; init; } = [];

    /// <summary>All of the sequence that was not removed.</summary>
    public IReadOnlyCollection<Operation> Operations { get; init; } = [];

    /// <summary>Hours and panel states that were noted against a rule and are not settled.</summary>
    public int AgainstRules { get; init; }

    public Arrival? Arrival { get; init; }

    public IReadOnlyCollection<Finding> Findings { get; init; } = [];

    /// <summary>Shut lines that somebody proposes to leave as they are.</summary>
    public int LinesProposed { get; init; }

    public IReadOnlyCollection<Bag> Bags { get; init; } = [];

    public IReadOnlyCollection<PartLine> Parts { get; init; } = [];

    /// <summary>Batches, each with the day on which it is here by its promise and the freight.</summary>
    public IReadOnlyCollection<(OutsideJob Job, LocalDate? HereOn)> Batches { get; init; } = [];

    public IReadOnlyCollection<ClientPaper> Papers { get; init; } = [];
}

/// <summary>What waits for somebody, group by group: the small figures on the strip of a build, on the switcher and on
/// the phone.</summary>
public static class WhatWaits
{
    /// <summary>Groups where something waits, in their order.</summary>
    public static List<Waiting> Of(WaitFacts f) =>
        f.Status is BuildStatus.Closed or BuildStatus.Withdrawn
            ? []
            :
            [
                .. All(f)
                    .Where(w => w.Count > 0)
                    .GroupBy(w => w.Group)
                    .OrderBy(g => g.Key)
                    .Select(g => new Waiting(g.Key, g.Sum(w => w.Count), string.Join("; ", g.Select(w => w.Says)))),
            ];

    private static IEnumerable<Waiting> All(WaitFacts f)
    {
        var open = f.Decisions.Where(d => d.IsOpen).ToList();
        yield return Counted(
            PageGroup.Body,
            open.Count(d => d.For == DecisionFor.Manager),
            "question for the manager",
            "questions for the manager"
        );
        yield return Counted(
            PageGroup.TakeIn,
            f.Arrival?.Hazards.Count(h => !h.Settled) ?? 0,
            "danger not settled",
            "dangers not settled"
        );
        yield return Counted(
            PageGroup.TakeIn,
            f.Arrival?.Promised.Where(p => p.By < f.Today).Sum(p => p.Missing) ?? 0,
            "promised piece overdue",
            "promised pieces overdue"
        );
        yield return Counted(
            PageGroup.TakeIn,
            f.Findings.Count(x => x.Counts && x.Choice is null),
            "finding without a verdict",
            "findings without a verdict"
        );
        yield return Counted(
            PageGroup.Work,
            f.Status == BuildStatus.Open ? Gates.Ready(f.Operations).Count() : 0,
            "gate to sign",
            "gates to sign"
        );
        yield return Counted(PageGroup.Work, f.AgainstRules, "entry against a rule", "entries against a rule");
        yield return Counted(
            PageGroup.Apart,
            f.Bags.Count(b => b.State == BagState.NotFound),
            "bag not found",
            "bags not found"
        );
        yield return Counted(
            PageGroup.Measure,
            f.LinesProposed,
            "line proposed to be left as it is",
            "lines proposed to be left as they are"
        );
        yield return Counted(PageGroup.Goods, f.Parts.Count(p => p.IsLate(f.Today)), "part late", "parts late");
        yield return Counted(
            PageGroup.Goods,
            f.Batches.Count(b => b.Job.IsLate(b.HereOn, f.Today)),
            "batch late",
            "batches late"
        );
        yield return Counted(
            PageGroup.Goods,
            f.Batches.Sum(b => b.Job.MissingPieces),
            "piece missing from a batch",
            "pieces missing from batches"
        );
        yield return Counted(
            PageGroup.Client,
            open.Count(d => d.For == DecisionFor.Client),
            "question for the client",
            "questions for the client"
        );
        var asked = open.Select(d => d.PaperId).OfType<Guid>().ToHashSet();
        yield return Counted(
            PageGroup.Client,
            f.Papers.Count(p => p.State == PaperState.Sent && !asked.Contains(p.Id)),
            "paper without an answer",
            "papers without an answer"
        );
    }

    private static Waiting Counted(PageGroup group, int count, string one, string many) =>
        new(group, count, $"{count} {(count == 1 ? one : many)}");
}

using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Survey;

/// <summary>An operation that a verdict asks for.</summary>
/// <param name="After">What must be done first.</param>
/// <param name="Before">What waits for it; empty: nothing is left that could, or it stands where it stood.</param>
public sealed record WorkForVerdict(
    Guid Id,
    string Name,
    Stage Stage,
    Trade Trade,
    int BudgetMinutes,
    StationKind? Station,
    IReadOnlyList<string> Panels,
    Hazard? Hazard,
    IReadOnlyList<OperationLink> After,
    IReadOnlyList<Guid> Before
)
{
    public Coat? Coat { get; init; }
    public Held? Held { get; init; }
    public Guid? ClosedUntil { get; init; }
    public string OneAtATime { get; init; } = "";
}

/// <summary>What a verdict takes out of, or puts back into, the allowance that a template made for its place.</summary>
/// <param name="Left">Minutes that the operation has then; none: the verdict's work stands in its place.</param>
public sealed record ReplacedAllowance(Guid Operation, string Name, int Minutes, int Left);

/// <summary>A part line that a verdict asks for.</summary>
public sealed record PartForVerdict(Guid Id, string Name, decimal UnitCost);

/// <summary>What a build has of a finding's earlier verdict.</summary>
/// <param name="Started">Operations on which hours are booked or that are done.</param>
/// <param name="Ordered">Parts that are more than needed.</param>
public sealed record VerdictMade(
    IReadOnlyList<Operation> Operations,
    IReadOnlySet<Guid> Started,
    IReadOnlyList<(Guid Id, string Name)> Parts,
    IReadOnlySet<Guid> Ordered
);

/// <summary>Mark-ups and rates under which a verdict reaches the estimate.</summary>
public sealed record VerdictMarkups(
    IReadOnlyList<PartTier> PartTiers,
    decimal MaterialsMarkup,
    IReadOnlyDictionary<Trade, decimal> Rates,
    decimal ConsumablesPercent = 0
)
{
    /// <summary>Consumables that go with an amount of labour, as the bill charges them.</summary>
    public decimal Consumables(decimal labour) => Cents.Round(labour * ConsumablesPercent / 100);
}

/// <summary>What applying a finding's verdict does to sequence, parts and estimate; it can be shown before it is
/// done.</summary>
/// <param name="Adds">To the estimate, net; what an earlier verdict had put there and nobody has begun is taken off
/// first.</param>
/// <param name="CannotUndo">What stays of an earlier verdict, in words.</param>
public sealed record VerdictWork(
    WorkForVerdict? Operation,
    IReadOnlyList<PartForVerdict> Parts,
    EstimateTotals Adds,
    EstimateTotals InEstimate,
    IReadOnlyList<Guid> RemoveOperations,
    IReadOnlyList<Guid> RemoveParts,
    IReadOnlyList<string> CannotUndo
)
{
    private static readonly EstimateTotals Nothing = new(0, 0, 0, 0);

    /// <summary>What its work takes the place of; null: nothing was allowed for it.</summary>
    public ReplacedAllowance? Replaces { get; init; }

    /// <summary>What an earlier verdict had replaced and this one does not; null: nothing.</summary>
    public ReplacedAllowance? PutsBack { get; init; }

    /// <summary>Minutes of work that are added or, below nothing, taken out, as <see cref="Adds"/> is of their
    /// money.</summary>
    public int AddsMinutes { get; init; }

    /// <summary>Reckons what the chosen verdict asks for.</summary>
    /// <param name="place">The finding's place.</param>
    /// <param name="sum">The chosen way with its sum.</param>
    /// <param name="sequence">The build's operations that are in its sequence.</param>
    /// <param name="made">What an earlier verdict of this finding became.</param>
    /// <param name="allowance">What a template allowed for the place; null: nothing, or another finding has replaced
    /// it.</param>
    /// <param name="inEstimate">What this finding put into the estimate before.</param>
    /// <param name="newId">Makes ids.</param>
    public static VerdictWork Of(
        Finding finding,
        SurveyPlace place,
        OptionSum sum,
        IReadOnlyList<Operation> sequence,
        VerdictMade made,
        Allowance? allowance,
        VerdictMarkups markups,
        EstimateTotals? inEstimate,
        Func<Guid> newId
    )
    {
        var kept = made.Operations.Where(o => made.Started.Contains(o.Id)).ToList();
        var open = made.Operations.Where(o => !made.Started.Contains(o.Id)).ToList();
        var keptParts = made.Parts.Where(p => made.Ordered.Contains(p.Id)).ToList();
        var openParts = made.Parts.Where(p => !made.Ordered.Contains(p.Id)).ToList();
        var cannot = kept.Select(o => $"“{o.Name}” has been begun and stays.")
            .Concat(keptParts.Select(p => $"“{p.Name}” has been ordered and stays."))
            .ToList();
        var option = sum.Option;
        var stays = kept.Count > 0 || keptParts.Count > 0;
        var inPlace =
            option.Verdict != Verdict.Leave && option.Hours > 0 && StageOf(option.Trade) == Stage.Metal
                ? allowance
                : null;
        var back = allowance is { Taken: true } && inPlace is null && !stays ? allowance : null;
        // Where its work stands in the place of the template's, it turns into that again.
        var own = open.Where(o => o.Id != back?.Operation.Id).ToList();
        WorkForVerdict? work = null;
        if (option.Verdict != Verdict.Leave && option.Hours > 0)
        {
            work = Work(
                finding,
                place,
                option,
                sequence.Where(o => own.All(x => x.Id != o.Id)).ToList(),
                own.FirstOrDefault()?.Id ?? newId()
            );
            work = inPlace is null ? work : InPlaceOf(inPlace, work, sequence);
        }

        var parts = PartsOf(finding, place, sum, openParts, newId).ToList();
        var now =
            option.Verdict == Verdict.Leave
                ? Nothing
                : new EstimateTotals(
                    sum.Labour,
                    Marked(sum.Part, markups) + Marked(sum.Freight, markups),
                    0,
                    Cents.Round(sum.Material * (1 + markups.MaterialsMarkup / 100)) + markups.Consumables(sum.Labour)
                );
        // What was begun stays in the estimate too: only the share that nobody has begun is taken back.
        var before = stays ? Nothing : inEstimate ?? Nothing;
        var taken = inPlace is { Taken: false } ? inPlace.Minutes : -(back?.Minutes ?? 0);
        var allowed =
            taken == 0
                ? 0
                : Cents.Round(taken * markups.Rates.GetValueOrDefault(allowance!.Operation.Trade ?? Trade.Hand) / 60);
        return new(
            work,
            parts,
            new(
                now.Labour - before.Labour - allowed,
                now.Parts - before.Parts,
                now.Outside - before.Outside,
                now.Materials - before.Materials - markups.Consumables(allowed)
            ),
            now,
            own.Where(o => o.Id != work?.Id).Select(o => o.Id).ToList(),
            openParts.Where(p => parts.All(x => x.Id != p.Id)).Select(p => p.Id).ToList(),
            cannot
        )
        {
            AddsMinutes = (work?.BudgetMinutes ?? 0) - (stays ? 0 : open.Sum(o => o.BudgetMinutes)) - taken,
            Replaces = inPlace is { Taken: false }
                ? new(
                    inPlace.Operation.Id,
                    inPlace.Operation.Name,
                    inPlace.Minutes,
                    inPlace.Operation.BudgetMinutes - inPlace.Minutes
                )
                : null,
            PutsBack = back is null
                ? null
                : new(
                    back.Operation.Id,
                    back.Operation.Terms.Replaced.Find(r => r.Finding == finding.Id)?.Name ?? back.Operation.Name,
                    back.Minutes,
                    (back.Whole ? 0 : back.Operation.BudgetMinutes) + back.Minutes
                ),
        };
    }

    /// <summary>Where the template allowed for it, in its place: the same links, side, coat and hold.</summary>
    private static WorkForVerdict InPlaceOf(Allowance allowance, WorkForVerdict work, IReadOnlyList<Operation> sequence)
    {
        var o = allowance.Operation;
        return work with
        {
            Id = allowance is { Whole: true, Taken: false } ? o.Id : work.Id,
            After = [.. o.After],
            Before = allowance.Whole
                ? []
                : [.. sequence.Where(x => !x.IsDone && x.After.Any(a => a.Operation == o.Id)).Select(x => x.Id)],
            Station = o.Station,
            Coat = work.Panels.Count > 0 ? o.Coat : null,
            Held = work.Panels.Count > 0 ? o.Held : null,
            ClosedUntil = o.Terms.ClosedUntil,
            OneAtATime = o.Terms.OneAtATime,
        };
    }

    private static decimal Marked(decimal cost, VerdictMarkups m) =>
        cost == 0 ? 0 : Cents.Round(cost * (1 + PartTier.PercentFor(cost, m.PartTiers) / 100));

    private static WorkForVerdict Work(
        Finding finding,
        SurveyPlace place,
        FindingOption option,
        IReadOnlyList<Operation> sequence,
        Guid id
    )
    {
        var stage = StageOf(option.Trade);
        var gates = finding.Structural
            ? sequence.Where(o => o.Gate is GateKind.ShellSupport or GateKind.Datum).ToList()
            : [];
        var stripped = sequence
            .Where(o => o.Kind == OperationKind.Work && o.Stage is Stage.Strip)
            .MaxBy(o => o.Position);
        var after =
            gates.Count > 0 ? gates
            : stripped is null ? []
            : [stripped];
        var from = after.Count == 0 ? int.MinValue : after.Max(o => o.Position);
        // New metal is judged at the fit-up; other work before the next stage begins.
        var fitUp = stage == Stage.Metal ? sequence.FirstOrDefault(o => o.Gate == GateKind.FitUp && !o.IsDone) : null;
        var dryBuild = fitUp is null
            ? null
            : sequence
                .Where(o => fitUp.After.Any(a => a.Operation == o.Id) && !o.IsDone && o.Position > from)
                .MinBy(o => o.Position);
        var next = dryBuild
            ?? fitUp
            ?? sequence.Where(o => !o.IsDone && o.Position > from && o.Stage > stage).MinBy(o => o.Position);
        var minutes = Math.Max(15, (int)(Math.Round(option.Hours * 4, MidpointRounding.AwayFromZero) * 15));
        return new(
            id,
            $"{place.Name}: {option.Verdict.ToString().ToLowerInvariant()}, finding {finding.Number}",
            stage,
            option.Trade,
            minutes,
            StationOf(option.Trade, finding.Structural),
            place.Group == PlaceGroup.Outside ? [place.Key] : [],
            stage == Stage.Metal && option.Trade == Trade.Metal ? Hazard.Welding
                : finding.Kind == FindingKind.LeadedSeam ? Hazard.Lead
                : null,
            [.. after.Select(o => new OperationLink(o.Id, 0))],
            next is null ? [] : [next.Id]
        );
    }

    private static IEnumerable<PartForVerdict> PartsOf(
        Finding finding,
        SurveyPlace place,
        OptionSum sum,
        IReadOnlyList<(Guid Id, string Name)> open,
        Func<Guid> newId
    )
    {
        if (sum.Option.Verdict == Verdict.Leave || sum.Part == 0)
        {
            yield break;
        }

        yield return new(
            open.Count > 0 ? open[0].Id : newId(),
            $"{place.Name}, new section (finding {finding.Number})",
            sum.Part
        );
        if (sum.Freight > 0)
        {
            yield return new(
                open.Count > 1 ? open[1].Id : newId(),
                $"Freight for {place.Name} (finding {finding.Number})",
                sum.Freight
            );
        }
    }

    private static Stage StageOf(Trade trade) =>
        trade switch
        {
            Trade.Body or Trade.Paint => Stage.Fill,
            Trade.Mechanic or Trade.Electric => Stage.Driveline,
            Trade.Trim => Stage.Trim,
            Trade.Strip => Stage.Strip,
            _ => Stage.Metal,
        };

    private static StationKind? StationOf(Trade trade, bool structural) =>
        trade switch
        {
            Trade.Metal => structural ? StationKind.Jig : StationKind.Bay,
            Trade.Body or Trade.Paint => StationKind.Prep,
            Trade.Wood => StationKind.Bench,
            Trade.Mechanic => StationKind.Lift,
            _ => null,
        };
}

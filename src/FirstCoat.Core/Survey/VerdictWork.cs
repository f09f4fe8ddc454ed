using FirstCoat.Core.Builds;
using FirstCoat.Core.Money;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;

namespace FirstCoat.Core.Survey;

/// <summary>An operation that a verdict asks for.</summary>
/// <param name="After">What must be done first.</param>
/// <param name="Before">What waits for it; null: nothing is left that could.</param>
public sealed record WorkForVerdict(Guid Id, string Name, Stage Stage, Trade Trade, int BudgetMinutes, StationKind? Station, IReadOnlyList<string> Panels, Hazard? Hazard, IReadOnlyList<Guid> After, Guid? Before);

/// <summary>A part line that a verdict asks for.</summary>
public sealed record PartForVerdict(Guid Id, string Name, decimal UnitCost);

/// <summary>What a build has of a finding's earlier verdict.</summary>
/// <param name="Started">Operations on which hours are booked or that are done.</param>
/// <param name="Ordered">Parts that are more than needed.</param>
public sealed record VerdictMade(IReadOnlyList<Operation> Operations, IReadOnlySet<Guid> Started, IReadOnlyList<(Guid Id, string Name)> Parts, IReadOnlySet<Guid> Ordered);

/// <summary>Mark-ups under which a verdict reaches the estimate.</summary>
public sealed record VerdictMarkups(IReadOnlyList<PartTier> PartTiers, decimal MaterialsMarkup);

/// <summary>What applying a finding's verdict does to sequence, parts and estimate; it can be shown before it is done.</summary>
/// <param name="Adds">To the estimate, net; what an earlier verdict had put there and nobody has begun is taken off first.</param>
/// <param name="CannotUndo">What stays of an earlier verdict, in words.</param>
public sealed record VerdictWork(
    WorkForVerdict? Operation, IReadOnlyList<PartForVerdict> Parts, EstimateTotals Adds, EstimateTotals InEstimate, IReadOnlyList<Guid> RemoveOperations, IReadOnlyList<Guid> RemoveParts, IReadOnlyList<string> CannotUndo)
{
    private static readonly EstimateTotals Nothing = new(0, 0, 0, 0);

    /// <summary>Reckons what the chosen verdict asks for.</summary>
    /// <param name="place">The finding's place.</param>
    /// <param name="sum">The chosen way with its sum.</param>
    /// <param name="sequence">The build's operations that are in its sequence.</param>
    /// <param name="made">What an earlier verdict of this finding became.</param>
    /// <param name="inEstimate">What this finding put into the estimate before.</param>
    /// <param name="newId">Makes ids.</param>
    public static VerdictWork Of(Finding finding, SurveyPlace place, OptionSum sum, IReadOnlyList<Operation> sequence, VerdictMade made, VerdictMarkups markups, EstimateTotals? inEstimate, Func<Guid> newId)
    {
        var kept = made.Operations.Where(o => made.Started.Contains(o.Id)).ToList();
        var open = made.Operations.Where(o => !made.Started.Contains(o.Id)).ToList();
        var keptParts = made.Parts.Where(p => made.Ordered.Contains(p.Id)).ToList();
        var openParts = made.Parts.Where(p => !made.Ordered.Contains(p.Id)).ToList();
        var cannot = kept.Select(o => $"“{o.Name}” has been begun and stays.").Concat(keptParts.Select(p => $"“{p.Name}” has been ordered and stays.")).ToList();
        var option = sum.Option;
        WorkForVerdict? work = null;
        if (option.Verdict != Verdict.Leave && option.Hours > 0)
        {
            work = Work(finding, place, option, sequence.Where(o => open.All(x => x.Id != o.Id)).ToList(), open.FirstOrDefault()?.Id ?? newId());
        }

        var parts = PartsOf(finding, place, sum, openParts, newId).ToList();
        var now = option.Verdict == Verdict.Leave ? Nothing : new EstimateTotals(sum.Labour, Marked(sum.Part, markups) + Marked(sum.Freight, markups), 0, Cents.Round(sum.Material * (1 + markups.MaterialsMarkup / 100)));
        // What was begun stays in the estimate too: only the share that nobody has begun is taken back.
        var before = kept.Count > 0 || keptParts.Count > 0 ? Nothing : inEstimate ?? Nothing;
        return new(
            work, parts, new(now.Labour - before.Labour, now.Parts - before.Parts, now.Outside - before.Outside, now.Materials - before.Materials), now,
            open.Where(o => o.Id != work?.Id).Select(o => o.Id).ToList(), openParts.Where(p => parts.All(x => x.Id != p.Id)).Select(p => p.Id).ToList(), cannot);
    }

    private static decimal Marked(decimal cost, VerdictMarkups m) => cost == 0 ? 0 : Cents.Round(cost * (1 + PartTier.PercentFor(cost, m.PartTiers) / 100));

    private static WorkForVerdict Work(Finding finding, SurveyPlace place, FindingOption option, IReadOnlyList<Operation> sequence, Guid id)
    {
        var stage = StageOf(option.Trade);
        var gates = finding.Structural ? sequence.Where(o => o.Gate is GateKind.ShellSupport or GateKind.Datum).ToList() : [];
        var stripped = sequence.Where(o => o.Kind == OperationKind.Work && o.Stage is Stage.Strip).MaxBy(o => o.Position);
        var after = gates.Count > 0 ? gates : stripped is null ? [] : [stripped];
        var from = after.Count == 0 ? int.MinValue : after.Max(o => o.Position);
        // New metal is judged at the fit-up; other work before the next stage begins.
        var fitUp = stage == Stage.Metal ? sequence.FirstOrDefault(o => o.Gate == GateKind.FitUp && !o.IsDone) : null;
        var dryBuild = fitUp is null ? null : sequence.Where(o => fitUp.After.Any(a => a.Operation == o.Id) && !o.IsDone && o.Position > from).MinBy(o => o.Position);
        var next = dryBuild ?? fitUp ?? sequence.Where(o => !o.IsDone && o.Position > from && o.Stage > stage).MinBy(o => o.Position);
        var minutes = Math.Max(15, (int)(Math.Round(option.Hours * 4, MidpointRounding.AwayFromZero) * 15));
        return new(
            id, $"{place.Name}: {option.Verdict.ToString().ToLowerInvariant()}, finding {finding.Number}", stage, option.Trade, minutes, StationOf(option.Trade, finding.Structural),
            place.Group == PlaceGroup.Outside ? [place.Key] : [], stage == Stage.Metal && option.Trade == Trade.Metal ? Hazard.Welding : finding.Kind == FindingKind.LeadedSeam ? Hazard.Lead : null,
            after.Select(o => o.Id).ToList(), next?.Id);
    }

    private static IEnumerable<PartForVerdict> PartsOf(Finding finding, SurveyPlace place, OptionSum sum, IReadOnlyList<(Guid Id, string Name)> open, Func<Guid> newId)
    {
        if (sum.Option.Verdict == Verdict.Leave || sum.Part == 0)
        {
            yield break;
        }

        yield return new(open.Count > 0 ? open[0].Id : newId(), $"{place.Name}, new section (finding {finding.Number})", sum.Part);
        if (sum.Freight > 0)
        {
            yield return new(open.Count > 1 ? open[1].Id : newId(), $"Freight for {place.Name} (finding {finding.Number})", sum.Freight);
        }
    }

    private static Stage StageOf(Trade trade) => trade switch
    {
        Trade.Body or Trade.Paint => Stage.Fill,
        Trade.Mechanic or Trade.Electric => Stage.Driveline,
        Trade.Trim => Stage.Trim,
        Trade.Strip => Stage.Strip,
        _ => Stage.Metal,
    };

    private static StationKind? StationOf(Trade trade, bool structural) => trade switch
    {
        Trade.Metal => structural ? StationKind.Jig : StationKind.Bay,
        Trade.Body or Trade.Paint => StationKind.Prep,
        Trade.Wood => StationKind.Bench,
        Trade.Mechanic => StationKind.Lift,
        _ => null,
    };
}

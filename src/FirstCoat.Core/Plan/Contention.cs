namespace FirstCoat.Core.Plan;

/// <summary>
/// Two builds that want the same person or place, where it makes a day or more of a promise who goes first. That is the
/// manager's decision.
/// </summary>
/// <param name="First">The build that goes first as the plan stands, <paramref name="Second"/> the one that
/// waits.</param>
/// <param name="Over">What both want.</param>
/// <param name="FirstLoses">Days by which the first one's finish moves if the other goes first; negative:
/// sooner.</param>
/// <param name="SecondGains">Days by which the second one is sooner then.</param>
/// <param name="Turning">What would turn them round.</param>
public sealed record Contention(
    string First,
    string Second,
    string Operation,
    WaitKind Kind,
    string Over,
    decimal FirstLoses,
    decimal SecondGains,
    Turning Turning
)
{
    /// <summary>Pairs that are looked at most, those that come soonest first.</summary>
    private const int MostPairs = 8;

    /// <summary>Steps in the queue that are tried to turn two builds round.</summary>
    private const int MostSteps = 2;

    /// <summary>Finds them, the one that moves a promise most first.</summary>
    public static IReadOnlyList<Contention> Of(PlanProblem problem, ShopPlan plan, IPlanner planner)
    {
        var promised = problem.Builds.Where(b => b.Due is not null && !b.FillIn).ToDictionary(b => b.Id);
        var pairs = plan
            .Operations.Values.Where(o =>
                o.Reason is { Kind: WaitKind.Person or WaitKind.Station, Ref: not null }
                && plan.Operations.ContainsKey(o.Reason.Ref!)
            )
            .Select(o => (Waits: o, Holds: plan.Operations[o.Reason.Ref!]))
            .Where(x =>
                x.Waits.Build != x.Holds.Build
                && promised.ContainsKey(x.Waits.Build)
                && promised.ContainsKey(x.Holds.Build)
            )
            .GroupBy(x => (First: x.Holds.Build, Second: x.Waits.Build))
            .Select(g => g.MinBy(x => (x.Waits.Start, x.Waits.Id)))
            .OrderBy(x => (x.Waits.Start, x.Waits.Id))
            .Take(MostPairs);
        return
        [
            .. pairs
                .Select(x =>
                    Turned(problem, plan, planner, promised[x.Holds.Build], promised[x.Waits.Build], x.Holds, x.Waits)
                )
                .OfType<Contention>()
                .OrderByDescending(c => Math.Max(c.FirstLoses, c.SecondGains))
                .ThenBy(c => c.Operation, StringComparer.Ordinal),
        ];
    }

    private static Contention? Turned(
        PlanProblem problem,
        ShopPlan plan,
        IPlanner planner,
        PlanBuild first,
        PlanBuild second,
        PlannedOperation holds,
        PlannedOperation waits
    )
    {
        var ways =
            problem.Turns.Count > 0
                ? [Ahead(problem, second, holds.Id)]
                : Enumerable.Range(0, MostSteps).Select(step => new Turning(Ranked(first, second, step), null));
        foreach (var way in ways)
        {
            var other = planner.Plan(way.Apply(problem));
            if (!other.Operations.TryGetValue(waits.Id, out var now) || now.Start >= waits.Start)
            {
                continue;
            }

            var (loses, gains) = (
                InDays.Of(other.Builds[first.Id].Finish - plan.Builds[first.Id].Finish),
                InDays.Of(plan.Builds[second.Id].Finish - other.Builds[second.Id].Finish)
            );
            // Where turning round helps neither there is nothing to decide.
            return gains > 0 && (Math.Abs(loses) >= 1 || gains >= 1)
                ? new(
                    first.Id,
                    second.Id,
                    waits.Id,
                    waits.Reason.Kind,
                    waits.Reason.Text,
                    loses,
                    gains,
                    way with
                    {
                        LateBefore = plan.WeightedDaysLate,
                        LateAfter = other.WeightedDaysLate,
                    }
                )
                : null;
        }

        return null;
    }

    /// <summary>The second takes the first's place where that lies before its own, and each step moves it one place
    /// further ahead.</summary>
    private static Dictionary<string, int> Ranked(PlanBuild first, PlanBuild second, int step)
    {
        var (ahead, behind) = (Math.Min(first.Rank, second.Rank), Math.Max(first.Rank, second.Rank));
        return new() { [second.Id] = ahead, [first.Id] = Math.Max(behind, ahead + 1) + step };
    }

    /// <summary>In an order that was accepted, what waits and all of its build that has its turn later comes before
    /// what it waits for.</summary>
    private static Turning Ahead(PlanProblem problem, PlanBuild second, string holds)
    {
        var turns = problem.Turns.ToDictionary();
        if (turns.TryGetValue(holds, out var from))
        {
            var later = second
                .Operations.Where(o => turns.TryGetValue(o.Id, out var t) && t > from)
                .OrderBy(o => turns[o.Id])
                .Select(o => o.Id)
                .ToList();
            for (var i = 0; i < later.Count; i++)
            {
                // Turns lie a place or a part of one apart; before one there is room for any number.
                turns[later[i]] = from - (later.Count - i) * 1e-6;
            }
        }

        return new(new Dictionary<string, int>(), turns);
    }
}

/// <summary>How two builds are turned round.</summary>
/// <param name="Ranks">Places in the queue, by build; empty where an accepted order is in force, which goes before the
/// queue.</param>
/// <param name="Turns">That order with the two turned round; null: none is in force.</param>
public sealed record Turning(IReadOnlyDictionary<string, int> Ranks, IReadOnlyDictionary<string, double>? Turns)
{
    /// <summary>Weight x days late as it stands, and turned round.</summary>
    public double LateBefore { get; init; }

    public double LateAfter { get; init; }

    /// <summary>The problem with the two turned round.</summary>
    public PlanProblem Apply(PlanProblem problem) =>
        problem with
        {
            Builds = [.. problem.Builds.Select(b => Ranks.TryGetValue(b.Id, out var r) ? b with { Rank = r } : b)],
            Turns = Turns ?? problem.Turns,
        };
}

/// <summary>Who goes first of two builds, as a manager said it.</summary>
public sealed class SettledContention : Recorded
{
    /// <summary>Days for which it is not asked again.</summary>
    public const int Holds = 30;

    public required Guid First { get; init; }
    public required Guid Second { get; init; }

    /// <summary>Whether the one that waited was put first.</summary>
    public required bool Turned { get; init; }

    public required string By { get; init; }
}

using FirstCoat.Core.Plan.Engine;

namespace FirstCoat.Core.Plan;

/// <summary>How far a search has come.</summary>
/// <param name="WeightedDaysLate">Of the best plan so far.</param>
public sealed record ImprovementProgress(double Share, double WeightedDaysLate);

/// <summary>A better order of who goes first, with the plan that it gives.</summary>
/// <param name="LeastWeightedDaysLate">No plan can do better than this.</param>
public sealed record Improvement(ShopPlan Plan, double LeastWeightedDaysLate);

/// <summary>Looks for a better order by rules and by search, over the same decoder as the plan itself.</summary>
public static class PlanImprovement
{
    /// <summary>Searches for so many seconds, or until nothing better can exist. Never worse than the plan as it
    /// stands.</summary>
    /// <param name="stop">Ends the search; what was found until then is given back.</param>
    /// <param name="told">Told whenever something better is found, from any thread.</param>
    public static Improvement Search(
        PlanProblem problem,
        double seconds,
        int threads = 2,
        int seed = 1,
        Action<ImprovementProgress>? told = null,
        CancellationToken stop = default
    )
    {
        var run = new PlanRun(problem);
        var model = run.Shop.Model;
        var decoder = new Decoder(model);
        decoder.Decode(run.Order);
        var (order, schedule) = (run.Order, decoder.Schedule());
        // A deadline that the plan as it stands keeps is not given away for a build that is less late.
        model.Keep = run.Shop.FinishBy is { } by
            ? [.. by.Select((b, o) => schedule.Finish[o] <= b ? b : Link.NoLimit)]
            : null;
        if (seconds > 0 && Rules.Best(model, seed) is { } rules && rules.Schedule.BetterThan(schedule))
        {
            (order, schedule) = rules;
        }

        var watch = System.Diagnostics.Stopwatch.StartNew();
        var improver = new Improver(
            model,
            order,
            schedule,
            new(seconds, threads, seed)
            {
                Stop = stop,
                Found = s => told?.Invoke(new(Math.Min(1, watch.Elapsed.TotalSeconds / seconds), Days(s.Weighted))),
            }
        );
        var found = improver.Run();

        // What is offered is what its turns give again, so that it is the same plan tomorrow.
        var plan = run.Settle(
            [run.Order, order, improver.BestOrder, new Lists(model).ByStart(found.Start)],
            found.Start
        );
        var bound = LowerBound.Of(model);
        return new(run.Plan() with { Turns = run.Turns() }, Days(Math.Min(bound.Weighted, plan.Weighted)));
    }

    /// <summary>
    /// The order of some builds as it was found, that of all the others as it is: both are merged by when their work
    /// starts, and everything is placed again.
    /// </summary>
    /// <param name="builds">Whose order is taken.</param>
    public static ShopPlan For(PlanProblem problem, ShopPlan found, IReadOnlySet<string> builds)
    {
        var run = new PlanRun(problem);
        var (now, asIs) = (run.Plan(), run.Turns());
        bool Taken(string operation) =>
            builds.Contains((found.Operations.GetValueOrDefault(operation) ?? now.Operations[operation]).Build);
        var taken = InOrder(found.Turns, found, id => Taken(id));
        var kept = InOrder(asIs, now, id => !Taken(id));
        var turns = Merged(taken, kept).Select((id, i) => (id, i)).ToDictionary(x => x.id, x => (double)x.i);
        return new PlanRun(problem with { Turns = turns }).Plan() with { Turns = turns };
    }

    /// <summary>Operations in their turn, each with the latest start of those up to it.</summary>
    private static List<(string Id, long Start)> InOrder(
        IReadOnlyDictionary<string, double> turns,
        ShopPlan plan,
        Func<string, bool> which
    )
    {
        var order = new List<(string, long)>();
        var latest = long.MinValue;
        foreach (
            var id in turns
                .Where(t => plan.Operations.ContainsKey(t.Key))
                .OrderBy(t => t.Value)
                .Select(t => t.Key)
                .Where(which)
        )
        {
            latest = Math.Max(latest, plan.Operations[id].Start);
            order.Add((id, latest));
        }

        return order;
    }

    private static IEnumerable<string> Merged(List<(string Id, long Start)> taken, List<(string Id, long Start)> kept)
    {
        var (a, b) = (0, 0);
        while (a < taken.Count || b < kept.Count)
        {
            yield return b == kept.Count || (a < taken.Count && taken[a].Start <= kept[b].Start)
                ? taken[a++].Id
                : kept[b++].Id;
        }
    }

    private static double Days(long weighted) => weighted / 1440.0;
}

/// <summary>From when to when a build's finish moves from one plan to another, on the axis of minutes.</summary>
public sealed record BuildMove(string Build, long Before, long After, decimal LateBefore, decimal LateAfter)
{
    /// <summary>Days on the clock; negative: sooner.</summary>
    public decimal Days => InDays.Of(After - Before);
}

/// <summary>One plan beside another.</summary>
/// <param name="Moves">Builds whose finish moves, most first.</param>
public sealed record PlanComparison(double WeightedBefore, double WeightedAfter, IReadOnlyList<BuildMove> Moves)
{
    /// <summary>Days by which the builds together are done sooner; negative: later.</summary>
    public decimal DaysSooner => -Moves.Sum(m => m.Days);

    /// <summary>Less late as it is spoken, to a tenth of a day; or no later, and done sooner.</summary>
    public bool IsBetter =>
        InDays.Of(WeightedAfter) is var after
        && InDays.Of(WeightedBefore) is var before
        && (after < before || (after == before && DaysSooner > 0));

    /// <summary>Compares builds that are in both.</summary>
    public static PlanComparison Of(ShopPlan before, ShopPlan after) =>
        new(
            before.WeightedDaysLate,
            after.WeightedDaysLate,
            before
                .Builds.Values.Where(b => after.Builds.ContainsKey(b.Id))
                .Select(b => (Was: b, Is: after.Builds[b.Id]))
                .Where(x => x.Was.Finish != x.Is.Finish)
                .Select(x => new BuildMove(
                    x.Was.Id,
                    x.Was.Finish,
                    x.Is.Finish,
                    InDays.Of(x.Was.Late),
                    InDays.Of(x.Is.Late)
                ))
                .OrderByDescending(m => Math.Abs(m.Days))
                .ThenBy(m => m.Build, StringComparer.Ordinal)
                .ToList()
        );
}

using FirstCoat.Core.Plan.Engine;
using FirstCoat.Core.Plan.Files;
using FirstCoat.Core.Plan.Plain;

namespace FirstCoat.Optimizer;

/// <summary>Plans plain problems: the immediate schedule, then as much improvement as there is time for.</summary>
public static class PlainPlanner
{
    /// <summary>Plans a problem that <see cref="PlainReader"/> has let pass.</summary>
    /// <param name="seconds">Of improvement; 0: the immediate schedule.</param>
    /// <param name="seed">The same seed and 0 s give the same plan; with more time the clock has a part in it.</param>
    /// <param name="threads">From 1 on.</param>
    /// <exception cref="PlanFileFault">No schedule can keep everything; says what contradicts what.</exception>
    public static PlainAnswer Plan(
        PlainProblem problem,
        double seconds,
        int seed = 1,
        int threads = 2,
        CancellationToken stop = default
    )
    {
        var plain = new PlainModel(problem);
        var cannot = Inside.Settle(plain.Model, c => Alone(plain.Model, c));
        if (cannot.Count > 0)
        {
            throw new PlanFileFault(
                "",
                Contradiction.Say(problem, plain.Model.Clusters[cannot[0]].Operations.Select(plain.NameOf).ToHashSet())
            );
        }

        var (order, schedule) = Rules.Best(plain.Model, seed)
            ?? throw new PlanFileFault(
                "",
                "these constraints contradict each other; no order of the operations keeps them"
            );
        var improver = new Improver(
            plain.Model,
            order,
            schedule,
            new(seconds, Math.Max(1, threads), seed) { Solver = new PartSolver(), Stop = stop }
        );
        var best = improver.Run();
        var bound = LowerBound.Of(plain.Model);
        var weighted = Math.Min(best.Weighted, Math.Max(bound.Weighted, improver.LeastWeighted));
        return plain.Answer(
            best,
            new(
                weighted,
                Math.Min(
                    best.Makespan,
                    Math.Max(bound.Makespan, improver.LeastWeighted == best.Weighted ? improver.LeastMakespan : 0)
                )
            )
        );
    }

    /// <summary>Starts of one cluster's operations with nothing else in the shop.</summary>
    internal static Dictionary<int, int>? Alone(Model model, int cluster)
    {
        var free = new bool[model.Count];
        foreach (var o in model.Clusters[cluster].Operations)
        {
            free[o] = true;
        }

        var nothing = new Schedule(new int[model.Count], new int[model.Count], new Taken[model.CrewAt[^1]], 0, 0);
        return new SolverModel(
            model,
            nothing,
            free,
            null,
            open: false,
            Horizon(model, model.Clusters[cluster].Operations)
        )
            .Solve(10, 1)
            .Solved?.Start;
    }

    /// <summary>By when all could be done one after the other.</summary>
    private static int Horizon(Model model, int[] operations) =>
        (int)
            Math.Min(
                int.MaxValue / 8,
                operations.Max(o => (long)model.Release[o])
                    + operations.Sum(o => model.Work[o] + model.After[o].Sum(l => (long)Math.Max(0, l.Lag)))
            );
}

using System.Diagnostics;
using System.Text.Json;
using FirstCoat.Core.Plan.Engine;
using FirstCoat.Core.Plan.Plain;
using FirstCoat.Optimizer;

namespace FirstCoat.Bench;

/// <summary>Measures how far a run gets from the best of fifty priority rules (0) to the best known (1).</summary>
internal static class PlainRuns
{
    public static void Run(BenchOptions options) => Measure(options, problem =>
        {
            var answer = PlainPlanner.Plan(problem, options.Seconds, options.Seed, options.Threads);
            var breaches = PlainCheck.Breaches(problem, answer);
            return breaches.Count > 0
                ? throw new InvalidOperationException($"{problem.Name}: {breaches[0]}")
                : answer.Objective;
        });

    /// <summary>The solver alone, the whole problem at once, from the immediate schedule.</summary>
    public static void Reference(BenchOptions options) => Measure(options, problem =>
        {
            var model = new PlainModel(problem).Model;
            var best = Rules.Best(model)!.Value.Schedule;
            new PartSolver().Bound(
                model,
                () => best,
                (found, _, _) => best = found?.BetterThan(best) == true ? found : best,
                TimeSpan.FromSeconds(options.Seconds),
                CancellationToken.None
            );
            return new(best.Weighted, best.Makespan);
        });

    private static void Measure(BenchOptions options, Func<PlainProblem, PlainObjective> run)
    {
        var known = File.Exists(options.Known)
            ? JsonSerializer.Deserialize<SortedDictionary<string, PlainObjective>>(
                File.ReadAllText(options.Known),
                PlainProblems.Json
            )!
            : [];
        foreach (var set in options.Sets)
        {
            var shares = new List<double>();
            var atOnce = new List<double>();
            foreach (var problem in PlainProblems.Of(set, options.Count))
            {
                var model = new PlainModel(problem).Model;
                var fifty = Rules.Fifty(model).Min(s => s.Value);
                var rules = Rules.Best(model)!.Value.Schedule;
                var watch = Stopwatch.StartNew();
                var got = run(problem);
                var best = known.GetValueOrDefault(problem.Name);
                if (best is null || Compare(got, best) < 0)
                {
                    known[problem.Name] = best = got;
                    File.WriteAllText(options.Known, JsonSerializer.Serialize(known, PlainProblems.Json) + "\n");
                }

                var zero = new PlainObjective(fifty.Item1, fifty.Item2);
                shares.Add(Share(zero, got, best));
                atOnce.Add(Share(zero, new(rules.Weighted, rules.Makespan), best));
                Console.WriteLine(
                    $"{problem.Name, -14} fifty rules {Say(zero)}  at once {Say(new(rules.Weighted, rules.Makespan))}  after {watch.Elapsed.TotalSeconds:0.0} s {Say(got)}  known {Say(best)}  share {shares[^1]:0.000}"
                );
            }

            Console.WriteLine(
                $"{set}: at once {atOnce.Average():0.0%}, after {options.Seconds} s {shares.Average():0.0%}, mean of {shares.Count}"
            );
        }
    }

    private static string Say(PlainObjective o) => $"{o.WeightedLateness}/{o.Makespan}";

    private static int Compare(PlainObjective a, PlainObjective b) =>
        (a.WeightedLateness, a.Makespan).CompareTo((b.WeightedLateness, b.Makespan));

    /// <summary>By lateness; where nothing is late any more, by the latest end.</summary>
    private static double Share(PlainObjective zero, PlainObjective got, PlainObjective best)
    {
        if (zero.WeightedLateness != best.WeightedLateness)
        {
            return (zero.WeightedLateness - got.WeightedLateness)
                / (double)(zero.WeightedLateness - best.WeightedLateness);
        }

        return zero.Makespan == best.Makespan
            ? 1
            : (zero.Makespan - got.Makespan) / (double)(zero.Makespan - best.Makespan);
    }
}

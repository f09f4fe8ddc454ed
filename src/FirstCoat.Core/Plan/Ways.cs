using FirstCoat.Core.Builds;
using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Plan;

/// <summary>What a build would be if it ran in some way, among all others.</summary>
/// <param name="Operations">Its sequence then.</param>
/// <param name="Problem">The shop's, with it.</param>
/// <param name="Refused">Why it cannot run so; null: it can.</param>
public sealed record WayPlan(IReadOnlyList<Operation> Operations, PlanProblem Problem, ShopPlan Plan, string? Refused)
{
    /// <summary>Likely minutes of all its work.</summary>
    public int Minutes => Operations.Sum(o => o.BudgetMinutes);

    /// <summary>Its planned finish, on the axis of minutes; null: some of its work has no date.</summary>
    public long? Finish(Guid build) =>
        Plan.Builds.GetValueOrDefault(build.ToString()) is { Partly: false } b ? b.Finish : null;
}

/// <summary>Plans the whole shop with one build run in different ways.</summary>
/// <param name="facts">The shop as it is; nothing of it is changed.</param>
/// <param name="build">The one that is asked about; it need not be in the shop yet.</param>
/// <param name="run">Its sequence in a way, made anew at each call.</param>
public sealed class Ways(
    PlanFacts facts,
    Build build,
    Func<Way, IReadOnlyList<Operation>> run,
    IPlanner planner,
    int threads
)
{
    /// <summary>One way.</summary>
    public WayPlan Of(Way way)
    {
        IReadOnlyList<Operation> operations;
        string? refused = null;
        try
        {
            operations = run(way);
        }
        catch (Refusal why)
        {
            (operations, refused) = ([], why.Message);
        }

        var problem = With(operations).Problem();
        return new(operations, problem, planner.Plan(problem), refused);
    }

    /// <summary>Several ways; the same way is planned once.</summary>
    public IReadOnlyDictionary<Way, WayPlan> Of(IEnumerable<Way> ways)
    {
        var distinct = ways.Distinct().ToArray();
        var plans = new WayPlan[distinct.Length];
        Parallel.For(0, plans.Length, new ParallelOptions { MaxDegreeOfParallelism = threads }, i =>
            plans[i] = Of(distinct[i])
        );
        return distinct.Zip(plans).ToDictionary(p => p.First, p => p.Second);
    }

    /// <summary>The shop with the build's operations in the place of those that it has.</summary>
    private PlanFacts With(IReadOnlyList<Operation> operations) =>
        facts with
        {
            Builds = facts.Builds.Any(b => b.Id == build.Id) ? facts.Builds : [.. facts.Builds, build],
            Paused = [.. facts.Paused.Where(b => b.Id != build.Id)],
            Operations =
            [
                .. facts.Operations.Where(o => o.BuildId != build.Id),
                .. operations.Where(o => !o.Removed).OrderBy(o => o.Position),
            ],
            // What its work comes to follows from its hours, not from those that it had.
            Covers = facts.Covers.ToDictionary(
                c => c.Key,
                c => c.Key == build.Id ? c.Value with { Ahead = null } : c.Value
            ),
        };
}

namespace FirstCoat.Core.Plan;

/// <summary>When a build's money must be topped up so that its work goes on.</summary>
/// <param name="By">When the first work that waits for money could begin, on the axis of minutes.</param>
/// <param name="Amount">What all of its work costs beyond what is covered now.</param>
public sealed record CoverNeed(string Build, long By, decimal Amount)
{
    /// <summary>The needs of all builds whose work waits for money in a plan of the problem.</summary>
    public static IEnumerable<CoverNeed> Of(PlanProblem problem, ShopPlan plan, IPlanner planner)
    {
        var covered = problem.Builds.Where(b => b.Covered is not null).Select(b => b.Id).ToHashSet();
        var waits = plan
            .Operations.Values.Where(o => covered.Contains(o.Build) && o.Reason.Kind == WaitKind.Deposit)
            .Select(o => (o.Build, o.Id))
            .Concat(
                plan.Unplanned.Where(u => u.Reason.Kind == WaitKind.Deposit).Select(u => (u.Build, Id: u.Operation))
            )
            .ToLookup(w => w.Build, w => w.Id);
        foreach (var build in problem.Builds.Where(b => b.Covered is not null && waits.Contains(b.Id)))
        {
            // As it would be if money were no question.
            var free = planner.Plan(
                problem with
                {
                    Builds = [.. problem.Builds.Select(b => b.Id == build.Id ? b with { Covered = null } : b)],
                }
            );
            var starts = waits[build.Id]
                .Where(free.Operations.ContainsKey)
                .Select(id => free.Operations[id].Start)
                .ToList();
            if (starts.Count > 0)
            {
                var now = build.Covered!.Where(c => c.From <= problem.Now).Select(c => c.InAll).DefaultIfEmpty(0).Max();
                yield return new(build.Id, starts.Min(), Math.Max(0, build.Operations.Sum(o => o.Cost) - now));
            }
        }
    }
}

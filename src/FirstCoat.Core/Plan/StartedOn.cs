namespace FirstCoat.Core.Plan;

/// <summary>What the plan says if an operation starts no sooner than another day.</summary>
/// <param name="Start">When it would start then.</param>
/// <param name="Moves">Builds whose planned finish moves, most first.</param>
/// <param name="Sooner">The day lies before its planned start, and it starts no sooner for it: other things hold it,
/// and nothing moves.</param>
public sealed record StartedOn(long Start, long Finish, IReadOnlyList<BuildMove> Moves, bool Sooner)
{
    /// <summary>Plans the shop as it would be planned with the operation held until then, instead of until any day that
    /// was said before, and compares the planned finishes.</summary>
    /// <returns>Null: the operation has no date in the plan.</returns>
    /// <exception cref="Refusal">The minute lies before now.</exception>
    public static StartedOn? Of(PlanProblem problem, IPlanner planner, string operation, long from)
    {
        Refusal.When(from < problem.Now, "on", "Nothing starts in the past.");
        var now = planner.Plan(problem);
        if (!now.Operations.TryGetValue(operation, out var planned))
        {
            return null;
        }

        PlanOperation Held(PlanOperation o) =>
            o.Id == operation
                ? o with
                {
                    Waits =
                    [
                        .. o.Waits.Where(w => w.Kind != WaitKind.NotBefore),
                        new(WaitKind.NotBefore, from, "held until then"),
                    ],
                }
                : o;
        var then = planner.Plan(
            problem with
            {
                Builds = [.. problem.Builds.Select(b => b with { Operations = [.. b.Operations.Select(Held)] })],
            }
        );
        if (!then.Operations.TryGetValue(operation, out var moved))
        {
            return null;
        }

        return from < planned.Start && moved.Start >= planned.Start
            ? new(planned.Start, planned.Finish, [], true)
            : new(moved.Start, moved.Finish, PlanComparison.Of(now, then).Moves, false);
    }
}

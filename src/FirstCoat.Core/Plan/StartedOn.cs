namespace FirstCoat.Core.Plan;

/// <summary>What the plan says if an operation starts no sooner than another day.</summary>
/// <param name="Start">When it would start then.</param>
/// <param name="Moves">Builds whose planned finish moves, most first.</param>
/// <param name="Sooner">The day lies before its planned start: it cannot start sooner than that, so nothing
/// moves.</param>
public sealed record StartedOn(long Start, long Finish, IReadOnlyList<BuildMove> Moves, bool Sooner)
{
    /// <summary>Plans the shop with the operation held until then and everybody's place in the queue as it is, and
    /// compares the planned finishes: what a new order would bring is no answer to what the day costs.</summary>
    /// <returns>Null: the operation has no date in the plan.</returns>
    /// <exception cref="Refusal">The minute lies before now.</exception>
    public static StartedOn? Of(PlanProblem problem, string operation, long from)
    {
        Refusal.When(from < problem.Now, "on", "Nothing starts in the past.");
        var turns = new PlanRun(problem).Turns();
        var now = new PlanRun(problem with { Turns = turns }).Plan();
        if (!now.Operations.TryGetValue(operation, out var planned))
        {
            return null;
        }

        if (from <= planned.Start)
        {
            return new(planned.Start, planned.Finish, [], from < planned.Start);
        }

        PlanOperation Held(PlanOperation o) =>
            o.Id == operation ? o with { Waits = [.. o.Waits, new(WaitKind.NotBefore, from, "held until then")] } : o;
        var then = new PlanRun(
            problem with
            {
                Builds = [.. problem.Builds.Select(b => b with { Operations = [.. b.Operations.Select(Held)] })],
                Turns = turns,
            }
        ).Plan();
        return then.Operations.TryGetValue(operation, out var moved)
            ? new(moved.Start, moved.Finish, PlanComparison.Of(now, then).Moves, false)
            : null;
    }
}

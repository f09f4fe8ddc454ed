namespace FirstCoat.Core.Plan;

/// <summary>Puts one piece of work before another in the order of who goes first.</summary>
public static class TurnBefore
{
    /// <summary>The order as it is, with an operation moved before another one; what it comes after is moved along
    /// where that has its turn later, and all the rest stays as it is.</summary>
    /// <exception cref="Refusal">One of them is not in the plan, or the other comes before it on the
    /// vehicle.</exception>
    public static Dictionary<string, double> Of(PlanProblem problem, string operation, string other)
    {
        var turns = new PlanRun(problem).Turns();
        var known = problem.Builds.SelectMany(b => b.Operations).ToDictionary(o => o.Id);
        Refusal.When(
            !turns.ContainsKey(operation) || !known.ContainsKey(operation),
            "id",
            "This work has no turn in the plan."
        );
        Refusal.When(
            !turns.ContainsKey(other) || operation == other,
            "other",
            "The other work has no turn in the plan."
        );
        var first = AllBefore(operation, known);
        Refusal.When(
            first.Contains(other),
            "other",
            $"{known.GetValueOrDefault(other)?.Name} comes before this on the vehicle: only its links change that."
        );
        var from = turns[other];
        var ahead = first.Append(operation).Where(o => turns.TryGetValue(o, out var t) && t > from).ToHashSet();
        var order = turns.Where(t => !ahead.Contains(t.Key)).OrderBy(t => t.Value).Select(t => t.Key).ToList();
        order.InsertRange(order.IndexOf(other), ahead.OrderBy(o => turns[o]));
        return order.Select((id, i) => (id, i)).ToDictionary(x => x.id, x => (double)x.i);
    }

    private static HashSet<string> AllBefore(string operation, Dictionary<string, PlanOperation> known)
    {
        var (open, seen) = (new Stack<string>([operation]), new HashSet<string>());
        while (open.TryPop(out var o))
        {
            foreach (var link in known.GetValueOrDefault(o)?.After ?? [])
            {
                if (seen.Add(link.Operation))
                {
                    open.Push(link.Operation);
                }
            }
        }

        return seen;
    }
}

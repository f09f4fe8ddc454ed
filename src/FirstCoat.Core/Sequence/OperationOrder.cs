using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Sequence;

/// <summary>The links between a build's operations.</summary>
public static class OperationOrder
{
    /// <summary>Refuses a link to something that is not there, and a cycle, with the operations in it named.</summary>
    public static void Check(IReadOnlyCollection<Operation> operations)
    {
        var byId = operations.ToDictionary(o => o.Id);
        foreach (var o in operations)
        {
            Refusal.When(
                o.After.Any(a => !byId.ContainsKey(a.Operation)),
                "after",
                $"{o.Name} comes after something that is not in this sequence."
            );
        }

        var cycle = FindCycle(byId);
        Refusal.When(
            cycle.Count > 0,
            "after",
            $"These would wait for each other: {string.Join(" > ", cycle.Select(o => o.Name))}."
        );
    }

    /// <summary>One cycle, its first operation repeated at the end; empty when there is none.</summary>
    public static IReadOnlyList<Operation> FindCycle(IReadOnlyDictionary<Guid, Operation> byId)
    {
        var state = new Dictionary<Guid, int>();
        var path = new List<Operation>();
        foreach (var start in byId.Values.OrderBy(o => o.Position))
        {
            var found = Walk(start);
            if (found is not null)
            {
                return found;
            }
        }

        return [];

        List<Operation>? Walk(Operation o)
        {
            if (state.TryGetValue(o.Id, out var seen))
            {
                return seen == 2 ? null : [.. path.SkipWhile(p => p.Id != o.Id), o];
            }

            state[o.Id] = 1;
            path.Add(o);
            foreach (var link in o.After)
            {
                if (byId.TryGetValue(link.Operation, out var before) && Walk(before) is { } cycle)
                {
                    return cycle;
                }
            }

            path.RemoveAt(path.Count - 1);
            state[o.Id] = 2;
            return null;
        }
    }

    /// <summary>All that follows an operation, directly or through others; not itself.</summary>
    /// <param name="operations">Of the build, those that are in its sequence.</param>
    public static IReadOnlySet<Guid> Behind(Guid operation, IEnumerable<Operation> operations)
    {
        var after = operations.SelectMany(o => o.After.Select(a => (a.Operation, o.Id))).ToLookup(x => x.Operation);
        var (open, behind) = (new Stack<Guid>([operation]), new HashSet<Guid>());
        while (open.TryPop(out var id))
        {
            foreach (var (_, next) in after[id])
            {
                if (behind.Add(next))
                {
                    open.Push(next);
                }
            }
        }

        behind.Remove(operation);
        return behind;
    }

    /// <summary>Gates before an operation, however far, that are not signed.</summary>
    public static IReadOnlyList<Operation> ShutGatesBefore(
        Operation operation,
        IReadOnlyDictionary<Guid, Operation> byId
    )
    {
        var seen = new HashSet<Guid>();
        var open = new Stack<Operation>([operation]);
        var gates = new List<Operation>();
        while (open.TryPop(out var o))
        {
            foreach (
                var before in o
                    .After.Where(a => byId.ContainsKey(a.Operation))
                    .Select(a => byId[a.Operation])
                    .Where(b => seen.Add(b.Id))
            )
            {
                if (before.Kind == OperationKind.Gate && !before.IsDone)
                {
                    gates.Add(before);
                }

                open.Push(before);
            }
        }

        return gates.OrderBy(g => g.Position).ToList();
    }
}

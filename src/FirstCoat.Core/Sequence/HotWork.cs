using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Sequence;

/// <summary>Heat on a panel that is coated burns the coat off, on both of its sides.</summary>
public static class HotWork
{
    /// <summary>Open hot work that comes after a coat on one of its panels, with what it would burn.</summary>
    public static IReadOnlyDictionary<Guid, string> AfterCoats(IReadOnlyCollection<Operation> operations)
    {
        var byId = operations.ToDictionary(o => o.Id);
        var warnings = new Dictionary<Guid, string>();
        foreach (var hot in operations.Where(o => !o.IsDone && o.Kinds.Contains(WorkKind.HotWork)))
        {
            var coat = operations
                .Where(o =>
                    o.Coat is >= Coat.Epoxy and <= Coat.Polished
                    && Meet(o, hot)
                    && (o.IsDone || ComesBefore(o.Id, hot, byId))
                )
                .MaxBy(o => o.Coat);
            if (coat is not null)
            {
                warnings[hot.Id] =
                    $"Hot work after {coat.Name}: it burns the coat, also from behind. Do it before, or plan to coat again.";
            }
        }

        return warnings;
    }

    private static bool Meet(Operation one, Operation other) =>
        one.Panels.Count == 0 || other.Panels.Count == 0 || one.Panels.Intersect(other.Panels).Any();

    private static bool ComesBefore(Guid early, Operation late, IReadOnlyDictionary<Guid, Operation> byId)
    {
        var (open, seen) = (new Stack<Operation>([late]), new HashSet<Guid>());
        while (open.TryPop(out var o))
        {
            foreach (var link in o.After)
            {
                if (link.Operation == early)
                {
                    return true;
                }

                if (seen.Add(link.Operation) && byId.TryGetValue(link.Operation, out var before))
                {
                    open.Push(before);
                }
            }
        }

        return false;
    }
}

namespace FirstCoat.Core.Plan;

/// <summary>A cause for which work has no date, said once for all that waits for it.</summary>
/// <param name="Own">What has no date for this cause itself, in the order in which it was told.</param>
/// <param name="Behind">How many operations only come after one of those.</param>
/// <typeparam name="T">How operations are named.</typeparam>
public sealed record MissingDates<T>(WaitKind Kind, string Text, IReadOnlyList<T> Own, int Behind)
    where T : notnull
{
    public int Total => Own.Count + Behind;
}

/// <summary>Sorts work that has no date by what would have to change.</summary>
public static class MissingDates
{
    /// <summary>What an operation may say of itself although only what it comes after holds it.</summary>
    private static readonly WaitKind[] Borrowed =
    [
        WaitKind.Operation,
        WaitKind.Cure,
        WaitKind.Window,
        WaitKind.Fault,
        WaitKind.Support,
        WaitKind.Nothing,
    ];

    /// <summary>The causes, the one that holds most first. Each operation counts once.</summary>
    /// <param name="without">Operations that have no date, with their reasons.</param>
    /// <param name="after">What an operation comes after.</param>
    public static List<MissingDates<T>> Of<T>(
        IReadOnlyList<(T Id, PlanReason Reason)> without,
        Func<T, IEnumerable<T>> after
    )
        where T : notnull
    {
        var reasons = without.ToDictionary(w => w.Id, w => w.Reason);
        var roots = new Dictionary<T, T>();
        T Root(T id)
        {
            if (roots.TryGetValue(id, out var known))
            {
                return known;
            }

            roots[id] = id; // a circle ends where it was entered
            var held = Borrowed.Contains(reasons[id].Kind) ? after(id).Where(reasons.ContainsKey).ToList() : [];
            return roots[id] = held.Count == 0 ? id : Root(held[0]);
        }

        return
        [
            .. without
                .GroupBy(w => (reasons[Root(w.Id)].Kind, reasons[Root(w.Id)].Text))
                .Select(g =>
                    (
                        Cause: g.Key,
                        Own: g.Where(w => Root(w.Id).Equals(w.Id)).Select(w => w.Id).ToList(),
                        All: g.Count()
                    )
                )
                .Select(g => new MissingDates<T>(g.Cause.Kind, g.Cause.Text, g.Own, g.All - g.Own.Count))
                .OrderByDescending(c => c.Total),
        ];
    }
}

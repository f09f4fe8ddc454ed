using NodaTime;

namespace FirstCoat.Core.Sequence;

/// <summary>A piece of work in a week's plan.</summary>
public sealed record WeekItem(string Id, bool Committed, LocalDate? DoneOn, string? Reason);

/// <summary>How much of what was committed for a week was done in it.</summary>
public sealed record WeekResult(
    int Committed,
    int Done,
    int Extra,
    double? Percent,
    IReadOnlyList<(string Reason, int Times)> Reasons
);

/// <summary>
/// Percent plan complete. Source: lean construction, weekly work planning (H. G. Ballard, thesis, University of
/// Birmingham, 2000).
/// </summary>
public static class PlanComplete
{
    /// <summary>PPC = 100 done / committed over the week that begins on <paramref name="weekStart"/> and six more
    /// days.</summary>
    /// <exception cref="Refusal">An id twice, or something done before the week began.</exception>
    public static WeekResult Of(LocalDate weekStart, IReadOnlyList<WeekItem> items)
    {
        Refusal.When(items.GroupBy(i => i.Id).Any(g => g.Count() > 1), "id", "Two items carry the same id.");
        Refusal.When(items.Any(i => i.DoneOn < weekStart), "doneOn", "Something was done before the week began.");
        bool Done(WeekItem i) => i.DoneOn is { } d && d <= weekStart.PlusDays(6);
        var committed = items.Where(i => i.Committed).ToList();
        var done = committed.Count(Done);
        var reasons = committed
            .Where(i => !Done(i))
            .GroupBy(i => string.IsNullOrWhiteSpace(i.Reason) ? "unstated" : i.Reason.Trim())
            .Select(g => (g.Key, g.Count()))
            .OrderByDescending(r => r.Item2)
            .ThenBy(r => r.Key, StringComparer.Ordinal)
            .ToList();
        return new(
            committed.Count,
            done,
            items.Count(i => !i.Committed && Done(i)),
            committed.Count == 0 ? null : 100.0 * done / committed.Count,
            reasons
        );
    }
}

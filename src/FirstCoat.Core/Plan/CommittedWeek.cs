using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Plan;

/// <summary>A time in which promised work was planned when it was promised.</summary>
public sealed record PromisedTime(Instant From, Instant To);

/// <summary>What somebody is to bring in a week: an operation, or so many of its hours.</summary>
/// <param name="Name">What the operation was called when it was promised.</param>
/// <param name="Minutes">That this person works on it in the week.</param>
/// <param name="Whole">It is to be done by the end of the week; else the minutes are to be worked.</param>
public sealed record WeekPromise(
    Guid Id,
    Guid OperationId,
    Guid BuildId,
    Guid PersonId,
    string Name,
    int Minutes,
    bool Whole,
    List<PromisedTime> Times
)
{
    /// <summary>The day on which it was kept, as the week was counted; null: it was not, or the week is open.</summary>
    public LocalDate? KeptOn { get; init; }

    /// <summary>Why it was not kept, as the week was counted.</summary>
    public string Reason { get; init; } = "";

    /// <summary>
    /// The day on which it is kept: the one on which its operation was done, or on which its person had worked the
    /// minutes, whichever comes first.
    /// </summary>
    /// <param name="monday">Of its week.</param>
    /// <param name="doneAt">Of its operation; null: it is not done.</param>
    /// <param name="worked">What its person worked on it.</param>
    /// <returns>Null: it is not kept in its week.</returns>
    public LocalDate? KeptBy(LocalDate monday, Instant? doneAt, IEnumerable<WorkedTime> worked, DateTimeZone zone)
    {
        var (start, end) = (zone.AtStartOfDay(monday).ToInstant(), zone.AtStartOfDay(monday.PlusDays(7)).ToInstant());
        LocalDate? kept = doneAt < end ? LocalDate.Max(monday, doneAt.Value.InZone(zone).Date) : null;
        if (Whole)
        {
            return kept;
        }

        var minutes = 0.0;
        foreach (var w in worked.Where(w => w.To > start && w.From < end).OrderBy(w => w.From))
        {
            minutes += (Instant.Min(w.To, end) - Instant.Max(w.From, start)).TotalMinutes;
            if (minutes >= Minutes)
            {
                var on = Instant.Min(w.To, end - Duration.Epsilon).InZone(zone).Date;
                return kept is { } k ? LocalDate.Min(k, on) : on;
            }
        }

        return kept;
    }
}

/// <summary>From when to when somebody worked on something.</summary>
public readonly record struct WorkedTime(Instant From, Instant To);

/// <summary>What a shop has promised itself for a week, and what came of it. Source of the count: B10, percent plan
/// complete (<see cref="PlanComplete"/>).</summary>
public sealed class CommittedWeek : Entity
{
    /// <summary>So many promises at most.</summary>
    public const int Most = 400;

    public required LocalDate Monday { get; init; }
    public required Instant CommittedAt { get; init; }
    public required string CommittedBy { get; init; }
    public List<WeekPromise> Promises { get; private set; } = [];
    public Instant? CountedAt { get; private set; }
    public string CountedBy { get; private set; } = "";

    /// <summary>Operations that were done in the week and promised by nobody, as it was counted.</summary>
    public int Extra { get; private set; }

    public bool IsCounted => CountedAt is not null;

    /// <summary>Puts down what is promised.</summary>
    /// <exception cref="Refusal">Nothing, or the same work of the same person twice.</exception>
    public void Promise(IEnumerable<WeekPromise> promises)
    {
        Promises = [.. promises];
        Refusal.When(Promises.Count is 0 or > Most, "promises", $"A week has 1 to {Most} promises.");
        Refusal.When(
            Promises.DistinctBy(p => (p.OperationId, p.PersonId)).Count() != Promises.Count,
            "promises",
            "A person promises a piece of work once."
        );
        Refusal.When(Promises.Any(p => p.Minutes < 1), "promises", "A promise is some minutes of work.");
    }

    /// <summary>Counts the week: what was kept is found, what was not has a reason.</summary>
    /// <param name="kept">The day on which a promise was kept; null: it was not.</param>
    /// <param name="reasons">Why not, by promise.</param>
    /// <param name="extra">Operations done in the week that nobody had promised.</param>
    public void Count(
        Func<WeekPromise, LocalDate?> kept,
        IReadOnlyDictionary<Guid, string> reasons,
        int extra,
        Instant at,
        string by
    )
    {
        Refusal.When(IsCounted, "of", "The week has been counted already.");
        var counted = Promises
            .Select(p =>
                p with
                {
                    KeptOn = kept(p),
                    Reason = kept(p) is null ? reasons.GetValueOrDefault(p.Id, "").Trim() : "",
                }
            )
            .ToList();
        var open = counted.Find(p => p is { KeptOn: null, Reason: "" });
        Refusal.When(open is not null, "reasons", $"Say why {open?.Name} was not done.");
        Refusal.When(counted.Exists(p => p.Reason.Length > 120), "reasons", "A reason has at most 120 characters.");
        (Promises, Extra, CountedAt, CountedBy) = (counted, extra, at, by);
    }

    /// <summary>Percent plan complete of a week that was counted.</summary>
    public WeekResult Result() =>
        PlanComplete.Of(
            Monday,
            [
                .. Promises.Select(p => new WeekItem(p.Id.ToString(), true, p.KeptOn, p.Reason)),
                .. Enumerable.Range(0, Extra).Select(i => new WeekItem($"extra {i}", false, Monday, null)),
            ]
        );
}

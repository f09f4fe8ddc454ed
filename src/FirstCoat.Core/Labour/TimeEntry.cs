using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Labour;

/// <summary>What an hour is for. Only <see cref="Billable"/> reaches the bill.</summary>
public enum LabourKind
{
    Billable,
    Rework,
    Warranty,
    Goodwill,
    Shop,
}

/// <summary>
/// A stretch of one person's time on one operation. A running timer is an entry without a stop.
/// An entry is never changed once stopped: a correction is a new entry that replaces it.
/// </summary>
public sealed class TimeEntry : Recorded
{
    public required Guid PersonId { get; init; }
    public required Guid BuildId { get; init; }
    public required Guid OperationId { get; init; }

    /// <summary>Whole minute.</summary>
    public required Instant Start { get; init; }

    /// <summary>Whole minute; null while the timer runs.</summary>
    public Instant? Stop { get; private set; }

    public LabourKind Kind { get; init; } = LabourKind.Billable;
    public string Note { get; init; } = "";

    /// <summary>The entry that this one corrects.</summary>
    public Guid? Replaces { get; init; }

    /// <summary>Set on the original when a correction replaces it; the original's figures stay.</summary>
    public Guid? ReplacedBy { get; private set; }

    /// <summary>A correction that says: this was not worked.</summary>
    public bool Void { get; init; }

    /// <summary>What stood against this work when it was written down; null: nothing. The hours count all the same:
    /// they were worked.</summary>
    public AgainstRule? Flag { get; set; }

    /// <summary>Whether the entry counts: not replaced, not void.</summary>
    public bool Counts => ReplacedBy is null && !Void;

    public bool IsRunning => Stop is null && Counts;

    /// <summary>Whole minutes worked up to its stop, or up to <paramref name="now"/> while it runs.</summary>
    public int Minutes(Instant now) => Void ? 0 : (int)((Stop ?? Instant.Max(now, Start)) - Start).TotalMinutes;

    /// <summary>A stopped entry at its person's rates of the shop's day on which it started.</summary>
    public WorkedEntry Worked(Person person, DateTimeZone zone)
    {
        var day = Start.InZone(zone).Date;
        var rate = person.RateOn(day);
        return new(
            Id.ToString(),
            person.Id.ToString(),
            Start,
            Stop!.Value,
            day,
            Kind,
            rate?.Cost ?? 0,
            rate?.Billing ?? 0
        );
    }

    /// <summary>Ends the running timer.</summary>
    public void StopAt(Instant at)
    {
        Refusal.When(Stop is not null, "stop", "This timer has been stopped already.");
        LabourMinutes.CheckStretch(Start, at);
        Stop = at;
    }

    /// <summary>Marks the entry as replaced by a correction.</summary>
    public void ReplaceBy(TimeEntry correction)
    {
        Refusal.When(ReplacedBy is not null, "id", "This entry has been corrected already; correct the newer one.");
        Refusal.When(Stop is null, "stop", "Stop the timer before correcting it.");
        ReplacedBy = correction.Id;
    }

    /// <summary>Seconds cut off, as every entry starts and stops on a whole minute.</summary>
    public static Instant WholeMinute(Instant at) => Instant.FromUnixTimeSeconds(at.ToUnixTimeSeconds() / 60 * 60);
}

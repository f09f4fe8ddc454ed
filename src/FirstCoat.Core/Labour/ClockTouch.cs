using NodaTime;

namespace FirstCoat.Core.Labour;

/// <summary>The whole minute at which somebody touched the clock. What a browser kept comes later and says when it was
/// touched.</summary>
public static class ClockTouch
{
    /// <summary>So far may a phone's clock run before the shop's: what it touched "later than now" was touched
    /// now.</summary>
    public static readonly Duration Ahead = Duration.FromMinutes(2);

    /// <summary>So long after it was touched a start is still taken; before that the manager enters the
    /// hours.</summary>
    public static readonly Duration Late = Duration.FromHours(24);

    /// <summary>When work started.</summary>
    /// <param name="at">When it was touched; null: now.</param>
    /// <param name="now">The shop's clock.</param>
    /// <exception cref="Refusal">It lies more than <see cref="Ahead"/> before the shop's clock, or more than
    /// <see cref="Late"/> behind it.</exception>
    public static Instant Started(Instant? at, Instant now)
    {
        Refusal.When(at > now + Ahead, "at", "Work cannot have started later than now.");
        Refusal.When(at < now - Late, "at", "This start is more than a day old: the manager enters the hours.");
        return Minute(at, TimeEntry.WholeMinute(now));
    }

    /// <summary>When work stopped that started at <paramref name="start"/>.</summary>
    /// <param name="at">When it was touched; null: now, or the start where the machine's clock was set back behind it:
    /// that must not keep anybody on the job.</param>
    /// <exception cref="Refusal">It lies more than <see cref="Ahead"/> before the shop's clock.</exception>
    public static Instant Stopped(Instant? at, Instant now, Instant start)
    {
        Refusal.When(at > now + Ahead, "at", "Work cannot have stopped later than now.");
        return Minute(at, Instant.Max(TimeEntry.WholeMinute(now), start));
    }

    private static Instant Minute(Instant? at, Instant latest) =>
        at is { } touched ? Instant.Min(latest, TimeEntry.WholeMinute(touched)) : latest;
}

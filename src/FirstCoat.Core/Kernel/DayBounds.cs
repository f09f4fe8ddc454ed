using NodaTime;

namespace FirstCoat.Core.Kernel;

/// <summary>A day of the shop on the time line, from its first instant up to the next day's.</summary>
public readonly record struct DayBounds(Instant Start, Instant End)
{
    /// <summary>The day in a zone; it may be 23 or 25 hours long.</summary>
    public static DayBounds Of(LocalDate day, DateTimeZone zone) =>
        new(zone.AtStartOfDay(day).ToInstant(), zone.AtStartOfDay(day.PlusDays(1)).ToInstant());

    /// <summary>Whether the instant lies in it.</summary>
    public bool Has(Instant at) => at >= Start && at < End;
}

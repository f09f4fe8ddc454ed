using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Labour;

/// <summary>A stretch of one person's time on work that belongs to nobody's build, such as cleaning or tooling. It
/// reaches no bill; it counts to the person's day.</summary>
public sealed class ShopTime : Recorded
{
    public required Guid PersonId { get; init; }

    /// <summary>What it was, as the shop calls it.</summary>
    public required string Job { get; init; }

    /// <summary>Whole minute.</summary>
    public required Instant Start { get; init; }

    /// <summary>Whole minute; null while it runs.</summary>
    public Instant? Stop { get; private set; }

    public string Note { get; init; } = "";

    /// <summary>Why it does not count; null: it does.</summary>
    public string? VoidWhy { get; private set; }

    public bool Counts => VoidWhy is null;

    public bool IsRunning => Stop is null && Counts;

    /// <summary>Whole minutes up to its stop, or up to <paramref name="now"/> while it runs.</summary>
    public int Minutes(Instant now) => Counts ? (int)((Stop ?? Instant.Max(now, Start)) - Start).TotalMinutes : 0;

    /// <summary>Stopped time at its person's cost of the shop's day on which it started; nothing of it is
    /// billed.</summary>
    public WorkedEntry Worked(Person person, DateTimeZone zone)
    {
        var day = Start.InZone(zone).Date;
        return new(
            Id.ToString(),
            person.Id.ToString(),
            Start,
            Stop!.Value,
            day,
            LabourKind.Shop,
            person.RateOn(day)?.Cost ?? 0,
            0
        );
    }

    /// <summary>Ends it.</summary>
    public void StopAt(Instant at)
    {
        Refusal.When(Stop is not null, "stop", "This has been stopped already.");
        LabourMinutes.CheckStretch(Start, at);
        Stop = at;
    }

    /// <summary>Says that it was not worked, or entered wrongly; its figures stay.</summary>
    public void Void(string why)
    {
        Refusal.When(Stop is null, "stop", "Stop the clock first.");
        VoidWhy = Refusal.Text(why, "reason", 300);
    }
}

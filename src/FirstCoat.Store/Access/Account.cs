using Microsoft.AspNetCore.Identity;
using NodaTime;

namespace FirstCoat.Store.Access;

/// <summary>A sign-in. Technicians belong to a person of the shop; so may the others. One that is closed stays, since
/// records name it.</summary>
public sealed class Account : IdentityUser<Guid>
{
    public required string Name { get; set; }
    public Guid? PersonId { get; set; }
    public Instant? ClosedAt { get; set; }

    /// <summary>Set while its password is a one-time word that the manager gave out: until when it opens, once, for
    /// choosing an own one.</summary>
    public Instant? WordUntil { get; set; }
}

/// <summary>One sign-in on one device, from entering to leaving. Without it a cookie opens nothing.</summary>
public sealed class AccountSession
{
    public required Guid Id { get; init; }
    public required Guid AccountId { get; init; }

    /// <summary>On the real clock, as the browser counts its cookie.</summary>
    public required Instant StartedAt { get; init; }

    public required Instant EndsAt { get; init; }

    /// <summary>What the browser calls itself, shortened, so that its owner knows it again.</summary>
    public required string Device { get; init; }

    public Instant? EndedAt { get; set; }
}

/// <summary>Who does something: an account with its role, and the person behind it.</summary>
public sealed record Actor(Guid AccountId, Guid? PersonId, string Name, string Role)
{
    /// <summary>The application itself, as when it sets itself up.</summary>
    public static readonly Actor Application = new(Guid.Empty, null, "First Coat", Core.Access.Roles.Manager);

    /// <summary>Somebody without an account: a client behind a private link, or nobody yet.</summary>
    public static readonly Actor Visitor = new(Guid.Empty, null, "", "");

    public bool IsManager => Role == Core.Access.Roles.Manager;
    public bool IsOffice => Role == Core.Access.Roles.Office;

    /// <summary>Manager or office: who sees prices and clients. Nobody else does.</summary>
    public bool IsDesk => IsManager || IsOffice;

    /// <summary>The desk reads everybody's hours, others their own.</summary>
    public bool ReadsHoursOf(Guid person) => IsDesk || person == PersonId;
}

/// <summary>Holds the actor of one request. Nobody said who: nothing is done.</summary>
public sealed class CurrentActor
{
    private Actor? _actor;

    /// <exception cref="InvalidOperationException">Nobody has said who acts.</exception>
    public Actor Actor
    {
        get => _actor ?? throw new InvalidOperationException("Nobody has said who acts here.");
        set => _actor = value;
    }
}

/// <summary>The one clock: the time of the injected provider on NodaTime's types.</summary>
public sealed class ShopClock(TimeProvider time)
{
    public Instant Now => Instant.FromDateTimeOffset(time.GetUtcNow());

    /// <summary>Now, with the seconds cut off, as labour counts it.</summary>
    public Instant NowMinute => Core.Labour.TimeEntry.WholeMinute(Now);

    /// <summary>Which five minutes it is: what depends on the hour of the day is made anew with each.</summary>
    public long FiveMinutes => Now.ToUnixTimeSeconds() / 300;
}

/// <summary>A clock that stands until it is set, for tests and for telling the demo's history.</summary>
public sealed class SetClock(DateTimeOffset start) : TimeProvider
{
    private DateTimeOffset _now = start;

    public override DateTimeOffset GetUtcNow() => _now;

    public void Set(Instant to) => _now = to.ToDateTimeOffset();
}

/// <summary>The real clock moved by a fixed span, as <c>--now</c> asks for.</summary>
public sealed class ShiftedClock(TimeSpan by) : TimeProvider
{
    public override DateTimeOffset GetUtcNow() => System.GetUtcNow() + by;
}

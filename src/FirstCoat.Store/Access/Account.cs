using Microsoft.AspNetCore.Identity;
using NodaTime;

namespace FirstCoat.Store.Access;

/// <summary>A sign-in. Technicians belong to a person of the shop; so may the others.</summary>
public sealed class Account : IdentityUser<Guid>
{
    public required string Name { get; set; }
    public Guid? PersonId { get; set; }
}

/// <summary>Who does something: an account with its role, and the person behind it.</summary>
public sealed record Actor(Guid AccountId, Guid? PersonId, string Name, string Role)
{
    /// <summary>The application itself, as when it sets itself up.</summary>
    public static readonly Actor Application = new(Guid.Empty, null, "First Coat", Core.Access.Roles.Manager);

    public bool IsManager => Role == Core.Access.Roles.Manager;
    public bool IsOffice => Role == Core.Access.Roles.Office;
    public bool IsTechnician => Role == Core.Access.Roles.Technician;
}

/// <summary>Holds the actor of one request.</summary>
public sealed class CurrentActor
{
    public Actor Actor { get; set; } = Actor.Application;
}

/// <summary>The one clock: the time of the injected provider on NodaTime's types.</summary>
public sealed class ShopClock(TimeProvider time)
{
    public Instant Now => Instant.FromDateTimeOffset(time.GetUtcNow());

    /// <summary>Now, with the seconds cut off, as labour counts it.</summary>
    public Instant NowMinute => Core.Labour.TimeEntry.WholeMinute(Now);
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

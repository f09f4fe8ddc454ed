using NodaTime;

namespace FirstCoat.Core.Plan;

/// <summary>A private address under which a calendar program reads what is planned for one person or in one place. Only
/// the hash of its token is kept.</summary>
public sealed class CalendarLink : Recorded
{
    /// <summary>Whose work it shows; null: it shows a place's.</summary>
    public Guid? PersonId { get; init; }

    public Guid? StationId { get; init; }
    public required string TokenHash { get; init; }
    public Instant? RevokedAt { get; private set; }

    /// <summary>Closes the address for good.</summary>
    public void Revoke(Instant at) => RevokedAt ??= at;
}

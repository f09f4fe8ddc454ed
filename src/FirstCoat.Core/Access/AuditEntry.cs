using NodaTime;

namespace FirstCoat.Core.Access;

/// <summary>Who changed what, when, from what to what. Written with the change itself, never altered.</summary>
public sealed class AuditEntry
{
    public long Id { get; private set; }
    public required Instant At { get; init; }
    public required Guid By { get; init; }
    public required string What { get; init; }
    public required Guid Of { get; init; }
    public required string Action { get; init; }

    /// <summary>Changed values before and after, as JSON; null where there was nothing.</summary>
    public string? Before { get; init; }

    public string? After { get; init; }
}

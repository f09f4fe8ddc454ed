using NodaTime;

namespace FirstCoat.Core.Builds;

/// <summary>Money that came from the client, tax included; a negative amount went back.</summary>
public sealed class Payment : Recorded
{
    public required Guid BuildId { get; init; }
    public required LocalDate On { get; init; }

    /// <summary>In the shop's currency, whole cents.</summary>
    public required decimal Amount { get; init; }

    public string Note { get; init; } = "";
}

using NodaTime;

namespace FirstCoat.Core.Plan;

/// <summary>What was thought of a build's finish one night, so that its slip over time can be seen with what held
/// it.</summary>
public sealed class ForecastNight : Entity
{
    public required Guid BuildId { get; init; }
    public required LocalDate On { get; init; }
    public required LocalDate P50 { get; init; }
    public required LocalDate P80 { get; init; }
    public required LocalDate P90 { get; init; }

    /// <summary>Share of the futures that kept the promise; null: nothing was promised.</summary>
    public decimal? Kept { get; init; }

    public WaitKind HoldsKind { get; init; }

    /// <summary>What held it that night.</summary>
    public string Holds { get; init; } = "";
}

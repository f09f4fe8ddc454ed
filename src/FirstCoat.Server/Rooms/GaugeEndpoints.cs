using FirstCoat.Core.Fitup;
using FirstCoat.Server.Live;

namespace FirstCoat.Server.Rooms;

/// <summary>Stands in for the receiver of a wireless gauge: a figure goes to the windows of whoever pressed, and a
/// window that listens puts it where it reads.</summary>
public static class GaugeEndpoints
{
    private const decimal Most = 10_000;

    /// <summary>A figure as the gauge shows it.</summary>
    public sealed record GaugeFigure(decimal Value, LengthUnit Unit);

    public static void MapGauge(this RouteGroupBuilder api) =>
        api.MapPost(
                "/gauge",
                async (GaugeFigure b, LiveConnections live, CurrentActor current, CancellationToken cancel) =>
                {
                    Refusal.When(Math.Abs(b.Value) > Most, "value", "No gauge reads that far.");
                    await live.Press(current.Actor.AccountId, b.Value, b.Unit, cancel);
                    return b;
                }
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("pressGauge");
}

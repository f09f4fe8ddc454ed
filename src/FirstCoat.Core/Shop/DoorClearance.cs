using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Shop;

/// <summary>Whether a body on its dolly passes a door. Lengths in millimetres.</summary>
/// <param name="NeededMm">Body, dolly and margin.</param>
/// <param name="SpareMm">What the door leaves; negative: too low.</param>
/// <param name="LowerByMm">How much lower it must come.</param>
/// <param name="DollyAloneSuffices">Whether taking it off the dolly, or a lower one, is enough.</param>
public sealed record DoorClearance(
    double NeededMm,
    double SpareMm,
    bool Fits,
    double LowerByMm,
    bool DollyAloneSuffices
)
{
    /// <summary>Compares heights. Source: counting; the margin is the shop's own.</summary>
    /// <exception cref="Refusal">A body or door of nothing or less, a negative dolly or margin.</exception>
    public static DoorClearance Of(double bodyMm, double dollyMm, double marginMm, double doorMm)
    {
        Refusal.When(bodyMm <= 0, "bodyMm", "The body is higher than nothing.");
        Refusal.When(dollyMm < 0, "dollyMm", "A dolly's height cannot be negative.");
        Refusal.When(marginMm < 0, "marginMm", "The margin cannot be negative.");
        Refusal.When(doorMm <= 0, "doorMm", "The door is higher than nothing.");
        var needed = bodyMm + dollyMm + marginMm;
        var spare = doorMm - needed;
        var lower = Math.Max(0, -spare);
        return new(needed, spare, Near.AtLeast(spare, 0), lower, Near.AtMost(lower, dollyMm));
    }
}

namespace FirstCoat.Core.Bench;

/// <summary>The flat blank of a part that is folded, in millimetres.</summary>
/// <param name="FlatMm">Its length before it is folded.</param>
/// <param name="DeductionMm">What each fold takes off the flanges measured outside.</param>
/// <param name="AllowanceMm">Length of the neutral line round one fold.</param>
/// <param name="FoldsMm">Middle of each fold, from the blank's end.</param>
public sealed record FoldedStrip(double FlatMm, double DeductionMm, double AllowanceMm, IReadOnlyList<double> FoldsMm)
{
    /// <summary>Rule of thumb: where the neutral line runs in thin mild steel, as a share of the thickness.</summary>
    public const double UsualNeutral = 0.42;

    private const int Most = 20;

    /// <summary>Source: the neutral line keeps its length: allowance = angle (radius + k thickness), outside setback =
    /// tan(angle / 2) (radius + thickness), deduction = 2 setbacks - allowance.</summary>
    /// <param name="flangesMm">Measured outside, to the corner where the faces would meet.</param>
    /// <param name="angleDeg">By which each fold turns the sheet out of the flat.</param>
    /// <param name="radiusMm">Inside.</param>
    /// <param name="neutral">From the inside, as a share of the thickness.</param>
    /// <exception cref="Refusal">Fewer than two flanges, a figure that cannot be, a flange that its folds use
    /// up.</exception>
    public static FoldedStrip Of(
        IReadOnlyList<double> flangesMm,
        double angleDeg,
        double radiusMm,
        double thicknessMm,
        double neutral
    )
    {
        Refusal.When(flangesMm.Count is < 2 or > Most, "flanges", $"A fold lies between flanges: give two to {Most}.");
        Refusal.When(angleDeg is <= 0 or > 150, "angleDeg", "A fold turns the sheet by up to 150 degrees.");
        Refusal.When(radiusMm < 0, "radiusMm", "A radius is nothing or more.");
        Refusal.When(thicknessMm <= 0, "thicknessMm", "The sheet is thicker than nothing.");
        Refusal.When(neutral is <= 0 or > 0.5, "neutral", "The neutral line lies between the inside and the middle.");
        var angle = angleDeg * Math.PI / 180;
        var allowance = angle * (radiusMm + neutral * thicknessMm);
        var setback = Math.Tan(angle / 2) * (radiusMm + thicknessMm);
        var flats = flangesMm.Select((f, i) => f - setback * (i == 0 || i == flangesMm.Count - 1 ? 1 : 2)).ToList();
        Refusal.When(flats.Exists(f => f <= 0), "flanges", "A flange is shorter than its folds take.");
        var folds = new List<double>();
        var at = 0.0;
        foreach (var flat in flats.Take(flats.Count - 1))
        {
            folds.Add(at + flat + allowance / 2);
            at += flat + allowance;
        }

        return new(at + flats[^1], 2 * setback - allowance, allowance, folds);
    }
}

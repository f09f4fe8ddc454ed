using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Fitup;

/// <summary>An opening by its two diagonals and its width.</summary>
/// <param name="ShearMm">By how much the top lies to the right of the bottom.</param>
/// <param name="DiagonalDifferenceMm">The first diagonal less the second.</param>
/// <param name="ImpliedSideMm">The slanted side itself, as it follows from the other three.</param>
/// <param name="LeanDeg">Of that side.</param>
/// <param name="MismatchMm">The measured side less the implied one.</param>
/// <param name="IsConsistent">The readings fit each other; else one of them is read again.</param>
public sealed record Opening(
    double ShearMm,
    double DiagonalDifferenceMm,
    double ImpliedSideMm,
    double LeanDeg,
    double MismatchMm,
    bool IsConsistent
)
{
    /// <summary>What to do about the lean, in words. Source: both diagonals meet half way.</summary>
    /// <param name="length">How a length in millimetres is told, with its unit.</param>
    public string Pull(Func<double, string> length) =>
        $"Pull the diagonal from bottom {(ShearMm > 0 ? "left to top right" : "right to top left")} shorter by {length(Math.Abs(DiagonalDifferenceMm) / 2)}, brace it, then read it again.";

    /// <summary>Source: parallelogram law; x = (d1^2 - d2^2) / (4 w), side = sqrt((d1^2 + d2^2) / 2 - w^2). Answers are
    /// unrounded.</summary>
    /// <param name="d1Mm">From bottom left to top right.</param>
    /// <param name="d2Mm">From bottom right to top left.</param>
    /// <param name="sideMm">The slanted side as it was measured.</param>
    /// <param name="toleranceMm">Within which the measured side agrees.</param>
    /// <exception cref="Refusal">A length of nothing or less, readings that cannot be drawn, a tolerance below
    /// nothing.</exception>
    public static Opening Of(double d1Mm, double d2Mm, double widthMm, double sideMm, double toleranceMm)
    {
        foreach (
            var (length, field) in new[] { (d1Mm, "d1Mm"), (d2Mm, "d2Mm"), (widthMm, "widthMm"), (sideMm, "sideMm") }
        )
        {
            Refusal.When(length <= 0, field, "A length is more than nothing.");
        }

        Refusal.When(toleranceMm < 0, "toleranceMm", "The tolerance is nothing or more.");
        Refusal.When(
            d1Mm + d2Mm <= 2 * widthMm || Math.Abs(d1Mm - d2Mm) >= 2 * widthMm,
            "d1Mm",
            "No opening has these diagonals at this width: read them again."
        );
        var shear = (d1Mm * d1Mm - d2Mm * d2Mm) / (4 * widthMm);
        var side = Math.Sqrt((d1Mm * d1Mm + d2Mm * d2Mm) / 2 - widthMm * widthMm);
        return new(
            shear,
            d1Mm - d2Mm,
            side,
            Math.Asin(Math.Clamp(shear / side, -1, 1)) * 180 / Math.PI,
            sideMm - side,
            Near.AtMost(Math.Abs(sideMm - side), toleranceMm)
        );
    }
}

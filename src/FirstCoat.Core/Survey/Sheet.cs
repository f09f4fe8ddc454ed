using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Survey;

/// <summary>A flat piece to be cut, in millimetres.</summary>
public readonly record struct SheetPiece(double WidthMm, double HeightMm, int Quantity);

/// <summary>What pieces come to.</summary>
/// <param name="AreaM2">Net, in square metres.</param>
/// <param name="WeightKg">Net, in kilograms of steel.</param>
/// <param name="SheetsAtLeast">A lower bound only: pieces may not nest that well.</param>
public sealed record SheetNeed(double AreaM2, double WeightKg, int SheetsAtLeast);

/// <summary>Sheet steel by area and gauge. Answers are unrounded. Source: counting; density of mild steel 7.85 kg/m2
/// and mm.</summary>
public static class Sheet
{
    /// <summary>Kilograms of a square metre one millimetre thick.</summary>
    public const double SteelKgPerM2Mm = 7.85;

    private static readonly Dictionary<int, double> Gauges = new()
    {
        [16] = 0.0598,
        [18] = 0.0478,
        [20] = 0.0359,
        [22] = 0.0299,
        [24] = 0.0239,
    };

    /// <summary>Thickness in millimetres of a US gauge of cold-rolled sheet.</summary>
    /// <exception cref="Refusal">Another gauge than 16, 18, 20, 22 or 24.</exception>
    public static double GaugeMm(int gauge)
    {
        Refusal.When(
            !Gauges.ContainsKey(gauge),
            "gauge",
            $"The gauge is one of {string.Join(", ", Gauges.Keys)}; give other sheet in millimetres."
        );
        return Gauges[gauge] * 25.4;
    }

    /// <summary>Area, weight and the fewest sheets of pieces.</summary>
    /// <exception cref="Refusal">No pieces, a size of nothing or less, a piece larger than the sheet both
    /// ways.</exception>
    public static SheetNeed TakeOff(
        IReadOnlyList<SheetPiece> pieces,
        double gaugeMm,
        double sheetWidthMm,
        double sheetHeightMm
    )
    {
        Refusal.When(pieces.Count == 0, "pieces", "Give at least one piece.");
        Refusal.When(gaugeMm <= 0, "gaugeMm", "The sheet is thicker than nothing.");
        Refusal.When(sheetWidthMm <= 0, "sheetWMm", "The sheet is wider than nothing.");
        Refusal.When(sheetHeightMm <= 0, "sheetHMm", "The sheet is higher than nothing.");
        foreach (var p in pieces)
        {
            Refusal.When(p.WidthMm <= 0, "wMm", "A piece is wider than nothing.");
            Refusal.When(p.HeightMm <= 0, "hMm", "A piece is higher than nothing.");
            Refusal.When(p.Quantity < 1, "qty", "A quantity is a whole number from 1 on.");
            var fits =
                (Near.AtMost(p.WidthMm, sheetWidthMm) && Near.AtMost(p.HeightMm, sheetHeightMm))
                || (Near.AtMost(p.HeightMm, sheetWidthMm) && Near.AtMost(p.WidthMm, sheetHeightMm));
            Refusal.When(
                !fits,
                "pieces",
                $"A piece of {p.WidthMm:0.#} x {p.HeightMm:0.#} mm does not fit on the sheet either way."
            );
        }

        var area = pieces.Sum(p => p.WidthMm * p.HeightMm * p.Quantity) / 1e6;
        var sheets = area / (sheetWidthMm * sheetHeightMm / 1e6);
        return new(area, SteelKg(area, gaugeMm), Near.Ceiling(sheets));
    }

    /// <summary>Weight of mild steel, in kilograms.</summary>
    public static double SteelKg(double areaM2, double gaugeMm) => areaM2 * gaugeMm * SteelKgPerM2Mm;
}

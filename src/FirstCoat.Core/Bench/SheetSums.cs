using System.Text.Json.Nodes;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Survey;
using static FirstCoat.Core.Bench.BenchFigures;

namespace FirstCoat.Core.Bench;

/// <summary>Blanks that are folded, pieces nested on sheets, tapers to be marked out.</summary>
internal static class SheetSums
{
    public static BenchAnswer Fold(BenchFigures f)
    {
        var flanges = f.Rows("flanges", r => r.Extent("size", "a flange"));
        var (angle, neutral) = (f.Number("angle", "the angle"), f.Number("neutral", "the neutral line"));
        Refusal.When(angle is <= 0 or > 150, "angle", "A fold turns the sheet by up to 150 degrees.");
        var (radius, thickness) = (f.Length("radius", "the inside radius"), f.Extent("thickness", "the sheet"));
        var strip = FoldedStrip.Of(flanges, angle, radius, thickness, neutral);
        var folds = flanges.Count - 1;
        return new(
            $"Cut it {f.Say(strip.FlatMm)} long",
            false,
            ["Fold a strip of the same sheet first and correct the neutral line by it."],
            [
                new("Outside, all", f.Show(flanges.Sum())),
                new("Each fold takes", f.Show(strip.DeductionMm)),
                .. strip.FoldsMm.Select((at, i) => new BenchRow($"Fold {i + 1}, its middle at", f.Show(at))),
            ],
            [
                $"round a fold {Plain(angle)} × π / 180 × ({f.Typed(radius)} + {Plain(neutral)} × {f.Typed(thickness)}) = {f.Show(strip.AllowanceMm)}",
                $"2 × tan({Plain(angle)} / 2) × ({f.Typed(radius)} + {f.Typed(thickness)}) − {f.Show(strip.AllowanceMm)} = {f.Show(strip.DeductionMm)}",
                $"{string.Join(" + ", flanges.Select(f.Typed))} − {folds} × {f.Show(strip.DeductionMm)} = {f.Show(strip.FlatMm)}",
            ],
            new("The neutral line keeps its length; where it runs is a rule of thumb.", true),
            new()
            {
                ["flangesMm"] = BenchCalculations.Array(flanges, x => x),
                ["angleDeg"] = angle,
                ["radiusMm"] = radius,
                ["thicknessMm"] = thickness,
                ["flatMm"] = strip.FlatMm,
                ["foldsMm"] = BenchCalculations.Array(strip.FoldsMm, x => x),
            }
        );
    }

    public static BenchAnswer TakeOff(BenchFigures f)
    {
        var number = 0;
        var pieces = f.Rows("pieces", r =>
        {
            number++;
            var quantity = r.Has("qty") ? r.Whole("qty", "how many") : 1;
            r.RefuseWhen(quantity < 1, "qty", "A quantity is a whole number from 1 on.");
            return new NestPiece(
                r.Has("name") ? r.Text("name") : $"piece {number}",
                r.Extent("width", "the width"),
                r.Extent("height", "the height"),
                quantity,
                !r.Flag("grain")
            );
        });
        var offcuts = f.Rows("offcuts", r => new StockPiece(
            r.Text("name"),
            r.Extent("width", "the offcut's width"),
            r.Extent("height", "the offcut's height")
        ));
        Refusal.When(
            pieces.Sum(p => (long)p.Quantity) > MostPieces,
            "pieces",
            $"At most {MostPieces} pieces at once on the bench."
        );
        Refusal.When(offcuts.Count > MostOffcuts, "offcuts", $"At most {MostOffcuts} rests at once.");
        var (width, height) = (f.Extent("width", "the sheet's width"), f.Extent("height", "the sheet's height"));
        var (gauge, kerf) = (f.Extent("gauge", "the sheet's thickness"), f.Length("kerf", "the cut's width"));
        var cuts = f.Flag("edgeToEdge") ? NestCuts.EdgeToEdge : NestCuts.Free;
        var take = SheetTakeOff.Of(width, height, kerf, pieces, offcuts, cuts);
        var weight = Sheet.SteelKg(take.AreaM2, gauge);
        var fromStock = take.Sheets.Count - take.NewSheets;
        var rests = take.Sheets.Sum(s => s.Rests.Count);
        return new(
            $"{take.NewSheets} {(take.NewSheets == 1 ? "sheet" : "sheets")}"
                + (fromStock > 0 ? $" and {fromStock} from stock" : ""),
            false,
            [
                take.NewSheets == 0 ? "Nothing is to be bought."
                : take.IsFewest ? "No fewer new sheets would do."
                : $"By area {take.BoundSheets} would do; whether fewer can be cut is not certain.",
                .. rests > 0
                    ? new[]
                    {
                        $"{rests} {(rests == 1 ? "rest is" : "rests are")} worth keeping: {f.Typed(SheetTakeOff.LeastRestMm)} {f.UnitName} or more both ways.",
                    }
                    : [],
            ],
            [
                new("Net", $"{Fixed(take.AreaM2, "0.000")} m²"),
                new("Weight, net, in steel", $"{Fixed(weight, "0.00")} kg"),
                new("Waste", $"{Fixed(100 * take.WasteShare, "0.0")} %"),
                new("Least by area", $"{take.BoundSheets}"),
            ],
            [
                $"{string.Join(" + ", pieces.Take(6).Select(p => $"{(p.Quantity > 1 ? $"{p.Quantity} × " : "")}{f.Typed(p.WidthMm)} × {f.Typed(p.HeightMm)}"))}{(pieces.Count > 6 ? " + …" : "")} = {Fixed(take.AreaM2, "0.000")} m²",
                $"{Fixed(take.AreaM2, "0.000")} m² × {Plain(gauge)} mm × {Plain(Sheet.SteelKgPerM2Mm)} = {Fixed(weight, "0.00")} kg",
            ],
            new(
                cuts == NestCuts.EdgeToEdge
                    ? "Free rectangles, each cut from edge to edge; searched over the order of the pieces."
                    : "Free rectangles, searched over the order of the pieces; up to twelve in every way."
            ),
            new() { ["sheets"] = BenchCalculations.Array(take.Sheets, s => new JsonObject
                {
                    ["offcut"] = s.Offcut,
                    ["widthMm"] = s.WidthMm,
                    ["heightMm"] = s.HeightMm,
                    ["pieces"] = BenchCalculations.Array(s.Pieces, p => Box(p.Id, p.XMm, p.YMm, p.WidthMm, p.HeightMm)),
                    ["rests"] = BenchCalculations.Array(s.Rests, r => Box("", r.XMm, r.YMm, r.WidthMm, r.HeightMm)),
                }), ["gaugeMm"] = gauge }
        );

        static JsonObject Box(string name, double x, double y, double w, double h) =>
            new()
            {
                ["name"] = name,
                ["xMm"] = x,
                ["yMm"] = y,
                ["widthMm"] = w,
                ["heightMm"] = h,
            };
    }

    public static BenchAnswer Taper(BenchFigures f)
    {
        var stations = f.Whole("stations", "how many stations");
        Refusal.When(stations > MostDrawn, "stations", $"At most {MostDrawn} stations go on paper.");
        var (first, last) = (f.Length("first", "the first value"), f.Length("last", "the last value"));
        var eased = f.Flag("eased");
        var chord = f.LengthOrNull("chord", "the chord");
        var step = f.Extent("step", "from station to station");
        var table = TaperTable.Of(stations, first, last, eased ? TaperLaw.Eased : TaperLaw.Linear, chord);
        return new(
            $"{stations} stations, {f.Show(first)} to {f.Say(last)}",
            false,
            ["Print it at full size and lay a rule on the 100 mm mark before you cut by it."],
            [
                .. table.ValuesMm.Select(
                    (v, i) =>
                        new BenchRow(
                            $"{i + 1}",
                            f.Show(v),
                            table.RadiiMm is { } radii
                                ? radii[i] is { } r
                                    ? $"radius {f.Show(r)}"
                                    : "flat"
                                : ""
                        )
                ),
            ],
            [
                eased
                    ? $"{f.Typed(first)} + ({f.Typed(last)} − {f.Typed(first)}) × (1 − cos(π k / {stations - 1})) / 2"
                    : $"{f.Typed(first)} + ({f.Typed(last)} − {f.Typed(first)}) × k / {stations - 1}",
                .. chord is { } c && table.RadiiMm?.FirstOrDefault(r => r is not null) is { } radius
                    ? new[] { $"radius {f.Typed(c)}² / (8 v) + v / 2, at first {f.Show(radius)}" }
                    : [],
            ],
            new("Equal shares, or eased by half a cosine; radius of an arc by its chord and rise."),
            new() { ["valuesMm"] = BenchCalculations.Array(table.ValuesMm, v => v), ["stepMm"] = step }
        );
    }

    /// <summary>More than that takes longer than somebody waits while typing.</summary>
    private const int MostPieces = 200,
        MostOffcuts = 20;

    private const int MostDrawn = 60;
}

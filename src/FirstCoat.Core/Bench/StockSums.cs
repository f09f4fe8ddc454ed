using System.Globalization;
using System.Text.Json.Nodes;
using FirstCoat.Core.Money;
using static FirstCoat.Core.Bench.BenchFigures;

namespace FirstCoat.Core.Bench;

/// <summary>Bars, timber, tanks, wires, and when tooling is earned back.</summary>
internal static class StockSums
{
    public static BenchAnswer Cuts(BenchFigures f)
    {
        var (bar, kerf) = (f.Extent("stock", "the bar"), f.Length("kerf", "the cut's width"));
        var pieces = f.Rows("pieces", r =>
        {
            var (length, count) = (r.Extent("size", "the piece"), r.Has("qty") ? r.Whole("qty", "how many") : 1);
            r.RefuseWhen(count is < 1 or > 2000, "qty", "A quantity is a whole number from 1 on.");
            r.RefuseWhen(length > bar + 1e-9, "size", "The piece is longer than the bar.");
            return Enumerable.Repeat(length, count);
        });
        var all = pieces.SelectMany(p => p).ToList();
        var cuts = LineCuts.Of(bar, kerf, all);
        return new(
            $"{cuts.Bars} {(cuts.Bars == 1 ? "bar" : "bars")}, {f.Say(cuts.WasteMm)} over",
            false,
            [
                cuts.IsFewest
                    ? "No fewer bars would do."
                    : "Whether fewer would do is not certain: there are too many pieces to try every way.",
            ],
            [
                new("Pieces", $"{all.Count}"),
                new("Used", $"{Fixed(cuts.UsedPercent, "0.0")} %"),
                .. cuts
                    .Layout.Take(12)
                    .Select(
                        (b, i) =>
                            new BenchRow(
                                $"Bar {i + 1}",
                                string.Join(" + ", b.Select(f.Typed)),
                                $"{f.Show(bar - b.Sum() - kerf * (b.Count - 1))} left"
                            )
                    ),
            ],
            [$"{cuts.Bars} × {f.Typed(bar)} − {f.Show(all.Sum())} = {f.Show(cuts.WasteMm)}, the cuts among it"],
            new("Counting; the last piece may end at the bar's end. Up to twelve pieces in every way."),
            new()
            {
                ["barMm"] = bar,
                ["kerfMm"] = kerf,
                ["bars"] = BenchCalculations.Array(cuts.Layout, b => BenchCalculations.Array(b, x => x)),
            }
        );
    }

    public static BenchAnswer Steam(BenchFigures f)
    {
        var thick = f.Extent("thickness", "the timber's thickness");
        var minutes = SteamBend.Minutes(thick);
        return new(
            $"{Fixed(minutes, "0.0")} min in the steam",
            false,
            [
                "Count from when the box steams hard. Bend within half a minute, over by a little: it springs back.",
                "The box is never shut tight, gloves and face away from its door.",
            ],
            [new("Thickness", f.Show(thick)), new("In hours", Fixed(minutes / 60, "0.00"))],
            [$"60 × {Plain(thick)} / 25 = {Fixed(minutes, "0.0")} min"],
            new("Rule of thumb: an hour for each 25 mm; the wood, its moisture and a trial piece come first.", true),
            new() { ["thicknessMm"] = thick, ["minutes"] = minutes }
        );
    }

    public static BenchAnswer Tank(BenchFigures f)
    {
        var (l, w, h) = (
            f.Extent("length", "the length"),
            f.Extent("width", "the width"),
            f.Extent("height", "the height")
        );
        var box = BoxVolume.Of(l, w, h);
        var had = f.Has("had") ? f.Number("had", "what it held") : (double?)null;
        Refusal.When(had < 0, "had", "It held nothing or more.");
        return new(
            had is { } litres
                ? $"{Fixed(litres + box.Litres, "0.0")} L, {Fixed(box.Litres, "0.0")} gained"
                : $"{Fixed(box.Litres, "0.0")} L",
            false,
            [
                "Outer sizes: baffles, radii and the air above the filler take some of it.",
                "No heat near a tank that has held fuel: emptied, cleaned and made safe by who does that for a living.",
            ],
            [
                new("Litres", Fixed(box.Litres, "0.00")),
                new("US gallons", Fixed(box.UsGallons, "0.00")),
                new("Imperial gallons", Fixed(box.ImperialGallons, "0.00")),
            ],
            [$"{Plain(l)} × {Plain(w)} × {Plain(h)} mm / 1,000,000 = {Fixed(box.Litres, "0.00")} L"],
            new("Length × width × height; a US gallon is 231 cubic inches."),
            new()
            {
                ["lengthMm"] = l,
                ["widthMm"] = w,
                ["heightMm"] = h,
                ["litres"] = box.Litres,
                ["had"] = had,
            }
        );
    }

    public static BenchAnswer Wire(BenchFigures f)
    {
        var wires = f.Rows("wires", r =>
        {
            var wire = new WireSize(r.Number("mm2", "the area"), r.Number("amps", "what it carries"));
            r.RefuseWhen(wire.Mm2 <= 0, "mm2", "A wire has an area.");
            r.RefuseWhen(wire.MostAmps <= 0, "amps", "A wire carries more than nothing.");
            return wire;
        });
        var fuses = f.Rows("fuses", r =>
        {
            var amps = r.Number("amps", "the fuse");
            r.RefuseWhen(amps <= 0, "amps", "A fuse carries more than nothing.");
            return amps;
        });
        var (volts, amps) = (f.Number("volts", "the voltage"), f.Number("amps", "the current"));
        var (metres, drop) = (f.Number("lengthM", "the length one way"), f.Number("dropPercent", "what may be lost"));
        var run = WireRun.Of(volts, amps, metres, drop, wires, fuses);
        var none = run.SizeMm2 is null || run.FuseAmps is null;
        return new(
            run.SizeMm2 is not { } size ? "No wire of the table does"
                : run.FuseAmps is { } fuse ? $"{Plain(size)} mm², fuse {Plain(fuse)} A"
                : $"{Plain(size)} mm², and no fuse of the list guards it",
            none,
            [
                "The shop's table and local code come first: bundles, heat and age carry less. The fuse stands at the source and guards the wire.",
            ],
            [
                new("Needed by the loss", $"{Fixed(run.NeededMm2, "0.000")} mm²"),
                new(
                    "Lost",
                    run.DropVolts is { } v ? $"{Fixed(v, "0.00")} V" : "",
                    run.DropPercent is { } p ? $"{Fixed(p, "0.00")} %" : ""
                ),
            ],
            [
                $"2 × 0.0175 × {Plain(metres)} × {Plain(amps)} / ({Plain(volts)} × {Plain(drop / 100)}) = {Fixed(run.NeededMm2, "0.000")} mm²",
                $"fuse from 1.25 × {Plain(amps)} = {Plain(1.25 * amps)} A up to what the wire carries",
            ],
            new("Ohm's law there and back, copper 0.0175 Ω mm²/m; a fuse of a quarter over the load.", true),
            new()
            {
                ["needed"] = run.NeededMm2,
                ["size"] = run.SizeMm2,
                ["fuse"] = run.FuseAmps,
                ["dropV"] = run.DropVolts,
                ["wires"] = BenchCalculations.Array(wires.OrderBy(w => w.Mm2), w => new JsonObject
                {
                    ["mm2"] = w.Mm2,
                    ["amps"] = w.MostAmps,
                }),
            }
        );
    }

    public static BenchAnswer ToolingOf(BenchFigures f)
    {
        var (tooling, price) = (f.Amount("tooling", "the cost of tooling"), f.Amount("price", "the price of a set"));
        var unit = f.Amount("unitCost", "what a set costs you");
        var (margin, sets) = Tooling.BreakEven(tooling, price, unit);
        return new(
            sets is not { } n ? "It is never earned back: a set costs what it brings"
                : n == 0 ? "There is nothing to earn back"
                : $"Earned back with {n} {(n == 1 ? "set" : "sets")}",
            sets is null,
            [],
            [
                new("A set leaves", Money(margin), IsWrong: margin <= 0),
                .. sets is { } all and > 0
                    ? [new BenchRow("Over after them", Money(all * margin - tooling))]
                    : Array.Empty<BenchRow>(),
            ],
            [
                sets is { } s && margin > 0
                    ? $"{Money(tooling)} / ({Money(price)} − {Money(unit)}) = {Fixed((double)(tooling / margin), "0.00")}, so {s}"
                    : $"{Money(price)} − {Money(unit)} = {Money(margin)}",
            ],
            new("Break-even analysis."),
            new()
            {
                ["tooling"] = (double)tooling,
                ["margin"] = (double)margin,
                ["sets"] = sets,
            }
        );

        static string Money(decimal amount) =>
            (amount < 0 ? "\u2212" : "") + Math.Abs(amount).ToString("#,0.00", CultureInfo.InvariantCulture);
    }
}

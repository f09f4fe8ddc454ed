using FirstCoat.Core.Fitup;
using static FirstCoat.Core.Bench.BenchFigures;

namespace FirstCoat.Core.Bench;

/// <summary>Tacks round a patch and plug holes along a flange.</summary>
internal static class WeldSums
{
    public static BenchAnswer TackUp(BenchFigures f)
    {
        var (length, most) = (f.Extent("length", "the seam"), f.Extent("spacing", "the most between two tacks"));
        var closed = f.Flag("closed");
        var tacks = Tacks.Along(length, most, closed);
        var order = tacks.Order(closed);
        return new(
            $"{tacks.Count} {(tacks.Count == 1 ? "tack" : "tacks")}, {f.Say(tacks.SpacingMm)} apart",
            false,
            [
                "Set them in the order of the numbers, and weld the stretches between them in the same order: let each cool by air to the hand before its neighbour.",
                "Eyes, lungs and fire first: seat foam, fuel lines and battery away, a watch kept after the last stretch.",
            ],
            [
                new("Steps", $"{tacks.Count - (closed ? 0 : 1)}"),
                new("Apart", f.Show(tacks.SpacingMm)),
                new("First five", string.Join(", ", order.Take(5).Select(i => $"{i + 1}"))),
            ],
            [
                $"{f.Typed(length)} / {f.Typed(most)} = {Plain(length / most)}, so {tacks.Count - (closed ? 0 : 1)} steps",
                $"{f.Typed(length)} / {tacks.Count - (closed ? 0 : 1)} = {f.Show(tacks.SpacingMm)}; {(closed ? "it runs into itself: as many tacks as steps" : "a tack at both ends: one more")}",
            ],
            new("Counting. The order, farthest from all that are set, is a rule of thumb.", true),
            new()
            {
                ["lengthMm"] = length,
                ["spacingMm"] = tacks.SpacingMm,
                ["count"] = tacks.Count,
                ["closed"] = closed,
                ["order"] = BenchCalculations.Array(order, i => i),
            }
        );
    }

    public static BenchAnswer Holes(BenchFigures f)
    {
        var (length, most) = (f.Extent("length", "the flange"), f.Extent("pitch", "the most between two holes"));
        var end = f.Length("end", "from the end to the first hole");
        var holes = PlugHoles.Along(length, most, end);
        var count = holes.PositionsMm.Count;
        Refusal.When(count > MostDrawn, "pitchMm", $"That is more than {MostDrawn} holes: give a part of the flange.");
        return new(
            holes.PitchMm is { } pitch ? $"{count} holes, {f.Say(pitch)} apart" : "One hole",
            false,
            ["Mark from one end, so that no error adds up."],
            [
                .. holes.PositionsMm.Take(12).Select((p, i) => new BenchRow($"{i + 1}", f.Show(p))),
                .. count > 12 ? [new BenchRow($"{count}", f.Show(holes.PositionsMm[^1]))] : Array.Empty<BenchRow>(),
            ],
            [
                $"{f.Typed(length)} − 2 × {f.Typed(end)} = {f.Show(length - 2 * end)}",
                holes.PitchMm is { } p0
                    ? $"{f.Show(length - 2 * end)} / {f.Typed(most)} = {Plain((length - 2 * end) / most)}, so {holes.Steps} steps of {f.Show(p0)}"
                    : "nothing between the ends: one hole",
            ],
            new("Counting. Size and pitch of plug welds: the maker's body manual.", true),
            new() { ["lengthMm"] = length, ["positionsMm"] = BenchCalculations.Array(holes.PositionsMm, x => x) }
        );
    }

    private const int MostDrawn = 400;
}

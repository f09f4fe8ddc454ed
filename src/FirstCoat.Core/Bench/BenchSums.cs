using System.Text.Json;

namespace FirstCoat.Core.Bench;

/// <summary>The sums of the bench by name: typed figures in, an answer with its formula, source and drawing's figures
/// out. The arithmetic is the rooms'.</summary>
public static class BenchSums
{
    private static readonly IReadOnlyDictionary<string, Func<BenchFigures, BenchAnswer>> Known = new Dictionary<
        string,
        Func<BenchFigures, BenchAnswer>
    >
    {
        ["wheel"] = VehicleSums.Wheel,
        ["door"] = VehicleSums.Door,
        ["chassis"] = VehicleSums.Chassis,
        ["opening"] = FitSums.OfOpening,
        ["gap"] = FitSums.Gap,
        ["chain"] = FitSums.Chain,
        ["tacks"] = WeldSums.TackUp,
        ["holes"] = WeldSums.Holes,
        ["fold"] = SheetSums.Fold,
        ["take-off"] = SheetSums.TakeOff,
        ["taper"] = SheetSums.Taper,
        ["cuts"] = StockSums.Cuts,
        ["steam"] = StockSums.Steam,
        ["tank"] = StockSums.Tank,
        ["wire"] = StockSums.Wire,
        ["tooling"] = StockSums.ToolingOf,
    };

    /// <summary>Names of all sums.</summary>
    public static IReadOnlyCollection<string> Names { get; } = [.. Known.Keys];

    /// <summary>Answers one.</summary>
    /// <exception cref="Refusal">Names the figure that cannot be, as it is called on the bench; a cell of a table as
    /// <c>pieces.2.width</c>.</exception>
    public static BenchAnswer Answer(string sum, JsonElement figures)
    {
        Refusal.When(!Known.ContainsKey(sum), "sum", "There is no such sum on the bench.");
        try
        {
            return Known[sum](BenchFigures.Read(figures));
        }
        catch (Refusal refusal) when (refusal.Field.EndsWith("Mm", StringComparison.Ordinal))
        {
            throw new Refusal(refusal.Field[..^2], refusal.Message);
        }
        catch (OverflowException)
        {
            throw new Refusal("figures", "A figure is too large to compute with.");
        }
    }
}

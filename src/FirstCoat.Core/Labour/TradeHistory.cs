using System.Text.RegularExpressions;
using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Labour;

/// <summary>A finished piece of work: what it took and what was estimated, in minutes.</summary>
public sealed record WorkRecord(Guid BuildId, string Name, Stage Stage, Trade Trade, int Actual, int Estimate)
{
    /// <summary>Its name without its side; null: it has none.</summary>
    internal string? Pair { get; } = TradeHistory.WithoutSide(Name);
}

/// <summary>How a trade's work compares with its estimates.</summary>
/// <param name="Spread">Sd of ln(actual / estimate) of one piece of work around the trade's bias.</param>
public sealed record TradeBias(Trade Trade, Learned Learned, double Spread);

/// <summary>The same stage of another build: what it took over what was estimated.</summary>
public sealed record LikeJob(Guid BuildId, double Ratio);

/// <summary>What this shop's own log says about its estimates.</summary>
/// <remarks>Source: <see cref="Learning"/>; the spread is the sample's, its variance shrunk to 0.5 squared with the
/// weight of ten records.</remarks>
public sealed partial class TradeHistory(IReadOnlyList<WorkRecord> records)
{
    private const double PriorSpread = 0.5;
    private const double PriorWeight = 10;

    private readonly Dictionary<Trade, TradeBias> _biases = Enum.GetValues<Trade>()
        .ToDictionary(t => t, t => BiasOf(t, records.Where(r => r.Trade == t).ToList()));

    /// <summary>How much quicker the same work goes the second time.</summary>
    public Learned Second { get; } = Learning.Repeat(Pairs(records));

    /// <summary>The bias of a trade; without records the prior.</summary>
    public TradeBias Of(Trade trade) => _biases[trade];

    /// <summary>Like jobs: the stage on other builds, in order of their ratio.</summary>
    public IReadOnlyList<LikeJob> Jobs(Stage stage, Guid except) =>
        records
            .Where(r => r.Stage == stage && r.BuildId != except)
            .GroupBy(r => r.BuildId)
            .Select(g => new LikeJob(g.Key, (double)g.Sum(r => r.Actual) / g.Sum(r => r.Estimate)))
            .OrderBy(j => j.Ratio)
            .ThenBy(j => j.BuildId)
            .ToList();

    /// <summary>The name of a piece of work without its side; null: it has none.</summary>
    public static string? WithoutSide(string name)
    {
        var bare = Side().Replace(name, "side");
        return bare == name ? null : Numbers().Replace(bare, "").Trim();
    }

    private static TradeBias BiasOf(Trade trade, List<WorkRecord> mine)
    {
        var logs = mine.Select(r => Math.Log((double)r.Actual / r.Estimate)).ToList();
        var mean = logs.Count == 0 ? 0 : logs.Average();
        var squares = logs.Sum(x => (x - mean) * (x - mean));
        // A sample of one has no spread of its own.
        var variance =
            logs.Count < 2
                ? PriorSpread * PriorSpread
                : (PriorWeight * PriorSpread * PriorSpread + logs.Count * squares / (logs.Count - 1))
                    / (PriorWeight + logs.Count);
        return new(trade, Learning.Bias(mine.Select(r => ((double)r.Actual, (double)r.Estimate))), Math.Sqrt(variance));
    }

    private static IEnumerable<(double First, double Second)> Pairs(IReadOnlyList<WorkRecord> records) =>
        records
            .Where(r => r.Pair is not null)
            .GroupBy(r => (r.BuildId, r.Stage, r.Trade, r.Pair))
            // Only work that was thought equal before tells how much quicker the second went.
            .Where(g => g.Count() == 2 && g.First().Estimate == g.Last().Estimate)
            .Select(g => ((double)g.First().Actual, (double)g.Last().Actual));

    [GeneratedRegex(@"\b(left|right)\b", RegexOptions.IgnoreCase)]
    private static partial Regex Side();

    [GeneratedRegex(@",? finding \d+", RegexOptions.IgnoreCase)]
    private static partial Regex Numbers();
}

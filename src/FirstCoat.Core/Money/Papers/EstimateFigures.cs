using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Plan;
using NodaTime;

namespace FirstCoat.Core.Money.Papers;

/// <summary>A piece of work to be estimated, as first thought.</summary>
public sealed record EstimateWork(string Name, Stage Stage, Trade Trade, int Minutes)
{
    /// <summary>The day on which the plan ends it; null: it has none.</summary>
    public LocalDate? Ends { get; init; }

    /// <summary>How far it may go, where somebody said so; null: as the trade's record spreads.</summary>
    public Spread? Own { get; init; }
}

/// <summary>Likely hours of one trade in a stage, to a quarter hour, at its rate.</summary>
public sealed record EstimateCell(Trade Trade, decimal Hours, decimal Rate)
{
    public decimal Amount => Cents.Round(Hours * Rate);
}

/// <summary>A stage of the estimate, net.</summary>
/// <param name="FirstGuess">Hours before the shop's history was asked.</param>
/// <param name="Jobs">Like jobs, ascending.</param>
public sealed record EstimateRow(
    Stage Stage,
    string Says,
    decimal FirstGuess,
    IReadOnlyList<EstimateCell> Cells,
    decimal Low,
    decimal Likely,
    decimal High,
    IReadOnlyList<EstimateJob> Jobs
)
{
    public decimal Hours => Cells.Sum(c => c.Hours);

    /// <summary>The middle one of the like jobs, over what was thought; null: there is none.</summary>
    public double? Middle => Jobs.Count == 0 ? null : Jobs[Jobs.Count / 2].Ratio;
}

/// <summary>A like job: what it took over what was thought, and what this row would come to if it went the same
/// way.</summary>
public sealed record EstimateJob(double Ratio, decimal Amount);

/// <summary>What is not labour, net: parts, work sent out, materials.</summary>
/// <param name="RestsOn">Where the figure comes from, such as "18 of 31 quoted".</param>
public sealed record PaperGoods(CostKind Kind, string Text, decimal Low, decimal Likely, decimal High, string RestsOn);

/// <summary>Kinds of cost.</summary>
public enum CostKind
{
    Labour,
    Parts,
    Outside,
    Materials,
}

/// <summary>What an estimate is reckoned from.</summary>
/// <param name="Rates">Billing rate of each trade.</param>
/// <param name="Build">The build itself, which is no like job of its own.</param>
public sealed record EstimateFacts(
    IReadOnlyList<EstimateWork> Work,
    IReadOnlyList<PaperGoods> Goods,
    TradeHistory History,
    IReadOnlyDictionary<Trade, decimal> Rates,
    Guid Build
)
{
    /// <summary>Work that is on the bill already, net.</summary>
    public decimal DoneLabour { get; init; }

    /// <summary>Hours of that work.</summary>
    public decimal DoneHours { get; init; }

    /// <summary>Materials that are booked, net, without consumables.</summary>
    public decimal Booked { get; init; }

    /// <summary>Consumables in percent of all labour.</summary>
    public decimal ConsumablesPercent { get; init; }

    /// <summary>The most that consumables come to; null: there is no such limit.</summary>
    public decimal? ConsumablesCap { get; init; }

    /// <summary>Booked materials and the consumables that go with an amount of labour.</summary>
    public decimal Materials(decimal labour)
    {
        var consumables = Cents.Round(labour * ConsumablesPercent / 100);
        return Booked + Math.Min(consumables, ConsumablesCap ?? consumables);
    }
}

/// <summary>
/// An estimate's figures, net. Likely figures of rows add up to the likely total; low and high of the total are
/// quantiles of sampled totals, not sums: not everything goes wrong at once, and what a trade gets wrong it gets wrong
/// everywhere.
/// </summary>
/// <remarks>
/// Each future draws one bias per trade, shared by all its work, then each piece's own spread. The likely labour of a
/// row is its share, by mean, of the median of all labour: sums of medians would flatter. Source: Monte Carlo of
/// lognormal durations.
/// </remarks>
/// <param name="Done">Labour that is on the bill already, net; it is in the totals.</param>
/// <param name="DoneHours">Its hours.</param>
public sealed record EstimateFigures(
    IReadOnlyList<EstimateRow> Rows,
    IReadOnlyList<PaperGoods> Goods,
    decimal Low,
    decimal Likely,
    decimal High,
    decimal Done = 0,
    decimal DoneHours = 0
)
{
    public const int Futures = 2000;
    private const int Seed = 20;

    public decimal Hours => Rows.Sum(r => r.Hours) + DoneHours;

    /// <summary>Likely totals by kind of cost.</summary>
    public decimal Of(CostKind kind) =>
        kind == CostKind.Labour ? Rows.Sum(r => r.Likely) + Done : Goods.Where(g => g.Kind == kind).Sum(g => g.Likely);

    /// <summary>Reckons the estimate.</summary>
    /// <exception cref="Refusal">Goods whose low, likely and high are not in order.</exception>
    public static EstimateFigures Of(EstimateFacts facts)
    {
        foreach (var g in facts.Goods)
        {
            CheckGoods(g);
        }

        var work = Quicker(facts);
        var cells = work.GroupBy(w => (w.Stage, w.Trade)).OrderBy(g => g.Key.Stage).ThenBy(g => g.Key.Trade).ToList();
        var stages = cells.Select(c => c.Key.Stage).Distinct().ToList();
        var samples = Sample(facts, cells.SelectMany(c => c).ToList(), stages);
        var labour = Sorted(samples.Select(s => s.Stages.Sum()));
        var meanHours = cells
            .Select((c, i) => c.Sum(w => w.Minutes * MeanFactor(facts.History.Of(w.Trade)) / 60))
            .ToList();
        var meanMoney = cells.Zip(meanHours).Sum(c => c.Second * (double)facts.Rates[c.First.Key.Trade]);
        var scale = meanMoney == 0 ? 1 : Quantile.Of(labour, 0.5) / meanMoney;
        var likely = cells
            .Zip(meanHours)
            .Select(c =>
                (
                    c.First.Key.Stage,
                    Cell: new EstimateCell(c.First.Key.Trade, Quarter(c.Second * scale), facts.Rates[c.First.Key.Trade])
                )
            )
            .ToList();
        var rows = stages
            .Select(
                (stage, i) =>
                {
                    var mine = likely.Where(c => c.Stage == stage).Select(c => c.Cell).ToList();
                    var (amount, sorted) = (mine.Sum(c => c.Amount), Sorted(samples.Select(s => s.Stages[i])));
                    var guess = facts
                        .Work.Where(w => w.Stage == stage)
                        .Sum(w => w.Minutes / 60m * facts.Rates[w.Trade]);
                    return new EstimateRow(
                        stage,
                        Says(facts.Work.Where(w => w.Stage == stage)),
                        Math.Round(facts.Work.Where(w => w.Stage == stage).Sum(w => w.Minutes) / 60m, 2),
                        mine,
                        Math.Min(Whole(Quantile.Of(sorted, 0.2)), amount),
                        amount,
                        Math.Max(Whole(Quantile.Of(sorted, 0.8)), amount),
                        facts
                            .History.Jobs(stage, facts.Build)
                            .Select(j => new EstimateJob(Math.Round(j.Ratio, 2), Whole(j.Ratio * (double)guess)))
                            .ToList()
                    );
                }
            )
            .ToList();
        var ordered = rows.Sum(r => r.Likely) + facts.DoneLabour;
        var goods = WithMaterials(facts, ordered);
        var done = (double)facts.DoneLabour;
        var all = Sorted(
            samples.Select(s =>
                s.Stages.Sum()
                + done
                + s.Goods
                + Math.Max(s.Materials, (double)facts.Materials((decimal)(s.Stages.Sum() + done)))
            )
        );
        var total = ordered + goods.Sum(g => g.Likely);
        return new(
            rows,
            goods,
            Math.Min(Hundred(Quantile.Of(all, 0.2)), total),
            total,
            Math.Max(Hundred(Quantile.Of(all, 0.8)), total),
            facts.DoneLabour,
            facts.DoneHours
        );
    }

    /// <summary>Materials come to at least what is booked and the consumables on the hours.</summary>
    private static IReadOnlyList<PaperGoods> WithMaterials(EstimateFacts facts, decimal labour)
    {
        var entered = facts.Goods.Where(g => g.Kind == CostKind.Materials).Sum(g => g.Likely);
        var missing = facts.Materials(labour) - entered;
        return missing <= 0
            ? facts.Goods
            :
            [
                .. facts.Goods,
                new(
                    CostKind.Materials,
                    entered == 0 ? "Materials booked and consumables" : "More consumables, by the hours",
                    missing,
                    missing,
                    missing,
                    facts.ConsumablesPercent == 0 ? "as booked" : $"{facts.ConsumablesPercent:0.##} % of labour"
                ),
            ];
    }

    /// <summary>Checks a row of goods by itself.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public static void CheckGoods(PaperGoods g)
    {
        Refusal.When(
            g.Kind == CostKind.Labour || !Enum.IsDefined(g.Kind),
            "goods",
            "Labour comes from the sequence; goods are parts, work sent out and materials."
        );
        Refusal.Text(g.Text, "goods", 100);
        Refusal.When(g.RestsOn.Length > 60, "goods", "At most 60 characters.");
        Refusal.When(
            new[] { g.Low, g.Likely, g.High }.Any(a => a is < 0 or > 10_000_000 || !Cents.AreWhole(a)),
            "goods",
            "Amounts are in whole cents, not negative."
        );
        Refusal.When(g.Low > g.Likely || g.Likely > g.High, "goods", "Likely must be between low and high.");
        Refusal.When(g.Low == 0 && g.High > 0, "goods", "Low is more than nothing where anything is likely.");
    }

    /// <summary>The second of a pair of sides goes quicker, where nobody has thought of that already.</summary>
    private static List<EstimateWork> Quicker(EstimateFacts facts)
    {
        var seen = new HashSet<(Stage, Trade, string, int)>();
        return facts
            .Work.Select(w =>
                TradeHistory.WithoutSide(w.Name) is { } bare && !seen.Add((w.Stage, w.Trade, bare, w.Minutes))
                    ? w with
                    {
                        Minutes = (int)Math.Round(w.Minutes * facts.History.Second.Multiplier),
                    }
                    : w
            )
            .ToList();
    }

    private static List<(double[] Stages, double Goods, double Materials)> Sample(
        EstimateFacts facts,
        List<EstimateWork> work,
        List<Stage> stages
    )
    {
        var deviates = new Deviates(Seed);
        var trades = work.Select(w => w.Trade).Distinct().Order().ToDictionary(t => t, facts.History.Of);
        var goods = facts
            .Goods.Where(g => g.High > 0)
            .OrderBy(g => g.Kind == CostKind.Materials)
            .Select(g => (Of: new Spread((double)g.Low, (double)g.Likely, (double)g.High), g.Kind))
            .ToList();
        var place = stages.Select((s, i) => (s, i)).ToDictionary(x => x.s, x => x.i);
        return Enumerable
            .Range(0, Futures)
            .Select(_ =>
            {
                var bias = trades.ToDictionary(
                    t => t.Key,
                    t => t.Value.Learned.Mean + t.Value.Learned.Sd * deviates.Next()
                );
                var sums = new double[stages.Count];
                foreach (var w in work)
                {
                    sums[place[w.Stage]] +=
                        w.Minutes
                        / 60.0
                        * (double)facts.Rates[w.Trade]
                        * Math.Exp(bias[w.Trade])
                        * Drawn(w, trades[w.Trade].Spread, deviates.Next());
                }

                var drawn = goods.Select(g => (g.Kind, Amount: g.Of.At(deviates.Next()))).ToList();
                return (
                    sums,
                    drawn.Where(g => g.Kind != CostKind.Materials).Sum(g => g.Amount),
                    drawn.Where(g => g.Kind == CostKind.Materials).Sum(g => g.Amount)
                );
            })
            .ToList();
    }

    /// <summary>A piece of work over its estimate, apart from its trade's bias.</summary>
    private static double Drawn(EstimateWork w, double spread, double z) =>
        w.Own is { } own ? own.At(z) / own.Likely : Math.Exp(spread * z);

    /// <summary>Mean of a piece of work over its estimate: that of a lognormal.</summary>
    private static double MeanFactor(TradeBias b) =>
        Math.Exp(b.Learned.Mean + (b.Learned.Sd * b.Learned.Sd + b.Spread * b.Spread) / 2);

    private static string Says(IEnumerable<EstimateWork> work)
    {
        var names = work.OrderByDescending(w => w.Minutes).Select(w => w.Name).ToList();
        return names.Count > 1 ? $"{names[0]} and {names.Count - 1} more" : names[0];
    }

    private static List<double> Sorted(IEnumerable<double> values) => [.. values.Order()];

    private static decimal Quarter(double hours) =>
        Math.Max(1, Math.Round((decimal)hours * 4, MidpointRounding.AwayFromZero)) / 4;

    private static decimal Whole(double amount) => Math.Round((decimal)amount, MidpointRounding.AwayFromZero);

    private static decimal Hundred(double amount) =>
        Math.Round((decimal)amount / 100, MidpointRounding.AwayFromZero) * 100;
}

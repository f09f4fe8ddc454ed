using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Plan;

namespace FirstCoat.Server.Benches;

/// <summary>How often a quantile of the forecast held.</summary>
internal sealed record Held(int Count, int P50, int P80, int P90)
{
    public Held With(bool p50, bool p80, bool p90) =>
        new(Count + 1, P50 + (p50 ? 1 : 0), P80 + (p80 ? 1 : 0), P90 + (p90 ? 1 : 0));

    public double Share80 => 100.0 * P80 / Math.Max(1, Count);

    public override string ToString() =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"P50 {100.0 * P50 / Count:0.0} P80 {Share80:0.0} P90 {100.0 * P90 / Count:0.0} of 100, {Count} forecasts"
        );
}

/// <summary>
/// Simulated shop-years: what work really takes comes from biases of trades and suppliers that nobody in the shop
/// knows. Each month two builds are forecast from the shop's own log so far, then they happen, and what they took goes
/// into the log.
/// </summary>
internal static class Calibration
{
    private const int Months = 12,
        Futures = 200,
        Enough = 12;
    private static readonly Trade[] Trades = [Trade.Metal, Trade.Paint, Trade.Mechanic, Trade.Trim];

    /// <summary>Forecasts made before some trade of the build had a dozen records, and those made after.</summary>
    public static (Held Early, Held Late) Run(int years)
    {
        var (early, late) = (new Held(0, 0, 0, 0), new Held(0, 0, 0, 0));
        var gate = new Lock();
        Parallel.For(0, years, year =>
        {
            foreach (var (isLate, took, outlook) in Year(year))
            {
                lock (gate)
                {
                    var held = isLate ? late : early;
                    held = held.With(took <= outlook.P50, took <= outlook.P80, took <= outlook.P90);
                    (early, late) = isLate ? (early, held) : (held, late);
                }
            }
        });
        return (early, late);
    }

    private static IEnumerable<(bool IsLate, long Took, BuildOutlook Outlook)> Year(int seed)
    {
        var (random, deviates) = (new Random(seed), new Deviates(seed + 77));

        // Hidden: what nobody in the shop knows.
        var bias = Trades.ToDictionary(t => t, _ => 0.35 * deviates.Next());
        var spread = Trades.ToDictionary(t => t, _ => 0.35 + 0.25 * random.NextDouble());
        var (supplierBias, supplierSpread) = (0.35 * deviates.Next(), 0.4 + 0.2 * random.NextDouble());
        // How much is found later differs from shop to shop by a third, and is learned from what was found.
        var (trueShare, plannedHours, foundHours) = (0.10 * Math.Exp(0.3 * deviates.Next()), 0.0, 0.0);
        var log = new List<WorkRecord>();
        var sent = new List<(double, double)>();
        var now = BenchShop.Calendar.Minute(new(2026, 1, 5, 8, 0));
        for (var month = 0; month < Months; month++, now += 30 * 1440)
        {
            var problem = Shop(now, random) with { FoundShare = FoundWork.Share(plannedHours, foundHours) };
            var history = new TradeHistory(log);
            var supplier = Learning.Bias(sent);
            var beliefs = new Beliefs(
                Trades.ToDictionary(
                    t => t.ToString(),
                    t => new Belief(history.Of(t).Learned.Mean, history.Of(t).Learned.Sd, history.Of(t).Spread)
                ),
                new Dictionary<string, Belief> { ["s"] = new(supplier.Mean, supplier.Sd, Belief.Prior.Spread) }
            );
            var isLate = Trades.All(t => log.Count(r => r.Trade == t) >= Enough) && sent.Count >= Enough / 2;
            var outlook = Outlook.Of(problem, beliefs, Futures, seed, threads: 1);
            var truth = problem with
            {
                Builds = problem
                    .Builds.Select(b => b with { Operations = b.Operations.Select(True).ToList() })
                    .ToList(),
            };
            var happened = new Planner().Plan(
                truth with
                {
                    Builds = [.. truth.Builds.Select((b, i) => WithFound(b, problem.Builds[i]))],
                }
            );
            foreach (var build in problem.Builds)
            {
                yield return (isLate, happened.Builds[build.Id].Finish, outlook.Builds[build.Id]);
            }

            foreach (
                var (was, took) in problem
                    .Builds.SelectMany(b => b.Operations)
                    .Zip(truth.Builds.SelectMany(b => b.Operations))
            )
            {
                if (was.Trade is not null)
                {
                    log.Add(
                        new(
                            Guid.Empty,
                            was.Name,
                            Stage.Metal,
                            Enum.Parse<Trade>(was.Trade),
                            (int)took.Minutes,
                            (int)was.Minutes
                        )
                    );
                }
                else
                {
                    sent.Add((took.Minutes, was.Minutes));
                }
            }
        }

        // What nobody had planned: hours by stage that come after its last work, in the trades of the stage.
        PlanBuild WithFound(PlanBuild b, PlanBuild planned)
        {
            var operations = b.Operations.ToList();
            foreach (var stage in planned.Operations.Where(o => o.Trade is not null).GroupBy(o => o.Stage))
            {
                var share = FoundWork.Drawn(trueShare, deviates.Next());
                (plannedHours, foundHours) = (
                    plannedHours + stage.Sum(o => o.Minutes) / 60.0,
                    foundHours + share * stage.Sum(o => o.Minutes) / 60.0
                );
                foreach (var trade in stage.GroupBy(o => o.Trade))
                {
                    var last = operations.FindLastIndex(o => o.Stage == stage.Key && o.Trade == trade.Key);
                    operations[last] = operations[last] with
                    {
                        Minutes = operations[last].Minutes + (long)(share * trade.Sum(o => o.Minutes)),
                    };
                }
            }

            return b with
            {
                Operations = operations,
            };
        }

        PlanOperation True(PlanOperation o)
        {
            var trade = o.Trade is null ? (Trade?)null : Enum.Parse<Trade>(o.Trade);
            var ln = trade is { } t
                ? bias[t] + spread[t] * deviates.Next()
                : supplierBias + supplierSpread * deviates.Next();
            return o with { Minutes = Math.Max(1, (long)(o.Minutes * Math.Exp(ln))) };
        }
    }

    /// <summary>Two builds of a dozen operations for four people, with something sent out in each.</summary>
    private static PlanProblem Shop(long now, Random random)
    {
        var people = Trades
            .Select(t => new PlanPerson(t.ToString(), t.ToString(), new HashSet<string> { t.ToString() }, Blocked.None))
            .ToList();
        var builds = Enumerable
            .Range(0, 2)
            .Select(b => new PlanBuild(
                $"b{b}",
                $"b{b}",
                Enumerable
                    .Range(0, 12)
                    .Select(i => new PlanOperation
                    {
                        Id = $"b{b}.{i}",
                        Name = $"b{b}.{i}",
                        Stage = i < 6 ? "Metal" : "Paint",
                        Minutes = i == 6 ? 1440 * (3 + random.Next(8)) : 60 + 30 * random.Next(20),
                        Trade = i == 6 ? null : Trades[random.Next(Trades.Length)].ToString(),
                        Supplier = i == 6 ? "s" : null,
                        After = i == 0 ? [] : [new($"b{b}.{i - 1 - random.Next(Math.Min(i, 2))}", 0)],
                    })
                    .ToList()
            ))
            .ToList();
        return new(now, BenchShop.Calendar, people, [], builds) { Suppliers = [new("s", "s", BenchShop.Calendar)] };
    }
}

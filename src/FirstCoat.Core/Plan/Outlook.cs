using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Plan.Engine;

namespace FirstCoat.Core.Plan;

/// <summary>What is thought of a trade's or a supplier's estimates: ln(actual / estimate) has this mean, as sure as
/// <paramref name="Sd"/>, and each piece spreads around it.</summary>
public sealed record Belief(double Mean, double Sd, double Spread)
{
    /// <summary>Where nothing is on record. Source: the prior of <see cref="Learning"/>.</summary>
    public static readonly Belief Prior = new(0, 0.35, 0.5);
}

/// <summary>Beliefs by trade and by supplier.</summary>
public sealed record Beliefs(IReadOnlyDictionary<string, Belief> Trades, IReadOnlyDictionary<string, Belief> Suppliers)
{
    public static readonly Beliefs None = new(new Dictionary<string, Belief>(), new Dictionary<string, Belief>());
}

/// <summary>An operation that makes a build's finish unsure: by so many days when it goes as badly as one time in
/// six.</summary>
public sealed record RiskCarrier(string Operation, double Days);

/// <summary>When a build is likely finished, on the axis of minutes.</summary>
/// <param name="P80">Spoken "8 in 10".</param>
/// <param name="Kept">Share of the futures that keep the promise; null: nothing is promised, or nothing can be said of
/// it.</param>
public sealed record BuildOutlook(
    string Build,
    long P50,
    long P80,
    long P90,
    double? Kept,
    IReadOnlyList<RiskCarrier> Risks
)
{
    /// <summary>Some of its work has no date in the plan: the days are of the rest.</summary>
    public bool Partly { get; init; }

    /// <summary>Finished by then in one of five futures.</summary>
    public long P20 { get; init; }

    /// <summary>Not yet finished then in one of twenty.</summary>
    public long P95 { get; init; }

    /// <summary>By as much as the share of the futures that keep the promise falls before an order counts as riskier
    /// than another: five in a hundred, well over what a thousand drawn futures differ by chance.</summary>
    private const double Noticed = 0.05;

    /// <summary>Whether noticeably fewer futures keep the promise than by another order.</summary>
    public bool IsRiskierThan(BuildOutlook other) => Kept is { } now && other.Kept is { } was && now < was - Noticed;
}

/// <summary>What the sampled futures of a shop say.</summary>
public sealed record Outlook(IReadOnlyDictionary<string, BuildOutlook> Builds)
{
    public const int Futures = 1_000;
    private const int MostRisks = 5;

    /// <summary>
    /// Samples futures: in each, one bias per trade and per supplier that all their work shares, then each operation's
    /// own spread; everything is then planned in the order of the plan.
    /// </summary>
    /// <remarks>
    /// The same problem and seed give the same outlook, however many threads work. Source: Monte Carlo of two-sided
    /// lognormal durations over the serial decoder.
    /// </remarks>
    public static Outlook Of(PlanProblem problem, Beliefs beliefs, int futures = Futures, int seed = 1, int threads = 2)
    {
        var run = new PlanRun(problem);
        var sampler = new FutureSampler(problem, run.Shop, beliefs);
        var partly = Partly(run);
        var finishes = new int[problem.Builds.Count][];
        for (var b = 0; b < finishes.Length; b++)
        {
            finishes[b] = new int[futures];
        }

        var sums = new RiskSums[Math.Max(1, threads)];
        Parallel.For(0, sums.Length, new ParallelOptions { MaxDegreeOfParallelism = sums.Length }, t =>
        {
            sums[t] = new(run.Shop.Model);
            var (work, release) = (new int[run.Shop.Model.Count], new int[run.Shop.Model.Count]);
            var decoder = new Decoder(run.Shop.Model) { Work = work, Lenient = true };
            decoder.Release(release);
            for (var i = t; i < futures; i += sums.Length)
            {
                sampler.Draw(seed * 1_000_003 + i, work, release);
                decoder.Decode(run.Order);
                for (var b = 0; b < finishes.Length; b++)
                {
                    finishes[b][i] = decoder.BuildEnd[b];
                }

                sums[t].Add(work, decoder.BuildEnd);
            }
        });

        var all = sums.Aggregate((a, b) => a.With(b));
        return new(
            problem
                .Builds.Select((b, i) => Build(problem, run.Shop, b, i, finishes[i], all, partly.Contains(i)))
                .ToDictionary(o => o.Build)
        );
    }

    private static BuildOutlook Build(
        PlanProblem problem,
        ShopModel shop,
        PlanBuild build,
        int number,
        int[] finishes,
        RiskSums sums,
        bool partly
    )
    {
        var sorted = finishes.Select(f => (double)f).Order().ToList();
        long At(double p) => problem.Now + (long)Math.Ceiling(Quantile.Of(sorted, p));
        var risks = Enumerable
            .Range(0, shop.Model.Count)
            .Where(o => shop.Model.Build[o] == number)
            .Select(o => new RiskCarrier(shop.IdOf(o), Math.Round(sums.Pull(o, number) / 1440, 1)))
            .Where(r => r.Days > 0)
            .OrderByDescending(r => r.Days)
            .Take(MostRisks)
            .ToList();
        double? kept =
            !partly && build.Due is { } due
                ? finishes.Count(f => problem.Now + f <= due) / (double)finishes.Length
                : null;
        return new(build.Id, At(0.5), At(0.8), At(0.9), kept, risks)
        {
            Partly = partly,
            P20 = At(0.2),
            P95 = At(0.95),
        };
    }

    /// <summary>Builds that have work without a date.</summary>
    private static HashSet<int> Partly(PlanRun run)
    {
        var decoder = new Decoder(run.Shop.Model);
        decoder.Decode(run.Order);
        var schedule = decoder.Schedule();
        return
        [
            .. Enumerable
                .Range(0, run.Shop.Model.Count)
                .Where(o => schedule.Start[o] >= Model.Parked)
                .Select(o => run.Shop.Model.Build[o]),
        ];
    }
}

/// <summary>Draws the durations and dates of one future.</summary>
internal sealed class FutureSampler
{
    private readonly ShopModel _shop;
    private readonly List<(string Key, Belief Belief)> _biases = [];
    private readonly int[] _biasOf;
    private readonly (double Below, double Above)[] _spread;
    private readonly int[] _longest;

    /// <summary>By build and stage: the last planned work of each of its trades, with the minutes planned in that
    /// trade. What is found comes after it.</summary>
    private readonly List<(int Last, int Minutes)[]> _stages;

    private readonly double _foundShare;
    private readonly List<(int Operation, int At, int Bias, double Spread)> _dates = [];

    public FutureSampler(PlanProblem problem, ShopModel shop, Beliefs beliefs)
    {
        _shop = shop;
        var (model, at) = (shop.Model, new Dictionary<string, int>());
        var longest = new Dictionary<(int[], bool), int>();
        (_stages, _foundShare) = (Stages(shop), problem.FoundShare);
        (_biasOf, _spread, _longest) = (new int[model.Count], new (double, double)[model.Count], new int[model.Count]);
        for (var o = 0; o < model.Count; o++)
        {
            var operation = shop.Operations[o];
            _biasOf[o] =
                operation.Trade is { } trade
                    ? Bias("trade " + trade, beliefs.Trades.GetValueOrDefault(trade, Belief.Prior))
                : operation.Supplier is { } s
                    ? Bias("supplier " + s, beliefs.Suppliers.GetValueOrDefault(s, Belief.Prior))
                : -1;
            var own = _biasOf[o] < 0 ? 0 : _biases[_biasOf[o]].Belief.Spread;
            _spread[o] =
                operation is { Low: { } low, High: { } high } && low > 0 && operation.Minutes > 0
                    ? (
                        Math.Log(operation.Minutes / Math.Min(low, operation.Minutes)) / Learned.Z80,
                        Math.Log(Math.Max(high, operation.Minutes) / operation.Minutes) / Learned.Z80
                    )
                    : (own, own);
            _longest[o] =
                operation.WithoutStop && model.Crew[o].Length > 0
                    ? Math.Max(model.Work[o], LongestOf(o))
                    : int.MaxValue;
            foreach (
                var wait in operation.Waits.Where(w =>
                    w is { Supplier: not null, Until: not null } && w.Until > problem.Now
                )
            )
            {
                var belief = beliefs.Suppliers.GetValueOrDefault(wait.Supplier!, Belief.Prior);
                _dates.Add(
                    (
                        o,
                        (int)(wait.Until!.Value - problem.Now),
                        Bias("supplier " + wait.Supplier, belief),
                        belief.Spread
                    )
                );
            }
        }

        int LongestOf(int o)
        {
            var key = (model.Crew[o][0].Classes, shop.Operations[o].ThroughBreak);
            return longest.TryGetValue(key, out var minutes) ? minutes : longest[key] = Longest(problem, shop, o);
        }

        int Bias(string key, Belief belief)
        {
            if (!at.TryGetValue(key, out var i))
            {
                i = at[key] = _biases.Count;
                _biases.Add((key, belief));
            }

            return i;
        }
    }

    private static List<(int, int)[]> Stages(ShopModel shop) =>
        [
            .. Enumerable
                .Range(0, shop.Model.Count)
                .Where(o => shop.Operations[o] is { Stage: not null, Trade: not null, Minutes: > 0 })
                .GroupBy(o => (shop.Model.Build[o], shop.Operations[o].Stage))
                .Select(stage =>
                    stage
                        .GroupBy(o => shop.Operations[o].Trade)
                        .Select(trade => (Last(shop, trade), trade.Sum(o => (int)shop.Operations[o].Minutes)))
                        .ToArray()
                ),
        ];

    /// <summary>The last of a sequence that can grow: work that must not stop is as long as a shift lets it.</summary>
    private static int Last(ShopModel shop, IEnumerable<int> operations) =>
        operations.OrderBy(o => shop.Operations[o].WithoutStop ? 0 : 1).ThenBy(o => o).Last();

    /// <summary>Fills in one future.</summary>
    public void Draw(int seed, int[] work, int[] release)
    {
        var deviates = new Deviates(seed);
        Span<double> bias = stackalloc double[_biases.Count];
        for (var i = 0; i < bias.Length; i++)
        {
            bias[i] = _biases[i].Belief.Mean + _biases[i].Belief.Sd * deviates.Next();
        }

        var model = _shop.Model;
        model.Release.CopyTo(release, 0);
        for (var o = 0; o < work.Length; o++)
        {
            if (_biasOf[o] < 0 || model.Work[o] == 0)
            {
                work[o] = model.Work[o];
                continue;
            }

            var z = deviates.Next();
            var factor = Math.Exp(bias[_biasOf[o]] + z * (z < 0 ? _spread[o].Below : _spread[o].Above));
            work[o] = (int)Math.Clamp(model.Work[o] * factor, 1, _longest[o]);
        }

        for (var s = 0; s < _stages.Count && _foundShare > 0; s++)
        {
            var share = Labour.FoundWork.Drawn(_foundShare, deviates.Next());
            foreach (var (last, minutes) in _stages[s])
            {
                work[last] = (int)Math.Min(work[last] + share * minutes, _longest[last]);
            }
        }

        foreach (var (o, at, b, spread) in _dates)
        {
            var came = (int)Math.Min(Hours.Horizon / 4, at * Math.Exp(bias[b] + spread * deviates.Next()));
            if (_shop.SinceOf(o).Count == 1)
            {
                release[o] = came;
            }
            else
            {
                release[o] =
                    release[o] == at
                        ? _shop.SinceOf(o).Where(s => s.At != at).Select(s => s.At).Append(came).Max()
                        : Math.Max(release[o], came);
            }
        }
    }

    /// <summary>The longest that work without a stop can be in somebody's shift.</summary>
    private static int Longest(PlanProblem problem, ShopModel shop, int o)
    {
        var (low, high) = (0, Math.Max(shop.Model.Work[o], problem.Calendar.LongestShift));
        while (low < high)
        {
            var middle = (low + high + 1) / 2;
            var fits = shop
                .Model.Crew[o][0]
                .Classes.Any(p =>
                    shop.Hours.Of(p)
                        .NextWithoutStop(
                            0,
                            (int)Math.Ceiling(middle * problem.People[p].Pace),
                            shop.Operations[o].ThroughBreak
                        ) < Hours.Horizon
                );
            (low, high) = fits ? (middle, high) : (low, middle - 1);
        }

        return low;
    }
}

/// <summary>How durations and finishes go together over the futures.</summary>
internal sealed class RiskSums(Model model)
{
    private readonly double[] _work = new double[model.Count];
    private readonly double[] _workSquared = new double[model.Count];
    private readonly double[] _both = new double[model.Count];
    private readonly double[] _finish = new double[model.Builds];
    private int _count;

    public void Add(int[] work, ReadOnlySpan<int> finish)
    {
        _count++;
        for (var b = 0; b < _finish.Length; b++)
        {
            _finish[b] += finish[b];
        }

        for (var o = 0; o < work.Length; o++)
        {
            double w = work[o];
            _work[o] += w;
            _workSquared[o] += w * w;
            _both[o] += w * finish[model.Build[o]];
        }
    }

    public RiskSums With(RiskSums other)
    {
        Sum(_work, other._work);
        Sum(_workSquared, other._workSquared);
        Sum(_both, other._both);
        Sum(_finish, other._finish);
        _count += other._count;
        return this;
    }

    /// <summary>Minutes by which the finish moves with one standard deviation of an operation's duration; negative:
    /// none.</summary>
    public double Pull(int operation, int build)
    {
        if (_count < 2)
        {
            return 0;
        }

        var mean = _work[operation] / _count;
        var variance = _workSquared[operation] / _count - mean * mean;
        return variance < 1e-9 ? 0 : (_both[operation] / _count - mean * _finish[build] / _count) / Math.Sqrt(variance);
    }

    private static void Sum(double[] into, double[] from)
    {
        for (var i = 0; i < into.Length; i++)
        {
            into[i] += from[i];
        }
    }
}

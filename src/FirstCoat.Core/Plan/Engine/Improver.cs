using System.Diagnostics;

namespace FirstCoat.Core.Plan.Engine;

/// <summary>Solves parts of a problem exactly, where a search in small steps gets stuck.</summary>
internal interface IPartSolver
{
    /// <summary>Looks at a part of the schedule and puts it better; null where it finds nothing better.</summary>
    /// <param name="share">How much of the time is over, 0 to 1.</param>
    Schedule? Improve(
        Model model,
        Schedule schedule,
        Random random,
        double share,
        TimeSpan left,
        CancellationToken stop
    );

    /// <summary>Raises the value that no schedule can be better than, until stopped or equal to the best
    /// found.</summary>
    void Bound(
        Model model,
        Func<Schedule> best,
        Action<Schedule?, long, int> found,
        TimeSpan time,
        CancellationToken stop
    );
}

/// <summary>How an improvement is run.</summary>
/// <param name="Seconds">For how long; 0 only takes what the rules find.</param>
internal sealed record ImproverOptions(double Seconds, int Threads = 2, int Seed = 1)
{
    public IPartSolver? Solver { get; init; }

    /// <summary>Problems of so many operations are handed to the solver whole.</summary>
    public int WholeUpTo { get; init; } = 60;

    /// <summary>From so many operations on one search solves parts; below, another search by small steps brings
    /// more.</summary>
    public int PartsFrom { get; init; } = 800;

    /// <summary>Told whenever something better is found, from any thread.</summary>
    public Action<Schedule>? Found { get; init; }

    public CancellationToken Stop { get; init; }
}

/// <summary>Several searches side by side that share what is best.</summary>
internal sealed class Improver
{
    /// <summary>After each such share of the time a search that fell behind goes on from the best of all.</summary>
    private const int Rounds = 12;

    private readonly Model _model;
    private readonly ImproverOptions _options;
    private readonly Stopwatch _watch = Stopwatch.StartNew();
    private readonly object _lock = new();
    private Schedule _best;
    private readonly int[] _order;

    public Improver(Model model, int[] order, Schedule schedule, ImproverOptions options)
    {
        (_model, _order, _best, _options) = (model, order, schedule, options);
        BestOrder = order;
    }

    /// <summary>What no schedule can be better than, so far as it is known.</summary>
    public long LeastWeighted { get; private set; }

    public int LeastMakespan { get; private set; }

    /// <summary>The order behind the best.</summary>
    public int[] BestOrder { get; private set; }

    public Schedule Best
    {
        get
        {
            lock (_lock)
            {
                return _best;
            }
        }
    }

    /// <summary>Searches until the time is over, it is stopped, or nothing better can exist.</summary>
    public Schedule Run()
    {
        if (_options.Seconds <= 0 || Over())
        {
            return Best;
        }

        var threads = Enumerable
            .Range(1, Math.Max(0, _options.Threads - 1))
            .Select(i => new Thread(() => Work(i), 16 << 20)
            {
                IsBackground = true,
                Priority = ThreadPriority.BelowNormal,
            })
            .ToList();
        threads.ForEach(t => t.Start());
        Work(0);
        threads.ForEach(t => t.Join());
        return Best;
    }

    private double Share => _watch.Elapsed.TotalSeconds / _options.Seconds;

    private bool Over() =>
        _options.Stop.IsCancellationRequested
        || Share >= 1
        || Best.Value.CompareTo((LeastWeighted, LeastMakespan)) <= 0;

    private void Work(int number)
    {
        if (
            number == 1
            && _options.Solver is not null
            && (_model.Count <= _options.WholeUpTo || _model.Count >= _options.PartsFrom)
        )
        {
            Parts(new(_options.Seed));
        }
        else
        {
            Anneal(number);
        }
    }

    private void Anneal(int number)
    {
        var search = new ListSearch(_model, _order, Best, _options.Seed * 31 + number);
        var hot = Hot();
        var round = 0;
        while (!Over())
        {
            var share = Share;
            search.Heat = hot * Math.Pow(1 - share, 2);
            for (var i = 0; i < 20; i++)
            {
                search.Step();
            }

            Offer(search.Best, search.BestOrder);
            if (share * Rounds > round + 1)
            {
                round = (int)(share * Rounds);
                if (Best.BetterThan(search.Best))
                {
                    search.Adopt(Best);
                }
            }
        }
    }

    /// <summary>
    /// Of the lateness that a build has on average, what a first step may make worse: all of it in shops of up to so
    /// many operations, and less in larger ones, where each has fewer steps in the same time to cool down. Measured;
    /// see docs/planning.md.
    /// </summary>
    private const double HotUpTo = 500;

    /// <summary>The same for a single build, where every step moves the one end: a share of its length.</summary>
    private const double OneBuild = 0.005;

    private double Hot() =>
        _model.Builds == 1
            ? ListSearch.Unit * Math.Max(1, _model.Weight[0]) * Best.Makespan * OneBuild
            : ListSearch.Unit
                * (
                    Best.Weighted > 0
                        ? Math.Max(1, Best.Weighted * Math.Min(1, HotUpTo / _model.Count) / _model.Builds)
                        : 0
                )
                + Best.Makespan * 0.002;

    private void Parts(Random random)
    {
        if (_model.Count <= _options.WholeUpTo)
        {
            _options.Solver!.Bound(
                _model,
                () => Best,
                Told,
                TimeSpan.FromSeconds(_options.Seconds * (1 - Share)),
                _options.Stop
            );
        }

        while (!Over())
        {
            var left = TimeSpan.FromSeconds(_options.Seconds * (1 - Share));
            if (_options.Solver!.Improve(_model, Best, random, Share, left, _options.Stop) is { } better)
            {
                Offer(better);
            }
        }
    }

    private void Told(Schedule? schedule, long weighted, int makespan)
    {
        if (schedule is not null)
        {
            Offer(schedule);
        }

        lock (_lock)
        {
            LeastMakespan = weighted > LeastWeighted ? makespan : Math.Max(LeastMakespan, makespan);
            LeastWeighted = Math.Max(LeastWeighted, weighted);
        }
    }

    private void Offer(Schedule schedule, int[]? order = null)
    {
        lock (_lock)
        {
            if (!schedule.BetterThan(_best))
            {
                return;
            }

            _best = schedule;
            BestOrder = order ?? new Lists(_model).ByStart(schedule.Start);
        }

        _options.Found?.Invoke(schedule);
    }
}

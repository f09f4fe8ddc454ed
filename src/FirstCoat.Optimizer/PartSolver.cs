using FirstCoat.Core.Plan.Engine;

namespace FirstCoat.Optimizer;

/// <summary>
/// Frees a part of a schedule (some builds, or all that starts within some stretch of time), solves it with CP-SAT, and
/// lets everything else close up behind it.
/// </summary>
/// <remarks>Source: large neighbourhood search, P. Shaw, CP 1998; CP-SAT of OR-Tools as the solver.</remarks>
internal sealed class PartSolver : IPartSolver
{
    private double _builds = 40;
    private double _stretch = 40;
    private Decoder? _decoder;
    private Lists? _lists;
    private Model? _of;

    /// <summary>Problems up to so many operations are handed over whole.</summary>
    public const int Whole = 60;

    /// <inheritdoc />
    public Schedule? Improve(
        Model model,
        Schedule schedule,
        Random random,
        double share,
        TimeSpan left,
        CancellationToken stop
    )
    {
        if (!ReferenceEquals(_of, model))
        {
            (_of, _decoder, _lists) = (model, new(model), new(model));
        }

        var byTime = model.Builds == 1 || random.NextDouble() < 0.5;
        var free = byTime
            ? Stretch(model, schedule, random, (int)_stretch)
            : Builds(model, schedule, random, (int)_builds);
        var seconds = Math.Min(left.TotalSeconds, 0.6);
        if (seconds < 0.02)
        {
            Thread.Sleep(left > TimeSpan.Zero ? left : TimeSpan.Zero);
            return null;
        }

        _decoder!.Load(schedule);
        for (var c = 0; c < model.Clusters.Length; c++)
        {
            var first = model.Clusters[c].Operations[0];
            if (free[first] || (byTime && schedule.Start[first] >= _until))
            {
                _decoder.Book(model.Clusters[c], -1);
            }
        }

        var part = new SolverModel(
            model,
            schedule,
            free,
            [.. Enumerable.Range(0, model.Capacity.Length).Select(_decoder.Of)],
            byTime,
            schedule.Makespan + 200
        );
        var (solved, isDone, _) = part.Solve(seconds, random.Next(1 << 20), stop: stop);
        ref var size = ref byTime ? ref _stretch : ref _builds;
        size = Math.Clamp(size * (isDone ? 1.06 : 0.94), 8, 400);
        if (solved is null)
        {
            return null;
        }

        var closed = Closed(model, _decoder, _lists!, solved.Start, schedule);
        // What gave way had no place of its own in the solver; what stood fast is a schedule as it is.
        var best = !byTime && solved.Whole.BetterThan(closed) ? solved.Whole : closed;
        return best is not null && best.BetterThan(schedule) ? best : null;
    }

    /// <summary>The starts as an order, decoded again so that everything closes up; null: no schedule comes of
    /// it.</summary>
    private static Schedule? Closed(
        Model model,
        Decoder decoder,
        Lists lists,
        Dictionary<int, int> starts,
        Schedule? others
    )
    {
        var key = new double[model.Count];
        for (var o = 0; o < key.Length; o++)
        {
            key[o] = starts.TryGetValue(o, out var s) ? s : others?.Start[o] ?? 0;
        }

        decoder.Arrange(Array.ConvertAll(key, k => (int)k));
        return decoder.Decode(lists.ByKey(key)) ? decoder.Schedule() : null;
    }

    /// <inheritdoc />
    public void Bound(
        Model model,
        Func<Schedule> best,
        Action<Schedule?, long, int> found,
        TimeSpan time,
        CancellationToken stop
    )
    {
        var (decoder, lists) = (new Decoder(model), new Lists(model));
        var free = new bool[model.Count];
        Array.Fill(free, true);
        var part = new SolverModel(model, best(), free, null, open: false, best().Makespan + 50);
        var (solved, isDone, bound) = part.Solve(time.TotalSeconds, 1, s => Tell(s, 0, 0), stop: stop);
        var least = (long)Math.Ceiling(bound - 1e-6);
        if (least > 0)
        {
            Tell(solved, least / part.Scale, isDone ? (int)(least % part.Scale) : 0);
        }

        // The decoder may choose other people and lose what was found: the better of the two is told.
        void Tell(Solved? solution, long weighted, int makespan)
        {
            var closed = solution is null ? null : Closed(model, decoder, lists, solution.Start, null);
            found(
                solution is not null && solution.Whole.BetterThan(closed) ? solution.Whole : closed,
                weighted,
                makespan
            );
        }
    }

    private int _until;

    /// <summary>Whole clusters that start within a stretch which holds about so many operations.</summary>
    private bool[] Stretch(Model model, Schedule schedule, Random random, int size)
    {
        var order = Enumerable
            .Range(0, model.Clusters.Length)
            .OrderBy(c => schedule.Start[model.Clusters[c].Operations[0]])
            .ToArray();
        var free = new bool[model.Count];
        var count = 0;
        var from = random.Next(order.Length + size / 2) - size / 2;
        _until = int.MaxValue;
        for (var i = Math.Max(0, from); i < order.Length; i++)
        {
            var first = model.Clusters[order[i]].Operations[0];
            if (count >= size && schedule.Start[first] > schedule.Start[model.Clusters[order[i - 1]].Operations[0]])
            {
                _until = schedule.Start[first];
                break;
            }

            foreach (var o in model.Clusters[order[i]].Operations)
            {
                free[o] = true;
                count++;
            }
        }

        return free;
    }

    /// <summary>A late build and others beside it, from some instant on.</summary>
    private static bool[] Builds(Model model, Schedule schedule, Random random, int size)
    {
        var free = new bool[model.Count];
        var late = new long[model.Builds];
        for (var o = 0; o < model.Count; o++)
        {
            late[model.Build[o]] = Math.Max(
                late[model.Build[o]],
                (schedule.Finish[o] - model.Due[model.Build[o]]) * (long)model.Weight[model.Build[o]]
            );
        }

        var turns = Enumerable
            .Range(0, model.Builds)
            .OrderBy(b => random.NextDouble() - (late[b] > 0 ? 0.35 : 0))
            .ToArray();
        var from = random.NextDouble() < 0.4 ? 0 : random.Next(schedule.Makespan);
        var count = 0;
        foreach (var b in turns)
        {
            foreach (var cluster in model.Clusters)
            {
                if (model.Build[cluster.Operations[0]] == b && schedule.Start[cluster.Operations[0]] >= from)
                {
                    foreach (var o in cluster.Operations)
                    {
                        free[o] = true;
                        count++;
                    }
                }
            }

            if (count >= size)
            {
                break;
            }
        }

        return free;
    }
}

namespace FirstCoat.Core.Plan.Engine;

/// <summary>
/// First schedules: many rules of which goes first, the better ones pulled tight from both ends. What a manager's rule
/// of thumb would give, and more.
/// </summary>
/// <remarks>Sources: priority rules after R. Kolisch 1996; forward and backward passes after V. Valls, F. Ballestin, S.
/// Quintanilla, European Journal of Operational Research 165 (2005), with each build's own end as its
/// deadline.</remarks>
internal static class Rules
{
    /// <summary>The best order that the rules find; always the same for the same model.</summary>
    public static (int[] Order, Schedule Schedule)? Best(Model model, int seed = 1)
    {
        var decoder = new Decoder(model) { Strict = true };
        var lists = new Lists(model);
        var found = new List<(int[] Order, Schedule Schedule)>();
        foreach (var keys in Keys(model, seed))
        {
            Try(lists.ByKey(keys));
        }

        if (found.Count == 0)
        {
            return null;
        }

        var both = new Justify(model);
        foreach (
            var (_, schedule) in found.OrderBy(f => f.Schedule.Value).DistinctBy(f => f.Schedule.Value).Take(6).ToList()
        )
        {
            var last = schedule;
            for (var pass = 0; pass < 4; pass++)
            {
                if (both.Order(last) is not { } order || Try(order) is not { } next || !next.BetterThan(last))
                {
                    break;
                }

                last = next;
            }
        }

        return found.MinBy(f => f.Schedule.Value);

        Schedule? Try(int[] order)
        {
            if (!decoder.Decode(order))
            {
                return null;
            }

            found.Add((order, decoder.Schedule()));
            return found[^1].Schedule;
        }
    }

    /// <summary>What fifty rules alone give, as a measure of everything else.</summary>
    public static IEnumerable<Schedule> Fifty(Model model)
    {
        var (decoder, lists) = (new Decoder(model), new Lists(model));
        foreach (var keys in Keys(model, 1).Take(50))
        {
            if (decoder.Decode(lists.ByKey(keys)))
            {
                yield return decoder.Schedule();
            }
        }
    }

    private static IEnumerable<double[]> Keys(Model m, int seed)
    {
        var head = Heads(m);
        var work = new double[m.Builds];
        for (var o = 0; o < m.Count; o++)
        {
            work[m.Build[o]] += m.Work[o];
        }

        double Latest(int o) => m.Due[m.Build[o]] - m.Tail[o];
        double Weight(int o) => Math.Max(0.01, m.Weight[m.Build[o]]);
        var span = Math.Max(1.0, head.Zip(m.Tail, (h, t) => h + t).DefaultIfEmpty(1).Max());
        yield return Each(o => o);
        yield return Each(Latest);
        yield return Each(o => Latest(o) + m.Work[o]);
        yield return Each(o => m.Due[m.Build[o]]);
        yield return Each(o => -m.Tail[o]);
        yield return Each(o => head[o]);
        yield return Each(o => m.Due[m.Build[o]] / Weight(o));
        yield return Each(o => work[m.Build[o]] / Weight(o));
        yield return Each(o => -Weight(o) * 1e6 + Latest(o));
        yield return Each(o => m.Build[o] * 1e6 + head[o]);
        yield return Each(o => m.Due[m.Build[o]] * 1e3 + head[o]);
        yield return Each(o => work[m.Build[o]] / Weight(o) * 1e4 + head[o]);
        foreach (var share in new[] { 0.25, 0.5, 0.75 })
        {
            yield return Each(o => share * Latest(o) + (1 - share) * head[o]);
            yield return Each(o => share * m.Due[m.Build[o]] + (1 - share) * head[o]);
            yield return Each(o => Latest(o) - share * span * Math.Log(Weight(o)));
            yield return Each(o => m.Due[m.Build[o]] - share * span * Math.Log(Weight(o)) - m.Tail[o] * share);
        }

        var random = new Random(seed);
        for (var i = 0; i < 60; i++)
        {
            var (byBuild, a, b, c) = (
                new double[m.Builds],
                random.NextDouble(),
                random.NextDouble(),
                random.NextDouble() * 0.8
            );
            for (var k = 0; k < byBuild.Length; k++)
            {
                byBuild[k] = (random.NextDouble() - 0.5) * span * 0.4;
            }

            yield return Each(o =>
                a * Latest(o)
                + (1 - a) * head[o] * b
                - c * span * Math.Log(Weight(o))
                + byBuild[m.Build[o]]
                + random.NextDouble() * span * 0.03
            );
        }

        double[] Each(Func<int, double> key)
        {
            var keys = new double[m.Count];
            for (var o = 0; o < keys.Length; o++)
            {
                keys[o] = key(o);
            }

            return keys;
        }
    }

    /// <summary>The earliest start by dates, work and lags alone.</summary>
    internal static int[] Heads(Model m)
    {
        var head = m.Release.ToArray();
        var waiting = m.After.Select(a => a.Length).ToArray();
        var ready = new Queue<int>(Enumerable.Range(0, m.Count).Where(o => waiting[o] == 0));
        while (ready.TryDequeue(out var o))
        {
            foreach (var link in m.Before[o])
            {
                head[link.Other] = Math.Max(head[link.Other], head[o] + (link.FromStart ? 0 : m.Work[o]) + link.Lag);
                if (--waiting[link.Other] == 0)
                {
                    ready.Enqueue(link.Other);
                }
            }
        }

        return head;
    }
}

/// <summary>Pulls a schedule tight from its end: what is not urgent goes late, so that what is urgent finds room
/// early.</summary>
internal sealed class Justify
{
    private readonly Model _model;
    private readonly Lists _lists;
    private readonly Model? _backwards;
    private readonly Decoder? _decoder;
    private readonly Lists? _backLists;
    private readonly int[] _release;

    public Justify(Model model)
    {
        _model = model;
        _lists = new(model);
        _release = new int[model.Count];
        if (model.RoundTheClock)
        {
            _backwards = model.Reversed();
            _decoder = new(_backwards);
            _backLists = new(_backwards);
            _decoder.Release(_release);
        }
    }

    /// <summary>A new order: by the latest starts that keep every build's end, or its due date where that is
    /// later.</summary>
    public int[]? Order(Schedule schedule)
    {
        var ends = new int[_model.Builds];
        for (var o = 0; o < _model.Count; o++)
        {
            ends[_model.Build[o]] = Math.Max(ends[_model.Build[o]], schedule.Finish[o]);
        }

        for (var b = 0; b < ends.Length; b++)
        {
            ends[b] = Math.Max(ends[b], _model.Due[b]);
        }

        return Order(schedule, ends);
    }

    /// <summary>A new order by the latest starts that keep the ends given.</summary>
    public int[]? Order(Schedule schedule, int[] ends)
    {
        if (_backwards is null)
        {
            var slack = new double[_model.Count];
            for (var o = 0; o < slack.Length; o++)
            {
                slack[o] = ends[_model.Build[o]] - _model.Tail[o];
            }

            return _lists.ByKey(slack);
        }

        var last = Math.Max(schedule.Makespan, ends.Max());
        var back = new double[_model.Count];
        for (var o = 0; o < back.Length; o++)
        {
            _release[o] = last - ends[_model.Build[o]];
            back[o] = last - schedule.Finish[o];
        }

        if (!_decoder!.Decode(_backLists!.ByKey(back)))
        {
            return null;
        }

        for (var o = 0; o < back.Length; o++)
        {
            back[o] = last - _decoder.Finish[o];
        }

        return _lists.ByKey(back);
    }
}

namespace FirstCoat.Core.Plan.Engine;

/// <summary>
/// Searches for a better order by small changes, each decoded from where it differs: one operation to another place, a
/// build's operations sooner or later, two builds changing turns, the whole pulled tight from its end. A worse order is
/// accepted now and then, less and less.
/// </summary>
/// <remarks>Source: simulated annealing, S. Kirkpatrick and others, Science 220 (1983), over lists decoded
/// serially.</remarks>
internal sealed class ListSearch
{
    private readonly Model _model;
    private readonly Decoder _decoder;
    private readonly Lists _lists;
    private readonly Justify _justify;
    private readonly Random _random;
    private readonly int[] _place;
    private readonly int[] _trial;
    private readonly int[] _buildOf;
    private readonly bool _crossing;
    private readonly int[] _late;

    /// <summary>Places from here on belong to what only uses what is left.</summary>
    private readonly int _movable;
    private readonly int[] _tied;
    private int _rearranged = -1;
    private Cluster? _before;
    private readonly bool[] _marked;
    private readonly ulong[] _needs;
    private int[] _order;
    private double _cost;
    private int[] _ends;

    public ListSearch(Model model, int[] order, Schedule schedule, int seed)
    {
        (_model, _order, _random) = (model, [.. order], new(seed));
        (_decoder, _lists, _justify) = (new(model) { Strict = true }, new(model), new(model));
        (_place, _trial) = (new int[order.Length], new int[order.Length]);
        _buildOf = model.Clusters.Select(c => model.Build[c.Operations[0]]).ToArray();
        _crossing = Enumerable
            .Range(0, model.Count)
            .Any(o => model.After[o].Any(l => model.Build[l.Other] != model.Build[o]));
        _late = new int[model.Builds];
        _movable = order.Count(c => !model.IsFillIn(c));
        _tied = Enumerable
            .Range(0, order.Length)
            .Where(c => model.Clusters[c].Operations.Length > 2 && !model.IsFillIn(c))
            .ToArray();
        _ends = new int[model.Builds];
        _marked = new bool[order.Length];
        _needs = Needs(model);
        Best = schedule;
        BestOrder = _order;
        _decoder.Arrange(schedule.Start);
        Take(order);
        if (_cost == None)
        {
            model.Clusters.CopyTo(_decoder.Clusters, 0);
            Take(order);
        }
    }

    /// <summary>What each operation needs, a bit for each resource, so far as bits go.</summary>
    private static ulong[] Needs(Model model)
    {
        var needs = new ulong[model.Count];
        for (var o = 0; o < needs.Length; o++)
        {
            foreach (var c in model.Crew[o].SelectMany(n => n.Classes).Concat(model.Uses[o].Select(u => u.Resource)))
            {
                needs[o] |= 1UL << c;
            }
        }

        foreach (var hold in model.Holds)
        {
            needs[hold.Open] |= 1UL << hold.Resource;
            needs[hold.Close] |= 1UL << hold.Resource;
        }

        return needs;
    }

    public Schedule Best { get; private set; }

    public int[] BestOrder { get; private set; }

    public long Tried { get; private set; }

    /// <summary>How much worse an order may be and still be accepted now and then.</summary>
    public double Heat { get; set; }

    /// <summary>Continues from another schedule.</summary>
    public void Adopt(Schedule schedule)
    {
        if (schedule.BetterThan(Best))
        {
            (Best, BestOrder) = (schedule, _lists.ByStart(schedule.Start));
        }

        _decoder.Arrange(schedule.Start);
        Take(_lists.ByStart(schedule.Start));
    }

    /// <summary>Goes on from the best.</summary>
    public void Return() => Take(BestOrder);

    /// <summary>One change, kept or dropped.</summary>
    public void Step()
    {
        Tried++;
        _rearranged = -1;
        var from = Change();
        if (from < 0)
        {
            return;
        }

        var limit = _cost - Heat * Math.Log(1 - _random.NextDouble());
        if (
            !_decoder.Decode(_trial, from, (long)Math.Min(long.MaxValue / 4, limit / Unit + 1), trial: true)
            || Cost() > limit
        )
        {
            if (_rearranged >= 0)
            {
                _decoder.Clusters[_rearranged] = _before!;
            }

            return;
        }

        Accept();
    }

    internal const double Unit = 1 << 20;

    /// <summary>The cost where no order stands: whatever is found next is better.</summary>
    private const double None = 1e300;

    private double Cost() => _decoder.Weighted * Unit + _decoder.Makespan;

    private void Accept()
    {
        _decoder.Commit();
        _trial.CopyTo(_order, 0);
        Note();
    }

    private void Take(int[] order)
    {
        var stands = _decoder.Decode(order, mark: true);
        _order = [.. order];
        Note(stands);
    }

    private void Note(bool stands = true)
    {
        for (var i = 0; i < _order.Length; i++)
        {
            _place[_order[i]] = i;
        }

        _cost = stands ? Cost() : None;
        _decoder.BuildEnd.CopyTo(_ends);
        for (var b = 0; b < _late.Length; b++)
        {
            _late[b] = Math.Max(0, _ends[b] - _model.Due[b]);
        }

        if (stands && (_decoder.Weighted, _decoder.Makespan).CompareTo(Best.Value) < 0)
        {
            (Best, BestOrder) = (_decoder.Schedule(), [.. _order]);
        }
    }

    /// <summary>Writes a changed order into the trial.</summary>
    /// <returns>The first place that differs; negative: nothing was changed.</returns>
    private int Change()
    {
        var draw = _random.NextDouble();
        if (_tied.Length > 0 && draw < 0.04)
        {
            return Rearrange();
        }

        if (draw < CriticalShare)
        {
            return Unblock();
        }

        draw = _random.NextDouble();
        if (_model.Builds == 1 || _crossing || draw < 0.4)
        {
            return MoveOne();
        }

        return draw < 0.7 ? ShiftBuild()
            : draw < 0.995 ? ChangeTurns()
            : Tighten();
    }

    private const double CriticalShare = 0.6;

    /// <summary>Follows what makes a late build late back to somebody or something it had to wait for, and changes
    /// those turns.</summary>
    private int Unblock()
    {
        var start = _decoder.MarkedStart;
        var finish = _decoder.MarkedFinish;
        var o = LastOf(LateBuild(), finish);
        for (var depth = 0; depth < 200; depth++)
        {
            var (ready, before) = (_model.Release[o], -1);
            foreach (var link in _model.After[o])
            {
                var at = (link.FromStart ? start[link.Other] : finish[link.Other]) + link.Lag;
                if (at >= ready)
                {
                    (ready, before) = (at, link.Other);
                }
            }

            if (start[o] > ready && Blocker(o, start[o], finish) is var blocker and >= 0)
            {
                if (_random.NextDouble() < 0.3)
                {
                    return _random.NextDouble() < 0.6
                        ? Past(_model.ClusterOf[o], _model.ClusterOf[blocker], sooner: true)
                        : Past(_model.ClusterOf[blocker], _model.ClusterOf[o], sooner: false);
                }

                before = before < 0 || _random.NextDouble() < 0.5 ? blocker : before;
            }

            if (before < 0)
            {
                return -1;
            }

            o = before;
        }

        return -1;
    }

    private int LateBuild()
    {
        var total = 0L;
        for (var b = 0; b < _late.Length; b++)
        {
            total += (long)_late[b] * _model.Weight[b];
        }

        if (total == 0)
        {
            var last = 0;
            for (var b = 1; b < _ends.Length; b++)
            {
                last = _ends[b] > _ends[last] ? b : last;
            }

            return last;
        }

        var draw = _random.NextInt64(total);
        for (var b = 0; ; b++)
        {
            draw -= (long)_late[b] * _model.Weight[b];
            if (draw < 0)
            {
                return b;
            }
        }
    }

    private int LastOf(int build, ReadOnlySpan<int> finish)
    {
        for (var o = 0; o < finish.Length; o++)
        {
            if (_model.Build[o] == build && finish[o] == _ends[build])
            {
                return o;
            }
        }

        return 0;
    }

    private int Blocker(int o, int start, ReadOnlySpan<int> finish)
    {
        var (found, seen) = (-1, 0);
        for (var p = 0; p < finish.Length; p++)
        {
            if (finish[p] == start && (_needs[p] & _needs[o]) != 0 && _random.Next(++seen) == 0)
            {
                found = p;
            }
        }

        return found;
    }

    /// <summary>
    /// A cluster comes just before another that now comes sooner, and so does what it waits for; or just after one that
    /// now comes later, and so does what waits for it.
    /// </summary>
    private int Past(int c, int other, bool sooner)
    {
        var (low, high) = sooner ? (_place[other], _place[c]) : (_place[c], _place[other]);
        if (low >= high || high >= _movable)
        {
            return -1;
        }

        var (along, step, end) = sooner ? (_model.ClusterAfter, -1, low) : (_model.ClusterBefore, 1, high);
        Array.Clear(_marked);
        _marked[c] = true;
        for (var i = _place[c]; i != end; i += step)
        {
            if (_marked[_order[i]])
            {
                foreach (var p in along[_order[i]])
                {
                    _marked[p] = true;
                }
            }
        }

        return _marked[other] ? -1 : Part(low, high, markedFirst: sooner);
    }

    /// <summary>Within a stretch all that is marked comes first, or last; otherwise the order stays.</summary>
    private int Part(int low, int high, bool markedFirst)
    {
        _order.CopyTo(_trial, 0);
        var at = low;
        foreach (var turn in new[] { markedFirst, !markedFirst })
        {
            for (var i = low; i <= high; i++)
            {
                if (_marked[_order[i]] == turn)
                {
                    _trial[at++] = _order[i];
                }
            }
        }

        return low;
    }

    /// <summary>One operation of a tied cluster comes sooner among the others.</summary>
    private int Rearrange()
    {
        var c = _tied[_random.Next(_tied.Length)];
        var mine = _decoder.Clusters[c].Operations;
        var (i, j) = (_random.Next(mine.Length), _random.Next(mine.Length));
        (i, j) = (Math.Min(i, j), Math.Max(i, j));
        foreach (var link in _model.After[mine[j]])
        {
            i = Math.Max(i, Array.IndexOf(mine, link.Other) + 1);
        }

        if (i >= j)
        {
            return -1;
        }

        var other = mine.ToArray();
        Array.Copy(mine, i, other, i + 1, j - i);
        other[i] = mine[j];
        (_rearranged, _before) = (c, _decoder.Clusters[c]);
        _decoder.Clusters[c] = _before with { Operations = other };
        _order.CopyTo(_trial, 0);
        return _place[c];
    }

    private int MoveOne()
    {
        var c = _random.NextDouble() < 0.5 ? OfLateBuild() : _random.Next(_movable);
        var at = _place[c];
        if (at >= _movable)
        {
            return -1;
        }

        var (low, high) = (0, _movable - 1);
        foreach (var p in _model.ClusterAfter[c])
        {
            low = Math.Max(low, _place[p] + 1);
        }

        foreach (var n in _model.ClusterBefore[c])
        {
            high = Math.Min(high, _place[n] - 1);
        }

        var reach = 1 + (int)(_movable * 0.5 * Math.Pow(_random.NextDouble(), 3));
        (low, high) = (Math.Max(low, at - reach), Math.Min(high, at + reach));
        if (low >= high)
        {
            return -1;
        }

        var to = low + _random.Next(high - low);
        to += to >= at ? 1 : 0;
        _order.CopyTo(_trial, 0);
        if (to < at)
        {
            Array.Copy(_order, to, _trial, to + 1, at - to);
        }
        else
        {
            Array.Copy(_order, at + 1, _trial, at, to - at);
        }

        _trial[to] = c;
        return Math.Min(at, to);
    }

    private int OfLateBuild()
    {
        for (var i = 0; i < 8; i++)
        {
            var c = _random.Next(_movable);
            if (_late[_buildOf[c]] > 0)
            {
                return c;
            }
        }

        return _random.Next(_movable);
    }

    /// <summary>The operations of a build from some place on come sooner, or up to it later.</summary>
    private int ShiftBuild()
    {
        var pivot = _random.Next(_movable);
        var build = _buildOf[_late[_buildOf[_order[pivot]]] > 0 ? _order[pivot] : OfLateBuild()];
        var sooner = _random.NextDouble() < 0.65;
        var by = 1 + (int)(_movable * 0.4 * Math.Pow(_random.NextDouble(), 2));
        var width = 1 + (int)(_movable * Math.Pow(_random.NextDouble(), 2));
        var (low, high) = sooner
            ? (Math.Max(0, pivot - by), Math.Min(_movable, pivot + width))
            : (Math.Max(0, pivot - width), Math.Min(_movable, pivot + by));
        // Sooner: those within the stretch from the pivot on go as far forward as the build's own before the pivot let
        // them.
        _order.CopyTo(_trial, 0);
        var at = low;
        if (sooner)
        {
            // Merge: others keep their order; the build's come `by` places sooner.
            var own = new Queue<int>();
            for (var i = low; i < high; i++)
            {
                if (_buildOf[_order[i]] == build)
                {
                    own.Enqueue(i);
                }
            }

            for (var i = low; i < high; i++)
            {
                while (own.TryPeek(out var j) && j - by <= i)
                {
                    _trial[at++] = _order[own.Dequeue()];
                }

                if (_buildOf[_order[i]] != build)
                {
                    _trial[at++] = _order[i];
                }
            }

            return First(low);
        }

        var later = new Queue<int>();
        for (var i = low; i < high; i++)
        {
            if (_buildOf[_order[i]] == build)
            {
                later.Enqueue(i);
            }
            else
            {
                _trial[at++] = _order[i];
            }

            while (later.TryPeek(out var j) && j + by <= i)
            {
                _trial[at++] = _order[later.Dequeue()];
            }
        }

        while (later.TryDequeue(out var j))
        {
            _trial[at++] = _order[j];
        }

        return First(low);
    }

    /// <summary>Within a stretch, the turns of two builds: all of one first, then all of the other.</summary>
    private int ChangeTurns()
    {
        var low = _random.Next(_movable);
        var high = Math.Min(_movable, low + 2 + (int)(_movable * Math.Pow(_random.NextDouble(), 2)));
        var one = _buildOf[_order[low]];
        var other = _buildOf[OfLateBuild()];
        if (one == other)
        {
            return -1;
        }

        _order.CopyTo(_trial, 0);
        var at = Next(low, one, other);
        foreach (var build in new[] { other, one })
        {
            for (var i = low; i < high; i++)
            {
                if (_buildOf[_order[i]] == build)
                {
                    _trial[at] = _order[i];
                    at = Next(at + 1, one, other);
                }
            }
        }

        return First(low);
    }

    private int Next(int at, int one, int other)
    {
        while (at < _movable && _buildOf[_order[at]] != one && _buildOf[_order[at]] != other)
        {
            at++;
        }

        return at;
    }

    private int First(int low)
    {
        while (low < _movable && _trial[low] == _order[low])
        {
            low++;
        }

        return low == _movable ? -1 : low;
    }

    private int Tighten()
    {
        _decoder.Decode(_order);
        if (_justify.Order(_decoder.Schedule()) is not { } order)
        {
            return -1;
        }

        order.CopyTo(_trial, 0);
        return First(0);
    }
}

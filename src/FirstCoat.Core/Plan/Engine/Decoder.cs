namespace FirstCoat.Core.Plan.Engine;

/// <summary>Who was taken for an operation: so many of a class.</summary>
internal readonly record struct Taken(int Class, int Count);

/// <summary>
/// Turns an order of clusters into a schedule: each in its turn as early as everything placed before it allows, also
/// into gaps that those left. Source: serial schedule generation, R. Kolisch, European Journal of Operational Research
/// 90 (1996).
/// </summary>
/// <remarks>Not safe for several threads; make one for each.</remarks>
internal sealed partial class Decoder
{
    /// <summary>How often the operations of a cluster are moved before it is given up; each time something moves
    /// later.</summary>
    private const int MostTries = 20_000;

    /// <summary>In a future that is only imagined a window that is not kept after so many moves is let go, and so many
    /// more are made without it.</summary>
    private const int FewTries = 20;

    private readonly Model _model;
    private readonly Profile[] _profiles;
    private readonly int[] _earliest;
    private readonly int[] _free;
    private readonly int[] _buildEnd;

    /// <summary>Before which no build can end any more, by what is placed and the longest way on from there; and the
    /// weighted lateness of that.</summary>
    private readonly int[] _leastEnd;

    private long _leastWeighted;

    /// <summary>Whether the longest way is a bound: nobody is quicker than the work is long, and all of it gets a
    /// date.</summary>
    private readonly bool _boundsByTail;
    private readonly Dictionary<(Hours, Hours), Hours> _together = [];
    private readonly Dictionary<int, IReadOnlyList<(int From, int To)>> _pieces = [];
    private readonly long[] _spent;

    /// <summary>Until when each resource is known to be taken, side by side for a quick look at many people.</summary>
    private readonly int[] _taken;
    private readonly int _end;
    private readonly Hours[]? _axis;
    private int[] _release;

    public Decoder(Model model)
    {
        _model = model;
        _release = model.Release;
        _axis = model.Axis;

        // Beyond the horizon nobody's hours are known; where nobody has hours, time is as long as numbers are.
        _end = model.RoundTheClock && !model.Parks ? Model.Parked : Hours.Horizon;
        _profiles = model.Capacity.Select(c => new Profile(c)).ToArray();
        (Start, Finish) = (new int[model.Count], new int[model.Count]);
        Crew = new Taken[model.CrewAt[^1]];
        _earliest = new int[model.Count];
        _free = new int[model.Capacity.Length];
        (_buildEnd, _leastEnd) = (new int[model.Builds], new int[model.Builds]);
        _boundsByTail = model is { Parks: false, Pace: null };
        _spent = new long[model.Builds];
        _taken = new int[model.Capacity.Length];
        Clusters = [.. model.Clusters];
        _marks = [];
        _vehicles = model.Vehicles;
        _coveredFrom = new int[Clusters.Length];
        (_left, _undated, _came) = (new int[model.Builds], new bool[model.Builds], new bool[Clusters.Length]);
        _stays = [.. Enumerable.Range(0, _vehicles is null ? 0 : model.Builds).Select(_ => new List<Stay>())];
        _changes = [.. _stays.Select(_ => new List<(int At, int Operation)>())];
        if (_vehicles is not null)
        {
            StandAtFirst(book: false);
        }
    }

    /// <summary>The model's, each in the turns in which this places its operations.</summary>
    public Cluster[] Clusters { get; }

    public int[] Start { get; }

    public int[] Finish { get; }

    public Taken[] Crew { get; }

    /// <summary>Starts of the last whole run with marks.</summary>
    public ReadOnlySpan<int> MarkedStart => _markedStart;

    public ReadOnlySpan<int> MarkedFinish => _markedFinish;

    /// <summary>Weighted lateness of the builds, of those operations that are placed.</summary>
    public long Weighted { get; private set; }

    /// <summary>The end of the last operation placed.</summary>
    public int Makespan { get; private set; }

    /// <summary>Durations of one future; null: those of the model.</summary>
    public int[]? Work { get; set; }

    /// <summary>Whether windows are let go that other durations make hard to keep.</summary>
    public bool Lenient { get; init; }

    /// <summary>Whether an order is none that loses a window which finished work opened, or a deadline that is to be
    /// kept.</summary>
    public bool Strict { get; init; }

    /// <summary>What windows that were let go brought with them in the cluster that is being placed: whose time, and
    /// which of it.</summary>
    private readonly List<(int Person, int From, int To)> _again = [];

    public ReadOnlySpan<int> BuildEnd => _buildEnd;

    public Profile Of(int resource) => _profiles[resource];

    /// <summary>Other dates before which operations cannot begin, for backward passes.</summary>
    public void Release(int[] release) => _release = release;

    private sealed record Mark(
        Profile[] Profiles,
        int[] BuildEnd,
        int[] LeastEnd,
        long[] Spent,
        long Weighted,
        long LeastWeighted,
        int Makespan
    )
    {
        public Standing? Standing { get; init; }
    }

    /// <summary>Where vehicles stand and what waits for a place, in the middle of a run.</summary>
    private sealed record Standing(
        Stay[][] Stays,
        (int At, int Operation)[][] Changes,
        int[] Left,
        bool[] Undated,
        bool[] Came,
        int[] Deferred
    );

    private readonly List<Mark> _marks;

    /// <summary>Marks of a run that is only tried, and from which to which they reach.</summary>
    private readonly List<Mark> _tried = [];

    private (int From, int To) _triedMarks;
    private int[] _markedStart = [];
    private int[] _markedFinish = [];
    private Taken[] _markedCrew = [];
    private const int MarkEvery = 48;
    private int _marked;

    /// <summary>Places all clusters in an order that keeps every link.</summary>
    /// <param name="from">Places before this one are as in the last whole run of <see cref="Decode"/> with
    /// marks.</param>
    /// <param name="limit">Given up as soon as the weighted lateness must be above it.</param>
    /// <param name="mark">Whether later runs may begin in the middle of this one.</param>
    /// <param name="trial">Whether they may once <see cref="Commit"/> says so.</param>
    /// <returns>Whether everything was placed.</returns>
    public bool Decode(
        ReadOnlySpan<int> order,
        int from = 0,
        long limit = long.MaxValue,
        bool mark = false,
        bool trial = false
    )
    {
        var begin = Math.Min(from / MarkEvery, _marked);
        if (begin == 0)
        {
            Empty();
            _marked = mark ? 0 : _marked;
        }
        else
        {
            Restore(_marks[begin - 1]);
            _markedStart.CopyTo(Start, 0);
            _markedFinish.CopyTo(Finish, 0);
            _markedCrew.CopyTo(Crew, 0);
        }

        _triedMarks = (begin, begin);
        for (var i = begin * MarkEvery; i < order.Length; i++)
        {
            if ((mark || trial) && i > 0 && i % MarkEvery == 0 && i / MarkEvery > begin)
            {
                Keep(i / MarkEvery, trial);
            }

            if (!Step(order[i]) || _leastWeighted > limit)
            {
                _marked = mark ? 0 : _marked;
                return false;
            }
        }

        if (_deferred.Count > 0 && !PlaceDeferred(limit))
        {
            _marked = mark ? 0 : _marked;
            return false;
        }

        if (mark)
        {
            Remember();
        }

        return true;
    }

    /// <summary>The last run was tried, and everything was placed: from now on later runs may begin in the middle of
    /// it.</summary>
    public void Commit()
    {
        for (var i = _triedMarks.From; i < _triedMarks.To; i++)
        {
            if (i < _marks.Count)
            {
                (_marks[i], _tried[i]) = (_tried[i], _marks[i]);
            }
            else
            {
                _marks.Add(_tried[i]);
                _tried[i] = NewMark();
            }
        }

        _marked = _triedMarks.To;
        Remember();
    }

    private void Remember()
    {
        if (_markedStart.Length < Start.Length)
        {
            (_markedStart, _markedFinish, _markedCrew) = (
                new int[Start.Length],
                new int[Start.Length],
                new Taken[Crew.Length]
            );
        }

        Start.CopyTo(_markedStart, 0);
        Finish.CopyTo(_markedFinish, 0);
        Crew.CopyTo(_markedCrew, 0);
    }

    /// <summary>The schedule as it stands after <see cref="Decode"/>.</summary>
    public Schedule Schedule() =>
        new([.. Start], [.. Finish], [.. Crew], Weighted, Makespan)
        {
            Pieces = new Dictionary<int, IReadOnlyList<(int From, int To)>>(_pieces),
            Stays = _vehicles is null ? [] : Tidied(),
        };

    private void Empty()
    {
        Array.ForEach(_profiles, p => p.Clear());
        Array.Clear(_buildEnd);
        Array.Clear(_leastEnd);
        Array.Clear(_spent);
        Array.Fill(_taken, int.MinValue);
        foreach (var closed in _model.Closed)
        {
            _profiles[closed.Resource].Add(closed.From, closed.To, closed.Amount);
        }

        (Weighted, Makespan) = (0, 0);
        for (var b = 0; b < _buildEnd.Length; b++)
        {
            Weighted += _model.Weight[b] * (long)Math.Max(0, -_model.Due[b]);
        }

        _leastWeighted = Weighted;
        if (_vehicles is not null)
        {
            StandAtFirst(book: true);
        }
    }

    private Mark NewMark() =>
        new(
            _profiles.Select(p => new Profile(p.Capacity)).ToArray(),
            new int[_buildEnd.Length],
            new int[_buildEnd.Length],
            new long[_spent.Length],
            0,
            0,
            0
        );

    private void Keep(int number, bool trial)
    {
        var marks = trial ? _tried : _marks;
        while (marks.Count < number)
        {
            marks.Add(NewMark());
        }

        var mark = marks[number - 1];
        for (var r = 0; r < _profiles.Length; r++)
        {
            mark.Profiles[r].CopyFrom(_profiles[r]);
        }

        _buildEnd.CopyTo(mark.BuildEnd, 0);
        _leastEnd.CopyTo(mark.LeastEnd, 0);
        _spent.CopyTo(mark.Spent, 0);
        marks[number - 1] = mark with
        {
            Weighted = Weighted,
            LeastWeighted = _leastWeighted,
            Makespan = Makespan,
            Standing = _vehicles is null
                ? null
                : new(
                    Array.ConvertAll(_stays, s => s.ToArray()),
                    Array.ConvertAll(_changes, c => c.ToArray()),
                    [.. _left],
                    [.. _undated],
                    [.. _came],
                    [.. _deferred]
                ),
        };
        if (trial)
        {
            _triedMarks.To = number;
        }
        else
        {
            _marked = number;
        }
    }

    private void Restore(Mark mark)
    {
        for (var r = 0; r < _profiles.Length; r++)
        {
            _profiles[r].CopyFrom(mark.Profiles[r]);
            _taken[r] = _profiles[r].End;
        }

        mark.BuildEnd.CopyTo(_buildEnd, 0);
        mark.LeastEnd.CopyTo(_leastEnd, 0);
        mark.Spent.CopyTo(_spent, 0);
        (Weighted, _leastWeighted, Makespan) = (mark.Weighted, mark.LeastWeighted, mark.Makespan);
        if (mark.Standing is { } standing)
        {
            for (var b = 0; b < _stays.Length; b++)
            {
                _stays[b].Clear();
                _stays[b].AddRange(standing.Stays[b]);
                _changes[b].Clear();
                _changes[b].AddRange(standing.Changes[b]);
            }

            standing.Left.CopyTo(_left, 0);
            standing.Undated.CopyTo(_undated, 0);
            standing.Came.CopyTo(_came, 0);
            _deferred.Clear();
            _deferred.AddRange(standing.Deferred);
            _undo.Clear();
        }
    }

    /// <summary>Places the operations of tied clusters in the order of what is given for each.</summary>
    public void Arrange(ReadOnlySpan<int> start)
    {
        var keys = start.ToArray();
        for (var c = 0; c < Clusters.Length; c++)
        {
            if (Clusters[c].Operations.Length > 2)
            {
                Clusters[c] = Inside.ByKey(_model, _model.Clusters[c], o => keys[o]);
            }
        }
    }

    /// <summary>Places what a schedule says.</summary>
    public void Load(Schedule schedule)
    {
        Empty();
        _marked = 0;
        schedule.Start.CopyTo(Start, 0);
        schedule.Finish.CopyTo(Finish, 0);
        schedule.Crew.CopyTo(Crew, 0);
        for (var c = 0; c < Clusters.Length; c++)
        {
            Book(Clusters[c], 1);
            foreach (var o in Clusters[c].Operations)
            {
                Count(o);
            }
        }
    }

    /// <summary>An operation as a schedule has it, not yet booked.</summary>
    public void Restore(int o, Schedule schedule)
    {
        (Start[o], Finish[o]) = (schedule.Start[o], schedule.Finish[o]);
        schedule
            .Crew.AsSpan(_model.CrewAt[o], _model.CrewAt[o + 1] - _model.CrewAt[o])
            .CopyTo(Crew.AsSpan(_model.CrewAt[o]));
        if (schedule.Pieces.TryGetValue(o, out var pieces))
        {
            _pieces[o] = pieces;
        }
    }

    /// <summary>Takes a cluster out, or puts it in where <see cref="Start"/>, <see cref="Finish"/> and
    /// <see cref="Crew"/> say.</summary>
    public void Book(Cluster cluster, int sign)
    {
        foreach (var o in cluster.Operations)
        {
            Book(o, sign);
        }

        foreach (var hold in cluster.Holds)
        {
            _profiles[hold.Resource].Add(Start[hold.Open], Finish[hold.Close], sign);
        }
    }

    /// <summary>Places a cluster as early as what is placed allows, without counting it.</summary>
    public bool PutIn(Cluster cluster)
    {
        var covered =
            _model.Cost is null || _loose is { Money: true } ? int.MinValue
            : KeepsRest ? _coveredFrom[_model.ClusterOf[cluster.Operations[0]]]
            : CoveredFrom(cluster);
        _coveredFrom[_model.ClusterOf[cluster.Operations[0]]] = KeepsRest
            ? _coveredFrom[_model.ClusterOf[cluster.Operations[0]]]
            : covered;
        var waits = covered >= Model.Parked;
        if (_model.Parks && !waits)
        {
            foreach (var o in cluster.Operations)
            {
                waits |= Waits(o);
            }
        }

        _undo.Clear();
        if (!waits && (cluster.Tied ? PlaceTied(cluster, covered) : PlaceAlone(cluster.Operations[0], covered)))
        {
            return true;
        }

        Undo(0);
        if (_waitsForPlace)
        {
            return true;
        }

        Array.ForEach(cluster.Operations, Park);
        return _model.Parks;
    }

    private bool PlaceOnly(int o)
    {
        _undo.Clear();
        if ((_model.Parks && Waits(o)) || !PlaceAlone(o, int.MinValue))
        {
            Undo(0);
            if (_waitsForPlace)
            {
                return true;
            }

            Park(o);
            return _model.Parks;
        }

        Count(o);
        return InTime(o);
    }

    /// <summary>Places what is tied to nothing; in a future that misses a window, after the work that this asks
    /// for.</summary>
    private bool PlaceAlone(int o, int from)
    {
        _earliest[o] = from;
        if (!PlaceOne(o, Math.Max(from, Ready(o))))
        {
            return false;
        }

        _again.Clear();
        return !(Lenient && Misses(o)) || AgainFirst(o, []);
    }

    /// <summary>Whether an operation starts after a window that was opened by what is finished.</summary>
    private bool Misses(int o) => _model.Until is { } until && Start[o] > until[o] && Start[o] < Model.Parked;

    private bool InTime(int o) =>
        !Strict || (!Misses(o) && (_model.Keep is not { } keep || Finish[o] <= keep[o] || Finish[o] >= Model.Parked));

    private void Park(int o)
    {
        (Start[o], Finish[o]) = (Model.Parked, Model.Parked);
        _pieces.Remove(o);
        Crew.AsSpan(_model.CrewAt[o], _model.CrewAt[o + 1] - _model.CrewAt[o]).Clear();
    }

    /// <summary>Whether a cluster can be placed with nothing else in the shop; it is not left there.</summary>
    public bool GoesAlone(Cluster cluster)
    {
        foreach (var o in cluster.Operations)
        {
            if (_release[o] >= Model.Parked)
            {
                return true;
            }
        }

        _undo.Clear();
        _alone = true;
        var goes = cluster.Tied
            ? PlaceTied(cluster, int.MinValue)
            : PlaceOne(cluster.Operations[0], Ready(cluster.Operations[0]));
        _alone = false;
        if (goes)
        {
            Book(cluster, -1);
            Undo(0);
        }

        return goes;
    }

    /// <summary>Whether an operation, or one that it follows, has no date.</summary>
    private bool Waits(int o)
    {
        var waits = _release[o] >= Model.Parked;
        foreach (var link in _model.After[o])
        {
            waits |= Start[link.Other] >= Model.Parked && _model.ClusterOf[link.Other] != _model.ClusterOf[o];
        }

        return waits;
    }

    /// <summary>From when on a cluster's cost is covered, after what was placed of its build.</summary>
    private int CoveredFrom(Cluster cluster)
    {
        var build = _model.Build[cluster.Operations[0]];
        if (_model.Covers[build] is not { } covers)
        {
            return int.MinValue;
        }

        var spent = _spent[build];
        var costs = 0L;
        foreach (var o in cluster.Operations)
        {
            costs += _model.Cost![o];
        }

        if (costs == 0)
        {
            return int.MinValue;
        }

        foreach (var cover in covers)
        {
            if (cover.InAll >= spent + costs)
            {
                return cover.From;
            }
        }

        return Model.Parked;
    }

    private bool Place(int number)
    {
        if (_model.Only[number] is var only && only >= 0 && _model.Cost is null)
        {
            return PlaceOnly(only);
        }

        var cluster = Clusters[number];
        if (!PutIn(cluster))
        {
            return false;
        }

        if (_waitsForPlace)
        {
            return true;
        }

        var inTime = true;
        foreach (var o in cluster.Operations)
        {
            Count(o);
            inTime &= InTime(o);
        }

        return inTime;
    }

    private void Count(int o)
    {
        var b = _model.Build[o];
        if (Start[o] >= Model.Parked)
        {
            return;
        }

        if (_model.Cost is not null)
        {
            _spent[b] += _model.Cost[o];
        }

        var least = _boundsByTail ? Math.Max(Finish[o], Start[o] + _model.Tail[o]) : Finish[o];
        if (least > _leastEnd[b])
        {
            _leastWeighted +=
                _model.Weight[b]
                * (long)(Math.Max(0, least - _model.Due[b]) - Math.Max(0, _leastEnd[b] - _model.Due[b]));
            _leastEnd[b] = least;
        }

        if (Finish[o] > _buildEnd[b])
        {
            var (was, now) = (Math.Max(0, _buildEnd[b] - _model.Due[b]), Math.Max(0, Finish[o] - _model.Due[b]));
            Weighted += _model.Weight[b] * (long)(now - was);
            _buildEnd[b] = Finish[o];
            Makespan = Math.Max(Makespan, Finish[o]);
        }
    }

    /// <summary>The earliest start by its own date and by what it follows.</summary>
    private int Ready(int o)
    {
        var ready = _loose is null ? _release[o] : LooseRelease(o);
        var links = _model.After[o];
        for (var i = 0; i < links.Length; i++)
        {
            var link = links[i];
            if (_loose is not null && _loose.Links.Contains((o, i)))
            {
                continue;
            }

            var since = link.FromStart ? Start[link.Other] : Finish[link.Other];
            ready = Math.Max(ready, link.LagHours.IsAlways ? since + link.Lag : link.LagHours.Finish(since, link.Lag));
        }

        return ready;
    }

    /// <summary>The earliest start by dates that are not taken away.</summary>
    private int LooseRelease(int o)
    {
        var (release, dates) = (0, _model.Dates![o]);
        for (var i = 0; i < dates.Length; i++)
        {
            release = _loose!.Dates.Contains((o, i)) ? release : Math.Max(release, dates[i]);
        }

        return release;
    }

    private bool PlaceTied(Cluster cluster, int from)
    {
        foreach (var o in cluster.Operations)
        {
            _earliest[o] = from;
        }

        _again.Clear();
        for (var tries = 0; tries < (Lenient ? 2 * FewTries : MostTries); tries++)
        {
            var placed = 0;
            var kept = true;
            var letGo = Lenient && tries >= FewTries;
            if (letGo && tries == FewTries)
            {
                // Nothing has to wait for a window any more.
                foreach (var o in cluster.Operations)
                {
                    _earliest[o] = from;
                }
            }

            for (; placed < cluster.Operations.Length && kept; placed++)
            {
                var o = cluster.Operations[placed];
                if (!PlaceOne(o, Math.Max(Ready(o), _earliest[o]), cluster.Holds))
                {
                    Back(cluster, placed);
                    return false;
                }

                var keeps = KeepsWindows(o);
                kept = keeps || letGo;
                if (kept && Lenient && (!keeps || Misses(o)) && !AgainFirst(o, cluster.Holds))
                {
                    Back(cluster, placed);
                    return false;
                }
            }

            if (kept && HoldsFree(cluster))
            {
                if (_vehicles is not null && !StandsThroughHolds(cluster, out var never))
                {
                    Back(cluster, placed);
                    if (never)
                    {
                        return false;
                    }

                    continue;
                }

                foreach (var hold in cluster.Holds)
                {
                    _profiles[hold.Resource].Add(Start[hold.Open], Finish[hold.Close], 1);
                }

                return true;
            }

            Back(cluster, placed);
        }

        return false;
    }

    private void Back(Cluster cluster, int placed)
    {
        Undo(0);
        for (var i = 0; i < placed; i++)
        {
            Lift(cluster.Operations[i]);
        }

        NotAgain();
    }

    private void NotAgain()
    {
        foreach (var (person, start, end) in _again)
        {
            _profiles[person].Add(start, end, -1);
            _taken[person] = _profiles[person].End;
        }

        _again.Clear();
    }

    /// <summary>Whoever does the operation first does what its window asks for, and the operation comes after
    /// that.</summary>
    /// <returns>Whether both find a place; if not, neither is there.</returns>
    private bool AgainFirst(int o, Hold[] holds)
    {
        // Where nobody does it, as a bake, there is nobody to do the other first.
        if (
            _model.Again is not { } again
            || again[o] == 0
            || _axis is null
            || _model.Crew[o].Length == 0
            || Crew[_model.CrewAt[o]] is not { Count: > 0, Class: var person }
        )
        {
            return true;
        }

        Lift(o);
        if (IsOnVehicle(o))
        {
            Undo(_undo.Count - 1);
        }

        var ready = Math.Max(Ready(o), _earliest[o]);
        var length = Length(again[o], person);
        var start = _profiles[person].FirstFit(_axis[person].Worked(ready), length, 1);
        if (start > Hours.Horizon || _axis[person].StartAt(start) >= _end)
        {
            return false;
        }

        _profiles[person].Add(start, start + length, 1);
        _again.Add((person, start, start + length));
        if (PlaceOne(o, _axis[person].Finish(_axis[person].StartAt(start), length), holds))
        {
            return true;
        }

        NotAgain();
        return false;
    }

    /// <summary>Whether an operation that was just placed lies inside its windows; if not, what opens the window moves
    /// later.</summary>
    private bool KeepsWindows(int o)
    {
        foreach (var link in _model.After[o])
        {
            if (!link.HasWindow || _loose is { Window: true })
            {
                continue;
            }

            var since = link.FromStart ? Start[link.Other] : Finish[link.Other];
            if (Start[o] > since + link.Most)
            {
                _earliest[link.Other] = Start[link.Other] + Start[o] - since - link.Most;
                return false;
            }
        }

        return true;
    }

    /// <summary>Whether the cluster's holds have their unit throughout; if not, the operation that opens one moves
    /// later.</summary>
    private bool HoldsFree(Cluster cluster)
    {
        for (var i = 0; i < cluster.Holds.Length; i++)
        {
            var hold = cluster.Holds[i];
            var (start, end) = (Start[hold.Open], Finish[hold.Close]);
            // Holds of one cluster on the same kind count too.
            for (var j = 0; j < i; j++)
            {
                if (cluster.Holds[j].Resource == hold.Resource)
                {
                    _profiles[hold.Resource].Add(Start[cluster.Holds[j].Open], Finish[cluster.Holds[j].Close], 1);
                }
            }

            var free = _profiles[hold.Resource].FirstFit(start, end - start, 1);
            for (var j = 0; j < i; j++)
            {
                if (cluster.Holds[j].Resource == hold.Resource)
                {
                    _profiles[hold.Resource].Add(Start[cluster.Holds[j].Open], Finish[cluster.Holds[j].Close], -1);
                }
            }

            if (free > start)
            {
                _earliest[hold.Open] = free == int.MaxValue ? start + 1 : free;
                return false;
            }
        }

        return true;
    }

    /// <summary>Takes an operation out again.</summary>
    private void Lift(int o) => Book(o, -1);

    private void Book(int o, int sign)
    {
        if (Finish[o] <= Start[o])
        {
            return;
        }

        if (_model.Run[o] == Run.Pieces && _pieces.TryGetValue(o, out var pieces))
        {
            foreach (var (from, to) in pieces)
            {
                Book(o, from, to, sign);
            }

            return;
        }

        Book(o, Start[o], Finish[o], sign);
    }

    private void Book(int o, int from, int to, int sign)
    {
        foreach (var use in _model.Uses[o])
        {
            if (use.Take > 0)
            {
                _profiles[use.Resource].Add(from, to, sign * use.Take);
            }
        }

        for (var i = _model.CrewAt[o]; i < _model.CrewAt[o + 1]; i++)
        {
            if (Crew[i].Count > 0)
            {
                var person = Crew[i].Class;
                if (HasKeptTimes(person, o) is { } hours)
                {
                    // What is kept for others stays theirs.
                    foreach (var (start, end) in hours.Pieces(from, to, 0))
                    {
                        _profiles[person]
                            .Add(OnAxis(person, (int)start), OnAxis(person, (int)end), sign * Crew[i].Count);
                    }
                }
                else
                {
                    _profiles[person].Add(OnAxis(person, from), OnAxis(person, to), sign * Crew[i].Count);
                }

                _taken[person] = _profiles[person].End;
            }
        }
    }

    /// <summary>Somebody's hours for work that may rest, where times of theirs are kept for other builds; null: none
    /// are.</summary>
    private Hours? HasKeptTimes(int person, int o) =>
        _axis is not null
        && RunOf(o) == Run.Split
        && ClassHours(person, _model.Build[o]) is { IsAlways: false } hours
        && !ReferenceEquals(hours, _axis[person])
            ? hours
            : null;

    private bool PlaceOne(int o, int ready, Hold[]? holds = null)
    {
        var hold = -1;
        if (holds is not null)
        {
            foreach (var h in holds)
            {
                hold = h.Open == o ? h.Resource : hold;
            }
        }

        var work = Work is null ? _model.Work[o] : Work[o];
        var crew = _model.Crew[o];
        if (_vehicles?.Changes[o] is not null)
        {
            // What was moved already was moved as the shell stood then.
            _stays[_model.Build[o]]
                .ForEach(s =>
                    ready = Math.Max(
                        ready,
                        s.Moved < 0 || s.Until > (_was?.Start[o] ?? int.MaxValue) ? 0 : s.Moved + _vehicles.MoveMinutes
                    )
                );
        }

        var onVehicle = IsOnVehicle(o) && work > 0 && _loose is not { Vehicle: true };
        if (
            !(
                onVehicle ? PlaceOnVehicle(o, ready, work, crew, hold)
                : _vehicles?.Benches[o] is not null ? PlaceOnBench(o, ready, work, crew, hold)
                : PlaceCore(o, ready, work, crew, hold)
            )
        )
        {
            return false;
        }

        if (Start[o] >= _end || Finish[o] >= _end)
        {
            return false;
        }

        if (work == 0 && _vehicles?.Changes[o] is not null)
        {
            Keep(_model.Build[o]);
            _changes[_model.Build[o]].Add((Finish[o], o));
        }

        Book(o, 1);
        return true;
    }

    /// <summary>The first time that suits; it is not booked.</summary>
    private bool PlaceCore(int o, int ready, int work, Need[] crew, int hold)
    {
        if (work == 0 || crew.Length == 0)
        {
            var hours = OwnHours(o);
            Start[o] = work == 0 ? ready : Fit(o, ready, work, hours, -1, hold);
            Finish[o] = hours.Finish(Start[o], work);
            for (var i = _model.CrewAt[o]; i < _model.CrewAt[o + 1]; i++)
            {
                Crew[i] = default;
            }
        }
        else if (
            !(_model.RoundTheClock ? PlaceCounted(o, ready, work, crew, hold) : PlaceByName(o, ready, work, crew, hold))
        )
        {
            return false;
        }

        return true;
    }

    /// <summary>People of a class are alike: the earliest start with the fewest other trades, and for a crew by
    /// matching trades to classes.</summary>
    private bool PlaceCounted(int o, int ready, int work, Need[] crew, int hold)
    {
        var at = _model.CrewAt[o];
        if (crew.Length == 1 && (crew[0].Count == 1 || crew[0].Classes.Length == 1))
        {
            var (best, who) = (int.MaxValue, -1);
            foreach (var c in crew[0].Classes)
            {
                var start = FitCounted(o, ready, work, c, crew[0].Count, hold, best);
                if (start < best)
                {
                    (best, who) = (start, c);
                    if (best == ready)
                    {
                        break;
                    }
                }
            }

            if (who < 0)
            {
                return false;
            }

            (Start[o], Finish[o]) = (best, best + work);
            for (var i = at; i < _model.CrewAt[o + 1]; i++)
            {
                Crew[i] = default;
            }

            Crew[at] = new(who, crew[0].Count);
            return true;
        }

        return _model.Apart[o] ? PlaceApart(o, ready, work, crew, hold) : PlaceMatched(o, ready, work, crew, hold);
    }

    /// <summary>Each trade of the crew has one class of its own: nothing to choose, only to wait until all have
    /// room.</summary>
    private bool PlaceApart(int o, int ready, int work, Need[] crew, int hold)
    {
        for (var t = ready; ; )
        {
            var start = t;
            foreach (var need in crew)
            {
                t = _profiles[need.Classes[0]].FirstFit(t, work, need.Count);
            }

            t = FitUses(o, t, work, hold, work);
            if (t >= _end)
            {
                return false;
            }

            if (t == start)
            {
                break;
            }

            ready = t;
        }

        (Start[o], Finish[o]) = (ready, ready + work);
        for (var i = 0; i < crew.Length; i++)
        {
            Crew[_model.CrewAt[o] + i] = new(crew[i].Classes[0], crew[i].Count);
        }

        return true;
    }

    private bool PlaceMatched(int o, int ready, int work, Need[] crew, int hold)
    {
        var at = _model.CrewAt[o];
        for (var t = FitUses(o, ready, work, hold, work); t < _end; )
        {
            foreach (var need in crew)
            {
                foreach (var c in need.Classes)
                {
                    _free[c] = _model.Capacity[c] - _profiles[c].MostUsed(t, t + work);
                }
            }

            if (Matching.Assign(crew, _free, Crew.AsSpan(at, _model.CrewAt[o + 1] - at)))
            {
                (Start[o], Finish[o]) = (t, t + work);
                return true;
            }

            // Nothing changes before some class has more people free for the whole time.
            var next = int.MaxValue;
            foreach (var need in crew)
            {
                foreach (var c in need.Classes)
                {
                    if (_free[c] < _model.Capacity[c])
                    {
                        next = Math.Min(next, _profiles[c].FirstFit(t + 1, work, _free[c] + 1));
                    }
                }
            }

            t = next >= _end ? next : FitUses(o, next, work, hold, work);
        }

        return false;
    }

    private int FitCounted(int o, int ready, int work, int person, int count, int hold, int best)
    {
        for (var t = ready; ; )
        {
            var start = _profiles[person].FirstFit(t, work, count);
            if (start >= best)
            {
                return start;
            }

            t = FitUses(o, start, work, hold, work);
            if (t == start)
            {
                return t;
            }
        }
    }

    /// <summary>An instant from <paramref name="ready"/> on at which the uses and the hold may be free; itself: they
    /// are.</summary>
    private int FitUses(int o, int ready, int length, int hold, int least)
    {
        var uses = _model.Uses[o];
        for (var t = ready; ; )
        {
            var start = t;
            foreach (var use in uses)
            {
                t = FitOne(use.Resource, t, length, use.Need, least);
                if (t > start && _axis is not null)
                {
                    return t;
                }
            }

            if (hold >= 0)
            {
                t = FitOne(hold, t, length, 1, least);
            }

            if (_site.IsActive && t < int.MaxValue)
            {
                t = FitSite(o, t, length);
            }

            if (t == start || t == int.MaxValue || _axis is not null)
            {
                return t;
            }
        }
    }

    /// <summary>With calendars a stretch is as long as where it begins makes it, so that a jump goes no further than
    /// what is in the way.</summary>
    /// <param name="least">The shortest that the stretch could be, wherever it begins.</param>
    private int FitOne(int resource, int start, int length, int need, int least) =>
        start == int.MaxValue ? start
        : _axis is null ? _profiles[resource].FirstFit(start, length, need)
        : _profiles[resource].FreeOrNext(start, length, need, least);

    /// <summary>Each person has their own hours and pace: whoever ends first, the one named first where two end
    /// together.</summary>
    private bool PlaceByName(int o, int ready, int work, Need[] crew, int hold)
    {
        var people = 0;
        foreach (var need in crew)
        {
            people += need.Count;
        }

        if (people == 1)
        {
            return RunOf(o) == Run.Pieces
                ? PlacePieces(o, ready, work, crew[0].Classes)
                : PlaceWhoever(o, ready, work, crew[0].Classes, hold);
        }

        var likely = Likely(crew, people, ready);
        return PlaceTogether(o, ready, work, likely, people, hold)
            || (likely != crew && PlaceTogether(o, ready, work, crew, people, hold));
    }

    /// <summary>Of a crew that could be put together in very many ways, only those whose last work ends
    /// soonest.</summary>
    private Need[] Likely(Need[] crew, int people, int ready)
    {
        var ways = 1L;
        foreach (var need in crew)
        {
            for (var i = 0; i < need.Count && ways <= AllAsked * AllAsked; i++)
            {
                ways *= need.Classes.Length;
            }
        }

        if (ways <= AllAsked * AllAsked)
        {
            return crew;
        }

        Span<int> likely = stackalloc int[MostAsked + people - 1];
        var few = new Need[crew.Length];
        for (var i = 0; i < crew.Length; i++)
        {
            few[i] = crew[i] with { Classes = LeastTaken(crew[i].Classes, likely, ready).ToArray() };
        }

        return few;
    }

    private bool PlaceTogether(int o, int ready, int work, Need[] crew, int people, int hold)
    {
        var at = _model.CrewAt[o];
        var (best, start) = (int.MaxValue, 0);
        Span<int> chosen = stackalloc int[people];
        Span<int> trial = stackalloc int[people];
        var combinations = new Combinations(crew, trial);
        while (combinations.Next(trial))
        {
            var (hours, pace) = Together(trial, _model.Build[o]);
            var length = (int)Math.Ceiling(work * pace - 1e-9);
            var latest = best == int.MaxValue ? best : best - length;
            var begin = FitPeople(o, ready, length, hours, trial, hold, latest);
            var end =
                begin >= Hours.Horizon ? int.MaxValue
                : RunOf(o) is Run.Split or Run.Pieces ? hours.Finish(begin, length)
                : begin + length;
            if (end < best)
            {
                (best, start) = (end, begin);
                trial.CopyTo(chosen);
            }
        }

        if (best >= Hours.Horizon)
        {
            return false;
        }

        (Start[o], Finish[o]) = (start, best);
        for (var i = 0; i < _model.CrewAt[o + 1] - at; i++)
        {
            Crew[at + i] = i < chosen.Length ? new(chosen[i], 1) : default;
        }

        return true;
    }

    private bool PlaceWhoever(int o, int ready, int work, int[] classes, int hold)
    {
        var (best, start, finish, who) = (int.MaxValue, 0, int.MaxValue, -1);
        Span<int> likely = stackalloc int[MostAsked];
        var goesOn = _model.GoesOn is { } begun ? begun[o] : -1;
        foreach (var person in LeastTaken(classes, likely, ready))
        {
            var hours = HoursOf(person, o);
            var length = Length(work, person);
            // Who has begun it goes on, unless another is done more than a day sooner.
            var handover = person == goesOn ? Handover : 0;
            var latest = (int)Math.Min((long)best + handover, _end);
            var begin =
                RunOf(o) == Run.Split && _axis is not null && ReferenceEquals(hours, _axis[person])
                    ? FitSplit(o, ready, length, person, hold, latest)
                    : Fit(o, ready, length, hours, person, hold, latest);
            var end =
                begin >= Hours.Horizon ? int.MaxValue
                : RunOf(o) == Run.Split ? hours.Finish(begin, length)
                : begin + length;
            if (end < int.MaxValue && end - handover < best)
            {
                (best, start, finish, who) = (end - handover, begin, end, person);
            }
        }

        (Start[o], Finish[o]) = (start, finish);
        Staff(o, who);
        return who >= 0;
    }

    /// <summary>Minutes by which another must be done sooner to take over what somebody has begun.</summary>
    private const int Handover = 1440;

    /// <summary>Up to so many people with the trade, all are looked at for every gap they have.</summary>
    private const int AllAsked = 6;

    /// <summary>Of more, only those whose last work ends soonest: the cost of a plan stays in step with its
    /// size.</summary>
    private const int MostAsked = 3;

    /// <summary>Those who have nothing more to do soonest, in the order given; all where they are few.</summary>
    /// <param name="ready">Nobody is wanted sooner.</param>
    private ReadOnlySpan<int> LeastTaken(int[] classes, Span<int> likely, int ready)
    {
        if (classes.Length <= AllAsked)
        {
            return classes;
        }

        var (count, latest) = (0, int.MaxValue);
        foreach (var person in classes)
        {
            var end = FreeFrom(person, ready);
            if (count == likely.Length && end >= latest)
            {
                continue;
            }

            var at = count == likely.Length ? count - 1 : count++;
            for (; at > 0 && FreeFrom(likely[at - 1], ready) > end; at--)
            {
                likely[at] = likely[at - 1];
            }

            likely[at] = person;
            latest = FreeFrom(likely[count - 1], ready);
        }

        return likely;
    }

    /// <summary>The first working minute after all that somebody has to do: one who is away has none until they are
    /// back.</summary>
    private int FreeFrom(int person, int ready) =>
        _axis is null
            ? Math.Max(_taken[person], ready)
            : _axis[person].StartAt(Math.Max(_taken[person], _axis[person].Worked(ready)));

    /// <summary>Wherever somebody has half an hour, or as long as it still takes.</summary>
    private bool PlacePieces(int o, int ready, int work, int[] classes)
    {
        var (best, who) = (int.MaxValue, -1);
        List<(int From, int To)> chosen = [];
        foreach (var person in classes)
        {
            var pieces = new List<(int From, int To)>();
            var hours = HoursOf(person, o);
            var (t, left) = (ready, Length(work, person));
            while (left > 0 && t < Hours.Horizon)
            {
                var start = Fit(o, t, Math.Min(ShortestPiece, left), hours, person, -1);
                if (start >= Hours.Horizon)
                {
                    break;
                }

                var busy = _profiles[person].FreeUntil(OnAxis(person, start), 1);
                var end = (int)
                    Math.Min(
                        (long)start + left,
                        Math.Min(
                            hours.PieceEnd(start),
                            busy == int.MaxValue || _axis is null ? busy : _axis[person].StartAt(busy)
                        )
                    );
                foreach (var use in _model.Uses[o])
                {
                    end = Math.Min(end, _profiles[use.Resource].FreeUntil(start, use.Need));
                }

                pieces.Add((start, end));
                left -= end - start;
                t = end;
            }

            if (left <= 0 && pieces[^1].To < best)
            {
                (best, who, chosen) = (pieces[^1].To, person, pieces);
            }
        }

        if (who < 0)
        {
            return false;
        }

        _pieces[o] = chosen;
        (Start[o], Finish[o]) = (chosen[0].From, best);
        Staff(o, who);
        return true;
    }

    /// <summary>Idle time shorter than this is not used, in minutes.</summary>
    private const int ShortestPiece = 30;

    private Hours HoursOf(int person, int o) => ClassHours(person, _model.Build[o]);

    private int Length(int work, int person) =>
        _model.Pace is null ? work : (int)Math.Ceiling(work * _model.Pace[person] - 1e-9);

    private void Staff(int o, int person)
    {
        var at = _model.CrewAt[o];
        Crew.AsSpan(at, _model.CrewAt[o + 1] - at).Clear();
        if (person >= 0)
        {
            Crew[at] = new(person, 1);
        }
    }

    /// <summary>The time that all of a crew have, and the pace of the first.</summary>
    private (Hours, double) Together(ReadOnlySpan<int> people, int build)
    {
        var hours = ClassHours(people[0], build);
        for (var i = 1; i < people.Length; i++)
        {
            var other = ClassHours(people[i], build);
            var key = (hours, other);
            if (!_together.TryGetValue(key, out var both))
            {
                both = _together[key] = _model.Both(hours, other);
            }

            hours = both;
        }

        return (hours, _model.Pace?[people[0]] ?? 1);
    }

    /// <param name="latest">A start from then on is of no use.</param>
    private int FitPeople(int o, int ready, int work, Hours hours, ReadOnlySpan<int> people, int hold, int latest)
    {
        for (var t = ready; ; )
        {
            var start = Fit(o, t, work, hours, people[0], hold, latest);
            t = start;
            if (start >= Hours.Horizon)
            {
                return start;
            }

            var length = (RunOf(o) is Run.Split or Run.Pieces ? hours.Finish(start, work) : start + work) - start;
            for (var i = 1; i < people.Length && (t == start || _axis is null); i++)
            {
                t = FitPerson(people[i], t, length, o);
            }

            if (t == start)
            {
                return start;
            }
        }
    }

    private int OnAxis(int person, int t) => _axis is null ? t : _axis[person].Worked(t);

    /// <summary>The first instant from one of their working minutes on at which somebody is free for a stretch of the
    /// clock.</summary>
    private int FitPerson(int person, int start, int length, int o)
    {
        if (HasKeptTimes(person, o) is { } own)
        {
            foreach (var piece in own.Pieces(start, start + length, 0))
            {
                var (at, end) = (_axis![person].Worked((int)piece.Start), _axis[person].Worked((int)piece.End));
                if (_profiles[person].FreeOrNext(at, end - at, 1, 1) is var next && next != at)
                {
                    return next == int.MaxValue ? next : _axis[person].StartAt(next);
                }
            }

            return start;
        }

        if (_axis is null)
        {
            return _profiles[person].FirstFit(start, length, 1);
        }

        var hours = _axis[person];
        var from = hours.Worked(start);
        var free = _profiles[person].FreeOrNext(from, hours.Worked(start + length) - from, 1, 1);
        return free == from ? start
            : free == int.MaxValue ? free
            : hours.StartAt(free);
    }

    /// <summary>The same where all of somebody's working minutes count and the work may rest between them.</summary>
    private int FitSplit(int o, int ready, int work, int person, int hold, int latest)
    {
        var hours = _axis![person];
        for (var t = ready; ; )
        {
            if (t >= latest)
            {
                return Hours.Horizon;
            }

            var free = _profiles[person].FirstFit(hours.Worked(t), work, 1);
            var start = free == int.MaxValue ? Hours.Horizon : hours.StartAt(free);
            if (start >= latest || (hold < 0 && _model.Uses[o].Length == 0 && !_site.IsActive))
            {
                return start;
            }

            t = FitUses(o, start, hours.Finish(start, work) - start, hold, work);
            if (t == start)
            {
                return start;
            }
        }
    }

    /// <summary>The first start in working time at which a person (where one is given), the uses and the hold are
    /// free.</summary>
    private int Fit(int o, int ready, int work, Hours hours, int person, int hold, int latest = int.MaxValue)
    {
        var run = RunOf(o) == Run.Pieces ? Run.Nonstop : RunOf(o);
        for (var t = ready; ; )
        {
            if (person >= 0 && _axis is not null && run != Run.Split)
            {
                // Only where so much is free at all can it go on without a stop.
                var axis = _axis[person];
                var free = _profiles[person]
                    .FirstFit(axis.Worked(t), Math.Max(1, run == Run.ThroughBreaks ? work - axis.MostPause : work), 1);
                t = Math.Max(t, free == int.MaxValue ? Hours.Horizon : axis.StartAt(free));
            }

            if (t >= _end || t >= latest)
            {
                return Hours.Horizon;
            }

            var start = run == Run.Split ? hours.Next(t) : hours.NextWithoutStop(t, work, run == Run.ThroughBreaks);
            if (start >= Hours.Horizon)
            {
                return Hours.Horizon;
            }

            var length = (run == Run.Split ? hours.Finish(start, work) : start + work) - start;
            t = person < 0 ? start : FitPerson(person, start, length, o);
            t = t > start && _axis is not null ? t : FitUses(o, t, length, hold, work);
            if (t == start)
            {
                return start;
            }
        }
    }
}

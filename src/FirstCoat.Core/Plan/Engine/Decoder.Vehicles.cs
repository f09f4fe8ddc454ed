using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Plan.Engine;

/// <summary>
/// Where vehicles stand. Each is in one place from when it is taken there until it is moved on, worked on or not; work
/// elsewhere begins with a move that takes hands. While nobody knows yet when a place becomes free, work that wants it
/// waits for its turn.
/// </summary>
internal sealed partial class Decoder
{
    private const int MostSlots = 40;

    private readonly VehicleModel? _vehicles;
    private readonly List<Stay>[] _stays;

    /// <summary>Operations of each build that are not placed or given up yet, and builds with work that has no date:
    /// their vehicles stay.</summary>
    private readonly int[] _left;

    private readonly bool[] _undated;
    private readonly bool[] _came;
    private readonly List<int> _deferred = [];

    /// <summary>Stays as they were before operations of the cluster that is being placed.</summary>
    private readonly List<(int Build, List<Stay> Stays, List<(int At, int Operation)> Changes)> _undo = [];

    /// <summary>When what was placed changes how each shell stands.</summary>
    private readonly List<(int At, int Operation)>[] _changes;

    /// <summary>Whether the last cluster was not placed because a place may become free sooner once more is
    /// known.</summary>
    private bool _waitsForPlace;

    /// <summary>Whether a place became free, or will at a time that is known now.</summary>
    private bool _freed;

    /// <summary>Whether nothing waits for a place any longer.</summary>
    private bool _insist;

    private bool _alone;
    private Site _site;

    /// <summary>Where the operation that is being placed would happen.</summary>
    /// <param name="At">A place's number; negative: where nothing is asked of it.</param>
    /// <param name="Arrives">It has to be moved there first.</param>
    /// <param name="Lower">From when on it can be moved.</param>
    /// <param name="Limit">The operation ends by then.</param>
    /// <param name="Next">When the vehicle goes on from there; <see cref="Model.Parked"/>: nobody knows yet.</param>
    /// <param name="Build">Whose vehicle.</param>
    /// <param name="From">Where it stands before.</param>
    private readonly record struct Site(int At, bool Arrives, int Lower, int Limit, int Next, int Build, int From)
    {
        public bool IsActive { get; init; } = true;
    }

    private void StandAtFirst(bool book)
    {
        for (var b = 0; b < _stays.Length; b++)
        {
            _stays[b].Clear();
            _stays[b].Add(new(_vehicles!.StandsAt[b], int.MinValue / 2, 0, Model.Parked, -1));
            if (book)
            {
                Book(_stays[b][0], 1);
            }

            _changes[b].Clear();
            _left[b] = _vehicles.Operations[b];
            _undated[b] = false;
        }

        _deferred.Clear();
        _undo.Clear();
        Array.Clear(_came);
        (_waitsForPlace, _freed) = (false, false);
    }

    private void Book(Stay stay, int sign)
    {
        if (stay.At >= 0)
        {
            var place = _vehicles!.Places[stay.At];
            _profiles[place.Resource].Add(Math.Max(0, stay.From), stay.Until, sign);
            if (place.Whole >= 0)
            {
                _profiles[place.Whole].Add(Math.Max(0, stay.From), stay.Until, sign);
            }
        }

        Push(stay.Mover, stay.Moved, sign);
        Push(stay.SecondMover, stay.Moved, sign);
    }

    private void Push(int person, int at, int sign)
    {
        if (person >= 0 && at >= 0)
        {
            _profiles[person].Add(OnAxis(person, at), OnAxis(person, at + _vehicles!.MoveMinutes), sign);
            _taken[person] = _profiles[person].End;
        }
    }

    /// <summary>Puts a cluster in its turn, or keeps it for when it is known which places become free.</summary>
    private bool Step(int cluster)
    {
        if (_vehicles is null)
        {
            return Place(cluster);
        }

        if (!HasCome(cluster))
        {
            _deferred.Add(cluster);
            return true;
        }

        return Try(cluster) is { } placed ? placed && (!_freed || Retry(out _)) : Deferred(cluster);
    }

    private bool Deferred(int cluster)
    {
        _deferred.Add(cluster);
        return true;
    }

    private bool HasCome(int cluster)
    {
        foreach (var before in _model.ClusterAfter[cluster])
        {
            if (!_came[before])
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>Places a cluster whose predecessors are placed.</summary>
    /// <returns>Null: it waits for a place.</returns>
    private bool? Try(int cluster)
    {
        _waitsForPlace = false;
        var placed = Place(cluster);
        if (_waitsForPlace)
        {
            _waitsForPlace = false;
            return null;
        }

        _came[cluster] = true;
        foreach (var o in Clusters[cluster].Operations)
        {
            var b = _model.Build[o];
            _undated[b] |= Start[o] >= Model.Parked;
            if (--_left[b] == 0)
            {
                Leave(b);
            }
        }

        return placed;
    }

    /// <summary>Places what waited, in its turn, as far as it goes.</summary>
    private bool Retry(out bool any)
    {
        any = false;
        for (var i = 0; i < _deferred.Count; i++)
        {
            var cluster = _deferred[i];
            if (!HasCome(cluster) || Try(cluster) is not { } placed)
            {
                continue;
            }

            _deferred.RemoveAt(i);
            any = true;
            i = -1;
            if (!placed)
            {
                return false;
            }
        }

        _freed = false;
        return true;
    }

    /// <summary>Whatever still waits gets its place, if need be by somebody who is pushed out of the way.</summary>
    private bool PlaceDeferred(long limit)
    {
        while (_deferred.Count > 0)
        {
            if (!Retry(out var any) || _leastWeighted > limit)
            {
                return false;
            }

            if (any || _deferred.Count == 0)
            {
                continue;
            }

            var first = _deferred.FindIndex(HasCome);
            var cluster = _deferred[first];
            _deferred.RemoveAt(first);
            _insist = true;
            var placed = Try(cluster);
            _insist = false;
            if (placed == false || _leastWeighted > limit)
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>A vehicle of which all work is done leaves; one with work that has no date stays where it is.</summary>
    private void Leave(int build)
    {
        var last = _stays[build][^1];
        if (_undated[build])
        {
            // Nobody knows when its work goes on: it makes room until then, by the time at which somebody else has its
            // place.
            if (last is { At: >= 0, Until: < Model.Parked })
            {
                PushOut(build, _stays[build].Count - 1, Model.Parked);
                return;
            }

            GoAside(build, _stays[build].Count - 1, last.Busy, Model.Parked, -1);
            return;
        }

        if (last.At < 0 || _buildEnd[build] >= last.Until)
        {
            return;
        }

        Book(last, -1);
        _stays[build][^1] = last with { Until = Math.Max(_buildEnd[build], Math.Max(0, last.Busy)) };
        Book(_stays[build][^1], 1);
        _freed = true;
    }

    /// <summary>Takes back what the operations since then did to stays.</summary>
    private void Undo(int height)
    {
        while (_undo.Count > height)
        {
            var (build, stays, changes) = _undo[^1];
            _undo.RemoveAt(_undo.Count - 1);
            _stays[build].ForEach(s => Book(s, -1));
            _stays[build].Clear();
            _stays[build].AddRange(stays);
            _stays[build].ForEach(s => Book(s, 1));
            _changes[build].Clear();
            _changes[build].AddRange(changes);
        }
    }

    /// <summary>How a shell stands at an instant, by what is placed.</summary>
    private Shell ShellAt(int build, int t)
    {
        var (shell, last) = (_vehicles!.Shells[build], int.MinValue);
        foreach (var (at, operation) in _changes[build])
        {
            if (at > t || _vehicles.Changes[operation] is not { } change)
            {
                continue;
            }

            shell =
                change.Rolls is { } rolls && at >= last
                    ? shell with
                    {
                        Rolls = rolls,
                        DollyMm = change.DollyMm,
                    }
                    : shell;
            shell = shell with { HeightMm = shell.HeightMm - change.LowersMm };
            last = change.Rolls is null ? last : Math.Max(last, at);
        }

        return shell;
    }

    /// <summary>From when on a shell stands as it does at an instant: a move that is reckoned with that comes after
    /// it.</summary>
    private int ChangedBefore(int build, int t)
    {
        var last = 0;
        foreach (var (at, _) in _changes[build])
        {
            last = at <= t ? Math.Max(last, at) : last;
        }

        return last;
    }

    /// <summary>How many it takes to move a vehicle between two places at an instant; none: the shell does not pass a
    /// door on the way.</summary>
    private int HandsFor(int build, int from, int to, int t)
    {
        var shell = ShellAt(build, t);
        return Passes(build, from, shell) && Passes(build, to, shell)
            ? shell.Rolls
                ? _vehicles!.Hands.Rolling
                : _vehicles!.Hands.NotRolling
            : 0;
    }

    private bool Passes(int build, int place, Shell shell) =>
        place < 0
        || _vehicles!.Passes[build][place] is var most
            && (most == int.MaxValue || (shell.Rolls && !(shell.HeightMm + shell.DollyMm > most)));

    private bool IsOnVehicle(int o) => _vehicles is not null && _vehicles.Body[o] != BodyUse.Beside;

    /// <summary>Finds where and when an operation on a vehicle ends first; it is not booked.</summary>
    private bool PlaceOnVehicle(int o, int ready, int work, Need[] crew, int hold)
    {
        if (
            !Search(o, ready, work, crew, hold, out var best)
            && (
                _waitsForPlace || !_insist || KeepsRest || !MakeRoom(o) || !Search(o, ready, work, crew, hold, out best)
            )
        )
        {
            return false;
        }

        (Start[o], Finish[o]) = (best.Start, best.Finish);
        best.Crew.CopyTo(Crew.AsSpan(_model.CrewAt[o]));
        if (best.Pieces is { } pieces)
        {
            _pieces[o] = pieces;
        }

        Settle(o, best);
        return true;
    }

    /// <summary>Work without the vehicle in a place where vehicles stand: it waits for its turn until it is known when
    /// one is moved on.</summary>
    private bool PlaceOnBench(int o, int ready, int work, Need[] crew, int hold)
    {
        if (PlaceCore(o, ready, work, crew, hold) && Start[o] < _end && Finish[o] < _end)
        {
            return true;
        }

        _waitsForPlace = !_insist && !_alone && Holders(o, _vehicles!.Benches[o]!).Any();
        return !_waitsForPlace && _insist && !KeepsRest && MakeRoom(o) && PlaceCore(o, ready, work, crew, hold);
    }

    /// <summary>Builds whose vehicle stands in one of the places, of which nobody knows yet when it is moved on; work
    /// beside its own vehicle wants that out of the way too.</summary>
    private IEnumerable<int> Holders(int o, int[] places) =>
        Enumerable
            .Range(0, _stays.Length)
            .Where(b =>
                (b != _model.Build[o] || !IsOnVehicle(o))
                && _left[b] > 0
                && _stays[b][^1].At >= 0
                && Array.IndexOf(places, _stays[b][^1].At) >= 0
            );

    /// <param name="Gap">The stay in which it happens, or after which the new one comes.</param>
    private sealed record Found(
        int Start,
        int Finish,
        Taken[] Crew,
        IReadOnlyList<(int From, int To)>? Pieces,
        int Gap,
        Site Site
    );

    private bool Search(int o, int ready, int work, Need[] crew, int hold, out Found best)
    {
        Found? found = null;
        var build = _model.Build[o];
        var (stays, options, away) = (_stays[build], OptionsOf(o), _vehicles!.Body[o] == BodyUse.TakesAway);
        for (var i = 0; i < stays.Count; i++)
        {
            var (stay, last) = (stays[i], i == stays.Count - 1);
            var next = last ? Model.Parked : stays[i + 1].From;
            if ((!last && next <= ready) || (found is not null && stay.From >= found.Finish))
            {
                continue;
            }

            if (away)
            {
                var back = Back(i);
                Look(i, new(Stay.Gone, false, stay.Busy, back, back, build, stay.At), Math.Max(ready, stay.Busy));
            }
            else if (stay.At != Stay.Gone && (options is null || Array.IndexOf(options, stay.At) >= 0))
            {
                Look(
                    i,
                    new(stay.At, false, stay.From, stay.Until, next, build, stay.At),
                    Math.Max(ready, _loose is { Hands: true } ? stay.From : stay.Ready(_vehicles.MoveMinutes))
                );
            }

            if (away || options is null || (!last && next <= stay.Busy))
            {
                continue;
            }

            var empty = -1;
            foreach (var p in options)
            {
                // Of places that stay empty, one is as good as another.
                var joins = !last && stays[i + 1].At == p;
                if (!joins && p != stay.At && p != _vehicles.Spare && StaysEmpty(p, Math.Max(0, stay.Busy)))
                {
                    if (empty >= 0 && AreAlike(build, empty, p))
                    {
                        continue;
                    }

                    empty = p;
                }

                // Between two stays only where hands take it on from there, or where it goes anyway; where somebody
                // else has its place next, it comes back to it afterwards.
                if (
                    (p != stay.At || (last && stay.Until < Model.Parked))
                    && (
                        last
                        || stays[i + 1] is not { At: >= 0, Moved: < 0 }
                        || stays[i + 1].At == p
                        || p == _vehicles.Spare
                    )
                )
                {
                    // Where it goes next anyway it only comes sooner.
                    Look(
                        i,
                        new(
                            p,
                            true,
                            Math.Max(0, Math.Max(stay.Busy, stay.Ready(_vehicles.MoveMinutes))),
                            joins ? stays[i + 1].Until : next,
                            next,
                            build,
                            stay.At
                        ),
                        Math.Max(
                            ready,
                            stay.Busy + (IsPushed(stay.At) && _loose is not { Hands: true } ? _vehicles.MoveMinutes : 0)
                        )
                    );
                }
            }
        }

        _site = default;
        best = found!;
        if (!_insist && !_alone && options is not null && MayBeFreeSooner(o, ready, work, crew, hold, found))
        {
            _waitsForPlace = true;
            return false;
        }

        return found is not null;

        // It is away until it is wanted somewhere; where it only stood aside while this was lifted out of a schedule,
        // that is not.
        int Back(int i)
        {
            while (
                ++i < stays.Count
                && KeepsRest
                && stays[i] is { At: < 0 and not Stay.Gone, For: < 0 } aside
                && aside.Busy <= aside.From
            ) { }

            return i < stays.Count ? stays[i].From : Model.Parked;
        }

        void Look(int gap, Site site, int from)
        {
            _site = site;
            for (
                var tries = 0;
                tries < MostSlots && from < Model.Parked && PlaceCore(o, from, work, crew, hold);
                tries++
            )
            {
                // Work in pieces is in one place from the first to the last of them.
                var clear = site is { Arrives: true, At: >= 0 }
                    ? Free(_vehicles!.Places[site.At], Start[o], Math.Min(Finish[o], site.Next) - Start[o])
                    : Start[o];
                var open =
                    site.At >= 0 && _loose is not { Closed: true }
                        ? ClosedUntil(_vehicles!.Places[site.At], Start[o], Finish[o])
                        : Start[o];
                if (Math.Max(clear, open) > Start[o])
                {
                    from = Math.Max(clear, open);
                    continue;
                }

                if (
                    Finish[o] <= site.Limit
                    && Start[o] < _end
                    && Finish[o] < _end
                    && (found is null || (Finish[o], Start[o]).CompareTo((found.Finish, found.Start)) < 0)
                )
                {
                    found = new(
                        Start[o],
                        Finish[o],
                        Crew.AsSpan(_model.CrewAt[o], _model.CrewAt[o + 1] - _model.CrewAt[o]).ToArray(),
                        _pieces.GetValueOrDefault(o),
                        gap,
                        site
                    );
                }

                return;
            }
        }
    }

    private bool StaysEmpty(int place, int from) =>
        _vehicles!.Places[place] is { Closed.Length: 0, Resource: var room } && _profiles[room].End <= from;

    private bool AreAlike(int build, int one, int other) =>
        _vehicles!.Places[one].Whole == _vehicles.Places[other].Whole
        && _vehicles.Places[one].Kind == _vehicles.Places[other].Kind
        && _vehicles.Passes[build][one] == _vehicles.Passes[build][other];

    /// <summary>The end of a closure that meets a stretch; the stretch's start: none does.</summary>
    private static int ClosedUntil(Place place, int start, int end)
    {
        foreach (var (from, to) in place.Closed)
        {
            if (from < end && to > start)
            {
                return Math.Min(to, Model.Parked);
            }
        }

        return start;
    }

    /// <summary>Where it can be done, with one place more where that is tried.</summary>
    private int[]? OptionsOf(int o) =>
        _vehicles!.Options[o] is { } options && _loose is { Place: true }
            ? [.. options, _vehicles.Spare]
            : _vehicles.Options[o];

    /// <summary>Whether hands push it from there: it stands in the shop, and somebody knows where.</summary>
    private static bool IsPushed(int from) => from is >= 0 or Stay.Aside;

    /// <summary>Whether a vehicle stands in one of the places of which nobody knows yet when it is moved on, and could
    /// be before the start that was found.</summary>
    private bool MayBeFreeSooner(int o, int ready, int work, Need[] crew, int hold, Found? found)
    {
        if (found is { Site.Arrives: false })
        {
            return false;
        }

        var soonest = int.MaxValue;
        foreach (var b in Holders(o, _vehicles!.Options[o]!))
        {
            soonest = Math.Min(soonest, Math.Max(0, _stays[b][^1].Busy));
        }

        if (soonest == int.MaxValue || found is null)
        {
            return soonest < int.MaxValue;
        }

        // Only if it could begin sooner with the place to itself from then on.
        return soonest < found.Start
            && PlaceCore(o, Math.Max(ready, soonest), work, crew, hold)
            && Start[o] + _vehicles!.MoveMinutes < found.Start;
    }

    /// <summary>Whoever stands longest idle in one of the places is pushed into the yard, or aside where that is full:
    /// two that want each other's place change over.</summary>
    private bool MakeRoom(int o)
    {
        var (who, busy) = (-1, int.MaxValue);
        foreach (var b in Holders(o, _vehicles!.Options[o] ?? _vehicles.Benches[o]!))
        {
            var last = _stays[b][^1];
            if (
                last.Until >= Model.Parked
                && last.Busy < busy
                && HandsFor(b, last.At, Stay.Aside, Math.Max(0, last.Busy)) > 0
            )
            {
                (who, busy) = (b, last.Busy);
            }
        }

        if (who < 0)
        {
            return false;
        }

        Keep(who);
        var (stays, at) = (_stays[who], Math.Max(0, busy));
        Unbook(who);
        var (moved, mover, second) = EarliestMove(who, stays[^1].At, at);
        var leaves = moved < Model.Parked ? moved : at;
        stays[^1] = stays[^1] with { Until = leaves };
        Book(stays[^1], 1);
        stays.Add(
            new(Yard(leaves, Model.Parked), leaves, leaves, Model.Parked, -1)
            {
                Moved = moved < Model.Parked ? moved : -1,
                Mover = mover,
                SecondMover = second,
            }
        );
        Book(stays[^1], 1);
        return true;

        void Unbook(int b) => Book(_stays[b][^1], -1);
    }

    /// <summary>A place of the yard that is free for a stretch; none: aside.</summary>
    private int Yard(int from, int to)
    {
        foreach (var y in _vehicles!.Yards)
        {
            if (Free(_vehicles.Places[y], from, to - from) == from)
            {
                return y;
            }
        }

        return Stay.Aside;
    }

    /// <summary>A vehicle whose place is kept until another operation ends stays there until then; where somebody else
    /// has it before, what opens the hold moves later.</summary>
    /// <param name="never">It is taken elsewhere for work that belongs to the hold.</param>
    /// <returns>Whether it does in each.</returns>
    private bool StandsThroughHolds(Cluster cluster, out bool never)
    {
        never = false;
        foreach (var hold in cluster.Holds)
        {
            if (!IsOnVehicle(hold.Open) || _loose is { Vehicle: true })
            {
                continue;
            }

            var stays = _stays[_model.Build[hold.Open]];
            var at = stays.FindLastIndex(s => s.From <= Start[hold.Open]);
            if (stays[at].Until < Finish[hold.Close])
            {
                never =
                    stays[at].Until <= Start[hold.Open]
                    || (
                        at + 1 < stays.Count
                        && stays[at + 1].For >= 0
                        && _model.ClusterOf[stays[at + 1].For] == _model.ClusterOf[hold.Open]
                    );
                _earliest[hold.Open] = stays[at].Until;
                return false;
            }

            Keep(_model.Build[hold.Open]);
            stays[at] = stays[at] with { Busy = Math.Max(stays[at].Busy, Finish[hold.Close]) };
        }

        return true;
    }

    /// <summary>Whether an operation comes while its vehicle keeps its place for work of the same cluster.</summary>
    private bool IsHeldBefore(int o)
    {
        var cluster = Clusters[_model.ClusterOf[o]];
        var turn = Array.IndexOf(cluster.Operations, o);
        foreach (var hold in cluster.Holds)
        {
            if (
                IsOnVehicle(hold.Open)
                && Array.IndexOf(cluster.Operations, hold.Open) < turn
                && Array.IndexOf(cluster.Operations, hold.Close) >= turn
            )
            {
                return true;
            }
        }

        return false;
    }

    /// <summary>Where vehicles stand, without the trips into the yard that made room for nobody.</summary>
    private Stay[][] Tidied()
    {
        var yards = _vehicles!.Yards;
        foreach (var stays in _stays)
        {
            if (
                stays.Count > 1
                && stays[^1] is { For: < 0, Until: >= Model.Parked } waits
                && Array.IndexOf(yards, waits.At) >= 0
                && stays[^2] is { At: >= 0 } stood
                && stood.Until == waits.From
                && waits.Busy <= waits.From
                && Free(_vehicles.Places[stood.At], waits.From, Model.Parked - waits.From) == waits.From
            )
            {
                Book(waits, -1);
                Book(stood, -1);
                stays.RemoveAt(stays.Count - 1);
                stays[^1] = stood with { Until = Model.Parked };
                Book(stays[^1], 1);
            }

            for (var i = 1; i + 1 < stays.Count; i++)
            {
                var (before, aside, next) = (stays[i - 1], stays[i], stays[i + 1]);
                if (
                    aside.For >= 0
                    || before.At < 0
                    || (aside.At >= 0 && Array.IndexOf(yards, aside.At) < 0)
                    || aside.Busy > aside.From
                    || before.Until != aside.From
                    || Free(_vehicles.Places[before.At], aside.From, next.From - aside.From) != aside.From
                )
                {
                    continue;
                }

                Book(before, -1);
                Book(aside, -1);
                Book(next, -1);
                if (next.At == before.At)
                {
                    stays[i - 1] = before with { Busy = next.Busy, Until = next.Until };
                    stays.RemoveRange(i, 2);
                }
                else
                {
                    stays[i - 1] = before with { Until = next.From };
                    stays.RemoveAt(i);
                    Book(next, 1);
                }

                Book(stays[i - 1], 1);
                i--;
            }
        }

        foreach (var stays in _stays)
        {
            for (var i = stays.Count - 1; i > 0; i--)
            {
                if (stays[i].At == stays[i - 1].At && stays[i].At != Stay.Gone)
                {
                    Push(stays[i].Mover, stays[i].Moved, -1);
                    Push(stays[i].SecondMover, stays[i].Moved, -1);
                    stays[i - 1] = stays[i - 1] with { Busy = stays[i].Busy, Until = stays[i].Until };
                    stays.RemoveAt(i);
                }
            }
        }

        return Array.ConvertAll(_stays, s =>
            s.Where((x, i) => i == 0 || x.Until > Math.Max(0, x.From) || i == s.Count - 1).ToArray()
        );
    }

    private void Keep(int build) => _undo.Add((build, [.. _stays[build]], [.. _changes[build]]));

    /// <summary>Notes what an operation that was placed means for where its vehicle stands.</summary>
    private void Settle(int o, Found found)
    {
        var (build, site) = (_model.Build[o], found.Site);
        var stays = _stays[build];
        Keep(build);
        if (_vehicles!.Changes[o] is not null)
        {
            _changes[build].Add((found.Finish, o));
        }

        var stay = stays[found.Gap];
        if (!site.Arrives && site.At != Stay.Gone)
        {
            stays[found.Gap] = stay with { Busy = Math.Max(stay.Busy, found.Finish) };
            if (found.Gap == stays.Count - 1 && !IsHeldBefore(o))
            {
                GoAside(build, found.Gap, stay.Busy, found.Start, o);
            }

            return;
        }

        Book(stay, -1);
        var from = found.Start;
        var (moved, mover, second) = (-1, -1, -1);
        if (site.At >= 0 && IsPushed(site.From) && _loose is not { Hands: true })
        {
            (moved, mover, second) = LatestMove(
                Math.Max(
                    Math.Max(site.Lower, ChangedBefore(build, found.Start)),
                    FreeSince(_vehicles.Places[site.At], found.Start)
                ),
                found.Start,
                HandsFor(build, site.From, site.At, found.Start)
            );
            from = moved >= 0 ? moved : from;
        }

        var next =
            site.Next < Model.Parked ? site.Next
            : site.At < 0 ? Model.Parked
            : FreeUntil(_vehicles.Places[site.At], from);
        if (found.Finish > next && found.Gap + 1 < stays.Count)
        {
            stays[found.Gap + 1] = stays[found.Gap + 1] with
            {
                Busy = Math.Max(stays[found.Gap + 1].Busy, found.Finish),
            };
        }

        var arrived = new Stay(site.At, from, Math.Min(found.Finish, next), next, o)
        {
            Moved = moved,
            Mover = mover,
            SecondMover = second,
        };
        var late = stay.Until < from;
        stays[found.Gap] = stay with { Until = Math.Min(stay.Until, from) };
        Book(stays[found.Gap], 1);
        stays.Insert(found.Gap + 1, arrived);
        Book(arrived, 1);
        if (site.At == Stay.Gone)
        {
            // It comes back to wherever there is room.
            stays[found.Gap + 1] = arrived with { Until = found.Finish };
            stays.Insert(found.Gap + 2, new(Stay.Nowhere, found.Finish, found.Finish, next, -1));
        }

        if (late)
        {
            ClearOut(build, found.Gap);
        }
        else if (found.Gap == stays.Count - 2)
        {
            GoAside(build, found.Gap, stay.Busy, from, -1);
        }

        _freed = true;
    }

    /// <summary>Somebody else has its place before it goes on to its next: it waits there if that is free, else in the
    /// yard or aside.</summary>
    private void ClearOut(int build, int gap)
    {
        var stays = _stays[build];
        var (stay, next) = (stays[gap], stays[gap + 1]);
        if (next.At >= 0 && stay.At >= 0)
        {
            Book(next, -1);
            var (moved, mover, second) = LatestMove(
                Math.Max(
                    Math.Max(ChangedBefore(build, stay.Until), stay.Busy),
                    FreeSince(_vehicles!.Places[next.At], next.From)
                ),
                stay.Until,
                HandsFor(build, stay.At, next.At, stay.Until)
            );
            if (moved >= 0)
            {
                stays[gap + 1] = next with { From = moved, Moved = moved, Mover = mover, SecondMover = second };
                Book(stays[gap + 1], 1);
                Book(stay, -1);
                stays[gap] = stay with { Until = moved };
                Book(stays[gap], 1);
                return;
            }

            Book(next, 1);
        }

        PushOut(build, gap, next.From);
    }

    /// <summary>It is taken into the yard, or aside, before somebody else has its place.</summary>
    private void PushOut(int build, int gap, int until)
    {
        var stays = _stays[build];
        var stay = stays[gap];
        var (at, who, other) = LatestMove(
            Math.Max(ChangedBefore(build, stay.Until), stay.Busy),
            stay.Until,
            Math.Max(1, HandsFor(build, stay.At, Stay.Aside, stay.Until))
        );
        var leaves = at >= 0 ? at : stay.Until;
        Book(stay, -1);
        stays[gap] = stay with { Until = leaves };
        Book(stays[gap], 1);
        stays.Insert(
            gap + 1,
            new(Yard(leaves, until), leaves, leaves, until, -1)
            {
                Moved = at,
                Mover = who,
                SecondMover = other,
            }
        );
        Book(stays[gap + 1], 1);
    }

    /// <summary>A vehicle that stands idle for long makes room: it is in the yard meanwhile, where that has some and
    /// hands are free.</summary>
    /// <param name="at">The stay in which it is idle.</param>
    /// <param name="back">The operation for which it comes back to the same place; -1: it goes on to another.</param>
    private void GoAside(int build, int at, int busy, int until, int back)
    {
        var stays = _stays[build];
        var (stay, idle) = (stays[at], Math.Max(0, busy));
        if (
            _alone
            || KeepsRest
            || stay.At < 0
            || Array.IndexOf(_vehicles!.Yards, stay.At) >= 0
            || until - idle < VehicleModel.LongIdle
            || !ShellAt(build, idle).Rolls
            || HandsFor(build, stay.At, Stay.Aside, idle) == 0
        )
        {
            return;
        }

        var (leaves, mover, second) = EarliestMove(build, stay.At, idle);
        var handsBack = back >= 0 ? HandsFor(build, Stay.Aside, stay.At, until) : 1;
        var (comes, again, too) =
            back >= 0 && handsBack > 0
                ? LatestMove(Math.Max(idle, ChangedBefore(build, until)), until, handsBack)
                : (until, -1, -1);
        if (
            leaves >= Model.Parked
            || handsBack == 0
            || (back >= 0 && comes < 0)
            || comes - leaves < VehicleModel.LongIdle / 2
            || Yard(leaves, comes) is not (>= 0 and var yard)
        )
        {
            return;
        }

        Book(stay, -1);
        stays[at] = stay with { Busy = busy, Until = leaves };
        Book(stays[at], 1);
        stays.Insert(
            at + 1,
            new(yard, leaves, leaves, comes, -1)
            {
                Moved = leaves,
                Mover = mover,
                SecondMover = second,
            }
        );
        Book(stays[at + 1], 1);
        if (back >= 0)
        {
            stays.Insert(
                at + 2,
                new(stay.At, comes, stay.Busy, stay.Until, back)
                {
                    Moved = comes,
                    Mover = again,
                    SecondMover = too,
                }
            );
            Book(stays[at + 2], 1);
        }

        _freed = true;
    }

    /// <summary>The first instant from <paramref name="t"/> on at which the site allows the operation; itself: it
    /// does.</summary>
    private int FitSite(int o, int t, int length)
    {
        if ((long)t + length > _site.Limit || (_site.Arrives && t >= _site.Next))
        {
            return int.MaxValue;
        }

        if (_site.At < 0)
        {
            return t;
        }

        var place = _vehicles!.Places[_site.At];
        if (_loose is not { Closed: true } && ClosedUntil(place, t, t + length) is var open && open > t)
        {
            return open >= Model.Parked ? int.MaxValue : open;
        }

        if (!_site.Arrives)
        {
            return t;
        }

        // In a schedule that is complete it only has to be there for this.
        var free = Free(
            place,
            t,
            KeepsRest ? length
                : _site.Next < Model.Parked ? _site.Next - t
                : Math.Max(length, _vehicles.Visit[o])
        );
        if (free > t)
        {
            return free;
        }

        var hands = HandsFor(_site.Build, _site.From, _site.At, t);
        if (hands == 0 || !IsPushed(_site.From) || _loose is { Hands: true })
        {
            return hands == 0 ? int.MaxValue : t;
        }

        var since = Math.Max(Math.Max(_site.Lower, ChangedBefore(_site.Build, t)), FreeSince(place, t));
        var moved = EarliestMove(since, hands).At;
        return moved >= Model.Parked ? int.MaxValue : Math.Max(t, moved + _vehicles.MoveMinutes);
    }

    private int Free(Place place, int from, int length)
    {
        for (var t = from; ; )
        {
            var start = t;
            t = _profiles[place.Resource].FirstFit(t, length, 1);
            t = t < int.MaxValue && place.Whole >= 0 ? _profiles[place.Whole].FirstFit(t, length, 1) : t;
            if (t == start || t == int.MaxValue)
            {
                return t;
            }
        }
    }

    private int FreeSince(Place place, int t) =>
        Math.Max(
            _profiles[place.Resource].FreeSince(t, 1),
            place.Whole >= 0 ? _profiles[place.Whole].FreeSince(t, 1) : 0
        );

    private int FreeUntil(Place place, int t)
    {
        var until = Math.Min(
            _profiles[place.Resource].FreeUntil(t, 1),
            place.Whole >= 0 ? _profiles[place.Whole].FreeUntil(t, 1) : int.MaxValue
        );
        return Math.Min(until, Model.Parked);
    }

    /// <summary>The last time before an instant at which so many people have time for a move; -1: none.</summary>
    private (int At, int Who, int Second) LatestMove(int since, int before, int hands)
    {
        for (var tries = 0; tries < MostSlots; tries++)
        {
            var (first, who) = (-1, -1);
            var second = -1;
            for (var p = 0; p < _axis!.Length; p++)
            {
                var at = LatestFree(p, since, before);
                if (at > first)
                {
                    (second, first, who) = (first, at, p);
                }
                else if (at > second)
                {
                    second = at;
                }
            }

            if (first < 0 || hands == 1)
            {
                return (first, who, -1);
            }

            if (second < 0)
            {
                return (-1, -1, -1);
            }

            if (Pair(second) is var (one, other) && other >= 0)
            {
                return (second, one, other);
            }

            before = second + _vehicles!.MoveMinutes - 1;
        }

        return (-1, -1, -1);
    }

    /// <summary>Answers of <see cref="EarliestMove(int, int)"/> since somebody was booked last: while one operation looks
    /// for its place, it is asked the same of each.</summary>
    private readonly Dictionary<(int From, int Hands), (int At, int Who, int Second)> _moves = [];

    private long _movesAt;

    /// <summary>The first time from an instant on at which so many people have time for a move; parked: none.</summary>
    private (int At, int Who, int Second) EarliestMove(int from, int hands)
    {
        var changes = 0L;
        for (var p = 0; p < _axis!.Length; p++)
        {
            changes += _profiles[p].Changes;
        }

        if (changes != _movesAt)
        {
            _moves.Clear();
            _movesAt = changes;
        }

        return _moves.TryGetValue((from, hands), out var known)
            ? known
            : _moves[(from, hands)] = FindEarliestMove(from, hands);
    }

    private (int At, int Who, int Second) FindEarliestMove(int from, int hands)
    {
        for (var tries = 0; tries < MostSlots; tries++)
        {
            var (first, second, who) = (Model.Parked, Model.Parked, -1);
            for (var p = 0; p < _axis!.Length; p++)
            {
                var at = EarliestFree(p, from);
                if (at < first)
                {
                    (second, first, who) = (first, at, p);
                }
                else
                {
                    second = Math.Min(second, at);
                }
            }

            if (hands == 1 || second >= Model.Parked)
            {
                return hands == 1 ? (first, who, -1) : (Model.Parked, -1, -1);
            }

            if (Pair(second) is var (one, other) && other >= 0)
            {
                return (second, one, other);
            }

            from = second + 1;
        }

        return (Model.Parked, -1, -1);
    }

    /// <summary>The first time from an instant on at which a vehicle can be taken aside, as the shell stands
    /// then.</summary>
    private (int At, int Who, int Second) EarliestMove(int build, int place, int from)
    {
        var hands = HandsFor(build, place, Stay.Aside, from);
        var move = EarliestMove(from, hands);
        return move.At < Model.Parked && HandsFor(build, place, Stay.Aside, move.At) is var then && then > hands
            ? EarliestMove(from, then)
            : move;
    }

    /// <summary>Two people who both have time for a move at an instant.</summary>
    private (int One, int Other) Pair(int at)
    {
        var one = -1;
        for (var p = 0; p < _axis!.Length; p++)
        {
            if (EarliestFree(p, at) != at)
            {
                continue;
            }

            if (one >= 0)
            {
                return (one, p);
            }

            one = p;
        }

        return (one, -1);
    }

    private int LatestFree(int person, int since, int before)
    {
        var (hours, minutes) = (_axis![person], _vehicles!.MoveMinutes);
        var (least, to) = (hours.Worked(since), hours.Worked(before));
        for (var tries = 0; tries < MostSlots; tries++)
        {
            var at = _profiles[person].LastFit(to, minutes, 1);
            if (at < least)
            {
                return -1;
            }

            var start = hours.StartAt(at);
            var end = hours.PieceEnd(start);
            if (start + minutes <= end)
            {
                return start >= since && start + minutes <= before ? start : -1;
            }

            to = at + end - start;
        }

        return -1;
    }

    private int EarliestFree(int person, int from)
    {
        var (hours, minutes) = (_axis![person], _vehicles!.MoveMinutes);
        var at = hours.Worked(from);
        for (var tries = 0; tries < MostSlots; tries++)
        {
            at = _profiles[person].FirstFit(at, minutes, 1);
            var start = at == int.MaxValue ? Hours.Horizon : hours.StartAt(at);
            if (start >= Hours.Horizon)
            {
                return Model.Parked;
            }

            var end = hours.PieceEnd(start);
            if (start + minutes <= end)
            {
                return start;
            }

            at += end - start;
        }

        return Model.Parked;
    }
}

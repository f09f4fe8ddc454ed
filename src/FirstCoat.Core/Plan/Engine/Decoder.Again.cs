namespace FirstCoat.Core.Plan.Engine;

/// <summary>Some clusters are placed again in a schedule that is complete, everything else kept as it is, with
/// something taken away that held them.</summary>
internal sealed partial class Decoder
{
    private Loosened? _loose;

    /// <summary>The schedule in which some are placed again: nothing else is pushed out of the way for them. Null: all
    /// is being placed.</summary>
    private Schedule? _was;

    private bool KeepsRest => _was is not null;

    /// <summary>From when on each cluster was covered when it was placed.</summary>
    private readonly int[] _coveredFrom;

    /// <summary>Places clusters again and asks something of what comes out; everything is as before
    /// afterwards.</summary>
    /// <param name="path">Each after what it follows.</param>
    /// <param name="gone">Clusters that are out of the way meanwhile.</param>
    /// <param name="loose">What is taken away for each; null: nothing.</param>
    /// <param name="was">The schedule as it is.</param>
    /// <param name="ask">Asked once all are placed.</param>
    /// <returns>The answer; false where they find no place.</returns>
    public bool Again(
        IReadOnlyList<int> path,
        IReadOnlyList<int> gone,
        Func<int, Loosened?> loose,
        Schedule was,
        Func<bool> ask
    )
    {
        List<int> lifted = [.. path, .. gone];
        var builds = lifted.SelectMany(c => Clusters[c].Operations).Select(o => _model.Build[o]).Distinct().ToList();
        var stays = builds.ConvertAll(b => _vehicles is null ? [] : _stays[b].ToArray());
        var changes = builds.ConvertAll(b => _vehicles is null ? [] : _changes[b].ToArray());
        lifted.ForEach(c => Book(Clusters[c], -1));
        builds.ForEach(b => Unsettle(b, lifted, [.. path.SelectMany(c => Clusters[c].Operations)]));
        var (placed, swapped) = (0, new List<List<(int Resource, Profile Profile)>>());
        (_insist, _was) = (true, was);
        var answer = true;
        foreach (var c in path)
        {
            _loose = loose(c);
            swapped.Add(Swap(_loose));
            answer = PutIn(Clusters[c]) && Array.TrueForAll(Clusters[c].Operations, o => Start[o] < Model.Parked);
            _undo.Clear();
            Put(swapped[^1]);
            _loose = null;
            placed++;
            if (!answer)
            {
                break;
            }
        }

        (_insist, _was) = (false, null);
        answer = answer && ask();
        for (var i = 0; i < placed; i++)
        {
            _loose = loose(path[i]);
            Put(swapped[i]);
            if (Start[Clusters[path[i]].Operations[0]] < Model.Parked)
            {
                Book(Clusters[path[i]], -1);
            }

            Put(swapped[i]);
            _loose = null;
        }

        for (var i = 0; i < builds.Count && _vehicles is not null; i++)
        {
            var b = builds[i];
            _stays[b].ForEach(s => Book(s, -1));
            _stays[b].Clear();
            _stays[b].AddRange(stays[i]);
            _stays[b].ForEach(s => Book(s, 1));
            _changes[b].Clear();
            _changes[b].AddRange(changes[i]);
        }

        foreach (var c in lifted)
        {
            Array.ForEach(Clusters[c].Operations, o => Restore(o, was));
            Book(Clusters[c], 1);
        }

        return answer;
    }

    /// <summary>Vehicles are as busy in each place as what stays put makes them.</summary>
    private void Unsettle(int build, IReadOnlyList<int> clusters, HashSet<int> placed)
    {
        if (_vehicles is null)
        {
            return;
        }

        var stays = _stays[build];
        var lifted = clusters.SelectMany(c => Clusters[c].Operations).ToHashSet();
        for (var i = 0; i < stays.Count; i++)
        {
            var stay = stays[i];
            var busy =
                i == 0 ? 0
                : stay.At == Stay.Gone && stay.For >= 0 && lifted.Contains(stay.For) ? stay.From
                : stay.Ready(_vehicles.MoveMinutes);
            for (var o = 0; o < _model.Count; o++)
            {
                if (
                    _model.Build[o] == build
                    && IsOnVehicle(o)
                    && !lifted.Contains(o)
                    && Start[o] >= stay.From
                    && Start[o] < stay.Until
                    && Start[o] < Model.Parked
                    && Finish[o] > Start[o]
                )
                {
                    busy = Math.Max(busy, Finish[o]);
                }
            }

            foreach (var hold in _model.Holds)
            {
                if (
                    _model.Build[hold.Open] == build
                    && IsOnVehicle(hold.Open)
                    && !lifted.Contains(hold.Open)
                    && Start[hold.Open] >= stay.From
                    && Start[hold.Open] < stay.Until
                )
                {
                    busy = Math.Max(busy, Finish[hold.Close]);
                }
            }

            stays[i] = stay with { Busy = busy };
        }

        for (var i = 1; i < stays.Count; i++)
        {
            if (
                placed.Contains(stays[i].For)
                && stays[i].Busy <= (stays[i].At == Stay.Gone ? stays[i].From : stays[i].Ready(_vehicles.MoveMinutes))
            )
            {
                NotMoved(stays, i);
                i--;
            }
        }

        _changes[build].RemoveAll(c => lifted.Contains(c.Operation));
    }

    /// <summary>Without the work that it came for it stays where it was, or aside where others have that
    /// place.</summary>
    private void NotMoved(List<Stay> stays, int at)
    {
        var (before, stay) = (stays[at - 1], stays[at]);
        Book(stay, -1);
        while (
            at + 1 < stays.Count
            && stays[at + 1] is { At: not Stay.Gone, For: < 0, Moved: < 0 } idle
            && idle.Busy <= idle.From
        )
        {
            // What it would only have waited in afterwards it does not come to.
            Book(idle, -1);
            stay = stay with { Until = idle.Until };
            stays.RemoveAt(at + 1);
        }

        Book(before, -1);
        stays.RemoveAt(at);
        var free =
            before.At < 0
            || Free(_vehicles!.Places[before.At], Math.Max(0, before.From), stay.Until - Math.Max(0, before.From))
                == Math.Max(0, before.From);
        stays[at - 1] = free ? before with { Until = stay.Until } : before;
        Book(stays[at - 1], 1);
        if (!free)
        {
            stays.Insert(at, new(Stay.Aside, before.Until, before.Until, stay.Until, -1));
        }
    }

    private List<(int, Profile)> Swap(Loosened? loose)
    {
        var swapped = new List<(int, Profile)>();
        foreach (var resource in loose?.Free ?? [])
        {
            swapped.Add((resource, new(Math.Max(1000, _profiles[resource].Capacity))));
        }

        Put(swapped);
        return swapped;
    }

    /// <summary>Puts other profiles in the place of those that are there, and those where the others were.</summary>
    private void Put(List<(int Resource, Profile Profile)> others)
    {
        _moves.Clear();
        for (var i = 0; i < others.Count; i++)
        {
            var (resource, profile) = others[i];
            (_profiles[resource], others[i]) = (profile, (resource, _profiles[resource]));
        }
    }

    private Hours ClassHours(int person, int build) =>
        _loose is not null && _loose.Hours.TryGetValue(person, out var hours)
            ? hours
            : _model.ClassHours?.Invoke(person, build) ?? Hours.Always;

    private Run RunOf(int o) =>
        _loose is { MayStop: true } && _model.Run[o] is Run.Nonstop or Run.ThroughBreaks ? Run.Split : _model.Run[o];

    private Hours OwnHours(int o) => _loose is { Visits: true } ? Hours.Always : _model.OwnHours[o];
}

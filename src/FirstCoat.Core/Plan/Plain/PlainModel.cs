using FirstCoat.Core.Plan.Engine;
using FirstCoat.Core.Plan.Files;

namespace FirstCoat.Core.Plan.Plain;

/// <summary>A plain problem laid out for the engine, and the way back from a schedule to names.</summary>
internal sealed class PlainModel
{
    private readonly PlainProblem _problem;
    private readonly List<PlainOperation> _operations;
    private readonly List<List<string>> _members;
    private readonly Dictionary<string, int> _stationAt;

    public PlainModel(PlainProblem problem)
    {
        _problem = problem;
        _operations = problem.Builds.SelectMany(b => b.Operations).ToList();
        var index = _operations.Select((o, i) => (o.Id, i)).ToDictionary(x => x.Id, x => x.i);

        // People with the same trades are one class; those with fewer trades come first where several could do it.
        var classes = problem
            .People.GroupBy(p => string.Join('\n', p.Trades.Distinct().Order(StringComparer.Ordinal)))
            .OrderBy(g => g.First().Trades.Distinct().Count())
            .ToList();
        _members = classes.Select(c => c.Select(p => p.Id).ToList()).ToList();
        var byTrade = classes
            .SelectMany((c, i) => c.First().Trades.Distinct().Select(t => (t, i)))
            .GroupBy(x => x.t)
            .ToDictionary(g => g.Key, g => g.Select(x => x.i).ToArray());
        var capacity = classes.Select(c => c.Count()).ToList();

        // A kind is the sum of the stations that have it; an operation may also name one station by its id.
        _stationAt = [];
        foreach (var kind in problem.Stations.GroupBy(s => s.Kind ?? s.Id))
        {
            _stationAt[kind.Key] = capacity.Count;
            capacity.Add(kind.Sum(s => s.Count));
        }

        foreach (var s in problem.Stations.Where(s => !_stationAt.ContainsKey(s.Id)))
        {
            _stationAt[s.Id] = _stationAt[s.Kind ?? s.Id];
        }

        var uses = _operations
            .Select(o => o.Station is null ? [] : new List<Use> { new(_stationAt[o.Station], 1, 1) })
            .ToList();
        foreach (var group in problem.Builds.SelectMany(b => b.OneAtATime))
        {
            foreach (var id in group.Distinct())
            {
                uses[index[id]].Add(new(capacity.Count, 1, 1));
            }

            capacity.Add(1);
        }

        var build = problem.Builds.SelectMany((b, i) => b.Operations.Select(_ => i)).ToArray();
        try
        {
            Model = new Model
            {
                Work = _operations.Select(o => o.Duration).ToArray(),
                Release = _operations
                    .Select((o, i) => Math.Max(o.NotBefore, problem.Builds[build[i]].NotBefore))
                    .ToArray(),
                Run = _operations.Select(_ => Run.Nonstop).ToArray(),
                OwnHours = _operations.Select(_ => Hours.Always).ToArray(),
                Crew = _operations
                    .Select(o =>
                        o.Crew.GroupBy(c => c.Trade)
                            .Select(c => new Need(c.Sum(x => x.Count), byTrade[c.Key]))
                            .OrderBy(n => n.Classes.Length)
                            .ToArray()
                    )
                    .ToArray(),
                Uses = uses.Select(u => u.ToArray()).ToArray(),
                After = _operations
                    .Select(o =>
                        o.After.Select(a => new Link(
                                index[a.Op],
                                a.MinLag,
                                a.MaxLag ?? Link.NoLimit,
                                FromStart: false,
                                Hours.Always
                            ))
                            .ToArray()
                    )
                    .ToArray(),
                Build = build,
                Holds = _operations
                    .Select((o, i) => (o.Hold, i))
                    .Where(x => x.Hold is not null)
                    .Select(x => new Hold(x.i, index[x.Hold!.Until], _stationAt[x.Hold.Station]))
                    .ToArray(),
                Capacity = [.. capacity],
                Due = problem.Builds.Select(b => b.Due).ToArray(),
                Weight = problem.Builds.Select(b => b.Weight).ToArray(),
            }.Prepare();
        }
        catch (CycleException e)
        {
            throw new PlanFileFault(
                "",
                $"these wait for each other: {string.Join(" > ", e.Operations.Select(o => _operations[o].Id))} > {_operations[e.Operations[0]].Id}"
            );
        }
    }

    public Model Model { get; }

    public string NameOf(int operation) => _operations[operation].Id;

    /// <summary>The schedule with the names of the problem; people of a class take turns as they become free.</summary>
    public PlainAnswer Answer(Schedule schedule, PlainBound bound)
    {
        var free = _members.Select(m => m.ToDictionary(id => id, _ => int.MinValue)).ToArray();
        var people = new List<string>[_operations.Count];
        foreach (
            var o in Enumerable
                .Range(0, _operations.Count)
                .OrderBy(o => schedule.Start[o])
                .ThenBy(o => schedule.Finish[o])
        )
        {
            people[o] = [];
            if (_operations[o].Duration == 0)
            {
                // Nothing to do: anybody who has the trade stands for it, whatever else they do.
                people[o].AddRange(Standing(Model.Crew[o]));
                continue;
            }

            for (var i = Model.CrewAt[o]; i < Model.CrewAt[o + 1]; i++)
            {
                var taken = schedule.Crew[i];
                if (taken.Count > 0)
                {
                    var idle = free[taken.Class]
                        .Where(p => p.Value <= schedule.Start[o])
                        .Take(taken.Count)
                        .Select(p => p.Key)
                        .ToList();
                    idle.ForEach(p => free[taken.Class][p] = schedule.Finish[o]);
                    people[o].AddRange(idle);
                }
            }
        }

        var (at, held) = Units(schedule);
        var placed = Enumerable
            .Range(0, _operations.Count)
            .ToDictionary(
                o => _operations[o].Id,
                o => new PlainPlaced(schedule.Start[o], people[o].Count == 0 ? null : people[o], at[o], held[o])
            );
        return new(_problem.Name, new(schedule.Weighted, schedule.Makespan), bound, placed);
    }

    /// <summary>Which station each operation and each hold has, by its own id: the first of its kind that is
    /// free.</summary>
    private (string?[] At, string?[] Held) Units(Schedule schedule)
    {
        var index = _operations.Select((o, i) => (o.Id, i)).ToDictionary(x => x.Id, x => x.i);
        var (at, held) = (new string?[_operations.Count], new string?[_operations.Count]);
        var asked = Enumerable
            .Range(0, _operations.Count)
            .SelectMany(o =>
                new (string? Kind, int Until, string?[] Into, int Of)[]
                {
                    (_operations[o].Hold?.Station, Until(o), held, o),
                    (_operations[o].Station, schedule.Finish[o], at, o),
                }
            )
            .Where(a => a.Kind is not null)
            .OrderBy(a => schedule.Start[a.Of])
            .ThenBy(a => a.Until);
        var free = _problem
            .Stations.GroupBy(s => _stationAt[s.Id])
            .ToDictionary(
                g => g.Key,
                g =>
                    g.SelectMany(s => Enumerable.Repeat(s.Id, s.Count))
                        .Select(id => (Id: id, From: int.MinValue))
                        .ToArray()
            );
        foreach (var (kind, until, into, o) in asked)
        {
            var units = free[_stationAt[kind!]];
            var unit = Math.Max(0, Array.FindIndex(units, u => u.From <= schedule.Start[o]));
            into[o] = units[unit].Id;
            if (until > schedule.Start[o])
            {
                units[unit].From = until;
            }
        }

        return (at, held);

        int Until(int o) => _operations[o].Hold is { } hold ? schedule.Finish[index[hold.Until]] : 0;
    }

    private List<string> Standing(Need[] crew)
    {
        var names = new List<string>();
        var taken = new Taken[crew.Sum(n => Math.Min(n.Count, n.Classes.Length))];
        if (Matching.Assign(crew, Model.Capacity, taken))
        {
            foreach (var t in taken.Where(t => t.Count > 0))
            {
                names.AddRange(_members[t.Class].Where(m => !names.Contains(m)).Take(t.Count));
            }
        }

        return names;
    }
}

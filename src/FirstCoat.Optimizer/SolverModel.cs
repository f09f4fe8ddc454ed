using FirstCoat.Core.Plan.Engine;
using Google.OrTools.Sat;

namespace FirstCoat.Optimizer;

/// <summary>What the solver found: new starts, and the schedule as it found it, people and all.</summary>
/// <param name="Whole">Stands where what is not free stands fast.</param>
internal sealed record Solved(Dictionary<int, int> Start, Schedule Whole);

/// <summary>Some operations of a schedule as a constraint model, all others where they are.</summary>
/// <remarks>
/// Only for models round the clock. People of one class are counted (a cumulative resource for each class); where a
/// trade has several classes, how many come from each is a variable.
/// </remarks>
internal sealed class SolverModel
{
    private readonly Model _model;
    private readonly Schedule _schedule;
    private readonly bool[] _free;
    private readonly CpModel _cp = new();
    private readonly Dictionary<int, IntVar> _start = [];
    private readonly int _horizon;
    private readonly List<(IntVar Var, int Hint)> _hints = [];
    private readonly Dictionary<int, List<(IntervalVar Interval, LinearExpr Demand)>> _loads = [];

    /// <summary>By operation: how many come from each class, need by need.</summary>
    private readonly Dictionary<int, List<List<(int Class, IntVar? Many, int Fixed)>>> _staff = [];

    /// <param name="free">What may move.</param>
    /// <param name="rest">What does not, by resource; null: nothing else is there.</param>
    /// <param name="open">Whether what comes after the free operations gives way (and its delay is what is judged)
    /// instead of standing fast.</param>
    /// <param name="horizon">Nothing ends later.</param>
    public SolverModel(Model model, Schedule schedule, bool[] free, Profile[]? rest, bool open, int horizon)
    {
        (_model, _schedule, _free, _horizon) = (model, schedule, free, horizon);
        for (var o = 0; o < model.Count; o++)
        {
            if (free[o])
            {
                Place(o, open);
            }
        }

        foreach (var hold in model.Holds.Where(h => free[h.Open]))
        {
            var size = _cp.NewIntVar(0, horizon, "");
            _hints.Add((size, schedule.Finish[hold.Close] - schedule.Start[hold.Open]));
            Load(
                hold.Resource,
                _cp.NewIntervalVar(_start[hold.Open], size, End(hold.Close), ""),
                LinearExpr.Constant(1)
            );
        }

        foreach (var (resource, loads) in _loads)
        {
            var cumulative = _cp.AddCumulative(model.Capacity[resource]);
            foreach (var (interval, demand) in loads)
            {
                cumulative.AddDemand(interval, demand);
            }

            foreach (var (from, to, used) in rest?[resource].Taken(0, horizon) ?? [])
            {
                cumulative.AddDemand(_cp.NewFixedSizeIntervalVar(from, to - from, ""), used);
            }
        }

        Objective(open);
    }

    /// <summary>Solves within a time, in one thread.</summary>
    /// <param name="found">Told each solution.</param>
    /// <returns>The last solution; null where nothing was found.</returns>
    public (Solved? Solved, bool IsDone, double Bound) Solve(
        double seconds,
        int seed,
        Action<Solved>? found = null,
        int threads = 1,
        CancellationToken stop = default
    )
    {
        foreach (var (variable, hint) in _hints)
        {
            _cp.AddHint(variable, hint);
        }

        var solver = new CpSolver
        {
            StringParameters = FormattableString.Invariant(
                $"max_time_in_seconds:{seconds:0.###},num_workers:{threads},random_seed:{seed},catch_sigint_signal:false"
            ),
        };
        using var registration = stop.Register(solver.StopSearch);
        var status = found is null ? solver.Solve(_cp) : solver.Solve(_cp, new Told(this, found));
        var solved = status is CpSolverStatus.Optimal or CpSolverStatus.Feasible ? Read(v => solver.Value(v)) : null;
        return (solved, status is CpSolverStatus.Optimal or CpSolverStatus.Infeasible, solver.BestObjectiveBound);
    }

    private sealed class Told(SolverModel model, Action<Solved> found) : CpSolverSolutionCallback
    {
        public override void OnSolutionCallback() => found(model.Read(v => Value(v)));
    }

    /// <summary>Starts of the free operations, and the whole schedule with them where all others are.</summary>
    private Solved Read(Func<IntVar, long> value)
    {
        int[] start = [.. _schedule.Start],
            finish = [.. _schedule.Finish];
        Taken[] crew = [.. _schedule.Crew];
        foreach (var (o, at) in _start)
        {
            start[o] = (int)value(at);
            finish[o] = start[o] + _model.Work[o];
        }

        foreach (var (o, needs) in _staff)
        {
            var slot = _model.CrewAt[o];
            foreach (var (need, from) in _model.Crew[o].Zip(needs))
            {
                var end = slot + Math.Min(need.Count, need.Classes.Length);
                foreach (var (c, many, all) in from)
                {
                    if ((many is null ? all : (int)value(many)) is > 0 and var taken)
                    {
                        crew[slot++] = new(c, taken);
                    }
                }

                crew.AsSpan(slot, end - slot).Clear();
                slot = end;
            }
        }

        var ends = new int[_model.Builds];
        for (var o = 0; o < start.Length; o++)
        {
            ends[_model.Build[o]] = Math.Max(ends[_model.Build[o]], finish[o]);
        }

        var weighted = ends.Select((end, b) => _model.Weight[b] * (long)Math.Max(0, end - _model.Due[b])).Sum();
        return new(_start.Keys.ToDictionary(o => o, o => start[o]), new(start, finish, crew, weighted, ends.Max()));
    }

    private LinearExpr End(int o) => _start[o] + _model.Work[o];

    private void Load(int resource, IntervalVar interval, LinearExpr demand) =>
        (_loads.TryGetValue(resource, out var list) ? list : _loads[resource] = []).Add((interval, demand));

    private void Place(int o, bool open)
    {
        var (low, high) = (_model.Release[o], _horizon - _model.Work[o]);
        foreach (var link in _model.After[o].Where(l => !_free[l.Other]))
        {
            var since = link.FromStart ? _schedule.Start[link.Other] : _schedule.Finish[link.Other];
            low = Math.Max(low, since + link.Lag);
            high = link.HasWindow ? Math.Min(high, since + link.Most) : high;
        }

        foreach (var link in _model.Before[o].Where(l => !_free[l.Other] && !open))
        {
            high = Math.Min(high, _schedule.Start[link.Other] - link.Lag - (link.FromStart ? 0 : _model.Work[o]));
        }

        var start = _start[o] = _cp.NewIntVar(low, Math.Max(low, high), "");
        _hints.Add((start, _schedule.Start[o]));
        foreach (var link in _model.After[o].Where(l => _free[l.Other]))
        {
            // What is tied is free together, and what comes first in a build has a lower number or is added later.
            _later.Add((o, link));
        }

        if (_model.Work[o] == 0)
        {
            return;
        }

        var interval = _cp.NewFixedSizeIntervalVar(start, _model.Work[o], "");
        foreach (var use in _model.Uses[o].Where(u => u.Take > 0))
        {
            Load(use.Resource, interval, LinearExpr.Constant(use.Take));
        }

        foreach (var need in _model.Crew[o])
        {
            Staff(o, need, interval, start);
        }
    }

    private readonly List<(int, Link)> _later = [];

    private void Staff(int o, Need need, IntervalVar interval, IntVar start)
    {
        var from = new List<(int, IntVar?, int)>();
        (_staff.TryGetValue(o, out var needs) ? needs : _staff[o] = []).Add(from);
        if (need.Classes.Length == 1)
        {
            from.Add((need.Classes[0], null, need.Count));
            Load(need.Classes[0], interval, LinearExpr.Constant(need.Count));
            return;
        }

        var shares = new List<LinearExpr>();
        foreach (var c in need.Classes)
        {
            var now = 0;
            for (var i = _model.CrewAt[o]; i < _model.CrewAt[o + 1]; i++)
            {
                now += _schedule.Crew[i].Class == c ? _schedule.Crew[i].Count : 0;
            }

            if (need.Count == 1)
            {
                var isOf = _cp.NewBoolVar("");
                _hints.Add((isOf, Math.Min(1, now)));
                Load(c, _cp.NewOptionalFixedSizeIntervalVar(start, _model.Work[o], isOf, ""), LinearExpr.Constant(1));
                shares.Add(isOf);
                from.Add((c, isOf, 0));
            }
            else
            {
                var many = _cp.NewIntVar(0, Math.Min(need.Count, _model.Capacity[c]), "");
                Load(c, interval, many);
                shares.Add(many);
                from.Add((c, many, 0));
            }
        }

        _cp.Add(LinearExpr.Sum(shares) == need.Count);
    }

    private void Objective(bool open)
    {
        foreach (var (o, link) in _later)
        {
            var since = link.FromStart ? _start[link.Other] : End(link.Other);
            _cp.Add(_start[o] >= since + link.Lag);
            if (link.HasWindow)
            {
                _cp.Add(_start[o] <= since + link.Most);
            }
        }

        var (late, last) = (new List<LinearExpr>(), _cp.NewIntVar(0, 4 * (long)_horizon, ""));
        var fixedEnd = 0;
        for (var b = 0; b < _model.Builds; b++)
        {
            var (end, kept) = (0, 0);
            var mine = new List<int>();
            for (var o = 0; o < _model.Count; o++)
            {
                if (_model.Build[o] == b)
                {
                    end = Math.Max(end, _schedule.Finish[o]);
                    kept = _free[o] ? kept : Math.Max(kept, _schedule.Finish[o]);
                    if (_free[o])
                    {
                        mine.Add(o);
                    }
                }
            }

            if (mine.Count == 0)
            {
                fixedEnd = Math.Max(fixedEnd, end);
                continue;
            }

            var floor = open ? 0 : Math.Max(0, kept - _model.Due[b]);
            var lateness = _cp.NewIntVar(floor, Math.Max(floor, 4L * _horizon), "");
            foreach (var o in mine)
            {
                var isLast = true;
                foreach (var link in _model.Before[o])
                {
                    isLast &= !_free[link.Other] || _model.Build[link.Other] != b;
                    if (open && !_free[link.Other] && _model.Build[link.Other] == b)
                    {
                        // Each unit later than what comes after needs it moves the build's end as much.
                        var spare = _schedule.Start[link.Other] - link.Lag - _schedule.Finish[o];
                        var then = End(o) - (_schedule.Finish[o] + Math.Max(0, spare)) + end;
                        _cp.Add(lateness >= then - _model.Due[b]);
                        _cp.Add(last >= then);
                    }
                }

                if (isLast)
                {
                    _cp.Add(lateness >= End(o) - _model.Due[b]);
                    _cp.Add(last >= End(o));
                }
            }

            _hints.Add((lateness, Math.Max(floor, end - _model.Due[b])));
            if (_model.Weight[b] > 0)
            {
                late.Add(lateness * _model.Weight[b]);
            }

            fixedEnd = Math.Max(fixedEnd, open ? 0 : kept);
        }

        _cp.Add(last >= fixedEnd);
        _hints.Add((last, _schedule.Makespan));
        Scale = 2L * Math.Max(1, _schedule.Makespan);
        _cp.Minimize(LinearExpr.Sum(late) * Scale + last);
    }

    /// <summary>What one unit of weighted lateness counts against one of the latest end.</summary>
    public long Scale { get; private set; }
}

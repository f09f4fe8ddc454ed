namespace FirstCoat.Core.Plan.Engine;

/// <summary>Finds why each operation of a schedule does not start earlier.</summary>
internal sealed class ShopReasons
{
    /// <summary>More people of a trade than this are not all asked by the decoder.</summary>
    private const int MostAsked = 6;

    private readonly PlanProblem _problem;
    private readonly ShopModel _shop;
    private readonly Model _model;
    private readonly Schedule _schedule;
    private readonly List<(int From, int To, int Operation)>[] _busy;
    private readonly ILookup<int, int> _opens;
    private readonly Dictionary<(int Resource, int Build), string> _said = [];
    private readonly List<(int To, int Who, (int From, int To, int Operation)? Use)> _ends = [];
    private readonly int[][] _alone;

    public ShopReasons(PlanProblem problem, ShopModel shop, Schedule schedule)
    {
        (_problem, _shop, _model, _schedule) = (problem, shop, shop.Model, schedule);
        _opens = _model.Holds.ToLookup(h => h.Open, h => h.Resource);
        _busy = _model.Capacity.Select(_ => new List<(int, int, int)>()).ToArray();
        _alone = _problem.People.Select((_, i) => new[] { i }).ToArray();
        for (var o = 0; o < _model.Count; o++)
        {
            if (schedule.Start[o] >= Model.Parked)
            {
                continue;
            }

            if (!schedule.Pieces.TryGetValue(o, out var pieces))
            {
                Busy(o, schedule.Start[o], schedule.Finish[o]);
                continue;
            }

            foreach (var (from, to) in pieces)
            {
                Busy(o, from, to);
            }
        }

        foreach (var hold in _model.Holds.Where(h => schedule.Start[h.Open] < Model.Parked))
        {
            _busy[hold.Resource].Add((schedule.Start[hold.Open], schedule.Finish[hold.Close], hold.Open));
        }

        Array.ForEach(_busy, b => b.Sort((x, y) => (x.To, x.Operation).CompareTo((y.To, y.Operation))));
    }

    private void Busy(int o, int from, int to)
    {
        foreach (var use in _model.Uses[o])
        {
            if (use.Take > 0)
            {
                _busy[use.Resource].Add((from, to, o));
            }
        }

        foreach (var p in People(o))
        {
            _busy[p].Add((from, to, o));
        }
    }

    /// <summary>Who does an operation, by number.</summary>
    public IReadOnlyList<int> People(int o)
    {
        var (from, to) = (_model.CrewAt[o], _model.CrewAt[o + 1]);
        if (to == from)
        {
            return [];
        }

        if (to == from + 1)
        {
            return _schedule.Crew[from].Count > 0 ? _alone[_schedule.Crew[from].Class] : [];
        }

        var people = new List<int>(to - from);
        for (var i = from; i < to; i++)
        {
            if (_schedule.Crew[i].Count > 0)
            {
                people.Add(_schedule.Crew[i].Class);
            }
        }

        return people;
    }

    public PlanReason Of(int o)
    {
        if (_schedule.Start[o] >= Model.Parked)
        {
            return NoDate(o);
        }

        var (ready, reason) = Ready(o);
        var start = _schedule.Start[o];
        var free = FirstChance(o, ready);
        if (start <= free)
        {
            return reason.Kind == WaitKind.Nothing && free > 0 ? Closed(o) : reason;
        }

        return Blocked(o, ready, start) ?? Covered(o, start) ?? Partner(o) ?? Away(o, free) ?? new(WaitKind.Calendar, _model.Run[o] is Run.Nonstop or Run.ThroughBreaks ? "needs one whole shift" : "nobody who can do it is here sooner");
    }

    private PlanReason NoDate(int o)
    {
        if (_shop.SinceOf(o).Where(s => s.At >= Model.Parked).Select(s => s.Reason).FirstOrDefault() is { } own)
        {
            return own;
        }

        foreach (var link in _model.After[o])
        {
            if (_schedule.Start[link.Other] >= Model.Parked && _model.ClusterOf[link.Other] != _model.ClusterOf[o])
            {
                return new(WaitKind.Operation, "comes after", _shop.Operations[link.Other].Id);
            }
        }

        if (_model.Covers[_model.Build[o]] is { } covers && _model.Cost![o] > 0)
        {
            return new(WaitKind.Deposit, $"not covered: {covers.Select(c => c.InAll).DefaultIfEmpty(0).Max() / 100m:0.00} may be spent in all");
        }

        var closed = _model.Uses[o].Select(u => u.Resource).Concat(_opens[o]).Select(_shop.NameOf).FirstOrDefault(r => Closure(r.Name) is not null);
        return closed.Name is { } station ? new(WaitKind.Station, $"{station}: {Closure(station)!.Why}")
            : _model.Holds.Any(h => _model.ClusterOf[h.Open] == _model.ClusterOf[o]) ? new(WaitKind.Fault, "what it holds and what it needs wait for each other")
            : new(WaitKind.Fault, "no time can be found in which it fits");
    }

    private PlanClosure? Closure(string station) => _problem.Stations.FirstOrDefault(s => s.Kind == station)?.Closed.FirstOrDefault(c => c.To is null);

    /// <summary>What lets it start last, of all that has a date.</summary>
    private (int, PlanReason) Ready(int o)
    {
        var (ready, reason) = (0, new PlanReason(WaitKind.Nothing, "can start now"));
        foreach (var link in _model.After[o])
        {
            var since = link.FromStart ? _schedule.Start[link.Other] : _schedule.Finish[link.Other];
            var at = link.LagHours.Finish(since, link.Lag);
            if (at > ready)
            {
                var other = _shop.Operations[link.Other];
                ready = at;
                reason = other.WaitsAs != WaitKind.Operation ? new(other.WaitsAs, other.Name, other.Id)
                    : link.Lag > 0 ? new(WaitKind.Cure, "cures first", other.Id) : new(WaitKind.Operation, link.FromStart ? "starts with" : "comes after", other.Id);
            }
        }

        foreach (var since in _shop.SinceOf(o).Where(s => s.At > ready))
        {
            (ready, reason) = (since.At, since.Reason);
        }

        return (ready, reason);
    }

    /// <summary>The first instant at which its people's hours would let it begin.</summary>
    private int FirstChance(int o, int ready)
    {
        var people = People(o);
        if (people.Count == 0)
        {
            return _model.OwnHours[o].Next(ready);
        }

        var hours = people.Count == 1 ? HoursOf(people[0], o) : people.Select(p => HoursOf(p, o)).Aggregate(_shop.Hours.Both);
        return _model.Run[o] is Run.Nonstop or Run.ThroughBreaks ? hours.NextWithoutStop(ready, _schedule.Finish[o] - _schedule.Start[o], _model.Run[o] == Run.ThroughBreaks) : hours.Next(ready);
    }

    private Hours HoursOf(int person, int o) => _model.ClassHours!(person, _model.Build[o]);

    private PlanReason Closed(int o) => Away(o, 0) ?? new(WaitKind.Calendar, "the shop is closed until then");

    /// <summary>Whoever or whatever was in use until it started.</summary>
    private PlanReason? Blocked(int o, int ready, int start)
    {
        var (last, at, held) = (-1, ready, -1);
        foreach (var need in _model.Crew[o])
        {
            // With several who could do it, it waits until as many as it needs have come free.
            var (person, use) = NthFree(need, o, at, start);
            if (use is { } busy && busy.To > at)
            {
                (last, at, held) = (busy.Operation, busy.To, person);
            }
        }

        foreach (var use in _model.Uses[o])
        {
            Later(use.Resource);
        }

        foreach (var resource in _opens[o])
        {
            Later(resource);
        }

        void Later(int resource)
        {
            if (LastEnd(resource, o, start) is { } use && use.To > at)
            {
                (last, at, held) = (use.Operation, use.To, resource);
            }
        }

        if (last < 0)
        {
            var closed = _model.Closed.FirstOrDefault(c => c.From < start && c.To > ready && (_opens[o].Contains(c.Resource) || _model.Uses[o].Any(u => u.Resource == c.Resource)));
            return closed.Amount == 0 ? null : new(WaitKind.Station, $"{_shop.NameOf(closed.Resource).Name} is closed");
        }

        var (kind, name) = _shop.NameOf(held);
        var (who, id) = (_shop.BuildOf(last), _shop.Operations[last].Id);
        var same = who.Id == _shop.BuildOf(o).Id;
        return kind switch
        {
            WaitKind.Person => new(kind, same ? Said(held, -1, () => $"{name} does something else on it first") : Said(held, _model.Build[last], () => $"{name} is on {who.Name}"), id),
            WaitKind.Station => new(kind, Said(held, _model.Build[last], () => $"{name} is taken by {who.Name}"), id),
            WaitKind.Stock => new(kind, Said(held, _model.Build[last], () => $"{name} is in use on {who.Name}"), id),
            WaitKind.Air => new(kind, name.Split('\n')[0], id),
            WaitKind.Outside => new(WaitKind.Operation, "the body is away", id),
            _ => new(WaitKind.Operation, "one at a time", id),
        };
    }

    /// <summary>The same words are one text: a large shop says the same a thousand times.</summary>
    private string Said(int resource, int build, Func<string> words) =>
        _said.TryGetValue((resource, build), out var said) ? said : _said[(resource, build)] = words();

    /// <summary>Of those who could fill a need, the one whose last work ends as the last of those it takes; none: enough are free.</summary>
    private (int Who, (int From, int To, int Operation)? Use) NthFree(Need need, int o, int ready, int start)
    {
        if (need.Count == 1 && (need.Classes.Length == 1 || need.Classes.Length > MostAsked))
        {
            // Of many only a few were asked, so what held is what held whoever does it.
            var who = need.Classes.Length == 1 ? need.Classes[0] : People(o).FirstOrDefault(p => Array.IndexOf(need.Classes, p) >= 0, need.Classes[0]);
            return (who, LastEnd(who, o, start));
        }

        _ends.Clear();
        var free = 0;
        foreach (var c in need.Classes)
        {
            var use = LastEnd(c, o, start);
            if ((use is null || use.Value.To <= ready) && ++free == need.Count)
            {
                return (c, null);
            }

            _ends.Add((use?.To ?? int.MinValue, c, use));
        }

        _ends.Sort(static (x, y) => (x.To, x.Who).CompareTo((y.To, y.Who)));
        var nth = _ends[Math.Min(need.Count, _ends.Count) - 1];
        return (nth.Who, nth.Use);
    }

    /// <summary>What used a resource last before an operation could start.</summary>
    private (int From, int To, int Operation)? LastEnd(int resource, int o, int start)
    {
        var uses = _busy[resource];
        var (low, high) = (0, uses.Count);
        while (low < high)
        {
            var middle = (low + high) / 2;
            (low, high) = uses[middle].To <= start ? (middle + 1, high) : (low, middle);
        }

        while (--low >= 0)
        {
            if (uses[low].Operation != o)
            {
                return uses[low];
            }
        }

        return null;
    }

    private PlanReason? Covered(int o, int start) =>
        _model.Covers[_model.Build[o]]?.Any(c => Math.Abs(FirstChance(o, c.From) - start) < 1 || c.From == start) == true ? new(WaitKind.Deposit, "waits for the next cover") : null;

    /// <summary>It waits so that what follows it keeps its window.</summary>
    private PlanReason? Partner(int o)
    {
        var window = _model.Before[o].FirstOrDefault(l => l.HasWindow || _opens[o].Any());
        return window == default ? null : new(WaitKind.Window, "starts so that what follows can follow in time", _shop.Operations[window.Other].Id);
    }

    private PlanReason? Away(int o, int free)
    {
        var at = _problem.Now + _shop.Hours.Shop.Next(free);
        foreach (var p in People(o).Concat(_model.Crew[o].SelectMany(n => n.Classes)))
        {
            if (_problem.People[p].Absent.Covers(at))
            {
                return new(WaitKind.Absence, $"{_problem.People[p].Name} is away", _problem.People[p].Id);
            }
        }

        return null;
    }
}

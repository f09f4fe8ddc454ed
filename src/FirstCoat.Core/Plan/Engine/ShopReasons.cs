using System.Runtime.InteropServices;

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

    /// <summary>Who or what is in use until when for which operation, by the end: end and operation in one number, which is quick to sort and find.</summary>
    private readonly List<long>[] _busy;

    /// <summary>Where in it the last question was answered.</summary>
    private readonly int[] _lately;
    private readonly ILookup<int, int> _opens;
    private readonly Dictionary<(int Resource, int Build, bool Same), string> _said = [];
    private readonly List<(int Who, LastUse Use)> _ends = [];
    private readonly int[][] _alone;

    public ShopReasons(PlanProblem problem, ShopModel shop, Schedule schedule)
    {
        (_problem, _shop, _model, _schedule) = (problem, shop, shop.Model, schedule);
        _opens = _model.Holds.ToLookup(h => h.Open, h => h.Resource);
        _lately = new int[_model.Capacity.Length];
        _busy = _model.Capacity.Select(_ => new List<long>()).ToArray();
        _alone = _problem.People.Select((_, i) => new[] { i }).ToArray();
        for (var o = 0; o < _model.Count; o++)
        {
            if (schedule.Start[o] >= Model.Parked)
            {
                continue;
            }

            if (!schedule.Pieces.TryGetValue(o, out var pieces))
            {
                Busy(o, schedule.Finish[o]);
                continue;
            }

            foreach (var (_, to) in pieces)
            {
                Busy(o, to);
            }
        }

        foreach (var hold in _model.Holds.Where(h => schedule.Start[h.Open] < Model.Parked))
        {
            _busy[hold.Resource].Add(Key(schedule.Finish[hold.Close], hold.Open));
        }

        Array.ForEach(_busy, b => b.Sort());
    }

    private static long Key(int to, int operation) => ((long)to << 32) + operation;

    private void Busy(int o, int to)
    {
        foreach (var use in _model.Uses[o])
        {
            if (use.Take > 0)
            {
                _busy[use.Resource].Add(Key(to, o));
            }
        }

        foreach (var p in People(o))
        {
            _busy[p].Add(Key(to, o));
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

        return Blocked(o, ready, start) ?? Covered(o, start) ?? Partner(o) ?? Away(o, free) ?? new(WaitKind.Calendar, NoTimeSooner(_model.Run[o]));
    }

    private static string NoTimeSooner(Run run) => run switch
    {
        Run.Nonstop or Run.ThroughBreaks => "needs one whole shift",
        Run.Pieces => "fills in, and nobody has half an hour sooner",
        _ => "nobody who can do it is here sooner",
    };

    private PlanReason NoDate(int o)
    {
        if (_shop.SinceOf(o).FirstOrDefault(s => s.At >= Model.Parked).Reason is { } own)
        {
            return own;
        }

        foreach (var link in _model.After[o])
        {
            if (_schedule.Start[link.Other] >= Model.Parked && _model.ClusterOf[link.Other] != _model.ClusterOf[o])
            {
                return new(WaitKind.Operation, "comes after", _shop.IdOf(link.Other));
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
        var (ready, last) = (0, -1);
        var links = _model.After[o];
        for (var i = 0; i < links.Length; i++)
        {
            var since = links[i].FromStart ? _schedule.Start[links[i].Other] : _schedule.Finish[links[i].Other];
            var at = links[i].LagHours.Finish(since, links[i].Lag);
            (ready, last) = at > ready ? (at, i) : (ready, last);
        }

        PlanReason? reason = null;
        foreach (var since in _shop.SinceOf(o))
        {
            (ready, reason) = since.At > ready ? (since.At, since.Reason) : (ready, reason);
        }

        return (ready, reason ?? (last < 0 ? CanStart : Follows(links[last])));
    }

    private static readonly PlanReason CanStart = new(WaitKind.Nothing, "can start now");

    private PlanReason Follows(Link link)
    {
        var other = _shop.Operations[link.Other];
        return other.WaitsAs != WaitKind.Operation ? new(other.WaitsAs, other.Name, other.Id)
            : link.Lag > 0 ? PlanReason.Cures(link.Lag, other.Id) : new(WaitKind.Operation, link.FromStart ? "starts with" : "comes after", other.Id);
    }

    /// <summary>The first instant at which its people's hours would let it begin.</summary>
    private int FirstChance(int o, int ready)
    {
        var people = People(o);
        if (people.Count == 0)
        {
            return _model.OwnHours[o].Next(ready);
        }

        var hours = HoursOf(people, o);
        return _model.Run[o] is Run.Nonstop or Run.ThroughBreaks ? hours.NextWithoutStop(ready, _schedule.Finish[o] - _schedule.Start[o], _model.Run[o] == Run.ThroughBreaks) : hours.Next(ready);
    }

    /// <summary>The time that all have who do an operation; there is at least one.</summary>
    public Hours HoursOf(IReadOnlyList<int> people, int o)
    {
        var hours = _model.ClassHours!(people[0], _model.Build[o]);
        for (var i = 1; i < people.Count; i++)
        {
            hours = _shop.Hours.Both(hours, _model.ClassHours(people[i], _model.Build[o]));
        }

        return hours;
    }

    private PlanReason Closed(int o) => Away(o, 0) ?? new(WaitKind.Calendar, "the shop is closed until then");

    /// <summary>Whoever or whatever was in use until it started.</summary>
    private PlanReason? Blocked(int o, int ready, int start)
    {
        var (last, at, held) = (-1, ready, -1);
        foreach (var need in _model.Crew[o])
        {
            // With several who could do it, it waits until as many as it needs have come free.
            var (person, use) = NthFree(need, o, at, start);
            if (use.To > at)
            {
                (last, at, held) = (use.Operation, use.To, person);
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
            if (LastEnd(resource, o, start) is var use && use.To > at)
            {
                (last, at, held) = (use.Operation, use.To, resource);
            }
        }

        if (last < 0)
        {
            return ClosedBetween(o, ready, start);
        }

        var kind = _shop.NameOf(held).Kind;
        return new(kind is WaitKind.Person or WaitKind.Station or WaitKind.Stock or WaitKind.Air ? kind : WaitKind.Operation, Said(held, last, o), _shop.IdOf(last));
    }

    private PlanReason? ClosedBetween(int o, int from, int to)
    {
        var closed = _model.Closed.FirstOrDefault(c => c.From < to && c.To > from && (_opens[o].Contains(c.Resource) || _model.Uses[o].Any(u => u.Resource == c.Resource)));
        return closed.Amount == 0 ? null : new(WaitKind.Station, $"{_shop.NameOf(closed.Resource).Name} is closed");
    }

    /// <summary>How another's use is put. The same words are one text: a large shop says the same a thousand times.</summary>
    private string Said(int resource, int other, int o)
    {
        var same = _model.Build[other] == _model.Build[o];
        var key = (resource, _model.Build[other], same);
        return _said.TryGetValue(key, out var said) ? said : _said[key] = Words(resource, other, same);
    }

    private string Words(int resource, int other, bool same)
    {
        var (kind, name) = _shop.NameOf(resource);
        var who = _shop.BuildOf(other).Name;
        return kind switch
        {
            WaitKind.Person => same ? $"{name} does something else on it first" : $"{name} is on {who}",
            WaitKind.Station => same ? $"{name} has other work of it first" : $"{name} is taken by {who}",
            WaitKind.Stock => $"{name} is in use on {who}",
            WaitKind.Air => name.Split('\n')[0],
            WaitKind.Outside => "the body is away",
            _ => "one at a time",
        };
    }

    /// <summary>Of those who could fill a need, the one whose last work ends as the last of those it takes; none: enough are free.</summary>
    private (int Who, LastUse Use) NthFree(Need need, int o, int ready, int start)
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
            if (use.To <= ready && ++free == need.Count)
            {
                return (c, LastUse.None);
            }

            _ends.Add((c, use));
        }

        _ends.Sort(static (x, y) => (x.Use.To, x.Who).CompareTo((y.Use.To, y.Who)));
        return _ends[Math.Min(need.Count, _ends.Count) - 1];
    }

    private readonly record struct LastUse(int To, int Operation)
    {
        /// <summary>Never in use.</summary>
        public static readonly LastUse None = new(int.MinValue, -1);
    }

    /// <summary>What used a resource last before an operation could start.</summary>
    private LastUse LastEnd(int resource, int o, int start)
    {
        var uses = CollectionsMarshal.AsSpan(_busy[resource]);
        for (var i = FirstFrom(resource, uses, Key(start + 1, 0)) - 1; i >= 0; i--)
        {
            var (to, operation) = ((int)(uses[i] >> 32), (int)uses[i]);
            if (operation != o)
            {
                return new(to, operation);
            }
        }

        return LastUse.None;
    }

    /// <summary>The first number from a key on. Operations come build by build, so it mostly lies near where the last one was.</summary>
    private int FirstFrom(int resource, ReadOnlySpan<long> numbers, long key)
    {
        var (low, high, step) = (_lately[resource], _lately[resource], 1);
        while (low > 0 && numbers[low - 1] >= key)
        {
            (low, high, step) = (Math.Max(0, low - step), low - 1, step * 2);
        }

        while (high < numbers.Length && numbers[high] < key)
        {
            (low, high, step) = (high + 1, Math.Min(numbers.Length, high + step), step * 2);
        }

        while (low < high)
        {
            var middle = (low + high) >> 1;
            (low, high) = numbers[middle] < key ? (middle + 1, high) : (low, middle);
        }

        return _lately[resource] = low;
    }

    private PlanReason? Covered(int o, int start) =>
        _model.Covers[_model.Build[o]]?.Any(c => Math.Abs(FirstChance(o, c.From) - start) < 1 || c.From == start) == true ? new(WaitKind.Deposit, "waits for the next cover") : null;

    /// <summary>It waits so that what follows it keeps its window, or for the rest of its batch.</summary>
    private PlanReason? Partner(int o)
    {
        var window = _model.Before[o].FirstOrDefault(l => l.HasWindow || _opens[o].Any());
        if (window == default)
        {
            return null;
        }

        var batch = _shop.Operations[o].Batch is not null && window is { FromStart: true, Most: 0 };
        return new(WaitKind.Window, batch ? $"goes out together with {_shop.BuildOf(window.Other).Name}" : "starts so that what follows can follow in time", _shop.IdOf(window.Other));
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

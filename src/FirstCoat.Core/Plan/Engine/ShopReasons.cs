namespace FirstCoat.Core.Plan.Engine;

/// <summary>Who does each operation of a schedule, and why some have no date.</summary>
internal sealed class ShopReasons(PlanProblem problem, ShopModel shop, Schedule schedule)
{
    private readonly Model _model = shop.Model;
    private readonly int[][] _alone = problem.People.Select((_, i) => new[] { i }).ToArray();

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
            return schedule.Crew[from].Count > 0 ? _alone[schedule.Crew[from].Class] : [];
        }

        var people = new List<int>(to - from);
        for (var i = from; i < to; i++)
        {
            if (schedule.Crew[i].Count > 0)
            {
                people.Add(schedule.Crew[i].Class);
            }
        }

        return people;
    }

    /// <summary>The time that all have who do an operation; there is at least one.</summary>
    public Hours HoursOf(IReadOnlyList<int> people, int o)
    {
        var hours = _model.ClassHours!(people[0], _model.Build[o]);
        for (var i = 1; i < people.Count; i++)
        {
            hours = shop.Hours.Both(hours, _model.ClassHours(people[i], _model.Build[o]));
        }

        return hours;
    }

    /// <summary>Why an operation has no date: what it lacks itself, else what it follows.</summary>
    public PlanReason NoDate(int o)
    {
        if (shop.SinceOf(o).FirstOrDefault(s => s.At >= Model.Parked).Reason is { } own)
        {
            return own;
        }

        foreach (var link in _model.After[o])
        {
            if (schedule.Start[link.Other] >= Model.Parked && _model.ClusterOf[link.Other] != _model.ClusterOf[o])
            {
                return new(
                    WaitKind.Operation,
                    $"comes after {shop.Operations[link.Other].Name}",
                    shop.IdOf(link.Other)
                );
            }
        }

        if (_model.Covers[_model.Build[o]] is { } covers && _model.Cost![o] > 0)
        {
            return new(
                WaitKind.Deposit,
                $"not covered: {covers.Select(c => c.InAll).DefaultIfEmpty(0).Max() / 100m:0.00} may be spent in all"
            );
        }

        return Closed(o)
            ?? Stuck(o)
            ?? (
                _model.Holds.Any(h => _model.ClusterOf[h.Open] == _model.ClusterOf[o])
                    ? new(WaitKind.Fault, "what it holds and what it needs wait for each other")
                    : new(WaitKind.Fault, "no time can be found in which it fits")
            );
    }

    private PlanReason? Closed(int o)
    {
        var kinds = new[] { shop.Operations[o].Station, shop.Operations[o].Hold?.Station };
        var there = problem.Stations.Where(s => kinds.Contains(s.Kind)).ToList();
        if (there.Count == 0 || !there.TrueForAll(s => s.Closed.Any(c => c.To is null)))
        {
            return null;
        }

        var why = there[0].Closed.First(c => c.To is null).Why;
        return new(
            why.Contains(" ran out on ", StringComparison.Ordinal) ? WaitKind.Inspection : WaitKind.Station,
            why
        );
    }

    /// <summary>A vehicle that gets to none of the places: it cannot get out of where it stands, passes no door, or
    /// others stand there for good.</summary>
    private PlanReason? Stuck(int o)
    {
        if (_model.Vehicles is not { } vehicles || vehicles.Options[o] is not { Length: > 0 } options)
        {
            return null;
        }

        var build = _model.Build[o];
        var (here, shell) = (schedule.Stays[build][^1], vehicles.Shells[build]);
        bool Behind(int place) =>
            place >= 0
            && vehicles.Passes[build][place] < int.MaxValue
            && (!shell.Rolls || shell.HeightMm + shell.DollyMm > vehicles.Passes[build][place]);
        if (here.At >= 0 && Array.IndexOf(options, here.At) < 0 && Behind(here.At))
        {
            return new(
                WaitKind.Support,
                $"the shell {(shell.Rolls ? "is too high for" : "does not roll, and stands behind")} the door of {vehicles.Places[here.At].Name}"
            );
        }

        if (Array.TrueForAll(options, Behind))
        {
            return new(
                WaitKind.Support,
                $"the shell {(shell.Rolls ? "is too high for" : "does not roll, and would have to pass")} the door of {vehicles.Places[options[0]].Name}"
            );
        }

        for (var b = 0; b < schedule.Stays.Count; b++)
        {
            if (
                b != build
                && schedule.Stays[b][^1] is { Until: >= Model.Parked } stays
                && Array.IndexOf(options, stays.At) >= 0
            )
            {
                return new(
                    WaitKind.Station,
                    $"{vehicles.Places[stays.At].Name} holds {problem.Builds[b].Name}, and nothing that has a date moves it"
                );
            }
        }

        return null;
    }
}

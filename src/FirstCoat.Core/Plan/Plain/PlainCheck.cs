namespace FirstCoat.Core.Plan.Plain;

/// <summary>Holds an answer against its problem, with nothing of the engine: what it says is only counted.</summary>
public static class PlainCheck
{
    /// <summary>Every breach, in words; empty: the answer keeps everything and its objective is what it comes
    /// to.</summary>
    public static IReadOnlyList<string> Breaches(PlainProblem problem, PlainAnswer answer)
    {
        var breaches = new List<string>();
        var operations = problem.Builds.SelectMany(b => b.Operations).ToDictionary(o => o.Id);
        foreach (var id in operations.Keys.Where(id => !answer.Operations.ContainsKey(id)))
        {
            breaches.Add($"{id} is missing");
        }

        if (breaches.Count > 0)
        {
            return breaches;
        }

        int Start(string id) => answer.Operations[id].Start;
        int End(string id) => Start(id) + operations[id].Duration;
        HashSet<string?> Of(string kind) =>
            [.. problem.Stations.Where(s => (s.Kind ?? s.Id) == kind || s.Id == kind).Select(s => s.Id)];
        foreach (var (build, o) in problem.Builds.SelectMany(b => b.Operations.Select(o => (b, o))))
        {
            Say(Start(o.Id) < Math.Max(o.NotBefore, build.NotBefore), $"{o.Id} starts before it may");
            foreach (var a in o.After)
            {
                Say(Start(o.Id) < End(a.Op) + a.MinLag, $"{o.Id} starts too soon after {a.Op}");
                Say(Start(o.Id) > (long)End(a.Op) + (a.MaxLag ?? int.MaxValue), $"{o.Id} starts too late after {a.Op}");
            }

            Say(!Staffed(problem, o, answer.Operations[o.Id].People ?? []), $"{o.Id} has not the crew it asks for");
            Say(
                o.Station is not null && !Of(o.Station).Contains(answer.Operations[o.Id].Station),
                $"{o.Id} is not at a station of its kind"
            );
            Say(
                o.Hold is not null && !Of(o.Hold.Station).Contains(answer.Operations[o.Id].Hold),
                $"{o.Id} does not hold a station of its kind"
            );
        }

        foreach (var group in problem.Builds.SelectMany(b => b.OneAtATime))
        {
            Crowded(
                group.Distinct().Select(id => (Start(id), End(id))),
                1,
                $"one at a time: {string.Join(", ", group)}"
            );
        }

        foreach (var person in problem.People)
        {
            Crowded(
                operations
                    .Keys.Where(id => answer.Operations[id].People?.Contains(person.Id) == true)
                    .Select(id => (Start(id), End(id))),
                1,
                $"{person.Id} is in two places"
            );
        }

        foreach (var station in problem.Stations)
        {
            var there = operations
                .Values.Where(o => answer.Operations[o.Id].Station == station.Id)
                .Select(o => (Start(o.Id), End(o.Id)))
                .Concat(
                    operations
                        .Values.Where(o => answer.Operations[o.Id].Hold == station.Id)
                        .Select(o => (Start(o.Id), End(o.Hold!.Until)))
                );
            Crowded(there, station.Count, $"{station.Id} serves more than it can");
        }

        foreach (var kind in problem.Stations.GroupBy(s => s.Kind ?? s.Id))
        {
            var names = kind.Select(s => s.Id).Append(kind.Key).ToHashSet();
            var taken = operations
                .Values.Where(o => o.Station is not null && names.Contains(o.Station))
                .Select(o => (Start(o.Id), End(o.Id)))
                .Concat(
                    operations
                        .Values.Where(o => o.Hold is not null && names.Contains(o.Hold.Station))
                        .Select(o => (Start(o.Id), End(o.Hold!.Until)))
                );
            Crowded(taken, kind.Sum(s => s.Count), $"{kind.Key} serves more than it can");
        }

        var lateness = problem.Builds.Sum(b =>
            b.Weight * (long)Math.Max(0, b.Operations.Select(o => End(o.Id)).DefaultIfEmpty(0).Max() - b.Due)
        );
        Say(lateness != answer.Objective.WeightedLateness, $"the weighted lateness is {lateness}");
        Say(
            operations.Keys.Select(End).DefaultIfEmpty(0).Max() != answer.Objective.Makespan,
            "the latest end is another"
        );
        Say(answer.Bound.WeightedLateness > lateness, "the bound is above what was reached");
        return breaches;

        void Say(bool breach, string what)
        {
            if (breach)
            {
                breaches.Add(what);
            }
        }

        void Crowded(IEnumerable<(int From, int To)> spans, int most, string what)
        {
            var now = 0;
            foreach (
                var (_, by) in spans
                    .Where(s => s.To > s.From)
                    .SelectMany(s => new[] { (At: s.From, By: 1), (At: s.To, By: -1) })
                    .OrderBy(e => e.At)
                    .ThenBy(e => e.By)
            )
            {
                now += by;
                if (now > most)
                {
                    breaches.Add(what);
                    return;
                }
            }
        }
    }

    /// <summary>Whether the people named are different, as many as asked for, and can be shared out over the places of
    /// the crew.</summary>
    private static bool Staffed(PlainProblem problem, PlainOperation o, IReadOnlyList<string> people)
    {
        var places = o.Crew.SelectMany(c => Enumerable.Repeat(c.Trade, c.Count)).ToList();
        if (people.Count != places.Count || people.Distinct().Count() != people.Count)
        {
            return false;
        }

        var trades = people.Select(id => problem.People.FirstOrDefault(p => p.Id == id)?.Trades ?? []).ToList();
        var sits = Enumerable.Repeat(-1, places.Count).ToArray();
        return Enumerable.Range(0, people.Count).All(p => Seat(p, []));

        bool Seat(int person, HashSet<int> seen)
        {
            for (var i = 0; i < places.Count; i++)
            {
                if (trades[person].Contains(places[i]) && seen.Add(i) && (sits[i] < 0 || Seat(sits[i], seen)))
                {
                    sits[i] = person;
                    return true;
                }
            }

            return false;
        }
    }
}

using FirstCoat.Core.Plan.Files;

namespace FirstCoat.Core.Plan.Plain;

/// <summary>Reads plain problems.</summary>
public static class PlainReader
{
    private const int MostTime = 50_000_000;

    /// <summary>Reads and checks a problem.</summary>
    /// <exception cref="PlanFileFault">Names the first fault and where it stands.</exception>
    public static PlainProblem Read(Stream json) => JsonFields.Document(json, f => f.Problem());

    private static PlainProblem Problem(this JsonFields f)
    {
        var people = f.List("people", p => new PlainPerson(p.Text("id"), p.Texts("trades")));
        var stations = f.List("stations", s => new PlainStation(
            s.Text("id"),
            s.TextOr("kind"),
            s.Whole("count", 1, 100_000, 1)
        ));
        var builds = f.List("builds", Build);
        var problem = new PlainProblem(f.TextOr("name") ?? "", people, stations, builds);
        Check(problem);
        return problem;
    }

    private static PlainBuild Build(JsonFields b) =>
        new(
            b.Text("id"),
            b.Whole("due", -MostTime, MostTime),
            b.Whole("weight", 0, 1_000_000, 1),
            b.Whole("notBefore", 0, MostTime, 0),
            b.ListOr("oneAtATime", g => g.AsTexts()),
            b.List("operations", Operation)
        );

    private static PlainOperation Operation(JsonFields o) =>
        new(
            o.Text("id"),
            o.Whole("duration", 0, 1_000_000),
            o.ListOr("crew", c => new PlainCrew(c.Text("trade"), c.Whole("count", 1, 10_000, 1))),
            o.TextOr("station"),
            o.ListOr("after", a => new PlainAfter(
                a.Text("op"),
                a.Whole("minLag", -MostTime, MostTime, 0),
                a.WholeOr("maxLag", -MostTime, MostTime)
            )),
            o.Has("hold")
                ? o.Inner("hold") is var h
                    ? new PlainHold(h.Text("station"), h.Text("until"))
                    : null
                : null,
            o.Flag("outside"),
            o.Whole("notBefore", 0, MostTime, 0)
        );

    private static void Check(PlainProblem problem)
    {
        PlanFileFault.Twice(problem.People.Select(p => p.Id), i => $"people[{i}].id");
        PlanFileFault.Twice(problem.Stations.Select(s => s.Id), i => $"stations[{i}].id");
        PlanFileFault.Twice(problem.Builds.Select(b => b.Id), i => $"builds[{i}].id");
        var kinds = problem.Stations.SelectMany(s => new[] { s.Id, s.Kind ?? s.Id }).ToHashSet();
        var having = problem
            .People.SelectMany(p => p.Trades.Distinct())
            .GroupBy(t => t)
            .ToDictionary(g => g.Key, g => g.Count());
        var known = new Dictionary<string, string>();
        Each(problem, (_, o, path) =>
        {
            PlanFileFault.When(!known.TryAdd(o.Id, path), $"{path}.id", $"two operations are called \"{o.Id}\"");
        });
        Each(problem, (build, o, path) =>
        {
            PlanFileFault.When(
                o.Station is not null && !kinds.Contains(o.Station),
                $"{path}.station",
                $"no station \"{o.Station}\""
            );
            PlanFileFault.When(
                o.Hold is not null && !kinds.Contains(o.Hold.Station),
                $"{path}.hold.station",
                $"no station \"{o.Hold?.Station}\""
            );
            PlanFileFault.When(
                o.Hold is not null && build.Operations.All(x => x.Id != o.Hold.Until),
                $"{path}.hold.until",
                $"no operation \"{o.Hold?.Until}\""
            );
            PlanFileFault.When(o.Outside && o.Crew.Count > 0, $"{path}.crew", "what is done outside needs no crew");
            PlanFileFault.When(
                o.Outside && o.Station is not null,
                $"{path}.station",
                "what is done outside needs no station"
            );
            for (var i = 0; i < o.Crew.Count; i++)
            {
                var there = having.GetValueOrDefault(o.Crew[i].Trade);
                PlanFileFault.When(
                    there == 0,
                    $"{path}.crew[{i}].trade",
                    $"nobody has the trade \"{o.Crew[i].Trade}\""
                );
                PlanFileFault.When(
                    o.Crew.Where(c => c.Trade == o.Crew[i].Trade).Sum(c => c.Count) > there,
                    $"{path}.crew[{i}].count",
                    $"{o.Crew[i].Count} people with the trade \"{o.Crew[i].Trade}\" are asked for and {there} have it"
                );
            }

            for (var i = 0; i < o.After.Count; i++)
            {
                PlanFileFault.When(
                    !known.ContainsKey(o.After[i].Op),
                    $"{path}.after[{i}].op",
                    $"no operation \"{o.After[i].Op}\""
                );
                PlanFileFault.When(
                    o.After[i].MaxLag < o.After[i].MinLag,
                    $"{path}.after[{i}].maxLag",
                    $"at most {o.After[i].MaxLag} contradicts at least {o.After[i].MinLag}"
                );
            }
        });
        for (var b = 0; b < problem.Builds.Count; b++)
        {
            var here = problem.Builds[b].Operations.Select(o => o.Id).ToHashSet();
            for (var g = 0; g < problem.Builds[b].OneAtATime.Count; g++)
            {
                var missing = problem.Builds[b].OneAtATime[g].ToList().FindIndex(id => !here.Contains(id));
                PlanFileFault.When(
                    missing >= 0,
                    $"builds[{b}].oneAtATime[{g}][{missing}]",
                    missing < 0 ? "" : $"no operation \"{problem.Builds[b].OneAtATime[g][missing]}\""
                );
            }
        }
    }

    private static void Each(PlainProblem problem, Action<PlainBuild, PlainOperation, string> look)
    {
        for (var b = 0; b < problem.Builds.Count; b++)
        {
            for (var o = 0; o < problem.Builds[b].Operations.Count; o++)
            {
                look(problem.Builds[b], problem.Builds[b].Operations[o], $"builds[{b}].operations[{o}]");
            }
        }
    }
}

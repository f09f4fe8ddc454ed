using System.Text.Json.Nodes;
using FirstCoat.Core.Plan;
using static FirstCoat.Core.Bench.BenchCalculations;

namespace FirstCoat.Core.Bench;

/// <summary>Working calendar and list forecast in the bench's form.</summary>
internal static class TimeAndForecast
{
    public static IReadOnlyDictionary<string, Func<Question, JsonNode>> All { get; } =
        new Dictionary<string, Func<Question, JsonNode>>
        {
            ["calendar.add"] = Add,
            ["calendar.clockLag"] = ClockLag,
            ["calendar.withoutStop"] = WithoutStop,
            ["calendar.between"] = Between,
            ["forecast.build"] = Forecast,
        };

    private static JsonObject Add(Question q)
    {
        var time = BenchTime.Read(q);
        return Stretch(time, Placing.Add(time.Calendar, time.Absences, time.Minute(q, "from"), q.Whole("minutes")));
    }

    private static JsonObject ClockLag(Question q)
    {
        var time = BenchTime.Read(q);
        var minutes = q.Whole("minutes");
        Refusal.When(minutes < 0, "minutes", "Minutes cannot be negative.");
        var ready = time.Minute(q, "from") + minutes;
        return new()
        {
            ["ready"] = time.Text(ready),
            ["next"] = time.Text(Placing.NextWorking(time.Calendar, time.Absences, ready)),
        };
    }

    private static JsonObject WithoutStop(Question q)
    {
        var time = BenchTime.Read(q);
        var fit = Placing.WithoutStop(
            time.Calendar,
            time.Absences,
            time.Minute(q, "from"),
            q.Whole("minutes"),
            q.Flag("throughBreak")
        );
        return Stretch(time, fit);
    }

    private static JsonObject Between(Question q)
    {
        var time = BenchTime.Read(q);
        return new()
        {
            ["minutes"] = time.Calendar.Between(time.Minute(q, "from"), time.Minute(q, "to"), time.Absences),
        };
    }

    private static JsonObject Stretch(BenchTime time, Placed? placed) =>
        new()
        {
            ["starts"] = placed is null ? null : time.Text(placed.Start),
            ["finish"] = placed is null ? null : time.Text(placed.Finish),
        };

    private static JsonObject Forecast(Question q)
    {
        var time = BenchTime.Read(q);
        var people = q.Members("trades")
            .Select(t => new PlanPerson(
                t.Key,
                t.Key,
                new HashSet<string> { t.Key },
                time.Absences.With(BenchTime.ReadAbsences(t.Value, time.Calendar))
            ))
            .ToList();
        var operations = q.List("operations")
            .Select(o => new PlanOperation
            {
                Id = o.Text("id"),
                Name = o.Text("id"),
                Minutes = o.Whole("minutes"),
                Trade = o.TextOrNull("trade"),
                WithoutStop = o.Flag("nonstop"),
                ThroughBreak = o.Flag("throughBreak"),
                After = o.List("after")
                    .Select(a => new PlanLink(a.Text("op"), NotNegative(a.Whole("lag", 0), "lag")))
                    .ToList(),
                Waits = o.Has("notBefore") ? [new(WaitKind.NotBefore, time.Minute(o, "notBefore"), "not before")] : [],
            })
            .ToList();
        Refusal.When(operations.GroupBy(o => o.Id).Any(g => g.Count() > 1), "id", "Two operations carry the same id.");
        var plan = new SinglePassPlanner().Plan(
            new(time.Minute(q, "now"), time.Calendar, people, [], [new("build", "build", operations)])
        );
        return new()
        {
            ["times"] = Map(
                operations,
                o => o.Id,
                o => new JsonArray(time.Text(plan.Operations[o.Id].Start), time.Text(plan.Operations[o.Id].Finish))
            ),
            ["finish"] = time.Text(plan.Builds["build"].Finish),
        };
    }

    private static int NotNegative(int value, string field)
    {
        Refusal.When(value < 0, field, $"The {field} cannot be negative.");
        return value;
    }
}

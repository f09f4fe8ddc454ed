using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;
using NodaTime.Text;

namespace FirstCoat.Core.Plan.Files;

/// <summary>Reads the shop's own problem from a file: calendars, people, stations, suppliers, builds.
/// docs/plan-format.md describes it.</summary>
public static class ShopFileReader
{
    private const int MostMinutes = 10_000_000;

    /// <summary>Reads and checks a problem.</summary>
    /// <exception cref="PlanFileFault">Names the first fault and where it stands.</exception>
    public static PlanProblem Read(Stream json) => JsonFields.Document(json, f => new Reading(f).Problem());

    /// <summary>One file, with the calendar that its times are read by.</summary>
    private sealed class Reading(JsonFields root)
    {
        private readonly DateTimeZone? _zone = Zone(root);
        private WorkCalendar _calendar = null!;

        public PlanProblem Problem()
        {
            _calendar = Calendar(root.Inner("calendar"));
            var problem = new PlanProblem(
                Minute(root, "now"),
                _calendar,
                root.List("people", Person),
                root.List("stations", Station),
                root.List("builds", Build)
            )
            {
                Suppliers = root.ListOr("suppliers", s => new PlanSupplier(
                    s.Text("id"),
                    s.TextOr("name") ?? s.Text("id"),
                    Calendar(s)
                )
                {
                    Visits = s.Has("visits") ? Calendar(s.Inner("visits")) : null,
                    OpensForThem = s.Flag("opensForThem"),
                    Freight = s.Has("freight") ? Calendar(s.Inner("freight")) : null,
                }),
                Stock = root.ListOr("stock", Stock),
                Air = root.ListOr("air", a => new AirRule(
                    a.Text("one"),
                    a.Text("other"),
                    a.Text("why"),
                    a.Flag("onOneVehicle")
                )),
                Crowds = root.ListOr("crowds", c => new CrowdRule(
                    c.Text("kind"),
                    c.Text("station"),
                    (int)c.Whole("count", 1, 1000)
                )),
                Moves = root.Has("moves") ? Moves(root.Inner("moves")) : new(),
                Turns = root.ListOr("turns", t =>
                        (Operation: t.Text("op"), Turn: t.NumberOr("turn", 0, double.MinValue, double.MaxValue))
                    )
                    .ToDictionary(t => t.Operation, t => t.Turn),
            };
            Check(problem);
            return problem;
        }

        private static DateTimeZone? Zone(JsonFields root) =>
            root.TextOr("zone") is { } name
                ? DateTimeZoneProviders.Tzdb.GetZoneOrNull(name)
                    ?? throw new PlanFileFault("zone", $"no time zone \"{name}\"")
                : null;

        private WorkCalendar Calendar(JsonFields f)
        {
            try
            {
                return new(
                    WorkWeek.Of(f.List("shifts", Shifts).SelectMany(s => s)),
                    f.TextsOr("closed").Select((d, i) => Date(d, f.At($"closed[{i}]"))),
                    _zone
                );
            }
            catch (Refusal e)
            {
                throw new PlanFileFault(f.At("shifts"), e.Message);
            }
        }

        private static IEnumerable<(IsoDayOfWeek, int, int, IReadOnlyList<(int, int)>)> Shifts(JsonFields s)
        {
            var breaks = s.ListOr("breaks", b => (Clock(b, "from"), Clock(b, "to")));
            return s.Texts("days")
                .Select(d => (Day(d, s.At("days")), Clock(s, "from"), Clock(s, "to"), breaks))
                .ToList();
        }

        private PlanPerson Person(JsonFields p) =>
            new(
                p.Text("id"),
                p.TextOr("name") ?? p.Text("id"),
                p.Texts("trades").ToHashSet(),
                new(p.ListOr("absent", a => new Span(Minute(a, "from"), Minute(a, "to"))))
            )
            {
                Pace = p.NumberOr("pace", 1, 0.1, 10),
                Hours = p.ListOr("hours", h => new PlanHours(Minute(h, "from"), Calendar(h))),
                NotGiven = p.TextsOr("notGiven").ToHashSet(),
                Slots = p.ListOr("slots", s => new PlanSlot(
                    Day(s.Text("day"), s.At("day")),
                    Clock(s, "from"),
                    Clock(s, "to"),
                    s.Text("build")
                )),
            };

        private PlanStation Station(JsonFields s) =>
            new(s.Text("kind"), s.Whole("count", 1, 10_000, 1))
            {
                Id = s.TextOr("id"),
                Name = s.TextOr("name"),
                Closed = s.ListOr("closed", c => new PlanClosure(
                    Minute(c, "from"),
                    MinuteOr(c, "to"),
                    c.Whole("count", 1, 10_000, 1),
                    c.Text("why")
                )),
                Door = s.Has("door")
                    ? new(s.Inner("door").Whole("heightMm", 1, 20_000), s.Inner("door").Whole("marginMm", 0, 5_000, 0))
                    : null,
            };

        private static PlanMoves Moves(JsonFields m) =>
            new(m.Whole("minutes", 0, 480, 15), m.Whole("hands", 1, 2, 1), m.Whole("handsNotRolling", 1, 2, 2));

        private static PlanStock Stock(JsonFields s) => new(s.Text("name"), s.Whole("count", 1, 100_000, 1));

        private PlanBuild Build(JsonFields b) =>
            new(b.Text("id"), b.TextOr("name") ?? b.Text("id"), b.List("operations", Operation))
            {
                Due = MinuteOr(b, "due"),
                Rank = b.Whole("rank", -1000, 100_000, 0),
                Weight = b.Whole("weight", 0, 1_000_000, 1),
                FillIn = b.Flag("fillIn"),
                Covered = b.Has("covered")
                    ? b.List("covered", c => new PlanCover(Minute(c, "from"), (decimal)c.NumberOr("inAll", 0, 0, 1e9)))
                    : null,
                SideLocks = b.ListOr("sideLocks", s => new PlanSideLock(s.Text("signOff"), s.Texts("reference"))),
                OneAtATime = b.ListOr("oneAtATime", g => g.AsTexts()),
                Support = b.Has("support") ? Support(b.Inner("support")) : null,
                StandsAt = b.TextOr("standsAt"),
                HeightMm = b.WholeOr("heightMm", 1, 20_000),
                KeptFreeMm = b.WholeOr("keptFreeMm", 0, 5_000),
            };

        private static PlanSupport Support(JsonFields s) =>
            new(s.Text("state"), s.Flag("rolls"), s.Whole("dollyMm", 0, 5_000, 0));

        private PlanOperation Operation(JsonFields o) =>
            new()
            {
                Id = o.Text("id"),
                Name = o.TextOr("name") ?? o.Text("id"),
                Minutes = o.Whole("minutes", 0, MostMinutes),
                Low = o.Has("low") ? o.NumberOr("low", 0, 0, MostMinutes) : null,
                High = o.Has("high") ? o.NumberOr("high", 0, 0, MostMinutes) : null,
                Trade = o.TextOr("trade"),
                With = o.ListOr("with", w => new PlanHands(w.Text("trade"), w.Whole("count", 1, 100, 1))),
                Person = o.TextOr("person"),
                GoesOn = o.TextOr("goesOn"),
                Preferred = o.TextsOr("preferred"),
                Kinds = o.TextsOr("kinds").ToHashSet(),
                Space = o.TextOr("space"),
                Station = o.TextOr("station"),
                At = o.TextOr("at"),
                Hold = o.Has("hold") ? new(o.Inner("hold").Text("station"), o.Inner("hold").Text("until")) : null,
                Uses = o.ListOr("uses", Stock),
                WithoutStop = o.Flag("withoutStop"),
                ThroughBreak = o.Flag("throughBreak"),
                Supplier = o.TextOr("supplier"),
                Here = o.Flag("here"),
                Batch = o.TextOr("batch"),
                After = o.ListOr("after", Link),
                Waits = o.ListOr("waits", Wait),
                Deadline = MinuteOr(o, "deadline"),
                Cost = (decimal)o.NumberOr("cost", 0, 0, 1e9),
                Needs = o.TextsOr("needs"),
                Forbids = o.TextsOr("forbids"),
                Sets = o.Has("sets") ? Support(o.Inner("sets")) : null,
                Body = o.TextOr("body") switch
                {
                    null or "beside" => BodyUse.Beside,
                    "on" => BodyUse.OnBody,
                    "away" => BodyUse.TakesAway,
                    var other => throw new PlanFileFault(
                        o.At("body"),
                        $"beside, on or away is needed here, not \"{other}\""
                    ),
                },
                UnderWay = o.Flag("underWay"),
                Begun = o.Flag("begun"),
                LowersMm = o.Whole("lowersMm", 0, 5_000, 0),
                WaitsAs = o.Flag("measured") ? WaitKind.Measurement : WaitKind.Operation,
            };

        private PlanLink Link(JsonFields a) =>
            new(a.Text("op"), a.Whole("lag", 0, MostMinutes, 0))
            {
                FromStart = a.Flag("fromStart"),
                Working = a.Flag("working"),
                AtMost = a.WholeOr("atMost", 0, MostMinutes),
                Lapse = a.Has("lapse")
                    ? new(
                        a.Inner("lapse").Text("name"),
                        a.Inner("lapse").Whole("minutes", 0, MostMinutes),
                        a.Inner("lapse").Text("trade")
                    )
                    : null,
                DoneAt = MinuteOr(a, "doneAt"),
            };

        private PlanWait Wait(JsonFields w) =>
            new(
                Enum.TryParse<WaitKind>(w.Text("kind"), ignoreCase: true, out var kind)
                    ? kind
                    : throw new PlanFileFault(w.At("kind"), $"no kind \"{w.Text("kind")}\""),
                MinuteOr(w, "until"),
                w.TextOr("text") ?? "",
                w.TextOr("ref")
            )
            {
                Supplier = w.TextOr("supplier"),
            };

        private long? MinuteOr(JsonFields f, string name) => f.Has(name) ? Minute(f, name) : null;

        /// <summary>A wall time of the shop, or a day: its midnight.</summary>
        private long Minute(JsonFields f, string name)
        {
            var text = f.Text(name);
            if (LocalDatePattern.Iso.Parse(text) is { Success: true } date)
            {
                return _calendar.Minute(date.Value.AtMidnight());
            }

            return
                LocalDateTimePattern.CreateWithInvariantCulture("uuuu'-'MM'-'dd'T'HH':'mm").Parse(text)
                    is { Success: true } at
                ? _calendar.Minute(at.Value)
                : throw new PlanFileFault(
                    f.At(name),
                    $"a wall time such as 2026-03-05T08:00 is needed here, not \"{text}\""
                );
        }

        private static LocalDate Date(string text, string path) =>
            LocalDatePattern.Iso.Parse(text) is { Success: true } date
                ? date.Value
                : throw new PlanFileFault(path, "a day such as 2026-03-05 is needed here");

        private static int Clock(JsonFields f, string name)
        {
            var text = f.Text(name);
            return text == "24:00" ? 1440
                : LocalTimePattern.CreateWithInvariantCulture("HH':'mm").Parse(text) is { Success: true } at
                    ? at.Value.Hour * 60 + at.Value.Minute
                : throw new PlanFileFault(f.At(name), "a time such as 08:00 is needed here");
        }

        private static IsoDayOfWeek Day(string text, string path) =>
            Enum.TryParse<IsoDayOfWeek>(text, ignoreCase: true, out var day) && day != IsoDayOfWeek.None
                ? day
                : throw new PlanFileFault(path, $"no day \"{text}\"");

        private static void Check(PlanProblem problem)
        {
            PlanFileFault.Twice(problem.People.Select(p => p.Id), i => $"people[{i}].id");
            PlanFileFault.Twice(problem.Stations.Select(s => s.Id ?? s.Kind), i =>
                problem.Stations[i].Id is null ? $"stations[{i}].kind" : $"stations[{i}].id"
            );
            PlanFileFault.Twice(problem.Builds.Select(b => b.Id), i => $"builds[{i}].id");
            PlanFileFault.Twice(problem.Builds.SelectMany(b => b.Operations).Select(o => o.Id), _ => "builds");
            var stations = problem.Stations.Select(s => s.Kind).ToHashSet();
            for (var b = 0; b < problem.Builds.Count; b++)
            {
                for (var i = 0; i < problem.Builds[b].Operations.Count; i++)
                {
                    var (o, path) = (problem.Builds[b].Operations[i], $"builds[{b}].operations[{i}]");
                    PlanFileFault.When(
                        o.Station is not null && !stations.Contains(o.Station),
                        $"{path}.station",
                        $"no station \"{o.Station}\""
                    );
                    PlanFileFault.When(
                        o.Hold is not null && !stations.Contains(o.Hold.Station),
                        $"{path}.hold.station",
                        $"no station \"{o.Hold?.Station}\""
                    );
                    PlanFileFault.When(
                        o.Hold is not null && problem.Builds[b].Operations.All(x => x.Id != o.Hold.Until),
                        $"{path}.hold.until",
                        $"no operation \"{o.Hold?.Until}\" in this build"
                    );
                    PlanFileFault.When(
                        o.Supplier is not null && problem.Suppliers.All(s => s.Id != o.Supplier),
                        $"{path}.supplier",
                        $"no supplier \"{o.Supplier}\""
                    );
                }
            }
        }
    }
}

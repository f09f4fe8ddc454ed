using System.Globalization;
using System.Text.Json.Nodes;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Plan.Files;

/// <summary>Writes a problem as <see cref="ShopFileReader"/> reads it; what is as usual is left out.</summary>
public static class ShopFileWriter
{
    public static JsonObject Write(PlanProblem problem) => new Writing(problem.Calendar).Problem(problem);

    private sealed class Writing(WorkCalendar calendar)
    {
        public JsonObject Problem(PlanProblem p) =>
            Some(
                ("now", At(p.Now)),
                ("zone", calendar.Zone?.Id),
                ("calendar", Calendar(calendar)),
                ("people", List(p.People, Person)),
                ("stations", List(p.Stations, Station)),
                ("suppliers", ListOr(p.Suppliers, Supplier)),
                ("stock", ListOr(p.Stock, Stock)),
                (
                    "air",
                    ListOr(p.Air, a =>
                        Some(("one", a.One), ("other", a.Other), ("why", a.Why), ("onOneVehicle", True(a.OnOneVehicle)))
                    )
                ),
                ("crowds", ListOr(p.Crowds, c => Some(("kind", c.Kind), ("station", c.Station), ("count", c.Count)))),
                (
                    "moves",
                    p.Moves == new PlanMoves()
                        ? null
                        : Some(
                            ("minutes", p.Moves.Minutes),
                            ("hands", p.Moves.Hands),
                            ("handsNotRolling", p.Moves.HandsNotRolling)
                        )
                ),
                ("turns", ListOr(p.Turns.OrderBy(t => t.Value).ToList(), t => Some(("op", t.Key), ("turn", t.Value)))),
                ("builds", List(p.Builds, Build))
            );

        private static JsonObject Calendar(WorkCalendar c) =>
            Some(
                ("shifts", Shifts(c.Week)),
                (
                    "closed",
                    c.Closed.Count == 0
                        ? null
                        : Texts(
                            c.Closed.Order().Select(d => d.ToString("uuuu'-'MM'-'dd", CultureInfo.InvariantCulture))
                        )
                )
            );

        private static JsonArray Shifts(WorkWeek week) =>
            List(
                Enumerable
                    .Range(1, 7)
                    .SelectMany(d => week.On((IsoDayOfWeek)d).Select(s => (Day: (IsoDayOfWeek)d, Shift: s)))
                    .ToList(),
                x =>
                    Some(
                        ("days", Texts([Day(x.Day)])),
                        ("from", Clock(x.Shift.From)),
                        ("to", Clock(x.Shift.To)),
                        ("breaks", ListOr(x.Shift.Breaks, b => Some(("from", Clock(b.From)), ("to", Clock(b.To)))))
                    )
            );

        private JsonObject Person(PlanPerson p) =>
            Some(
                ("id", p.Id),
                ("name", p.Name),
                ("trades", Texts(p.Trades)),
                ("pace", p.Pace == 1 ? null : p.Pace),
                ("absent", ListOr(p.Absent.Spans, s => Some(("from", At(s.Start)), ("to", At(s.End))))),
                ("hours", ListOr(p.Hours, h => With(Calendar(h.Calendar), "from", At(h.From)))),
                ("notGiven", TextsOr(p.NotGiven)),
                (
                    "slots",
                    ListOr(p.Slots, s =>
                        Some(("day", Day(s.Day)), ("from", Clock(s.From)), ("to", Clock(s.To)), ("build", s.Build))
                    )
                )
            );

        private JsonObject Station(PlanStation s) =>
            Some(
                ("kind", s.Kind),
                ("id", s.Id),
                ("name", s.Name),
                ("count", s.Count),
                (
                    "closed",
                    ListOr(s.Closed, c =>
                        Some(("from", At(c.From)), ("to", AtOr(c.To)), ("count", c.Count), ("why", c.Why))
                    )
                ),
                ("door", s.Door is { } d ? Some(("heightMm", d.HeightMm), ("marginMm", d.MarginMm)) : null)
            );

        private static JsonObject Supplier(PlanSupplier s)
        {
            var o = With(With(Calendar(s.Calendar), "id", s.Id), "name", s.Name);
            foreach (
                var (name, value) in new (string, JsonNode?)[]
                {
                    ("visits", s.Visits is { } v ? Calendar(v) : null),
                    ("opensForThem", True(s.OpensForThem)),
                    ("freight", s.Freight is { } f ? Calendar(f) : null),
                }.Where(x => x.Item2 is not null)
            )
            {
                o[name] = value;
            }

            return o;
        }

        private static JsonObject Stock(PlanStock s) => Some(("name", s.Name), ("count", s.Count));

        private JsonObject Build(PlanBuild b) =>
            Some(
                ("id", b.Id),
                ("name", b.Name),
                ("due", AtOr(b.Due)),
                ("rank", b.Rank == 0 ? null : b.Rank),
                ("weight", b.Weight),
                ("fillIn", True(b.FillIn)),
                (
                    "covered",
                    b.Covered is { } c ? List(c, x => Some(("from", At(x.From)), ("inAll", (double)x.InAll))) : null
                ),
                (
                    "sideLocks",
                    ListOr(b.SideLocks, s => Some(("signOff", s.SignOff), ("reference", Texts(s.Reference))))
                ),
                ("oneAtATime", b.OneAtATime.Count == 0 ? null : new JsonArray([.. b.OneAtATime.Select(g => Texts(g))])),
                ("support", b.Support is { } s ? Support(s) : null),
                ("standsAt", b.StandsAt),
                ("heightMm", b.HeightMm),
                ("keptFreeMm", b.KeptFreeMm),
                ("operations", List(b.Operations, Operation))
            );

        private static JsonObject Support(PlanSupport s) =>
            Some(("state", s.State), ("rolls", True(s.Rolls)), ("dollyMm", s.DollyMm == 0 ? null : s.DollyMm));

        private JsonObject Operation(PlanOperation o) =>
            Some(
                ("id", o.Id),
                ("name", o.Name),
                ("minutes", o.Minutes),
                ("low", o.Low),
                ("high", o.High),
                ("trade", o.Trade),
                ("with", ListOr(o.With, w => Some(("trade", w.Trade), ("count", w.Count)))),
                ("person", o.Person),
                ("goesOn", o.GoesOn),
                ("preferred", TextsOr(o.Preferred)),
                ("kinds", TextsOr(o.Kinds)),
                ("space", o.Space),
                ("station", o.Station),
                ("at", o.At),
                ("hold", o.Hold is { } h ? Some(("station", h.Station), ("until", h.Until)) : null),
                ("uses", ListOr(o.Uses, Stock)),
                ("withoutStop", True(o.WithoutStop)),
                ("throughBreak", True(o.ThroughBreak)),
                ("supplier", o.Supplier),
                ("here", True(o.Here)),
                ("batch", o.Batch),
                ("after", ListOr(o.After, Link)),
                ("waits", ListOr(o.Waits, Wait)),
                ("deadline", AtOr(o.Deadline)),
                ("cost", o.Cost == 0 ? null : (double)o.Cost),
                ("needs", TextsOr(o.Needs)),
                ("forbids", TextsOr(o.Forbids)),
                ("sets", o.Sets is { } s ? Support(s) : null),
                (
                    "body",
                    o.Body switch
                    {
                        BodyUse.OnBody => "on",
                        BodyUse.TakesAway => "away",
                        _ => null,
                    }
                ),
                ("underWay", True(o.UnderWay)),
                ("begun", True(o.Begun)),
                ("lowersMm", o.LowersMm == 0 ? null : o.LowersMm),
                ("measured", True(o.WaitsAs == WaitKind.Measurement))
            );

        private JsonObject Link(PlanLink a) =>
            Some(
                ("op", a.Operation),
                ("lag", a.LagMinutes == 0 ? null : a.LagMinutes),
                ("fromStart", True(a.FromStart)),
                ("working", True(a.Working)),
                ("atMost", a.AtMost),
                ("lapse", a.Lapse is { } l ? Some(("name", l.Name), ("minutes", l.Minutes), ("trade", l.Trade)) : null),
                ("doneAt", AtOr(a.DoneAt))
            );

        private JsonObject Wait(PlanWait w) =>
            Some(
                ("kind", char.ToLowerInvariant(w.Kind.ToString()[0]) + w.Kind.ToString()[1..]),
                ("until", AtOr(w.Until)),
                ("text", w.Text),
                ("ref", w.Ref),
                ("supplier", w.Supplier)
            );

        private string At(long minute) =>
            calendar.Local(minute).ToString("uuuu'-'MM'-'dd'T'HH':'mm", CultureInfo.InvariantCulture);

        private JsonNode? AtOr(long? minute) => minute is { } m ? At(m) : null;

        private static JsonNode? True(bool flag) => flag ? true : null;

        private static string Day(IsoDayOfWeek day) => day.ToString().ToLowerInvariant();

        private static string Clock(int minute) =>
            minute == 1440
                ? "24:00"
                : string.Create(CultureInfo.InvariantCulture, $"{minute / 60 % 24:00}:{minute % 60:00}");

        private static JsonArray Texts(IEnumerable<string> texts) => new([.. texts.Select(t => (JsonNode)t)]);

        private static JsonArray? TextsOr(IReadOnlyCollection<string> texts) => texts.Count == 0 ? null : Texts(texts);

        private static JsonArray List<T>(IReadOnlyCollection<T> items, Func<T, JsonObject> write) =>
            new([.. items.Select(write)]);

        private static JsonArray? ListOr<T>(IReadOnlyCollection<T> items, Func<T, JsonObject> write) =>
            items.Count == 0 ? null : List(items, write);

        private static JsonObject With(JsonObject o, string name, JsonNode value)
        {
            o[name] = value;
            return o;
        }

        private static JsonObject Some(params ReadOnlySpan<(string Name, JsonNode? Value)> fields)
        {
            var o = new JsonObject();
            foreach (var (name, value) in fields)
            {
                if (value is not null)
                {
                    o[name] = value;
                }
            }

            return o;
        }
    }
}

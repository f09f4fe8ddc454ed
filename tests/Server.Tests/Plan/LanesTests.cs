using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using NodaTime;

namespace FirstCoat.Server.Tests.Plan;

/// <summary>The plan as a picture: what lies in which lane, and what another day would cost.</summary>
public sealed class LanesTests : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private readonly ShopFixture _shop;
    private TestBuild _first = null!;
    private TestBuild _second = null!;
    private Guid _work;
    private Guid _after;

    public LanesTests(ShopFixture shop) => _shop = shop;

    public async ValueTask InitializeAsync()
    {
        _shop.At(new LocalDate(2026, 3, 2), 8, 0);
        (_first, _second) = await TestBuild.OpenPair(_shop);
        _work = await _first.Add(TestBuild.Work("Long job", 960));
        _after = await _first.Add(
            TestBuild.Work("Next job", 60, after: [new { operation = _work, lagMinutes = 24 * 60 }])
        );
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private async Task<JsonElement> Lanes(HttpClient? by = null) =>
        await (by ?? _shop.Technician).GetAsync("/api/plan/lanes").Json();

    private static JsonElement Block(JsonElement lanes, Guid operation, bool worked = false) =>
        lanes
            .GetProperty("work")
            .EnumerateArray()
            .Single(w =>
                w.GetProperty("operationId").GetString() == operation.ToString()
                && w.GetProperty("worked").GetBoolean() == worked
            );

    private static bool Has(JsonElement lanes, Guid operation, bool worked) =>
        lanes
            .GetProperty("work")
            .EnumerateArray()
            .Any(w =>
                w.GetProperty("operationId").GetString() == operation.ToString()
                && w.GetProperty("worked").GetBoolean() == worked
            );

    [Fact]
    public async Task Planned_work_lies_with_its_person_its_days_and_the_time_that_it_dries()
    {
        var block = Block(await Lanes(), _work);
        block.GetProperty("name").GetString().ShouldBe("Long job");
        block.GetProperty("people").EnumerateArray().ShouldHaveSingleItem();
        block.GetProperty("hours").GetArrayLength().ShouldBe(2);
        var finish = block.GetProperty("finish").GetDateTimeOffset();
        block.GetProperty("dryUntil").GetDateTimeOffset().ShouldBe(finish.AddHours(24));
        block.GetProperty("asks").GetBoolean().ShouldBeFalse();
    }

    [Fact]
    public async Task An_open_question_shows_at_the_work_that_it_stops_until_it_is_answered()
    {
        var decision = Guid.CreateVersion7();
        await _shop
            .Manager.PostAsJsonAsync(
                $"/api/builds/{_first.Id}/decisions",
                new
                {
                    id = decision,
                    question = "Chrome or paint?",
                    detail = "",
                    @for = "manager",
                    options = Array.Empty<string>(),
                    holds = new[] { _after },
                    dueOn = "2026-03-05",
                    adds = (decimal?)null,
                    photoId = (Guid?)null,
                }
            )
            .Json();
        var lanes = await Lanes();
        Block(lanes, _after).GetProperty("asks").GetBoolean().ShouldBeTrue();
        Block(lanes, _work).GetProperty("asks").GetBoolean().ShouldBeFalse();
        await _shop.Manager.PostAsJsonAsync($"/api/decisions/{decision}/answer", new { answer = "Paint" }).Json();
        Block(await Lanes(), _after).GetProperty("asks").GetBoolean().ShouldBeFalse();
    }

    [Fact]
    public async Task What_was_worked_lies_behind_and_goes_with_the_entry()
    {
        _shop.At(new LocalDate(2026, 3, 3), 8, 0);
        Has(await Lanes(), _work, worked: true).ShouldBeFalse();
        var entry = Guid.CreateVersion7();
        await _first.Hours(_work, "2026-03-02T08:00:00Z", "2026-03-02T11:30:00Z", id: entry);
        var lanes = await Lanes();
        var block = Block(lanes, _work, worked: true);
        block.GetProperty("people")[0].GetString().ShouldBe(_shop.TechnicianPerson.ToString());
        block.GetProperty("start").GetDateTimeOffset().ShouldBe(new(2026, 3, 2, 8, 0, 0, TimeSpan.Zero));
        block.GetProperty("finish").GetDateTimeOffset().ShouldBe(new(2026, 3, 2, 11, 30, 0, TimeSpan.Zero));
        // The rest of it is still ahead.
        Block(lanes, _work)
            .GetProperty("start")
            .GetDateTimeOffset()
            .ShouldBeGreaterThanOrEqualTo(new(2026, 3, 3, 8, 0, 0, TimeSpan.Zero));
        await _shop.Technician.StartClock(_work).Json();
        _shop.At(new LocalDate(2026, 3, 3), 9, 0);
        Block(await Lanes(), _work, worked: true)
            .GetProperty("finish")
            .GetDateTimeOffset()
            .ShouldBe(new(2026, 3, 3, 9, 0, 0, TimeSpan.Zero), "the clock runs");
        await _shop.Technician.StopClock().Json();
    }

    [Fact]
    public async Task Hours_of_others_are_the_desk_s_to_read()
    {
        _shop.At(new LocalDate(2026, 3, 3), 8, 0);
        var other = (await Lanes(_shop.Manager))
            .GetProperty("people")
            .EnumerateArray()
            .Select(p => p.GetProperty("id").GetGuid())
            .First(p => p != _shop.TechnicianPerson);
        await _shop
            .Manager.PostAsJsonAsync(
                "/api/hours",
                new
                {
                    id = Guid.CreateVersion7(),
                    personId = other,
                    operationId = _work,
                    start = "2026-03-02T08:00:00Z",
                    stop = "2026-03-02T11:30:00Z",
                    kind = "billable",
                    note = "",
                }
            )
            .Json();
        Has(await Lanes(_shop.Manager), _work, worked: true).ShouldBeTrue();
        Has(await Lanes(_shop.Office), _work, worked: true).ShouldBeTrue();
        Has(await Lanes(_shop.Technician), _work, worked: true).ShouldBeFalse();
        int Worked(JsonElement week) =>
            week.GetProperty("people")
                .EnumerateArray()
                .SelectMany(p => p.GetProperty("blocks").EnumerateArray())
                .Count(b =>
                    b.GetProperty("state").GetString() == "worked"
                    && b.GetProperty("operationId").GetString() == _work.ToString()
                );
        Worked(await _shop.Manager.GetAsync("/api/plan/week?of=2026-03-02").Json()).ShouldBe(1);
        Worked(await _shop.Technician.GetAsync("/api/plan/week?of=2026-03-02").Json()).ShouldBe(0);
    }

    [Fact]
    public async Task The_axis_begins_with_last_weeks_Monday_and_knows_the_days_on_which_nobody_works()
    {
        var lanes = await Lanes();
        var days = lanes.GetProperty("days").EnumerateArray().ToList();
        days[0].GetProperty("date").GetString().ShouldBe("2026-02-23");
        days.Where(d => d.GetProperty("closed").GetBoolean())
            .Select(d => LocalDateOf(d).DayOfWeek)
            .Distinct()
            .Order()
            .ShouldBe([IsoDayOfWeek.Saturday, IsoDayOfWeek.Sunday]);
        await _shop
            .Manager.PutAsJsonAsync(
                "/api/shop/closed-days/2026-03-04",
                new { id = Guid.CreateVersion7(), reason = "fair" }
            )
            .Json();
        (await Lanes())
            .GetProperty("days")
            .EnumerateArray()
            .Single(d => LocalDateOf(d) == new LocalDate(2026, 3, 4))
            .GetProperty("closed")
            .GetBoolean()
            .ShouldBeTrue();
        await _shop.Manager.DeleteAsync("/api/shop/closed-days/2026-03-04");
        // The clocks change on 29 March: a midnight is a midnight on both sides of it.
        var clocks = days.Where(d => LocalDateOf(d) >= new LocalDate(2026, 3, 28)).Take(3).ToList();
        clocks
            .Select(d => d.GetProperty("from").GetDateTimeOffset().UtcDateTime.Hour)
            .ShouldBe([0, 0, 23], "by the shop's own zone");

        static LocalDate LocalDateOf(JsonElement day) =>
            NodaTime.Text.LocalDatePattern.Iso.Parse(day.GetProperty("date").GetString()!).Value;
    }

    [Fact]
    public async Task A_late_promise_stands_first_with_its_days()
    {
        (await Lanes()).GetProperty("builds")[0].GetProperty("daysLate").ValueKind.ShouldBe(JsonValueKind.Null);
        await _first.Add(TestBuild.Work("Endless", 100 * 480));
        var lanes = await Lanes();
        var first = lanes.GetProperty("builds")[0];
        first.GetProperty("id").GetGuid().ShouldBe(_first.Id);
        var likely = first.GetProperty("p50").GetString()!;
        string.CompareOrdinal(likely, "2026-06-01").ShouldBeGreaterThan(0);
        first
            .GetProperty("daysLate")
            .GetInt32()
            .ShouldBe(DateOnly.Parse(likely, null).DayNumber - new DateOnly(2026, 6, 1).DayNumber);
        first.GetProperty("carrier").GetProperty("name").GetString().ShouldBe("Endless");
        foreach (var (sooner, later) in new[] { ("p20", "p50"), ("p50", "p80"), ("p80", "p95") })
        {
            string.CompareOrdinal(first.GetProperty(sooner).GetString(), first.GetProperty(later).GetString())
                .ShouldBeLessThanOrEqualTo(0);
        }

        lanes.GetProperty("builds")[1].GetProperty("daysLate").ValueKind.ShouldBe(JsonValueKind.Null);
    }

    [Fact]
    public async Task A_batch_away_tells_when_it_is_needed_and_by_how_much_it_may_miss_that()
    {
        var (supplier, job) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/suppliers/{supplier}",
                new
                {
                    name = "Plating shop",
                    what = "plating",
                    freightDays = new[] { "monday", "thursday" },
                    workDays = Array.Empty<string>(),
                    version = (uint?)null,
                }
            )
            .Json();
        var plate = await _first.Add(TestBuild.Work("Plate it", kind: "outside"));
        await _first.Add(TestBuild.Work("Fit it", 60, after: [new { operation = plate, lagMinutes = 0 }]));
        await _shop
            .Office.PutAsJsonAsync(
                $"/api/builds/{_first.Id}/outside/{job}",
                new
                {
                    title = "Bright work",
                    supplierId = supplier,
                    operationId = plate,
                    pieces = new[] { new { name = "handles", count = 4 } },
                    quotedDays = 14,
                    quoted = 300,
                    billed = (decimal?)null,
                    version = (uint?)null,
                }
            )
            .Json();
        var before = await Lanes();
        before.GetProperty("away").GetArrayLength().ShouldBe(0);
        FreightDays(before).ShouldBeEmpty();
        await _shop
            .Office.PostAsJsonAsync($"/api/outside/{job}/send", new { on = "2026-03-02", promised = "2026-03-16" })
            .Json();
        var lanes = await Lanes();
        FreightDays(lanes).ShouldBe([DayOfWeek.Monday, DayOfWeek.Thursday]);
        var away = lanes.GetProperty("away").EnumerateArray().ShouldHaveSingleItem();
        away.GetProperty("promisedOn").GetString().ShouldBe("2026-03-16");
        away.GetProperty("neededOn").GetString().ShouldBe("2026-03-16");
        // No job is on record, so likely is the promise, and eight in ten by exp(0.8416 x sqrt(0.35^2 + 0.5^2)) of it.
        away.GetProperty("likely").GetString().ShouldBe("2026-03-16");
        away.GetProperty("high").GetString().ShouldBe("2026-03-26");
        away.GetProperty("daysOver").GetInt32().ShouldBe(10);

        static IEnumerable<DayOfWeek> FreightDays(JsonElement lanes) =>
            lanes
                .GetProperty("days")
                .EnumerateArray()
                .Where(d => d.GetProperty("freight").GetBoolean())
                .Select(d => DateOnly.Parse(d.GetProperty("date").GetString()!, null).DayOfWeek)
                .Distinct()
                .Order();
    }

    [Fact]
    public async Task Another_day_moves_its_build_and_nothing_is_kept()
    {
        var before = Block(await Lanes(), _work).GetProperty("start").GetString();
        var then = await _shop.Technician.GetAsync($"/api/operations/{_work}/starts-on?on=2026-03-09").Json();
        then.GetProperty("start").GetDateTimeOffset().ShouldBe(new(2026, 3, 9, 8, 0, 0, TimeSpan.Zero));
        then.GetProperty("sooner").GetBoolean().ShouldBeFalse();
        var move = then.GetProperty("moves").EnumerateArray().ShouldHaveSingleItem();
        move.GetProperty("buildId").GetGuid().ShouldBe(_first.Id);
        move.GetProperty("days").GetDecimal().ShouldBe(7);
        Block(await Lanes(), _work).GetProperty("start").GetString().ShouldBe(before);

        var sooner = await _shop.Manager.GetAsync($"/api/operations/{_after}/starts-on?on=2026-03-02").Json();
        sooner.GetProperty("sooner").GetBoolean().ShouldBeTrue();
        sooner.GetProperty("moves").GetArrayLength().ShouldBe(0);
        await _shop.Manager.GetAsync($"/api/operations/{_work}/starts-on?on=2026-03-01").Refused("on");
        await _shop.Manager.GetAsync($"/api/operations/{Guid.NewGuid()}/starts-on?on=2026-03-09").Refused("id");
        (await _shop.Manager.GetAsync($"/api/operations/{_work}/starts-on?on=soon")).StatusCode.ShouldBe(
            HttpStatusCode.BadRequest
        );
    }

    [Fact]
    public async Task A_day_that_holds_it_stands_at_the_block_moves_it_and_is_let_go()
    {
        Task<HttpResponseMessage> Pin(string? on, uint? version, HttpClient? by = null) =>
            (by ?? _shop.Manager).PostAsJsonAsync(
                $"/api/operations/{_work}/pin",
                TestBuild.Pinned(on, version: version)
            );
        var block = Block(await Lanes(), _work);
        block.GetProperty("pinnedOn").ValueKind.ShouldBe(JsonValueKind.Null);
        var version = block.GetProperty("version").GetUInt32();
        (await Pin("2026-03-09", version, _shop.Technician)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await Pin("2026-03-09", version, _shop.Office)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        await Pin("2026-03-01", version).Refused("on");

        var saved = await Pin("2026-03-09", version).Json();
        block = Block(await Lanes(), _work);
        block.GetProperty("pinnedOn").GetString().ShouldBe("2026-03-09");
        block.GetProperty("start").GetDateTimeOffset().ShouldBe(new(2026, 3, 9, 8, 0, 0, TimeSpan.Zero));
        // On the day itself it is kept; once that has passed it says so, and never moves in silence.
        Texts(block.GetProperty("broken")).ShouldBeEmpty();
        _shop.At(new LocalDate(2026, 3, 9), 8, 0);
        Texts(Block(await Lanes(), _work).GetProperty("broken")).ShouldBeEmpty();
        _shop.At(new LocalDate(2026, 3, 10), 8, 0);
        Texts(Block(await Lanes(), _work).GetProperty("broken"))
            .ShouldBe(["It was to start on Mon 9 Mar, and is planned for Tue 10 Mar: it was not begun."]);
        _shop.At(new LocalDate(2026, 3, 2), 8, 0);
        // Another window has seen it as it was before.
        (await Pin("2026-03-16", version)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        // Asked for a sooner day, its own day gives way: what follows is done on Monday the 9th instead of Thursday.
        var then = await _shop.Manager.GetAsync($"/api/operations/{_work}/starts-on?on=2026-03-04").Json();
        then.GetProperty("sooner").GetBoolean().ShouldBeFalse();
        then.GetProperty("moves")[0].GetProperty("days").GetDecimal().ShouldBe(-3);

        await Pin(null, saved.GetProperty("version").GetUInt32()).Json();
        block = Block(await Lanes(), _work);
        block.GetProperty("pinnedOn").ValueKind.ShouldBe(JsonValueKind.Null);
        block.GetProperty("start").GetDateTimeOffset().ShouldBeLessThan(new(2026, 3, 3, 0, 0, 0, TimeSpan.Zero));
        await _shop.Manager.PostAsync($"/api/operations/{_work}/done", null).Json();
        await Pin("2026-03-09", null).Refused("on");
    }

    private static List<string> Texts(JsonElement list) => [.. list.EnumerateArray().Select(t => t.GetString()!)];

    [Fact]
    public async Task Work_is_given_to_somebody_and_to_a_place_and_what_cannot_be_names_its_rule()
    {
        Task<HttpResponseMessage> Pin(Guid work, object hold, string way = "pin", HttpClient? by = null) =>
            (by ?? _shop.Manager).PostAsJsonAsync($"/api/operations/{work}/{way}", hold);
        static string Says(JsonElement refused) => refused.GetProperty("detail").GetString()!;
        var (painter, bay, lift) = (Guid.CreateVersion7(), Guid.CreateVersion7(), Guid.CreateVersion7());
        Task PutPerson(bool active) =>
            _shop
                .Manager.PutAsJsonAsync(
                    $"/api/shop/people/{painter}",
                    new
                    {
                        name = "Pia Painter",
                        trades = new[] { "paint" },
                        active,
                        version = (uint?)null,
                    }
                )
                .Json();
        Task PutStation(Guid id, string name, string kind, int at) =>
            _shop
                .Manager.PutAsJsonAsync(
                    $"/api/shop/stations/{id}",
                    new
                    {
                        name,
                        kind,
                        count = 1,
                        xMm = at,
                        yMm = 0,
                        widthMm = 3_000,
                        depthMm = 6_000,
                        doorHeightMm = (int?)null,
                        walled = false,
                        version = (uint?)null,
                    }
                )
                .Json();
        await PutPerson(true);
        await PutStation(bay, "Bay 7", "bay", 0);
        await PutStation(lift, "Lift 7", "lift", 4_000);
        var body = JsonSerializer.SerializeToNode(TestBuild.Work("Bay work", 120))!;
        body["station"] = "bay";
        var work = await _first.Add(body);
        Says(await Pin(work, TestBuild.Pinned(person: painter)).Refused("personId"))
            .ShouldBe("Pia has not the trade mechanic.");
        Says(await Pin(work, TestBuild.Pinned(person: painter), "pin/try").Refused("personId"))
            .ShouldContain("mechanic");
        Says(await Pin(work, TestBuild.Pinned(person: Guid.NewGuid())).Refused("personId"))
            .ShouldBe("There is no such person.");
        Says(await Pin(work, TestBuild.Pinned(place: lift)).Refused("placeId"))
            .ShouldBe("Lift 7 is no place for this, which asks for: bay.");
        Says(await Pin(_work, TestBuild.Pinned(place: bay)).Refused("placeId"))
            .ShouldContain("not done in a place of its own");
        (await Pin(work, TestBuild.Pinned(place: bay), by: _shop.Technician)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await Pin(work, TestBuild.Pinned(place: bay), "pin/try", _shop.Office)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );

        await Pin(work, TestBuild.Pinned(person: _shop.TechnicianPerson, place: bay)).Json();
        var block = Block(await Lanes(), work);
        block.GetProperty("pinnedTo").GetGuid().ShouldBe(_shop.TechnicianPerson);
        block.GetProperty("placeId").GetGuid().ShouldBe(bay);
        Texts(block.GetProperty("broken")).ShouldBeEmpty();
        // The place is closed and another one is used: that is said. So is it of somebody who has left the trade.
        var other = Guid.CreateVersion7();
        await PutStation(other, "Bay 8", "bay", 8_000);
        (await _shop.Manager.DeleteAsync($"/api/shop/stations/{bay}")).EnsureSuccessStatusCode();
        Texts(Block(await Lanes(), work).GetProperty("broken"))
            .ShouldContain(t => t.StartsWith("It was to be done in ", StringComparison.Ordinal));
        await Pin(work, TestBuild.Pinned()).Json();
        Texts(Block(await Lanes(), work).GetProperty("broken")).ShouldBeEmpty();
        // Nobody of the other tests meets them.
        await _shop.Manager.DeleteAsync($"/api/operations/{work}");
        foreach (var station in new[] { other, lift })
        {
            (await _shop.Manager.DeleteAsync($"/api/shop/stations/{station}")).EnsureSuccessStatusCode();
        }

        await PutPerson(false);
    }

    [Fact]
    public async Task Work_is_put_before_other_work_in_its_lane_as_it_was_said_and_taken_back()
    {
        var late = await _second.Add(TestBuild.Work("Second's job", 240));
        var (one, two) = (Block(await Lanes(), _work), Block(await Lanes(), late));
        one.GetProperty("start").GetString().ShouldNotBe(two.GetProperty("start").GetString());
        Task<HttpResponseMessage> Before(Guid work, Guid other, string way = "before", HttpClient? by = null) =>
            (by ?? _shop.Manager).PostAsJsonAsync(
                $"/api/operations/{work}/{way}",
                new { id = Guid.CreateVersion7(), other }
            );
        var (first, second) =
            one.GetProperty("start").GetDateTimeOffset() < two.GetProperty("start").GetDateTimeOffset()
                ? (_work, late)
                : (late, _work);
        (await Before(second, first, by: _shop.Technician)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        await Before(second, Guid.NewGuid()).Refused("other");
        await Before(second, second).Refused("other");
        var said = await Before(second, first, "before/try").Json();
        said.GetProperty("moves").GetArrayLength().ShouldBeGreaterThan(0);
        Block(await Lanes(), second)
            .GetProperty("start")
            .GetString()
            .ShouldNotBe(said.GetProperty("start").GetString());
        (await Before(second, first)).EnsureSuccessStatusCode();
        var then = await Lanes();
        Block(then, second).GetProperty("start").GetString().ShouldBe(said.GetProperty("start").GetString());
        Block(then, second)
            .GetProperty("start")
            .GetDateTimeOffset()
            .ShouldBeLessThan(Block(then, first).GetProperty("start").GetDateTimeOffset());
        (await _shop.Manager.PostAsync("/api/plan/turns/undo", null)).EnsureSuccessStatusCode();
        Block(await Lanes(), first)
            .GetProperty("start")
            .GetDateTimeOffset()
            .ShouldBeLessThan(Block(await Lanes(), second).GetProperty("start").GetDateTimeOffset());
    }

    [Fact]
    public async Task What_was_said_of_a_day_is_what_comes_of_it()
    {
        var other = await _second.Add(TestBuild.Work("Waiting job", 960));
        async Task<(string First, string Second)> Planned() =>
            (
                (await _first.Card()).GetProperty("planned").GetString()!,
                (await _second.Card()).GetProperty("planned").GetString()!
            );
        static int Days(string from, string to) =>
            DateOnly.Parse(to, null).DayNumber - DateOnly.Parse(from, null).DayNumber;
        foreach (var held in new[] { _work, other })
        {
            var before = await Planned();
            var said = await _shop.Manager.GetAsync($"/api/operations/{held}/starts-on?on=2026-03-12").Json();
            await _shop.Manager.PostAsJsonAsync($"/api/operations/{held}/pin", TestBuild.Pinned("2026-03-12")).Json();
            Block(await Lanes(), held).GetProperty("start").GetString().ShouldBe(said.GetProperty("start").GetString());
            var after = await Planned();
            var moves = said.GetProperty("moves")
                .EnumerateArray()
                .ToDictionary(m => m.GetProperty("buildId").GetGuid(), m => m.GetProperty("days").GetDecimal());
            // The hour of the day may differ, the days may not.
            Math.Abs(moves.GetValueOrDefault(_first.Id) - Days(before.First, after.First)).ShouldBeLessThan(1);
            Math.Abs(moves.GetValueOrDefault(_second.Id) - Days(before.Second, after.Second)).ShouldBeLessThan(1);
            moves.Count.ShouldBeGreaterThan(0);
        }
    }

    [Fact]
    public async Task Why_tells_what_it_holds_with_the_room_that_there_is()
    {
        var why = await _shop.Technician.GetAsync($"/api/operations/{_work}/why").Json();
        var next = why.GetProperty("followers").EnumerateArray().ShouldHaveSingleItem();
        next.GetProperty("name").GetString().ShouldBe("Next job");
        next.GetProperty("over").ValueKind.ShouldBe(JsonValueKind.Null);
        next.GetProperty("roomDays").GetDecimal().ShouldBeLessThan(1);
        // The same person is wanted by the other build too, once there is work on it.
        await _second.Add(TestBuild.Work("Waiting job", 480));
        (await _shop.Technician.GetAsync($"/api/operations/{_work}/why").Json())
            .GetProperty("followers")
            .EnumerateArray()
            .ShouldContain(f =>
                f.GetProperty("name").GetString() == "Waiting job" && f.GetProperty("over").GetString() != null
            );
    }
}

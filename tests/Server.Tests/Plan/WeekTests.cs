using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using Ical.Net;
using NodaTime;

namespace FirstCoat.Server.Tests.Plan;

/// <summary>What is promised on Monday, what came of it, and calendars of the plan.</summary>
public sealed class WeekTests : IClassFixture<ShopFixture>, IAsyncLifetime
{
    /// <summary>No two tests share a week: a week is committed once.</summary>
    private static int _weeks;

    private readonly ShopFixture _shop;
    private readonly LocalDate _monday = new LocalDate(2026, 3, 2).PlusWeeks(2 * Interlocked.Increment(ref _weeks));
    private TestBuild _build = null!;
    private Guid _short;
    private Guid _long;

    public WeekTests(ShopFixture shop) => _shop = shop;

    public async ValueTask InitializeAsync()
    {
        _shop.At(_monday, 8, 0);
        (_build, _) = await TestBuild.OpenPair(_shop);
        _short = await _build.Add(TestBuild.Work("Short job", 240));
        _long = await _build.Add(TestBuild.Work("Long job", 6000, after: [new { operation = _short, lagMinutes = 0 }]));
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    /// <summary>The technician's, whose hours the tests book.</summary>
    private JsonNode Own(object work)
    {
        var own = JsonSerializer.SerializeToNode(work)!;
        own["personId"] = _shop.TechnicianPerson;
        return own;
    }

    private string Of => _monday.ToString("uuuu-MM-dd", null);

    private async Task<JsonElement> Week(HttpClient? by = null, string? of = null) =>
        await (by ?? _shop.Technician).GetAsync($"/api/plan/week?of={of ?? Of}").Json();

    private static List<JsonElement> Promises(JsonElement week) =>
        [.. week.GetProperty("people").EnumerateArray().SelectMany(p => p.GetProperty("promises").EnumerateArray())];

    private async Task<(Guid Person, JsonElement Offer)> Offer(Guid operation) =>
        (await Week())
            .GetProperty("people")
            .EnumerateArray()
            .SelectMany(p => p.GetProperty("offers").EnumerateArray().Select(o => (p.GetProperty("id").GetGuid(), o)))
            .First(x => x.o.GetProperty("operationId").GetString() == operation.ToString());

    private async Task<HttpResponseMessage> Commit(
        int? minutes = null,
        HttpClient? by = null,
        Guid? id = null,
        params Guid[] operations
    )
    {
        var promises = new List<object>();
        foreach (var operation in operations)
        {
            var (person, _) = await Offer(operation);
            promises.Add(
                new
                {
                    operationId = operation,
                    personId = person,
                    minutes,
                }
            );
        }

        return await (by ?? _shop.Manager).PostAsJsonAsync(
            "/api/plan/week/commit",
            new
            {
                id = id ?? Guid.CreateVersion7(),
                of = Of,
                promises,
            }
        );
    }

    private Task<HttpResponseMessage> Count(HttpClient? by = null, params (Guid Promise, string Why)[] reasons) =>
        (by ?? _shop.Manager).PostAsJsonAsync(
            "/api/plan/week/count",
            new { of = Of, reasons = reasons.Select(r => new { promiseId = r.Promise, reason = r.Why }) }
        );

    [Fact]
    public async Task A_week_is_drafted_from_the_plan_for_everybody_to_read()
    {
        var (_, whole) = await Offer(_short);
        (whole.GetProperty("minutes").GetInt32(), whole.GetProperty("whole").GetBoolean()).ShouldBe((240, true));
        var (_, part) = await Offer(_long);
        part.GetProperty("whole").GetBoolean().ShouldBeFalse();
        part.GetProperty("minutes").GetInt32().ShouldBeInRange(60, 6000);
        var week = await Week();
        week.GetProperty("of").GetString().ShouldBe(Of);
        week.GetProperty("committedAt").ValueKind.ShouldBe(JsonValueKind.Null);
        // Any day of it is the same week.
        (await Week(of: _monday.PlusDays(3).ToString("uuuu-MM-dd", null))).GetProperty("of").GetString().ShouldBe(Of);
    }

    [Fact]
    public async Task It_is_committed_kept_and_counted_with_a_reason_for_what_was_not_done()
    {
        await Commit(operations: [_short, _long]).Json();
        var (_, part) = await Offer(_long);
        var promises = Promises(await Week());
        promises.Select(p => p.GetProperty("state").GetString()).ShouldBe(["promised", "promised"]);
        await Count().Refused("of");
        _shop.At(_monday.PlusDays(1), 9, 0);
        await _build.Hours(_short, $"{Of}T08:00:00Z", $"{Of}T09:00:00Z");
        await _shop.Manager.PostAsync($"/api/operations/{_short}/done", null).Json();
        promises = Promises(await Week());
        promises
            .Single(p => p.GetProperty("operationId").GetGuid() == _short)
            .GetProperty("keptOn")
            .GetString()
            .ShouldBe(_monday.PlusDays(1).ToString("uuuu-MM-dd", null));
        var open = promises.Single(p => p.GetProperty("operationId").GetGuid() == _long);
        open.GetProperty("minutes").GetInt32().ShouldBeGreaterThan(0);

        _shop.At(_monday.PlusDays(4), 17, 0);
        (await Week()).GetProperty("not").GetInt32().ShouldBe(1, "the rest of the week does not bring it any more");
        await Count().Refused("reasons");
        var why = (open.GetProperty("id").GetGuid(), "part not here");
        await Count(reasons: why).Json();
        var week = await Week();
        week.GetProperty("percent").GetDouble().ShouldBe(50);
        week.GetProperty("kept").GetInt32().ShouldBe(1);
        week.GetProperty("reasons").EnumerateArray().Last().GetProperty("reason").GetString().ShouldBe("part not here");
        await Count(reasons: why).Refused("of");
        // What is booked afterwards does not change it.
        var late = _monday.PlusDays(4).ToString("uuuu-MM-dd", null);
        await _build.Hours(_long, $"{Of}T10:00:00Z", $"{Of}T23:00:00Z");
        await _build.Hours(_long, $"{late}T00:00:00Z", $"{late}T16:00:00Z");
        (await Week()).GetProperty("kept").GetInt32().ShouldBe(1);
    }

    [Fact]
    public async Task Fewer_hours_can_be_promised_and_are_kept_when_they_are_worked()
    {
        await Commit(minutes: 90, operations: [_short]).Json();
        Promises(await Week()).Single().GetProperty("whole").GetBoolean().ShouldBeFalse();
        _shop.At(_monday.PlusDays(1), 9, 0);
        await _build.Hours(_short, $"{Of}T08:00:00Z", $"{Of}T09:29:00Z");
        Promises(await Week()).Single().GetProperty("state").GetString().ShouldBe("promised");
        await _build.Hours(_short, $"{Of}T10:00:00Z", $"{Of}T10:01:00Z");
        Promises(await Week()).Single().GetProperty("state").GetString().ShouldBe("kept");
    }

    [Fact]
    public async Task A_week_is_committed_once_by_a_manager_and_taken_back_on_the_same_day_only()
    {
        (await Commit(by: _shop.Technician, operations: [_short])).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await Commit(by: _shop.Office, operations: [_short])).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await Count(_shop.Technician)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        await Commit().Refused("promises");
        await Commit(minutes: 100_000, operations: [_short]).Refused("promises");
        var id = Guid.CreateVersion7();
        await Commit(id: id, operations: [_short]).Json();
        await Commit(operations: [_short]).Refused("of");
        await _shop.Manager.PostAsJsonAsync("/api/plan/week/take-back", new { of = Of });
        (await Week()).GetProperty("committedAt").ValueKind.ShouldBe(JsonValueKind.Null);
        await Commit(operations: [_short]).Json();
        _shop.At(_monday.PlusDays(1), 8, 0);
        await _shop.Manager.PostAsJsonAsync("/api/plan/week/take-back", new { of = Of }).Refused("of");
        _shop.At(_monday.PlusDays(7), 8, 0);
        await _shop
            .Manager.PostAsJsonAsync(
                "/api/plan/week/commit",
                new
                {
                    id = Guid.CreateVersion7(),
                    of = Of,
                    promises = Array.Empty<object>(),
                }
            )
            .Refused("of");
    }

    [Fact]
    public async Task Of_two_who_commit_the_same_week_at_once_one_is_told()
    {
        var answers = await Task.WhenAll(Commit(operations: [_short]), Commit(operations: [_short]));
        answers.Count(a => a.IsSuccessStatusCode).ShouldBe(1);
        answers.Count(a => a.StatusCode == HttpStatusCode.BadRequest).ShouldBe(1);
        Promises(await Week()).Count.ShouldBe(1);
    }

    [Fact]
    public async Task A_promise_that_the_plan_cannot_bring_any_more_says_so()
    {
        await Commit(operations: [_short]).Json();
        Promises(await Week()).Single().GetProperty("state").GetString().ShouldBe("promised");
        await _shop
            .Manager.PostAsJsonAsync(
                $"/api/operations/{_short}/pin",
                TestBuild.Pinned(_monday.PlusDays(9).ToString("uuuu-MM-dd", null))
            )
            .Json();
        Promises(await Week()).Single().GetProperty("state").GetString().ShouldBe("slips");
        await _shop.Manager.PostAsJsonAsync($"/api/operations/{_short}/pin", TestBuild.Pinned()).Json();
        Promises(await Week()).Single().GetProperty("state").GetString().ShouldBe("promised");
    }

    private async Task<JsonElement> MakeCalendar(HttpClient by, Guid? person, Guid? station = null) =>
        await by.PostAsJsonAsync(
                "/api/calendars",
                new
                {
                    id = Guid.CreateVersion7(),
                    personId = person,
                    stationId = station,
                }
            )
            .Json();

    [Fact]
    public async Task A_calendar_is_read_by_its_address_alone_until_it_is_closed()
    {
        var (person, _) = await Offer(_short);
        var made = await MakeCalendar(_shop.Manager, person);
        var path = made.GetProperty("path").GetString()!;
        var stranger = _shop.CreateClient();
        var answer = await stranger.GetAsync(path);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("text/calendar");
        var text = await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        var calendar = Calendar.Load(text)!;
        var mine = calendar.Events.Where(e => e.Summary!.EndsWith("Short job", StringComparison.Ordinal)).ToList();
        mine.ShouldNotBeEmpty();
        var starts = _monday.At(new LocalTime(8, 0)).InZoneLeniently(DateTimeZoneProviders.Tzdb["Europe/London"]);
        mine[0].Start!.AsUtc.ShouldBe(starts.ToDateTimeUtc());
        mine.Sum(e => (e.End!.AsUtc - e.Start!.AsUtc).TotalMinutes).ShouldBeInRange(240, 360);
        calendar.Events.Select(e => e.Uid).ShouldBeUnique();
        text.ShouldNotContain("Petra", Case.Insensitive, "a calendar names no client");
        text.Split("\r\n").ShouldAllBe(l => System.Text.Encoding.UTF8.GetByteCount(l) <= 75);

        // The address is not kept, and closes for good.
        await _shop.Manager.PostAsync($"/api/calendars/{made.GetProperty("id").GetGuid()}/revoke", null).Json();
        (await stranger.GetAsync(path)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await stranger.GetAsync("/api/calendars/nothing/plan.ics")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_technician_makes_and_closes_a_calendar_of_their_own_only()
    {
        var own = await MakeCalendar(_shop.Technician, _shop.TechnicianPerson);
        var other = Guid.NewGuid();
        await _shop
            .Technician.PostAsJsonAsync(
                "/api/calendars",
                new
                {
                    id = Guid.CreateVersion7(),
                    personId = other,
                    stationId = (Guid?)null,
                }
            )
            .Refused("personId");
        var managers = await MakeCalendar(_shop.Manager, _shop.TechnicianPerson);
        var list = (await _shop.Technician.GetAsync("/api/calendars").Json()).EnumerateArray().ToList();
        list.ShouldAllBe(l => l.GetProperty("personId").GetGuid() == _shop.TechnicianPerson);
        list.Select(l => l.GetProperty("id").GetGuid()).ShouldContain(managers.GetProperty("id").GetGuid());
        await _shop.Technician.PostAsync($"/api/calendars/{own.GetProperty("id").GetGuid()}/revoke", null).Json();
        (await _shop.Office.GetAsync("/api/calendars").Json()).GetArrayLength().ShouldBe(0);
    }
}

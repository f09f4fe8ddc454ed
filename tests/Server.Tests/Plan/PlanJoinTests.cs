using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using NodaTime;
using NodaTime.Extensions;

namespace FirstCoat.Server.Tests.Plan;

/// <summary>Terms, sandboxes, baselines, templates and who goes first, through the API as the screens use it.</summary>
public sealed class PlanJoinTests : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private readonly ShopFixture _shop;
    private TestBuild _first = null!;
    private TestBuild _second = null!;
    private Guid _firstWork;
    private Guid _secondWork;

    public PlanJoinTests(ShopFixture shop) => _shop = shop;

    public async ValueTask InitializeAsync()
    {
        _shop.At(new LocalDate(2026, 3, 2), 8, 0);
        (_first, _second) = await TestBuild.OpenPair(_shop);
        _firstWork = await _first.Add(TestBuild.Work("Long job", 960));
        _secondWork = await _second.Add(TestBuild.Work("Waiting job", 480));
        (await _second.Card()).GetProperty("planned").GetString().ShouldBe("2026-03-04");
    }

    public async ValueTask DisposeAsync()
    {
        await Terms(new { });
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/people/{_shop.TechnicianPerson}/absences",
                new { absences = Array.Empty<object>() }
            )
            .Json();
    }

    private Task<JsonElement> Terms(object terms) =>
        _shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/people/{_shop.TechnicianPerson}/terms",
                new { terms, version = (uint?)null }
            )
            .Json();

    private async Task<string> Likely(TestBuild build) => (await build.Card()).GetProperty("planned").GetString()!;

    private static object With(object work, object terms)
    {
        var body = JsonSerializer.SerializeToNode(work)!.AsObject();
        body["terms"] = JsonSerializer.SerializeToNode(terms);
        return body;
    }

    private Task<HttpResponseMessage> Put(TestBuild build, Guid operation, object body) =>
        _shop.Manager.PutAsJsonAsync($"/api/builds/{build.Id}/operations/{operation}", body);

    [Fact]
    public async Task Terms_of_operation_person_station_and_build_move_the_plan()
    {
        await Put(_second, _secondWork, With(TestBuild.Work("Waiting job", 480), new { notBefore = "2026-03-09" }))
            .Json();
        (await Likely(_second)).ShouldBe("2026-03-09");
        var shown = (await _second.Operations()).Single();
        shown.GetProperty("terms").GetProperty("notBefore").GetString().ShouldBe("2026-03-09");
        shown.GetProperty("reason").GetProperty("kind").GetString().ShouldBe("notBefore");

        // Without terms an operation keeps those it has.
        await Put(_second, _secondWork, TestBuild.Work("Waiting job", 480)).Json();
        (await Likely(_second)).ShouldBe("2026-03-09");
        await Put(_second, _secondWork, With(TestBuild.Work("Waiting job", 480), new { })).Json();
        (await Likely(_second)).ShouldBe("2026-03-04");

        await Terms(new { pace = 2 });
        (await Likely(_second)).ShouldBe("2026-03-09");
        await Terms(new { });

        // Nothing was paid: work that only goes as far as that has no date, and says what it needs.
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{_second.Id}/terms",
                new
                {
                    terms = new { weight = 2, spending = new { perMonth = (decimal?)null, asFarAsPaid = true } },
                    version = (uint?)null,
                }
            )
            .Json();
        var outlook = await _shop.Manager.GetAsync($"/api/builds/{_second.Id}/outlook").Json();
        outlook
            .GetProperty("without")
            .EnumerateArray()
            .ShouldHaveSingleItem()
            .GetProperty("kind")
            .GetString()
            .ShouldBe("deposit");
        outlook.GetProperty("cover").GetProperty("by").GetString().ShouldBe("2026-03-04");
        (await _shop.Technician.GetAsync($"/api/builds/{_second.Id}/outlook").Json())
            .GetProperty("cover")
            .ValueKind.ShouldBe(JsonValueKind.Null);
        await _shop
            .Office.PostAsJsonAsync(
                $"/api/builds/{_second.Id}/payments",
                new
                {
                    id = Guid.CreateVersion7(),
                    on = "2026-03-02",
                    amount = 5000m,
                    note = "deposit",
                }
            )
            .Json();
        (await Likely(_second)).ShouldBe("2026-03-04");
    }

    [Fact]
    public async Task A_closed_station_takes_its_work_out_of_the_plan_and_says_why()
    {
        var station = Guid.CreateVersion7();
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/stations/{station}",
                new
                {
                    name = "Lift",
                    kind = "lift",
                    count = 1,
                    xMm = 0,
                    yMm = 0,
                    widthMm = 3000,
                    depthMm = 5000,
                    doorHeightMm = (int?)null,
                    walled = false,
                    version = (uint?)null,
                }
            )
            .Json();
        var onLift = JsonSerializer.SerializeToNode(TestBuild.Work("Waiting job", 480))!.AsObject();
        onLift["station"] = "lift";
        await Put(_second, _secondWork, onLift).Json();
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/stations/{station}/terms",
                new { terms = new { inspectedUntil = "2026-03-01", inspected = "lift" }, version = (uint?)null }
            )
            .Json();
        var without = (await _shop.Technician.GetAsync("/api/plan/without-date").Json())
            .EnumerateArray()
            .ShouldHaveSingleItem();
        without.GetProperty("text").GetString()!.ShouldContain("lift ran out on 1 Mar 2026");
        // What is left of the second build without the lift is done in a day: that is no forecast of its end.
        await using (var scope = _shop.Scope())
        {
            (
                await scope.ServiceProvider.GetRequiredService<Store.Plan.PlanDesk>().KeepNight(CancellationToken.None)
            ).ShouldBeTrue();
        }

        async Task<int> Nights(TestBuild build) =>
            (await _shop.Manager.GetAsync($"/api/builds/{build.Id}/outlook").Json())
                .GetProperty("nights")
                .GetArrayLength();
        (await Nights(_first)).ShouldBe(1);
        (await Nights(_second)).ShouldBe(0);
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/stations/{station}/terms",
                new { terms = new { }, version = (uint?)null }
            )
            .Json();
        (await Likely(_second)).ShouldBe("2026-03-04");
    }

    [Fact]
    public async Task Terms_that_name_what_is_not_there_are_refused()
    {
        Task<JsonElement> Refused(object terms, string field) =>
            Put(_second, _secondWork, With(TestBuild.Work("Waiting job", 480), terms)).Refused(field);
        await Refused(new { hold = new { station = "jig", until = _firstWork } }, "hold");
        await Refused(new { closedUntil = _secondWork }, "closedUntil");
        await Refused(new { preferred = new[] { Guid.CreateVersion7() } }, "preferred");
        await Refused(new { uses = new[] { new { name = "moon", count = 1 } } }, "uses");
        await Refused(new { supplierId = Guid.CreateVersion7() }, "supplierId");
        await _shop
            .Manager.PutAsJsonAsync(
                "/api/shop/plan-rules",
                new { plan = new { things = new[] { new { name = "carrier", count = 1 } } }, version = (uint?)null }
            )
            .Json();
        await Refused(new { uses = new[] { new { name = "carrier", count = 2 } } }, "uses");
        await Put(
                _second,
                _secondWork,
                With(TestBuild.Work("Waiting job", 480), new { uses = new[] { new { name = "carrier", count = 1 } } })
            )
            .Json();
    }

    private async Task<Guid> Sandbox(params object[] changes)
    {
        var id = Guid.CreateVersion7();
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/plan/what-ifs/{id}",
                new
                {
                    name = "Try",
                    changes,
                    version = (uint?)null,
                }
            )
            .Json();
        return id;
    }

    private Task<JsonElement> Beside(Guid id) => _shop.Manager.GetAsync($"/api/plan/what-ifs/{id}/beside").Json();

    [Fact]
    public async Task A_sandbox_shows_who_moves_and_leaves_the_plan_alone_until_it_is_adopted()
    {
        // Tuesday to Friday away: the second job, due on Wednesday, ends on Tuesday of the next week; at noon, so that
        // half the futures end on that day too.
        await Put(_second, _secondWork, TestBuild.Work("Waiting job", 240)).Json();
        var id = await Sandbox(
            new
            {
                kind = "absence",
                personId = _shop.TechnicianPerson,
                from = "2026-03-03",
                to = "2026-03-06",
            }
        );
        var rows = (await Beside(id)).GetProperty("builds").EnumerateArray().ToList();
        var row = rows.Single(r => r.GetProperty("id").GetGuid() == _second.Id);
        row.GetProperty("likelyBefore").GetString().ShouldBe("2026-03-04");
        row.GetProperty("likelyAfter").GetString().ShouldBe("2026-03-10");
        row.GetProperty("days").GetDecimal().ShouldBe(6);
        (await Likely(_second)).ShouldBe("2026-03-04");

        var dropped = await Sandbox(
            new
            {
                kind = "absence",
                personId = _shop.TechnicianPerson,
                from = "2026-03-03",
                to = "2026-03-06",
            }
        );
        (await _shop.Manager.DeleteAsync($"/api/plan/what-ifs/{dropped}")).EnsureSuccessStatusCode();
        await _shop
            .Manager.GetAsync($"/api/plan/what-ifs/{dropped}/beside")
            .Refused("id", System.Net.HttpStatusCode.NotFound);
        (await Likely(_second)).ShouldBe("2026-03-04");

        await _shop.Manager.PostAsJsonAsync($"/api/plan/what-ifs/{id}/adopt", new { }).Json();
        await _shop.Manager.PostAsJsonAsync($"/api/plan/what-ifs/{id}/adopt", new { }).Json();
        (await Likely(_second)).ShouldBe("2026-03-10");
        var person = (await _shop.Manager.GetAsync("/api/shop").Json())
            .GetProperty("people")
            .EnumerateArray()
            .Single(p => p.GetProperty("id").GetGuid() == _shop.TechnicianPerson);
        person.GetProperty("absences").EnumerateArray().ShouldHaveSingleItem("adopted twice is adopted once");
        (await _shop.Manager.GetAsync("/api/plan/what-ifs").Json())
            .EnumerateArray()
            .ShouldNotContain(w => w.GetProperty("id").GetGuid() == id);
    }

    [Fact]
    public async Task A_client_who_pays_nothing_until_may_is_tried_and_adopted()
    {
        await Put(_second, _secondWork, TestBuild.Work("Waiting job", 240)).Json();
        var id = await Sandbox(
            new
            {
                kind = "noPayments",
                buildId = _second.Id,
                to = "2026-05-01",
            }
        );
        var row = (await Beside(id))
            .GetProperty("builds")
            .EnumerateArray()
            .Single(r => r.GetProperty("id").GetGuid() == _second.Id);
        row.GetProperty("likelyAfter").GetString().ShouldBe("2026-05-01");
        (await Likely(_second)).ShouldBe("2026-03-04", "nothing is kept by trying");
        await _shop.Manager.PostAsJsonAsync($"/api/plan/what-ifs/{id}/adopt", new { }).Json();
        (await Likely(_second)).ShouldBe("2026-05-01");
        // What was paid reaches as far as it goes: all of the four hours.
        await _shop
            .Manager.PostAsJsonAsync(
                $"/api/builds/{_second.Id}/payments",
                new
                {
                    id = Guid.CreateVersion7(),
                    amount = 5000m,
                    on = "2026-03-01",
                    note = "",
                }
            )
            .Json();
        (await Likely(_second)).ShouldBe("2026-03-04");
    }

    [Fact]
    public async Task A_build_that_may_come_can_follow_a_template_of_the_shops_own()
    {
        var own = Guid.CreateVersion7();
        await _shop
            .Manager.PostAsJsonAsync(
                $"/api/builds/{_first.Id}/template",
                new { id = own, name = $"Ours {own:N}"[..20] }
            )
            .Json();
        var template = (await _shop.Manager.GetAsync("/api/templates").Json())
            .EnumerateArray()
            .Single(t =>
                t.GetProperty("ownId").ValueKind != JsonValueKind.Null && t.GetProperty("ownId").GetGuid() == own
            )
            .GetProperty("key")
            .GetString();
        object Coming(string? key) =>
            new
            {
                kind = "newBuild",
                build = new
                {
                    id = Guid.CreateVersion7(),
                    client = "New Client",
                    make = "Heron",
                    model = "Two",
                    style = "coupe",
                    construction = "unitary",
                    grade = "driver",
                    template = key,
                    scale = 1,
                    arrives = "2026-03-16",
                    promised = (string?)null,
                },
            };
        var row = (await Beside(await Sandbox(Coming(template))))
            .GetProperty("builds")
            .EnumerateArray()
            .Single(r => r.GetProperty("maybe").GetBoolean());
        string.CompareOrdinal(row.GetProperty("likelyAfter").GetString(), "2026-03-16").ShouldBeGreaterThanOrEqualTo(0);
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/plan/what-ifs/{Guid.CreateVersion7()}",
                new
                {
                    name = "Nobody's",
                    changes = new[] { Coming("own-nobodys") },
                    version = (uint?)null,
                }
            )
            .Refused("template");
    }

    [Fact]
    public async Task Saturdays_cost_overtime_and_a_new_build_is_opened_when_adopted()
    {
        var saturdays = await Beside(
            await Sandbox(
                new
                {
                    kind = "saturdays",
                    from = "2026-03-02",
                    personId = (Guid?)null,
                }
            )
        );
        saturdays.GetProperty("after").GetProperty("overtime").GetDecimal().ShouldBe(0, "all is done by Wednesday");
        saturdays.GetProperty("before").GetProperty("minutes").GetInt64().ShouldBe(24 * 60);

        await Put(_first, _firstWork, TestBuild.Work("Long job", 60 * 60)).Json();
        saturdays = await Beside(await Sandbox(new { kind = "saturdays", from = "2026-03-02" }));
        saturdays.GetProperty("after").GetProperty("overtime").GetDecimal().ShouldBeGreaterThan(0);

        var build = new
        {
            id = Guid.CreateVersion7(),
            client = "New Client",
            make = "Heron",
            model = "Two",
            style = "coupe",
            construction = "unitary",
            grade = "driver",
            template = "small-work",
            scale = 1,
            arrives = "2026-03-16",
            promised = (string?)null,
        };
        var id = await Sandbox(new { kind = "newBuild", build });
        var row = (await Beside(id))
            .GetProperty("builds")
            .EnumerateArray()
            .Single(r => r.GetProperty("maybe").GetBoolean());
        row.GetProperty("likelyBefore").ValueKind.ShouldBe(JsonValueKind.Null);
        await _shop.Manager.PostAsJsonAsync($"/api/plan/what-ifs/{id}/adopt", new { }).Json();
        var opened = (await _shop.Manager.GetAsync("/api/builds").Json())
            .EnumerateArray()
            .Single(b => b.GetProperty("id").GetGuid() == build.id);
        opened.GetProperty("client").GetString().ShouldBe("New Client");
        DateOnly Of(string? day) => DateOnly.Parse(day!, System.Globalization.CultureInfo.InvariantCulture);
        (
            Of(row.GetProperty("likelyAfter").GetString()).DayNumber
            - Of(opened.GetProperty("planned").GetString()).DayNumber
        ).ShouldBeInRange(-2, 3, "likely is the middle of the futures, planned the plan's own day");
        string.CompareOrdinal(opened.GetProperty("nextOn").GetString(), "2026-03-16").ShouldBeGreaterThanOrEqualTo(0);
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/plan/what-ifs/{Guid.CreateVersion7()}",
                new
                {
                    name = "Nothing",
                    changes = Array.Empty<object>(),
                    version = (uint?)null,
                }
            )
            .Refused("changes");
    }

    [Fact]
    public async Task Who_goes_first_is_asked_on_the_floor_and_turning_them_round_is_kept()
    {
        var asked = (await _shop.Manager.GetAsync("/api/floor").Json())
            .GetProperty("contentions")
            .EnumerateArray()
            .ShouldHaveSingleItem();
        (asked.GetProperty("first").GetGuid(), asked.GetProperty("second").GetGuid()).ShouldBe((_first.Id, _second.Id));
        asked.GetProperty("secondGains").GetDecimal().ShouldBe(2);
        asked.GetProperty("firstLoses").GetDecimal().ShouldBe(1);
        await _shop
            .Manager.PostAsJsonAsync(
                "/api/plan/contentions/answer",
                new
                {
                    id = Guid.CreateVersion7(),
                    first = _second.Id,
                    second = _first.Id,
                    turned = true,
                }
            )
            .Refused("first");
        (
            await _shop.Manager.PostAsJsonAsync(
                "/api/plan/contentions/answer",
                new
                {
                    id = Guid.CreateVersion7(),
                    first = _first.Id,
                    second = _second.Id,
                    turned = true,
                }
            )
        ).EnsureSuccessStatusCode();
        (await Likely(_second)).ShouldBe("2026-03-02");
        (await Likely(_first)).ShouldBe("2026-03-04");
        (await _shop.Manager.GetAsync("/api/floor").Json()).GetProperty("contentions").GetArrayLength().ShouldBe(0);
    }

    [Fact]
    public async Task In_an_accepted_order_who_goes_first_is_asked_too_and_can_be_undone()
    {
        await using (var scope = _shop.Scope())
        {
            var db = scope.ServiceProvider.GetRequiredService<Store.ShopDb>();
            db.Turns.Add(
                new()
                {
                    Id = Guid.CreateVersion7(),
                    Turns = new() { [_firstWork.ToString()] = 0, [_secondWork.ToString()] = 1 },
                    AcceptedBy = "Manager",
                    LateBefore = 0,
                    LateAfter = 0,
                    RecordedAt = _shop.Clock.GetUtcNow().ToInstant(),
                    RecordedBy = Guid.Empty,
                }
            );
            await db.SaveChangesAsync(TestContext.Current.CancellationToken);
        }

        (
            await _shop.Manager.PostAsJsonAsync(
                "/api/plan/contentions/answer",
                new
                {
                    id = Guid.CreateVersion7(),
                    first = _first.Id,
                    second = _second.Id,
                    turned = true,
                }
            )
        ).EnsureSuccessStatusCode();
        (await Likely(_second)).ShouldBe("2026-03-02");
        (await Likely(_first)).ShouldBe("2026-03-04");
        (await _shop.Manager.PostAsJsonAsync("/api/plan/turns/undo", new { })).EnsureSuccessStatusCode();
        (await Likely(_second)).ShouldBe("2026-03-04");
        (await _shop.Manager.PostAsJsonAsync("/api/plan/turns/undo", new { })).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task What_is_accepted_becomes_the_baseline_and_progress_is_held_against_it()
    {
        var paper = Guid.CreateVersion7();
        await _shop.Office.PostAsJsonAsync($"/api/builds/{_first.Id}/estimates", new { id = paper }).Json();
        await _shop.SendPaper(paper, "byHand").Json();
        (await _shop.Office.GetAsync($"/api/papers/{paper}/page").Json())
            .GetProperty("inTenBy")
            .GetString()
            .ShouldNotBeNull();
        (await _shop.Office.GetAsync($"/api/builds/{_first.Id}/outlook").Json())
            .GetProperty("against")
            .ValueKind.ShouldBe(JsonValueKind.Null);
        await _shop
            .Office.PostAsJsonAsync(
                $"/api/papers/{paper}/answer",
                new
                {
                    yes = true,
                    name = "Petra Client",
                    choices = Array.Empty<string>(),
                    note = "signed",
                }
            )
            .Json();

        // Planned for Monday and Tuesday; by Tuesday 08:00 a day of the thirty-two and a half hours on the clock has
        // gone.
        _shop.At(new LocalDate(2026, 3, 3), 16, 30);
        var against = (await _shop.Office.GetAsync($"/api/builds/{_first.Id}/outlook").Json()).GetProperty("against");
        against.GetProperty("finish").GetString().ShouldBe("2026-03-03");
        var stage = against.GetProperty("stages").EnumerateArray().ShouldHaveSingleItem();
        (
            stage.GetProperty("budget").GetDecimal(),
            stage.GetProperty("planned").GetDecimal(),
            stage.GetProperty("earned").GetDecimal()
        ).ShouldBe((16, 16, 0));
        (await _shop.Technician.GetAsync($"/api/builds/{_first.Id}/outlook").Json())
            .GetProperty("against")
            .ValueKind.ShouldBe(JsonValueKind.Null);
    }

    [Fact]
    public async Task Planning_again_from_a_template_shows_first_and_keeps_what_is_done()
    {
        var body = new
        {
            template = "small-work",
            scale = 2,
            choices = new { },
            anew = false,
        };
        var build = await TestBuild.Open(_shop, priority: 3);
        var look = await build.Operation("Look over");
        await build.Hours(look, "2026-03-02T06:00:00Z", "2026-03-02T07:00:00Z");
        await _shop.Technician.PostAsJsonAsync($"/api/operations/{look}/done", new { }).Json();
        var extra = await build.Add(TestBuild.Work("Extra", 30));
        var before = (await build.Operations()).ToDictionary(
            o => o.GetProperty("id").GetGuid(),
            o => o.GetProperty("budgetMinutes").GetInt32()
        );
        var shown = await _shop
            .Manager.PostAsJsonAsync(
                "/api/ways/look",
                new
                {
                    buildId = build.Id,
                    @new = (object?)null,
                    body.template,
                    body.scale,
                    body.choices,
                    body.anew,
                }
            )
            .Json();
        shown
            .GetProperty("changes")
            .GetProperty("kept")
            .EnumerateArray()
            .Select(k => k.GetString())
            .ShouldBe(["Look over, road test", "Extra"]);
        (await build.Operations())
            .ToDictionary(o => o.GetProperty("id").GetGuid(), o => o.GetProperty("budgetMinutes").GetInt32())
            .ShouldBe(before);

        (await _shop.Manager.PostAsJsonAsync($"/api/builds/{build.Id}/from-template", body)).StatusCode.ShouldBe(
            HttpStatusCode.NoContent
        );
        var after = (await build.Operations()).ToDictionary(o => o.GetProperty("id").GetGuid());
        after.Keys.ShouldBe(before.Keys, ignoreOrder: true);
        after[look].GetProperty("doneAt").ValueKind.ShouldBe(JsonValueKind.String);
        after[look].GetProperty("budgetMinutes").GetInt32().ShouldBe(before[look]);
        after[extra].GetProperty("budgetMinutes").GetInt32().ShouldBe(30);
        after
            .Where(o => o.Key != look && o.Key != extra)
            .ShouldAllBe(o => o.Value.GetProperty("budgetMinutes").GetInt32() == 2 * before[o.Key]);
    }

    [Fact]
    public async Task A_part_that_must_be_measured_for_is_ordered_after_that()
    {
        var measure = await _second.Add(TestBuild.Work("Trial fit", 60));
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{_second.Id}/parts/{Guid.CreateVersion7()}",
                new
                {
                    name = "Rear spring",
                    quantity = 1,
                    unitCost = 40m,
                    unitPrice = (decimal?)null,
                    supplierId = (Guid?)null,
                    clientSupplied = false,
                    operationId = _secondWork,
                    version = (uint?)null,
                    measuredBy = measure,
                }
            )
            .Json();
        var shown = (await _second.Operations()).Single(o => o.GetProperty("id").GetGuid() == _secondWork);
        shown.GetProperty("reason").GetProperty("kind").GetString().ShouldBe("measurement");
        var chain = (await _shop.Technician.GetAsync($"/api/operations/{_secondWork}/why").Json())
            .GetProperty("rows")
            .EnumerateArray()
            .Select(r => r.GetProperty("name").GetString())
            .ToList();
        chain.Take(3).ShouldBe(["Waiting job", "Rear spring: ordered once Trial fit has measured", "Trial fit"]);
    }
}

using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using NodaTime;

namespace FirstCoat.Server.Tests.Plan;

/// <summary>Dates, reasons and the ranking move with what is recorded.</summary>
public sealed class PlanTests : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private readonly ShopFixture _shop;
    private TestBuild _first = null!;
    private TestBuild _second = null!;
    private Guid _firstWork;
    private Guid _secondWork;

    public PlanTests(ShopFixture shop) => _shop = shop;

    public async ValueTask InitializeAsync()
    {
        _shop.At(new LocalDate(2026, 3, 2), 8, 0);
        (_first, _second) = await TestBuild.OpenPair(_shop);
        // One person does it all: eight hours on the first, then eight on the second.
        _firstWork = await _first.Add(TestBuild.Work("Long job", 480));
        _secondWork = await _second.Add(TestBuild.Work("Waiting job", 480));
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private static string Text(JsonElement card, string name) => card.GetProperty(name).GetString()!;

    [Fact]
    public async Task Hours_added_to_one_build_move_another_builds_date_and_its_reason()
    {
        Text(await _first.Card(), "planned").ShouldBe("2026-03-02");
        var waiting = await _second.Card();
        Text(waiting, "planned").ShouldBe("2026-03-03");
        Text(waiting, "holdsKind").ShouldBe("person");
        await _shop
            .Manager.PutAsJsonAsync($"/api/builds/{_first.Id}/operations/{_firstWork}", TestBuild.Work("Long job", 960))
            .Json();
        Text(await _first.Card(), "planned").ShouldBe("2026-03-03");
        Text(await _second.Card(), "planned").ShouldBe("2026-03-04");
    }

    [Fact]
    public async Task A_decision_costs_the_days_between_two_plans_and_is_gone_when_it_is_taken()
    {
        var decision = Guid.CreateVersion7();
        await _shop
            .Manager.PostAsJsonAsync(
                $"/api/builds/{_second.Id}/decisions",
                new
                {
                    id = decision,
                    question = "Chrome or paint?",
                    detail = "",
                    @for = "manager",
                    options = new[] { "Chrome", "Paint" },
                    holds = new[] { _secondWork },
                    dueOn = "2026-03-05",
                    adds = (decimal?)null,
                    photoId = (Guid?)null,
                }
            )
            .Json();
        // Held until Friday the 6th 08:00, done at 16:30; taken now it is done on Tuesday the 3rd at 16:30: three days.
        var floor = await _shop.Manager.GetAsync("/api/floor").Json();
        var row = floor.GetProperty("decisions")[0];
        row.GetProperty("days").GetDecimal().ShouldBe(3);
        floor.GetProperty("daysWaiting").GetDecimal().ShouldBe(3);
        Text(await _second.Card(), "holdsKind").ShouldBe("decision");

        await _shop
            .Manager.PutAsJsonAsync($"/api/builds/{_first.Id}/operations/{_firstWork}", TestBuild.Work("Long job", 960))
            .Json();
        (await _shop.Manager.GetAsync("/api/floor").Json())
            .GetProperty("decisions")[0]
            .GetProperty("days")
            .GetDecimal()
            .ShouldBe(2);

        await _shop.Office.PostAsJsonAsync($"/api/decisions/{decision}/answer", new { answer = "Paint" }).Json();
        (await _shop.Manager.GetAsync("/api/floor").Json()).GetProperty("decisions").GetArrayLength().ShouldBe(0);
        await _shop
            .Manager.PostAsJsonAsync($"/api/decisions/{decision}/answer", new { answer = "Chrome" })
            .Refused("answer");
    }

    [Fact]
    public async Task A_vehicle_moves_next_where_its_work_is_planned_and_a_clients_question_says_whom_to_call()
    {
        var (bay, booth) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        foreach (var (id, kind, x) in new[] { (bay, "bay", 0), (booth, "booth", 7000) })
        {
            await _shop
                .Manager.PutAsJsonAsync(
                    $"/api/shop/stations/{id}",
                    new
                    {
                        name = $"A {kind} {id:N}"[..20],
                        kind,
                        count = 1,
                        xMm = x,
                        yMm = 0,
                        widthMm = 6000,
                        depthMm = 4000,
                        doorHeightMm = (int?)null,
                        walled = false,
                        version = (uint?)null,
                    }
                )
                .Json();
        }

        await _shop
            .Manager.PutAsJsonAsync($"/api/builds/{_first.Id}/place", new { stationId = bay, awayAt = "" })
            .Json();
        (await _first.Card())
            .GetProperty("move")
            .ValueKind.ShouldBe(JsonValueKind.Null, "its work names no other place");
        JsonObject At(string name, string station, Guid after)
        {
            var work = JsonSerializer
                .SerializeToNode(TestBuild.Work(name, 60, after: [new { operation = after, lagMinutes = 0 }]))!
                .AsObject();
            work["station"] = station;
            return work;
        }

        // Eight hours today, then an hour at the bench, which a vehicle does not go to, then the booth tomorrow.
        var bench = await _first.Add(At("Bench work", "bench", _firstWork));
        await _first.Add(At("Colour", "booth", bench));
        var move = (await _first.Card()).GetProperty("move");
        Text(move, "to").ShouldBe("booth");
        Text(move, "on").ShouldBe("2026-03-03");

        await _shop
            .Manager.PostAsJsonAsync(
                $"/api/builds/{_first.Id}/decisions",
                new
                {
                    id = Guid.CreateVersion7(),
                    question = "Which blue?",
                    detail = "",
                    @for = "client",
                    options = Array.Empty<string>(),
                    holds = Array.Empty<Guid>(),
                    dueOn = "2026-03-05",
                    adds = (decimal?)null,
                    photoId = (Guid?)null,
                }
            )
            .Json();
        var floor = await _shop.Manager.GetAsync("/api/floor").Json();
        Text(floor.GetProperty("decisions")[0].GetProperty("call"), "name").ShouldBe("Petra Client");
    }

    [Fact]
    public async Task A_cycle_is_refused_with_its_operations_named()
    {
        var after = await _first.Add(
            TestBuild.Work("Second job", after: [new { operation = _firstWork, lagMinutes = 0 }])
        );
        var problem = await _shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{_first.Id}/operations/{_firstWork}",
                TestBuild.Work("Long job", 480, after: [new { operation = after, lagMinutes = 0 }])
            )
            .Refused("after");
        problem.GetProperty("detail").GetString()!.ShouldContain("Long job");
        problem.GetProperty("detail").GetString()!.ShouldContain("Second job");
    }

    [Fact]
    public async Task A_part_that_comes_later_holds_its_operation()
    {
        var supplier = Guid.CreateVersion7();
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/suppliers/{supplier}",
                new
                {
                    name = "Later Ltd",
                    what = "",
                    freightDays = Array.Empty<string>(),
                    version = (uint?)null,
                }
            )
            .Json();
        var part = Guid.CreateVersion7();
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{_first.Id}/parts/{part}",
                new
                {
                    name = "Hinge pins",
                    quantity = 1,
                    unitCost = 5,
                    unitPrice = (decimal?)null,
                    supplierId = supplier,
                    clientSupplied = false,
                    operationId = _firstWork,
                    version = (uint?)null,
                }
            )
            .Json();
        await _shop
            .Manager.PostAsJsonAsync(
                $"/api/parts/{part}/move",
                new
                {
                    to = "ordered",
                    on = "2026-03-02",
                    version = (uint?)null,
                }
            )
            .Json();
        await _shop
            .Manager.PostAsJsonAsync(
                $"/api/parts/{part}/move",
                new
                {
                    to = "expected",
                    on = "2026-03-11",
                    version = (uint?)null,
                }
            )
            .Json();
        var card = await _first.Card();
        Text(card, "planned").ShouldBe("2026-03-11");
        Text(card, "holds").ShouldContain("Hinge pins");
    }

    [Fact]
    public async Task What_was_finished_sets_the_term_for_what_follows_and_a_missed_one_brings_its_work()
    {
        var coat = await _second.Add(
            TestBuild.Work(
                "Coat",
                60,
                after:
                [
                    new
                    {
                        operation = _secondWork,
                        lagMinutes = 0,
                        atMostMinutes = 1440,
                        lapse = new
                        {
                            name = "Clean again",
                            minutes = 60,
                            trade = "mechanic",
                        },
                    },
                ]
            )
        );
        await _shop.Manager.PostAsync($"/api/operations/{_secondWork}/done", null).Json();
        async Task<JsonElement> Shown() =>
            (await _second.Operations()).Single(o => o.GetProperty("id").GetGuid() == coat);
        async Task<List<string>> Inserted() =>
            [
                .. (await _shop.Manager.GetAsync($"/api/builds/{_second.Id}/outlook").Json())
                    .GetProperty("inserted")
                    .EnumerateArray()
                    .Select(i => Text(i, "name")),
            ];
        // Done on Monday the 2nd at 08:00: it goes before the other build's long job, and has until Tuesday.
        var planned = await Shown();
        var now = Instant.FromDateTimeOffset(
            DateTimeOffset.Parse(Text(planned, "starts"), System.Globalization.CultureInfo.InvariantCulture)
        );
        Text(planned, "startBy").ShouldBe((now + Duration.FromDays(1)).ToString());
        (await Inserted()).ShouldBeEmpty();
        // The one who does it is away until Wednesday evening.
        await Away(
            new
            {
                from = "2026-03-02T00:00:00",
                to = "2026-03-05T00:00:00",
                reason = "course",
            }
        );
        try
        {
            (await Inserted()).ShouldBe(["Clean again"]);
            // There is no hurry any more: the long job has the Thursday, then an hour of cleaning on Friday.
            Text(await Shown(), "starts").ShouldBe("2026-03-06T09:00:00Z");
        }
        finally
        {
            await Away();
        }

        Task Away(params object[] absences) =>
            _shop
                .Manager.PutAsJsonAsync($"/api/shop/people/{_shop.TechnicianPerson}/absences", new { absences })
                .Json();
    }

    [Fact]
    public async Task What_holds_an_operation_is_said_with_its_date()
    {
        var supplier = Guid.CreateVersion7();
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/suppliers/{supplier}",
                new
                {
                    name = "Slow Castings",
                    what = "",
                    freightDays = Array.Empty<string>(),
                    version = (uint?)null,
                }
            )
            .Json();
        var part = Guid.CreateVersion7();
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{_first.Id}/parts/{part}",
                new
                {
                    name = "Drum",
                    quantity = 1,
                    unitCost = 5,
                    unitPrice = (decimal?)null,
                    supplierId = supplier,
                    clientSupplied = false,
                    operationId = _firstWork,
                    version = (uint?)null,
                }
            )
            .Json();
        await _shop
            .Manager.PostAsJsonAsync(
                $"/api/parts/{part}/move",
                new
                {
                    to = "ordered",
                    on = "2026-03-02",
                    version = (uint?)null,
                }
            )
            .Json();
        await _shop
            .Manager.PostAsJsonAsync(
                $"/api/parts/{part}/move",
                new
                {
                    to = "expected",
                    on = "2026-03-03",
                    version = (uint?)null,
                }
            )
            .Json();

        // The first build's job waits for its part, so the second's is done today; what follows it then waits for the
        // one who does both.
        var after = await _second.Add(
            TestBuild.Work("And then", 480, after: [new { operation = _secondWork, lagMinutes = 0 }])
        );
        async Task<(string[] Roots, (string? Name, string? Kind)[] Rows)> Why(Guid id)
        {
            var why = await _shop.Technician.GetAsync($"/api/operations/{id}/why").Json();
            return (
                [.. why.GetProperty("roots").EnumerateArray().Select(r => r.GetString()!)],
                [
                    .. why.GetProperty("rows")
                        .EnumerateArray()
                        .Select(r => (r.GetProperty("name").GetString(), r.GetProperty("kind").GetString())),
                ]
            );
        }

        (await Why(after)).Rows.ShouldBe([("And then", "person")]);
        (await Why(after)).Roots.ShouldHaveSingleItem().ShouldContain(" is on ");
        var job = await Why(_firstWork);
        job.Roots[0].ShouldBe("Drum, here Tue 3 Mar");
        job.Rows.ShouldBe([("Long job", "part")]);
    }

    [Fact]
    public async Task A_logged_hour_moves_the_plan_at_once()
    {
        Text(await _second.Card(), "planned").ShouldBe("2026-03-03");
        await _shop.Technician.StartClock(_firstWork).Json();
        _shop.At(new LocalDate(2026, 3, 2), 12, 0);
        await _shop.Technician.StopClock(share: 0.9m, done: true).Json();
        Text(await _second.Card(), "holdsKind").ShouldNotBe("person");
    }

    [Fact]
    public async Task Changes_at_the_same_moment_all_reach_the_plan()
    {
        await Task.WhenAll(Enumerable.Range(0, 6).Select(i => _second.Add(TestBuild.Work($"Job {i}", 480))));
        // Eight hours on the first and seven times eight on the second: the eighth working day from Monday the 2nd.
        Text(await _second.Card(), "planned").ShouldBe("2026-03-11");
    }

    [Fact]
    public async Task Chances_lie_in_order_and_a_night_is_kept_once()
    {
        var chance = (await _shop.Technician.GetAsync("/api/plan/chances").Json())
            .EnumerateArray()
            .Single(c => c.GetProperty("id").GetGuid() == _second.Id);
        string[] days = [Text(chance, "p50"), Text(chance, "p80"), Text(chance, "p90")];
        days.ShouldBe(days.Order());
        days[1].ShouldNotBe(days[0], "a trade without records is not sure of anything");
        chance.GetProperty("kept").GetDecimal().ShouldBeGreaterThan(0.9m, "it is promised for June");
        chance
            .GetProperty("risks")
            .EnumerateArray()
            .Select(r => r.GetProperty("operationId").GetGuid())
            .ShouldContain(_secondWork);

        await using var scope = _shop.Scope();
        var desk = scope.ServiceProvider.GetRequiredService<FirstCoat.Store.Plan.PlanDesk>();
        (await desk.KeepNight(CancellationToken.None)).ShouldBeTrue();
        (await desk.KeepNight(CancellationToken.None)).ShouldBeFalse();
        var night = (await _shop.Manager.GetAsync($"/api/builds/{_second.Id}/outlook").Json())
            .GetProperty("nights")
            .EnumerateArray()
            .ShouldHaveSingleItem();
        Text(night, "on").ShouldBe("2026-03-02");
        Text(night, "p80").ShouldBe(days[1]);
        Text(night, "holdsKind").ShouldBe("person");
    }

    [Fact]
    public async Task A_better_order_is_offered_accepted_and_undone_and_a_cancelled_search_leaves_nothing()
    {
        // The first build has eight hours and is promised for later; the second has one hour and is late if it goes
        // second.
        await Promise(_first, "2026-03-10");
        await Promise(_second, "2026-03-02");
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{_second.Id}/operations/{_secondWork}",
                TestBuild.Work("Waiting job", 60)
            )
            .Json();
        Text(await _second.Card(), "planned").ShouldBe("2026-03-03");

        var dropped = Guid.CreateVersion7();
        await _shop.Manager.PostAsJsonAsync("/api/plan/improvement", new { id = dropped, seconds = 60 }).Json();
        (
            await _shop.Manager.PostAsJsonAsync(
                "/api/plan/improvement",
                new { id = Guid.CreateVersion7(), seconds = 60 }
            )
        ).StatusCode.ShouldBe(System.Net.HttpStatusCode.BadRequest);
        (await _shop.Manager.DeleteAsync("/api/plan/improvement")).EnsureSuccessStatusCode();
        (await _shop.Manager.GetAsync("/api/plan/improvement").Json())
            .GetProperty("id")
            .ValueKind.ShouldBe(JsonValueKind.Null);
        await _shop
            .Manager.PostAsJsonAsync($"/api/plan/improvement/{dropped}/accept", new { builds = (Guid[]?)null })
            .Refused("id");
        Text(await _second.Card(), "planned").ShouldBe("2026-03-03");

        var id = Guid.CreateVersion7();
        await _shop.Manager.PostAsJsonAsync("/api/plan/improvement", new { id, seconds = 1 }).Json();
        var offer = await Offered();
        offer.GetProperty("before").GetDecimal().ShouldBeGreaterThan(offer.GetProperty("best").GetDecimal());
        offer.GetProperty("least").GetDecimal().ShouldBeLessThanOrEqualTo(offer.GetProperty("best").GetDecimal());
        offer.GetProperty("moves").EnumerateArray().ShouldContain(m => m.GetProperty("days").GetDecimal() < 0);
        // For the first build only: the second keeps its turn, which is the first; what comes of it is shown before it
        // counts.
        Task<HttpResponseMessage> Choose(params Guid[] builds) =>
            _shop.Manager.PostAsJsonAsync($"/api/plan/improvement/{id}/choose", new { builds });
        Task<HttpResponseMessage> Accept(Guid[]? builds) =>
            _shop.Manager.PostAsJsonAsync($"/api/plan/improvement/{id}/accept", new { builds });
        await Choose().Refused("builds");
        await Choose(Guid.CreateVersion7()).Refused("builds");
        await Accept([_second.Id]).Refused("builds");
        (await Choose(_second.Id)).EnsureSuccessStatusCode();
        var some = await Offered();
        some.GetProperty("chosen").EnumerateArray().ShouldHaveSingleItem().GetGuid().ShouldBe(_second.Id);
        some.GetProperty("moves")
            .EnumerateArray()
            .ShouldContain(m =>
                m.GetProperty("buildId").GetGuid() == _second.Id && m.GetProperty("days").GetDecimal() < 0
            );
        Text(await _second.Card(), "planned").ShouldBe("2026-03-03");
        // Who still looks at the offer for all does not take another one by accident.
        await Accept(null).Refused("builds");
        (await Accept([_second.Id])).EnsureSuccessStatusCode();
        Text(await _second.Card(), "planned").ShouldBe("2026-03-02");
        await Choose(_second.Id).Refused("id");

        (await _shop.Manager.PostAsJsonAsync("/api/plan/turns/undo", new { })).EnsureSuccessStatusCode();
        Text(await _second.Card(), "planned").ShouldBe("2026-03-03");
        await _shop.Manager.PostAsJsonAsync("/api/plan/turns/undo", new { }).Refused("id");
    }

    [Fact]
    public async Task The_present_problem_is_exported_and_plans_the_same_without_the_database()
    {
        var text = await (await _shop.Manager.GetAsync("/api/plan/problem")).Content.ReadAsStringAsync();
        var plan = new FirstCoat.Core.Plan.Planner().Plan(
            FirstCoat.Core.Plan.Files.ShopFileReader.Read(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(text)))
        );
        var shown = (await _second.Operations()).Single(o => o.GetProperty("id").GetGuid() == _secondWork);
        Instant
            .FromUnixTimeSeconds(plan.Operations[_secondWork.ToString()].Start * 60)
            .ToString()
            .ShouldBe(shown.GetProperty("starts").GetString());
    }

    private async Task Promise(TestBuild build, string promised)
    {
        var now = (await _shop.Manager.GetAsync($"/api/builds/{build.Id}").Json());
        var body = JsonNode.Parse(now.GetRawText())!.AsObject();
        var brief = new
        {
            grade = body["grade"],
            originality = body["originality"],
            promised,
            budget = body["budget"],
            milestones = body["milestones"],
        };
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{build.Id}",
                new
                {
                    vehicle = body["vehicle"],
                    brief,
                    contract = body["contract"],
                    estimate = body["estimate"],
                    priority = body["priority"],
                    fillIn = body["fillIn"],
                    version = body["version"],
                }
            )
            .Json();
    }

    private async Task<JsonElement> Offered()
    {
        for (var i = 0; i < 600; i++)
        {
            var view = await _shop.Manager.GetAsync("/api/plan/improvement").Json();
            if (view.GetProperty("moves").ValueKind == JsonValueKind.Array)
            {
                return view;
            }

            await Task.Delay(100);
        }

        throw new TimeoutException("Nothing was offered.");
    }
}

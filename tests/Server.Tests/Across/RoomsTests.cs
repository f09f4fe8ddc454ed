using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.AspNetCore.SignalR.Client;
using NodaTime;
using Npgsql;

namespace FirstCoat.Server.Tests.Across;

/// <summary>What each role can do in the rooms, what is refused with its field, and that changes are told and
/// kept.</summary>
public sealed class RoomsTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private async Task<Guid> Station(string name, int count = 1)
    {
        var id = Guid.CreateVersion7();
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/stations/{id}",
                new
                {
                    name,
                    kind = "bay",
                    count,
                    xMm = 0,
                    yMm = 0,
                    widthMm = 6000,
                    depthMm = 4000,
                    doorHeightMm = (int?)null,
                    walled = false,
                    version = (uint?)null,
                }
            )
            .Json();
        return id;
    }

    private async Task<Guid> Supplier()
    {
        var id = Guid.CreateVersion7();
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/suppliers/{id}",
                new
                {
                    name = "Far Shore",
                    what = "",
                    freightDays = new[] { "tuesday" },
                    version = (uint?)null,
                }
            )
            .Json();
        return id;
    }

    [Fact]
    public async Task A_returning_vehicle_opens_with_what_was_known_of_it()
    {
        var first = await TestBuild.Open(shop);
        await shop
            .Office.PutAsJsonAsync($"/api/builds/{first.Id}/survey/history", new { history = new[] { "saltAir" } })
            .Json();
        Dictionary<string, object?> Again(Guid id) =>
            JsonSerializer
                .Deserialize<Dictionary<string, object?>>(JsonSerializer.Serialize(TestBuild.OpenBody(id)))!
                .Append(new("returnOf", first.Id))
                .ToDictionary();
        await shop.Manager.PostAsJsonAsync("/api/builds", Again(Guid.CreateVersion7())).Refused("returnOf");
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{first.Id}/status",
                new
                {
                    status = "closed",
                    leftAt = "",
                    firstMove = "",
                }
            )
            .Json();
        var known = (await shop.Office.GetAsync("/api/builds/ended").Json())
            .EnumerateArray()
            .Single(b => b.GetProperty("id").GetGuid() == first.Id);
        known.GetProperty("vehicle").GetProperty("colourHex").GetString().ShouldBe("#33557A");
        var second = Guid.CreateVersion7();
        await shop.Manager.PostAsJsonAsync("/api/builds", Again(second)).Json();
        (await shop.Manager.GetAsync($"/api/builds/{second}/survey").Json())
            .GetProperty("history")[0]
            .GetString()
            .ShouldBe("saltAir");
        await shop.Technician.GetAsync("/api/builds/ended").Json(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task A_number_is_never_used_again_and_a_taken_station_takes_no_second_build()
    {
        var bay = await Station("Bay one");
        var (first, second) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await shop.Manager.PostAsJsonAsync("/api/builds", TestBuild.OpenBody(first, number: 70)).Json();
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{first}/status",
                new
                {
                    status = "closed",
                    leftAt = "",
                    firstMove = "",
                }
            )
            .Json();
        await shop.Manager.PostAsJsonAsync("/api/builds", TestBuild.OpenBody(second, number: 70)).Refused("number");
        var (a, b) = (await TestBuild.Open(shop), await TestBuild.Open(shop));
        await shop.Office.PutAsJsonAsync($"/api/builds/{a.Id}/place", new { stationId = bay, awayAt = "" }).Json();
        (
            await shop
                .Office.PutAsJsonAsync($"/api/builds/{b.Id}/place", new { stationId = bay, awayAt = "" })
                .Refused("stationId")
        )
            .GetProperty("detail")
            .GetString()
            .ShouldBe("Bay one is taken.");
        await shop
            .Office.PutAsJsonAsync($"/api/builds/{b.Id}/place", new { stationId = (Guid?)null, awayAt = "" })
            .Refused("awayAt");
    }

    [Fact]
    public async Task A_build_pauses_with_its_first_move_and_leaves_the_plan()
    {
        var build = await TestBuild.Open(shop);
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{build.Id}/status",
                new
                {
                    status = "paused",
                    leftAt = "sills tacked",
                    firstMove = "",
                }
            )
            .Refused("firstMove");
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{build.Id}/status",
                new
                {
                    status = "paused",
                    leftAt = "sills tacked",
                    firstMove = "weld out",
                }
            )
            .Json();
        var card = await build.Card();
        card.GetProperty("status").GetString().ShouldBe("paused");
        card.GetProperty("likely").ValueKind.ShouldBe(JsonValueKind.Null);
        card.GetProperty("holds").GetString().ShouldBe("paused: sills tacked");
        var operation = await build.Operation("Look over");
        await shop.Technician.StartClock(operation).Refused("operationId");
    }

    [Fact]
    public async Task A_technician_says_what_is_needed_and_the_desk_sets_the_price()
    {
        var (build, supplier) = (await TestBuild.Open(shop), await Supplier());
        var part = Guid.CreateVersion7();
        object Body(decimal cost) =>
            new
            {
                name = "Hinge pin",
                quantity = 2,
                unitCost = cost,
                unitPrice = (decimal?)null,
                supplierId = (Guid?)supplier,
                clientSupplied = false,
                operationId = (Guid?)null,
                version = (uint?)null,
            };
        await shop.Technician.PutAsJsonAsync($"/api/builds/{build.Id}/parts/{part}", Body(99)).Json();
        async Task<JsonElement> Seen(HttpClient who) =>
            (await who.GetAsync($"/api/builds/{build.Id}/parts").Json()).GetProperty("parts")[0];
        (await Seen(shop.Office)).GetProperty("unitCost").GetDecimal().ShouldBe(0, "a technician sets no price");
        await shop.Office.PutAsJsonAsync($"/api/builds/{build.Id}/parts/{part}", Body(4.5m)).Json();
        (await Seen(shop.Office)).GetProperty("unitCost").GetDecimal().ShouldBe(4.5m);
        (await Seen(shop.Technician)).GetProperty("unitCost").ValueKind.ShouldBe(JsonValueKind.Null, "nor sees one");
        await shop.Technician.PutAsJsonAsync($"/api/builds/{build.Id}/parts/{part}", Body(1)).Refused("id");
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/parts/{part}/move",
                new
                {
                    to = "ordered",
                    on = "2026-03-02",
                    version = (uint?)null,
                }
            )
            .Refused("state");
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/parts/{part}/move",
                new
                {
                    to = "received",
                    on = "2026-03-02",
                    version = (uint?)null,
                }
            )
            .Json();
        var other = await TestBuild.Open(shop);
        await shop.Office.PutAsJsonAsync($"/api/builds/{other.Id}/parts/{part}", Body(1)).Refused("id");
    }

    [Fact]
    public async Task Rates_are_the_managers_and_the_office_sees_what_is_billed_only()
    {
        async Task<JsonElement> Rate(HttpClient who) =>
            (await who.GetAsync("/api/shop").Json())
                .GetProperty("people")
                .EnumerateArray()
                .Single(p => p.GetProperty("id").GetGuid() == shop.TechnicianPerson)
                .GetProperty("rates");
        (await Rate(shop.Manager))[0].GetProperty("cost").GetDecimal().ShouldBe(25);
        (await Rate(shop.Office))[0].GetProperty("cost").ValueKind.ShouldBe(JsonValueKind.Null);
        (await Rate(shop.Office))[0].GetProperty("billing").GetDecimal().ShouldBe(60);
        (await Rate(shop.Technician)).ValueKind.ShouldBe(JsonValueKind.Null);
    }

    [Fact]
    public async Task Panels_change_by_finished_work_and_by_hand_with_a_name()
    {
        var build = await TestBuild.Open(shop);
        var spray = await build.Add(TestBuild.Work("Epoxy on the bonnet", coat: "epoxy", panels: ["bonnet"]));
        async Task<JsonElement> Panel(string key) =>
            (await shop.Technician.GetAsync($"/api/builds/{build.Id}/body").Json())
                .GetProperty("panels")
                .EnumerateArray()
                .Single(p => p.GetProperty("panel").GetString() == key);
        (await Panel("bonnet")).GetProperty("coat").GetString().ShouldBe("asFound");
        await shop.Technician.PostAsync($"/api/operations/{spray}/done", null).Json();
        (await Panel("bonnet")).GetProperty("coat").GetString().ShouldBe("epoxy");
        object Event(string panel, string? zone, string fact, string? coat, string? held = null, string note = "") =>
            new
            {
                id = Guid.CreateVersion7(),
                panel,
                zone,
                fact,
                coat,
                held,
                note,
            };
        var address = $"/api/builds/{build.Id}/panel-events";
        await shop.Technician.PostAsJsonAsync(address, Event("bonnet", "front", "coat", "filler")).Json();
        (await Panel("bonnet")).GetProperty("zones")[0].GetProperty("coat").GetString().ShouldBe("filler");
        await shop
            .Technician.PostAsJsonAsync(address, Event("doorL", null, "temporaryMetalIn", null, note: "brace"))
            .Json();
        (await Panel("doorL")).GetProperty("temporaryMetal")[0].GetString().ShouldBe("brace");
        await shop.Technician.PostAsJsonAsync(address, Event("fin", null, "coat", "filler")).Refused("panel");
        await shop.Technician.PostAsJsonAsync(address, Event("bonnet", "moon", "coat", "filler")).Refused("zone");
        await shop.Technician.PostAsJsonAsync(address, Event("bonnet", null, "coat", null)).Refused("coat");
        await shop.Technician.PostAsJsonAsync(address, Event("bonnet", null, "held", null)).Refused("held");
        await shop.Technician.PostAsJsonAsync(address, Event("bonnet", null, "temporaryMetalIn", null)).Refused("note");
    }

    [Fact]
    public async Task An_operation_with_hours_stays_and_one_without_is_taken_out_with_its_links_joined()
    {
        var build = await TestBuild.Open(shop);
        var a = await build.Add(TestBuild.Work("a"));
        var b = await build.Add(TestBuild.Work("b", after: [new { operation = a, lagMinutes = 0 }]));
        var c = await build.Add(TestBuild.Work("c", after: [new { operation = b, lagMinutes = 0 }]));
        await build.Hours(a, "2026-01-05T09:00:00Z", "2026-01-05T10:00:00Z");
        await shop.Manager.DeleteAsync($"/api/operations/{a}").Refused("id");
        await shop.Manager.DeleteAsync($"/api/operations/{b}").Json();
        var left = await build.Operations();
        left.ShouldNotContain(o => o.GetProperty("id").GetGuid() == b);
        left.Single(o => o.GetProperty("id").GetGuid() == c)
            .GetProperty("after")[0]
            .GetProperty("operation")
            .GetGuid()
            .ShouldBe(a);
        await shop
            .Manager.PutAsJsonAsync($"/api/builds/{build.Id}/operations/{c}", TestBuild.Work("c", panels: ["fin"]))
            .Refused("panels");
        await shop
            .Manager.PutAsJsonAsync($"/api/builds/{build.Id}/operations/{c}", TestBuild.Work("", 60))
            .Refused("name");
    }

    [Fact]
    public async Task Every_change_is_audited_and_the_trail_cannot_be_altered()
    {
        var id = await Supplier();
        await using var scope = shop.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<Store.ShopDb>();
        var entry = await db.Audit.SingleAsync(a => a.Of == id);
        (entry.What, entry.Action).ShouldBe(("Supplier", "added"));
        entry.By.ShouldNotBe(Guid.Empty);
        entry.After!.ShouldContain("Far Shore");
        (
            await Should.ThrowAsync<PostgresException>(() =>
                db.Database.ExecuteSqlAsync($"update access_audit set what = 'x' where id = {entry.Id}")
            )
        ).MessageText.ShouldContain("never altered");
        await Should.ThrowAsync<PostgresException>(() =>
            db.Database.ExecuteSqlAsync($"delete from access_audit where id = {entry.Id}")
        );
    }

    [Fact]
    public async Task A_signed_in_browser_hears_of_a_change_and_a_stranger_hears_nothing()
    {
        var cookie = shop.CookieOf(shop.Office);
        await using var live = new HubConnectionBuilder()
            .WithUrl("http://localhost/live", o =>
            {
                o.HttpMessageHandlerFactory = _ => shop.Server.CreateHandler();
                o.Transports = Microsoft.AspNetCore.Http.Connections.HttpTransportType.LongPolling;
                o.Headers["Cookie"] = cookie;
            })
            .Build();
        var heard = new TaskCompletionSource<string>(TaskCreationOptions.RunContinuationsAsynchronously);
        live.On<string>("changed", what =>
        {
            if (what.StartsWith("Supplier", StringComparison.Ordinal))
            {
                heard.TrySetResult(what);
            }
        });
        await live.StartAsync();
        await Supplier();
        (await heard.Task.WaitAsync(TimeSpan.FromSeconds(60))).ShouldBe(
            "Supplier",
            "that it changed, and nothing else"
        );
        (await shop.CreateClient().PostAsync("/live/negotiate?negotiateVersion=1", null)).StatusCode.ShouldBe(
            HttpStatusCode.Unauthorized
        );
    }

    [Fact]
    public async Task A_wrong_password_is_refused_and_the_first_visit_is_over_once_there_is_an_account()
    {
        var stranger = await shop.Anonymous();
        await stranger
            .PostAsJsonAsync("/api/session", new { user = "mara", password = "not the password" })
            .Refused("password", HttpStatusCode.Unauthorized);
        await stranger
            .PostAsJsonAsync(
                "/api/first-visit",
                new
                {
                    shopName = "Mine",
                    name = "M",
                    user = "m",
                    password = "a long password",
                }
            )
            .Refused("user");
        var session = await stranger.GetAsync("/api/session").Json();
        (session.GetProperty("needsSetUp").GetBoolean(), session.GetProperty("user").ValueKind).ShouldBe(
            (false, JsonValueKind.Null)
        );
    }

    [Fact]
    public async Task The_bench_answers_one_calculation_at_a_time()
    {
        var answer = await shop
            .Technician.PostAsJsonAsync(
                "/api/bench/money.tooling",
                new
                {
                    tooling = "1201",
                    price = "95.00",
                    unitCost = "45.00",
                }
            )
            .Json();
        answer.GetProperty("out").GetProperty("sets").GetInt32().ShouldBe(25);
        (await shop.Technician.PostAsJsonAsync("/api/bench/no.such", new { }).Json())
            .GetProperty("out")
            .GetProperty("refused")
            .GetString()
            .ShouldBe("calc");
    }

    [Fact]
    public async Task A_day_that_is_closed_moves_the_plan_and_opens_again()
    {
        shop.At(new LocalDate(2026, 3, 2), 8, 0);
        var build = await TestBuild.Open(shop);
        foreach (var o in await build.Operations())
        {
            await shop.Manager.DeleteAsync($"/api/operations/{o.GetProperty("id").GetGuid()}");
        }

        await build.Add(TestBuild.Work("Long", 480));
        foreach (
            var other in (await shop.Manager.GetAsync("/api/builds").Json())
                .EnumerateArray()
                .Where(b => b.GetProperty("id").GetGuid() != build.Id)
        )
        {
            await shop
                .Manager.PutAsJsonAsync(
                    $"/api/builds/{other.GetProperty("id").GetGuid()}/status",
                    new
                    {
                        status = "closed",
                        leftAt = "",
                        firstMove = "",
                    }
                )
                .Json();
        }

        (await build.Card()).GetProperty("planned").GetString().ShouldBe("2026-03-02");
        await shop
            .Manager.PutAsJsonAsync(
                "/api/shop/closed-days/2026-03-02",
                new { id = Guid.CreateVersion7(), reason = "storm" }
            )
            .Json();
        (await build.Card()).GetProperty("planned").GetString().ShouldBe("2026-03-03");
        await shop.Manager.DeleteAsync("/api/shop/closed-days/2026-03-02").Json(HttpStatusCode.NoContent);
        (await build.Card()).GetProperty("planned").GetString().ShouldBe("2026-03-02");
    }
}

using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using NodaTime;

namespace FirstCoat.Server.Tests.Sequence;

/// <summary>
/// Every path by which work begins, takes hours, ends, leaves or changes a panel, against everything that can stand
/// against it, as each role: before work the answer is no, in words; what was done is kept, flagged, and counts for
/// nothing until the manager has settled it.
/// </summary>
public sealed class GatekeeperTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static readonly LocalDate Monday = new(2026, 3, 2);
    private const string Panel = "doorL";

    public enum Obstacle
    {
        Nothing,
        Gate,
        BatteryGate,
        Question,
        OtherSide,
        Brace,
        Danger,
        Order,
    }

    public enum Path
    {
        ClockStart,
        ClockSwitch,
        Done,
        StopAsDone,
        HoursEntered,
        HoursCorrectedOnto,
        PanelCard,
        SendOutside,
    }

    public static TheoryData<Path, Obstacle, string> Table
    {
        get
        {
            var table = new TheoryData<Path, Obstacle, string>();
            foreach (var path in Enum.GetValues<Path>())
            {
                foreach (var obstacle in Enum.GetValues<Obstacle>())
                {
                    foreach (var role in new[] { "manager", "office", "technician" }.Where(r => May(path, r)))
                    {
                        table.Add(path, obstacle, role);
                    }
                }
            }

            return table;
        }
    }

    /// <summary>Paths that a role has at all; the others are the walk's matter.</summary>
    private static bool May(Path path, string role) =>
        path switch
        {
            Path.HoursEntered => role == "manager",
            Path.HoursCorrectedOnto => role is "manager" or "technician",
            Path.SendOutside => role is "manager" or "office",
            Path.ClockStart or Path.ClockSwitch or Path.StopAsDone => role is "manager" or "technician",
            _ => true,
        };

    private HttpClient As(string role) =>
        role switch
        {
            "manager" => shop.Manager,
            "office" => shop.Office,
            _ => shop.Technician,
        };

    private static JsonNode Node(object work) => JsonSerializer.SerializeToNode(work)!;

    /// <summary>A build with one operation that hangs a door and puts a coat on it, and something that stands against
    /// it.</summary>
    private async Task<(TestBuild Build, Guid Target)> Against(Obstacle obstacle, Path path)
    {
        var build = await TestBuild.Open(shop);
        var outside = path == Path.SendOutside;
        var before = await build.Add(TestBuild.Work("Before it"));
        object[] after = [];
        if (obstacle is Obstacle.Gate or Obstacle.BatteryGate)
        {
            await shop.Manager.PostAsJsonAsync($"/api/operations/{before}/done", new { }).Json();
            after =
            [
                new
                {
                    operation = await build.Add(
                        TestBuild.Work(
                            "The check",
                            kind: "gate",
                            gate: obstacle == Obstacle.Gate ? "fitUp" : "tractionBattery",
                            after: [new { operation = before, lagMinutes = 0 }]
                        )
                    ),
                    lagMinutes = 0,
                },
            ];
        }

        if (obstacle == Obstacle.Order)
        {
            after = [new { operation = before, lagMinutes = 0 }];
        }

        var work = Node(
            TestBuild.Work(
                "The work",
                after: after,
                kind: outside ? "outside" : "work",
                panels: [Panel],
                coat: outside ? null : "filler"
            )
        );
        work["stage"] = "fill";
        work["held"] = outside ? null : "screwed";
        work["hazard"] = "welding";
        if (obstacle == Obstacle.OtherSide)
        {
            work["terms"] = new JsonObject { ["closedUntil"] = before.ToString() };
        }

        var target = await build.Add(work);
        switch (obstacle)
        {
            case Obstacle.Question:
                await shop
                    .Office.PostAsJsonAsync(
                        $"/api/builds/{build.Id}/decisions",
                        new
                        {
                            id = Guid.CreateVersion7(),
                            question = "Which shell?",
                            detail = "",
                            @for = "client",
                            options = new[] { "this" },
                            holds = new[] { target },
                            dueOn = "2026-03-20",
                            adds = (decimal?)null,
                            photoId = (Guid?)null,
                        }
                    )
                    .Json();
                break;
            case Obstacle.Brace:
                await shop
                    .Technician.PostAsJsonAsync(
                        $"/api/builds/{build.Id}/panel-events",
                        Event("temporaryMetalIn", "brace across the opening")
                    )
                    .Json();
                break;
            case Obstacle.Danger:
                await shop
                    .Technician.PutAsJsonAsync(
                        $"/api/builds/{build.Id}/arrival",
                        new
                        {
                            cameOn = "2026-03-01",
                            @as = "whole",
                            onWhose = "",
                            serial = (int?)null,
                            breaks = Array.Empty<object>(),
                            odometer = (int?)null,
                            keys = 0,
                            fluids = Array.Empty<string>(),
                            battery = "none",
                            storage = "",
                            promised = Array.Empty<object>(),
                            cameUnasked = Array.Empty<string>(),
                            standIns = Array.Empty<object>(),
                            toUndo = Array.Empty<string>(),
                            hazards = new[]
                            {
                                new
                                {
                                    id = Guid.CreateVersion7(),
                                    hazard = "lead",
                                    where = "scuttle seam",
                                    next = "",
                                    settled = false,
                                },
                            },
                            heights = (object?)null,
                            version = (uint?)null,
                        }
                    )
                    .Json();
                break;
        }

        return (build, target);
    }

    private static object Event(string fact, string note = "", string? coat = null, string? held = null) =>
        new
        {
            id = Guid.CreateVersion7(),
            panel = Panel,
            zone = (string?)null,
            fact,
            coat,
            held,
            note,
        };

    private Task<HttpResponseMessage> Start(HttpClient by, Guid operation) =>
        by.StartClock(operation, breakWorked: true);

    private Task<HttpResponseMessage> Stop(HttpClient by, bool done) => by.StopClock(done: done, breakWorked: true);

    private async Task<bool> IsDone(TestBuild build, Guid operation) =>
        (await build.Operations())
            .Single(o => o.GetProperty("id").GetGuid() == operation)
            .GetProperty("doneAt")
            .ValueKind == JsonValueKind.String;

    private static int _day;

    /// <summary>A morning of its own, so that no hours overlap.</summary>
    private LocalDate NextMorning()
    {
        var day = Monday.PlusDays(Interlocked.Increment(ref _day));
        shop.At(day, 9, 0);
        return day;
    }

    [Theory]
    [MemberData(nameof(Table))]
    public async Task The_answer_is_the_same_on_every_path(Path path, Obstacle obstacle, string role)
    {
        var day = NextMorning();
        var by = As(role);
        var (build, target) = await Against(obstacle, path);
        var free = obstacle == Obstacle.Nothing;
        switch (path)
        {
            case Path.ClockStart or Path.ClockSwitch:
                if (path == Path.ClockSwitch)
                {
                    await Start(by, await build.Add(TestBuild.Work("Other"))).Json();
                }

                // The order of work asks at the end; people begin where they can.
                await Answers(Start(by, target), free || obstacle == Obstacle.Order, "operationId");
                await Stop(by, false);
                break;
            case Path.Done:
                await Answers(
                    by.PostAsync($"/api/operations/{target}/done", null),
                    free,
                    obstacle == Obstacle.Order ? "reason" : "id"
                );
                (await IsDone(build, target)).ShouldBe(free);
                if (obstacle == Obstacle.Order)
                {
                    await by.PostAsync($"/api/operations/{target}/done?why=the%20part%20came%20first", null).Json();
                    (await IsDone(build, target)).ShouldBeTrue();
                }

                break;
            case Path.StopAsDone:
                await StopAsDone(build, target, by, obstacle);
                break;
            case Path.HoursEntered:
                await by.PostAsJsonAsync(
                        "/api/hours",
                        new
                        {
                            id = Guid.CreateVersion7(),
                            personId = shop.ManagerPerson,
                            operationId = target,
                            start = $"{day:uuuu-MM-dd}T06:00:00Z",
                            stop = $"{day:uuuu-MM-dd}T07:00:00Z",
                            kind = "billable",
                            note = "",
                        }
                    )
                    .Json();
                await KeptHours(build, target, free || obstacle == Obstacle.Order);
                break;
            case Path.HoursCorrectedOnto:
                var other = await build.Add(TestBuild.Work("Other"));
                var entry = Guid.CreateVersion7();
                await shop
                    .Manager.PostAsJsonAsync(
                        "/api/hours",
                        new
                        {
                            id = entry,
                            personId = shop.TechnicianPerson,
                            operationId = other,
                            start = $"{day:uuuu-MM-dd}T06:00:00Z",
                            stop = $"{day:uuuu-MM-dd}T07:00:00Z",
                            kind = "billable",
                            note = "",
                        }
                    )
                    .Json();
                await by.PostAsJsonAsync(
                        $"/api/hours/{entry}/correct",
                        new
                        {
                            id = Guid.CreateVersion7(),
                            operationId = target,
                            start = (string?)null,
                            stop = (string?)null,
                            kind = (string?)null,
                            @void = false,
                            reason = "wrong job",
                        }
                    )
                    .Json();
                await KeptHours(build, target, free || obstacle == Obstacle.Order);
                break;
            case Path.PanelCard:
                await PanelCard(build, by, free || obstacle == Obstacle.Order);
                break;
            case Path.SendOutside:
                var (supplier, job) = (Guid.CreateVersion7(), Guid.CreateVersion7());
                await shop
                    .Manager.PutAsJsonAsync(
                        $"/api/shop/suppliers/{supplier}",
                        new
                        {
                            name = $"Supplier {supplier:N}",
                            what = "",
                            freightDays = Array.Empty<string>(),
                            version = (uint?)null,
                        }
                    )
                    .Json();
                await shop
                    .Office.PutAsJsonAsync(
                        $"/api/builds/{build.Id}/outside/{job}",
                        new
                        {
                            title = "Chrome",
                            supplierId = supplier,
                            operationId = target,
                            pieces = new[] { new { name = "rim", count = 1 } },
                            quotedDays = 5,
                            quoted = 10,
                            billed = (decimal?)null,
                            version = (uint?)null,
                        }
                    )
                    .Json();
                // A brace and a danger concern hands on the car, not what is sent away.
                await Answers(
                    by.PostAsJsonAsync(
                        $"/api/outside/{job}/send",
                        new { on = $"{day:uuuu-MM-dd}", promised = $"{day.PlusDays(9):uuuu-MM-dd}" }
                    ),
                    free || obstacle is Obstacle.Brace or Obstacle.Danger,
                    obstacle == Obstacle.Order ? "reason" : "id"
                );
                break;
        }
    }

    private static async Task Answers(Task<HttpResponseMessage> call, bool free, string field)
    {
        if (free)
        {
            await call.Json();
        }
        else
        {
            (await call.Refused(field)).GetProperty("detail").GetString()!.Length.ShouldBeGreaterThan(10);
        }
    }

    /// <summary>Stopping is never refused; only marking it done is, and the phone is told why.</summary>
    private async Task StopAsDone(TestBuild build, Guid target, HttpClient by, Obstacle obstacle)
    {
        var soon = await build.Add(TestBuild.Work("In hand"));
        await Start(by, soon).Json();
        // What stands against it comes up while the clock runs.
        var operation = (await build.Operations()).Single(o => o.GetProperty("id").GetGuid() == target);
        var body = Node(TestBuild.Work("In hand", panels: [Panel], coat: "filler"));
        (body["stage"], body["held"], body["hazard"]) = ("fill", "screwed", "welding");
        body["after"] = JsonNode.Parse(operation.GetProperty("after").GetRawText());
        body["terms"] = JsonNode.Parse(operation.GetProperty("terms").GetRawText());
        await shop.Manager.PutAsJsonAsync($"/api/builds/{build.Id}/operations/{soon}", body).Json();
        if (obstacle == Obstacle.Question)
        {
            await shop
                .Office.PostAsJsonAsync(
                    $"/api/builds/{build.Id}/decisions",
                    new
                    {
                        id = Guid.CreateVersion7(),
                        question = "Which shell?",
                        detail = "",
                        @for = "client",
                        options = new[] { "this" },
                        holds = new[] { soon },
                        dueOn = "2026-03-20",
                        adds = (decimal?)null,
                        photoId = (Guid?)null,
                    }
                )
                .Json();
        }

        var stopped = await Stop(by, done: true).Json();
        (await IsDone(build, soon)).ShouldBe(obstacle == Obstacle.Nothing);
        (stopped.GetProperty("notDone").ValueKind == JsonValueKind.Null).ShouldBe(obstacle == Obstacle.Nothing);
        (await by.GetAsync("/api/clock").Json())
            .GetProperty("running")
            .ValueKind.ShouldBe(JsonValueKind.Null, "the clock stands all the same");
    }

    private async Task KeptHours(TestBuild build, Guid target, bool free)
    {
        var entry = (await shop.Manager.GetAsync($"/api/builds/{build.Id}/hours").Json())
            .EnumerateArray()
            .Single(e => e.GetProperty("operationId").GetGuid() == target);
        entry.GetProperty("minutes").GetInt32().ShouldBe(60, "what was worked is kept");
        (entry.GetProperty("flag").ValueKind == JsonValueKind.Null).ShouldBe(free);
        var id = entry.GetProperty("id").GetGuid();
        var waits = (await shop.Manager.GetAsync("/api/floor").Json())
            .GetProperty("flagged")
            .EnumerateArray()
            .Count(f => f.GetProperty("id").GetGuid() == id);
        waits.ShouldBe(free ? 0 : 1);
        if (!free)
        {
            await shop
                .Manager.PostAsJsonAsync($"/api/hours/{id}/settle", new { reason = "it was agreed by telephone" })
                .Json();
            (await shop.Manager.GetAsync("/api/floor").Json())
                .GetProperty("flagged")
                .EnumerateArray()
                .ShouldNotContain(f => f.GetProperty("id").GetGuid() == id);
        }
    }

    private async Task PanelCard(TestBuild build, HttpClient by, bool free)
    {
        var noted = await by.PostAsJsonAsync($"/api/builds/{build.Id}/panel-events", Event("coat", coat: "filler"))
            .Json();
        (noted.GetProperty("against").ValueKind == JsonValueKind.Null).ShouldBe(free);
        async Task<string> Wears() =>
            (await shop.Manager.GetAsync($"/api/builds/{build.Id}/body").Json())
                .GetProperty("panels")
                .EnumerateArray()
                .Single(p => p.GetProperty("panel").GetString() == Panel)
                .GetProperty("coat")
                .GetString()!;
        (await Wears()).ShouldBe(free ? "filler" : "asFound");
        if (!free)
        {
            var id = noted.GetProperty("id").GetGuid();
            (await shop.Manager.GetAsync($"/api/builds/{build.Id}/body").Json())
                .GetProperty("flagged")
                .EnumerateArray()
                .ShouldHaveSingleItem()
                .GetProperty("id")
                .GetGuid()
                .ShouldBe(id, "kept, and to be seen");
            (
                await shop.Technician.PostAsJsonAsync($"/api/panel-events/{id}/settle", new { reason = "it is fine" })
            ).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
            await shop
                .Manager.PostAsJsonAsync($"/api/panel-events/{id}/settle", new { reason = "looked at it: it is on" })
                .Json();
            (await Wears()).ShouldBe("filler", "settled, it counts");
        }
    }

    [Fact]
    public async Task Open_again_restores_what_the_panels_wore_and_shuts_the_gate_that_had_checked_it()
    {
        NextMorning();
        var build = await TestBuild.Open(shop);
        var first = await build.Add(TestBuild.Work("Epoxy", coat: "epoxy", panels: [Panel]));
        var second = await build.Add(
            TestBuild.Work(
                "Filler",
                coat: "filler",
                panels: [Panel],
                after: [new { operation = first, lagMinutes = 0 }]
            )
        );
        var gate = await build.Add(
            TestBuild.Work(
                "Looked over",
                kind: "gate",
                gate: "uniformCoat",
                after: [new { operation = second, lagMinutes = 0 }]
            )
        );
        async Task<string> Wears() =>
            (await shop.Manager.GetAsync($"/api/builds/{build.Id}/body").Json())
                .GetProperty("panels")
                .EnumerateArray()
                .Single(p => p.GetProperty("panel").GetString() == Panel)
                .GetProperty("coat")
                .GetString()!;
        await shop.Technician.PostAsync($"/api/operations/{first}/done", null).Json();
        await shop.Technician.PostAsync($"/api/operations/{second}/done", null).Json();
        await build.LeaveGapsOut();
        await shop.Manager.PostAsJsonAsync($"/api/operations/{gate}/sign", new { seen = (string[]?)null }).Json();
        (await Wears()).ShouldBe("filler");
        await shop.Manager.PostAsync($"/api/operations/{second}/reopen", null).Json();
        (await Wears()).ShouldBe("epoxy");
        (await IsDone(build, gate)).ShouldBeFalse("what it checked has changed");
        await shop.Technician.PostAsync($"/api/operations/{second}/done", null).Json();
        (await Wears()).ShouldBe("filler");
        await shop.Manager.PostAsync($"/api/operations/{second}/reopen", null).Json();
        (await Wears()).ShouldBe("epoxy", "the second time too");
    }

    [Fact]
    public async Task A_danger_is_settled_by_a_manager_with_the_method_and_by_nobody_in_passing()
    {
        NextMorning();
        var (build, target) = await Against(Obstacle.Danger, Path.ClockStart);
        var arrival = await shop.Manager.GetAsync($"/api/builds/{build.Id}/arrival").Json();
        var danger = arrival.GetProperty("hazards")[0].GetProperty("id").GetGuid();
        Task<HttpResponseMessage> Settle(HttpClient by, string method) =>
            by.PostAsJsonAsync($"/api/builds/{build.Id}/arrival/hazards/{danger}/settle", new { method });
        (await Settle(shop.Technician, "wet, under extraction")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await Settle(shop.Office, "wet, under extraction")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        await Settle(shop.Manager, " ").Refused("method");
        async Task<string?> Why() =>
            (await build.Operations()).Single(o => o.GetProperty("id").GetGuid() == target).GetProperty("reason")
                is { ValueKind: JsonValueKind.Object } r
                ? r.GetProperty("kind").GetString()
                : null;
        (await Why()).ShouldBe("danger", "the plan knows of it too");
        await Settle(shop.Manager, "wet, under extraction").Json();
        (await Why()).ShouldNotBe("danger");
        await Start(shop.Technician, target).Json();
        await Stop(shop.Technician, false).Json();
        (await shop.Manager.GetAsync($"/api/builds/{build.Id}/arrival").Json())
            .GetProperty("hazards")[0]
            .GetProperty("method")
            .GetString()
            .ShouldBe("wet, under extraction");
    }
}

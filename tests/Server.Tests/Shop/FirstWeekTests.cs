using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Shop;

/// <summary>A shop sets itself up: the first-run list, files with a trial, places and racks, work that is nobody's
/// build.</summary>
public sealed class FirstWeekTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private Task<HttpResponseMessage> Bring(string kind, string text, bool keep, Guid? buildId = null) =>
        shop.Manager.PostAsJsonAsync(
            "/api/imports",
            new
            {
                kind,
                text,
                buildId,
                keep,
            }
        );

    private static List<(string Name, string Action)> Lines(JsonElement result) =>
        result
            .GetProperty("lines")
            .EnumerateArray()
            .Select(l => (l.GetProperty("name").GetString()!, l.GetProperty("action").GetString()!))
            .ToList();

    [Fact]
    public async Task A_file_is_tried_first_and_comes_whole_or_not_at_all()
    {
        const string File =
            "Name;Trades;Cost;Billing;Shoe size\nEwa Lund;metal/helper;24,50;61,00;39\nNils Bo;paint;25;62.40;44\n";
        var trial = await Bring("people", File, keep: false).Json();
        Lines(trial).ShouldBe([("Ewa Lund", "new"), ("Nils Bo", "new")]);
        trial.GetProperty("kept").GetBoolean().ShouldBeFalse();
        trial.GetProperty("unknown").EnumerateArray().Select(u => u.GetString()).ShouldBe(["shoe size"]);
        async Task<List<string>> Names() =>
            (await shop.Manager.GetAsync("/api/shop").Json())
                .GetProperty("people")
                .EnumerateArray()
                .Select(p => p.GetProperty("name").GetString()!)
                .ToList();
        (await Names()).ShouldNotContain("Ewa Lund", "a trial keeps nothing");
        var wrong = await Bring("people", File + "Ida Ro;juggling;20;50;36\nNils Bo;paint;25;62.40;44\n", keep: true)
            .Json();
        wrong.GetProperty("kept").GetBoolean().ShouldBeFalse();
        wrong.GetProperty("lines")[2].GetProperty("says").GetString()!.ShouldStartWith("“juggling” is no trade here");
        Lines(wrong)[3].ShouldBe(("Nils Bo", "refused"), "the name stands twice");
        (await Names()).ShouldNotContain("Ewa Lund", "one row that cannot be keeps all out");
        (await Bring("people", File, keep: true).Json()).GetProperty("kept").GetBoolean().ShouldBeTrue();
        var ewa = (await shop.Manager.GetAsync("/api/shop").Json())
            .GetProperty("people")
            .EnumerateArray()
            .Single(p => p.GetProperty("name").GetString() == "Ewa Lund");
        ewa.GetProperty("rates")[0].GetProperty("billing").GetDecimal().ShouldBe(61m);
        ewa.GetProperty("trades").EnumerateArray().Select(t => t.GetString()).ShouldBe(["metal", "hand"]);
        Lines(await Bring("people", File, keep: true).Json())
            .ShouldAllBe(l => l.Action == "same", "the same file again changes nothing");
        (await Names()).Count(n => n == "Ewa Lund").ShouldBe(1);
    }

    [Fact]
    public async Task Suppliers_clients_and_parts_come_from_files_too()
    {
        await Bring("suppliers", "name,what,freight days\n\"Corran, Plating\",bright work,Tue/Thu\n", keep: true)
            .Json();
        var supplier = (await shop.Manager.GetAsync("/api/shop").Json())
            .GetProperty("suppliers")
            .EnumerateArray()
            .Single(s => s.GetProperty("name").GetString() == "Corran, Plating");
        supplier
            .GetProperty("freightDays")
            .EnumerateArray()
            .Select(d => d.GetString())
            .ShouldBe(["tuesday", "thursday"]);
        await Bring("clients", "name\temail\tphone\nPetra Ost\tpetra@ost.example\t0555 1\n", keep: true).Json();
        (await shop.Office.GetAsync("/api/clients?typed=petra o").Json())[0]
            .GetProperty("email")
            .GetString()
            .ShouldBe("petra@ost.example");
        var build = await TestBuild.Open(shop);
        await Bring("parts", "name,quantity\nSill,2\n", keep: false).Refused("buildId");
        Lines(
                await Bring(
                        "parts",
                        "name,quantity,unit cost,supplier\nSill,2,\"1.240,50\",Nobody\n",
                        keep: true,
                        build.Id
                    )
                    .Json()
            )
            .ShouldBe([("Sill", "refused")]);
        Lines(
                await Bring(
                        "parts",
                        "name,quantity,unit cost,supplier,client supplied\nSill,2,\"1.240,50\",\"Corran, Plating\",\nBadge,1,,,yes\n",
                        keep: true,
                        build.Id
                    )
                    .Json()
            )
            .ShouldBe([("Sill", "new"), ("Badge", "new")]);
        var sill = (await shop.Office.GetAsync($"/api/builds/{build.Id}/parts").Json())
            .GetProperty("parts")
            .EnumerateArray()
            .First(p => p.GetProperty("name").GetString() == "Sill");
        sill.GetProperty("unitCost").GetDecimal().ShouldBe(1240.50m);
        await Bring("people", "first,second\na,b\n", keep: false).Refused("text");
        await Bring("people", "", keep: false).Refused("text");
        await shop
            .Office.PostAsJsonAsync(
                "/api/imports",
                new
                {
                    kind = "people",
                    text = "name\nX",
                    buildId = (Guid?)null,
                    keep = false,
                }
            )
            .Refused("kind");
    }

    [Fact]
    public async Task Places_do_not_lie_on_each_other_and_go_when_nothing_stands_there()
    {
        object Place(string name, int x, int width = 4000) =>
            new
            {
                name,
                kind = "bay",
                count = 1,
                xMm = x,
                yMm = 9000,
                widthMm = width,
                depthMm = 4000,
                doorHeightMm = (int?)null,
                walled = false,
                version = (uint?)null,
            };
        var (one, two) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await shop.Manager.PutAsJsonAsync($"/api/shop/stations/{one}", Place("Bay east", 0)).Json();
        (await shop.Manager.PutAsJsonAsync($"/api/shop/stations/{two}", Place("Bay west", 2000)).Refused("xMm"))
            .GetProperty("detail")
            .GetString()
            .ShouldBe("Bay west would lie on Bay east.");
        await shop.Manager.PutAsJsonAsync($"/api/shop/stations/{two}", Place("Bay west", 4000)).Json();
        var build = await TestBuild.Open(shop);
        await shop.Office.PutAsJsonAsync($"/api/builds/{build.Id}/place", new { stationId = one, awayAt = "" }).Json();
        await shop.Manager.DeleteAsync($"/api/shop/stations/{one}").Refused("id");
        await shop.Manager.DeleteAsync($"/api/shop/stations/{two}").Json(HttpStatusCode.NoContent);
        await shop.Manager.DeleteAsync($"/api/shop/stations/{two}").Json(HttpStatusCode.NoContent);
        (await shop.Manager.GetAsync("/api/shop").Json())
            .GetProperty("stations")
            .EnumerateArray()
            .Select(s => s.GetProperty("id").GetGuid())
            .ShouldNotContain(two);
        // A vehicle that has left for good keeps no place.
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{build.Id}/status",
                new
                {
                    status = "withdrawn",
                    leftAt = "",
                    firstMove = "",
                }
            )
            .Json();
        await shop.Manager.DeleteAsync($"/api/shop/stations/{one}").Json(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task Walls_racks_and_jobs_are_the_shops_own()
    {
        await shop
            .Manager.PutAsJsonAsync(
                "/api/shop/layout",
                new
                {
                    layout = new
                    {
                        walls = new[]
                        {
                            new
                            {
                                fromXMm = 0,
                                fromYMm = 0,
                                toXMm = 5000,
                                toYMm = 0,
                            },
                        },
                        doors = new[]
                        {
                            new
                            {
                                xMm = 2000,
                                yMm = 0,
                                widthMm = 3400,
                                along = true,
                                heightMm = 3000,
                            },
                        },
                    },
                    planWidthMm = 24000,
                    planDepthMm = 15000,
                    version = (uint?)null,
                }
            )
            .Json();
        await shop
            .Manager.PutAsJsonAsync(
                "/api/shop/layout",
                new
                {
                    layout = new
                    {
                        walls = new[]
                        {
                            new
                            {
                                fromXMm = 0,
                                fromYMm = 0,
                                toXMm = 50,
                                toYMm = 0,
                            },
                        },
                        doors = Array.Empty<object>(),
                    },
                    planWidthMm = 24000,
                    planDepthMm = 15000,
                    version = (uint?)null,
                }
            )
            .Refused("walls");
        await shop
            .Manager.PutAsJsonAsync(
                "/api/shop/racks",
                new
                {
                    racks = new[]
                    {
                        new
                        {
                            name = "Loft",
                            shelves = 3,
                            trays = 8,
                        },
                        new
                        {
                            name = "loft",
                            shelves = 1,
                            trays = 1,
                        },
                    },
                    version = (uint?)null,
                }
            )
            .Refused("racks");
        await shop
            .Manager.PutAsJsonAsync(
                "/api/shop/racks",
                new
                {
                    racks = new[]
                    {
                        new
                        {
                            name = "Loft",
                            shelves = 3,
                            trays = 8,
                        },
                    },
                    version = (uint?)null,
                }
            )
            .Json();
        await shop
            .Manager.PutAsJsonAsync(
                "/api/shop/jobs",
                new { jobs = new[] { "Cleaning", "Fork lift" }, version = (uint?)null }
            )
            .Json();
        var view = await shop.Technician.GetAsync("/api/shop").Json();
        view.GetProperty("racks")[0].GetProperty("name").GetString().ShouldBe("Loft");
        view.GetProperty("layout").GetProperty("doors")[0].GetProperty("widthMm").GetInt32().ShouldBe(3400);
        view.GetProperty("jobs").EnumerateArray().Select(j => j.GetString()).ShouldBe(["Cleaning", "Fork lift"]);
        var things = (await shop.Manager.GetAsync("/api/shop/first-things").Json())
            .GetProperty("things")
            .EnumerateArray()
            .ToDictionary(t => t.GetProperty("key").GetString()!, t => t.GetProperty("state").GetString());
        (things["racks"], things["week"]).ShouldBe(("done", "done"));
        await shop.Manager.PutAsJsonAsync("/api/shop/first-things", new { away = true }).Json();
        (await shop.Manager.GetAsync("/api/shop/first-things").Json()).GetProperty("away").GetBoolean().ShouldBeTrue();
    }

    [Fact]
    public async Task Nobody_is_on_a_build_and_on_a_shop_job_at_once_and_the_day_counts_both()
    {
        await shop
            .Manager.PutAsJsonAsync(
                "/api/shop/jobs",
                new { jobs = new[] { "Cleaning", "Tooling" }, version = (uint?)null }
            )
            .Json();
        var build = await TestBuild.Open(shop);
        var work = await build.Add(TestBuild.Work("Sand"));
        var before = shop.Clock.GetUtcNow();
        shop.At(new(2026, 3, 4), 8, 0);
        Task<HttpResponseMessage> Clock() => shop.Technician.GetAsync("/api/clock");
        Task<HttpResponseMessage> StartShop(string job) =>
            shop.Technician.PostAsJsonAsync(
                "/api/clock/start-shop",
                new
                {
                    id = Guid.CreateVersion7(),
                    personId = (Guid?)null,
                    job,
                    share = (decimal?)null,
                    breakWorked = (bool?)null,
                }
            );
        Task<HttpResponseMessage> Start() => shop.Technician.StartClock(work, person: shop.TechnicianPerson);
        Task<HttpResponseMessage> Stop(bool? breakWorked = null) => shop.Technician.StopClock(breakWorked: breakWorked);
        try
        {
            await StartShop("Juggling").Refused("job");
            await Start().Json();
            shop.At(new(2026, 3, 4), 8, 30);
            await StartShop("Cleaning").Json();
            var view = await Clock().Json();
            view.GetProperty("running").ValueKind.ShouldBe(JsonValueKind.Null);
            view.GetProperty("shopRunning").GetProperty("job").GetString().ShouldBe("Cleaning");
            shop.At(new(2026, 3, 4), 9, 0);
            await Start().Json();
            (await Clock().Json()).GetProperty("shopRunning").ValueKind.ShouldBe(JsonValueKind.Null);
            shop.At(new(2026, 3, 4), 9, 15);
            await StartShop("Tooling").Json();
            shop.At(new(2026, 3, 4), 13, 0);
            await Stop().Refused("breakWorked");
            await Stop(breakWorked: false).Json(HttpStatusCode.NoContent);
            // 30 + 30 + 15 minutes, then 9:15 to 13:00 without the half hour's break.
            (await Clock().Json()).GetProperty("todayMinutes").GetInt32().ShouldBe(75 + 195);
            object Entered(string from, string to) =>
                new
                {
                    id = Guid.CreateVersion7(),
                    personId = shop.TechnicianPerson,
                    operationId = work,
                    start = $"2026-03-04T{from}:00Z",
                    stop = $"2026-03-04T{to}:00Z",
                    kind = "billable",
                    note = "",
                };
            await shop.Manager.PostAsJsonAsync("/api/hours", Entered("08:45", "08:50")).Refused("start");
            var rows = (await shop.Office.GetAsync("/api/shop-time").Json()).EnumerateArray().ToList();
            rows.Sum(r => r.GetProperty("minutes").GetInt32()).ShouldBe(30 + 195);
            var cleaning = rows.Single(r => r.GetProperty("job").GetString() == "Cleaning").GetProperty("id").GetGuid();
            await shop
                .Manager.PostAsJsonAsync($"/api/shop-time/{cleaning}/void", new { reason = "" })
                .Refused("reason");
            await shop.Manager.PostAsJsonAsync($"/api/shop-time/{cleaning}/void", new { reason = "was on 41" }).Json();
            await shop.Manager.PostAsJsonAsync("/api/hours", Entered("08:45", "08:50")).Json();
        }
        finally
        {
            shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(before));
        }
    }

    [Fact]
    public async Task A_phone_that_runs_a_little_ahead_is_believed_up_to_now_and_one_far_ahead_is_not()
    {
        var build = await TestBuild.Open(shop);
        var work = await build.Add(TestBuild.Work("Sand"));
        var before = shop.Clock.GetUtcNow();
        Task<HttpResponseMessage> Stop(string at) => shop.Technician.StopClock(at: at);
        try
        {
            shop.At(new(2026, 3, 5), 8, 0);
            await shop.Technician.StartClock(work, person: shop.TechnicianPerson).Json();
            shop.At(new(2026, 3, 5), 9, 0);
            await Stop("2026-03-05T09:05:00Z").Refused("at");
            await Stop("2026-03-05T09:01:40Z").Json();
            (await shop.Technician.GetAsync("/api/clock").Json()).GetProperty("todayMinutes").GetInt32().ShouldBe(60);
        }
        finally
        {
            shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(before));
        }
    }

    [Fact]
    public async Task Everything_that_is_wrong_with_a_new_build_is_said_at_once()
    {
        var body = JsonSerializer.SerializeToNode(TestBuild.OpenBody(Guid.CreateVersion7()))!;
        body["clientName"] = " ";
        body["clientEmail"] = "nobody";
        body["vehicle"]!["make"] = "";
        body["vehicle"]!["dimensions"] = JsonSerializer.SerializeToNode(
            new
            {
                lengthMm = 200,
                widthMm = 5000,
                wheelbaseMm = 100,
            }
        );
        body["contract"]!["kind"] = "capped";
        var refused = await shop.Manager.PostAsJsonAsync("/api/builds", body);
        refused.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        var problem = await refused.Content.ReadFromJsonAsync<JsonElement>();
        problem.GetProperty("field").GetString().ShouldBe("clientName");
        problem
            .GetProperty("errors")
            .EnumerateObject()
            .Select(e => e.Name)
            .ShouldBe(["clientName", "clientEmail", "make", "lengthMm", "widthMm", "wheelbaseMm", "cap"]);
        problem
            .GetProperty("errors")
            .GetProperty("lengthMm")[0]
            .GetString()
            .ShouldBe("The length must be between 2,600 and 7,000 mm.");
    }
}

using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Builds;

/// <summary>What a body stands on, what a bag is kept for, and a build that stands still or goes.</summary>
public sealed class StandingTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static object Finding(string place, bool structural = false) =>
        new
        {
            place,
            at = new { x = 130.5, y = 210.0 },
            area = Array.Empty<object>(),
            kind = "rustThrough",
            probe = "goesThrough",
            sizeMm = 200,
            structural,
            gaugeMm = 1.2m,
            note = "",
            photoId = (Guid?)null,
            behind = (Guid?)null,
            version = (uint?)null,
        };

    private async Task<Guid> Found(TestBuild build, string place, HttpClient by)
    {
        var id = Guid.CreateVersion7();
        await by.PutAsJsonAsync($"/api/builds/{build.Id}/findings/{id}", Finding(place)).Json();
        return id;
    }

    private async Task<JsonElement> One(TestBuild build, Guid id) =>
        (await shop.Manager.GetAsync($"/api/builds/{build.Id}/survey").Json())
            .GetProperty("findings")
            .EnumerateArray()
            .Single(f => f.GetProperty("id").GetGuid() == id);

    private static object Way(string verdict) =>
        new
        {
            verdict,
            hours = 3,
            trade = "metal",
            material = 10,
            sheetM2Price = 0,
            part = 0,
            freight = 0,
            leadDays = 0,
            riskPercent = 0,
            notSold = false,
        };

    [Theory]
    [InlineData("sillL", true)]
    [InlineData("floorFR", true)]
    [InlineData("legFL", true)]
    [InlineData("hingePostR", true)]
    [InlineData("wingL", false)]
    [InlineData("bonnet", false)]
    public async Task What_a_unitary_body_stands_on_is_structural_without_a_tick_from_the_phone_too(
        string place,
        bool structural
    )
    {
        var build = await TestBuild.Open(shop);
        var id = await Found(build, place, shop.Technician);
        var finding = await One(build, id);
        finding.GetProperty("structural").GetBoolean().ShouldBe(structural);
        await shop
            .Office.PutAsJsonAsync(
                $"/api/findings/{id}/options",
                new { options = new[] { Way("repair"), Way("leave") }, version = (uint?)null }
            )
            .Json();
        if (structural)
        {
            await shop
                .Technician.PostAsJsonAsync(
                    $"/api/findings/{id}/choose",
                    new { verdict = "leave", reason = "it looks fine" }
                )
                .Refused("verdict");
        }
    }

    [Fact]
    public async Task A_clients_no_to_a_structural_repair_holds_what_rests_on_it_and_stands_on_the_report()
    {
        var build = await TestBuild.Open(shop, "paint-then-assemble", email: "no@example.org", client: "No Client");
        var estimate = Guid.CreateVersion7();
        await shop.Office.PostAsJsonAsync($"/api/builds/{build.Id}/estimates", new { id = estimate }).Json();
        await shop.SendPaper(estimate, "byHand").Json();
        await shop
            .Office.PostAsJsonAsync(
                $"/api/papers/{estimate}/answer",
                new
                {
                    yes = true,
                    name = "No Client",
                    choices = Array.Empty<string>(),
                    note = "in the folder",
                }
            )
            .Json();
        var id = await Found(build, "sillL", shop.Technician);
        await shop
            .Office.PutAsJsonAsync(
                $"/api/findings/{id}/options",
                new { options = new[] { Way("repair") }, version = (uint?)null }
            )
            .Json();
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/findings/{id}/choose",
                new { verdict = "repair", reason = "let in a piece" }
            )
            .Json();
        await shop.Manager.PostAsJsonAsync($"/api/findings/{id}/agree", new { }).Json();
        await shop.Manager.PostAsJsonAsync($"/api/findings/{id}/apply", new { }).Json();
        var repair = (await build.Operations())
            .Single(o => o.GetProperty("name").GetString()!.EndsWith("finding 1", StringComparison.Ordinal))
            .GetProperty("id")
            .GetGuid();
        var rests = (await build.Operations())
            .Where(o =>
                o.GetProperty("after").EnumerateArray().Any(a => a.GetProperty("operation").GetGuid() == repair)
            )
            .Select(o => o.GetProperty("id").GetGuid())
            .ToList();
        rests.ShouldNotBeEmpty();
        var change = (await shop.Office.GetAsync($"/api/builds/{build.Id}/papers").Json())
            .GetProperty("papers")
            .EnumerateArray()
            .Single(p => p.GetProperty("kind").GetString() == "changeOrder");
        var paper = change.GetProperty("id").GetGuid();
        var words = change.GetProperty("words");
        await shop
            .Office.PutAsJsonAsync(
                $"/api/papers/{paper}",
                new
                {
                    title = "The left sill",
                    reason = "It goes through.",
                    notIncluded = Array.Empty<string>(),
                    terms = Array.Empty<string>(),
                    choices = Array.Empty<object>(),
                    goods = Array.Empty<object>(),
                    photos = Array.Empty<Guid>(),
                    answerBy = words.GetProperty("answerBy").GetString(),
                    deposit = (decimal?)null,
                    version = (uint?)null,
                }
            )
            .Json();
        await shop.SendPaper(paper, "byHand").Json();
        await shop
            .Office.PostAsJsonAsync(
                $"/api/papers/{paper}/answer",
                new
                {
                    yes = false,
                    name = "No Client",
                    choices = Array.Empty<string>(),
                    note = "on the telephone",
                }
            )
            .Json();

        var question = (await shop.Manager.GetAsync($"/api/builds/{build.Id}").Json())
            .GetProperty("decisions")
            .EnumerateArray()
            .Single(d =>
                d.GetProperty("question")
                    .GetString()!
                    .StartsWith("The client said no to a structural repair", StringComparison.Ordinal)
            );
        question.GetProperty("holds").EnumerateArray().Select(h => h.GetGuid()).ShouldBe(rests, ignoreOrder: true);
        await shop.Manager.PostAsync($"/api/operations/{rests[0]}/done", null).Refused("id");
        var report = Guid.CreateVersion7();
        await shop.Office.PostAsJsonAsync($"/api/builds/{build.Id}/reports", new { id = report }).Json();
        (await shop.Office.GetAsync($"/api/reports/{report}/page").Json())
            .GetProperty("page")
            .GetProperty("declined")
            .EnumerateArray()
            .ShouldHaveSingleItem()
            .GetString()!
            .ShouldContain("sill");
    }

    [Fact]
    public async Task A_pattern_in_use_is_let_go_only_with_a_reason_that_stays_with_the_bag()
    {
        var build = await TestBuild.Open(shop);
        var (work, bag) = (await build.Add(TestBuild.Work("Make the corner")), Guid.CreateVersion7());
        object Bag(Guid? pattern, string why = "") =>
            new
            {
                side = "left",
                what = "Old corner",
                from = "tail",
                pieces = new[] { new { name = "corner", count = 1 } },
                fasteners = Array.Empty<object>(),
                place = "C3-7",
                patternFor = pattern,
                photoId = (Guid?)null,
                noPhoto = true,
                version = (uint?)null,
                patternWhy = why,
            };
        Task<HttpResponseMessage> Put(object body) =>
            shop.Technician.PutAsJsonAsync($"/api/builds/{build.Id}/bags/{bag}", body);
        await Put(Bag(work)).Json();
        await Put(Bag(null)).Refused("patternWhy");
        await Put(Bag(null, "a better one came from the donor")).Json();
        (await shop.Technician.GetAsync($"/api/builds/{build.Id}/bags").Json())
            .GetProperty("moves")
            .EnumerateArray()
            .ShouldContain(m =>
                m.GetProperty("note").GetString()!.Contains("a better one came", StringComparison.Ordinal)
            );
        await Put(Bag(work)).Json();
        await shop.Technician.PostAsync($"/api/operations/{work}/done", null).Json();
        await Put(Bag(null)).Json();
    }

    private Task<HttpResponseMessage> Status(
        TestBuild build,
        string status,
        string leftAt = "",
        string firstMove = "",
        bool? stillHolds = null
    ) =>
        shop.Manager.PutAsJsonAsync(
            $"/api/builds/{build.Id}/status",
            new
            {
                status,
                leftAt,
                firstMove,
                stillHolds,
            }
        );

    [Fact]
    public async Task A_build_goes_on_only_once_somebody_looked_and_shows_its_first_move_until_work_begins()
    {
        var build = await TestBuild.Open(shop);
        var work = await build.Add(TestBuild.Work("Rear axle"));
        await Status(build, "paused", "axle out, on the blue stands", "check the stands").Json();
        (await Status(build, "open").Refused("stillHolds"))
            .GetProperty("detail")
            .GetString()!
            .ShouldContain("axle out, on the blue stands");
        await Status(build, "open", stillHolds: false).Refused("firstMove");
        await Status(build, "open", stillHolds: true).Json();
        (await build.Card()).GetProperty("firstMove").GetString().ShouldBe("check the stands");
        await shop.Technician.StartClock(work).Json();
        (await build.Card()).GetProperty("firstMove").GetString().ShouldBe("", "it has been made");
        await shop.Technician.StopClock(breakWorked: true).Json();
    }

    [Fact]
    public async Task A_withdrawal_is_taken_back_and_the_build_stands_paused_with_all_that_was_recorded()
    {
        var build = await TestBuild.Open(shop);
        var operations = (await build.Operations()).Count;
        await Status(build, "withdrawn").Json();
        (await shop.Manager.GetAsync("/api/builds").Json())
            .EnumerateArray()
            .ShouldNotContain(b => b.GetProperty("id").GetGuid() == build.Id);
        (await shop.Office.GetAsync("/api/builds/ended").Json())
            .EnumerateArray()
            .Single(b => b.GetProperty("id").GetGuid() == build.Id)
            .GetProperty("status")
            .GetString()
            .ShouldBe("withdrawn");
        await Status(build, "open").Refused("status");
        await Status(build, "paused").Refused("leftAt");
        await Status(build, "paused", "as it came", "fetch it from the yard").Json();
        (await build.Card()).GetProperty("status").GetString().ShouldBe("paused");
        (await build.Operations()).Count.ShouldBe(operations);
    }

    [Fact]
    public async Task The_booth_is_not_entered_before_what_stands_against_its_work_is_out_of_the_way()
    {
        var build = await TestBuild.Open(shop);
        var before = await build.Add(TestBuild.Work("Block"));
        await shop.Manager.PostAsync($"/api/operations/{before}/done", null).Json();
        var gate = await build.Add(
            TestBuild.Work(
                "Looked over",
                kind: "gate",
                gate: "uniformCoat",
                after: [new { operation = before, lagMinutes = 0 }]
            )
        );
        var spray = JsonSerializer.SerializeToNode(
            TestBuild.Work("Base", trade: "paint", after: [new { operation = gate, lagMinutes = 0 }])
        )!;
        spray["station"] = "booth";
        await build.Add(spray);
        var (booth, bay) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        foreach (var (id, kind, x) in new[] { (booth, "booth", 12_000), (bay, "bay", 16_000) })
        {
            await shop
                .Manager.PutAsJsonAsync(
                    $"/api/shop/stations/{id}",
                    new
                    {
                        name = $"A {kind}",
                        kind,
                        count = 1,
                        xMm = x,
                        yMm = 0,
                        widthMm = 3000,
                        depthMm = 6000,
                        doorHeightMm = (int?)null,
                        walled = false,
                        version = (uint?)null,
                    }
                )
                .Json();
        }

        Task<HttpResponseMessage> Move(Guid to) =>
            shop.Office.PutAsJsonAsync($"/api/builds/{build.Id}/place", new { stationId = to, awayAt = "" });
        (await Move(booth).Refused("stationId"))
            .GetProperty("detail")
            .GetString()
            .ShouldBe("Not signed yet: Looked over.");
        await Move(bay).Json();
        await build.LeaveGapsOut();
        await shop.Manager.PostAsJsonAsync($"/api/operations/{gate}/sign", new { seen = (string[]?)null }).Json();
        await Move(booth).Json();
    }
}

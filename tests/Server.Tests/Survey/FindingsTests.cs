using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Survey;

/// <summary>The survey through the API: what was looked at, findings, verdicts, and the work that they
/// become.</summary>
public sealed class FindingsTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static object Entry(
        string place = "sillR",
        bool structural = true,
        string kind = "rustThrough",
        object[]? area = null,
        Guid? behind = null,
        uint? version = null
    ) =>
        new
        {
            place,
            at = new { x = 130.5, y = 210.0 },
            area = area ?? [],
            kind,
            probe = "goesThrough",
            sizeMm = 480,
            structural,
            gaugeMm = 1.2m,
            note = "through along the seam",
            photoId = (Guid?)null,
            behind,
            version,
        };

    private static object Way(
        string verdict,
        decimal hours,
        decimal part = 0,
        decimal risk = 0,
        decimal material = 0
    ) =>
        new
        {
            verdict,
            hours,
            trade = "metal",
            material,
            sheetM2Price = 0,
            part,
            freight = 0,
            leadDays = 0,
            riskPercent = risk,
            notSold = false,
        };

    private async Task<Guid> Found(TestBuild build, object? entry = null, HttpClient? by = null)
    {
        var id = Guid.CreateVersion7();
        await (by ?? shop.Technician).PutAsJsonAsync($"/api/builds/{build.Id}/findings/{id}", entry ?? Entry()).Json();
        return id;
    }

    private Task<JsonElement> Survey(TestBuild build, HttpClient? by = null) =>
        (by ?? shop.Manager).GetAsync($"/api/builds/{build.Id}/survey").Json();

    private async Task<JsonElement> Finding(TestBuild build, Guid id, HttpClient? by = null) =>
        (await Survey(build, by))
            .GetProperty("findings")
            .EnumerateArray()
            .Single(f => f.GetProperty("id").GetGuid() == id);

    private Task<JsonElement> Judge(Guid id, params object[] options) =>
        shop.Office.PutAsJsonAsync($"/api/findings/{id}/options", new { options, version = (uint?)null }).Json();

    private Task<HttpResponseMessage> Choose(Guid id, string verdict, HttpClient? by = null) =>
        (by ?? shop.Technician).PostAsJsonAsync(
            $"/api/findings/{id}/choose",
            new { verdict, reason = "the section comes with the mount" }
        );

    [Fact]
    public async Task A_place_is_dark_until_somebody_looked_and_a_mark_can_be_taken_back()
    {
        var build = await TestBuild.Open(shop);
        var before = await Survey(build);
        before.GetProperty("seen").GetInt32().ShouldBe(0);
        var mark = Guid.CreateVersion7();
        object Punch(string place = "doorL", string result = "dents") =>
            new
            {
                id = mark,
                place,
                at = new { x = -100.0, y = 250.0 },
                result,
            };
        await shop
            .Technician.PostAsJsonAsync($"/api/builds/{build.Id}/survey/marks", Punch(place: "chimney"))
            .Refused("place");
        await shop.Technician.PostAsJsonAsync($"/api/builds/{build.Id}/survey/marks", Punch()).Json();
        await shop.Technician.PostAsJsonAsync($"/api/builds/{build.Id}/survey/marks", Punch()).Json();
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/builds/{build.Id}/survey/looks",
                new { id = Guid.CreateVersion7(), place = "floorFL" }
            )
            .Json();
        var after = await Survey(build);
        after.GetProperty("seen").GetInt32().ShouldBe(2);
        after.GetProperty("marks").GetArrayLength().ShouldBe(1, "the same request again is the same mark");
        after.GetProperty("stillDark").GetArrayLength().ShouldBe(after.GetProperty("total").GetInt32() - 2);
        await shop.Technician.PostAsync($"/api/marks/{mark}/take-back", null).Json();
        (await Survey(build)).GetProperty("seen").GetInt32().ShouldBe(1);
        await shop.Manager.PostAsync($"/api/marks/{mark}/take-back", null).Refused("id");
    }

    [Fact]
    public async Task The_history_of_a_vehicle_puts_places_first_in_the_round()
    {
        var build = await TestBuild.Open(shop);
        await shop
            .Office.PutAsJsonAsync(
                $"/api/builds/{build.Id}/survey/history",
                new { history = new[] { "crashedRight", "crashedRight" } }
            )
            .Json();
        var survey = await Survey(build);
        survey.GetProperty("history").GetArrayLength().ShouldBe(1);
        survey.GetProperty("stillDark")[0].GetProperty("harder").GetString().ShouldBe("it was hit on the right");
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/survey/history",
                new { history = Array.Empty<string>() }
            )
            .Json(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task Findings_are_numbered_per_build_and_a_number_is_never_used_again()
    {
        var build = await TestBuild.Open(shop);
        var (first, second) = (
            await Found(build),
            await Found(build, Entry("tail", structural: false, kind: "missing"))
        );
        (await Finding(build, second)).GetProperty("number").GetInt32().ShouldBe(2);
        await shop
            .Office.PostAsJsonAsync($"/api/findings/{second}/withdraw", new { reason = "it was in the boot" })
            .Json();
        var third = await Found(build, Entry(behind: first));
        var found = (await Survey(build))
            .GetProperty("findings")
            .EnumerateArray()
            .Select(f => f.GetProperty("number").GetInt32())
            .ToList();
        found.ShouldBe([1, 3]);
        (await Finding(build, third)).GetProperty("behind").GetGuid().ShouldBe(first);
        await shop.Technician.PutAsJsonAsync($"/api/builds/{build.Id}/findings/{second}", Entry()).Refused("id");
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/findings/{Guid.CreateVersion7()}",
                Entry(area: [new { x = 0, y = 0 }, new { x = 1, y = 1 }])
            )
            .Refused("area");
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/findings/{Guid.CreateVersion7()}",
                Entry(behind: Guid.CreateVersion7())
            )
            .Refused("behind");
        var other = await TestBuild.Open(shop);
        await shop.Technician.PutAsJsonAsync($"/api/builds/{other.Id}/findings/{first}", Entry()).Refused("id");
    }

    [Fact]
    public async Task A_verdict_is_judged_chosen_agreed_and_becomes_work_parts_and_estimate()
    {
        var build = await TestBuild.Open(shop, "paint-then-assemble");
        var id = await Found(build);
        await Choose(id, "leave").Refused("verdict");
        await Choose(id, "replace").Refused("verdict");
        // The technician of this shop bills 60.00 in every trade.
        await Judge(id, Way("repair", 14, risk: 15, material: 60), Way("replace", 6, part: 300, risk: 5));
        await Choose(id, "replace").Json();
        var chosen = await Finding(build, id);
        chosen.GetProperty("cheapest").GetString().ShouldBe("replace");
        chosen
            .GetProperty("ways")
            .EnumerateArray()
            .Single(w => w.GetProperty("verdict").GetString() == "repair")
            .GetProperty("total")
            .GetDecimal()
            .ShouldBe(1035.00m);
        chosen
            .GetProperty("ways")
            .EnumerateArray()
            .Single(w => w.GetProperty("verdict").GetString() == "replace")
            .GetProperty("total")
            .GetDecimal()
            .ShouldBe(693.00m);
        await shop.Manager.PostAsync($"/api/findings/{id}/apply", null).Refused("verdict");
        await shop.Office.PostAsync($"/api/findings/{id}/agree", null).Json(HttpStatusCode.Forbidden);
        await shop.Manager.PostAsync($"/api/findings/{id}/agree", null).Json();
        var shown = await shop.Office.GetAsync($"/api/findings/{id}/work").Json();
        var operations = (await build.Operations()).Count;
        await shop.Manager.PostAsync($"/api/findings/{id}/apply", null).Json();
        var made = (await build.Operations()).Single(o =>
            o.GetProperty("name").GetString() == "R sill: replace, finding 1"
        );
        shown.GetProperty("operation").GetProperty("name").GetString().ShouldBe("R sill: replace, finding 1");
        made.GetProperty("budgetMinutes").GetInt32().ShouldBe(360);
        (await build.Operations()).Count.ShouldBe(operations + 1);
        var dry = (await build.Operations()).Single(o =>
            o.GetProperty("name").GetString()!.StartsWith("Dry build", StringComparison.Ordinal)
        );
        dry.GetProperty("after")
            .EnumerateArray()
            .Select(a => a.GetProperty("operation").GetGuid())
            .ShouldContain(made.GetProperty("id").GetGuid());
        var part = (await shop.Office.GetAsync($"/api/builds/{build.Id}/parts").Json())
            .GetProperty("parts")
            .EnumerateArray()
            .ShouldHaveSingleItem();
        part.GetProperty("unitCost").GetDecimal().ShouldBe(300m);
        // The template allowed 34 h for sill, quarter and post: 11:15 of them go out for these 6.
        var allowed = shown.GetProperty("replaces");
        (allowed.GetProperty("minutes").GetInt32(), allowed.GetProperty("left").GetInt32()).ShouldBe((675, 1365));
        var side = (await build.Operations()).Single(o =>
            o.GetProperty("id").GetGuid() == allowed.GetProperty("operation").GetGuid()
        );
        side.GetProperty("budgetMinutes").GetInt32().ShouldBe(1365);
        side.GetProperty("panels").EnumerateArray().Select(p => p.GetString()).ShouldNotContain("sillR");
        // 1,000.00 and 6 h less 11.25 h at 60.00; 500.00 and the part, which this shop sells at cost.
        var estimate = (await shop.Manager.GetAsync($"/api/builds/{build.Id}").Json()).GetProperty("estimate");
        (estimate.GetProperty("labour").GetDecimal(), estimate.GetProperty("parts").GetDecimal()).ShouldBe(
            (685m, 800m)
        );

        // Another verdict while nobody has begun: the same operation with other hours, the part is taken off, the
        // estimate follows.
        await Choose(id, "repair").Json();
        await shop.Manager.PostAsync($"/api/findings/{id}/agree", null).Json();
        await shop.Manager.PostAsync($"/api/findings/{id}/apply", null).Json();
        var again = (await build.Operations()).Single(o =>
            o.GetProperty("id").GetGuid() == made.GetProperty("id").GetGuid()
        );
        again.GetProperty("budgetMinutes").GetInt32().ShouldBe(840);
        (await shop.Office.GetAsync($"/api/builds/{build.Id}/parts").Json())
            .GetProperty("parts")
            .GetArrayLength()
            .ShouldBe(0);
        estimate = (await shop.Manager.GetAsync($"/api/builds/{build.Id}").Json()).GetProperty("estimate");
        (
            estimate.GetProperty("labour").GetDecimal(),
            estimate.GetProperty("parts").GetDecimal(),
            estimate.GetProperty("materials").GetDecimal()
        ).ShouldBe((1165m, 500m, 160m));

        // Hours are booked now: it stays, and that is said before anything is done.
        await build.Hours(made.GetProperty("id").GetGuid(), "2026-02-20T08:00:00Z", "2026-02-20T09:00:00Z");
        await Choose(id, "replace").Json();
        (await Finding(build, id)).GetProperty("mended").GetBoolean().ShouldBeFalse();
        (await shop.Office.GetAsync($"/api/findings/{id}/work").Json())
            .GetProperty("cannotUndo")[0]
            .GetString()!
            .ShouldContain("has been begun and stays");
        await shop.Office.PostAsJsonAsync($"/api/findings/{id}/withdraw", new { reason = "no" }).Refused("id");
        await build.Reach(made.GetProperty("id").GetGuid());
        await shop.Manager.PostAsync($"/api/operations/{made.GetProperty("id").GetGuid()}/done", null).Json();
        (await Finding(build, id)).GetProperty("mended").GetBoolean().ShouldBeTrue();
    }

    [Fact]
    public async Task What_a_finding_replaced_is_not_said_by_an_edit_of_the_operation_and_comes_back_with_it()
    {
        var build = await TestBuild.Open(shop, "paint-then-assemble");
        var id = await Found(build);
        await Judge(id, Way("replace", 6, part: 300, risk: 5));
        await Choose(id, "replace").Json();
        await shop.Manager.PostAsync($"/api/findings/{id}/agree", null).Json();
        await shop.Manager.PostAsync($"/api/findings/{id}/apply", null).Json();
        var side = (await build.Operations()).Single(o =>
            o.GetProperty("terms").GetProperty("replaced").GetArrayLength() > 0
        );
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{build.Id}/operations/{side.GetProperty("id").GetGuid()}",
                new
                {
                    name = side.GetProperty("name").GetString(),
                    stage = "metal",
                    kind = "work",
                    trade = "metal",
                    budgetMinutes = 1365,
                    station = side.GetProperty("station").GetString(),
                    personId = (Guid?)null,
                    gate = (string?)null,
                    position = (int?)null,
                    panels = side.GetProperty("panels"),
                    coat = "bareSteel",
                    held = "tacked",
                    withoutStop = false,
                    hazard = "welding",
                    clockMinutes = 0,
                    after = side.GetProperty("after"),
                    terms = new { replaced = Array.Empty<object>() },
                    version = (uint?)null,
                }
            )
            .Json();
        var second = await Found(build);
        await Judge(second, Way("repair", 2));
        await Choose(second, "repair").Json();
        (await shop.Office.GetAsync($"/api/findings/{second}/work").Json())
            .GetProperty("replaces")
            .ValueKind.ShouldBe(JsonValueKind.Null);
    }

    [Fact]
    public async Task Agreement_is_to_what_was_known_and_a_way_that_is_barred_since_is_not_agreed_to()
    {
        var build = await TestBuild.Open(shop);
        var id = await Found(build, Entry("roof", structural: false, kind: "thinning"));
        await Choose(id, "leave").Json();
        await shop.Manager.PostAsync($"/api/findings/{id}/agree", null).Json();
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/findings/{id}",
                Entry("roof", structural: false, kind: "thinning")
            )
            .Json();
        (await Finding(build, id))
            .GetProperty("agreedBy")
            .GetString()
            .ShouldBe("Mara Manager", "the same facts again change nothing");
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/findings/{id}",
                Entry("roof", structural: true, kind: "thinning")
            )
            .Json();
        (await Finding(build, id)).GetProperty("agreedBy").ValueKind.ShouldBe(JsonValueKind.Null);
        await shop.Manager.PostAsync($"/api/findings/{id}/agree", null).Refused("verdict");
    }

    [Fact]
    public async Task Technicians_see_hours_and_days_of_a_way_but_no_money()
    {
        var build = await TestBuild.Open(shop);
        var id = await Found(build);
        await Judge(id, Way("replace", 6, part: 300));
        var way = (await Finding(build, id, shop.Technician)).GetProperty("ways").EnumerateArray().Last();
        way.GetProperty("hours").GetDecimal().ShouldBe(6);
        new[] { "labour", "part", "partPrice", "total" }
            .Select(n => way.GetProperty(n).GetDecimal())
            .ShouldAllBe(v => v == 0);
        (await Finding(build, id, shop.Technician)).GetProperty("cheapest").ValueKind.ShouldBe(JsonValueKind.Null);
        await shop.Technician.GetAsync($"/api/findings/{id}/work").Json(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task A_stale_change_of_a_finding_is_told()
    {
        var build = await TestBuild.Open(shop);
        var id = await Found(build);
        var version = (await Finding(build, id)).GetProperty("version").GetUInt32();
        await shop
            .Office.PutAsJsonAsync($"/api/builds/{build.Id}/findings/{id}", Entry(kind: "thinning", version: version))
            .Json();
        await shop
            .Office.PutAsJsonAsync($"/api/builds/{build.Id}/findings/{id}", Entry(kind: "dent", version: version))
            .Refused("version", HttpStatusCode.Conflict);
        (await Finding(build, id)).GetProperty("kind").GetString().ShouldBe("thinning");
    }
}

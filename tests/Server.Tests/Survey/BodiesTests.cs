using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Survey;

/// <summary>Two bodies through the API: the comparison, and the question that holds work.</summary>
public sealed class BodiesTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static object Body(params object[] zones) =>
        new
        {
            name = "Sallow Farm body",
            year = 1953,
            seenOn = "2026-02-25",
            heldUntil = "2026-03-20",
            purchase = 650,
            freight = 286,
            zones,
            spans = new[]
            {
                new
                {
                    part = "Bonnet",
                    from = 1950,
                    to = 1952,
                    differs = "",
                },
                new
                {
                    part = "Bonnet",
                    from = 1953,
                    to = 1958,
                    differs = "catch moved",
                },
            },
            identity = "",
            version = (uint?)null,
        };

    private static object Zone(string zone = "sill") =>
        new
        {
            zone,
            looked = true,
            structural = true,
            ways = new[]
            {
                new
                {
                    verdict = "repair",
                    hours = 2,
                    trade = "metal",
                    material = 0,
                    sheetM2Price = 0,
                    part = 0,
                    freight = 0,
                    leadDays = 0,
                    riskPercent = 0,
                    notSold = false,
                },
            },
            note = "",
        };

    private async Task<JsonElement> Look(TestBuild build) =>
        (await shop.Office.GetAsync($"/api/builds/{build.Id}/bodies").Json())[0];

    [Fact]
    public async Task Both_bodies_stand_zone_by_zone_and_what_crosses_the_years()
    {
        var build = await TestBuild.Open(shop);
        var id = Guid.CreateVersion7();
        await shop.Office.PutAsJsonAsync($"/api/builds/{build.Id}/bodies/{id}", Body(Zone("chimney"))).Refused("zones");
        await shop.Office.PutAsJsonAsync($"/api/builds/{build.Id}/bodies/{id}", Body(Zone())).Json();
        var two = await Look(build);
        var sill = two.GetProperty("rungs").EnumerateArray().Single(r => r.GetProperty("zone").GetString() == "sill");
        sill.GetProperty("other").GetProperty("total").GetDecimal().ShouldBe(120m);
        sill.GetProperty("own").GetProperty("how").GetString().ShouldBe("not looked at");
        two.GetProperty("ownSaves").ValueKind.ShouldBe(JsonValueKind.Null);
        // The build is of 1951, the body of 1953.
        two.GetProperty("fits")[0].GetProperty("differs").GetString().ShouldBe("catch moved");
        await shop.Technician.GetAsync($"/api/builds/{build.Id}/bodies").Json(HttpStatusCode.Forbidden);
        var other = await TestBuild.Open(shop);
        await shop.Office.PutAsJsonAsync($"/api/builds/{other.Id}/bodies/{id}", Body(Zone())).Refused("id");
    }

    [Fact]
    public async Task The_open_choice_holds_named_work_until_it_is_taken()
    {
        var build = await TestBuild.Open(shop);
        var (id, question) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await shop.Office.PutAsJsonAsync($"/api/builds/{build.Id}/bodies/{id}", Body()).Json();
        var work = await build.Operation("Carburettors");
        await shop
            .Office.PostAsJsonAsync(
                $"/api/bodies/{id}/ask",
                new
                {
                    id = question,
                    holds = new[] { Guid.CreateVersion7() },
                    dueOn = "2026-03-20",
                }
            )
            .Refused("holds");
        await shop
            .Office.PostAsJsonAsync(
                $"/api/bodies/{id}/ask",
                new
                {
                    id = question,
                    holds = new[] { work },
                    dueOn = "2026-03-20",
                }
            )
            .Json();
        await shop
            .Office.PostAsJsonAsync(
                $"/api/bodies/{id}/ask",
                new
                {
                    id = Guid.CreateVersion7(),
                    holds = Array.Empty<Guid>(),
                    dueOn = "2026-03-20",
                }
            )
            .Refused("id");
        await shop.Technician.StartClock(work, person: shop.TechnicianPerson).Refused("operationId");
        var decision = (await shop.Manager.GetAsync("/api/floor").Json())
            .GetProperty("decisions")
            .EnumerateArray()
            .Single(d => d.GetProperty("id").GetGuid() == question);
        decision.GetProperty("detail").GetString()!.ShouldContain("local law");
        await shop.Manager.PostAsJsonAsync($"/api/decisions/{question}/answer", new { answer = "Keep its own" }).Json();
        await shop.Technician.StartClock(work, person: shop.TechnicianPerson).Json();
    }
}

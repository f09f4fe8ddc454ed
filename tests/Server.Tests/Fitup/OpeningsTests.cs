using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Fitup;

/// <summary>Openings on every path: measured, measured again after a weld, slips, roles, and the gate.</summary>
public sealed class OpeningsTests(ShopFixture shop) : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private TestBuild _build = null!;

    public async ValueTask InitializeAsync() => (_build, _) = await TestBuild.OpenPair(shop);

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private Task<HttpResponseMessage> Measure(
        HttpClient who,
        decimal d1,
        decimal d2,
        Guid? id = null,
        string opening = "cabin",
        string when = "before the floor is cut"
    ) =>
        who.PostAsJsonAsync(
            $"/api/builds/{_build.Id}/openings",
            new
            {
                id = id ?? Guid.CreateVersion7(),
                opening,
                diagonal1 = d1,
                diagonal2 = d2,
                width = 1200,
                side = 900,
                unit = "mm",
                when,
            }
        );

    private async Task<JsonElement> Cabin() =>
        (await shop.Office.GetAsync($"/api/builds/{_build.Id}/openings").Json())
            .EnumerateArray()
            .Single(o => o.GetProperty("key").GetString() == "cabin");

    [Fact]
    public async Task A_leaning_cabin_keeps_the_dry_builds_gate_shut_until_it_is_pulled_square()
    {
        await _build.LeaveGapsOut();
        var gate = await _build.Add(TestBuild.Work("Fit-up", kind: "gate", gate: "fitUp"));
        Task<HttpResponseMessage> Sign() =>
            shop.Manager.PostAsJsonAsync($"/api/operations/{gate}/sign", new { seen = (string[]?)null });
        await Measure(shop.Technician, 1510, 1490).Json();
        (await Cabin()).GetProperty("wrong").GetString().ShouldBe("leans 12.5 mm to the right");
        (await Sign().Refused("id")).GetProperty("detail").GetString()!.ShouldContain("Cabin floor leans 12.5 mm");
        await Measure(shop.Technician, 1501, 1499, when: "pulled and braced").Json();
        var cabin = await Cabin();
        cabin.GetProperty("wrong").GetString().ShouldBe("");
        cabin.GetProperty("rounds")[1].GetProperty("driftMm").GetDouble().ShouldBe(-11.25, 1e-9);
        await Sign().Json();
    }

    [Fact]
    public async Task A_measurement_is_kept_once_and_a_slip_is_taken_back()
    {
        var id = Guid.CreateVersion7();
        await Measure(shop.Technician, 1510, 1490, id).Json();
        await Measure(shop.Technician, 1510, 1490, id).Json();
        (await Cabin()).GetProperty("rounds").GetArrayLength().ShouldBe(1);
        (await Measure(shop.Technician, 1511, 1490, id)).IsSuccessStatusCode.ShouldBeFalse();
        (await Measure(shop.Office, 1510, 1490)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        await Measure(shop.Technician, 600, 590).Refused("diagonal1");
        await Measure(shop.Technician, 1510, 1490, opening: "attic").Refused("opening");
        await Measure(shop.Technician, 1510, 1490, when: "").Refused("when");
        await shop.Technician.PostAsync($"/api/opening-readings/{id}/take-back", null).Json();
        (await Cabin()).GetProperty("rounds").GetArrayLength().ShouldBe(0);
    }
}

using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Builds;

/// <summary>The arrival record through the API: requests, the round, doors, stand-ins.</summary>
public sealed class ArrivalTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private readonly Guid _lamps = Guid.CreateVersion7();
    private readonly Guid _standIn = Guid.CreateVersion7();

    private readonly Guid _danger = Guid.CreateVersion7();

    private object Body(int lamps = 0, int bodyMm = 2310, uint? version = null, bool withLamps = true) =>
        new
        {
            cameOn = "2026-03-01",
            @as = "rollingShell",
            onWhose = "",
            serial = 1187,
            breaks = new[]
            {
                new
                {
                    at = 1150,
                    before = "cone clutch",
                    from = "plate clutch",
                },
            },
            odometer = 48_210,
            keys = 1,
            fluids = new[] { "fuel, half a tank" },
            battery = "starter",
            storage = "shelf 12",
            promised = withLamps
                ? new[]
                {
                    new
                    {
                        id = _lamps,
                        what = "Head lamps",
                        promised = 2,
                        came = lamps,
                    },
                }
                : [],
            cameUnasked = new[] { "a horn" },
            standIns = new[]
            {
                new
                {
                    id = _standIn,
                    what = "Radiator core",
                    whose = "build 43",
                    returnBy = "2026-04-10",
                    returnedOn = (string?)null,
                },
            },
            toUndo = new[] { "bars welded into the door openings" },
            hazards = new[]
            {
                new
                {
                    id = _danger,
                    hazard = "asbestos",
                    where = "pad behind the bulkhead",
                    next = "licensed removal, booked",
                    settled = false,
                },
            },
            heights = new
            {
                bodyMm,
                dollyMm = 520,
                keptFreeMm = 50,
                lower = new[] { new { how = "bows off", byMm = 640 } },
            },
            version,
        };

    private Task<JsonElement> Look(TestBuild build) =>
        shop.Technician.GetAsync($"/api/builds/{build.Id}/arrival").Json();

    private Task<HttpResponseMessage> Put(TestBuild build, object body) =>
        shop.Technician.PutAsJsonAsync($"/api/builds/{build.Id}/arrival", body);

    [Fact]
    public async Task What_is_missing_is_asked_for_with_a_day_and_the_plan_waits_for_it()
    {
        var build = await TestBuild.Open(shop);
        (await Look(build)).GetProperty("written").GetBoolean().ShouldBeFalse();
        await Put(build, Body()).Json();
        var work = await build.Operation("Carburettors");
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/builds/{build.Id}/arrival/pieces/{_lamps}/ask",
                new { by = "2026-03-20", operationId = work }
            )
            .Json(HttpStatusCode.Forbidden);
        await shop
            .Office.PostAsJsonAsync(
                $"/api/builds/{build.Id}/arrival/pieces/{_lamps}/ask",
                new { by = "2026-01-01", operationId = work }
            )
            .Refused("by");
        await shop
            .Office.PostAsJsonAsync(
                $"/api/builds/{build.Id}/arrival/pieces/{_lamps}/ask",
                new { by = "2026-03-20", operationId = work }
            )
            .Json();
        var part = (await shop.Office.GetAsync($"/api/builds/{build.Id}/parts").Json())
            .GetProperty("parts")
            .EnumerateArray()
            .ShouldHaveSingleItem();
        (
            part.GetProperty("clientSupplied").GetBoolean(),
            part.GetProperty("quantity").GetDecimal(),
            part.GetProperty("expectedOn").GetString()
        ).ShouldBe((true, 2m, "2026-03-20"));
        string.CompareOrdinal((await build.Card()).GetProperty("likely").GetString(), "2026-03-20")
            .ShouldBeGreaterThanOrEqualTo(0);
        // The record may change; what was asked for stays asked for and in the list.
        await Put(build, Body(lamps: 1)).Json();
        var piece = (await Look(build)).GetProperty("promised")[0];
        (piece.GetProperty("missing").GetInt32(), piece.GetProperty("by").GetString()).ShouldBe((1, "2026-03-20"));
        await Put(build, Body(withLamps: false)).Refused("promised");
    }

    [Fact]
    public async Task Doors_numbers_and_hazards_are_answered_from_the_record()
    {
        var build = await TestBuild.Open(shop);
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/stations/{Guid.CreateVersion7()}",
                new
                {
                    name = "Booth",
                    kind = "booth",
                    count = 1,
                    xMm = 0,
                    yMm = 0,
                    widthMm = 6000,
                    depthMm = 4000,
                    doorHeightMm = 2750,
                    walled = true,
                    version = (uint?)null,
                }
            )
            .Json();
        await Put(build, Body()).Json();
        var look = await Look(build);
        var booth = look.GetProperty("doors")
            .EnumerateArray()
            .Single(d => d.GetProperty("name").GetString() == "Booth");
        (booth.GetProperty("fits").GetBoolean(), booth.GetProperty("spareMm").GetDouble()).ShouldBe((false, -130));
        booth.GetProperty("ways")[0].GetProperty("spareMm").GetDouble().ShouldBe(510);
        look.GetProperty("breaks")[0].GetProperty("fitted").GetString().ShouldBe("plate clutch");
        look.GetProperty("hazards")[0].GetProperty("caution").GetString()!.ShouldContain("licensed removal");
        await Put(build, Body(bodyMm: 0)).Refused("bodyMm");
        var version = look.GetProperty("version").GetUInt32();
        await Put(build, Body(lamps: 2, version: version)).Json();
        await Put(build, Body(lamps: 1, version: version)).Refused("version", HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task A_stand_in_goes_back_and_the_round_takes_only_its_own_pictures()
    {
        var build = await TestBuild.Open(shop);
        await Put(build, Body()).Json();
        await shop.Technician.PostAsync($"/api/builds/{build.Id}/arrival/stand-ins/{_standIn}/return", null).Json();
        (await Look(build)).GetProperty("standIns")[0].GetProperty("returnedOn").GetString().ShouldBe("2026-03-02");
        await shop
            .Technician.PostAsync($"/api/builds/{build.Id}/arrival/stand-ins/{Guid.CreateVersion7()}/return", null)
            .Refused("id");
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/arrival/round/front",
                new { photoId = Guid.CreateVersion7() }
            )
            .Refused("photoId");
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/arrival/round/chimney",
                new { photoId = Guid.CreateVersion7() }
            )
            .Refused("station");
        (await Look(build)).GetProperty("round").GetArrayLength().ShouldBe(14);
    }
}

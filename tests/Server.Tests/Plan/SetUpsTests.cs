using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using NodaTime;

namespace FirstCoat.Server.Tests.Plan;

/// <summary>Work of two builds that could be blasted on one day: proposed, done, taken back, by a manager
/// alone.</summary>
public sealed class SetUpsTests(ShopFixture shop) : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private TestBuild _early = null!;
    private TestBuild _late = null!;
    private Guid _first;
    private Guid _second;

    public async ValueTask InitializeAsync()
    {
        shop.At(new LocalDate(2026, 3, 2), 8, 0);
        if ((await shop.Manager.GetAsync("/api/shop").Json()).GetProperty("stations").GetArrayLength() == 0)
        {
            await shop
                .Manager.PutAsJsonAsync(
                    $"/api/shop/stations/{Guid.CreateVersion7()}",
                    new
                    {
                        name = "Blast pad",
                        kind = "blast",
                        count = 1,
                        xMm = 0,
                        yMm = 0,
                        widthMm = 5000,
                        depthMm = 8000,
                        doorHeightMm = 2600,
                        walled = false,
                        version = (uint?)null,
                    }
                )
                .Json();
        }

        (_early, _late) = await TestBuild.OpenPair(shop);
        _first = await _early.Add(TestBuild.Work("Blast the wings", 240, station: "blast"));
        var weld = await _late.Add(TestBuild.Work("Weld the floor", 1440));
        _second = await _late.Add(
            TestBuild.Work("Blast the doors", 240, station: "blast", after: [new { operation = weld, lagMinutes = 0 }])
        );
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private async Task<JsonElement?> Proposed()
    {
        var all = (await shop.Manager.GetAsync("/api/plan/set-ups").Json()).EnumerateArray().ToList();
        return all.Where(s => Works(s).Contains(_first)).Select(s => (JsonElement?)s).SingleOrDefault();
    }

    private static List<Guid> Works(JsonElement setUp) =>
        [.. setUp.GetProperty("works").EnumerateArray().Select(w => w.GetProperty("operationId").GetGuid())];

    private async Task<DateTimeOffset> Starts(TestBuild build, Guid operation) =>
        (await build.Operations())
            .Single(o => o.GetProperty("id").GetGuid() == operation)
            .GetProperty("starts")
            .GetDateTimeOffset();

    private Task<HttpResponseMessage> Share(JsonElement setUp, HttpClient? by = null) =>
        (by ?? shop.Manager).PostAsJsonAsync(
            "/api/plan/set-ups",
            new
            {
                works = setUp
                    .GetProperty("works")
                    .EnumerateArray()
                    .Select(w => new
                    {
                        operationId = w.GetProperty("operationId").GetGuid(),
                        on = w.GetProperty("on").GetString(),
                        version = w.GetProperty("version").GetUInt32(),
                    }),
                batch = setUp.GetProperty("batch").GetString(),
            }
        );

    [Fact]
    public async Task What_is_said_is_what_comes_and_it_goes_back_whole()
    {
        var before = (await Starts(_early, _first), await Starts(_late, _second));
        var said = (await Proposed())!.Value;
        Works(said).ShouldBe([_first, _second]);
        (said.GetProperty("setUpsBefore").GetInt32(), said.GetProperty("setUpsAfter").GetInt32()).ShouldBe((2, 1));
        var then = said.GetProperty("works")
            .EnumerateArray()
            .Select(w => w.GetProperty("after").GetDateTimeOffset())
            .ToList();
        (await Starts(_early, _first)).ShouldBe(before.Item1, "nothing is kept by asking");
        var shared = await Share(said).Json();
        new[] { await Starts(_early, _first), await Starts(_late, _second) }.ShouldBe(then);
        (await Proposed()).ShouldBeNull("its day is settled now");

        // Each build tells it among the changes of its order of work.
        (await shop.Technician.GetAsync($"/api/builds/{_early.Id}/sequence-changes").Json())[0]
            .GetProperty("what")
            .GetString()
            .ShouldBe("“Blast the wings” is done together with others");
        (await shop.Technician.PostAsJsonAsync("/api/plan/set-ups/part", shared)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await shop.Manager.PostAsJsonAsync("/api/plan/set-ups/part", shared)).StatusCode.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await Starts(_early, _first), await Starts(_late, _second)).ShouldBe(before);
        (await Proposed()).ShouldNotBeNull();
    }

    [Fact]
    public async Task Of_what_somebody_changed_since_nothing_is_put_together_and_nothing_taken_back()
    {
        var said = (await Proposed())!.Value;
        async Task Pin(string? on) =>
            await shop
                .Manager.PostAsJsonAsync(
                    $"/api/operations/{_second}/pin",
                    new
                    {
                        on,
                        personId = (Guid?)null,
                        placeId = (Guid?)null,
                        version = (uint?)null,
                    }
                )
                .Json();
        await Pin("2026-03-12");
        (await Share(said)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await _early.Operations())[0]
            .GetProperty("terms")
            .GetProperty("pinnedOn")
            .ValueKind.ShouldBe(JsonValueKind.Null);

        await Pin(null);
        var shared = await Share((await Proposed())!.Value).Json();
        await Pin("2026-03-13");
        await shop.Manager.PostAsJsonAsync("/api/plan/set-ups/part", shared).Refused("id");
        (await _early.Operations())[0]
            .GetProperty("terms")
            .GetProperty("pinnedOn")
            .ValueKind.ShouldBe(JsonValueKind.String, "all of it goes back, or none");
    }

    [Fact]
    public async Task Work_of_our_own_does_not_leave_with_a_batch_and_one_alone_is_not_put_together()
    {
        var works = new[] { _first, _second }.Select(id => new
        {
            operationId = id,
            on = (string?)null,
            version = (uint?)null,
        });
        var body = new { works, batch = "Plater, 2 March" };
        await shop.Manager.PostAsJsonAsync("/api/plan/set-ups", body).Refused("batch");
        await shop
            .Manager.PostAsJsonAsync("/api/plan/set-ups", new { works = works.Take(1), batch = "" })
            .Refused("works");
    }
}

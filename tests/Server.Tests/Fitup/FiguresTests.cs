using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.AspNetCore.SignalR.Client;

namespace FirstCoat.Server.Tests.Fitup;

/// <summary>Figures, middles, mirrored places, mounts and bolts on every path: entered, read, repeated, taken back, by
/// whom they may not be, and what a mount's shim does to lines and gates.</summary>
public sealed class FiguresTests(ShopFixture shop) : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private TestBuild _build = null!;

    public async ValueTask InitializeAsync() => (_build, _) = await TestBuild.OpenPair(shop);

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private static object Spec(
        decimal? specified = 355,
        string source = "Manual",
        uint? version = null,
        string panel = ""
    ) =>
        new
        {
            name = "front ride height",
            panel,
            specified,
            tolerance = 5,
            unit = "mm",
            source,
            page = "12",
            photoId = (Guid?)null,
            version,
        };

    private Task<HttpResponseMessage> Put(HttpClient who, Guid id, object spec) =>
        who.PutAsJsonAsync($"/api/builds/{_build.Id}/figures/{id}", spec);

    private Task<HttpResponseMessage> Post(string path, object body, HttpClient? who = null) =>
        (who ?? shop.Technician).PostAsJsonAsync($"/api/{path}", body);

    private async Task<JsonElement> Look() => await shop.Office.GetAsync($"/api/builds/{_build.Id}/figures").Json();

    [Fact]
    public async Task A_figure_is_entered_read_once_and_judged()
    {
        var id = Guid.CreateVersion7();
        (await Put(shop.Office, id, Spec())).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        await Put(shop.Technician, id, Spec(source: "")).Refused("source");
        await Put(shop.Technician, id, Spec(specified: null, source: "")).Refused("photoId");
        await Put(shop.Technician, id, Spec(panel: "attic")).Refused("panel");
        var saved = await Put(shop.Technician, id, Spec()).Json();
        var reading = new
        {
            id = Guid.CreateVersion7(),
            value = 361.5,
            instrument = "tape 3",
        };
        await Post($"figures/{id}/readings", reading).Json();
        await Post($"figures/{id}/readings", reading).Json();

        var spec = (await Look()).GetProperty("specs")[0];
        spec.GetProperty("readings").GetArrayLength().ShouldBe(1);
        spec.GetProperty("isOut").GetBoolean().ShouldBeTrue();
        spec.GetProperty("words").GetString().ShouldBe("361.5 mm, specified 355 mm: 6.5 mm too much");
        // It was read in between: what was seen before is old.
        var old = saved.GetProperty("version").GetUInt32();
        (await Put(shop.Manager, id, Spec(360, version: old))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await Put(shop.Manager, id, Spec(360, version: spec.GetProperty("version").GetUInt32())).Json();
        (await Look()).GetProperty("specs")[0].GetProperty("isOut").GetBoolean().ShouldBeFalse();
        await Post($"figures/{id}/take-back", new { }).Json();
        await Post($"figures/{id}/take-back", new { }).Refused("id");
        await Post($"figures/{id}/remove", new { }).Json();
        (await Look()).GetProperty("specs").GetArrayLength().ShouldBe(0);
    }

    [Fact]
    public async Task A_figure_of_another_build_is_not_taken_over()
    {
        var id = Guid.CreateVersion7();
        await Put(shop.Technician, id, Spec()).Json();
        var (other, _) = await TestBuild.OpenPair(shop);
        await shop.Technician.PutAsJsonAsync($"/api/builds/{other.Id}/figures/{id}", Spec()).Refused("id");
    }

    [Fact]
    public async Task Middles_and_mirrored_places_say_where_to_go()
    {
        object Mark(decimal left, string what = "badge") =>
            new
            {
                id = Guid.CreateVersion7(),
                what,
                panel = "",
                left,
                right = 618,
                tolerance = 2,
                unit = "mm",
            };
        await Post($"builds/{_build.Id}/centres", Mark(-1)).Refused("left");
        await Post($"builds/{_build.Id}/centres", Mark(612, "")).Refused("what");
        var centre = await Post($"builds/{_build.Id}/centres", Mark(612)).Json();
        (await Look()).GetProperty("centres")[0].GetProperty("moveRightMm").GetDouble().ShouldBe(3);
        await Post($"centres/{centre.GetProperty("id").GetGuid()}/take-back", new { }).Json();

        var place = Guid.CreateVersion7();
        await Post(
                $"builds/{_build.Id}/mirrors",
                new
                {
                    id = place,
                    name = "sill to arch",
                    panel = "",
                    sound = "left",
                    asymmetry = -2,
                    tolerance = 1,
                    unit = "mm",
                }
            )
            .Json();
        Task<HttpResponseMessage> Read(string side, decimal value) =>
            Post(
                $"mirrors/{place}/readings",
                new
                {
                    id = Guid.CreateVersion7(),
                    side,
                    value,
                }
            );
        await Read("centre", 412).Refused("side");
        await Read("left", 412).Json();
        await Read("right", 414).Json();
        var look = await Look();
        look.GetProperty("centres").GetArrayLength().ShouldBe(0);
        look.GetProperty("mirrors")[0].GetProperty("targetMm").GetDouble().ShouldBe(410);
        look.GetProperty("mirrors")[0].GetProperty("offMm").GetDouble().ShouldBe(4);
        look.GetProperty("mirrors")[0].GetProperty("isOut").GetBoolean().ShouldBeTrue();
    }

    [Fact]
    public async Task A_shim_in_a_mount_asks_for_its_lines_again_by_its_name_and_shuts_the_gate()
    {
        var fit = await shop.Office.GetAsync($"/api/builds/{_build.Id}/fit").Json();
        var line = fit.GetProperty("lines")[0];
        var panel = line.GetProperty("between")[0].GetString();
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/builds/{_build.Id}/fit/readings",
                new
                {
                    id = Guid.CreateVersion7(),
                    line = line.GetProperty("key").GetString(),
                    round = "beforeWeld",
                    station = 1,
                    measure = "gap",
                    value = 4,
                    unit = "mm",
                    instrument = "",
                }
            )
            .Json();
        var mount = Guid.CreateVersion7();
        await Post(
                $"builds/{_build.Id}/mounts",
                new
                {
                    id = mount,
                    name = "3 R",
                    panels = Array.Empty<string>(),
                }
            )
            .Refused("panels");
        await Post(
                $"builds/{_build.Id}/mounts",
                new
                {
                    id = mount,
                    name = "3 R",
                    panels = new[] { panel },
                }
            )
            .Json();
        var seen = (await Look()).GetProperty("mounts")[0].GetProperty("version").GetUInt32();
        var shim = new
        {
            id = Guid.CreateVersion7(),
            shimMm = 4.5,
            version = seen,
        };
        await Post($"mounts/{mount}/shim", shim).Json();
        await Post($"mounts/{mount}/shim", shim).Json();
        (
            await Post(
                $"mounts/{mount}/shim",
                new
                {
                    id = Guid.CreateVersion7(),
                    shimMm = 6,
                    version = seen,
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Conflict);

        var after = await shop.Office.GetAsync($"/api/builds/{_build.Id}/fit").Json();
        after
            .GetProperty("lines")
            .EnumerateArray()
            .First(l => l.GetProperty("key").GetString() == line.GetProperty("key").GetString())
            .GetProperty("rounds")[0]
            .GetProperty("stations")[0]
            .GetProperty("touched")
            .GetString()
            .ShouldBe("Mount 3 R: shims 0.0 to 4.5 mm");
        after.GetProperty("changes").GetArrayLength().ShouldBe(1);
        (await Look()).GetProperty("mounts")[0].GetProperty("shimMm").GetDecimal().ShouldBe(4.5m);
    }

    [Fact]
    public async Task Bolts_go_in_their_order()
    {
        var set = Guid.CreateVersion7();
        object Order(int bolts) =>
            new
            {
                id = set,
                name = "Cylinder head",
                source = "Manual, 21",
                bolts = Enumerable.Range(1, bolts).Select(n => new { name = $"bolt {n}", torque = "40 Nm" }),
            };
        await Post($"builds/{_build.Id}/bolts", Order(0)).Refused("steps");
        await Post($"builds/{_build.Id}/bolts", Order(3)).Json();
        await Post($"bolts/{set}/tight", new { number = 2, tight = true }).Refused("number");
        await Post($"bolts/{set}/tight", new { number = 1, tight = true }).Json();
        (await Look()).GetProperty("bolts")[0].GetProperty("next").GetInt32().ShouldBe(2);
        await Post($"bolts/{set}/tight", new { number = 1, tight = false }).Json();
        (await Look()).GetProperty("bolts")[0].GetProperty("next").GetInt32().ShouldBe(1);
        (await Post($"bolts/{set}/tight", new { number = 1, tight = true }, shop.Office)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
    }

    [Fact]
    public async Task What_a_gauge_sends_is_heard_by_whoever_pressed_and_nobody_else()
    {
        async Task<(HubConnection Live, TaskCompletionSource<string> Heard)> Listen(HttpClient who)
        {
            var cookie = shop.CookieOf(who);
            var live = new HubConnectionBuilder()
                .WithUrl("http://localhost/live", o =>
                {
                    o.HttpMessageHandlerFactory = _ => shop.Server.CreateHandler();
                    o.Transports = Microsoft.AspNetCore.Http.Connections.HttpTransportType.LongPolling;
                    o.Headers["Cookie"] = cookie;
                })
                .Build();
            var heard = new TaskCompletionSource<string>(TaskCreationOptions.RunContinuationsAsynchronously);
            live.On<JsonElement>("gauge", figure => heard.TrySetResult(figure.ToString()));
            await live.StartAsync();
            return (live, heard);
        }

        var (own, heard) = await Listen(shop.Technician);
        var (other, unheard) = await Listen(shop.Manager);
        await Post("gauge", new { value = 157, unit = "thou" }).Json();
        (await heard.Task.WaitAsync(TimeSpan.FromSeconds(60))).ShouldBe("""{"value":157,"unit":"thou"}""");
        unheard.Task.IsCompleted.ShouldBeFalse();
        await Post("gauge", new { value = 99_999, unit = "mm" }).Refused("value");
        (await Post("gauge", new { value = 4, unit = "mm" }, shop.Office)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        await own.DisposeAsync();
        await other.DisposeAsync();
    }
}

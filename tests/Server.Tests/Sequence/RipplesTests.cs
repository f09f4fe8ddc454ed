using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Sequence;

/// <summary>Finished work is another now: what rested on it is listed, judged by the manager, and becomes work
/// again.</summary>
public sealed class RipplesTests(ShopFixture shop) : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private TestBuild _build = null!;
    private Guid _tunnel;
    private Guid _floor;
    private Guid _gate;
    private Guid _shaft;
    private Guid _carpet;

    public async ValueTask InitializeAsync()
    {
        (_build, _) = await TestBuild.OpenPair(shop);
        _tunnel = await _build.Add(TestBuild.Work("Tunnel", 120));
        _floor = await _build.Add(TestBuild.Work("Floor", 120, after: [After(_tunnel)]));
        _gate = await _build.Add(TestBuild.Work("Datum", kind: "gate", gate: "datum", after: [After(_floor)]));
        _shaft = await _build.Add(TestBuild.Work("Shaft", 120, after: [After(_gate)]));
        _carpet = await _build.Add(TestBuild.Work("Carpet", 120, after: [After(_shaft)]));
        await Done(_tunnel).Json();
        await Done(_floor).Json();
        await shop.Manager.PostAsJsonAsync($"/api/operations/{_gate}/sign", new { seen = (string[]?)null }).Json();
        await Done(_shaft).Json();
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private static object After(Guid operation) => new { operation, lagMinutes = 0 };

    private Task<HttpResponseMessage> Done(Guid id) => shop.Manager.PostAsync($"/api/operations/{id}/done", null);

    private Task<HttpResponseMessage> Say(Guid id, Guid operation, string what = "raised by 40") =>
        shop.Manager.PostAsJsonAsync(
            "/api/ripples",
            new
            {
                id,
                operationId = operation,
                what,
            }
        );

    private Task<HttpResponseMessage> Judge(Guid id, Guid thing, string verdict, uint? version = null) =>
        shop.Manager.PostAsJsonAsync(
            $"/api/ripples/{id}/judge",
            new
            {
                thing,
                verdict,
                minutes = 45,
                version,
            }
        );

    private async Task<JsonElement> Listed() =>
        (await shop.Technician.GetAsync($"/api/builds/{_build.Id}/ripples").Json())[0];

    private async Task<JsonElement> Of(Guid id) =>
        (await _build.Operations()).Single(o => o.GetProperty("id").GetGuid() == id);

    private static bool IsDone(JsonElement operation) =>
        operation.GetProperty("doneAt").ValueKind != JsonValueKind.Null;

    [Fact]
    public async Task What_is_judged_becomes_work_again_or_stays()
    {
        var resting = await shop.Technician.GetAsync($"/api/operations/{_tunnel}/rests").Json();
        resting.EnumerateArray().Select(r => r.GetProperty("id").GetGuid()).ShouldBe([_floor, _gate, _shaft]);
        var id = Guid.CreateVersion7();
        await Say(id, _tunnel).Json();
        await Say(id, _tunnel).Json();
        (await shop.Technician.GetAsync($"/api/builds/{_build.Id}/ripples").Json()).GetArrayLength().ShouldBe(1);
        var version = (await Listed()).GetProperty("version").GetUInt32();
        await Judge(id, _floor, "stillGood", version).Json();
        // Whoever saw the list before that sees it anew.
        (await Judge(id, _gate, "stillGood", version)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        IsDone(await Of(_floor)).ShouldBeTrue();
        await Judge(id, _gate, "redo").Json();
        var gate = await Of(_gate);
        IsDone(gate).ShouldBeFalse();
        await Judge(id, _shaft, "redo").Json();
        var shaft = await Of(_shaft);
        IsDone(shaft).ShouldBeFalse();
        // All of its hours lie before it again.
        shaft.GetProperty("statedShare").GetDecimal().ShouldBe(0);
        (await Listed())
            .GetProperty("rests")
            .EnumerateArray()
            .ShouldAllBe(r => r.GetProperty("verdict").ValueKind == JsonValueKind.String);
        await Judge(id, _shaft, "stillGood").Refused("verdict");
    }

    [Fact]
    public async Task A_check_is_work_before_what_follows()
    {
        var id = Guid.CreateVersion7();
        await Say(id, _tunnel).Json();
        // A gate that is signed anew asks for what nobody has judged of the work before it.
        async Task<List<string?>> Missing() =>
            [
                .. (await shop.Manager.GetAsync($"/api/operations/{_gate}/gate").Json())
                    .GetProperty("asks")
                    .EnumerateArray()
                    .Select(a => a.GetProperty("missing").GetString()),
            ];
        await Judge(id, _gate, "redo").Json();
        (await Missing()).ShouldContain("Floor is not judged since “raised by 40”");
        await Judge(id, _floor, "stillGood").Json();
        (await Missing()).ShouldNotContain("Floor is not judged since “raised by 40”");
        await Judge(id, _shaft, "check").Json();
        var look = (await _build.Operations()).Single(o => o.GetProperty("name").GetString() == "Check: Shaft");
        look.GetProperty("budgetMinutes").GetInt32().ShouldBe(45);
        (await Of(_carpet))
            .GetProperty("after")
            .EnumerateArray()
            .Select(a => a.GetProperty("operation").GetGuid())
            .ShouldBe([_shaft, look.GetProperty("id").GetGuid()]);
        IsDone(await Of(_shaft)).ShouldBeTrue();
    }

    [Fact]
    public async Task Only_finished_work_has_something_resting_on_it_and_only_the_manager_says_so()
    {
        await Say(Guid.CreateVersion7(), _carpet).Refused("operationId");
        await Say(Guid.CreateVersion7(), _gate).Refused("operationId");
        await Say(Guid.CreateVersion7(), _tunnel, " ").Refused("what");
        (
            await shop.Technician.PostAsJsonAsync(
                "/api/ripples",
                new
                {
                    id = Guid.CreateVersion7(),
                    operationId = _tunnel,
                    what = "raised",
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }
}

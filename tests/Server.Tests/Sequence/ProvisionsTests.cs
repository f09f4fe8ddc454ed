using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Sequence;

/// <summary>What later work needs in the metal: said and ticked off by anybody of the shop, asked for by the gate
/// before paint, kept through a merge.</summary>
public sealed class ProvisionsTests(ShopFixture shop) : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private TestBuild _build = null!;
    private Guid _gate;
    private Guid _brakes;
    private Guid _wiring;

    public async ValueTask InitializeAsync()
    {
        (_build, _) = await TestBuild.OpenPair(shop);
        var weld = await _build.Add(TestBuild.Work("Weld out"));
        _gate = await _build.Add(
            TestBuild.Work("Provisions complete", kind: "gate", gate: "provisions", after: [After(weld)])
        );
        _brakes = await _build.Add(TestBuild.Work("Brake lines", after: [After(_gate)]));
        _wiring = await _build.Add(TestBuild.Work("Fuel lines", after: [After(_gate)]));
        await shop.Manager.PostAsync($"/api/operations/{weld}/done", null).Json();
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private static object After(Guid operation) => new { operation, lagMinutes = 0 };

    private static Task<HttpResponseMessage> Say(
        HttpClient who,
        Guid id,
        Guid of,
        string what,
        string kind = "hole",
        string where = ""
    ) =>
        who.PostAsJsonAsync(
            "/api/provisions",
            new
            {
                id,
                operationId = of,
                kind,
                what,
                where,
            }
        );

    private async Task<List<string>> Missing() =>
        [
            .. (await shop.Manager.GetAsync($"/api/operations/{_gate}/gate").Json())
                .GetProperty("asks")
                .EnumerateArray()
                .Select(a => a.GetProperty("missing").GetString()!)
                .Where(m => m.Length > 0 && !m.StartsWith("no photo", StringComparison.Ordinal)),
        ];

    private async Task<List<JsonElement>> Listed() =>
        [.. (await shop.Technician.GetAsync($"/api/builds/{_build.Id}/provisions").Json()).EnumerateArray()];

    private async Task<JsonElement> Said(Guid of) =>
        (await Listed()).Single(p => p.GetProperty("operationId").GetGuid() == of).GetProperty("said");

    [Fact]
    public async Task The_gate_asks_until_it_is_said_and_made_and_is_signed_without_by_name()
    {
        (await Missing()).Count.ShouldBe(2);
        (await Listed()).Select(p => p.GetProperty("gate").GetString()).Distinct().ShouldBe(["Provisions complete"]);
        var (hole, nothing) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        // The technician who thinks of it says it; sent twice it is one.
        await Say(shop.Technician, hole, _brakes, "the handbrake cable", where: "left sill").Json();
        await Say(shop.Technician, hole, _brakes, "the handbrake cable", where: "left sill").Json();
        await Say(shop.Manager, nothing, _wiring, "clips stay", "nothing").Json();
        (await Missing()).ShouldBe(["Brake lines: no hole for the handbrake cable, left sill"]);
        var row = (await Said(_brakes)).EnumerateArray().ShouldHaveSingleItem();
        var version = row.GetProperty("version").GetUInt32();
        await shop.Technician.PostAsJsonAsync($"/api/provisions/{hole}/made", new { made = true, version }).Json();
        (await Missing()).ShouldBeEmpty();
        (await Said(_brakes))[0].GetProperty("madeBy").GetString().ShouldNotBeEmpty();
        // Somebody who looked before that takes nothing back unseen.
        (
            await shop.Manager.PostAsJsonAsync($"/api/provisions/{hole}/made", new { made = false, version })
        ).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        version = (await Said(_brakes))[0].GetProperty("version").GetUInt32();
        await shop.Manager.PostAsJsonAsync($"/api/provisions/{hole}/made", new { made = false, version }).Json();
        var missing = await Missing();
        missing.ShouldHaveSingleItem();
        var all = (await shop.Manager.GetAsync($"/api/operations/{_gate}/gate").Json())
            .GetProperty("asks")
            .EnumerateArray()
            .Select(a => a.GetProperty("missing").GetString()!)
            .Where(m => m.Length > 0)
            .ToList();
        await shop.Manager.PostAsJsonAsync($"/api/operations/{_gate}/sign", new { seen = all }).Json();
        (await _build.Operations())
            .Single(o => o.GetProperty("id").GetGuid() == _gate)
            .GetProperty("signatures")[0]
            .GetProperty("without")
            .GetString()!
            .ShouldContain(missing[0]);
    }

    [Fact]
    public async Task What_is_taken_off_is_asked_again_and_words_are_checked()
    {
        var nut = Guid.CreateVersion7();
        await Say(shop.Technician, nut, _brakes, "the pipe clips", "nut").Json();
        // The same id for something else is refused, and so is a word too few.
        (await Say(shop.Technician, nut, _brakes, "the seat", "nut")).IsSuccessStatusCode.ShouldBeFalse();
        await Say(shop.Technician, Guid.CreateVersion7(), _brakes, " ").Refused("what");
        await Say(shop.Technician, Guid.CreateVersion7(), _gate, "a gate").Refused("operationId");
        (await Missing()).ShouldContain("Brake lines: no nut for the pipe clips");
        await shop.Technician.PostAsJsonAsync($"/api/provisions/{nut}/remove", new { version = (uint?)null }).Json();
        (await Missing()).ShouldContain(m => m.StartsWith("nobody has said", StringComparison.Ordinal));
        (await Said(_brakes)).GetArrayLength().ShouldBe(0);
        await shop
            .Technician.PostAsJsonAsync($"/api/provisions/{nut}/made", new { made = true, version = (uint?)null })
            .Refused("made");
    }

    [Fact]
    public async Task A_merge_takes_them_along()
    {
        var hole = Guid.CreateVersion7();
        await Say(shop.Manager, hole, _wiring, "the filler neck").Json();
        await shop
            .Manager.PostAsJsonAsync($"/api/operations/{_brakes}/merge", new { with = _wiring, version = (uint?)null })
            .Json();
        (await Missing()).ShouldHaveSingleItem().ShouldEndWith("no hole for the filler neck");
        (await Said(_brakes))[0].GetProperty("id").GetGuid().ShouldBe(hole);
    }
}

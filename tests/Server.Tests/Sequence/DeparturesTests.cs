using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace FirstCoat.Server.Tests.Sequence;

/// <summary>Work that does not wait any more for what its template puts first says why, whichever work is
/// changed.</summary>
public sealed class DeparturesTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static async Task<JsonElement> Of(TestBuild build, string name) =>
        (await build.Operations()).Single(o =>
            o.GetProperty("name").GetString()!.StartsWith(name, StringComparison.Ordinal)
        );

    private static JsonNode Body(JsonElement o, string[] after, string? why = null)
    {
        var body = JsonNode.Parse(o.GetRawText())!;
        body["after"] = new JsonArray([
            .. after.Select(a => (JsonNode)new JsonObject { ["operation"] = a, ["lagMinutes"] = 0 }),
        ]);
        body["departsWhy"] = why;
        return body;
    }

    private Task<HttpResponseMessage> Put(TestBuild build, JsonElement o, JsonNode body) =>
        shop.Manager.PutAsJsonAsync($"/api/builds/{build.Id}/operations/{o.GetProperty("id").GetGuid()}", body);

    private Task<HttpResponseMessage> Try(TestBuild build, JsonElement o, JsonNode body) =>
        shop.Manager.PostAsJsonAsync($"/api/builds/{build.Id}/operations/{o.GetProperty("id").GetGuid()}/try", body);

    private static string Id(JsonElement o) => o.GetProperty("id").GetString()!;

    private static string[] Departs(JsonElement o) =>
        [.. o.GetProperty("departs").EnumerateArray().Select(d => d.GetString()!)];

    [Fact]
    public async Task An_unlinked_operation_says_why_and_says_it_until_it_is_linked_again()
    {
        var build = await TestBuild.Open(shop);
        var (look, tune) = (await Of(build, "Look over"), await Of(build, "Carburettors"));
        await Try(build, tune, Body(tune, [])).Refused("departsWhy");
        await Put(build, tune, Body(tune, [])).Refused("departsWhy");
        await Put(build, tune, Body(tune, [], "  ")).Refused("departsWhy");
        Departs(await Of(build, "Carburettors")).ShouldBeEmpty();

        await Try(build, tune, Body(tune, [], "the client drove it here")).Json();
        (await Of(build, "Carburettors")).GetProperty("departsWhy").GetString().ShouldBe("");
        await Put(build, tune, Body(tune, [], "the client drove it here")).Json();
        tune = await Of(build, "Carburettors");
        Departs(tune).ShouldBe([look.GetProperty("name").GetString()!]);
        tune.GetProperty("departsWhy").GetString().ShouldBe("the client drove it here");
        // Another change of it asks for nothing more.
        var longer = Body(tune, [], "the client drove it here");
        longer["budgetMinutes"] = 777;
        await Put(build, tune, longer).Json();

        tune = await Of(build, "Carburettors");
        await Put(build, tune, Body(tune, [Id(look)], "the client drove it here")).Json();
        tune = await Of(build, "Carburettors");
        (Departs(tune).Length, tune.GetProperty("departsWhy").GetString()).ShouldBe((0, ""));
    }

    [Fact]
    public async Task What_departs_because_other_work_was_unlinked_has_the_reason_with_it_and_each_departure_its_own()
    {
        var build = await TestBuild.Open(shop);
        var (look, tune, nib) = (
            await Of(build, "Look over"),
            await Of(build, "Carburettors"),
            await Of(build, "Polish")
        );
        // It still waits, through other work.
        await Put(build, tune, Body(tune, [Id(nib)])).Json();
        await Put(build, nib, Body(nib, [])).Refused("departsWhy");
        await Put(build, nib, Body(nib, [], "no need to look first")).Json();
        var (tuneNow, nibNow) = (await Of(build, "Carburettors"), await Of(build, "Polish"));
        (Departs(tuneNow).Length, tuneNow.GetProperty("departsWhy").GetString()).ShouldBe((1, "no need to look first"));
        (Departs(nibNow).Length, nibNow.GetProperty("departsWhy").GetString()).ShouldBe((1, "no need to look first"));

        // What was said of one departure is no reason for the next.
        var seat = await Of(build, "Re-stitch");
        var back = await Of(build, "Wash");
        await Put(build, back, Body(back, [Id(tuneNow), Id(nibNow)], "the seat is fetched later")).Json();
        back = await Of(build, "Wash");
        await Put(build, back, Body(back, [Id(nibNow)], "the seat is fetched later")).Refused("departsWhy");
        Departs(back).ShouldBe([seat.GetProperty("name").GetString()!]);
        // More order than the template asks for is no departure, and own work is free.
        var own = await build.Add(TestBuild.Work("Badges", after: [new { operation = Id(look), lagMinutes = 0 }]));
        var badges = (await build.Operations()).Single(o => o.GetProperty("id").GetGuid() == own);
        await Put(build, badges, Body(badges, [])).Json();
    }
}

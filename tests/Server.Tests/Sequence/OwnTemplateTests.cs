using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace FirstCoat.Server.Tests.Sequence;

/// <summary>A template of the shop's own: saved from a build, offered, opened from, planned again from,
/// dropped.</summary>
public sealed class OwnTemplateTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private async Task<List<(string Key, string Name)>> Offered() =>
        [
            .. (await shop.Technician.GetAsync("/api/templates").Json())
                .EnumerateArray()
                .Select(t => (t.GetProperty("key").GetString()!, t.GetProperty("name").GetString()!)),
        ];

    private Task<HttpResponseMessage> Save(TestBuild build, string name, Guid? id = null, HttpClient? by = null) =>
        (by ?? shop.Manager).PostAsJsonAsync(
            $"/api/builds/{build.Id}/template",
            new { id = id ?? Guid.CreateVersion7(), name }
        );

    private static List<(string?, int, int)> Shown(IEnumerable<JsonElement> operations) =>
        [
            .. operations.Select(o =>
                (
                    o.GetProperty("name").GetString(),
                    o.GetProperty("budgetMinutes").GetInt32(),
                    o.GetProperty("after").GetArrayLength()
                )
            ),
        ];

    [Fact]
    public async Task A_build_is_opened_and_another_planned_again_from_what_was_saved()
    {
        var build = await TestBuild.Open(shop, "paint-then-assemble");
        await build.Add(TestBuild.Work("Photograph the badges", 45));
        var name = $"Ours {Guid.NewGuid():N}"[..20];
        var (id, before) = (Guid.CreateVersion7(), await Offered());
        await Save(build, name, id).Json();
        // Sent again it is the same.
        await Save(build, name, id).Json();
        var key = (await Offered()).Except(before).ShouldHaveSingleItem().Key;
        var next = await TestBuild.Open(shop, key);
        Shown(await next.Operations()).ShouldBe(Shown(await build.Operations()));

        var other = await TestBuild.Open(shop, "drive-first");
        var body = new
        {
            template = key,
            scale = 1,
            choices = new { },
            anew = false,
        };
        (await shop.Manager.PostAsJsonAsync($"/api/builds/{other.Id}/from-template", body)).StatusCode.ShouldBe(
            HttpStatusCode.NoContent
        );
        Shown(await other.Operations()).ShouldBe(Shown(await build.Operations()));

        (await shop.Manager.DeleteAsync($"/api/templates/{id}")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await Offered()).ShouldBe(before);
        // What came from it knows what it came from: another way touches nothing else.
        var look = await shop
            .Manager.PostAsJsonAsync(
                "/api/ways/look",
                new
                {
                    buildId = next.Id,
                    @new = (object?)null,
                    template = key,
                    scale = 1,
                    choices = new { },
                    anew = false,
                }
            )
            .Json();
        look.GetProperty("changes").GetProperty("changed").GetArrayLength().ShouldBe(0);
    }

    [Fact]
    public async Task It_has_a_name_of_its_own_and_only_a_manager_saves_or_drops_it()
    {
        var build = await TestBuild.Open(shop);
        await Save(build, "").Refused("name");
        await Save(build, "drive first, then paint").Refused("name");
        (await Save(build, "Mine", by: shop.Technician)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await Save(build, "Mine", by: shop.Office)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        var id = Guid.CreateVersion7();
        await Save(build, "Only once", id).Json();
        await Save(build, "Only once").Refused("name");
        (await shop.Office.DeleteAsync($"/api/templates/{id}")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        await shop
            .Manager.PostAsJsonAsync(
                "/api/builds",
                JsonNode.Parse(JsonSerializer.Serialize(TestBuild.OpenBody(Guid.CreateVersion7(), "own-nothing")))
            )
            .Refused("template");
    }
}

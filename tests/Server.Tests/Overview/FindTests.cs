using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Overview;

/// <summary>Find: anything by its words, in any order, as far as a role may see it; it follows every change.</summary>
public sealed class FindTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static async Task<List<string>> Ask(HttpClient who, string q, int? here = null) =>
        [
            .. (
                await who.GetAsync($"/api/find?q={Uri.EscapeDataString(q)}{(here is { } h ? $"&here={h}" : "")}").Json()
            )
                .EnumerateArray()
                .Select(f =>
                    $"{f.GetProperty("kind").GetString()} {(f.GetProperty("buildNumber").ValueKind == JsonValueKind.Null ? "-" : f.GetProperty("buildNumber").GetInt32())} {f.GetProperty("label").GetString()}"
                ),
        ];

    private async Task<(TestBuild Build, int Number)> Open(string client)
    {
        var build = await TestBuild.Open(shop, client: client);
        return (build, (await build.Card()).GetProperty("number").GetInt32());
    }

    [Fact]
    public async Task Operations_parts_bags_findings_and_papers_are_found_and_follow_their_changes()
    {
        var (build, n) = await Open("Ottoline Zephyr");
        var operation = await build.Add(TestBuild.Work("Quillfish bracket made"));
        (await Ask(shop.Technician, "bracket quillfish")).ShouldBe([$"operation {n} Quillfish bracket made"]);
        (await Ask(shop.Technician, "quilfish braket")).ShouldBe(
            [$"operation {n} Quillfish bracket made"],
            "one slip in each word"
        );
        await shop.Manager.DeleteAsync($"/api/operations/{operation}");
        (await Ask(shop.Technician, "quillfish")).ShouldBeEmpty();

        var part = Guid.CreateVersion7();
        object Part(string name, uint? version) =>
            new
            {
                name,
                quantity = 1,
                unitCost = 3,
                unitPrice = (decimal?)null,
                supplierId = (Guid?)null,
                clientSupplied = true,
                operationId = (Guid?)null,
                measuredBy = (Guid?)null,
                version,
            };
        await shop.Office.PutAsJsonAsync($"/api/builds/{build.Id}/parts/{part}", Part("Gromwell seal", null)).Json();
        (await Ask(shop.Technician, "gromwell")).ShouldBe([$"part {n} Gromwell seal"]);
        await shop.Office.PutAsJsonAsync($"/api/builds/{build.Id}/parts/{part}", Part("Tansy gasket", null)).Json();
        (await Ask(shop.Technician, "gromwell")).ShouldBeEmpty("it has another name now");
        (await Ask(shop.Technician, "tansy zephyr")).ShouldBe(
            [$"part {n} Tansy gasket"],
            "its build's client narrows to it"
        );

        var finding = Guid.CreateVersion7();
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/findings/{finding}",
                new
                {
                    place = "sillL",
                    at = new { x = 0, y = 0 },
                    area = Array.Empty<object>(),
                    kind = "rustThrough",
                    probe = (string?)null,
                    sizeMm = (int?)null,
                    structural = false,
                    gaugeMm = (decimal?)null,
                    note = "samphire patch",
                    photoId = (Guid?)null,
                    behind = (Guid?)null,
                    version = (uint?)null,
                }
            )
            .Json();
        (await Ask(shop.Technician, "samphire")).ShouldHaveSingleItem().ShouldStartWith($"finding {n} L");
        (await Ask(shop.Technician, "samphire through rust sill")).ShouldHaveSingleItem();
        await shop.Office.PostAsJsonAsync($"/api/findings/{finding}/withdraw", new { reason = "it was chalk" }).Json();
        (await Ask(shop.Technician, "samphire")).ShouldBeEmpty();
    }

    [Fact]
    public async Task What_comes_from_a_supplier_is_found_by_the_name_that_it_has_now()
    {
        var (build, n) = await Open("Hedwig Tarn");
        var supplier = Guid.CreateVersion7();
        Task Supplier(string name) =>
            shop
                .Manager.PutAsJsonAsync(
                    $"/api/shop/suppliers/{supplier}",
                    new
                    {
                        name,
                        what = "",
                        freightDays = Array.Empty<string>(),
                        version = (uint?)null,
                    }
                )
                .Json();
        await Supplier("Oldcastle Trim");
        await shop
            .Office.PutAsJsonAsync(
                $"/api/builds/{build.Id}/parts/{Guid.CreateVersion7()}",
                new
                {
                    name = "Piping",
                    quantity = 1,
                    unitCost = 3,
                    unitPrice = (decimal?)null,
                    supplierId = supplier,
                    clientSupplied = false,
                    operationId = (Guid?)null,
                    measuredBy = (Guid?)null,
                    version = (uint?)null,
                }
            )
            .Json();
        (await Ask(shop.Technician, "piping oldcastle")).ShouldBe([$"part {n} Piping"]);
        await Supplier("Newbridge Trim");
        (await Ask(shop.Technician, "piping oldcastle")).ShouldBeEmpty();
        (await Ask(shop.Technician, "piping newbridge")).ShouldBe([$"part {n} Piping"]);
    }

    [Fact]
    public async Task A_technician_finds_no_papers_and_nobody_finds_another_roles_tasks()
    {
        var (build, n) = await Open("Petronella Yarrow");
        await shop
            .Office.PostAsJsonAsync($"/api/builds/{build.Id}/estimates", new { id = Guid.CreateVersion7() })
            .Json();
        (await Ask(shop.Office, "estimate yarrow")).ShouldContain(f =>
            f.StartsWith($"paper {n} Estimate 1", StringComparison.Ordinal)
        );
        (await Ask(shop.Technician, "estimate yarrow")).ShouldBeEmpty();
        (await Ask(shop.Manager, "open build vehicle")).ShouldContain("do - Open a build");
        (await Ask(shop.Technician, "open build vehicle")).ShouldNotContain("do - Open a build");
        (await Ask(shop.Technician, "note rust")).ShouldBeEmpty("no build is named");
        (await Ask(shop.Technician, "note rust", n)).ShouldBe([$"do {n} Note something found"]);
        (await Ask(shop.Technician, $"{n} note rust")).ShouldBe([$"do {n} Note something found"]);
    }

    [Fact]
    public async Task A_build_is_found_by_number_client_and_name_also_when_it_has_ended_and_under_a_new_name()
    {
        var (build, n) = await Open("Quentin Xylander");
        (await Ask(shop.Technician, "xylander")).ShouldHaveSingleItem().ShouldStartWith($"build {n} ");
        (await Ask(shop.Technician, $"{n}")).ShouldContain(f => f.StartsWith($"build {n} ", StringComparison.Ordinal));
        (await Ask(shop.Technician, "bonnet xylander")).ShouldBe([
            $"panel {n} Bonnet",
            $"operation {n} Polish out the bonnet",
        ]);
        await shop
            .Office.PutAsJsonAsync(
                $"/api/builds/{build.Id}/client",
                new
                {
                    name = "Quentin Umbrell",
                    email = "",
                    phone = "",
                    version = (uint?)null,
                }
            )
            .Json();
        (await Ask(shop.Technician, "xylander")).ShouldBeEmpty();
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{build.Id}/status",
                new
                {
                    status = "closed",
                    leftAt = "",
                    firstMove = "",
                }
            )
            .Json();
        (await Ask(shop.Technician, "umbrell")).ShouldHaveSingleItem().ShouldStartWith($"build {n} ");
        (await Ask(shop.Technician, "bonnet umbrell")).ShouldBe(
            [$"operation {n} Polish out the bonnet"],
            "what was done stays to be found; an ended build has no panels to work on"
        );
    }

    [Fact]
    public async Task Nothing_asked_finds_nothing_and_strange_signs_are_words_like_others()
    {
        (await Ask(shop.Manager, "")).ShouldBeEmpty();
        (await Ask(shop.Manager, " %_' \"; -- ")).ShouldBeEmpty();
        await shop.Manager.GetAsync($"/api/find?q={new string('a', 201)}").Refused("q");
        (await Ask(shop.Manager, "%")).ShouldBeEmpty("a sign that stands for anything elsewhere");
    }
}

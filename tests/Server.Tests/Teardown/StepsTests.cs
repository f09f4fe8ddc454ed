using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Teardown;

/// <summary>Taking apart through the API: order, bags, counts against the other side, and the way back.</summary>
public sealed class StepsTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private async Task<Guid> Begin(TestBuild build, string side = "left", string kind = "door", Guid? backWith = null)
    {
        var id = Guid.CreateVersion7();
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/builds/{build.Id}/assemblies",
                new
                {
                    id,
                    kind,
                    side,
                    name = kind == "frontEnd" ? "Front end" : $"{side} door",
                    backWith,
                }
            )
            .Json();
        return id;
    }

    private async Task<JsonElement> Look(TestBuild build, Guid id) =>
        (await shop.Technician.GetAsync($"/api/builds/{build.Id}/assemblies").Json())
            .EnumerateArray()
            .Single(a => a.GetProperty("id").GetGuid() == id);

    private async Task<JsonElement> Step(TestBuild build, Guid id, string key) =>
        (await Look(build, id))
            .GetProperty("steps")
            .EnumerateArray()
            .Single(s => s.GetProperty("key").GetString() == key);

    private static object Body(
        Guid? bag = null,
        int screws = 8,
        int destroyed = 0,
        bool differ = false,
        string why = "",
        bool inBag = true,
        int? doing = 480,
        int? finding = 240
    ) =>
        new
        {
            bagId = bag ?? Guid.CreateVersion7(),
            inBag,
            pieces = new[] { new { name = "piece", count = 1 } },
            fasteners = new[]
            {
                new
                {
                    kind = "screw",
                    head = "raised",
                    thread = "M4 x 20",
                    finish = "chrome",
                    count = screws,
                    shows = true,
                    destroyed,
                },
            },
            place = "C3-7",
            patternFor = (Guid?)null,
            photoId = (Guid?)null,
            noPhoto = true,
            countsDiffer = differ,
            outOfOrderWhy = why,
            note = "the rear screw is shorter",
            doingSeconds = doing,
            findingSeconds = finding,
        };

    private Task<HttpResponseMessage> Close(Guid id, string step, object body) =>
        shop.Technician.PostAsJsonAsync($"/api/assemblies/{id}/steps/{step}/close", body);

    [Fact]
    public async Task A_step_closed_is_a_bag_on_the_shelf_with_the_side_of_the_door()
    {
        var build = await TestBuild.Open(shop);
        var door = await Begin(build);
        var bag = Guid.CreateVersion7();
        await Close(door, "rail", Body(bag)).Json();
        await Close(door, "rail", Body(bag)).Json();
        var bags = (await shop.Manager.GetAsync($"/api/builds/{build.Id}/bags").Json())
            .GetProperty("bags")
            .EnumerateArray()
            .ToList();
        bags.ShouldHaveSingleItem("the same request again is the same bag")
            .GetProperty("label")
            .GetString()!
            .ShouldEndWith(" L");
        var step = await Step(build, door, "rail");
        (
            step.GetProperty("off").GetBoolean(),
            step.GetProperty("bag").GetString(),
            step.GetProperty("doingSeconds").GetInt32(),
            step.GetProperty("note").GetString()
        ).ShouldBe((true, bags[0].GetProperty("label").GetString(), 480, "the rear screw is shorter"));
        (await Look(build, door)).GetProperty("spentMinutes").GetDouble().ShouldBe(12);
    }

    [Fact]
    public async Task Order_is_kept_or_a_reason_given_and_nothing_is_half_done()
    {
        var build = await TestBuild.Open(shop);
        var door = await Begin(build);
        await Close(door, "card", Body()).Refused("outOfOrderWhy");
        await Close(door, "chimney", Body()).Json(System.Net.HttpStatusCode.NotFound);
        await Close(door, "rail", Body(screws: 0)).Refused("fasteners");
        (await Step(build, door, "rail"))
            .GetProperty("off")
            .GetBoolean()
            .ShouldBeFalse("a bag that is refused leaves the step open");
        (await shop.Manager.GetAsync($"/api/builds/{build.Id}/bags").Json())
            .GetProperty("bags")
            .GetArrayLength()
            .ShouldBe(0);
        (await Step(build, door, "card"))
            .GetProperty("first")
            .EnumerateArray()
            .Select(f => f.GetString())
            .ShouldBe(["Winder, inside handle", "Garnish rail"]);
        await Close(door, "card", Body(why: "no handles were fitted")).Json();
    }

    [Fact]
    public async Task A_count_that_is_not_the_other_sides_is_asked_once_and_times_are_learned()
    {
        var build = await TestBuild.Open(shop);
        var (left, right) = (await Begin(build), await Begin(build, "right"));
        await Close(left, "rail", Body(screws: 8)).Json();
        var step = await Step(build, right, "rail");
        // Eight minutes of doing, no pair on record: x 0.8.
        step.GetProperty("expected").GetDouble().ShouldBe(6.4, 0.001);
        step.GetProperty("twinFasteners").GetInt32().ShouldBe(8);
        var asked = await Close(right, "rail", Body(screws: 7)).Refused("fasteners");
        asked.GetProperty("detail").GetString()!.ShouldContain("holds 8, this 7");
        await Close(right, "rail", Body(screws: 7, differ: true)).Json();
        (await Step(build, right, "rail")).GetProperty("bag").GetString()!.ShouldEndWith(" R");
    }

    [Fact]
    public async Task The_clock_of_a_step_runs_on_the_server()
    {
        var build = await TestBuild.Open(shop);
        var door = await Begin(build);
        var now = shop.Clock.GetUtcNow();
        Task<JsonElement> Clock(string clock) =>
            shop.Technician.PostAsJsonAsync($"/api/assemblies/{door}/steps/rail/clock", new { clock }).Json();
        await Clock("findingOut");
        shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now.AddSeconds(100)));
        await Clock("doing");
        shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now.AddSeconds(160)));
        await Close(door, "rail", Body(doing: null, finding: null)).Json();
        shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now));
        var step = await Step(build, door, "rail");
        (step.GetProperty("findingSeconds").GetInt32(), step.GetProperty("doingSeconds").GetInt32()).ShouldBe(
            (100, 60)
        );
    }

    [Fact]
    public async Task The_way_back_is_the_reverse_and_warns_of_what_must_be_bought()
    {
        var build = await TestBuild.Open(shop);
        var together = await build.Operation("Wash");
        var door = await Begin(build, backWith: together);
        await Close(door, "winder", Body()).Json();
        await Close(door, "rail", Body(destroyed: 3)).Json();
        var back = await shop.Manager.GetAsync($"/api/assemblies/{door}/back").Json();
        back.GetProperty("steps")
            .EnumerateArray()
            .Select(s => s.GetProperty("key").GetString())
            .ShouldBe(["rail", "winder"]);
        var lack = back.GetProperty("lacks").EnumerateArray().ShouldHaveSingleItem();
        (lack.GetProperty("how").GetString(), lack.GetProperty("late").GetBoolean()).ShouldBe(
            ("toBuy", true),
            "two weeks of delivery are longer than two days of work"
        );
        back.GetProperty("steps")[0].GetProperty("needed").ValueKind.ShouldBe(JsonValueKind.String);
        await shop.Technician.PostAsJsonAsync($"/api/assemblies/{door}/steps/winder/back", new { back = true }).Json();
        var bag = (await shop.Manager.GetAsync($"/api/builds/{build.Id}/bags").Json())
            .GetProperty("bags")
            .EnumerateArray()
            .First();
        bag.GetProperty("state").GetString().ShouldBe("onCar");
        (await shop.Manager.GetAsync($"/api/assemblies/{door}/back").Json()).GetProperty("done").GetInt32().ShouldBe(1);
        await shop
            .Technician.PostAsJsonAsync($"/api/assemblies/{door}/steps/card/back", new { back = true })
            .Refused("step");
    }

    [Fact]
    public async Task A_list_of_the_shops_own_is_written_step_by_step()
    {
        var build = await TestBuild.Open(shop);
        var list = await Begin(build, "centre", "list");
        object Step(string key, params string[] after) =>
            new
            {
                key,
                name = key,
                says = "",
                piece = key,
                pieces = 1,
                fastener = (object?)null,
                tool = "",
                blind = false,
                hazard = (string?)null,
                how = Array.Empty<string>(),
                photos = Array.Empty<string>(),
                after = after.Select(a => new { step = a, why = "it covers it" }),
                minutes = 5,
            };
        Task<HttpResponseMessage> Put(params object[] steps) =>
            shop.Technician.PutAsJsonAsync(
                $"/api/assemblies/{list}",
                new
                {
                    name = "Dash",
                    backWith = (Guid?)null,
                    steps,
                    version = (uint?)null,
                }
            );
        await Put(Step("a", "b"), Step("b", "a")).Refused("after");
        await Put(Step("cover"), Step("gauges", "cover")).Json();
        (await Look(build, list)).GetProperty("steps").GetArrayLength().ShouldBe(2);
        var other = await TestBuild.Open(shop);
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/builds/{build.Id}/assemblies",
                new
                {
                    id = Guid.CreateVersion7(),
                    kind = "door",
                    side = "left",
                    name = "Door",
                    backWith = await other.Operation("Wash"),
                }
            )
            .Refused("backWith");
    }
}

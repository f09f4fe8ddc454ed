using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace FirstCoat.Server.Tests.Plan;

/// <summary>What another way to run a build would make of the plan is told before it is kept, and comes true.</summary>
public sealed class WaysTests(ShopFixture shop) : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private static readonly JsonObject Usual = new()
    {
        ["hold"] = "jig",
        ["blast"] = "bareFirst",
        ["sides"] = "oneAtATime",
        ["filler"] = "epoxyFirst",
        ["gaps"] = "both",
        ["wiring"] = "afterPaint",
        ["trim"] = "inHouse",
    };

    public async ValueTask InitializeAsync()
    {
        if ((await shop.Manager.GetAsync("/api/shop").Json()).GetProperty("stations").GetArrayLength() > 0)
        {
            return;
        }

        shop.At(new(2026, 3, 2), 12, 0);
        var at = 0;
        foreach (var kind in new[] { "bay", "lift", "jig", "blast", "prep", "booth", "bench" })
        {
            await shop
                .Manager.PutAsJsonAsync(
                    $"/api/shop/stations/{Guid.CreateVersion7()}",
                    new
                    {
                        name = $"{kind} {Guid.NewGuid():N}"[..12],
                        kind,
                        count = 1,
                        xMm = at % 4 * 6000,
                        yMm = at++ / 4 * 9000,
                        widthMm = 5000,
                        depthMm = 8000,
                        doorHeightMm = 2600,
                        walled = false,
                        version = (uint?)null,
                    }
                )
                .Json();
        }

        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/people/{Guid.CreateVersion7()}",
                new
                {
                    name = $"Second {Guid.NewGuid():N}",
                    trades = new[] { "metal", "mechanic", "paint", "trim", "strip", "electric", "hand", "body" },
                    active = true,
                    version = (uint?)null,
                }
            )
            .Json();
    }

    public ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        return ValueTask.CompletedTask;
    }

    private static object Body(
        Guid? build,
        JsonNode? choices = null,
        string template = "paint-then-assemble",
        object? come = null,
        bool anew = false
    ) =>
        new
        {
            buildId = build,
            @new = come,
            template,
            scale = 1,
            choices = choices ?? Usual,
            anew,
        };

    private Task<JsonElement> Ask(string path, object body) =>
        shop.Manager.PostAsJsonAsync($"/api/ways{path}", body).Json();

    private async Task<string?> Planned(Guid build) =>
        (await shop.Manager.GetAsync("/api/builds").Json())
            .EnumerateArray()
            .Single(b => b.GetProperty("id").GetGuid() == build)
            .GetProperty("planned")
            .GetString();

    private static JsonElement Answer(JsonElement ways, string school, string key) =>
        ways.GetProperty("schools")
            .EnumerateArray()
            .Single(s => s.GetProperty("school").GetString() == school)
            .GetProperty("answers")
            .EnumerateArray()
            .Single(a => a.GetProperty("key").GetString() == key);

    private async Task CloseAll() => await TestBuild.OpenPair(shop);

    [Theory]
    [InlineData("order", "drive-first")]
    [InlineData("sides", "both")]
    [InlineData("filler", "fillerFirst")]
    [InlineData("hold", "cart")]
    public async Task What_an_answer_would_make_of_a_build_is_what_it_makes_of_it(string school, string key)
    {
        await CloseAll();
        var build = await TestBuild.Open(shop, "paint-then-assemble", priority: 3);
        var behind = await TestBuild.Open(shop, priority: 4);
        var (before, behindBefore) = (await Planned(build.Id), await Planned(behind.Id));
        var hours = (await build.Operations()).Sum(o => o.GetProperty("budgetMinutes").GetInt32());
        var ways = await Ask("", Body(build.Id));
        ways.GetProperty("minutes").GetInt32().ShouldBe(hours);
        ways.GetProperty("finish").GetString()![..10].ShouldBe(before);
        var answer = Answer(ways, school, key);
        answer.GetProperty("chosen").GetBoolean().ShouldBeFalse();
        var choices = JsonNode.Parse(answer.GetProperty("choices").GetRawText());
        var template = answer.GetProperty("template").GetString()!;
        var look = await Ask("/look", Body(build.Id, choices, template));
        var finish = look.GetProperty("finish").GetDateTimeOffset();
        (finish - ways.GetProperty("finish").GetDateTimeOffset()).TotalDays.ShouldBe(
            (double)answer.GetProperty("days").GetDecimal(),
            0.051
        );

        // Nothing is kept by asking.
        (await Planned(build.Id)).ShouldBe(before);
        (
            await shop.Manager.PostAsJsonAsync(
                $"/api/builds/{build.Id}/from-template",
                new
                {
                    template,
                    scale = 1,
                    choices,
                    anew = false,
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var after = await build.Operations();
        after
            .Sum(o => o.GetProperty("budgetMinutes").GetInt32())
            .ShouldBe(hours + answer.GetProperty("minutes").GetInt32());
        look.GetProperty("works").EnumerateArray().Count().ShouldBe(after.Count);
        (await Planned(build.Id)).ShouldBe(
            finish.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture)
        );
        var moves = look.GetProperty("moves").EnumerateArray().Select(m => m.GetProperty("buildId").GetGuid());
        if (!moves.Contains(behind.Id))
        {
            (await Planned(behind.Id)).ShouldBe(behindBefore);
        }

        // It is what is chosen now.
        Answer(await Ask("", Body(build.Id, choices, template)), school, key)
            .GetProperty("chosen")
            .GetBoolean()
            .ShouldBeTrue();
    }

    [Fact]
    public async Task What_was_changed_by_hand_stays_unless_it_is_made_anew()
    {
        await CloseAll();
        var build = await TestBuild.Open(shop, "paint-then-assemble", priority: 3);
        var floor = (await build.Operations()).Single(o =>
            o.GetProperty("name").GetString() == "Floor and inner structure"
        );
        var body = JsonNode.Parse(floor.GetRawText())!;
        (body["budgetMinutes"], body["version"]) = (4321, floor.GetProperty("version").GetUInt32());
        await shop
            .Manager.PutAsJsonAsync($"/api/builds/{build.Id}/operations/{floor.GetProperty("id").GetGuid()}", body)
            .Json();
        var choices = Usual.DeepClone();
        choices["wiring"] = "onBareMetal";
        var kept = await Ask("/look", Body(build.Id, choices));
        Names(kept, "kept").ShouldContain("Floor and inner structure");
        Names(kept, "changed").ShouldNotContain("Floor and inner structure");
        Names(await Ask("/look", Body(build.Id, choices, anew: true)), "changed")
            .ShouldContain("Floor and inner structure");
        // As it runs it is as it is.
        foreach (var list in new[] { "changed", "added", "takenOut" })
        {
            Names(await Ask("/look", Body(build.Id)), list).ShouldBeEmpty();
        }

        static IEnumerable<string?> Names(JsonElement look, string list) =>
            look.GetProperty("changes").GetProperty(list).EnumerateArray().Select(n => n.GetString());
    }

    [Fact]
    public async Task A_vehicle_that_may_come_is_planned_as_it_will_be_when_its_build_is_opened()
    {
        await CloseAll();
        var open = JsonNode.Parse(
            JsonSerializer.Serialize(TestBuild.OpenBody(Guid.CreateVersion7(), "drive-first", 7))
        )!;
        var come = new
        {
            vehicle = open["vehicle"],
            grade = "show",
            promised = "2026-06-01",
            arrives = (string?)null,
            priority = 7,
        };
        var look = await Ask("/look", Body(null, template: "drive-first", come: come));
        look.GetProperty("changes").ValueKind.ShouldBe(JsonValueKind.Null);
        var ways = await Ask("", Body(null, template: "drive-first", come: come));
        Answer(ways, "order", "drive-first").GetProperty("chosen").GetBoolean().ShouldBeTrue();
        Answer(ways, "order", "paint-then-assemble").GetProperty("minutes").GetInt32().ShouldBeLessThan(0);
        var chances = await Ask("/chances", Body(null, template: "drive-first", come: come));
        string Day(string at) => chances.GetProperty(at).GetString()!;
        new[] { Day("p20"), Day("p50"), Day("p80"), Day("p95") }.ShouldBeInOrder(
            SortDirection.Ascending,
            StringComparer.Ordinal
        );

        open["choices"] = Usual.DeepClone();
        var opened = await shop.Manager.PostAsJsonAsync("/api/builds", open).Json();
        (await Planned(opened.GetProperty("id").GetGuid())).ShouldBe(look.GetProperty("finish").GetString()![..10]);
    }

    [Fact]
    public async Task Rework_on_builds_that_are_over_counts_with_the_answer_that_they_ran_by()
    {
        await CloseAll();
        var build = await TestBuild.Open(shop, "paint-then-assemble", priority: 3);
        var now = await Ask("", Body(build.Id));
        var before = Answer(now, "sides", "oneAtATime");
        var floor = await build.Operation("Floor");
        await build.Hours(floor, "2026-03-02T06:00:00Z", "2026-03-02T10:00:00Z", "rework");
        Answer(await Ask("", Body(build.Id)), "sides", "oneAtATime").GetRawText().ShouldBe(before.GetRawText());
        await CloseAll();
        var next = await TestBuild.Open(shop, "paint-then-assemble", priority: 3);
        var ways = await Ask("", Body(next.Id));
        var after = Answer(ways, "sides", "oneAtATime");
        after.GetProperty("builds").GetInt32().ShouldBe(before.GetProperty("builds").GetInt32() + 1);
        after.GetProperty("hoursAgain").GetDecimal().ShouldBeLessThan(before.GetProperty("hoursAgain").GetDecimal());
        after.GetProperty("oneIn").GetInt32().ShouldBeLessThan(before.GetProperty("oneIn").GetInt32());
        Answer(ways, "sides", "both")
            .GetProperty("builds")
            .GetInt32()
            .ShouldBe(Answer(now, "sides", "both").GetProperty("builds").GetInt32());
    }

    [Fact]
    public async Task A_build_that_rests_is_looked_at_as_if_it_went_on_and_one_that_is_over_is_not()
    {
        await CloseAll();
        var build = await TestBuild.Open(shop, "paint-then-assemble", priority: 3);
        var planned = await Planned(build.Id);
        async Task Set(string status) =>
            await shop
                .Manager.PutAsJsonAsync(
                    $"/api/builds/{build.Id}/status",
                    new
                    {
                        status,
                        leftAt = "on stands",
                        firstMove = "wheels on",
                    }
                )
                .Json();
        await Set("paused");
        var ways = await Ask("", Body(build.Id));
        ways.GetProperty("planned").GetBoolean().ShouldBeFalse();
        ways.GetProperty("finish").GetString()![..10].ShouldBe(planned);
        (await Ask("/look", Body(build.Id))).GetProperty("moves").GetArrayLength().ShouldBe(0);
        await Set("closed");
        await shop.Manager.PostAsJsonAsync("/api/ways", Body(build.Id)).Refused("buildId");
        await shop.Manager.PostAsJsonAsync("/api/ways", Body(null)).Refused("buildId");
        await shop.Manager.PostAsJsonAsync("/api/ways", Body(build.Id, template: "none")).Refused("template");
        (await shop.Technician.PostAsJsonAsync("/api/ways/look", Body(build.Id))).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
    }
}

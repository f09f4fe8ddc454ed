using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Builds;

/// <summary>What a pause or a resumption would do to the plan is told before it is kept, and comes true.</summary>
public sealed class StatusTrialTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static object Body(string status, bool? stillHolds = null) =>
        new
        {
            status,
            leftAt = "on stands",
            firstMove = "wheels on",
            stillHolds,
        };

    private async Task<JsonElement> Try(Guid build, bool goesOn) =>
        await shop.Manager.GetAsync($"/api/builds/{build}/if-status?goesOn={goesOn}").Json();

    private async Task Set(Guid build, string status, bool? stillHolds = null) =>
        await shop.Manager.PutAsJsonAsync($"/api/builds/{build}/status", Body(status, stillHolds)).Json();

    private async Task<JsonElement> Card(Guid build) =>
        (await shop.Manager.GetAsync("/api/builds").Json())
            .EnumerateArray()
            .Single(b => b.GetProperty("id").GetGuid() == build);

    [Fact]
    public async Task A_build_that_rests_says_when_and_with_what_it_could_go_on_and_who_waits_for_that()
    {
        var (first, second) = await TestBuild.OpenPair(shop);
        await first.Add(TestBuild.Work("Gearbox", 10 * 480));
        await second.Add(TestBuild.Work("Axle", 480));
        var planned = (await Card(second.Id)).GetProperty("planned").GetString();

        // The other one is done sooner if this one rests, and nothing is kept by asking.
        var rests = await Try(first.Id, false);
        var move = rests.GetProperty("moves").EnumerateArray().ShouldHaveSingleItem();
        move.GetProperty("buildId").GetGuid().ShouldBe(second.Id);
        move.GetProperty("days").GetDecimal().ShouldBeLessThan(0);
        (await Card(first.Id)).GetProperty("status").GetString().ShouldBe("open");
        (await Card(second.Id)).GetProperty("planned").GetString().ShouldBe(planned);

        await Set(first.Id, "paused");
        var sooner = (await Card(second.Id)).GetProperty("planned").GetString();
        string.CompareOrdinal(sooner, planned).ShouldBeLessThan(0);
        var goesOn = await Try(first.Id, true);
        goesOn.GetProperty("first").GetString().ShouldBe("Gearbox");
        goesOn.GetProperty("start").ValueKind.ShouldBe(JsonValueKind.String);
        goesOn
            .GetProperty("moves")
            .EnumerateArray()
            .ShouldHaveSingleItem()
            .GetProperty("days")
            .GetDecimal()
            .ShouldBeGreaterThan(0);
        (await Card(first.Id)).GetProperty("status").GetString().ShouldBe("paused");

        await Set(first.Id, "open", true);
        (await Card(second.Id)).GetProperty("planned").GetString().ShouldBe(planned);
        goesOn
            .GetProperty("finish")
            .GetString()![..10]
            .ShouldBe((await Card(first.Id)).GetProperty("planned").GetString());
        (await shop.Technician.GetAsync($"/api/builds/{first.Id}/if-status?goesOn=false")).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
    }
}

using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using NodaTime;

namespace FirstCoat.Server.Tests.Plan;

/// <summary>What a change of a sequence would do to the plan is what it does, and asking keeps nothing.</summary>
public sealed class TrialTests : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private readonly ShopFixture _shop;
    private TestBuild _build = null!;
    private Guid _work;
    private Guid _after;

    public TrialTests(ShopFixture shop) => _shop = shop;

    public async ValueTask InitializeAsync()
    {
        _shop.At(new LocalDate(2026, 3, 2), 8, 0);
        (_build, _) = await TestBuild.OpenPair(_shop);
        _work = await _build.Add(TestBuild.Work("Long job", 960));
        _after = await _build.Add(TestBuild.Work("Next job", 480, after: [Link(_work)]));
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private static object Link(Guid operation) => new { operation, lagMinutes = 0 };

    private async Task<JsonElement> Of(Guid operation) =>
        (await _build.Operations()).Single(o => o.GetProperty("id").GetGuid() == operation);

    private async Task<DateTimeOffset> Ends() =>
        (await _build.Operations()).Max(o => o.GetProperty("finishes").GetDateTimeOffset());

    /// <summary>The operation as it stands, with some of it changed.</summary>
    private async Task<JsonObject> Changed(Guid operation, Action<JsonObject> change)
    {
        var body = JsonNode.Parse((await Of(operation)).GetRawText())!.AsObject();
        change(body);
        return body;
    }

    private string Put(Guid operation) => $"/api/builds/{_build.Id}/operations/{operation}";

    private static decimal Days(JsonElement trial) =>
        trial.GetProperty("moves").EnumerateArray().Sum(m => m.GetProperty("days").GetDecimal());

    [Fact]
    public async Task More_hours_are_tried_and_then_do_what_was_said()
    {
        var before = await Ends();
        var body = await Changed(_work, o => o["budgetMinutes"] = 1920);
        var trial = await _shop.Manager.PostAsJsonAsync(Put(_work) + "/try", body).Json();
        Days(trial).ShouldBeGreaterThan(0);
        (await Ends()).ShouldBe(before, "nothing is kept by asking");
        (await Of(_work)).GetProperty("budgetMinutes").GetInt32().ShouldBe(960);
        await _shop.Manager.PutAsJsonAsync(Put(_work), body).Json();
        var moved = (decimal)((await Ends()) - before).TotalDays;
        Math.Round(moved, 1).ShouldBe(Days(trial));
        (await Of(_work))
            .GetProperty("finishes")
            .GetDateTimeOffset()
            .ShouldBe(trial.GetProperty("finish").GetDateTimeOffset());
    }

    [Fact]
    public async Task A_circle_is_refused_at_the_trial_with_its_names()
    {
        var body = await Changed(_work, o => o["after"] = new JsonArray(JsonSerializer.SerializeToNode(Link(_after))));
        var refused = await _shop.Manager.PostAsJsonAsync(Put(_work) + "/try", body);
        refused.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        var words = await refused.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        words.ShouldContain("Long job");
        words.ShouldContain("Next job");
    }

    [Fact]
    public async Task A_trial_of_an_older_version_says_so()
    {
        var body = await Changed(_work, o => o["budgetMinutes"] = 600);
        await _shop.Manager.PutAsJsonAsync(Put(_work), body).Json();
        (await _shop.Manager.PostAsJsonAsync(Put(_work) + "/try", body)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task Taking_work_out_is_tried_first()
    {
        var before = await Ends();
        var trial = await _shop.Manager.PostAsync($"/api/operations/{_after}/try-removal", null).Json();
        Days(trial).ShouldBeLessThan(0);
        trial.GetProperty("start").ValueKind.ShouldBe(JsonValueKind.Null);
        (await Ends()).ShouldBe(before);
    }

    [Fact]
    public async Task Work_that_nobody_could_do_would_have_no_date()
    {
        var body = await Changed(_work, o =>
            o["terms"]!["with"] = new JsonArray(new JsonObject { ["trade"] = "mechanic", ["count"] = 11 })
        );
        var trial = await _shop.Manager.PostAsJsonAsync(Put(_work) + "/try", body).Json();
        trial.GetProperty("withoutDate").EnumerateArray().Select(n => n.GetString()).ShouldContain("Long job");
    }

    [Fact]
    public async Task A_part_is_taken_off_once_and_put_back()
    {
        var part = new
        {
            id = Guid.CreateVersion7(),
            name = "Second half",
            minutes = 480,
            panels = Array.Empty<string>(),
            sideBySide = false,
            version = (await Of(_work)).GetProperty("version").GetUInt32(),
        };
        var trial = await _shop.Manager.PostAsJsonAsync($"/api/operations/{_work}/split/try", part).Json();
        Days(trial).ShouldBe(0);
        (await _build.Operations()).Count.ShouldBe(2);
        await _shop.Manager.PostAsJsonAsync($"/api/operations/{_work}/split", part).Json();
        // The same request once more, as after a lost answer.
        await _shop.Manager.PostAsJsonAsync($"/api/operations/{_work}/split", part).Json();
        (await _build.Operations())
            .OrderBy(o => o.GetProperty("position").GetInt32())
            .Select(o => (o.GetProperty("name").GetString(), o.GetProperty("budgetMinutes").GetInt32()))
            .ShouldBe([("Long job", 480), ("Second half", 480), ("Next job", 480)]);
        var next = await Of(_after);
        next.GetProperty("after")[0].GetProperty("operation").GetGuid().ShouldBe(part.id);
        await _shop
            .Manager.PostAsJsonAsync($"/api/operations/{_work}/merge", new { with = part.id, version = (uint?)null })
            .Json();
        (await _build.Operations()).Count.ShouldBe(2);
        (await Of(_work)).GetProperty("budgetMinutes").GetInt32().ShouldBe(960);
        (await Of(_after)).GetProperty("after")[0].GetProperty("operation").GetGuid().ShouldBe(_work);
    }

    [Fact]
    public async Task Work_with_hours_on_it_is_not_merged_away()
    {
        await _build.Hours(_after, "2026-03-01T08:00:00Z", "2026-03-01T09:00:00Z");
        await _shop
            .Manager.PostAsJsonAsync($"/api/operations/{_work}/merge", new { with = _after, version = (uint?)null })
            .Refused("id");
        await _shop
            .Manager.PostAsJsonAsync($"/api/operations/{_after}/merge", new { with = _work, version = (uint?)null })
            .Json();
        (await Of(_after)).GetProperty("budgetMinutes").GetInt32().ShouldBe(1440);
    }

    [Fact]
    public async Task Slack_leaves_what_follows_where_it_is_and_the_end_too()
    {
        var beside = await _build.Add(TestBuild.Work("Beside", 60));
        await _build.Add(TestBuild.Work("Last", 60, after: [Link(_after), Link(beside)]));
        var all = (await _build.Operations()).ToDictionary(o => o.GetProperty("id").GetGuid());
        static double Slack(JsonElement o) => (double)o.GetProperty("slackDays").GetDecimal();
        var end = all.Values.MaxBy(o => o.GetProperty("finishes").GetDateTimeOffset());
        Slack(end).ShouldBe(0);
        foreach (var o in all.Values)
        {
            foreach (
                var before in o.GetProperty("after").EnumerateArray().Select(a => a.GetProperty("operation").GetGuid())
            )
            {
                // As much later as what follows can be, and the time that lies between them.
                var between =
                    o.GetProperty("starts").GetDateTimeOffset()
                    - all[before].GetProperty("finishes").GetDateTimeOffset();
                Slack(all[before]).ShouldBeLessThanOrEqualTo(Slack(o) + between.TotalDays + 0.1);
            }
        }

        await _shop.Manager.PostAsync($"/api/operations/{beside}/done", null).Json();
        (await Of(beside)).GetProperty("slackDays").ValueKind.ShouldBe(JsonValueKind.Null);
    }
}

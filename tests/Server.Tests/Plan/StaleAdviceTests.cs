using System.Net.Http.Json;
using System.Text.Json;
using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Tests.Plan;

/// <summary>Where the plan's advice takes longer than a page waits, the page shows the last one and claims nothing that
/// has changed since.</summary>
public sealed class StaleAdviceTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private Renewed<PlanAdvice> Advice => shop.Services.GetRequiredService<Renewed<PlanAdvice>>();

    private async Task<JsonElement> Floor() => await shop.Manager.GetAsync("/api/floor").Json();

    private static List<(string Question, decimal? Days)> Asked(JsonElement floor) =>
        [
            .. floor
                .GetProperty("decisions")
                .EnumerateArray()
                .Select(d =>
                    (
                        d.GetProperty("question").GetString()!,
                        d.GetProperty("days").ValueKind == JsonValueKind.Null
                            ? (decimal?)null
                            : d.GetProperty("days").GetDecimal()
                    )
                ),
        ];

    private async Task<Guid> Ask(TestBuild build, string question, Guid holds)
    {
        var id = Guid.CreateVersion7();
        await shop
            .Manager.PostAsJsonAsync(
                $"/api/builds/{build.Id}/decisions",
                new
                {
                    id,
                    question,
                    detail = "",
                    @for = "manager",
                    options = new[] { "Yes", "No" },
                    holds = new[] { holds },
                    dueOn = "2026-03-20",
                    takesOut = Array.Empty<string>(),
                    photoId = (Guid?)null,
                }
            )
            .Json();
        return id;
    }

    [Fact]
    public async Task What_was_asked_since_has_no_days_yet_and_what_was_answered_since_is_gone()
    {
        shop.At(new(2026, 3, 2), 9, 0);
        var (build, _) = await TestBuild.OpenPair(shop);
        var work = await build.Add(TestBuild.Work("Held", minutes: 600));
        var first = await Ask(build, "First?", work);
        var known = await Floor();
        Asked(known).ShouldHaveSingleItem().Days!.Value.ShouldBeGreaterThan(0);
        known.GetProperty("daysWaiting").ValueKind.ShouldBe(JsonValueKind.Number);
        // From now on a new one is on its way and never comes.
        Advice.Renew = () => new TaskCompletionSource().Task;
        try
        {
            Asked(await Floor()).ShouldBe(Asked(known), "nothing has changed: it is the present one");
            await Ask(build, "Second?", work);
            var since = await Floor();
            Asked(since).Select(a => a.Question).ShouldBe(["First?", "Second?"]);
            Asked(since)[1].Days.ShouldBeNull();
            since.GetProperty("daysWaiting").ValueKind.ShouldBe(JsonValueKind.Null);
            await shop.Manager.PostAsJsonAsync($"/api/decisions/{first}/answer", new { answer = "Yes" }).Json();
            Asked(await Floor()).Select(a => a.Question).ShouldBe(["Second?"]);
        }
        finally
        {
            Advice.Renew = null;
        }

        Asked(await Floor()).ShouldHaveSingleItem().Days.ShouldNotBeNull();
    }

    [Fact]
    public async Task What_is_made_within_a_change_is_shown_to_nobody_else()
    {
        shop.At(new(2026, 3, 3), 9, 0);
        var build = await TestBuild.Open(shop);
        await Floor();
        var (before, times) = (Advice.Last!.Value.Value, Advice.Times);
        await using (var scope = shop.Scope())
        {
            var db = scope.ServiceProvider.GetRequiredService<Store.ShopDb>();
            await using var change = await db.Database.BeginTransactionAsync(TestContext.Current.CancellationToken);
            (await db.Builds.SingleAsync(b => b.Id == build.Id, TestContext.Current.CancellationToken)).Priority = 66;
            await db.SaveChangesAsync(TestContext.Current.CancellationToken);
            var desk = scope.ServiceProvider.GetRequiredService<PlanDesk>();
            await desk.Advise(TestContext.Current.CancellationToken);
            await desk.Chances(TestContext.Current.CancellationToken);
        }

        (Advice.Times, Advice.Last!.Value.Value).ShouldBe((times, before));
    }
}

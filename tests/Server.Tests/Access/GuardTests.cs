using System.Net;
using System.Net.Http.Json;

namespace FirstCoat.Server.Tests.Access;

/// <summary>What a stranger tries: many passwords, another's token, a page without its policy.</summary>
public sealed class GuardTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static async Task<HttpStatusCode> Try(HttpClient client, string forwarded, string token)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/session")
        {
            Content = JsonContent.Create(new { user = "mara", password = "not the password" }),
        };
        request.Headers.Add("X-Forwarded-For", forwarded);
        request.Headers.Add("Cookie", $"XSRF-TOKEN={token}");
        request.Headers.Add("X-XSRF-TOKEN", token);
        return (await client.SendAsync(request)).StatusCode;
    }

    [Fact]
    public async Task Sign_ins_are_limited_for_each_caller_behind_the_proxy()
    {
        await using var strict = shop.WithWebHostBuilder(b => b.UseSetting("Shop:SignInsPerMinute", "3"));
        using var client = strict.CreateDefaultClient(new Uri("http://localhost"));
        async Task<List<HttpStatusCode>> Tries(string from) =>
            [
                await Try(client, from, "t"),
                await Try(client, from, "t"),
                await Try(client, from, "t"),
                await Try(client, from, "t"),
            ];
        (await Tries("203.0.113.7"))[3].ShouldBe(HttpStatusCode.TooManyRequests);
        (await Try(client, "203.0.113.8", "t")).ShouldNotBe(
            HttpStatusCode.TooManyRequests,
            "another caller is not locked out by the first"
        );
        (await Try(client, "198.51.100.1, 203.0.113.7", "t")).ShouldBe(
            HttpStatusCode.TooManyRequests,
            "a caller cannot invent an address: the proxy's word is the last"
        );
    }

    [Fact]
    public async Task A_change_without_the_anti_forgery_token_is_refused()
    {
        using var client = shop.CreateDefaultClient(new Uri("http://localhost"));
        using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/builds/{Guid.NewGuid()}/payments")
        {
            Content = JsonContent.Create(new { }),
        };
        request.Headers.Add("Cookie", shop.CookieOf(shop.Manager));
        ((int)(await client.SendAsync(request)).StatusCode).ShouldBeInRange(400, 403);
    }

    [Fact]
    public async Task Every_page_comes_with_a_policy_that_allows_no_inline_script()
    {
        var page = await shop.Manager.GetAsync("/api/session");
        var policy = page.Headers.GetValues("Content-Security-Policy").ShouldHaveSingleItem();
        policy.ShouldContain("default-src 'self'");
        policy
            .Split(';')
            .Where(p => p.Contains("script-src", StringComparison.Ordinal))
            .ShouldAllBe(p => !p.Contains("unsafe", StringComparison.Ordinal));
        page.Headers.GetValues("X-Content-Type-Options").ShouldBe(["nosniff"]);
    }

    [Theory]
    [InlineData("#9A3A1E", true)]
    [InlineData("#A0402A", true)]
    [InlineData("#1B6670", false)]
    public async Task A_paint_that_would_read_as_an_alarm_is_told(string hex, bool alarm)
    {
        var judged = await shop.Technician.GetAsync($"/api/paint?hex={Uri.EscapeDataString(hex)}").Json();
        judged.GetProperty("readsAsAlarm").GetBoolean().ShouldBe(alarm);
        await shop.Technician.GetAsync("/api/paint?hex=red").Refused("hex");
    }

    [Fact]
    public async Task A_progress_contract_keeps_its_stages_and_a_brief_its_milestones()
    {
        var id = Guid.CreateVersion7();
        object Contract(int last) =>
            new
            {
                kind = "progress",
                price = 9000m,
                stages = new[]
                {
                    new
                    {
                        name = "Metal",
                        sharePercent = 40,
                        donePercent = 50,
                    },
                    new
                    {
                        name = "Paint",
                        sharePercent = last,
                        donePercent = 0,
                    },
                },
                donePercent = 100,
                retentionPercent = 5,
                retentionReleased = false,
            };
        await shop
            .Manager.PostAsJsonAsync("/api/builds", TestBuild.OpenBody(id, contract: Contract(50)))
            .Refused("share");
        await shop.Manager.PostAsJsonAsync("/api/builds", TestBuild.OpenBody(id, contract: Contract(60))).Json();
        var build = await shop.Manager.GetAsync($"/api/builds/{id}").Json();
        build
            .GetProperty("contract")
            .GetProperty("stages")
            .EnumerateArray()
            .Select(s => s.GetProperty("sharePercent").GetDecimal())
            .ShouldBe([40m, 60m]);
        // Half of 40 percent of 9,000.00 is billed; nothing of the rest.
        var money = await shop.Manager.GetAsync($"/api/builds/{id}/money").Json();
        money.GetProperty("totals").GetProperty("net").GetDecimal().ShouldBe(1800m);
        money.GetProperty("totals").GetProperty("retention").GetDecimal().ShouldBe(90m);
    }
}

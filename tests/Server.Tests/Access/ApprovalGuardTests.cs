using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using FirstCoat.Store.Access;
using NodaTime;

namespace FirstCoat.Server.Tests.Access;

/// <summary>A client's approval cannot be guessed, forged or worn down by whoever holds the private link.</summary>
public sealed partial class ApprovalGuardTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private sealed record Sent(Guid Build, Guid Paper, string Email, string Token);

    private async Task<Sent> Estimate()
    {
        var email = $"client{Guid.NewGuid():N}@example.org";
        var build = await TestBuild.Open(
            shop,
            "paint-then-assemble",
            email: email,
            client: $"Client {Guid.NewGuid():N}"
        );
        var paper = Guid.CreateVersion7();
        await shop.Office.PostAsJsonAsync($"/api/builds/{build.Id}/estimates", new { id = paper }).Json();
        await shop.SendPaper(paper).Json();
        return new(
            build.Id,
            paper,
            email,
            Unfolded(shop.LastLetter(email)) is var t ? LinkPattern().Match(t).Groups[1].Value : ""
        );
    }

    private static string Unfolded(string letter) =>
        letter.Replace("=\r\n", "", StringComparison.Ordinal).Replace("=\n", "", StringComparison.Ordinal);

    private static Task<HttpResponseMessage> Answer(HttpClient client, Sent s, string code) =>
        client.PostAsJsonAsync(
            $"/api/private/{s.Token}/papers/{s.Paper}/answer",
            new
            {
                code,
                yes = true,
                name = "Petra Client",
                choices = Array.Empty<string>(),
            }
        );

    private static Task<HttpResponseMessage> AskCode(HttpClient client, Sent s) =>
        client.PostAsJsonAsync($"/api/private/{s.Token}/papers/{s.Paper}/code", new { });

    private string Code(Sent s) => CodePattern().Match(shop.LastLetter(s.Email)).Groups[1].Value;

    private static string Other(string code, int by) =>
        ((int.Parse(code, CultureInfo.InvariantCulture) + by) % 1_000_000).ToString("D6", CultureInfo.InvariantCulture);

    [Fact]
    public async Task Wrong_answers_at_once_count_one_by_one_and_tell_nothing_of_the_code()
    {
        var sent = await Estimate();
        var client = await shop.Anonymous();
        await AskCode(client, sent).Json();
        var code = Code(sent);
        var answers = await Task.WhenAll(Enumerable.Range(1, 12).Select(i => Answer(client, sent, Other(code, i))));
        foreach (var answer in answers)
        {
            var text = await answer.Content.ReadAsStringAsync();
            answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest, text);
            text.ShouldNotContain("hash", Case.Insensitive);
            text.ShouldNotContain("stored");
            text.ShouldNotContain(sent.Email);
        }

        await Answer(client, sent, code).Refused("code");
        (await client.GetAsync($"/api/private/{sent.Token}/papers/{sent.Paper}").Json())
            .GetProperty("state")
            .GetString()
            .ShouldBe("sent", "five tries had ended the code");
    }

    [Fact]
    public async Task Codes_asked_for_at_once_are_no_more_than_five_an_hour()
    {
        var sent = await Estimate();
        var client = await shop.Anonymous();
        var asked = await Task.WhenAll(Enumerable.Range(0, 9).Select(_ => AskCode(client, sent)));
        asked.Count(a => a.StatusCode == HttpStatusCode.OK).ShouldBe(5);
        asked.Count(a => a.StatusCode == HttpStatusCode.BadRequest).ShouldBe(4);
    }

    [Fact]
    public async Task Twenty_wrong_answers_in_a_day_close_the_paper_for_codes_and_the_shop_is_told()
    {
        shop.At(new LocalDate(2026, 3, 2), 9, 0);
        var sent = await Estimate();
        var client = await shop.Anonymous();
        for (var round = 0; round < 4; round++)
        {
            shop.At(new LocalDate(2026, 3, 2), 10 + round, 1);
            await AskCode(client, sent).Json();
            var code = Code(sent);
            for (var i = 1; i <= 5; i++)
            {
                await Answer(client, sent, Other(code, i)).Refused("code");
            }
        }

        await AskCode(client, sent).Refused("code");
        var questions = (await shop.Manager.GetAsync($"/api/builds/{sent.Build}").Json())
            .GetProperty("decisions")
            .EnumerateArray()
            .ToList();
        questions
            .ShouldHaveSingleItem("told once")
            .GetProperty("question")
            .GetString()
            .ShouldBe("20 wrong codes for estimate 1 in a day");
        shop.At(new LocalDate(2026, 3, 3), 14, 30);
        await AskCode(client, sent).Json();
        await Answer(client, sent, Code(sent)).Json();
        (await client.GetAsync($"/api/private/{sent.Token}/papers/{sent.Paper}").Json())
            .GetProperty("state")
            .GetString()
            .ShouldBe("accepted", "the next day the client goes on");
        shop.At(new LocalDate(2026, 3, 2), 9, 0);
    }

    [Fact]
    public async Task What_is_kept_of_a_code_cannot_be_found_by_trying_all_codes_with_the_database_in_hand()
    {
        var sent = await Estimate();
        await AskCode(await shop.Anonymous(), sent).Json();
        await using var scope = shop.Scope();
        var kept = await scope
            .ServiceProvider.GetRequiredService<Store.ShopDb>()
            .ApprovalCodes.SingleAsync(c => c.PaperId == sent.Paper, TestContext.Current.CancellationToken);
        var secret = scope.ServiceProvider.GetRequiredService<ShopSecrets>().Hashing;
        Core.Access.ApprovalCode.Hash(Code(sent), sent.Paper, sent.Token, secret)
            .ShouldBe(kept.CodeHash, "it is the code's own");
        kept.CodeHash.ShouldNotBe(
            Convert.ToHexStringLower(
                System.Security.Cryptography.SHA256.HashData(
                    System.Text.Encoding.UTF8.GetBytes($"{Code(sent)}|{sent.Paper:N}|{sent.Token}")
                )
            )
        );
        Core.Access.ApprovalCode.Hash(Code(sent), sent.Paper, sent.Token, new byte[32])
            .ShouldNotBe(kept.CodeHash, "without the server's secret");
    }

    [Fact]
    public async Task The_link_in_a_letter_is_the_shops_address_whatever_the_request_calls_the_server()
    {
        var settings = (await shop.Manager.GetAsync("/api/shop").Json()).GetProperty("settings");
        var body = JsonSerializer.Deserialize<Dictionary<string, object?>>(settings.GetRawText())!;
        body["address"] = "https://kettle.example/";
        body["version"] = null;
        await shop.Manager.PutAsJsonAsync("/api/shop/settings", body).Json();
        var email = $"client{Guid.NewGuid():N}@example.org";
        var build = await TestBuild.Open(shop, email: email, client: $"Client {Guid.NewGuid():N}");
        var paper = Guid.CreateVersion7();
        await shop.Office.PostAsJsonAsync($"/api/builds/{build.Id}/estimates", new { id = paper }).Json();
        using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/papers/{paper}/send")
        {
            Content = JsonContent.Create(new { seen = await shop.SeenOf(paper), way = "letter" }),
        };
        request.Headers.Host = "evil.example";
        await shop.Manager.SendAsync(request).Json();
        var letter = Unfolded(shop.LastLetter(email));
        letter.ShouldContain("https://kettle.example/r/");
        letter.ShouldNotContain("evil");
        body["address"] = "";
        await shop.Manager.PutAsJsonAsync("/api/shop/settings", body).Json();
        body["address"] = "javascript:alert(1)";
        await shop.Manager.PutAsJsonAsync("/api/shop/settings", body).Refused("address");
    }

    [Fact]
    public async Task An_address_that_no_letter_reaches_is_refused_and_a_wrong_one_can_be_corrected()
    {
        await shop
            .Manager.PostAsJsonAsync("/api/builds", TestBuild.OpenBody(Guid.CreateVersion7(), email: "no address"))
            .Refused("clientEmail");
        var build = await TestBuild.Open(shop, email: "wrong@example.org", client: $"Client {Guid.NewGuid():N}");
        var view = await shop.Office.GetAsync($"/api/builds/{build.Id}").Json();
        object Client(string email, uint? version) =>
            new
            {
                name = "Petra Client",
                email,
                phone = "",
                version,
            };
        await shop.Office.PutAsJsonAsync($"/api/builds/{build.Id}/client", Client("a@b", null)).Refused("email");
        await shop
            .Office.PutAsJsonAsync(
                $"/api/builds/{build.Id}/client",
                Client("right@example.org", view.GetProperty("clientVersion").GetUInt32())
            )
            .Json();
        await shop
            .Office.PutAsJsonAsync(
                $"/api/builds/{build.Id}/client",
                Client("late@example.org", view.GetProperty("clientVersion").GetUInt32())
            )
            .Refused("version", HttpStatusCode.Conflict);
        (await shop.Office.GetAsync($"/api/builds/{build.Id}").Json())
            .GetProperty("clientEmail")
            .GetString()
            .ShouldBe("right@example.org");
    }

    [GeneratedRegex("/r/([A-Za-z0-9_-]+)/papers/")]
    private static partial Regex LinkPattern();

    [GeneratedRegex(@"Code: (\d{6})")]
    private static partial Regex CodePattern();
}

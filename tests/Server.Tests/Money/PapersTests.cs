using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace FirstCoat.Server.Tests.Money;

/// <summary>Estimates and change orders: sent, answered with a code or on paper, and what follows for sequence, bill
/// and findings.</summary>
public sealed partial class PapersTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private int _clients;

    /// <summary>A build of a client with an address of their own, and that address.</summary>
    private async Task<(TestBuild Build, string Email)> Known(object? contract = null)
    {
        var email = $"client{Guid.NewGuid():N}@example.org";
        return (
            await TestBuild.Open(
                shop,
                "paint-then-assemble",
                email: email,
                client: $"Client {++_clients}",
                contract: contract
            ),
            email
        );
    }

    private async Task<Guid> Estimate(TestBuild build)
    {
        var id = Guid.CreateVersion7();
        await shop.Office.PostAsJsonAsync($"/api/builds/{build.Id}/estimates", new { id }).Json();
        return id;
    }

    private Task<JsonElement> Send(Guid paper) => shop.SendPaper(paper).Json();

    private Task<HttpResponseMessage> OnPaper(Guid paper, bool yes = true, string[]? choices = null) =>
        shop.Office.PostAsJsonAsync(
            $"/api/papers/{paper}/answer",
            new
            {
                yes,
                name = "Petra Client",
                choices = choices ?? [],
                note = "signed copy in the folder",
            }
        );

    private Task<JsonElement> Papers(TestBuild build) => shop.Office.GetAsync($"/api/builds/{build.Id}/papers").Json();

    private async Task<JsonElement> Row(TestBuild build, Guid paper) =>
        (await Papers(build))
            .GetProperty("papers")
            .EnumerateArray()
            .Single(p => p.GetProperty("id").GetGuid() == paper);

    private async Task<TestBuild> Accepted(object? contract = null)
    {
        var (build, _) = await Known(contract);
        var paper = await Estimate(build);
        await Send(paper);
        await OnPaper(paper).Json();
        return build;
    }

    private async Task<Guid> Change(TestBuild build, string title = "Heated seats")
    {
        var id = Guid.CreateVersion7();
        await shop
            .Office.PostAsJsonAsync(
                $"/api/builds/{build.Id}/change-orders",
                new
                {
                    id,
                    title,
                    reason = "You asked for them.",
                }
            )
            .Json();
        return id;
    }

    /// <summary>Five hours at 60.00 and parts: of the operations named, or new.</summary>
    private Task<HttpResponseMessage> Line(Guid paper, params Guid[] operations) =>
        shop.Office.PutAsJsonAsync(
            $"/api/papers/{paper}/lines/{Guid.CreateVersion7()}",
            new
            {
                text = "Looms and switches",
                work = Added(operations.Length > 0 ? 0 : 300, 180.50m),
                operations,
                version = (uint?)null,
            }
        );

    private static object Added(int minutes, decimal parts, Guid[]? leaves = null) =>
        new
        {
            minutes,
            trade = "electric",
            stage = "driveline",
            parts,
            outside = 0,
            outsideDays = 0,
            materials = 0,
            leaves = leaves ?? [],
        };

    private (string Token, Guid Paper) LinkIn(string email)
    {
        var match = LinkPattern()
            .Match(
                shop.LastLetter(email)
                    .Replace("=\r\n", "", StringComparison.Ordinal)
                    .Replace("=\n", "", StringComparison.Ordinal)
            );
        return (match.Groups[1].Value, Guid.Parse(match.Groups[2].Value));
    }

    private string CodeIn(string email) => CodePattern().Match(shop.LastLetter(email)).Groups[1].Value;

    private static Task<HttpResponseMessage> WithCode(
        HttpClient client,
        string token,
        Guid paper,
        string code,
        bool yes = true
    ) =>
        client.PostAsJsonAsync(
            $"/api/private/{token}/papers/{paper}/answer",
            new
            {
                code,
                yes,
                name = "Petra Client",
                choices = Array.Empty<string>(),
            }
        );

    [Fact]
    public async Task An_estimate_is_sent_to_the_known_address_and_accepted_there_with_a_code()
    {
        var (build, email) = await Known();
        var paper = await Estimate(build);
        await Send(paper);
        var (token, named) = LinkIn(email);
        named.ShouldBe(paper);
        var client = await shop.Anonymous();
        var page = (await client.GetAsync($"/api/private/{token}/papers/{paper}").Json()).GetProperty("page");
        var totals = page.GetProperty("totals");
        var rows = page.GetProperty("figures")
            .GetProperty("rows")
            .EnumerateArray()
            .Sum(r => r.GetProperty("likely").GetDecimal());
        var goods = page.GetProperty("figures")
            .GetProperty("goods")
            .EnumerateArray()
            .Sum(g => g.GetProperty("likely").GetDecimal());
        totals.GetProperty("net").GetDecimal().ShouldBe(rows + goods);
        totals
            .GetProperty("gross")
            .GetDecimal()
            .ShouldBe(
                rows + goods + totals.GetProperty("tax").EnumerateArray().Sum(t => t.GetProperty("tax").GetDecimal())
            );

        (await client.PostAsync($"/api/private/{token}/papers/{paper}/code", null).Json())
            .GetProperty("to")
            .GetString()
            .ShouldBe("c…@example.org");
        await WithCode(client, token, paper, CodeIn(email)).Json();
        var row = await Row(build, paper);
        row.GetProperty("state").GetString().ShouldBe("accepted");
        row.GetProperty("answer").GetProperty("way").GetString().ShouldBe("code");
        var opened = await shop.Manager.GetAsync($"/api/builds/{build.Id}").Json();
        opened.GetProperty("acceptedAt").ValueKind.ShouldBe(JsonValueKind.String);
        opened.GetProperty("estimate").GetProperty("labour").GetDecimal().ShouldBe(rows);
        await shop
            .Office.PostAsJsonAsync($"/api/builds/{build.Id}/estimates", new { id = Guid.CreateVersion7() })
            .Refused("id");
    }

    [Fact]
    public async Task A_code_that_is_wrong_late_used_or_of_another_link_does_nothing()
    {
        var (build, email) = await Known();
        var paper = await Estimate(build);
        await Send(paper);
        var (token, _) = LinkIn(email);
        var client = await shop.Anonymous();
        await client.PostAsync($"/api/private/{token}/papers/{paper}/code", null).Json();
        var code = CodeIn(email);
        var wrong = await WithCode(client, token, paper, code == "000000" ? "000001" : "000000").Refused("code");
        // Another link of the same client, and another client's link.
        var second = (
            await shop
                .Manager.PostAsJsonAsync($"/api/builds/{build.Id}/links", new { id = Guid.CreateVersion7(), days = 5 })
                .Json()
        )
            .GetProperty("path")
            .GetString()!["/r/".Length..];
        await WithCode(client, second, paper, code).Refused("code");
        var (stranger, theirs) = await Known();
        await Send(await Estimate(stranger));
        await WithCode(client, LinkIn(theirs).Token, paper, code).Json(HttpStatusCode.NotFound);
        await client
            .PostAsync($"/api/private/{LinkIn(theirs).Token}/papers/{paper}/code", null)
            .Json(HttpStatusCode.NotFound);
        var now = shop.Clock.GetUtcNow();
        shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now.AddMinutes(15)));
        var late = await WithCode(client, token, paper, code).Refused("code");
        late.GetProperty("detail").GetString().ShouldBe(wrong.GetProperty("detail").GetString(), "all look alike");
        shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now));
        (await Row(build, paper)).GetProperty("state").GetString().ShouldBe("sent");
        await WithCode(client, token, paper, code).Json();
        await WithCode(client, token, paper, code, yes: false).Refused("id");
        (await Row(build, paper)).GetProperty("state").GetString().ShouldBe("accepted");
    }

    [Fact]
    public async Task Codes_are_few_and_an_address_must_be_known()
    {
        var (build, email) = await Known();
        var paper = await Estimate(build);
        await Send(paper);
        var client = await shop.Anonymous();
        var token = LinkIn(email).Token;
        for (var i = 0; i < 5; i++)
        {
            await client.PostAsync($"/api/private/{token}/papers/{paper}/code", null).Json();
        }

        await client.PostAsync($"/api/private/{token}/papers/{paper}/code", null).Refused("code");
        var unknown = await TestBuild.Open(shop, client: "Nobody Known");
        var other = await Estimate(unknown);
        await shop.SendPaper(other).Refused("email");
        await shop.SendPaper(other, "byHand").Json();
        var link = (
            await shop
                .Manager.PostAsJsonAsync(
                    $"/api/builds/{unknown.Id}/links",
                    new { id = Guid.CreateVersion7(), days = 5 }
                )
                .Json()
        )
            .GetProperty("path")
            .GetString()!["/r/".Length..];
        await client.PostAsync($"/api/private/{link}/papers/{other}/code", null).Refused("email");
    }

    [Fact]
    public async Task A_choice_taken_with_the_estimate_is_agreed_with_it()
    {
        var (build, _) = await Known();
        var paper = await Estimate(build);
        var words = (await Row(build, paper)).GetProperty("words");
        var edited = JsonSerializer.Deserialize<Dictionary<string, object>>(words.GetRawText())!;
        edited["choices"] = new[]
        {
            new
            {
                letter = "A",
                text = "Drive it bare first",
                work = Added(600, 35.10m),
            },
        };
        edited["deposit"] = 1200m;
        edited["version"] = null!;
        await shop.Office.PutAsJsonAsync($"/api/papers/{paper}", edited).Json();
        await Send(paper);
        await shop.Office.PutAsJsonAsync($"/api/papers/{paper}", edited).Refused("id");
        await OnPaper(paper, choices: ["B"]).Refused("choices");
        var net = (await Row(build, paper)).GetProperty("net").GetDecimal();
        await OnPaper(paper, choices: ["A"]).Json();
        (await Papers(build)).GetProperty("agreed").GetDecimal().ShouldBe(net + 635.10m);
    }

    [Fact]
    public async Task A_newer_estimate_takes_the_place_of_one_that_is_out()
    {
        var (build, _) = await Known();
        var first = await Estimate(build);
        await Send(first);
        var second = await Estimate(build);
        await Send(second);
        (await Row(build, first)).GetProperty("withdrawnWhy").GetString().ShouldBe("Estimate 2 took its place");
        await OnPaper(first).Refused("id");
        await OnPaper(second).Json();
    }

    [Fact]
    public async Task An_estimate_past_its_day_is_not_accepted_with_a_code()
    {
        var (build, email) = await Known();
        var paper = await Estimate(build);
        await Send(paper);
        var now = shop.Clock.GetUtcNow();
        shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now.AddDays(31)));
        await (await shop.Anonymous())
            .PostAsync($"/api/private/{LinkIn(email).Token}/papers/{paper}/code", null)
            .Refused("id");
        shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now));
    }

    [Fact]
    public async Task What_is_found_after_acceptance_is_a_change_order_and_its_work_waits()
    {
        var build = await Accepted();
        var agreed = (await Papers(build)).GetProperty("agreed").GetDecimal();
        var finding = await Found(build);
        (await Papers(build)).GetProperty("agreed").GetDecimal().ShouldBe(agreed, "nothing found is silently absorbed");
        var paper = (await Papers(build))
            .GetProperty("papers")
            .EnumerateArray()
            .Single(p => p.GetProperty("kind").GetString() == "changeOrder");
        // 14 h at 60.00 and 60.00 of material, which this shop sells at cost; the template had allowed 2 h for the boot
        // floor.
        paper.GetProperty("net").GetDecimal().ShouldBe(780m);
        paper.GetProperty("lines")[0].GetProperty("minutes").GetInt32().ShouldBe(12 * 60);
        var id = paper.GetProperty("id").GetGuid();
        var work = (await build.Operations())
            .Single(o => o.GetProperty("name").GetString()!.Contains("finding 1", StringComparison.Ordinal))
            .GetProperty("id")
            .GetGuid();
        await shop.Technician.StartClock(work, person: shop.TechnicianPerson).Refused("operationId");
        var waits = (await shop.Manager.GetAsync("/api/floor").Json())
            .GetProperty("decisions")
            .EnumerateArray()
            .Single(d => d.GetProperty("buildId").GetGuid() == build.Id);
        waits.GetProperty("question").GetString()!.ShouldContain("is not sent yet");
        await Send(id);
        var asked = (await shop.Manager.GetAsync("/api/floor").Json())
            .GetProperty("decisions")
            .EnumerateArray()
            .Single(d => d.GetProperty("buildId").GetGuid() == build.Id);
        (asked.GetProperty("for").GetString(), asked.GetProperty("paperId").GetGuid()).ShouldBe(("client", id));
        await shop
            .Office.PostAsJsonAsync(
                $"/api/decisions/{asked.GetProperty("id").GetGuid()}/answer",
                new { answer = "yes" }
            )
            .Refused("id");
        // While it is with the client the verdict is not changed behind their back.
        await shop
            .Technician.PostAsJsonAsync($"/api/findings/{finding}/choose", new { verdict = "fabricate", reason = "" })
            .Json();
        await shop.Manager.PostAsync($"/api/findings/{finding}/agree", null).Json();
        await shop.Manager.PostAsync($"/api/findings/{finding}/apply", null).Refused("verdict");
        await OnPaper(id).Json();
        (await Papers(build)).GetProperty("agreed").GetDecimal().ShouldBe(agreed + 780m);
        await build.Reach(work);
        await shop.Technician.StartClock(work, person: shop.TechnicianPerson).Json();
        await shop.Technician.StopClock(breakWorked: true, person: shop.TechnicianPerson).Json();
        (await shop.Manager.GetAsync("/api/floor").Json())
            .GetProperty("decisions")
            .EnumerateArray()
            .Any(d => d.GetProperty("buildId").GetGuid() == build.Id)
            .ShouldBeFalse();
    }

    [Fact]
    public async Task Declined_work_goes_out_again_and_the_finding_says_why_it_is_not_mended()
    {
        var build = await Accepted();
        var agreed = (await Papers(build)).GetProperty("agreed").GetDecimal();
        async Task<int> Minutes() => (await build.Operations()).Sum(o => o.GetProperty("budgetMinutes").GetInt32());
        var (before, minutes) = ((await build.Operations()).Count, await Minutes());
        var finding = await Found(build);
        (await build.Operations()).Count.ShouldBe(before + 1);
        // 14 h for the boot floor, in place of the 2 h that were allowed for it.
        (await Minutes()).ShouldBe(minutes + (12 * 60));
        var paper = (await Papers(build))
            .GetProperty("papers")
            .EnumerateArray()
            .Single(p => p.GetProperty("kind").GetString() == "changeOrder")
            .GetProperty("id")
            .GetGuid();
        await Send(paper);
        await OnPaper(paper, yes: false).Json();
        (await build.Operations()).Count.ShouldBe(before);
        (await Minutes()).ShouldBe(minutes, "what was agreed before stands again");
        (await Papers(build)).GetProperty("agreed").GetDecimal().ShouldBe(agreed);
        var shown = (await shop.Manager.GetAsync($"/api/builds/{build.Id}/survey").Json())
            .GetProperty("findings")
            .EnumerateArray()
            .Single(f => f.GetProperty("id").GetGuid() == finding);
        (
            shown.GetProperty("notDoneWhy").GetString(),
            shown.GetProperty("planned").GetBoolean(),
            shown.GetProperty("agreedBy").ValueKind
        ).ShouldBe(("declined by the client", false, JsonValueKind.Null));
    }

    [Fact]
    public async Task Another_verdict_in_the_draft_replaces_its_line_and_leaving_it_empties_the_draft()
    {
        var build = await Accepted();
        var finding = await Found(build);
        async Task<JsonElement> Draft() =>
            (await Papers(build))
                .GetProperty("papers")
                .EnumerateArray()
                .Single(p => p.GetProperty("kind").GetString() == "changeOrder");
        await shop
            .Technician.PostAsJsonAsync($"/api/findings/{finding}/choose", new { verdict = "fabricate", reason = "" })
            .Json();
        await shop.Manager.PostAsync($"/api/findings/{finding}/agree", null).Json();
        await shop.Manager.PostAsync($"/api/findings/{finding}/apply", null).Json();
        (await Draft()).GetProperty("net").GetDecimal().ShouldBe(1080m);
        (await Draft()).GetProperty("lines")[0].GetProperty("minutes").GetInt32().ShouldBe(17 * 60);
        (await Draft()).GetProperty("lines").GetArrayLength().ShouldBe(1);
        await shop
            .Technician.PostAsJsonAsync($"/api/findings/{finding}/choose", new { verdict = "leave", reason = "" })
            .Json();
        await shop.Manager.PostAsync($"/api/findings/{finding}/agree", null).Json();
        await shop.Manager.PostAsync($"/api/findings/{finding}/apply", null).Json();
        (await Draft()).GetProperty("lines").GetArrayLength().ShouldBe(0);
        await shop.SendPaper((await Draft()).GetProperty("id").GetGuid()).Refused("lines");
    }

    [Fact]
    public async Task A_manager_lets_held_work_go_on_with_a_reason_and_it_is_not_billed_until_agreed()
    {
        var build = await Accepted();
        var work = await build.Add(TestBuild.Work("Looms under the seats", 300));
        var paper = await Change(build);
        await Line(paper, work).Json();
        var decision = (await shop.Manager.GetAsync($"/api/builds/{build.Id}").Json())
            .GetProperty("decisions")
            .EnumerateArray()
            .Single(d => d.GetProperty("paperId").ValueKind == JsonValueKind.String);
        var id = decision.GetProperty("id").GetGuid();
        object Body(string reason) => new { operationId = work, reason };
        await shop
            .Office.PostAsJsonAsync($"/api/decisions/{id}/let-go-on", Body("she said yes on the phone"))
            .Json(HttpStatusCode.Forbidden);
        await shop.Manager.PostAsJsonAsync($"/api/decisions/{id}/let-go-on", Body(" ")).Refused("reason");
        await shop.Manager.PostAsJsonAsync($"/api/decisions/{id}/let-go-on", Body("she said yes on the phone")).Json();
        await build.Hours(work, "2026-02-20T08:00:00Z", "2026-02-20T10:00:00Z");
        async Task<JsonElement> Money() => await shop.Manager.GetAsync($"/api/builds/{build.Id}/money").Json();
        (await Money())
            .GetProperty("notBilled")[0]
            .GetProperty("text")
            .GetString()!
            .ShouldContain("waits for its change order");
        (await Money()).GetProperty("totals").GetProperty("net").GetDecimal().ShouldBe(0);
        (await Money()).GetProperty("totals").GetProperty("changesPending").GetDecimal().ShouldBe(480.50m);
        await Send(paper);
        await OnPaper(paper).Json();
        (await Money()).GetProperty("totals").GetProperty("net").GetDecimal().ShouldBe(120m);
        (await Money()).GetProperty("totals").GetProperty("changesApproved").GetDecimal().ShouldBe(480.50m);
    }

    [Fact]
    public async Task At_a_fixed_price_an_agreed_change_is_a_line_of_its_own()
    {
        var build = await Accepted(
            new
            {
                kind = "fixed",
                price = 10_000m,
                stages = (object?)null,
                donePercent = 100,
                retentionPercent = 0,
                retentionReleased = false,
            }
        );
        var paper = await Change(build);
        await Line(paper).Json();
        await Send(paper);
        await OnPaper(paper).Json();
        var lines = (await shop.Manager.GetAsync($"/api/builds/{build.Id}/money").Json())
            .GetProperty("lines")
            .EnumerateArray()
            .Select(l => (l.GetProperty("text").GetString(), l.GetProperty("net").GetDecimal()))
            .ToList();
        lines.ShouldContain(("Change order 1: Heated seats", 480.50m));
        lines.Sum(l => l.Item2).ShouldBe(10_480.50m);
    }

    [Fact]
    public async Task Before_acceptance_there_is_nothing_to_change_and_after_it_the_estimate_is_not_typed_over()
    {
        var (build, _) = await Known();
        await shop
            .Office.PostAsJsonAsync(
                $"/api/builds/{build.Id}/change-orders",
                new
                {
                    id = Guid.CreateVersion7(),
                    title = "Seats",
                    reason = "",
                }
            )
            .Refused("id");
        var accepted = await Accepted();
        var b = await shop.Manager.GetAsync($"/api/builds/{accepted.Id}").Json();
        var body = new
        {
            vehicle = b.GetProperty("vehicle"),
            brief = new
            {
                grade = "show",
                originality = "original",
                promised = "2026-06-01",
                budget = (decimal?)null,
                milestones = Array.Empty<object>(),
            },
            contract = b.GetProperty("contract"),
            estimate = new
            {
                labour = 1,
                parts = 1,
                outside = 1,
                materials = 1,
            },
            priority = 1,
            fillIn = false,
            version = (uint?)null,
        };
        await shop.Manager.PutAsJsonAsync($"/api/builds/{accepted.Id}", body).Refused("estimate");
    }

    private async Task<Guid> Found(TestBuild build)
    {
        var id = Guid.CreateVersion7();
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/findings/{id}",
                new
                {
                    place = "bootFloor",
                    at = new { x = 130.5, y = 210.0 },
                    area = Array.Empty<object>(),
                    kind = "thinning",
                    probe = "dents",
                    sizeMm = 480,
                    structural = false,
                    gaugeMm = 1.2m,
                    note = "through along the seam",
                    photoId = (Guid?)null,
                    behind = (Guid?)null,
                    version = (uint?)null,
                }
            )
            .Json();
        object Way(string verdict, decimal hours, decimal material) =>
            new
            {
                verdict,
                hours,
                trade = "metal",
                material,
                sheetM2Price = 0,
                part = 0,
                freight = 0,
                leadDays = 0,
                riskPercent = 0,
                notSold = false,
            };
        object[] options =
        [
            new
            {
                verdict = "leave",
                hours = 0,
                trade = "hand",
                material = 0,
                sheetM2Price = 0,
                part = 0,
                freight = 0,
                leadDays = 0,
                riskPercent = 0,
                notSold = false,
            },
            Way("repair", 14, 60),
            Way("fabricate", 19, 60),
        ];
        await shop.Office.PutAsJsonAsync($"/api/findings/{id}/options", new { options, version = (uint?)null }).Json();
        await shop
            .Technician.PostAsJsonAsync($"/api/findings/{id}/choose", new { verdict = "repair", reason = "" })
            .Json();
        await shop.Manager.PostAsync($"/api/findings/{id}/agree", null).Json();
        await shop.Manager.PostAsync($"/api/findings/{id}/apply", null).Json();
        return id;
    }

    [GeneratedRegex(@"/r/([\w-]+)/papers/([0-9a-f-]{36})")]
    private static partial Regex LinkPattern();

    [GeneratedRegex(@"Code: (\d{6})")]
    private static partial Regex CodePattern();
}

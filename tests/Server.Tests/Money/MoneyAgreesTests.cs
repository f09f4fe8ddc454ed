using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace FirstCoat.Server.Tests.Money;

/// <summary>Money and papers agree over HTTP: caps, choices, answers that leave work out, batches with bags, storage,
/// letters.</summary>
public sealed partial class MoneyAgreesTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private async Task<(TestBuild Build, string Email)> Known(object? contract = null)
    {
        var email = $"client{Guid.NewGuid():N}@example.org";
        return (
            await TestBuild.Open(
                shop,
                "paint-then-assemble",
                email: email,
                client: $"Client {Guid.NewGuid():N}",
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

    private Task<JsonElement> Page(Guid paper) => shop.Manager.GetAsync($"/api/papers/{paper}/page").Json();

    private Task<JsonElement> Money(TestBuild build) => shop.Manager.GetAsync($"/api/builds/{build.Id}/money").Json();

    private Task<JsonElement> OnPaper(Guid paper, params string[] choices) =>
        shop
            .Office.PostAsJsonAsync(
                $"/api/papers/{paper}/answer",
                new
                {
                    yes = true,
                    name = "Petra Client",
                    choices,
                    note = "signed copy",
                }
            )
            .Json();

    private static object Contract(string kind, decimal? price) =>
        new
        {
            kind,
            price,
            stages = (object?)null,
            donePercent = 100,
            retentionPercent = 0,
            retentionReleased = false,
        };

    private async Task Edit(Guid paper, Action<Dictionary<string, object>> change)
    {
        var row = await Row(paper);
        var edited = JsonSerializer.Deserialize<Dictionary<string, object>>(row.GetProperty("words").GetRawText())!;
        edited["version"] = row.GetProperty("version").GetUInt32();
        change(edited);
        await shop.Office.PutAsJsonAsync($"/api/papers/{paper}", edited).Json();
    }

    private async Task<JsonElement> Row(Guid paper)
    {
        var build = _papers[paper];
        return (await shop.Office.GetAsync($"/api/builds/{build.Id}/papers").Json())
            .GetProperty("papers")
            .EnumerateArray()
            .Single(p => p.GetProperty("id").GetGuid() == paper);
    }

    private readonly Dictionary<Guid, TestBuild> _papers = [];

    [Fact]
    public async Task A_cap_stands_in_the_estimate_and_is_not_typed_over_once_it_is_accepted()
    {
        var (build, _) = await Known(Contract("capped", 500));
        var paper = await Estimate(build);
        var page = await Page(paper);
        page.GetProperty("price").GetProperty("kind").GetString().ShouldBe("capped");
        page.GetProperty("price").GetProperty("amount").GetDecimal().ShouldBe(500);
        page.GetProperty("totals")
            .GetProperty("net")
            .GetDecimal()
            .ShouldBe(500m, "the work comes to more, and the client pays no more");
        page.GetProperty("figures").GetProperty("high").GetDecimal().ShouldBe(500m);
        page.GetProperty("figures")
            .GetProperty("work")
            .GetDecimal()
            .ShouldBe(page.GetProperty("figures").GetProperty("above").GetDecimal() + 500m);
        page.GetProperty("figures").GetProperty("above").GetDecimal().ShouldBeGreaterThan(0);
        await shop.SendPaper(paper).Json();
        await OnPaper(paper);
        var money = (await Money(build)).GetProperty("totals");
        money.GetProperty("estimate").GetDecimal().ShouldBe(500m);
        money.GetProperty("atEnd").GetDecimal().ShouldBe(500m);
        money.GetProperty("workAtEnd").GetDecimal().ShouldBeGreaterThan(500);
        money.GetProperty("notBillable").GetDecimal().ShouldBe(money.GetProperty("workAtEnd").GetDecimal() - 500m);
        money.GetProperty("limit").GetDecimal().ShouldBe(500m);
        var b = await shop.Manager.GetAsync($"/api/builds/{build.Id}").Json();
        object Body(object contract) =>
            new
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
                contract,
                estimate = b.GetProperty("estimate"),
                priority = 1,
                fillIn = false,
                version = (uint?)null,
            };
        await shop
            .Manager.PutAsJsonAsync($"/api/builds/{build.Id}", Body(Contract("capped", 9000)))
            .Refused("contract");
        await shop
            .Manager.PutAsJsonAsync($"/api/builds/{build.Id}", Body(Contract("timeAndMaterials", null)))
            .Refused("contract");
        await shop.Manager.PutAsJsonAsync($"/api/builds/{build.Id}", Body(Contract("capped", 500))).Json();
        // An approved change raises it: ten hours at 60.00.
        var change = Guid.CreateVersion7();
        await shop
            .Office.PostAsJsonAsync(
                $"/api/builds/{build.Id}/change-orders",
                new
                {
                    id = change,
                    title = "A tow bar",
                    reason = "You asked for it.",
                }
            )
            .Json();
        await shop
            .Office.PutAsJsonAsync(
                $"/api/papers/{change}/lines/{Guid.CreateVersion7()}",
                new
                {
                    text = "Tow bar",
                    work = Work(600, "metal", "metal"),
                    operations = Array.Empty<Guid>(),
                    version = (uint?)null,
                }
            )
            .Json();
        var asked = await Page(change);
        asked.GetProperty("price").GetProperty("amount").GetDecimal().ShouldBe(500m);
        asked
            .GetProperty("price")
            .GetProperty("capAfter")
            .GetDecimal()
            .ShouldBe(1100m, "what the page says is what the answer makes of it");
        page.GetProperty("price").GetProperty("capAfter").ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null);
        asked.GetProperty("agreedBefore").GetDecimal().ShouldBe(500m);
        await shop.SendPaper(change).Json();
        (await Money(build)).GetProperty("totals").GetProperty("limit").GetDecimal().ShouldBe(500m);
        await OnPaper(change);
        (await Money(build)).GetProperty("totals").GetProperty("limit").GetDecimal().ShouldBe(1100m);
        (await build.Operations()).ShouldContain(o =>
            o.GetProperty("name").GetString() == "Tow bar" && o.GetProperty("budgetMinutes").GetInt32() == 600
        );
    }

    private static object Work(
        int minutes,
        string? trade,
        string? stage,
        decimal parts = 0,
        decimal outside = 0,
        int outsideDays = 0,
        Guid[]? leaves = null
    ) =>
        new
        {
            minutes,
            trade,
            stage,
            parts,
            outside,
            outsideDays,
            materials = 0m,
            leaves = leaves ?? [],
        };

    [Fact]
    public async Task A_choice_that_is_taken_becomes_its_operations_parts_and_days()
    {
        // What needs two people at once has no date in this shop; this template needs one.
        var build = await TestBuild.Open(shop, client: $"Client {Guid.NewGuid():N}");
        var paper = await Estimate(build);
        _papers[paper] = build;
        var left = (await build.Operations()).Last(o =>
            o.GetProperty("kind").GetString() == "work" && o.GetProperty("budgetMinutes").GetInt32() > 0
        );
        await Edit(paper, w => w["choices"] = new[]
            {
                new
                {
                    letter = "A",
                    text = "Second colour on the roof",
                    work = Work(540, "paint", "colour", parts: 90.40m),
                },
                new
                {
                    letter = "B",
                    text = "Without the last of it",
                    work = Work(0, null, null, leaves: [left.GetProperty("id").GetGuid()]),
                },
                new
                {
                    letter = "C",
                    text = "Chrome rings",
                    work = Work(0, null, "assembly", outside: 220, outsideDays: 21),
                },
            });
        var choices = (await Page(paper))
            .GetProperty("choices")
            .EnumerateArray()
            .ToDictionary(c => c.GetProperty("letter").GetString()!);
        choices["A"].GetProperty("adds").GetDecimal().ShouldBe(540 + 90.40m);
        choices["B"].GetProperty("adds").GetDecimal().ShouldBe(-left.GetProperty("budgetMinutes").GetInt32());
        choices["C"]
            .GetProperty("days")
            .GetInt32()
            .ShouldBeGreaterThan(0, "three weeks at the end of the work move its end");
        var net = (await Page(paper)).GetProperty("totals").GetProperty("net").GetDecimal();
        await shop.SendPaper(paper, "byHand").Json();
        await OnPaper(paper, "A", "B");
        var operations = await build.Operations();
        var roof = operations.Single(o => o.GetProperty("name").GetString() == "Second colour on the roof");
        (
            roof.GetProperty("budgetMinutes").GetInt32(),
            roof.GetProperty("trade").GetString(),
            roof.GetProperty("stage").GetString()
        ).ShouldBe((540, "paint", "colour"));
        operations.ShouldNotContain(o => o.GetProperty("id").GetGuid() == left.GetProperty("id").GetGuid());
        operations.ShouldNotContain(
            o => o.GetProperty("name").GetString() == "Chrome rings",
            "what was not chosen does not come"
        );
        var part = (await shop.Office.GetAsync($"/api/builds/{build.Id}/parts").Json())
            .GetProperty("parts")
            .EnumerateArray()
            .Single();
        (part.GetProperty("unitPrice").GetDecimal(), part.GetProperty("operationId").GetGuid()).ShouldBe(
            (90.40m, roof.GetProperty("id").GetGuid())
        );
        (await shop.Office.GetAsync($"/api/builds/{build.Id}/papers").Json())
            .GetProperty("agreed")
            .GetDecimal()
            .ShouldBe(net + 540 + 90.40m - left.GetProperty("budgetMinutes").GetInt32());
    }

    [Fact]
    public async Task An_answer_that_leaves_the_work_takes_it_out_and_another_does_not()
    {
        var build = await TestBuild.Open(shop);
        foreach (var (answer, stays) in new[] { ("Do it", true), ("Leave it", false) })
        {
            var work = await build.Add(TestBuild.Work($"Brace, {answer}"));
            var id = Guid.CreateVersion7();
            object Ask(string[] takesOut, Guid[] holds) =>
                new
                {
                    id,
                    question = "The brace?",
                    detail = "",
                    @for = "manager",
                    options = new[] { "Do it", "Leave it" },
                    holds,
                    dueOn = "2026-06-01",
                    photoId = (Guid?)null,
                    takesOut,
                };
            await shop
                .Office.PostAsJsonAsync($"/api/builds/{build.Id}/decisions", Ask(["Never"], [work]))
                .Refused("takesOut");
            await shop
                .Office.PostAsJsonAsync($"/api/builds/{build.Id}/decisions", Ask(["Leave it"], []))
                .Refused("takesOut");
            await shop.Office.PostAsJsonAsync($"/api/builds/{build.Id}/decisions", Ask(["Leave it"], [work])).Json();
            await shop.Office.PostAsJsonAsync($"/api/decisions/{id}/answer", new { answer }).Json();
            (await build.Operations()).Any(o => o.GetProperty("id").GetGuid() == work).ShouldBe(stays, answer);
        }
    }

    [Fact]
    public async Task A_batch_with_a_bag_is_billed_after_it_has_come_back()
    {
        var build = await TestBuild.Open(shop);
        var (supplier, bag, job) = (Guid.CreateVersion7(), Guid.CreateVersion7(), Guid.CreateVersion7());
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/suppliers/{supplier}",
                new
                {
                    name = $"Plating {supplier:N}"[..20],
                    what = "bright work",
                    freightDays = Array.Empty<string>(),
                    version = (uint?)null,
                }
            )
            .Json();
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/bags/{bag}",
                new
                {
                    side = "left",
                    what = "Bumper irons",
                    from = "rear",
                    pieces = new[] { new { name = "iron", count = 2 } },
                    fasteners = Array.Empty<object>(),
                    place = "A1-1",
                    patternFor = (Guid?)null,
                    photoId = (Guid?)null,
                    noPhoto = true,
                    version = (uint?)null,
                }
            )
            .Json();
        object Entry(decimal? billed, string name = "") =>
            new
            {
                title = "Chrome",
                supplierId = supplier,
                operationId = (Guid?)null,
                pieces = new object[]
                {
                    new
                    {
                        name = "handle",
                        count = 3,
                        bagId = (Guid?)null,
                    },
                    new
                    {
                        name,
                        count = 1,
                        bagId = (Guid?)bag,
                    },
                },
                quotedDays = 10,
                quoted = 300,
                billed,
                version = (uint?)null,
            };
        await shop.Office.PutAsJsonAsync($"/api/builds/{build.Id}/outside/{job}", Entry(null)).Json();
        await shop
            .Office.PostAsJsonAsync($"/api/outside/{job}/send", new { on = "2026-02-20", promised = "2026-03-06" })
            .Json();
        var pieces = (await shop.Office.GetAsync($"/api/builds/{build.Id}/outside").Json())[0]
            .GetProperty("pieces")
            .EnumerateArray()
            .Select(p => p.GetProperty("count").GetInt32())
            .ToList();
        await shop
            .Technician.PostAsJsonAsync($"/api/outside/{job}/count", new { on = "2026-03-01", counts = pieces })
            .Json();
        await shop.Office.PutAsJsonAsync($"/api/builds/{build.Id}/outside/{job}", Entry(412.35m)).Json();
        (await Money(build))
            .GetProperty("lines")
            .EnumerateArray()
            .Single(l => l.GetProperty("kind").GetString() == "outside")
            .GetProperty("net")
            .GetDecimal()
            .ShouldBe(412.35m);
    }

    [Fact]
    public async Task Storage_is_a_line_of_the_bill_from_the_notice_on()
    {
        var settings = (await shop.Manager.GetAsync("/api/shop").Json()).GetProperty("settings");
        var body = JsonSerializer.Deserialize<Dictionary<string, object?>>(settings.GetRawText())!;
        (body["storageFreeDays"], body["storagePerDay"], body["version"]) = (5, 12.50m, null);
        await shop.Manager.PutAsJsonAsync("/api/shop/settings", body).Json();
        var build = await TestBuild.Open(shop);
        var now = shop.Clock.GetUtcNow();
        var told = DateOnly.FromDateTime(now.UtcDateTime);
        await shop
            .Office.PutAsJsonAsync(
                $"/api/builds/{build.Id}/notice",
                new { on = $"{told.AddDays(3):yyyy-MM-dd}", version = (uint?)null }
            )
            .Refused("on");
        await shop
            .Office.PutAsJsonAsync(
                $"/api/builds/{build.Id}/notice",
                new { on = $"{told:yyyy-MM-dd}", version = (uint?)null }
            )
            .Json();
        shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now.AddDays(14)));
        try
        {
            (await Money(build))
                .GetProperty("lines")
                .EnumerateArray()
                .Single(l => l.GetProperty("kind").GetString() == "storage")
                .GetProperty("net")
                .GetDecimal()
                .ShouldBe(112.50m);
            // Once it has left, the days stand still.
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
            shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now.AddDays(40)));
            (await Money(build)).GetProperty("totals").GetProperty("net").GetDecimal().ShouldBe(112.50m);
        }
        finally
        {
            shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now));
        }
    }

    [Fact]
    public async Task A_paper_goes_as_it_was_looked_at_or_not_at_all()
    {
        var (build, email) = await Known();
        var paper = await Estimate(build);
        _papers[paper] = build;
        var first = await shop.SeenOf(paper);
        (await shop.SeenOf(paper)).ShouldBe(first, "nothing has changed");
        await Edit(paper, w => w["title"] = "Changed in another window");
        await shop
            .Manager.PostAsJsonAsync($"/api/papers/{paper}/send", new { seen = first, way = "letter" })
            .Json(HttpStatusCode.Conflict);
        var second = await shop.SeenOf(paper);
        // A figure that changes counts as much as a word.
        await build.Add(TestBuild.Work("One thing more", 600));
        await shop
            .Manager.PostAsJsonAsync($"/api/papers/{paper}/send", new { seen = second, way = "letter" })
            .Json(HttpStatusCode.Conflict);
        (await Row(paper)).GetProperty("state").GetString().ShouldBe("draft");
        await shop.SendPaper(paper).Json();
        (await Row(paper)).GetProperty("sentAs").GetString().ShouldBe("letter");
        Unfolded(shop.LastLetter(email)).ShouldContain($"Dear {await ClientOf(build)},");
    }

    [Fact]
    public async Task A_published_report_sends_its_link_and_says_so_only_when_a_letter_left()
    {
        var (build, email) = await Known();
        var report = Guid.CreateVersion7();
        await shop.Office.PostAsJsonAsync($"/api/builds/{build.Id}/reports", new { id = report }).Json();
        await shop.Manager.PostAsJsonAsync($"/api/reports/{report}/publish", new { version = (uint?)null }).Json();
        (await shop.Office.GetAsync($"/api/builds/{build.Id}/reports").Json())[0]
            .GetProperty("sentTo")
            .GetString()
            .ShouldBe(email);
        var letter = Unfolded(shop.LastLetter(email));
        letter.ShouldContain("Dear Client");
        var token = LinkPattern().Match(letter).Groups[1].Value;
        (await (await shop.Anonymous()).GetAsync($"/api/private/{token}").Json())
            .GetProperty("page")
            .GetProperty("number")
            .GetInt32()
            .ShouldBe(1);
        var unknown = await TestBuild.Open(shop, client: "Nobody Known");
        var quiet = Guid.CreateVersion7();
        await shop.Office.PostAsJsonAsync($"/api/builds/{unknown.Id}/reports", new { id = quiet }).Json();
        await shop.Manager.PostAsJsonAsync($"/api/reports/{quiet}/publish", new { version = (uint?)null }).Json();
        (await shop.Office.GetAsync($"/api/builds/{unknown.Id}/reports").Json())[0]
            .GetProperty("sentTo")
            .GetString()
            .ShouldBe("");
    }

    [Fact]
    public async Task A_returning_client_is_found_while_typing_and_kept_as_one()
    {
        var (build, email) = await Known();
        var name = await ClientOf(build);
        var found = (await shop.Office.GetAsync($"/api/clients?typed={name[..12].ToUpperInvariant()}").Json())
            .EnumerateArray()
            .Single(c => c.GetProperty("email").GetString() == email);
        found.GetProperty("vehicles").GetArrayLength().ShouldBe(1);
        (await shop.Office.GetAsync("/api/clients?typed=%25").Json())
            .GetArrayLength()
            .ShouldBe(0, "one letter is too few, and a sign is no wildcard");
        (await shop.Office.GetAsync("/api/clients?typed=%25%25").Json()).GetArrayLength().ShouldBe(0);
        await TestBuild.Open(shop, client: name, email: email, clientId: found.GetProperty("id").GetGuid());
        (await shop.Office.GetAsync($"/api/clients?typed={name}").Json())
            .EnumerateArray()
            .Single()
            .GetProperty("vehicles")
            .GetArrayLength()
            .ShouldBe(2);
    }

    private async Task<string> ClientOf(TestBuild build) =>
        (await shop.Manager.GetAsync($"/api/builds/{build.Id}").Json()).GetProperty("clientName").GetString()!;

    private static string Unfolded(string letter) =>
        letter.Replace("=\r\n", "", StringComparison.Ordinal).Replace("=\n", "", StringComparison.Ordinal);

    [GeneratedRegex(@"/r/([\w-]+)")]
    private static partial Regex LinkPattern();
}

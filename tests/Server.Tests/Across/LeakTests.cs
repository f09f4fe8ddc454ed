using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using FirstCoat.Server.Benches;

namespace FirstCoat.Server.Tests.Across;

/// <summary>What a role may not see does not reach it by any answer: pages, conflicts, refusals.</summary>
public sealed class LeakTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private async Task<(FilledShop Filled, HostileRequests Requests)> Made()
    {
        var filled = await shop.Filled();
        return (filled, new(JsonNode.Parse(await shop.Manager.GetStringAsync("/api/openapi.json"))!, filled.IdOf));
    }

    [Fact]
    public async Task A_conflict_says_that_it_is_one_and_nothing_of_what_is_stored()
    {
        var (_, requests) = await Made();
        var (met, wrong) = (0, new List<string>());
        foreach (var call in requests.Calls.Where(c => c.Body is not null))
        {
            var body = requests.Likely(call);
            if (body is not JsonObject o || !o.ContainsKey("version"))
            {
                continue;
            }

            o["version"] = 1;
            foreach (var client in new[] { shop.Manager, shop.Office, shop.Technician })
            {
                using var message = new HttpRequestMessage(call.Method, requests.PathOf(call))
                {
                    Content = new StringContent(o.ToJsonString(), Encoding.UTF8, "application/json"),
                };
                using var answer = await client.SendAsync(message);
                if (answer.StatusCode != HttpStatusCode.Conflict)
                {
                    continue;
                }

                met++;
                var told = JsonNode
                    .Parse(await answer.Content.ReadAsStringAsync())!
                    .AsObject()
                    .Select(p => p.Key)
                    .Except(["type", "title", "status", "detail", "field", "traceId"])
                    .ToList();
                if (told.Count > 0)
                {
                    wrong.Add($"{call.Name}: {string.Join(", ", told)}");
                }
            }
        }

        wrong.ShouldBeEmpty();
        met.ShouldBeGreaterThan(20, "the walk met conflicts");
    }

    [Fact]
    public async Task A_technician_finds_no_price_no_clients_contact_no_reason_of_absence_in_any_answer()
    {
        var (filled, requests) = await Made();
        var secret = FilledShop.Prices.Concat([FilledShop.Email, FilledShop.Phone, FilledShop.AbsenceReason]).ToList();
        var (leaks, seen) = (new List<string>(), new HashSet<string>());
        foreach (
            var call in requests.Calls.Where(c =>
                !c.Name.StartsWith("print", StringComparison.Ordinal)
                && c.Name is not ("signOut" or "endOtherSessions" or "startImprovement")
            )
        )
        {
            // Each operation as it would be asked, and once more as somebody who was overtaken.
            var bodies = call.Body is null ? [null] : new[] { requests.Likely(call), Stale(requests.Likely(call)) };
            foreach (var body in bodies)
            {
                using var message = new HttpRequestMessage(call.Method, requests.PathOf(call))
                {
                    Content = body is null
                        ? null
                        : new StringContent(body.ToJsonString(), Encoding.UTF8, "application/json"),
                };
                using var answer = await shop.Technician.SendAsync(message);
                var text = await answer.Content.ReadAsStringAsync();
                leaks.AddRange(
                    secret.Where(s => text.Contains(s, StringComparison.Ordinal)).Select(s => $"{call.Name} tells {s}")
                );
            }

            if (call.Method == HttpMethod.Get)
            {
                var desk = await shop
                    .Manager.GetStringAsync(requests.PathOf(call).Replace("/nothing", "", StringComparison.Ordinal))
                    .ContinueWith(t => t.IsCompletedSuccessfully ? t.Result : "", TaskScheduler.Default);
                seen.UnionWith(secret.Where(s => desk.Contains(s, StringComparison.Ordinal)));
            }
        }

        leaks.ShouldBeEmpty();
        seen.ShouldBe(
            secret,
            ignoreOrder: true,
            "each stands somewhere for those who may see it, so that this test can fail"
        );
        filled.IdOf("builds").ShouldNotBeNull();
    }

    [Fact]
    public async Task A_technician_sees_their_own_hours_only_and_the_office_no_reason_of_absence()
    {
        var build = await TestBuild.Open(shop);
        var work = await build.Add(TestBuild.Work("Rear axle"));
        await build.Hours(work, "2026-03-02T05:00:00Z", "2026-03-02T06:00:00Z");
        await shop
            .Manager.PostAsJsonAsync(
                "/api/hours",
                new
                {
                    id = Guid.CreateVersion7(),
                    personId = shop.ManagerPerson,
                    operationId = work,
                    start = "2026-03-02T07:00:00Z",
                    stop = "2026-03-02T08:30:00Z",
                    kind = "billable",
                    note = "",
                }
            )
            .Json();
        (await shop.Technician.GetAsync($"/api/builds/{build.Id}/hours").Json())
            .EnumerateArray()
            .ShouldHaveSingleItem()
            .GetProperty("personId")
            .GetGuid()
            .ShouldBe(shop.TechnicianPerson);
        (await shop.Office.GetAsync($"/api/builds/{build.Id}/hours").Json()).EnumerateArray().Count().ShouldBe(2);
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/people/{shop.ManagerPerson}/absences",
                new
                {
                    absences = new[]
                    {
                        new
                        {
                            from = "2026-04-01T00:00:00",
                            to = "2026-04-03T00:00:00",
                            reason = "a private matter",
                        },
                    },
                }
            )
            .Json();
        (await shop.Office.GetStringAsync("/api/shop")).ShouldNotContain("a private matter");
        (await shop.Manager.GetStringAsync("/api/shop")).ShouldContain("a private matter");
    }

    private static JsonNode? Stale(JsonNode? body)
    {
        if (body is JsonObject o && o.ContainsKey("version"))
        {
            o["version"] = 1;
        }

        return body;
    }
}

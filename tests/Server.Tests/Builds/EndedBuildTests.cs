using System.Net;
using System.Net.Http.Json;
using System.Runtime.CompilerServices;
using System.Text;
using System.Text.Json.Nodes;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Server.Benches;
using FirstCoat.Store;
using Microsoft.EntityFrameworkCore.Metadata;

namespace FirstCoat.Server.Tests.Builds;

/// <summary>A build that has ended is kept to be read, whoever writes by whatever path; what was under way still comes
/// to its end.</summary>
public sealed class EndedBuildTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    // What is found follows the client's name, which stays the client's to correct.
    private static readonly HashSet<Type> StillRecorded =
    [
        typeof(Store.Overview.FindRow),
        typeof(TimeEntry),
        typeof(Payment),
        typeof(OutsideJob),
        typeof(PartLine),
        typeof(Core.Access.PrivateLink),
        typeof(Core.Access.ApprovalCode),
        typeof(Core.Access.WrongAnswer),
    ];

    private Task<HttpResponseMessage> Status(Guid build, string status) =>
        shop.Manager.PutAsJsonAsync(
            $"/api/builds/{build}/status",
            new
            {
                status,
                leftAt = "as it came",
                firstMove = "fetch it from the yard",
                stillHolds = (bool?)null,
            }
        );

    /// <summary>Every row of the build that nothing may touch any more, with its version.</summary>
    private async Task<List<string>> Kept(Guid build)
    {
        await using var scope = shop.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<ShopDb>();
        var rows = new List<string>();
        foreach (
            var type in db
                .Model.GetEntityTypes()
                .Where(t => t.FindProperty("BuildId") is not null && !StillRecorded.Contains(t.ClrType))
        )
        {
            rows.AddRange(await Rows(db, type, "BuildId", build));
        }

        return [.. rows, .. await Rows(db, db.Model.FindEntityType(typeof(Build))!, "Id", build)];
    }

    private static async Task<List<string>> Rows(ShopDb db, IEntityType type, string by, Guid build)
    {
        var (table, column) = (type.GetTableName(), type.FindProperty(by)!.GetColumnName());
        // The names are the model's own; the build is a parameter.
        var sql = FormattableStringFactory.Create(
            $"select '{table} ' || id::text || ' ' || xmin::text as \"Value\" from {table} where \"{column}\" = {{0}}",
            build
        );
        var rows = await db.Database.SqlQuery<string>(sql).ToListAsync(TestContext.Current.CancellationToken);
        return [.. rows.Order()];
    }

    [Fact]
    public async Task No_path_of_any_role_changes_what_belongs_to_an_ended_build()
    {
        var filled = await shop.Filled();
        var build = filled["builds"];
        var requests = new HostileRequests(
            JsonNode.Parse(await shop.Manager.GetStringAsync("/api/openapi.json"))!,
            filled.IdOf
        );
        await Status(build, "withdrawn").Json();
        var before = await Kept(build);
        before.Count.ShouldBeGreaterThan(30);
        var (refused, broken) = (new HashSet<string>(), new List<string>());
        foreach (
            var call in requests.Calls.Where(c =>
                c.Method != HttpMethod.Get
                && c.Name != "setBuildStatus"
                && !c.Path.StartsWith("/api/session", StringComparison.Ordinal)
            )
        )
        {
            foreach (var client in new[] { shop.Manager, shop.Office, shop.Technician })
            {
                using var message = new HttpRequestMessage(call.Method, requests.PathOf(call));
                message.Content = requests.Likely(call) is { } body
                    ? new StringContent(body.ToJsonString(), Encoding.UTF8, "application/json")
                    : null;
                using var answer = await client.SendAsync(message, TestContext.Current.CancellationToken);
                var text = await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
                if (text.Contains("kept to be read", StringComparison.Ordinal))
                {
                    refused.Add(call.Name);
                }

                if (answer.StatusCode >= HttpStatusCode.InternalServerError)
                {
                    broken.Add($"{call.Name}: {text}");
                }
            }
        }

        broken.ShouldBeEmpty();
        (await Kept(build)).ShouldBe(before);
        refused.Count.ShouldBeGreaterThan(15, $"the walk reached the rule: {string.Join(", ", refused)}");
    }

    [Fact]
    public async Task What_was_under_way_comes_to_its_end_and_what_was_not_does_not_begin()
    {
        var build = await TestBuild.Open(shop);
        var work = await build.Add(TestBuild.Work("Rear axle"));
        var supplier = Guid.CreateVersion7();
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/suppliers/{supplier}",
                new
                {
                    name = "Saltmarsh Plating",
                    what = "",
                    freightDays = Array.Empty<string>(),
                    version = (uint?)null,
                }
            )
            .Json();
        var (away, here, ordered, needed) = (
            await Batch("Bumpers"),
            await Batch("Rims"),
            await Part("Hinge"),
            await Part("Latch")
        );
        await Send(away).Json();
        await Step(ordered, "ordered").Json();
        await shop.Technician.StartClock(work).Json();

        (await Status(build.Id, "closed").Refused("status"))
            .GetProperty("detail")
            .GetString()!
            .ShouldStartWith("On the clock here: ");
        await shop.Technician.StopClock(breakWorked: true).Json();
        await Status(build.Id, "closed").Json();

        await build.Hours(work, "2026-03-02T03:00:00Z", "2026-03-02T04:00:00Z");
        await shop
            .Manager.PostAsJsonAsync(
                $"/api/builds/{build.Id}/payments",
                new
                {
                    id = Guid.CreateVersion7(),
                    on = "2026-03-01",
                    amount = 900m,
                    note = "",
                }
            )
            .Json();
        await shop
            .Technician.PostAsJsonAsync($"/api/outside/{away}/count", new { on = "2026-03-10", counts = new[] { 2 } })
            .Json();
        await Step(ordered, "received").Json();
        await Send(here).Refused("build");
        await Step(needed, "ordered").Refused("build");
        await shop.Technician.PostAsync($"/api/operations/{work}/done", null).Refused("build");

        async Task<Guid> Batch(string title)
        {
            var id = Guid.CreateVersion7();
            await shop
                .Office.PutAsJsonAsync(
                    $"/api/builds/{build.Id}/outside/{id}",
                    new
                    {
                        title,
                        supplierId = supplier,
                        operationId = (Guid?)null,
                        pieces = new object[]
                        {
                            new
                            {
                                name = title,
                                count = 2,
                                bagId = (Guid?)null,
                            },
                        },
                        quotedDays = 10,
                        quoted = 0,
                        billed = (decimal?)null,
                        version = (uint?)null,
                    }
                )
                .Json();
            return id;
        }

        async Task<Guid> Part(string name)
        {
            var id = Guid.CreateVersion7();
            await shop
                .Office.PutAsJsonAsync(
                    $"/api/builds/{build.Id}/parts/{id}",
                    new
                    {
                        name,
                        quantity = 1,
                        unitCost = 5m,
                        unitPrice = 6m,
                        supplierId = supplier,
                        clientSupplied = false,
                        operationId = work,
                        version = (uint?)null,
                    }
                )
                .Json();
            return id;
        }

        Task<HttpResponseMessage> Send(Guid job) =>
            shop.Office.PostAsJsonAsync($"/api/outside/{job}/send", new { on = "2026-03-02", promised = "2026-03-12" });
        Task<HttpResponseMessage> Step(Guid part, string to) =>
            shop.Office.PostAsJsonAsync(
                $"/api/parts/{part}/move",
                new
                {
                    to,
                    on = "2026-03-02",
                    version = (uint?)null,
                }
            );
    }

    [Fact]
    public async Task An_ended_build_and_its_bags_are_found_by_number_and_label()
    {
        var build = await TestBuild.Open(shop);
        var bag = Guid.CreateVersion7();
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/bags/{bag}",
                new
                {
                    side = "left",
                    what = "Quarter light clips",
                    from = "door",
                    pieces = new[] { new { name = "clip", count = 4 } },
                    fasteners = Array.Empty<object>(),
                    place = "C3-7",
                    patternFor = (Guid?)null,
                    photoId = (Guid?)null,
                    noPhoto = true,
                    version = (uint?)null,
                }
            )
            .Json();
        var number = (await build.Card()).GetProperty("number").GetInt32();
        await Status(build.Id, "closed").Json();
        var card = await shop.Technician.GetAsync($"/api/builds/numbered/{number}").Json();
        (card.GetProperty("id").GetGuid(), card.GetProperty("status").GetString()).ShouldBe((build.Id, "closed"));
        (await shop.Technician.GetAsync("/api/bags?q=Quarter light clips").Json())
            .GetProperty("found")
            .EnumerateArray()
            .ShouldContain(b => b.GetProperty("buildNumber").GetInt32() == number);
        (await shop.Technician.GetAsync($"/api/builds/{build.Id}/bags").Json())
            .GetProperty("bags")
            .GetArrayLength()
            .ShouldBe(1);
        await shop.Technician.GetAsync("/api/builds/numbered/99999").Json(HttpStatusCode.NotFound);
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/bags/{Guid.CreateVersion7()}",
                new
                {
                    side = "left",
                    what = "More clips",
                    from = "door",
                    pieces = new[] { new { name = "clip", count = 4 } },
                    fasteners = Array.Empty<object>(),
                    place = "C3-8",
                    patternFor = (Guid?)null,
                    photoId = (Guid?)null,
                    noPhoto = true,
                    version = (uint?)null,
                }
            )
            .Refused("build");
    }
}

using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Money;

/// <summary>Money of a build as computed from what was recorded.</summary>
public sealed class MoneyTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private Task<JsonElement> Money(TestBuild build, HttpClient? who = null) =>
        (who ?? shop.Manager).GetAsync($"/api/builds/{build.Id}/money").Json();

    private static decimal Kind(JsonElement money, string kind) =>
        money
            .GetProperty("kinds")
            .EnumerateArray()
            .Single(k => k.GetProperty("kind").GetString() == kind)
            .GetProperty("net")
            .GetDecimal();

    [Fact]
    public async Task Work_is_billed_at_the_rate_of_its_day_and_summed_per_operation_and_rate()
    {
        var build = await TestBuild.Open(shop);
        var operation = await build.Add(TestBuild.Work("Dated"));
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/people/{shop.TechnicianPerson}/rates",
                new
                {
                    from = "2026-02-10",
                    cost = 27,
                    billing = 63.50,
                }
            )
            .Json();
        // 20 min + 27 min at 60.00 on the 9th: 47 x 60 / 60 = 47.00; 50 min at 63.50 on the 10th: 52.9166.. = 52.92.
        await build.Hours(operation, "2026-02-09T09:00:00Z", "2026-02-09T09:20:00Z");
        await build.Hours(operation, "2026-02-09T10:00:00Z", "2026-02-09T10:27:00Z");
        await build.Hours(operation, "2026-02-10T09:00:00Z", "2026-02-10T09:50:00Z");
        await build.Hours(operation, "2026-02-10T10:00:00Z", "2026-02-10T11:00:00Z", kind: "rework");
        var money = await Money(build);
        money
            .GetProperty("lines")
            .EnumerateArray()
            .Select(l => l.GetProperty("net").GetDecimal())
            .ShouldBe([47.00m, 52.92m]);
        Kind(money, "labour").ShouldBe(99.92m);
        money.GetProperty("notBilled").GetArrayLength().ShouldBe(1);
        // Wages: 47 x 25/60 in two entries 8.33 + 11.25; 50 x 27/60 = 22.50; rework 27.00.
        money.GetProperty("margin").GetProperty("labour").GetDecimal().ShouldBe(8.33m + 11.25m + 22.50m + 27.00m);
    }

    [Fact]
    public async Task A_part_is_billed_when_received_outside_work_when_counted_in_by_its_pieces_materials_when_booked()
    {
        var build = await TestBuild.Open(shop);
        var supplier = Guid.CreateVersion7();
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/suppliers/{supplier}",
                new
                {
                    name = "Sum & Co",
                    what = "",
                    freightDays = Array.Empty<string>(),
                    version = (uint?)null,
                }
            )
            .Json();
        var part = Guid.CreateVersion7();
        await shop
            .Office.PutAsJsonAsync(
                $"/api/builds/{build.Id}/parts/{part}",
                new
                {
                    name = "Seal",
                    quantity = 3,
                    unitCost = 12.35,
                    unitPrice = (decimal?)null,
                    supplierId = supplier,
                    clientSupplied = false,
                    operationId = (Guid?)null,
                    version = (uint?)null,
                }
            )
            .Json();
        var job = Guid.CreateVersion7();
        await shop
            .Office.PutAsJsonAsync(
                $"/api/builds/{build.Id}/outside/{job}",
                new
                {
                    title = "Chrome",
                    supplierId = supplier,
                    operationId = (Guid?)null,
                    pieces = new[] { new { name = "rim", count = 3 } },
                    quotedDays = 10,
                    quoted = 100,
                    billed = (decimal?)null,
                    version = (uint?)null,
                }
            )
            .Json();
        await shop
            .Office.PostAsJsonAsync($"/api/outside/{job}/send", new { on = "2026-02-02", promised = "2026-02-12" })
            .Json();
        var money = await Money(build);
        (Kind(money, "parts"), Kind(money, "outside")).ShouldBe((0m, 0m));

        foreach (
            var (to, on) in new[] { ("ordered", "2026-02-01"), ("expected", "2026-02-08"), ("received", "2026-02-09") }
        )
        {
            await shop
                .Office.PostAsJsonAsync(
                    $"/api/parts/{part}/move",
                    new
                    {
                        to,
                        on,
                        version = (uint?)null,
                    }
                )
                .Json();
        }

        await shop
            .Technician.PostAsJsonAsync($"/api/outside/{job}/count", new { on = "2026-02-13", counts = new[] { 2 } })
            .Json();
        await shop
            .Office.PostAsJsonAsync(
                $"/api/builds/{build.Id}/materials",
                new
                {
                    id = Guid.CreateVersion7(),
                    operationId = (Guid?)null,
                    name = "Clear",
                    quantity = 1.5,
                    unit = "l",
                    unitCost = 40.1,
                    on = "2026-02-14",
                }
            )
            .Json();
        money = await Money(build);
        // No mark-ups in this shop: 3 x 12.35; two of three rims of 100.00; 1.5 x 40.10.
        (Kind(money, "parts"), Kind(money, "outside"), Kind(money, "materials")).ShouldBe((37.05m, 66.67m, 60.15m));
    }

    [Fact]
    public async Task Payments_and_gross_make_the_balance_and_only_the_manager_sees_the_margin()
    {
        var build = await TestBuild.Open(shop);
        var operation = await build.Add(TestBuild.Work("Paid"));
        await build.Hours(operation, "2026-01-12T09:00:00Z", "2026-01-12T10:00:00Z");
        await shop
            .Office.PostAsJsonAsync(
                $"/api/builds/{build.Id}/payments",
                new
                {
                    id = Guid.CreateVersion7(),
                    on = "2026-01-13",
                    amount = 50,
                    note = "",
                }
            )
            .Json();
        var totals = (await Money(build, shop.Office)).GetProperty("totals");
        totals.GetProperty("gross").GetDecimal().ShouldBe(60);
        totals.GetProperty("balance").GetDecimal().ShouldBe(10);
        (await Money(build, shop.Office)).GetProperty("margin").ValueKind.ShouldBe(JsonValueKind.Null);
        (await shop.Technician.GetAsync($"/api/builds/{build.Id}/money").Json(System.Net.HttpStatusCode.Forbidden))
            .GetProperty("detail")
            .GetString()
            .ShouldBe("Only the manager and the office may see or do this.");
        (await shop.Office.GetAsync("/api/accounts").Json(System.Net.HttpStatusCode.Forbidden))
            .GetProperty("detail")
            .GetString()
            .ShouldBe("Only the manager may see or do this.");
    }

    [Fact]
    public async Task Overtime_counts_what_was_worked_on_another_build_that_day()
    {
        var (morning, evening) = (await TestBuild.Open(shop), await TestBuild.Open(shop));
        var (first, second) = (
            await morning.Add(TestBuild.Work("Morning")),
            await evening.Add(TestBuild.Work("Evening"))
        );
        await morning.Hours(first, "2026-01-20T07:00:00Z", "2026-01-20T13:00:00Z");
        decimal Wages(JsonElement money) => money.GetProperty("margin").GetProperty("labour").GetDecimal();
        await evening.Hours(second, "2026-01-20T14:00:00Z", "2026-01-20T18:00:00Z");
        // 10 hours at 25.00; 8 are plain, so that the evening's last two cost half as much again.
        Wages(await Money(morning)).ShouldBe(150m);
        Wages(await Money(evening)).ShouldBe(2 * 25m + 2 * 37.5m);
    }
}

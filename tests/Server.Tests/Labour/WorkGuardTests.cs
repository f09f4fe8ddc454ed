using System.Net.Http.Json;
using NodaTime;

namespace FirstCoat.Server.Tests.Labour;

/// <summary>Hours and checks that nobody gets round, whatever the clock says.</summary>
public sealed class WorkGuardTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static readonly LocalDate Monday = new(2026, 3, 2);

    private Task<HttpResponseMessage> Start(Guid work) => shop.Technician.StartClock(work, breakWorked: true);

    private Task<HttpResponseMessage> Stop(string? at = null) => shop.Technician.StopClock(at: at, breakWorked: true);

    [Fact]
    public async Task A_technicians_correction_stays_on_its_day_and_ends_by_now()
    {
        shop.At(Monday, 15, 0);
        var build = await TestBuild.Open(shop);
        var work = await build.Add(TestBuild.Work("Rear axle"));
        var entry = (await build.Hours(work, "2026-03-02T08:00:00Z", "2026-03-02T09:00:00Z"))
            .GetProperty("id")
            .GetGuid();
        Task<HttpResponseMessage> Correct(string start, string stop, HttpClient? by = null) =>
            (by ?? shop.Technician).PostAsJsonAsync(
                $"/api/hours/{entry}/correct",
                new
                {
                    id = Guid.CreateVersion7(),
                    operationId = (Guid?)null,
                    start,
                    stop,
                    kind = (string?)null,
                    @void = false,
                    reason = "mistyped",
                }
            );
        await Correct("2026-03-02T14:00:00Z", "2026-03-02T16:00:00Z").Refused("stop");
        await Correct("2026-03-01T08:00:00Z", "2026-03-01T09:00:00Z").Refused("start");
        await Correct("2026-03-02T14:00:00Z", "2026-03-02T16:00:00Z", shop.Manager).Refused("stop");
        await Correct("2026-03-02T08:00:00Z", "2026-03-02T09:30:00Z").Json();
    }

    [Fact]
    public async Task A_clock_set_back_keeps_nobody_on_the_job()
    {
        shop.At(Monday.PlusDays(8), 10, 0);
        var build = await TestBuild.Open(shop);
        var work = await build.Add(TestBuild.Work("Rear axle"));
        await Start(work).Json();
        shop.At(Monday.PlusDays(8), 9, 20);
        await Stop("2026-03-10T09:00:00Z").Refused("stop");
        await Stop().Json();
        (await shop.Technician.GetAsync("/api/clock").Json())
            .GetProperty("running")
            .ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null);
        (await shop.Technician.GetAsync($"/api/builds/{build.Id}/hours").Json())
            .EnumerateArray()
            .ShouldHaveSingleItem()
            .GetProperty("minutes")
            .GetInt32()
            .ShouldBe(0);
        shop.At(Monday, 9, 0);
    }

    [Theory]
    [InlineData("tractionBattery")]
    [InlineData("shellSupport")]
    public async Task A_check_without_override_is_neither_deleted_nor_turned_into_something_else(string gate)
    {
        var build = await TestBuild.Open(shop);
        var check = await build.Add(TestBuild.Work("Check", kind: "gate", gate: gate));
        await shop.Manager.DeleteAsync($"/api/operations/{check}").Refused("id");
        await shop
            .Manager.PutAsJsonAsync($"/api/builds/{build.Id}/operations/{check}", TestBuild.Work("Check"))
            .Refused("gate");
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{build.Id}/operations/{check}",
                TestBuild.Work("Check", kind: "gate", gate: "fitUp")
            )
            .Refused("gate");
        await shop.Manager.PostAsJsonAsync(
            $"/api/builds/{build.Id}/from-template",
            new
            {
                template = "small-work",
                scale = 1,
                choices = new { },
            }
        );
        (await build.Operations()).ShouldContain(o =>
            o.GetProperty("id").GetGuid() == check && o.GetProperty("gate").GetString() == gate
        );
        var other = await build.Add(TestBuild.Work("Gaps", kind: "gate", gate: "fitUp"));
        await shop.Manager.DeleteAsync($"/api/operations/{other}").Json();
    }

    [Fact]
    public async Task A_cure_is_ended_by_its_time_and_a_batch_by_being_counted_in()
    {
        shop.At(Monday, 9, 0);
        var build = await TestBuild.Open(shop);
        var coat = await build.Add(TestBuild.Work("Epoxy", trade: "paint"));
        var cure = System.Text.Json.JsonSerializer.SerializeToNode(
            TestBuild.Work("Epoxy cures", kind: "cure", after: [new { operation = coat, lagMinutes = 0 }])
        )!;
        cure["clockMinutes"] = 120;
        var cures = await build.Add(cure);
        Task<HttpResponseMessage> Done(Guid id, HttpClient by) =>
            by.PostAsJsonAsync($"/api/operations/{id}/done", new { });
        await Done(cures, shop.Technician).Refused("id");
        await Done(coat, shop.Technician).Json();
        await Done(cures, shop.Technician).Refused("id");
        await Done(cures, shop.Office).Refused("id");
        shop.At(Monday, 11, 0);
        await Done(cures, shop.Technician).Json();

        var plating = await build.Add(TestBuild.Work("Plating", kind: "outside"));
        await Done(plating, shop.Technician).Refused("id");
        var (supplier, job) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/suppliers/{supplier}",
                new
                {
                    name = new string('S', 100),
                    what = "",
                    freightDays = Array.Empty<string>(),
                    version = (uint?)null,
                }
            )
            .Json();
        var bag = Guid.CreateVersion7();
        await shop
            .Technician.PutAsJsonAsync(
                $"/api/builds/{build.Id}/bags/{bag}",
                new
                {
                    side = "left",
                    what = string.Join(' ', Enumerable.Repeat("bright clip", 8)),
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
        await shop
            .Office.PutAsJsonAsync(
                $"/api/builds/{build.Id}/outside/{job}",
                new
                {
                    title = "Plating",
                    supplierId = supplier,
                    operationId = plating,
                    pieces = new[]
                    {
                        new
                        {
                            name = "as the bag says",
                            count = 1,
                            bagId = bag,
                        },
                    },
                    quotedDays = 5,
                    quoted = 10,
                    billed = (decimal?)null,
                    version = (uint?)null,
                }
            )
            .Json();
        await shop
            .Office.PostAsJsonAsync($"/api/outside/{job}/send", new { on = "2026-03-02", promised = "2026-03-09" })
            .Json();
        (await shop.Technician.GetAsync($"/api/builds/{build.Id}/bags").Json())
            .GetProperty("bags")[0]
            .GetProperty("place")
            .GetString()!
            .Length.ShouldBe(60, "the supplier's long name was shortened, not refused");
        await Done(plating, shop.Manager).Refused("id");
        await shop
            .Technician.PostAsJsonAsync($"/api/outside/{job}/count", new { on = "2026-03-02", counts = new[] { 4 } })
            .Json();
        (await build.Operations())
            .Single(o => o.GetProperty("id").GetGuid() == plating)
            .GetProperty("doneAt")
            .ValueKind.ShouldBe(System.Text.Json.JsonValueKind.String);
        shop.At(Monday, 9, 0);
    }
}

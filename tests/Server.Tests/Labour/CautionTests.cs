using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using NodaTime;

namespace FirstCoat.Server.Tests.Labour;

/// <summary>A caution is read before its work begins: once on each build, by whoever begins it. Nothing of it keeps
/// anybody from stopping.</summary>
public sealed class CautionTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static readonly LocalDate Monday = new(2026, 3, 2);

    private async Task<(TestBuild Build, Guid Weld, Guid Again, Guid Plain)> Welding()
    {
        shop.At(Monday, 8, 0);
        var build = await TestBuild.Open(shop);
        return (
            build,
            await build.Add(TestBuild.Work("Sill", hazard: "welding")),
            await build.Add(TestBuild.Work("Arch", hazard: "welding")),
            await build.Add(TestBuild.Work("Rear axle"))
        );
    }

    private Task<HttpResponseMessage> Start(Guid work, bool acknowledged, string? at = null) =>
        shop.Technician.StartClock(work, acknowledged: acknowledged, at: at, breakWorked: true);

    private async Task<JsonElement> Running() =>
        (await shop.Technician.GetAsync("/api/clock").Json()).GetProperty("running");

    private static Task<JsonElement> Read(TestBuild build, HttpClient by) =>
        by.GetAsync($"/api/builds/{build.Id}/acknowledgements").Json();

    [Fact]
    public async Task It_is_asked_for_once_on_a_build_and_kind_of_danger_and_kept_with_its_words()
    {
        var (build, weld, again, plain) = await Welding();
        var refused = await Start(weld, false).Refused("acknowledged");
        refused.GetProperty("detail").GetString()!.ShouldContain("fire watch");
        refused.GetProperty("detail").GetString()!.ShouldContain("Local codes");
        (await Read(build, shop.Manager)).GetArrayLength().ShouldBe(0);
        // What carries no danger asks for nothing.
        await Start(plain, false).Json();
        await Start(weld, true).Json();
        (await Running()).GetProperty("job").GetProperty("cautionRead").GetBoolean().ShouldBeTrue();
        await Start(again, false).Json();
        var kept = (await Read(build, shop.Manager)).EnumerateArray().ShouldHaveSingleItem();
        kept.GetProperty("hazard").GetString().ShouldBe("welding");
        kept.GetProperty("work").GetString().ShouldBe("Sill");
        kept.GetProperty("at").GetString().ShouldBe("2026-03-02T08:00:00Z");
        kept.GetProperty("caution").GetString()!.ShouldContain("fire watch");
        // On another build it is another vehicle's fuel and wiring.
        var (_, other, _, _) = await Welding();
        await Start(other, false).Refused("acknowledged");
        await shop.Technician.StopClock(breakWorked: true).Json();
    }

    [Fact]
    public async Task Nobody_reads_it_for_somebody_else_and_it_stays_to_be_read()
    {
        var (build, weld, _, _) = await Welding();
        // The manager says "read" for the technician: the work begins, and the reading is still the technician's.
        await shop
            .Manager.StartClock(weld, person: shop.TechnicianPerson, acknowledged: true, breakWorked: true)
            .Json();
        (await Read(build, shop.Manager)).GetArrayLength().ShouldBe(0);
        (await Running()).GetProperty("job").GetProperty("cautionRead").GetBoolean().ShouldBeFalse();
        Task<HttpResponseMessage> Acknowledge(HttpClient by, Guid work) =>
            by.PostAsJsonAsync("/api/clock/acknowledge", new { operationId = work });
        (await Acknowledge(shop.Technician, weld)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await Acknowledge(shop.Technician, weld)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await Read(build, shop.Technician)).GetArrayLength().ShouldBe(1);
        (await Running()).GetProperty("job").GetProperty("cautionRead").GetBoolean().ShouldBeTrue();
        await shop.Technician.StopClock(breakWorked: true).Json();
    }

    [Fact]
    public async Task Work_begun_on_a_phone_without_a_connection_is_kept_and_the_reading_stays_owed()
    {
        var (build, weld, _, _) = await Welding();
        shop.At(Monday, 9, 0);
        await Start(weld, false, "2026-03-02T08:20:00Z").Json();
        (await Running()).GetProperty("start").GetString().ShouldBe("2026-03-02T08:20:00Z");
        (await Running()).GetProperty("job").GetProperty("cautionRead").GetBoolean().ShouldBeFalse();
        // Stopping is never refused.
        await shop.Technician.StopClock(breakWorked: true).Json();
        await Start(weld, false).Refused("acknowledged");
        await Start(weld, true, "2026-03-02T08:59:00Z").Refused("start");
        (await Read(build, shop.Manager)).GetArrayLength().ShouldBe(0);
        shop.At(Monday, 10, 0);
        await Start(weld, true, "2026-03-02T09:30:00Z").Json();
        (await Read(build, shop.Manager))[0].GetProperty("at").GetString().ShouldBe("2026-03-02T09:30:00Z");
        await shop.Technician.StopClock(breakWorked: true).Json();
    }

    [Fact]
    public async Task Technicians_see_what_they_read_themselves()
    {
        var (build, weld, _, _) = await Welding();
        await Start(weld, true).Json();
        await shop.Technician.StopClock(breakWorked: true).Json();
        (await Read(build, shop.Technician)).GetArrayLength().ShouldBe(1);
        (await Read(build, shop.Office)).GetArrayLength().ShouldBe(1);
    }

    [Fact]
    public async Task A_step_of_taking_apart_asks_in_the_same_way()
    {
        shop.At(Monday, 8, 0);
        var build = await TestBuild.Open(shop);
        var id = Guid.CreateVersion7();
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/builds/{build.Id}/assemblies",
                new
                {
                    id,
                    kind = "door",
                    side = "left",
                    name = "Left door",
                    backWith = (Guid?)null,
                }
            )
            .Json();
        var step = (await shop.Technician.GetAsync($"/api/builds/{build.Id}/assemblies").Json())[0]
            .GetProperty("steps")
            .EnumerateArray()
            .First(s => s.GetProperty("hazard").ValueKind != JsonValueKind.Null)
            .GetProperty("key")
            .GetString();
        Task<HttpResponseMessage> Count(string clock, bool acknowledged = false) =>
            shop.Technician.PostAsJsonAsync($"/api/assemblies/{id}/steps/{step}/clock", new { clock, acknowledged });
        await Count("doing").Refused("acknowledged");
        await Count("stopped").Json();
        await Count("doing", true).Json();
        await Count("stopped").Json();
        await Count("findingOut").Json();
        (await Read(build, shop.Technician)).GetArrayLength().ShouldBe(1);
        await Count("stopped").Json();
    }

    [Fact]
    public async Task What_must_not_go_on_beside_it_keeps_work_from_beginning_until_that_has_stopped()
    {
        shop.At(Monday, 8, 0);
        var build = await TestBuild.Open(shop);
        JsonElement At(string name, string hazard)
        {
            var work = JsonSerializer.SerializeToNode(TestBuild.Work(name, hazard: hazard))!;
            work["station"] = "bay";
            return JsonSerializer.SerializeToElement(work);
        }

        var (fuel, weld) = (await build.Add(At("Tank out", "fuel")), await build.Add(At("Sill", "welding")));
        await shop.Manager.StartClock(fuel, person: shop.TechnicianPerson, breakWorked: true).Json();
        (await shop.Manager.StartClock(weld).Refused("operationId"))
            .GetProperty("detail")
            .GetString()!
            .ShouldContain("Not beside Tank out, which goes on now: hot work beside open fuel.");
        // Whoever is at it leaves it for the other: that is no clash with themselves.
        await Start(weld, true).Json();
        (await Running()).GetProperty("job").GetProperty("name").GetString().ShouldBe("Sill");
        await Start(fuel, true).Json();
        await shop.Technician.StopClock(breakWorked: true).Json();
        await shop.Manager.StartClock(weld).Json();
        await shop.Manager.StopClock(breakWorked: true).Json();
    }
}

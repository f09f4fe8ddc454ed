using System.Net;
using System.Net.Http.Json;
using NodaTime;

namespace FirstCoat.Server.Tests.Labour;

/// <summary>The clock and the hours, through HTTP against PostgreSQL.</summary>
public sealed class LabourTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static readonly LocalDate Monday = new(2026, 3, 2);

    private Task<HttpResponseMessage> Start(Guid operation, Guid? id = null, decimal? share = null) =>
        shop.Technician.StartClock(operation, share: share, id: id);

    private Task<HttpResponseMessage> Stop(
        decimal? share = null,
        bool done = false,
        string? at = null,
        bool? breakWorked = null
    ) => shop.Technician.StopClock(share: share, done: done, at: at, breakWorked: breakWorked);

    [Fact]
    public async Task A_switch_ends_one_entry_and_starts_the_next_on_the_same_minute()
    {
        var build = await TestBuild.Open(shop);
        var (first, second) = (await build.Add(TestBuild.Work("First")), await build.Add(TestBuild.Work("Second")));
        shop.At(Monday, 9, 0);
        await Start(first).Json();
        shop.At(Monday, 9, 47);
        await Start(second, share: 0.5m).Json();
        shop.At(Monday, 10, 5);
        await Stop(done: true).Json();

        var hours = (await shop.Manager.GetAsync($"/api/builds/{build.Id}/hours").Json()).EnumerateArray().ToList();
        hours.Select(h => h.GetProperty("minutes").GetInt32()).ShouldBe([18, 47]);
        hours[0].GetProperty("start").GetString().ShouldBe(hours[1].GetProperty("stop").GetString());
        var operations = await build.Operations();
        operations
            .Single(o => o.GetProperty("id").GetGuid() == first)
            .GetProperty("earnedMinutes")
            .GetDecimal()
            .ShouldBe(30);
        operations
            .Single(o => o.GetProperty("id").GetGuid() == second)
            .GetProperty("earnedMinutes")
            .GetDecimal()
            .ShouldBe(60);
    }

    [Fact]
    public async Task A_repeated_start_is_the_same_start()
    {
        var build = await TestBuild.Open(shop);
        var operation = await build.Add(TestBuild.Work("Once"));
        shop.At(Monday.PlusDays(1), 9, 0);
        var id = Guid.CreateVersion7();
        await Start(operation, id).Json();
        shop.At(Monday.PlusDays(1), 9, 10);
        await Start(operation, id).Json();
        await Stop().Json();
        (await shop.Manager.GetAsync($"/api/builds/{build.Id}/hours").Json()).GetArrayLength().ShouldBe(1);
    }

    [Fact]
    public async Task Hours_of_one_person_never_overlap_even_when_two_requests_arrive_at_once()
    {
        var build = await TestBuild.Open(shop);
        var operation = await build.Add(TestBuild.Work("Raced"));
        shop.At(Monday.PlusDays(30), 9, 0);
        var body = (int i) =>
            new
            {
                id = Guid.CreateVersion7(),
                personId = shop.TechnicianPerson,
                operationId = operation,
                start = $"2026-03-10T0{8 + i % 2}:30:00Z",
                stop = "2026-03-10T11:00:00Z",
                kind = "billable",
                note = "",
            };
        var answers = await Task.WhenAll(
            Enumerable.Range(0, 8).Select(i => shop.Manager.PostAsJsonAsync("/api/hours", body(i)))
        );
        answers.Count(a => a.StatusCode == HttpStatusCode.OK).ShouldBe(1);
        answers.Count(a => a.StatusCode == HttpStatusCode.BadRequest).ShouldBe(7);
    }

    [Fact]
    public async Task Two_who_worked_on_the_same_stop_at_the_same_moment_and_both_clocks_stop()
    {
        var build = await TestBuild.Open(shop);
        var operation = await build.Add(TestBuild.Work("Lifted together", minutes: 600));
        for (var round = 0; round < 6; round++)
        {
            shop.At(Monday.PlusDays(700 + round), 9, 0);
            foreach (var person in new[] { shop.ManagerPerson, shop.TechnicianPerson })
            {
                await shop.Manager.StartClock(operation, person: person).Json();
            }

            shop.At(Monday.PlusDays(700 + round), 9, 30);
            var answers = await Task.WhenAll(
                new[] { shop.ManagerPerson, shop.TechnicianPerson }.Select(person =>
                    shop.Manager.StopClock(share: 0.1m * (round + 1), person: person)
                )
            );
            answers.ShouldAllBe(a => a.StatusCode == HttpStatusCode.OK);
        }
    }

    [Fact]
    public async Task A_correction_keeps_the_original()
    {
        var build = await TestBuild.Open(shop);
        var operation = await build.Add(TestBuild.Work("Corrected"));
        shop.At(Monday.PlusDays(40), 9, 0);
        var id = Guid.CreateVersion7();
        await build.Hours(operation, "2026-04-02T08:00:00Z", "2026-04-02T10:00:00Z", id: id);
        await shop
            .Manager.PostAsJsonAsync(
                $"/api/hours/{id}/correct",
                new
                {
                    id = Guid.CreateVersion7(),
                    operationId = operation,
                    start = "2026-04-02T08:00:00Z",
                    stop = "2026-04-02T09:15:00Z",
                    kind = "billable",
                    @void = false,
                    reason = "left early",
                }
            )
            .Json();

        var hours = (await shop.Manager.GetAsync($"/api/builds/{build.Id}/hours").Json()).EnumerateArray().ToList();
        hours.Count.ShouldBe(2);
        var original = hours.Single(h => h.GetProperty("id").GetGuid() == id);
        original.GetProperty("minutes").GetInt32().ShouldBe(120);
        original
            .GetProperty("replacedBy")
            .GetGuid()
            .ShouldBe(hours.Single(h => h.GetProperty("id").GetGuid() != id).GetProperty("id").GetGuid());
        (await build.Operations())
            .Single(o => o.GetProperty("id").GetGuid() == operation)
            .GetProperty("spentMinutes")
            .GetInt32()
            .ShouldBe(75);
        await shop
            .Manager.PostAsJsonAsync(
                $"/api/hours/{id}/correct",
                new
                {
                    id = Guid.CreateVersion7(),
                    operationId = operation,
                    start = (string?)null,
                    stop = (string?)null,
                    kind = "billable",
                    @void = true,
                    reason = "again",
                }
            )
            .Refused("id");
    }

    [Fact]
    public async Task A_technician_corrects_own_hours_of_the_same_day_only()
    {
        var build = await TestBuild.Open(shop);
        var operation = await build.Add(TestBuild.Work("Own"));
        shop.At(Monday.PlusDays(50), 17, 0);
        var id = Guid.CreateVersion7();
        await build.Hours(operation, "2026-04-21T08:00:00Z", "2026-04-21T09:00:00Z", id: id);
        object Void() =>
            new
            {
                id = Guid.CreateVersion7(),
                operationId = (Guid?)null,
                start = (string?)null,
                stop = (string?)null,
                kind = (string?)null,
                @void = true,
                reason = "not worked",
            };
        shop.At(Monday.PlusDays(51), 9, 0);
        await shop.Technician.PostAsJsonAsync($"/api/hours/{id}/correct", Void()).Refused("start");
        shop.At(Monday.PlusDays(50), 18, 0);
        await shop.Technician.PostAsJsonAsync($"/api/hours/{id}/correct", Void()).Json();
    }

    [Fact]
    public async Task A_forgotten_timer_is_stopped_at_the_time_work_really_stopped()
    {
        var build = await TestBuild.Open(shop);
        var operation = await build.Add(TestBuild.Work("Forgotten"));
        shop.At(new(2026, 5, 4), 9, 0);
        await Start(operation).Json();
        shop.At(new(2026, 5, 6), 8, 0);
        await Stop().Refused("stop");
        await Stop(at: "2026-05-04T15:00:00Z", breakWorked: true).Json();
        (await shop.Manager.GetAsync($"/api/builds/{build.Id}/hours").Json())[0]
            .GetProperty("minutes")
            .GetInt32()
            .ShouldBe(7 * 60);
    }

    [Theory]
    [InlineData(true, new[] { 180 })]
    [InlineData(false, new[] { 90, 60 })]
    public async Task A_break_that_was_run_across_is_asked_for_once(bool worked, int[] minutes)
    {
        var build = await TestBuild.Open(shop);
        var operation = await build.Add(TestBuild.Work("Across the break"));
        var day = new LocalDate(2026, 6, worked ? 1 : 2);
        shop.At(day, 10, 30);
        await Start(operation).Json();
        shop.At(day, 13, 30);
        await Stop().Refused("breakWorked");
        await Stop(breakWorked: worked).Json();
        var hours = (await shop.Manager.GetAsync($"/api/builds/{build.Id}/hours").Json())
            .EnumerateArray()
            .Select(h => h.GetProperty("minutes").GetInt32())
            .Reverse();
        hours.ShouldBe(minutes);
    }

    [Fact]
    public async Task Work_behind_an_unsigned_gate_is_not_started()
    {
        var build = await TestBuild.Open(shop);
        var cut = await build.Add(TestBuild.Work("Measure"));
        var gate = await build.Add(
            TestBuild.Work(
                "Datum recorded",
                kind: "gate",
                gate: "datum",
                after: [new { operation = cut, lagMinutes = 0 }]
            )
        );
        var behind = await build.Add(TestBuild.Work("Cut", after: [new { operation = gate, lagMinutes = 0 }]));
        shop.At(new(2026, 5, 11), 9, 0);
        (await Start(behind).Refused("operationId")).GetProperty("detail").GetString()!.ShouldContain("Datum recorded");
        await shop
            .Manager.PostAsJsonAsync($"/api/operations/{gate}/sign", new { seen = (string[]?)null })
            .Refused("after");
        await Start(cut).Json();
        shop.At(new(2026, 5, 11), 10, 0);
        await Stop(done: true).Json();
        await shop
            .Technician.PostAsJsonAsync($"/api/operations/{gate}/sign", new { seen = (string[]?)null })
            .Refused("personId");
        // What is missing is seen first, and stays with the name; another list than that which was looked at is
        // refused.
        var sheet = await shop.Manager.GetAsync($"/api/operations/{gate}/gate").Json();
        var missing = sheet
            .GetProperty("asks")
            .EnumerateArray()
            .Select(a => a.GetProperty("missing").GetString()!)
            .Where(m => m.Length > 0)
            .ToList();
        missing.ShouldBe(["no photo of Measure", "there is no datum sheet to cut by"]);
        Task<HttpResponseMessage> Sign(params string[] seen) =>
            shop.Manager.PostAsJsonAsync($"/api/operations/{gate}/sign", new { seen });
        await Sign().Refused("seen");
        await Sign([.. missing]).Json();
        (await shop.Manager.GetAsync($"/api/builds/{build.Id}/operations").Json())
            .EnumerateArray()
            .Single(o => o.GetProperty("id").GetGuid() == gate)
            .GetProperty("signatures")[0]
            .GetProperty("without")
            .GetString()
            .ShouldBe(string.Join("; ", missing));
        await Start(behind).Json();
        await Stop().Json();
    }
}

using System.Net;
using System.Net.Http.Json;

namespace FirstCoat.Server.Tests.Across;

/// <summary>Two who ask at the same moment, and one who asks twice.</summary>
public sealed class RaceTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    [Fact]
    public async Task A_used_id_with_other_content_is_told_and_the_first_one_stands()
    {
        var build = await TestBuild.Open(shop);
        var id = Guid.CreateVersion7();
        object Body(decimal amount) =>
            new
            {
                id,
                on = "2026-03-01",
                amount,
                note = "",
            };
        await shop.Office.PostAsJsonAsync($"/api/builds/{build.Id}/payments", Body(500)).Json();
        await shop.Office.PostAsJsonAsync($"/api/builds/{build.Id}/payments", Body(500)).Json();
        await shop
            .Office.PostAsJsonAsync($"/api/builds/{build.Id}/payments", Body(5000))
            .Refused("id", HttpStatusCode.Conflict);
        (await shop.Office.GetAsync($"/api/builds/{build.Id}/money").Json())
            .GetProperty("payments")
            .EnumerateArray()
            .ShouldHaveSingleItem()
            .GetProperty("amount")
            .GetDecimal()
            .ShouldBe(500);
    }

    [Fact]
    public async Task The_same_id_means_the_same_on_the_clock_in_questions_and_marks()
    {
        var build = await TestBuild.Open(shop);
        var (id, work) = (Guid.CreateVersion7(), await build.Add(TestBuild.Work("Rear axle")));
        await build.Hours(work, "2026-03-01T07:00:00Z", "2026-03-01T08:00:00Z", id: id);
        await build.Hours(work, "2026-03-01T07:00:00Z", "2026-03-01T08:00:00Z", id: id);
        await shop
            .Manager.PostAsJsonAsync(
                "/api/hours",
                new
                {
                    id,
                    personId = shop.TechnicianPerson,
                    operationId = work,
                    start = "2026-03-01T09:00:00Z",
                    stop = "2026-03-01T10:00:00Z",
                    kind = "billable",
                    note = "",
                }
            )
            .Refused("id", HttpStatusCode.Conflict);
        object Question(string question) =>
            new
            {
                id,
                question,
                detail = "",
                @for = "client",
                options = new[] { "yes" },
                holds = Array.Empty<Guid>(),
                dueOn = "2026-03-20",
                adds = (decimal?)null,
                photoId = (Guid?)null,
            };
        await shop.Office.PostAsJsonAsync($"/api/builds/{build.Id}/decisions", Question("One?")).Json();
        await shop
            .Office.PostAsJsonAsync($"/api/builds/{build.Id}/decisions", Question("Another?"))
            .Refused("id", HttpStatusCode.Conflict);
        object Mark(double x) =>
            new
            {
                id,
                place = "sillL",
                at = new { x, y = 210.0 },
                result = "dents",
            };
        await shop.Technician.PostAsJsonAsync($"/api/builds/{build.Id}/survey/marks", Mark(130.5)).Json();
        await shop
            .Technician.PostAsJsonAsync($"/api/builds/{build.Id}/survey/marks", Mark(131.5))
            .Refused("id", HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task Twenty_builds_opened_at_once_all_have_a_number_of_their_own()
    {
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 20)
                .Select(_ => shop.Manager.PostAsJsonAsync("/api/builds", TestBuild.OpenBody(Guid.CreateVersion7())))
        );
        answers.Select(a => a.StatusCode).Distinct().ShouldBe([HttpStatusCode.OK]);
        (await shop.Manager.GetAsync("/api/builds").Json())
            .EnumerateArray()
            .Select(b => b.GetProperty("number").GetInt32())
            .ShouldBeUnique();
    }

    [Fact]
    public async Task Nobody_is_on_the_clock_of_a_build_that_ends_at_the_same_moment()
    {
        for (var i = 0; i < 12; i++)
        {
            var build = await TestBuild.Open(shop);
            var work = await build.Add(TestBuild.Work("Rear axle"));
            var start = shop.Technician.StartClock(work);
            var end = shop.Manager.PutAsJsonAsync(
                $"/api/builds/{build.Id}/status",
                new
                {
                    status = "closed",
                    leftAt = "",
                    firstMove = "",
                }
            );
            var (started, ended) = ((await start).StatusCode, (await end).StatusCode);
            (started == HttpStatusCode.OK && ended == HttpStatusCode.OK).ShouldBeFalse(
                "one of the two came first, and the other was told"
            );
            (started == HttpStatusCode.OK || ended == HttpStatusCode.OK).ShouldBeTrue();
            if (started == HttpStatusCode.OK)
            {
                await shop.Technician.StopClock().Json();
            }
        }
    }

    [Fact]
    public async Task Of_two_vehicles_into_one_bay_at_once_one_is_refused()
    {
        var bay = Guid.CreateVersion7();
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/stations/{bay}",
                new
                {
                    name = "Bay R",
                    kind = "bay",
                    count = 1,
                    xMm = 0,
                    yMm = 0,
                    widthMm = 3000,
                    depthMm = 6000,
                    doorHeightMm = 2400,
                    walled = false,
                    version = (uint?)null,
                }
            )
            .Json();
        var builds = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => TestBuild.Open(shop)));
        var moves = await Task.WhenAll(
            builds.Select(b =>
                shop.Office.PutAsJsonAsync($"/api/builds/{b.Id}/place", new { stationId = bay, awayAt = "" })
            )
        );
        moves.Count(m => m.StatusCode == HttpStatusCode.OK).ShouldBe(1);
        moves.Count(m => m.StatusCode == HttpStatusCode.BadRequest).ShouldBe(5);
        var body = System.Text.Json.JsonSerializer.SerializeToNode(TestBuild.OpenBody(Guid.CreateVersion7()))!;
        body["stationId"] = bay;
        await shop.Manager.PostAsJsonAsync("/api/builds", body).Refused("stationId");
    }
}

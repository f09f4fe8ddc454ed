using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using FirstCoat.Core.Bench;

namespace FirstCoat.Server.Tests.Bench;

/// <summary>The bench on every path: sums answered and refused, tries kept and taken back, rests of sheet taken by one
/// of two, the shop's wires, and what a build's measuring gives it to start from.</summary>
public sealed class BenchTests(ShopFixture shop) : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private TestBuild _build = null!;

    public async ValueTask InitializeAsync() => (_build, _) = await TestBuild.OpenPair(shop);

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private static readonly object Door = new
    {
        body = "1450",
        dolly = "600",
        margin = "200",
        door = "2200",
    };

    private async Task<List<JsonElement>> Tries() =>
        [.. (await shop.Office.GetAsync($"/api/builds/{_build.Id}/bench/tries").Json()).EnumerateArray()];

    private async Task<List<JsonElement>> Work(string sum) =>
        [
            .. (await shop.Office.GetAsync($"/api/builds/{_build.Id}/bench/work").Json())
                .EnumerateArray()
                .Where(w => w.GetProperty("sum").GetString() == sum),
        ];

    private Task<HttpResponseMessage> Keep(
        HttpClient who,
        object figures,
        string name = "booth",
        string sum = "door",
        Guid? id = null
    ) =>
        who.PostAsJsonAsync(
            $"/api/builds/{_build.Id}/bench/tries",
            new
            {
                id = id ?? Guid.CreateVersion7(),
                sum,
                name,
                figures,
            }
        );

    private static object Offcut(Guid? id = null, double width = 400, string material = "mild steel") =>
        new
        {
            id = id ?? Guid.CreateVersion7(),
            widthMm = width,
            heightMm = 300,
            gaugeMm = 1.2,
            material,
            place = "rack S2",
            buildId = (Guid?)null,
        };

    private async Task<JsonElement> Stock(Guid id) =>
        (await shop.Office.GetAsync("/api/offcuts").Json())
            .EnumerateArray()
            .Single(o => o.GetProperty("id").GetGuid() == id);

    [Fact]
    public async Task A_sum_is_answered_with_its_formula_and_a_wrong_figure_is_named()
    {
        var good = await shop.Technician.PostAsJsonAsync("/api/bench/sums/door", Door).Json();
        good.GetProperty("answer").GetProperty("says").GetString().ShouldBe("50.0 mm too high");
        good.GetProperty("answer")
            .GetProperty("worked")[0]
            .GetString()
            .ShouldBe("2200 \u2212 (1450 + 600 + 200) = \u221250.0");
        good.GetProperty("field").GetString().ShouldBe("");

        var wrong = await shop.Technician.PostAsJsonAsync("/api/bench/sums/door", new { body = "-1" }).Json();
        wrong.GetProperty("answer").ValueKind.ShouldBe(JsonValueKind.Null);
        wrong.GetProperty("field").GetString().ShouldBe("dolly");
        (await shop.Technician.PostAsJsonAsync("/api/bench/sums/attic", Door)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound
        );
    }

    [Theory]
    [InlineData("[]")]
    [InlineData("null")]
    [InlineData("3")]
    [InlineData("""{"unit":5,"body":{"a":1},"dolly":[1],"margin":null,"door":true}""")]
    [InlineData("""{"pieces":[null,1,"x",[]],"flanges":{}}""")]
    public async Task Whatever_is_sent_as_figures_is_answered_in_words(string figures)
    {
        foreach (var sum in BenchSums.Names)
        {
            var answer = await shop.Technician.PostAsync(
                $"/api/bench/sums/{sum}",
                new StringContent(figures, System.Text.Encoding.UTF8, "application/json")
            );
            ((int)answer.StatusCode).ShouldBeLessThan(500, sum);
            if (answer.IsSuccessStatusCode)
            {
                (await answer.Content.ReadFromJsonAsync<JsonElement>())
                    .GetProperty("why")
                    .GetString()
                    .ShouldNotBeNullOrEmpty();
            }
        }
    }

    [Fact]
    public async Task A_try_is_kept_once_with_its_figures_and_answered_anew_when_it_is_read()
    {
        var id = Guid.CreateVersion7();
        await Keep(shop.Technician, Door, id: id).Json();
        await Keep(shop.Technician, Door, id: id).Json();
        var kept = (await Tries()).ShouldHaveSingleItem();
        kept.GetProperty("name").GetString().ShouldBe("booth");
        kept.GetProperty("figures").GetProperty("door").GetString().ShouldBe("2200");
        kept.GetProperty("answer").GetProperty("isWrong").GetBoolean().ShouldBeTrue();
        (await Keep(shop.Technician, Door, "other words", id: id)).IsSuccessStatusCode.ShouldBeFalse();

        (await Keep(shop.Office, Door)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        await Keep(shop.Technician, Door, name: " ").Refused("name");
        await Keep(shop.Technician, new { body = "1450" }).Refused("dolly");
        await Keep(shop.Technician, Door, sum: "attic").Refused("sum");

        await shop.Technician.PostAsync($"/api/bench-tries/{id}/take-back", null).Json();
        (await Tries()).ShouldBeEmpty();
    }

    [Fact]
    public async Task Of_two_who_take_an_offcut_one_gets_it()
    {
        var id = Guid.CreateVersion7();
        await shop.Technician.PostAsJsonAsync("/api/offcuts", Offcut(id)).Json();
        await shop.Technician.PostAsJsonAsync("/api/offcuts", Offcut(id)).Json();
        var seen = (await Stock(id)).GetProperty("version").GetUInt32();
        Task<HttpResponseMessage> Take(HttpClient who) =>
            who.PostAsJsonAsync($"/api/offcuts/{id}/use", new { buildId = _build.Id, version = seen });
        await Take(shop.Technician).Json();
        (await Take(shop.Manager)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await Stock(id)).GetProperty("usedFor").GetInt32().ShouldBeGreaterThan(0);

        await shop.Manager.PostAsync($"/api/offcuts/{id}/put-back", null).Json();
        (await Stock(id)).GetProperty("usedAt").ValueKind.ShouldBe(JsonValueKind.Null);
    }

    [Fact]
    public async Task An_offcut_that_is_none_is_refused()
    {
        await shop.Technician.PostAsJsonAsync("/api/offcuts", Offcut(width: 0)).Refused("widthMm");
        await shop.Technician.PostAsJsonAsync("/api/offcuts", Offcut(material: "")).Refused("material");
        (await shop.Office.PostAsJsonAsync("/api/offcuts", Offcut())).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task The_shops_wires_take_the_place_of_the_starting_ones_and_an_older_version_is_refused()
    {
        static object Table(uint? version, double mm2 = 6) =>
            new
            {
                wires = new[] { new { mm2, mostAmps = 30.0 }, new { mm2 = 2.5, mostAmps = 15.0 } },
                fuses = new[] { 15.0, 10.0 },
                version,
            };
        (await shop.Technician.GetAsync("/api/wires").Json()).GetProperty("isOwn").GetBoolean().ShouldBeFalse();
        (await shop.Technician.PutAsJsonAsync("/api/wires", Table(null))).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        var first = await shop.Manager.PutAsJsonAsync("/api/wires", Table(null)).Json();
        var own = await shop.Technician.GetAsync("/api/wires").Json();
        own.GetProperty("isOwn").GetBoolean().ShouldBeTrue();
        own.GetProperty("wires")[0].GetProperty("mm2").GetDouble().ShouldBe(2.5);
        own.GetProperty("fuses")[0].GetDouble().ShouldBe(10);

        var version = first.GetProperty("version").GetUInt32();
        await shop.Manager.PutAsJsonAsync("/api/wires", Table(version, 10)).Json();
        (await shop.Manager.PutAsJsonAsync("/api/wires", Table(version, 16))).StatusCode.ShouldBe(
            HttpStatusCode.Conflict
        );
        await shop.Manager.PutAsJsonAsync("/api/wires", Table(null, -1)).Refused("wires");
    }

    [Fact]
    public async Task What_was_measured_and_found_on_a_build_starts_the_sums()
    {
        (await Work("opening")).ShouldBeEmpty();
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/builds/{_build.Id}/openings",
                new
                {
                    id = Guid.CreateVersion7(),
                    opening = "cabin",
                    diagonal1 = 1510,
                    diagonal2 = 1490,
                    width = 1200,
                    side = 900,
                    unit = "mm",
                    when = "before the floor is cut",
                }
            )
            .Json();
        var cabin = (await Work("opening")).ShouldHaveSingleItem();
        cabin.GetProperty("name").GetString().ShouldBe("Cabin floor, before the floor is cut");
        var figures = cabin.GetProperty("figures").Deserialize<Dictionary<string, string>>()!;
        figures["tolerance"] = "2";
        (await shop.Technician.PostAsJsonAsync("/api/bench/sums/opening", figures).Json())
            .GetProperty("answer")
            .GetProperty("says")
            .GetString()
            .ShouldBe("Leans 12.5 mm to the right");
    }

    [Fact]
    public async Task A_drawn_finding_gives_its_extent_as_a_piece_and_its_edge_as_a_seam()
    {
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{_build.Id}/findings/{Guid.CreateVersion7()}",
                new
                {
                    place = "sillR",
                    at = new { x = 130.5, y = 210.0 },
                    area = new[]
                    {
                        new { x = 100, y = 200 },
                        new { x = 130, y = 200 },
                        new { x = 130, y = 240 },
                        new { x = 100, y = 240 },
                    },
                    kind = "rustThrough",
                    probe = "goesThrough",
                    sizeMm = 480,
                    structural = true,
                    gaugeMm = 1.2,
                    note = "",
                    photoId = (Guid?)null,
                    behind = (Guid?)null,
                    version = (uint?)null,
                }
            )
            .Json();
        var piece = (await Work("take-off")).ShouldHaveSingleItem().GetProperty("figures");
        piece.GetProperty("pieces")[0].GetProperty("width").GetString().ShouldBe("300");
        piece.GetProperty("pieces")[0].GetProperty("height").GetString().ShouldBe("400");
        piece.GetProperty("gauge").GetString().ShouldBe("1.2");
        var seam = (await Work("tacks")).ShouldHaveSingleItem().GetProperty("figures");
        seam.GetProperty("length").GetString().ShouldBe("1400");
        seam.GetProperty("closed").GetBoolean().ShouldBeTrue();
    }
}

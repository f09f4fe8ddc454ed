using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Fitup;

/// <summary>A datum sheet on every path: typed, read from a file, bad files, before and after a cut, roles, the gate
/// that asks it.</summary>
public sealed class DatumTests(ShopFixture shop) : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private const string Points = """
        point,x,y,z,name,protected
        A L,0,400,100,front horn,
        A R,0,-400,100,front horn,
        B L,1000,500,150,post,yes
        B R,1000,-500,150,post,
        C L,3000,450,300,hanger,
        C R,3000,-450,300,hanger,
        """;

    private TestBuild _build = null!;

    public async ValueTask InitializeAsync() => (_build, _) = await TestBuild.OpenPair(shop);

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private string At(string path) => $"/api/builds/{_build.Id}/datum{path}";

    private Task<HttpResponseMessage> Sheet(string text = Points, object? version = null, HttpClient? who = null) =>
        (who ?? shop.Technician).PutAsJsonAsync(
            At("/sheet/file"),
            new
            {
                drawing = "FS 12",
                revision = "B",
                page = "3",
                toleranceMm = 2,
                text,
                unit = "mm",
                version,
            }
        );

    private Task<HttpResponseMessage> ReadFile(string text, string round = "beforeCut", string unit = "mm") =>
        shop.Technician.PostAsJsonAsync(
            At("/readings/file"),
            new
            {
                text,
                unit,
                round,
                tool = "laser",
                instrument = "cross laser",
            }
        );

    private async Task<JsonElement> Look() => await shop.Office.GetAsync(At("")).Json();

    private static List<string?> Bent(JsonElement view, int fit = 0) =>
        [.. view.GetProperty("fits")[fit].GetProperty("bent").EnumerateArray().Select(b => b.GetString())];

    [Fact]
    public async Task A_sheet_from_a_file_finds_the_one_bent_point_of_a_file_and_what_moved()
    {
        (await Look()).GetProperty("version").ValueKind.ShouldBe(JsonValueKind.Null);
        await Sheet().Json();
        // Read on a jig: all shifted by (10, 20, 400); B R stands 12 too high.
        string Shifted(double up) =>
            $"""
                point;x;y;z
                a l;10;420;500
                a r;10;-380;500
                b l;1010;520;550
                b r;1010;-480;{550 + up}
                c l;3010;470;700
                c r;3010;-430;700
                """;
        (await ReadFile(Shifted(12)).Json()).GetProperty("points").GetInt32().ShouldBe(6);
        var view = await Look();
        Bent(view).ShouldBe(["B R"]);
        var bent = view.GetProperty("points").EnumerateArray().Single(p => p.GetProperty("key").GetString() == "B R");
        bent.GetProperty("rounds")[0].GetProperty("off").GetProperty("z").GetDouble().ShouldBe(12, 1e-6);
        view.GetProperty("points")
            .EnumerateArray()
            .Single(p => p.GetProperty("key").GetString() == "B L")
            .GetProperty("typed")
            .GetProperty("isProtected")
            .GetBoolean()
            .ShouldBeTrue();
        view.GetProperty("mirror").GetProperty("frontOffMm").GetDouble().ShouldBe(20, 1e-6);
        await ReadFile(Shifted(6), "afterCut").Json();
        view = await Look();
        Bent(view, 1).ShouldBe(["B R"]);
        view.GetProperty("points")
            .EnumerateArray()
            .Single(p => p.GetProperty("key").GetString() == "B R")
            .GetProperty("moved")
            .GetProperty("z")
            .GetDouble()
            .ShouldBe(-6, 1e-6);
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("a,b\n1,2", "There is no point, x, y, z")]
    [InlineData("point,x,y,z", "no point under the heading")]
    [InlineData("point,x,y,z\nA L,1,2,3\nA R,1,two,3", "Line 3: y is “two”, which is no number.")]
    [InlineData("point,x,y,z\nA L,1,2", "Line 2: z is empty.")]
    [InlineData("point,x,y,z\nA L,1,2,3\n\na l,1,2,3", "Line 4: A L is in line 2 already.")]
    [InlineData("point,x,y,z\n,1,2,3", "Line 2: the point has no name.")]
    [InlineData("point,x,y,z\nA L,1,2,99999", "Line 2: A L: no point of a vehicle lies 20 m away.")]
    public async Task A_bad_file_names_its_line_and_nothing_of_it_is_kept(string text, string says)
    {
        await Sheet().Json();
        (await ReadFile(text).Refused("text")).GetProperty("detail").GetString()!.ShouldContain(says);
        (await Look()).GetProperty("fits").GetArrayLength().ShouldBe(0);
        var version = (await Look()).GetProperty("version");
        await Sheet(text, version).Refused("text");
        (await Look()).GetProperty("points").GetArrayLength().ShouldBe(6);
    }

    private Task<HttpResponseMessage> Read(
        Guid id,
        string point,
        decimal x,
        decimal y,
        decimal z,
        HttpClient? who = null,
        string unit = "mm"
    ) =>
        (who ?? shop.Technician).PostAsJsonAsync(
            At("/readings"),
            new
            {
                id,
                point,
                x,
                y,
                z,
                unit,
                round = "beforeCut",
                tool = "plumbBob",
                instrument = "",
            }
        );

    [Fact]
    public async Task A_point_is_read_once_in_its_own_unit_and_taken_back()
    {
        await Read(Guid.CreateVersion7(), "A L", 0, 0, 0).Refused("point");
        await Sheet().Json();
        var id = Guid.CreateVersion7();
        await Read(id, "A L", 1, 16, 4, unit: "inch").Json();
        await Read(id, "A L", 1, 16, 4, unit: "inch").Json();
        (await Read(id, "A L", 2, 16, 4, unit: "inch")).IsSuccessStatusCode.ShouldBeFalse();
        await Read(Guid.CreateVersion7(), "Z L", 0, 0, 0).Refused("point");
        var point = (await Look()).GetProperty("points")[0];
        point.GetProperty("rounds")[0].GetProperty("at").GetProperty("y").GetDouble().ShouldBe(406.4, 1e-9);
        (await Read(Guid.CreateVersion7(), "A R", 0, 0, 0, shop.Office)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        await shop.Technician.PostAsync($"/api/datum-readings/{id}/take-back", null).Json();
        (await Look()).GetProperty("points")[0].GetProperty("rounds").GetArrayLength().ShouldBe(0);
    }

    [Fact]
    public async Task Figures_of_the_chassis_need_a_sheet_and_the_second_window_is_told()
    {
        Task<HttpResponseMessage> Put(object? version, double track = 1400) =>
            shop.Technician.PutAsJsonAsync(
                At("/figures"),
                new
                {
                    before = new
                    {
                        wheelbaseLeftMm = 2844,
                        wheelbaseRightMm = 2840,
                        trackMm = track,
                    },
                    after = new { heightFrontLeftMm = 10 },
                    version,
                }
            );
        await Put(null).Refused("drawing");
        await Sheet().Json();
        var version = (await Look()).GetProperty("version");
        await Put(version, -1).Refused("trackMm");
        await Put(version).Json();
        (await Look()).GetProperty("before").GetProperty("skewDeg").GetDouble().ShouldBe(.1637, 1e-4);
        (await Look()).GetProperty("after").GetProperty("twistMm").ValueKind.ShouldBe(JsonValueKind.Null);
        (await Put(version)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await Sheet(version: version)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task The_gate_before_a_cut_asks_for_each_point_of_the_sheet()
    {
        var gate = await _build.Add(TestBuild.Work("Datum recorded", kind: "gate", gate: "datum"));
        async Task<List<(string? Missing, bool Must)>> Asks() =>
            [
                .. (await shop.Manager.GetAsync($"/api/operations/{gate}/gate").Json())
                    .GetProperty("asks")
                    .EnumerateArray()
                    .Select(a => (a.GetProperty("missing").GetString(), a.GetProperty("must").GetBoolean())),
            ];
        (await Asks()).ShouldBe([("there is no datum sheet to cut by", false)]);
        await Sheet().Json();
        (await Asks())[0].ShouldBe(("not read before the cut: A L, A R, B L, B R, C L, C R", true));
        await ReadFile(Points).Json();
        (await Asks()).ShouldAllBe(a => a.Missing == "");
        async Task Sign() =>
            await shop.Manager.PostAsJsonAsync($"/api/operations/{gate}/sign", new { seen = (string[]?)null }).Json();
        async Task<bool> IsSigned() =>
            (await _build.Operations())
                .Single(o => o.GetProperty("id").GetGuid() == gate)
                .GetProperty("doneAt")
                .ValueKind != JsonValueKind.Null;
        await Sign();
        // A reading that was a slip, or a sheet with another point: it is not read to the end any more.
        var slip = (await Look()).GetProperty("points")[0].GetProperty("rounds")[0].GetProperty("readingId").GetGuid();
        await shop.Technician.PostAsync($"/api/datum-readings/{slip}/take-back", null).Json();
        (await IsSigned()).ShouldBeFalse();
        await Read(Guid.CreateVersion7(), "A L", 0, 400, 100).Json();
        await Sign();
        await Sheet(Points + "\nD L,2000,300,90,,", (await Look()).GetProperty("version")).Json();
        (await IsSigned()).ShouldBeFalse();
        (await Asks())[0].Missing.ShouldBe("not read before the cut: D L");
    }
}

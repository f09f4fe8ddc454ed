using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Fitup;

/// <summary>Gap and flush on every path: read, slips taken back, accepted by name, moved panels, new metal, and the
/// gate that asks the sheets.</summary>
public sealed class FitTests(ShopFixture shop) : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private const string Sill = "door/sill R";

    private TestBuild _build = null!;
    private Guid _dry;
    private Guid _gate;
    private Guid _weld;

    public async ValueTask InitializeAsync()
    {
        (_build, _) = await TestBuild.OpenPair(shop);
        _dry = await _build.Add(TestBuild.Work("Dry build, right", panels: ["sillR"]));
        _gate = await _build.Add(
            TestBuild.Work(
                "Fit-up, right",
                kind: "gate",
                gate: "fitUp",
                after: [new { operation = _dry, lagMinutes = 0 }]
            )
        );
        _weld = await _build.Add(
            TestBuild.Work(
                "Weld out, right",
                panels: ["sillR"],
                held: "weldedOut",
                after: [new { operation = _gate, lagMinutes = 0 }]
            )
        );
        await shop.Manager.PostAsync($"/api/operations/{_dry}/done", null).Json();
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private string At(string path) => $"/api/builds/{_build.Id}/fit/{path}";

    private Task<HttpResponseMessage> Read(
        HttpClient who,
        int station,
        decimal value,
        string measure = "gap",
        string unit = "mm",
        Guid? id = null,
        string line = Sill,
        string round = "beforeWeld"
    ) =>
        who.PostAsJsonAsync(
            At("readings"),
            new
            {
                id = id ?? Guid.CreateVersion7(),
                line,
                round,
                station,
                measure,
                value,
                unit,
                instrument = "steps of 0.1",
            }
        );

    private async Task ReadAll(decimal gap, string line = Sill)
    {
        for (var i = 1; i <= 9; i++)
        {
            await Read(shop.Technician, i, gap, line: line).Json();
        }

        foreach (var i in new[] { 1, 5, 9 })
        {
            await Read(shop.Technician, i, .2m, "flush", line: line).Json();
        }
    }

    private async Task<JsonElement> Line() =>
        (await shop.Technician.GetAsync(At("").TrimEnd('/')).Json())
            .GetProperty("lines")
            .EnumerateArray()
            .Single(l => l.GetProperty("key").GetString() == Sill);

    private async Task<string> Verdict() => (await Line()).GetProperty("verdict").GetString()!;

    private async Task<List<string>> Missing() =>
        [
            .. (await shop.Manager.GetAsync($"/api/operations/{_gate}/gate").Json())
                .GetProperty("asks")
                .EnumerateArray()
                .Where(a => a.GetProperty("must").GetBoolean())
                .Select(a => a.GetProperty("missing").GetString()!)
                .Where(m => m.Length > 0),
        ];

    private Task<HttpResponseMessage> Sign() =>
        shop.Manager.PostAsJsonAsync($"/api/operations/{_gate}/sign", new { seen = (string[]?)null });

    private async Task<bool> IsSigned() =>
        (await _build.Operations()).Single(o => o.GetProperty("id").GetGuid() == _gate).GetProperty("doneAt").ValueKind
        != JsonValueKind.Null;

    private Task<HttpResponseMessage> Accept(HttpClient who, string why, Guid? id = null) =>
        who.PostAsJsonAsync(
            At("acceptances"),
            new
            {
                id = id ?? Guid.CreateVersion7(),
                line = Sill,
                why,
            }
        );

    private Task<HttpResponseMessage> Moved(
        Guid id,
        object? move = null,
        string what = "1.4 mm behind the lower hinge"
    ) =>
        shop.Technician.PostAsJsonAsync(
            At("changes"),
            new
            {
                id,
                panels = new[] { "doorR" },
                method = "hinge",
                move,
                what,
            }
        );

    [Fact]
    public async Task The_gate_is_signed_when_the_line_is_read_and_good_and_shut_by_new_metal_beside_it()
    {
        (await Missing()).ShouldBe(["not read to the end: H Door to sill, R"]);
        await Sign().Refused("id");
        await ReadAll(4.2m);
        (await Line()).GetProperty("words").GetString().ShouldBe("");
        (await Missing()).ShouldBeEmpty();
        await Sign().Json();
        (await IsSigned()).ShouldBeTrue();
        // Metal somewhere else is no matter of this side.
        await NewMetal("wingL");
        (await IsSigned()).ShouldBeTrue();
        await NewMetal("sillR");
        (await IsSigned()).ShouldBeFalse();
        (await Line()).GetProperty("words").GetString().ShouldBe("New metal in R sill: read 9 of 9 again");
        (await Missing()).ShouldBe(["changed since it was read: H Door to sill, R"]);
        (await shop.Manager.PostAsync($"/api/operations/{_weld}/done", null)).IsSuccessStatusCode.ShouldBeFalse();
        await ReadAll(4.1m);
        await Sign().Json();
        await shop.Manager.PostAsync($"/api/operations/{_weld}/done", null).Json();
        // Welded out, the same line is read once more, for the next gate.
        var line = await Line();
        (line.GetProperty("next").GetString(), line.GetProperty("verdict").GetString()).ShouldBe(
            ("afterWeld", "readAgain")
        );
        line.GetProperty("words").GetString().ShouldBe("Welded out since: read 9 of 9 again");
        (await IsSigned()).ShouldBeTrue("it was signed for what was read before the weld");
    }

    private Task<JsonElement> NewMetal(string panel) =>
        shop
            .Technician.PostAsJsonAsync(
                $"/api/builds/{_build.Id}/panel-events",
                new
                {
                    id = Guid.CreateVersion7(),
                    panel,
                    zone = (string?)null,
                    fact = "newMetal",
                    coat = (string?)null,
                    held = (string?)null,
                    note = "",
                }
            )
            .Json();

    [Fact]
    public async Task A_figure_is_kept_as_typed_once_and_a_slip_is_taken_back()
    {
        var id = Guid.CreateVersion7();
        await Read(shop.Technician, 4, .157m, unit: "inch", id: id).Json();
        await Read(shop.Technician, 4, .157m, unit: "inch", id: id).Json();
        // The same id for another figure is refused, and so is what no line reads.
        (await Read(shop.Technician, 4, .2m, unit: "inch", id: id)).IsSuccessStatusCode.ShouldBeFalse();
        await Read(shop.Technician, 10, 4).Refused("station");
        await Read(shop.Technician, 1, -4).Refused("value");
        await Read(shop.Technician, 1, 47, unit: "inch").Refused("value");
        await Read(shop.Technician, 1, 4, line: "door/attic R").Refused("line");
        var gap = Station(await Line(), 4).GetProperty("gap");
        gap.GetProperty("typed").GetString().ShouldBe("0.157 in");
        gap.GetProperty("mm").GetDouble().ShouldBe(3.9878, 1e-12);
        await Read(shop.Technician, 4, 6).Json();
        var slip = Station(await Line(), 4).GetProperty("gap").GetProperty("id").GetGuid();
        await shop.Technician.PostAsync($"/api/fit-readings/{slip}/take-back", null).Json();
        Station(await Line(), 4).GetProperty("gap").GetProperty("typed").GetString().ShouldBe("0.157 in");
        // The office reads the sheet and writes nothing in it.
        (await shop.Office.GetAsync(At("").TrimEnd('/'))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Read(shop.Office, 1, 4)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    private static JsonElement Station(JsonElement line, int number) =>
        line.GetProperty("rounds")[0].GetProperty("stations")[number - 1];

    [Fact]
    public async Task What_a_technician_proposes_a_manager_accepts_for_what_was_read_then()
    {
        await Accept(shop.Technician, "it is hidden").Refused("line");
        await ReadAll(5.2m);
        (await Verdict()).ShouldBe("out");
        await Accept(shop.Technician, " ").Refused("why");
        var proposed = Guid.CreateVersion7();
        await Accept(shop.Technician, "the cover hides it", proposed).Json();
        (await Verdict()).ShouldBe("out");
        (await Waits()).ShouldBe(1);
        (await Missing()).ShouldBe(["out of limits: H Door to sill, R"]);
        (await shop.Technician.PostAsync($"/api/fit-acceptances/{proposed}/accept", null)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        await shop.Manager.PostAsync($"/api/fit-acceptances/{proposed}/accept", null).Json();
        (await Waits()).ShouldBe(0);
        (await Verdict()).ShouldBe("accepted");
        (await Line()).GetProperty("words").GetString()!.ShouldContain("the cover hides it");
        (await Missing()).ShouldBeEmpty();
        await Accept(shop.Manager, "again").Refused("line");
        // Accepted by a manager, taken back by one.
        await shop.Technician.PostAsync($"/api/fit-acceptances/{proposed}/take-back", null).Refused("id");
        await shop.Manager.PostAsync($"/api/fit-acceptances/{proposed}/take-back", null).Json();
        (await Verdict()).ShouldBe("out");
        // What was proposed before another reading is not accepted after it.
        var late = Guid.CreateVersion7();
        await Accept(shop.Technician, "the cover hides it", late).Json();
        await Read(shop.Technician, 3, 5.4m).Json();
        await shop.Manager.PostAsync($"/api/fit-acceptances/{late}/accept", null).Refused("id");
        (await Waits()).ShouldBe(0, "nobody has to look at it any more");
    }

    /// <summary>The figure on the group of pages where gaps are.</summary>
    private async Task<int> Waits() =>
        (await _build.Card())
            .GetProperty("waits")
            .EnumerateArray()
            .Where(w => w.GetProperty("group").GetString() == "measure")
            .Sum(w => w.GetProperty("count").GetInt32());

    [Fact]
    public async Task A_moved_door_asks_for_its_lines_again_and_says_what_came_of_it()
    {
        await shop
            .Technician.PutAsJsonAsync(
                At("doors/doorR"),
                new
                {
                    hingeSpacingMm = 350,
                    lowerHingeUpMm = 160,
                    hingeToRearMm = 1000,
                }
            )
            .Json();
        var line = await Line();
        var stations = line.GetProperty("stationsMm").EnumerateArray().Select(x => x.GetDouble()).ToList();
        for (var i = 1; i <= 9; i++)
        {
            await Read(shop.Technician, i, Math.Round(7 - 4 * (decimal)stations[i - 1] / 1000, 2)).Json();
        }

        var advice = await shop
            .Technician.PostAsJsonAsync(At("try"), new { panel = "doorR", move = (object?)null })
            .Json();
        advice.GetProperty("isMeasured").GetBoolean().ShouldBeTrue();
        var move = advice.GetProperty("move");
        move.GetProperty("shimMm").GetDouble().ShouldBe(1.4, .051);
        move.GetProperty("behind").GetString().ShouldBe("lower");
        advice.GetProperty("steps")[0].GetString().ShouldBe("1.4 mm behind the lower hinge");
        var sill = advice.GetProperty("lines").EnumerateArray().Single(l => l.GetProperty("key").GetString() == Sill);
        sill.GetProperty("passes").GetBoolean().ShouldBeTrue();
        // Another move is tried without being kept.
        var tried = await shop
            .Technician.PostAsJsonAsync(
                At("try"),
                new
                {
                    panel = "doorR",
                    move = new
                    {
                        shimMm = 0,
                        raiseMm = -1.0,
                        rearwardMm = 0,
                        rightMm = 0,
                        turnMmPerM = 0,
                    },
                }
            )
            .Json();
        tried
            .GetProperty("lines")
            .EnumerateArray()
            .Single(l => l.GetProperty("key").GetString() == Sill)
            .GetProperty("gaps")[0]
            .GetDouble()
            .ShouldBe(6, .01);
        (await Verdict()).ShouldBe("partlyRead");
        var change = Guid.CreateVersion7();
        await Moved(change, move).Json();
        await Moved(change, move).Json();
        (await Verdict()).ShouldBe("readAgain");
        await ReadAll(4.1m);
        (await Verdict()).ShouldBe("inLimits");
        var kept = (await shop.Manager.GetAsync(At("").TrimEnd('/')).Json()).GetProperty("changes")[0];
        kept.GetProperty("what").GetString().ShouldBe("1.4 mm behind the lower hinge");
        kept.GetProperty("helped").ValueKind.ShouldBe(JsonValueKind.Null);
        var version = kept.GetProperty("version").GetUInt32();
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/fit-changes/{change}/result",
                new
                {
                    helped = true,
                    result = "even",
                    version,
                }
            )
            .Json();
        (
            await shop.Technician.PostAsJsonAsync(
                $"/api/fit-changes/{change}/result",
                new
                {
                    helped = false,
                    result = "not at all",
                    version,
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await shop
            .Technician.PostAsJsonAsync(At("try"), new { panel = "wingR", move = (object?)null })
            .Refused("panel");
        await shop
            .Technician.PostAsJsonAsync(At("try"), new { panel = "doorL", move = (object?)null })
            .Refused("panel");
    }

    [Fact]
    public async Task A_reading_taken_back_takes_with_it_what_rested_on_it()
    {
        await ReadAll(4);
        await Read(shop.Technician, 3, 5.4m).Json();
        await Accept(shop.Manager, "one dimple under the cover").Json();
        (await Verdict()).ShouldBe("accepted");
        await Sign().Json();
        async Task TakeBack(int station) =>
            await shop
                .Technician.PostAsync(
                    $"/api/fit-readings/{Station(await Line(), station).GetProperty("gap").GetProperty("id").GetGuid()}/take-back",
                    null
                )
                .Json();
        // What stood there before is good: the gate stays, the acceptance has nothing to accept.
        await TakeBack(3);
        (await Verdict()).ShouldBe("inLimits");
        (await Line()).GetProperty("acceptance").ValueKind.ShouldBe(JsonValueKind.Null);
        (await IsSigned()).ShouldBeTrue();
        // Nothing stood there before: what was signed for is not read any more.
        await TakeBack(7);
        (await Verdict()).ShouldBe("partlyRead");
        (await IsSigned()).ShouldBeFalse();
    }

    [Fact]
    public async Task A_report_tells_what_became_of_a_gap_that_was_read_again()
    {
        await ReadAll(5.2m);
        await ReadAll(4);
        var id = Guid.CreateVersion7();
        await shop.Manager.PostAsJsonAsync($"/api/builds/{_build.Id}/reports", new { id }).Json();
        (await shop.Manager.GetAsync($"/api/reports/{id}/page").Json())
            .ToString()
            .ShouldContain("Gap, door to sill on the right: it was 5.2 mm, and is now 4.0 mm");
    }

    [Fact]
    public async Task A_moved_door_shuts_the_gate_that_had_looked_at_it()
    {
        await ReadAll(4);
        await Sign().Json();
        await Moved(Guid.CreateVersion7()).Json();
        (await IsSigned()).ShouldBeFalse();
        await Moved(Guid.CreateVersion7(), what: " ").Refused("what");
    }

    [Fact]
    public async Task A_side_is_signed_by_itself_and_new_metal_on_it_takes_that_signature_alone()
    {
        var dry = await _build.Add(TestBuild.Work("Dry build, both", panels: ["sillL", "sillR"]));
        var left = await _build.Add(TestBuild.Work("Left sill", panels: ["sillL"]));
        var right = await _build.Add(TestBuild.Work("Right sill", panels: ["sillR"]));
        var gate = await _build.Add(
            TestBuild.Work(
                "Fit-up, both",
                kind: "gate",
                gate: "fitUp",
                after:
                [
                    new { operation = dry, lagMinutes = 0 },
                    new { operation = left, lagMinutes = 0 },
                    new { operation = right, lagMinutes = 0 },
                ]
            )
        );
        await shop.Manager.PostAsync($"/api/operations/{dry}/done", null).Json();
        await shop.Manager.PostAsync($"/api/operations/{left}/done", null).Json();
        Task<HttpResponseMessage> SignSide(string? side) =>
            shop.Manager.PostAsJsonAsync($"/api/operations/{gate}/sign", new { seen = (string[]?)null, side });
        async Task<List<string?>> Sides() =>
            [
                .. (await _build.Operations())
                    .Single(o => o.GetProperty("id").GetGuid() == gate)
                    .GetProperty("signatures")
                    .EnumerateArray()
                    .Select(s => s.GetProperty("side").GetString()),
            ];
        async Task<bool> Done() =>
            (await _build.Operations())
                .Single(o => o.GetProperty("id").GetGuid() == gate)
                .GetProperty("doneAt")
                .ValueKind != JsonValueKind.Null;

        await ReadAll(4, "door/sill L");
        await SignSide("right").Refused("after");
        await SignSide("centre").Refused("side");
        (await shop.Technician.GetAsync($"/api/operations/{gate}/gate?side=left").Json())
            .GetProperty("asks")
            .EnumerateArray()
            .Where(a => a.GetProperty("must").GetBoolean() && a.GetProperty("missing").GetString() != "")
            .ShouldBeEmpty("what is open on the right is not the left side's");
        await SignSide("left").Json();
        (await Done()).ShouldBeFalse();
        await SignSide("left").Refused("after");

        // The second side finishes the gate: all of it is asked.
        await shop.Manager.PostAsync($"/api/operations/{right}/done", null).Json();
        await SignSide("right").Refused("id");
        await ReadAll(4);
        await SignSide("right").Json();
        (await Done()).ShouldBeTrue();

        await NewMetal("sillL");
        (await Done()).ShouldBeFalse();
        (await Sides()).ShouldBe(["right"]);
        await SignSide("right").Refused("id");
        await ReadAll(4, "door/sill L");
        await SignSide("left").Json();
        (await Done()).ShouldBeTrue();
        await Moved(Guid.CreateVersion7()).Json();
        (await Sides()).ShouldBe(["left"]);
    }

    [Fact]
    public async Task Limits_are_the_managers_and_two_windows_are_told()
    {
        var fit = await shop.Manager.GetAsync(At("").TrimEnd('/')).Json();
        Task<HttpResponseMessage> Put(HttpClient who, object lines, double tolerance, object? version) =>
            who.PutAsJsonAsync(
                At("sheet"),
                new
                {
                    painted = new
                    {
                        targetMm = 4.0,
                        toleranceMm = tolerance,
                        rangeMm = .8,
                        flushMm = .6,
                    },
                    bright = fit.GetProperty("bright"),
                    filmUm = 220,
                    lines,
                    version,
                }
            );
        object Bright(string line) =>
            new[]
            {
                new
                {
                    line,
                    isBright = true,
                    own = (object?)null,
                    leftOut = "",
                },
            };
        (await Put(shop.Technician, Bright(Sill), .8, null)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        await Put(shop.Manager, Bright("door/attic R"), .8, null).Refused("lines");
        await Put(shop.Manager, Bright(Sill), -1, null).Refused("toleranceMm");
        await ReadAll(4.6m);
        (await Verdict()).ShouldBe("inLimits");
        await Put(shop.Manager, Bright(Sill), .8, null).Json();
        (await Verdict()).ShouldBe("out");
        (await Line()).GetProperty("foretold")[0].GetDouble().ShouldBe(4.16, 1e-9);
        var version = (await shop.Manager.GetAsync(At("").TrimEnd('/')).Json()).GetProperty("sheetVersion");
        await Put(shop.Manager, Array.Empty<object>(), .8, version).Json();
        (await Put(shop.Manager, Bright(Sill), .8, version)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }
}

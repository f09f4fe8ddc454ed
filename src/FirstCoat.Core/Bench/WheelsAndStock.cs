using System.Text.Json.Nodes;

namespace FirstCoat.Core.Bench;

/// <summary>Wheels, bars, timber, tanks and wires in the bench's form.</summary>
internal static class WheelsAndStock
{
    public static IReadOnlyDictionary<string, Func<Question, JsonNode>> All { get; } =
        new Dictionary<string, Func<Question, JsonNode>>
        {
            ["tyre.fitment"] = Fitment,
            ["tyre.change"] = Change,
            ["cuts"] = Cuts,
            ["steam"] = q => new JsonObject { ["minutes"] = SteamBend.Minutes(q.Number("thicknessMm")) },
            ["box"] = Box,
            ["wire.size"] = Wire,
            ["nest.sheets"] = Nest,
        };

    private static Wheel WheelOf(Question q)
    {
        var wheel = new Wheel(Tyre.Read(q.Text("tyre")), q.Number("rimWidthIn"), q.Number("offsetMm"));
        wheel.Check();
        return wheel;
    }

    private static JsonObject Fitment(Question q)
    {
        var wheel = WheelOf(q);
        return new()
        {
            ["sectionMm"] = wheel.Tyre.SectionMm,
            ["sidewallMm"] = wheel.Tyre.SidewallMm,
            ["diameterMm"] = wheel.Tyre.DiameterMm,
            ["circumferenceMm"] = wheel.Tyre.CircumferenceMm,
            ["revsPerKm"] = wheel.Tyre.RevsPerKm,
            ["rimOuterMm"] = wheel.RimOuterMm,
            ["rimInnerMm"] = wheel.RimInnerMm,
            ["tyreOuterMm"] = wheel.TyreOuterMm,
            ["tyreInnerMm"] = wheel.TyreInnerMm,
        };
    }

    private static JsonObject Change(Question q)
    {
        var (was, now) = (WheelOf(q.Object("old")), WheelOf(q.Object("new")));
        var grows = now.Tyre.DiameterMm / was.Tyre.DiameterMm;
        return new()
        {
            ["rimOuterShiftMm"] = now.RimOuterMm - was.RimOuterMm,
            ["rimInnerShiftMm"] = now.RimInnerMm - was.RimInnerMm,
            ["tyreOuterShiftMm"] = now.TyreOuterMm - was.TyreOuterMm,
            ["tyreInnerShiftMm"] = now.TyreInnerMm - was.TyreInnerMm,
            ["diameterChangePercent"] = 100 * (grows - 1),
            ["speedometerErrorPercent"] = now.SpeedometerErrorPercent(was),
            ["trueAt100"] = 100 * grows,
        };
    }

    private static JsonObject Cuts(Question q)
    {
        var pieces = q.Has("piecesMm") ? q.Part("piecesMm").Numbers() : [];
        var cuts = LineCuts.Of(q.Number("stockMm"), q.Number("kerfMm"), pieces);
        return new()
        {
            ["bars"] = cuts.Bars,
            ["wasteMm"] = cuts.WasteMm,
            ["usedPercent"] = cuts.UsedPercent,
        };
    }

    private static JsonObject Box(Question q)
    {
        var box = BoxVolume.Of(q.Number("lengthMm"), q.Number("widthMm"), q.Number("heightMm"));
        return new()
        {
            ["litres"] = box.Litres,
            ["usGal"] = box.UsGallons,
            ["impGal"] = box.ImperialGallons,
        };
    }

    private static JsonObject Nest(Question q)
    {
        var sheet = q.Object("sheet");
        var nesting = Nesting.Of(
            sheet.Number("widthMm"),
            sheet.Number("heightMm"),
            q.Number("kerfMm"),
            [
                .. q.List("pieces")
                    .Select(p => new NestPiece(
                        p.Text("id"),
                        p.Number("widthMm"),
                        p.Number("heightMm"),
                        p.Whole("quantity"),
                        p.Flag("mayTurn")
                    )),
            ]
        );
        return new()
        {
            ["sheets"] = nesting.Sheets,
            ["placed"] = BenchCalculations.Array(nesting.Placed, p => new JsonObject
            {
                ["id"] = p.Id,
                ["sheet"] = p.Sheet,
                ["xMm"] = p.XMm,
                ["yMm"] = p.YMm,
                ["turned"] = p.Turned,
            }),
            ["boundSheets"] = nesting.BoundSheets,
            ["wasteShare"] = nesting.WasteShare,
        };
    }

    private static JsonObject Wire(Question q)
    {
        var run = WireRun.Of(
            q.Number("volts"),
            q.Number("amps"),
            q.Number("lengthM"),
            q.Number("dropPercent"),
            [.. q.List("wires").Select(w => new WireSize(w.Number("mm2"), w.Number("maxA")))],
            q.Has("fuses") ? q.Part("fuses").Numbers() : []
        );
        return new()
        {
            ["neededMm2"] = run.NeededMm2,
            ["sizeMm2"] = run.SizeMm2,
            ["dropV"] = run.DropVolts,
            ["dropPercent"] = run.DropPercent,
            ["fuseA"] = run.FuseAmps,
        };
    }
}

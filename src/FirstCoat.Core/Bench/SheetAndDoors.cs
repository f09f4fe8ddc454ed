using System.Text.Json.Nodes;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;

namespace FirstCoat.Core.Bench;

/// <summary>Sheet metal and door heights in the bench's form.</summary>
internal static class SheetAndDoors
{
    public static IReadOnlyDictionary<string, Func<Question, JsonNode>> All { get; } =
        new Dictionary<string, Func<Question, JsonNode>>
        {
            ["sheet.gauge"] = q => new JsonObject { ["mm"] = Sheet.GaugeMm(q.Whole("gauge")) },
            ["sheet.takeoff"] = TakeOff,
            ["clearance"] = Clearance,
        };

    private static JsonObject TakeOff(Question q)
    {
        var pieces = q.List("pieces")
            .Select(p => new SheetPiece(p.Number("wMm"), p.Number("hMm"), p.Whole("qty")))
            .ToList();
        var need = Sheet.TakeOff(pieces, q.Number("gaugeMm"), q.Number("sheetWMm"), q.Number("sheetHMm"));
        return new()
        {
            ["areaM2"] = need.AreaM2,
            ["weightKg"] = need.WeightKg,
            ["sheetsAtLeast"] = need.SheetsAtLeast,
        };
    }

    private static JsonObject Clearance(Question q)
    {
        var door = DoorClearance.Of(q.Number("bodyMm"), q.Number("dollyMm"), q.Number("marginMm"), q.Number("doorMm"));
        return new()
        {
            ["neededMm"] = door.NeededMm,
            ["spareMm"] = door.SpareMm,
            ["fits"] = door.Fits,
            ["lowerByMm"] = door.LowerByMm,
            ["dollyAloneSuffices"] = door.DollyAloneSuffices,
        };
    }
}

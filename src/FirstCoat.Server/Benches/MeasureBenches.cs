using FirstCoat.Core.Bench;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;

namespace FirstCoat.Server.Benches;

/// <summary>Sums of measuring that have a budget, on their hardest cases.</summary>
internal static class MeasureBenches
{
    /// <summary>Twelve points of which five are bent each its own way: every set down to seven is tried.</summary>
    public static Action Datum()
    {
        var random = new Random(12);
        List<Point> sheet =
        [
            .. Enumerable
                .Range(0, 12)
                .Select(i => new Point(i / 2 * 600, i % 2 == 0 ? 450 : -450, random.Next(0, 900))),
        ];
        List<Point> read =
        [
            .. sheet.Select((p, i) => new Point(p.X - 3, p.Y + 2, p.Z + (i < 5 ? 15 + 9 * i : random.NextDouble()))),
        ];
        return () => BentPoints.Of(read, sheet, 2);
    }

    /// <summary>Two hundred pieces of forty sizes, half of which may not be turned.</summary>
    public static Action Nest()
    {
        var random = new Random(200);
        List<NestPiece> pieces =
        [
            .. Enumerable
                .Range(0, 40)
                .Select(i => new NestPiece($"p{i}", random.Next(60, 700), random.Next(60, 900), 5, i % 2 == 0)),
        ];
        return () => Nesting.Of(1250, 2500, 3, pieces);
    }

    /// <summary>Every shut line of a body with its stations, as each look at its gaps asks for them.</summary>
    public static Action Lines()
    {
        var body = Body.Unfold(BodyStyleKey.Estate, BodyDimensions.Of(BodyStyleKey.Estate));
        return () => GapLine.Of(body);
    }
}

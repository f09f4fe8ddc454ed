using FirstCoat.Core.Bodies;

namespace FirstCoat.Core.Fitup;

/// <summary>A shut line of a body as it is read: with its letter, its stations, and the panels it parts.</summary>
/// <param name="Key">Its name in the body, with its side: "door/sill R".</param>
/// <param name="Letter">What it is called on the sheet and the drawing.</param>
/// <param name="Name">In words: "Door to sill, R".</param>
/// <param name="From">The end at which station 1 lies: "front end".</param>
/// <param name="StationsMm">How far each station lies from that end.</param>
/// <param name="At">Where each station lies on the body laid flat, in centimetres.</param>
public sealed record GapLine(
    string Key,
    string Letter,
    string Name,
    PanelSide Side,
    string From,
    double LengthMm,
    IReadOnlyList<string> Between,
    IReadOnlyList<double> StationsMm,
    IReadOnlyList<Pt> At
)
{
    /// <summary>So many stations at most, and at least; nearer than this nobody reads two.</summary>
    private const int Most = 9,
        Least = 3;

    private const double NearestMm = 60;

    /// <summary>L and R mean sides; I, J, O and Q are read as something else.</summary>
    private const string Letters = "ABCDEFGHKMNPSTUVWXYZ";

    /// <summary>Whether it runs along the vehicle rather than across it.</summary>
    public bool RunsAlong => Math.Abs(At[^1].Y - At[0].Y) > Math.Abs(At[^1].X - At[0].X);

    /// <summary>All lines of a body, in the order in which one walks round it.</summary>
    public static IReadOnlyList<GapLine> Of(Body body) => [.. body.ShutLines.Select((s, i) => Of(s, i))];

    private static GapLine Of(ShutLine line, int i)
    {
        var length = line.LengthCm * 10;
        var steps = Math.Clamp((int)(length / NearestMm), Least - 1, Most - 1);
        double[] shares = [.. Enumerable.Range(0, steps + 1).Select(k => (double)k / steps)];
        var at = line.PointsAt(shares);
        var side =
            line.Name.EndsWith(" L", StringComparison.Ordinal) ? PanelSide.Left
            : line.Name.EndsWith(" R", StringComparison.Ordinal) ? PanelSide.Right
            : PanelSide.Centre;
        var along = Math.Abs(at[^1].Y - at[0].Y) > Math.Abs(at[^1].X - at[0].X);
        // Along the vehicle from its front, across a side from the bottom up, across the middle from the left.
        var turned =
            along ? at[0].Y > at[^1].Y
            : side == PanelSide.Centre ? at[0].X > at[^1].X
            : Math.Abs(at[0].X) < Math.Abs(at[^1].X);
        return new(
            line.Name,
            LetterOf(i),
            NameOf(line.Name, side),
            side,
            along ? "front end"
                : side == PanelSide.Centre ? "left end"
                : "lower end",
            length,
            line.Between,
            [.. shares.Select(s => s * length)],
            turned ? [.. at.Reverse()] : at
        );
    }

    private static string NameOf(string key, PanelSide side)
    {
        var words = (side == PanelSide.Centre ? key : key[..^2]).Replace("/", " to ", StringComparison.Ordinal);
        return $"{char.ToUpperInvariant(words[0])}{words[1..]}{(side == PanelSide.Centre ? "" : $", {key[^1]}")}";
    }

    private static string LetterOf(int i) =>
        i < Letters.Length ? $"{Letters[i]}" : $"{Letters[i / Letters.Length - 1]}{Letters[i % Letters.Length]}";
}

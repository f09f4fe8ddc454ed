using System.Collections.Concurrent;
using FirstCoat.Core.Survey.Bodies;

namespace FirstCoat.Core.Survey;

/// <summary>The body styles that can be unfolded.</summary>
public enum BodyStyleKey { Coupe, Saloon, Roadster, Estate, Pickup, Van, OpenBody }

/// <summary>Stated dimensions of a body, in millimetres.</summary>
public sealed record BodyDimensions(int LengthMm, int WidthMm, int WheelbaseMm)
{
    /// <summary>What the style measures when nothing else is said.</summary>
    public static BodyDimensions Of(BodyStyleKey style) => BodySpec.Styles[style].Stated;

    /// <summary>Refuses dimensions that the style's panels cannot be stretched to.</summary>
    public void Check(BodyStyleKey style)
    {
        Refusal.When(!Enum.IsDefined(style), "style", "That body style is not known.");
        var own = Of(style);
        Near(LengthMm, own.LengthMm, "lengthMm", "length");
        Near(WidthMm, own.WidthMm, "widthMm", "width");
        Near(WheelbaseMm, own.WheelbaseMm, "wheelbaseMm", "wheelbase");
        Near(LengthMm - WheelbaseMm, own.LengthMm - own.WheelbaseMm, "wheelbaseMm", "length beyond the wheelbase");
    }

    private static void Near(int value, int own, string field, string word)
    {
        var (low, high) = ((int)Math.Ceiling(own * .88), (int)Math.Floor(own * 1.15));
        Refusal.When(value < low || value > high, field, $"For this style the {word} lies between {low:N0} and {high:N0} mm.");
    }
}

public enum PanelSide { Centre, Left, Right }

/// <summary>One panel of an unfolded body; paths are in centimetres.</summary>
/// <param name="Zones">Paths to clip to the panel, by name.</param>
public sealed record BodyPanel(string Key, string Name, PanelSide Side, string Path, IReadOnlyList<Pt> Polygon, IReadOnlyList<LabelBox> Labels, IReadOnlyDictionary<string, string> Zones)
{
    private static readonly string[] Hung = ["bonnet", "boot", "doorL", "doorR", "door2L", "door2R", "tailgate", "rdoorL", "rdoorR"];

    /// <summary>Whether a panel of this key hangs on hinges.</summary>
    public static bool Hangs(string key) => Hung.Contains(key);

    /// <summary>Square centimetres of the flat panel.</summary>
    public double AreaCm2 => Math.Abs(Outline.Area(Polygon));
}

/// <summary>A joint between two panels in which a gap is measured.</summary>
/// <param name="MeasureAt">Where on the curve, 0 to 1.</param>
public sealed record ShutLine(string Name, IReadOnlyList<Pt> Curve, IReadOnlyList<double> MeasureAt);

/// <summary>A lamp: drawn as an opening.</summary>
public sealed record Lamp(double X, double Y, double R, int Kind);

/// <summary>Creases and trim of a body, for drawing only.</summary>
public sealed record BodyDecor(IReadOnlyList<string> Dark, IReadOnlyList<string> Light, IReadOnlyList<Lamp> Lamps, IReadOnlyList<Pt> Bolts, IReadOnlyList<string> Handles, string Grille);

/// <summary>A body laid flat: centre column, then each side. Girth is true across, length is true along.</summary>
public sealed class Body
{
    internal Body(BodyStyleKey style, BodyDimensions dimensions, IReadOnlyList<BodyPanel> panels, IReadOnlyList<string> openings, IReadOnlyList<ShutLine> shutLines, BodyDecor decor, IReadOnlyList<(Pt Centre, double R)> arches)
    {
        (Style, Dimensions, Panels, Openings, ShutLines, Decor, Arches) = (style, dimensions, panels, openings, shutLines, decor, arches);
        var all = panels.SelectMany(p => p.Polygon).ToList();
        (MinX, MinY, MaxX, MaxY) = (all.Min(p => p.X), all.Min(p => p.Y), all.Max(p => p.X), all.Max(p => p.Y));
    }

    public BodyStyleKey Style { get; }
    public BodyDimensions Dimensions { get; }
    public IReadOnlyList<BodyPanel> Panels { get; }

    /// <summary>Glass and open places, as paths.</summary>
    public IReadOnlyList<string> Openings { get; }

    public IReadOnlyList<ShutLine> ShutLines { get; }
    public BodyDecor Decor { get; }

    /// <summary>Centres and radii of the wheel arches of the right side.</summary>
    public IReadOnlyList<(Pt Centre, double R)> Arches { get; }

    public double MinX { get; }
    public double MinY { get; }
    public double MaxX { get; }
    public double MaxY { get; }

    /// <summary>Bodies that were unfolded before: a shop has some dozens, and every one is asked for at each look.</summary>
    private static readonly ConcurrentDictionary<(BodyStyleKey Style, BodyDimensions Dimensions), Body> Unfolded = new();

    private const int MostUnfolded = 200;

    /// <summary>Unfolds a body of a style with these dimensions.</summary>
    /// <exception cref="Refusal">The dimensions do not suit the style.</exception>
    public static Body Unfold(BodyStyleKey style, BodyDimensions dimensions)
    {
        dimensions.Check(style);
        if (Unfolded.TryGetValue((style, dimensions), out var known))
        {
            return known;
        }

        var body = new BodyBuilder(style, BodySpec.Styles[style].Fit(dimensions)).Build(dimensions);
        if (Unfolded.Count < MostUnfolded)
        {
            Unfolded[(style, dimensions)] = body;
        }

        return body;
    }

    /// <summary>The name of a style in words.</summary>
    public static string NameOf(BodyStyleKey style) => BodySpec.Styles[style].Name;
}

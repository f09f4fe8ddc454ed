using System.Collections.Concurrent;

namespace FirstCoat.Core.Bodies;

/// <summary>The body styles that can be unfolded.</summary>
public enum BodyStyleKey
{
    Coupe,
    Saloon,
    Roadster,
    Estate,
    Pickup,
    Van,
    OpenBody,
    ThreeBox,
    Hatch,
    Wagon,
}

/// <summary>Stated dimensions of a body, in millimetres.</summary>
public sealed record BodyDimensions(int LengthMm, int WidthMm, int WheelbaseMm)
{
    /// <summary>What the style measures when nothing else is said.</summary>
    public static BodyDimensions Of(BodyStyleKey style) => BodySpec.Styles[style].Stated;

    /// <summary>The shortest and the longest vehicle that can be drawn, in millimetres.</summary>
    public const int Shortest = 2600,
        Longest = 7000;

    /// <summary>Shares of the style's own size within which each of its parts is stretched for itself.</summary>
    private const double Least = .88,
        Most = 1.15;

    /// <summary>Refuses dimensions that no vehicle has.</summary>
    /// <remarks>Rule of thumb: a vehicle is a quarter to three fifths as wide as long, and its wheelbase is about half
    /// to three quarters of its length.</remarks>
    public void Check(BodyStyleKey style) =>
        Refusal.Each(
            () => Refusal.When(!Enum.IsDefined(style), "style", "That body style is not known."),
            () => Between(LengthMm, Shortest, Longest, "lengthMm", "The length"),
            // A saloon's wings and a roadster's tail take up what is left beside them.
            () =>
                Between(
                    WidthMm,
                    Share(.23),
                    Share(
                        style switch
                        {
                            BodyStyleKey.Saloon => .50,
                            BodyStyleKey.Roadster => .48,
                            _ => .56,
                        }
                    ),
                    "widthMm",
                    Sized("width")
                ),
            () =>
                Between(
                    WheelbaseMm,
                    Share(.46),
                    Share(style == BodyStyleKey.Roadster ? .63 : .72),
                    "wheelbaseMm",
                    Sized("wheelbase")
                )
        );

    /// <summary>The length, or the nearest that a vehicle can have: its other limits are said with it.</summary>
    private int Length => Math.Clamp(LengthMm, Shortest, Longest);

    private int Share(double share) => (int)Math.Round(Length * share);

    private string Sized(string what) => $"The {what} of a vehicle {Length:N0} mm long";

    private static void Between(int value, int low, int high, string field, string what) =>
        Refusal.When(value < low || value > high, field, $"{what} must be between {low:N0} and {high:N0} mm.");

    internal BodyDimensions Times(double by) =>
        by == 1
            ? this
            : new((int)Math.Round(LengthMm * by), (int)Math.Round(WidthMm * by), (int)Math.Round(WheelbaseMm * by));

    /// <summary>Whether the style's own panels can be stretched to it.</summary>
    internal bool IsNear(BodyStyleKey style) => Ratios(style).All(r => r is >= Least and <= Most);

    /// <summary>By how much the style's own size is multiplied first: the middle of what its parts ask for.</summary>
    internal double ScaleOf(BodyStyleKey style)
    {
        var ratios = Ratios(style);
        return Math.Sqrt(ratios.Min() * ratios.Max());
    }

    private double[] Ratios(BodyStyleKey style)
    {
        var own = Of(style);
        return
        [
            (double)LengthMm / own.LengthMm,
            (double)WidthMm / own.WidthMm,
            (double)WheelbaseMm / own.WheelbaseMm,
            (double)(LengthMm - WheelbaseMm) / (own.LengthMm - own.WheelbaseMm),
        ];
    }
}

public enum PanelSide
{
    Centre,
    Left,
    Right,
}

/// <summary>One panel of an unfolded body; paths are in centimetres.</summary>
/// <param name="Zones">Paths to clip to the panel, by name.</param>
public sealed record BodyPanel(
    string Key,
    string Name,
    PanelSide Side,
    string Path,
    IReadOnlyList<Pt> Polygon,
    IReadOnlyList<LabelBox> Labels,
    IReadOnlyDictionary<string, string> Zones
)
{
    private static readonly string[] Hung =
    [
        "bonnet",
        "boot",
        "doorL",
        "doorR",
        "door2L",
        "door2R",
        "tailgate",
        "rdoorL",
        "rdoorR",
    ];

    /// <summary>Whether a panel of this key hangs on hinges.</summary>
    public static bool Hangs(string key) => Hung.Contains(key);

    /// <summary>Square centimetres of the flat panel.</summary>
    public double AreaCm2 => Math.Abs(Outline.Area(Polygon));
}

/// <summary>A joint between two panels in which a gap is measured.</summary>
/// <param name="MeasureAt">Where on the curve, 0 to 1.</param>
/// <param name="Between">Keys of the panels that it parts: two as a rule.</param>
public sealed record ShutLine(
    string Name,
    IReadOnlyList<Pt> Curve,
    IReadOnlyList<double> MeasureAt,
    IReadOnlyList<string> Between
)
{
    /// <summary>Points along the line, with how far each lies from its start, in centimetres.</summary>
    private IReadOnlyList<(Pt At, double Along)> Walked
    {
        get
        {
            var points = Curves.Sample([.. Curve], 2);
            var walked = new List<(Pt, double)> { (points[0], 0) };
            for (var i = 1; i < points.Length; i++)
            {
                walked.Add((points[i], walked[^1].Item2 + points[i - 1].To(points[i])));
            }

            return walked;
        }
    }

    /// <summary>How long it is, in centimetres.</summary>
    public double LengthCm => Walked[^1].Along;

    /// <summary>Points on the line at shares of its length, 0 to 1.</summary>
    public IReadOnlyList<Pt> PointsAt(IReadOnlyList<double> shares)
    {
        var walked = Walked;
        return [.. shares.Select(s => At(s * walked[^1].Along))];

        Pt At(double along)
        {
            var i = 1;
            while (i < walked.Count - 1 && walked[i].Along < along)
            {
                i++;
            }

            var ((a, from), (b, to)) = (walked[i - 1], walked[i]);
            var u = to > from ? Math.Clamp((along - from) / (to - from), 0, 1) : 0;
            return (a.X + (b.X - a.X) * u, a.Y + (b.Y - a.Y) * u);
        }
    }
}

/// <summary>A lamp: drawn as an opening.</summary>
public sealed record Lamp(double X, double Y, double R, int Kind);

/// <summary>Creases and trim of a body, for drawing only.</summary>
public sealed record BodyDecor(
    IReadOnlyList<string> Dark,
    IReadOnlyList<string> Light,
    IReadOnlyList<Lamp> Lamps,
    IReadOnlyList<Pt> Bolts,
    IReadOnlyList<string> Handles,
    string Grille
);

/// <summary>A body laid flat: centre column, then each side. Girth is true across, length is true along.</summary>
public sealed class Body
{
    internal Body(
        BodyStyleKey style,
        BodyDimensions dimensions,
        IReadOnlyList<BodyPanel> panels,
        IReadOnlyList<string> openings,
        IReadOnlyList<ShutLine> shutLines,
        BodyDecor decor,
        IReadOnlyList<(Pt Centre, double R)> arches
    )
    {
        (Style, Dimensions, Panels, Openings, ShutLines, Decor, Arches) = (
            style,
            dimensions,
            panels,
            openings,
            shutLines,
            decor,
            arches
        );
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

    /// <summary>Bodies that were unfolded before: a shop has some dozens, and every one is asked for at each
    /// look.</summary>
    private static readonly ConcurrentDictionary<(BodyStyleKey Style, BodyDimensions Dimensions), Body> Unfolded =
        new();

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

        var body = Make(style, dimensions);
        if (Unfolded.Count < MostUnfolded)
        {
            Unfolded[(style, dimensions)] = body;
        }

        return body;
    }

    /// <summary>
    /// Near the style's own size its parts are stretched each for itself; a vehicle of another size is drawn as one of
    /// about that size, with its proportions, and the whole is scaled.
    /// </summary>
    private static Body Make(BodyStyleKey style, BodyDimensions dimensions)
    {
        var by = dimensions.IsNear(style) ? 1 : dimensions.ScaleOf(style);
        var spec = BodySpec.Styles[style].Fit(dimensions.Times(1 / by));
        var body = new BodyBuilder(style, spec).Build(dimensions);
        return by == 1 ? body : body.Scaled(by);
    }

    private Body Scaled(double by)
    {
        Pt At(Pt p) => new(p.X * by, p.Y * by);
        List<Pt> All(IEnumerable<Pt> points) => [.. points.Select(At)];
        List<string> Each(IEnumerable<string> paths) => [.. paths.Select(p => Outline.Scaled(p, by))];
        return new(
            Style,
            Dimensions,
            [
                .. Panels.Select(p =>
                    All(p.Polygon) is var polygon && p.Side == PanelSide.Left
                        ? p with
                        {
                            Path = Outline.Scaled(p.Path, by),
                            Polygon = polygon,
                            Labels =
                            [
                                .. LabelRoom.Of([.. polygon.Select(q => q.Mirror())]).Select(l => l with { X = -l.X }),
                            ],
                            Zones = p.Zones.ToDictionary(z => z.Key, z => Outline.Scaled(z.Value, by)),
                        }
                        : p with
                        {
                            Path = Outline.Scaled(p.Path, by),
                            Polygon = polygon,
                            Labels = LabelRoom.Of(polygon),
                            Zones = p.Zones.ToDictionary(z => z.Key, z => Outline.Scaled(z.Value, by)),
                        }
                ),
            ],
            Each(Openings),
            [.. ShutLines.Select(s => s with { Curve = All(s.Curve) })],
            new(
                Each(Decor.Dark),
                Each(Decor.Light),
                [.. Decor.Lamps.Select(l => l with { X = l.X * by, Y = l.Y * by, R = l.R * by })],
                All(Decor.Bolts),
                Each(Decor.Handles),
                Outline.Scaled(Decor.Grille, by)
            ),
            [.. Arches.Select(a => (At(a.Centre), a.R * by))]
        );
    }

    /// <summary>The name of a style in words.</summary>
    public static string NameOf(BodyStyleKey style) => BodySpec.Styles[style].Name;
}

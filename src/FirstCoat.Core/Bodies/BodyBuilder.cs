using static FirstCoat.Core.Bodies.Curves;

namespace FirstCoat.Core.Bodies;

/// <summary>
/// Unfolds a body from its spec. Neighbours share one boundary curve and each panel is that ring moved inward by half
/// the joint, so panels tile and a joint has one width; the left side is the right one mirrored.
/// </summary>
internal sealed partial class BodyBuilder(BodyStyleKey style, BodySpec spec)
{
    // Half a joint, cm: hung or opening, bolted, welded or leaded, outer edge.
    private const double Shut = 1.35,
        Bolted = 1.0,
        Seam = .42,
        Free = 0;

    private readonly List<(string Key, string Name, bool Centre, Outline Outline)> _panels = [];
    private readonly List<Pt[]> _openings = [];
    private readonly List<Pt[]> _sideOpenings = [];
    private readonly List<(string Name, Pt[] Curve, double[] At, bool Side)> _shutLines = [];
    private readonly Dictionary<string, List<(string Name, Func<IReadOnlyList<Pt>, string> Path)>> _zones = [];
    private readonly List<string> _dark = [];
    private readonly List<string> _light = [];
    private readonly List<string> _sideDark = [];
    private readonly List<string> _sideLight = [];
    private readonly List<Lamp> _sideLamps = [];
    private readonly List<Pt> _sideBolts = [];
    private readonly List<(double X, double Y, double W, double H)> _sideHandles = [];
    private readonly Dictionary<string, Pt[]> _bows = spec.Lines.ToDictionary(l => l.Key, l => Bow(l.Value));

    private double Belt => spec.Belt;

    private double Out => spec.Out;

    /// <summary>How far out the wheel centres lie on the flat side.</summary>
    private double Axle => spec.Out + spec.Drop;

    private double FrontY => spec.Front.Y;

    private double FrontR => spec.Front.R;

    private double RearY => spec.Rear.Y;

    private double RearR => spec.Rear.R;

    // Settled on the way, used by what comes after.
    private List<Pt[]> _doorLines = [];
    private List<(double From, double To)> _doors = [];
    private Pt[] _lastDoorLine = [];
    private Pt[] _bonnetSide = [];
    private Pt[] _noseSide = [];
    private Pt[] _scuttleSide = [];
    private Pt[] _roofSide = [];
    private Pt[] _postFoot = [];
    private double _firstDoor;
    private double _lastDoor;

    public Body Build(BodyDimensions dimensions)
    {
        SettleFront();
        SettleDoors();
        if (spec.SeparateWings)
        {
            SeparateWing();
        }
        else
        {
            IntegralWing();
        }

        Doors();
        Sills();
        if (!spec.OpenTop)
        {
            Upper();
        }

        switch (spec.Tail)
        {
            case Tail.Boot or Tail.Open or Tail.Tailgate:
                BootTail();
                break;
            case Tail.Pickup:
                PickupTail();
                break;
            case Tail.Van:
                VanTail();
                break;
            default:
                BenchTail();
                break;
        }

        CentreDecor();
        var panels = MakePanels();
        return new(
            style,
            dimensions,
            panels,
            MakeOpenings(),
            MakeShutLines(panels),
            MakeDecor(),
            [((Axle, FrontY), FrontR), ((Axle, RearY), RearR)]
        );
    }

    private CrossLine Line(string key) => spec.Lines[key];

    private Pt End(string key) => spec.Lines[key].End;

    private Pt[] FrontArch() => Arc(Axle, FrontY, FrontR, -Math.PI / 2, -Math.PI * 1.5);

    private Pt[] RearArch() => Arc(Axle, RearY, RearR, -Math.PI / 2, -Math.PI * 1.5);

    private void Centre(string key, string name, double corner, params Edge[] edges) =>
        _panels.Add((key, name, true, Outline.Ring(edges, corner)));

    private void Side(string key, string name, double corner, params Edge[] edges) =>
        _panels.Add((key, name, false, Outline.Ring(edges, corner)));

    /// <summary>A panel of the centre column between two cross lines, with the same side left and right.</summary>
    private void Column(
        string key,
        string name,
        string from,
        string to,
        Pt[] side,
        double jointFrom,
        double jointTo,
        double jointSide
    ) =>
        Centre(
            key,
            name,
            2.4,
            new(_bows[from], jointFrom),
            new(side, jointSide),
            new(Reverse(_bows[to]), jointTo),
            new(Reverse(Mirror(side)), jointSide)
        );

    private void Gap(string name, Pt[] curve, double[] at, bool side = false) =>
        _shutLines.Add((name, curve, at, side));

    private void Zone(string panel, string name, double x0, double x1, double y0, double y1) =>
        AddZone(panel, name, p =>
        {
            var (left, right) = (Math.Max(x0, p.Min(q => q.X) - 1), Math.Min(x1, p.Max(q => q.X) + 1));
            var (top, bottom) = (Math.Max(y0, p.Min(q => q.Y) - 1), Math.Min(y1, p.Max(q => q.Y) + 1));
            return Outline.Path(
                Join(
                    Line(left, top, right, top),
                    Line(right, top, right, bottom),
                    Line(right, bottom, left, bottom),
                    Line(left, bottom, left, top)
                ),
                close: true
            );
        });

    private void ArchZone(string panel, double y, double r)
    {
        var (inner, outer) = (
            Arc(Axle, y, r, -Math.PI / 2, -Math.PI * 1.5),
            Arc(Axle, y, r + 9, -Math.PI * 1.5, -Math.PI / 2)
        );
        AddZone(panel, "arch lip", _ =>
            Outline.Path(Join(inner, Curves.Line(inner[^1], outer[0]), outer), close: true)
        );
    }

    private void AddZone(string panel, string name, Func<IReadOnlyList<Pt>, string> path)
    {
        if (!_zones.TryGetValue(panel, out var list))
        {
            _zones[panel] = list = [];
        }

        list.Add((name, path));
    }

    private static Pt[] Line(double x0, double y0, double x1, double y1) => Curves.Line((x0, y0), (x1, y1));

    private static string Stroke(double x0, double y0, double x1, double y1) =>
        $"M{Outline.Number(x0)},{Outline.Number(y0)}L{Outline.Number(x1)},{Outline.Number(y1)}";

    /// <summary>A crease: a dark line with its light beside it.</summary>
    private void SideCrease(double lightDx, params Pt[] pts)
    {
        _sideDark.Add(Outline.Path(Through(pts)));
        _sideLight.Add(Outline.Path(Through(pts.Select(p => new Pt(p.X + lightDx, p.Y)).ToArray())));
    }

    private void ArchCrease(double y, double r, double trim = .08) =>
        _sideDark.Add(Outline.Path(Arc(Axle, y, r, -Math.PI / 2 - trim, -Math.PI * 1.5 + trim)));

    private List<BodyPanel> MakePanels()
    {
        var made = new List<BodyPanel>();
        foreach (var (key, name, centre, outline) in _panels)
        {
            var polygon = outline.Polygon;
            var labels = LabelRoom.Of(polygon);
            var zones = (_zones.GetValueOrDefault(key) ?? []).ToDictionary(z => z.Name, z => z.Path(polygon));
            if (centre)
            {
                made.Add(new(key, name, PanelSide.Centre, outline.Path(), polygon, labels, zones));
                continue;
            }

            // Zones of the left side are given as the right ones: the drawing mirrors the panel with what is on it.
            made.Add(
                new(
                    key + "L",
                    "L " + name,
                    PanelSide.Left,
                    outline.Path(mirrored: true),
                    polygon.Select(p => p.Mirror()).ToList(),
                    labels.Select(l => l with { X = -l.X }).ToList(),
                    zones
                )
            );
            made.Add(new(key + "R", "R " + name, PanelSide.Right, outline.Path(), polygon, labels, zones));
        }

        return made;
    }

    private List<string> MakeOpenings() =>
        [
            .. _openings.Select(o => Outline.Path(o, close: true)),
            .. _sideOpenings.SelectMany(o =>
                new[] { Outline.Path(o, close: true), Outline.Path(Mirror(o), close: true) }
            ),
        ];

    private List<ShutLine> MakeShutLines(IReadOnlyList<BodyPanel> panels) =>
        _shutLines
            .SelectMany(s =>
                s.Side
                    ? [Shutting(s.Name + " L", Mirror(s.Curve), s.At), Shutting(s.Name + " R", s.Curve, s.At)]
                    : new[] { Shutting(s.Name, s.Curve, s.At) }
            )
            .ToList()
            .ConvertAll(l => l with { Between = Parted(l, panels) });

    private static ShutLine Shutting(string name, Pt[] curve, double[] at) => new(name, curve, at, []);

    /// <summary>The panels along a line: those whose edge is half a joint away in more than one place. A deck that is
    /// no panel of its own is none; a pair of doors under one roof is two.</summary>
    private static List<string> Parted(ShutLine line, IReadOnlyList<BodyPanel> panels)
    {
        const double Beside = 3;
        var along = line.PointsAt([.2, .35, .5, .65, .8]);
        return
        [
            .. panels.Where(p => along.Count(at => Outline.Distance(p.Polygon, at) < Beside) > 1).Select(p => p.Key),
        ];
    }

    private BodyDecor MakeDecor()
    {
        List<string> Both(List<string> paths) => [.. paths, .. paths.Select(MirrorPath)];
        var handles = _sideHandles
            .Select(h =>
                Outline.Path(
                    Join(
                        Line(h.X, h.Y, h.X + h.W, h.Y),
                        Line(h.X + h.W, h.Y, h.X + h.W, h.Y + h.H),
                        Line(h.X + h.W, h.Y + h.H, h.X, h.Y + h.H),
                        Line(h.X, h.Y + h.H, h.X, h.Y)
                    ),
                    close: true
                )
            )
            .ToList();
        return new(
            [.. _dark, .. Both(_sideDark)],
            [.. _light, .. Both(_sideLight)],
            [.. _sideLamps, .. _sideLamps.Select(l => l with { X = -l.X })],
            [.. _sideBolts, .. _sideBolts.Select(b => b.Mirror())],
            Both(handles),
            GrillePath()
        );
    }

    /// <summary>The path with every x negated; paths here hold only absolute "x,y" pairs.</summary>
    private static string MirrorPath(string path) =>
        System.Text.RegularExpressions.Regex.Replace(path, @"(-?[\d.]+),(-?[\d.]+)", m =>
            $"{(m.Groups[1].Value.StartsWith('-') ? m.Groups[1].Value[1..] : m.Groups[1].Value == "0" ? "0" : "-" + m.Groups[1].Value)},{m.Groups[2].Value}"
        );
}

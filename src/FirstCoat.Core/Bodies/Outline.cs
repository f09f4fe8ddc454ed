using System.Globalization;
using System.Text;

namespace FirstCoat.Core.Bodies;

/// <summary>An edge of a panel: the curve it shares with its neighbour, half the joint there, the corner after
/// it.</summary>
internal sealed record Edge(Pt[] Curve, double HalfJoint, double? Corner = null);

/// <summary>A closed outline as path commands, with its flattened polygon.</summary>
public sealed class Outline
{
    private readonly List<(char Command, Pt[] Points)> _commands;

    internal Outline(List<(char Command, Pt[] Points)> commands)
    {
        _commands = commands;
        Polygon = Flatten(commands);
    }

    /// <summary>The outline as a polygon.</summary>
    public IReadOnlyList<Pt> Polygon { get; }

    /// <summary>As an SVG path in centimetres, to a tenth of a millimetre.</summary>
    public string Path(bool mirrored = false)
    {
        var text = new StringBuilder();
        foreach (var (command, points) in _commands)
        {
            text.Append(command).AppendJoin(' ', points.Select(p => $"{Number(mirrored ? -p.X : p.X)},{Number(p.Y)}"));
        }

        return text.ToString();
    }

    /// <summary>An open or closed curve as an SVG path.</summary>
    internal static string Path(Pt[] curve, bool close = false)
    {
        var text = new StringBuilder($"M{Number(curve[0].X)},{Number(curve[0].Y)}");
        for (var k = 1; k + 2 < curve.Length; k += 3)
        {
            text.Append('C').AppendJoin(' ', curve[k..(k + 3)].Select(p => $"{Number(p.X)},{Number(p.Y)}"));
        }

        return close ? text.Append('Z').ToString() : text.ToString();
    }

    /// <summary>The same path, so many times as large; paths hold only absolute pairs.</summary>
    internal static string Scaled(string path, double by) =>
        System.Text.RegularExpressions.Regex.Replace(path, @"-?\d+(\.\d+)?", m =>
            Number(double.Parse(m.Value, CultureInfo.InvariantCulture) * by)
        );

    internal static string Number(double v)
    {
        var s = Math.Round(v, 2).ToString("0.##", CultureInfo.InvariantCulture);
        return s == "-0" ? "0" : s;
    }

    /// <summary>
    /// A panel from its ring of edges: each curve is moved inward by half its joint, neighbours are trimmed at their
    /// crossing and corners rounded. So panels tile, a joint has one width, and nothing overlaps.
    /// </summary>
    internal static Outline Ring(IReadOnlyList<Edge> edges, double corner = 2.4)
    {
        var sampled = edges.Select(e => Curves.Sample(e.Curve)).ToList();
        var turn = Area([.. sampled.SelectMany(e => e[..^1])]) > 0 ? 1 : -1;
        var moved = sampled.Zip(edges, (p, e) => Offset(p, e.HalfJoint, turn)).ToList();
        var n = moved.Count;
        for (var i = 0; i < n; i++)
        {
            var (a, b) = Trim(moved[i], moved[(i + 1) % n]);
            moved[i] = a;
            moved[(i + 1) % n] = b;
        }

        moved = moved.Select(Clean).ToList();
        var corners = moved.Select(p => p[^1]).ToList();
        var radii = new double[n];
        for (var i = 0; i < n; i++)
        {
            var (a, b) = (moved[i], moved[(i + 1) % n]);
            var bend = Math.Abs(Wrap(Heading(b[0], b[1]) - Heading(a[^2], a[^1])));
            radii[i] = bend < .3 ? 0 : edges[i].Corner ?? corner;
        }

        for (var i = 0; i < n; i++)
        {
            if (radii[i] > 0)
            {
                moved[i] = Shorten(moved[i], radii[i]);
                moved[(i + 1) % n] = Reversed(Shorten(Reversed(moved[(i + 1) % n]), radii[i]));
            }
        }

        for (var i = 0; i < n; i++)
        {
            var p = moved[i];
            if (p.Count > 3 && p[0].To(p[1]) < .45 * p[1].To(p[2]))
            {
                p.RemoveAt(1);
            }

            if (p.Count > 3 && p[^1].To(p[^2]) < .45 * p[^2].To(p[^3]))
            {
                p.RemoveAt(p.Count - 2);
            }
        }

        var commands = new List<(char, Pt[])> { ('M', [moved[0][0]]) };
        for (var i = 0; i < n; i++)
        {
            var p = moved[i];
            if (p.Count == 2)
            {
                commands.Add(('L', [p[1]]));
            }
            else
            {
                var c = Curves.Through([.. p]);
                for (var k = 1; k < c.Length; k += 3)
                {
                    commands.Add(('C', c[k..(k + 3)]));
                }
            }

            if (radii[i] > 0)
            {
                commands.Add(('Q', [corners[i], moved[(i + 1) % n][0]]));
            }
        }

        commands.Add(('Z', []));
        return new(commands);
    }

    /// <summary>How far a point lies from the nearest edge of a polygon.</summary>
    internal static double Distance(IReadOnlyList<Pt> polygon, Pt at)
    {
        var nearest = double.PositiveInfinity;
        for (var i = 0; i < polygon.Count; i++)
        {
            var (a, b) = (polygon[i], polygon[(i + 1) % polygon.Count]);
            var (dx, dy) = (b.X - a.X, b.Y - a.Y);
            var long2 = dx * dx + dy * dy;
            var u = long2 == 0 ? 0 : Math.Clamp(((at.X - a.X) * dx + (at.Y - a.Y) * dy) / long2, 0, 1);
            nearest = Math.Min(nearest, at.To((a.X + dx * u, a.Y + dy * u)));
        }

        return nearest;
    }

    /// <summary>Signed area of a polygon in square centimetres.</summary>
    public static double Area(IReadOnlyList<Pt> p)
    {
        var sum = 0.0;
        for (var i = 0; i < p.Count; i++)
        {
            var q = p[(i + 1) % p.Count];
            sum += p[i].X * q.Y - q.X * p[i].Y;
        }

        return sum / 2;
    }

    private static List<Pt> Flatten(List<(char Command, Pt[] Points)> commands)
    {
        var o = new List<Pt>();
        foreach (var (command, a) in commands)
        {
            if (command is 'M' or 'L')
            {
                o.Add(a[0]);
            }
            else if (command == 'C')
            {
                Pt[] c = [o[^1], .. a];
                o.AddRange(Enumerable.Range(1, 5).Select(i => Curves.At(c, i / 5.0)));
            }
            else if (command == 'Q')
            {
                var p = o[^1];
                o.AddRange(
                    new[] { .25, .5, .75, 1 }.Select(t =>
                        (Pt)
                            (
                                (1 - t) * (1 - t) * p.X + 2 * t * (1 - t) * a[0].X + t * t * a[1].X,
                                (1 - t) * (1 - t) * p.Y + 2 * t * (1 - t) * a[0].Y + t * t * a[1].Y
                            )
                    )
                );
            }
        }

        if (o.Count > 1 && o[0].To(o[^1]) < .05)
        {
            o.RemoveAt(o.Count - 1);
        }

        return WithoutFolds(o);
    }

    /// <summary>Where edges with different joints meet nearly in line, one can run back over the other by less than a
    /// millimetre or two: such a fold is cut off where it crosses itself.</summary>
    private static List<Pt> WithoutFolds(List<Pt> polygon)
    {
        const int mostPoints = 8;
        const double longest = .3;
        var p = polygon;
        for (var i = 0; i < p.Count; i++)
        {
            for (var span = 2; span <= mostPoints && span < p.Count - 2; span++)
            {
                Pt At(int k) => p[(i + k) % p.Count];
                if (
                    Cross(At(0), At(1), At(span), At(span + 1)) is { } hit
                    && Enumerable.Range(1, span).All(k => At(k).To(hit) < longest)
                )
                {
                    var gone = Enumerable.Range(2, span - 1).Select(k => (i + k) % p.Count).ToHashSet();
                    p[(i + 1) % p.Count] = hit;
                    p = [.. p.Where((_, k) => !gone.Contains(k))];
                    break;
                }
            }
        }

        return p;
    }

    private static double Heading(Pt a, Pt b) => Math.Atan2(b.Y - a.Y, b.X - a.X);

    private static double Wrap(double angle)
    {
        var a = (angle + Math.PI) % (2 * Math.PI);
        return (a < 0 ? a + 2 * Math.PI : a) - Math.PI;
    }

    private static List<Pt> Reversed(List<Pt> p)
    {
        var r = new List<Pt>(p);
        r.Reverse();
        return r;
    }

    private static List<Pt> Offset(Pt[] p, double by, int turn)
    {
        if (by == 0)
        {
            return [.. p];
        }

        var normals = new List<Pt>();
        for (var i = 0; i + 1 < p.Length; i++)
        {
            var length = p[i].To(p[i + 1]);
            length = length == 0 ? 1 : length;
            normals.Add((-(p[i + 1].Y - p[i].Y) / length * turn, (p[i + 1].X - p[i].X) / length * turn));
        }

        var o = new List<Pt>();
        for (var i = 0; i < p.Length; i++)
        {
            var (a, b) = (normals[Math.Max(i - 1, 0)], normals[Math.Min(i, normals.Count - 1)]);
            var (mx, my) = (a.X + b.X, a.Y + b.Y);
            var m = Math.Sqrt(mx * mx + my * my);
            m = m == 0 ? 1 : m;
            var k = Math.Min(m > .9 ? by * 2 / m : by, 2 * by);
            o.Add((p[i].X + mx / m * k, p[i].Y + my / m * k));
        }

        return o;
    }

    private static Pt? Cross(Pt a, Pt b, Pt c, Pt d, bool extended = false)
    {
        var (rx, ry, sx, sy) = (b.X - a.X, b.Y - a.Y, d.X - c.X, d.Y - c.Y);
        var den = rx * sy - ry * sx;
        if (Math.Abs(den) < 1e-9)
        {
            return null;
        }

        var t = ((c.X - a.X) * sy - (c.Y - a.Y) * sx) / den;
        var u = ((c.X - a.X) * ry - (c.Y - a.Y) * rx) / den;
        return extended || (t is >= -1e-9 and <= 1 + 1e-9 && u is >= -1e-9 and <= 1 + 1e-9)
            ? (a.X + t * rx, a.Y + t * ry)
            : null;
    }

    private static (List<Pt> A, List<Pt> B) Trim(List<Pt> a, List<Pt> b)
    {
        for (var i = a.Count - 2; i >= 0; i--)
        {
            for (var j = 0; j < b.Count - 1; j++)
            {
                if (Cross(a[i], a[i + 1], b[j], b[j + 1]) is { } hit)
                {
                    return ([.. a.Take(i + 1), hit], [hit, .. b.Skip(j + 1)]);
                }
            }
        }

        var bend = Math.Abs(Wrap(Heading(b[0], b[1]) - Heading(a[^2], a[^1])));
        // Nearly in line: never run on to a far crossing.
        var most = bend > .35 ? 8 : .8;
        if (Cross(a[^2], a[^1], b[0], b[1], extended: true) is { } p && p.To(a[^1]) < most && p.To(b[0]) < most)
        {
            // A meeting point short of an end takes the end's place: going on to it would double the edge back.
            static bool Short(Pt from, Pt end, Pt meeting) =>
                (end.X - from.X) * (meeting.X - end.X) + (end.Y - from.Y) * (meeting.Y - end.Y) < 0;
            return ([.. Short(a[^2], a[^1], p) ? a.SkipLast(1) : a, p], [p, .. Short(b[1], b[0], p) ? b.Skip(1) : b]);
        }

        if (a[^1].To(b[0]) > .05)
        {
            // Nearly in line with different joints: a short step.
            a = Shorten(a, 1.1);
            b = Reversed(Shorten(Reversed(b), 1.1));
        }

        return ([.. a, b[0]], b);
    }

    private static List<Pt> Clean(List<Pt> p)
    {
        var o = new List<Pt> { p[0] };
        for (var i = 1; i < p.Count; i++)
        {
            if (p[i].To(o[^1]) > .35)
            {
                o.Add(p[i]);
            }
            else if (i == p.Count - 1)
            {
                o[^1] = p[i];
            }
        }

        return o.Count > 1 ? o : [p[0], p[^1]];
    }

    /// <summary>The polyline shortened at its end by r, at most by 42 % of its length.</summary>
    private static List<Pt> Shorten(List<Pt> polyline, double r)
    {
        var p = new List<Pt>(polyline);
        var length = 0.0;
        for (var i = 0; i + 1 < p.Count; i++)
        {
            length += p[i].To(p[i + 1]);
        }

        r = Math.Min(r, length * .42);
        while (p.Count > 2 && p[^1].To(p[^2]) <= r)
        {
            r -= p[^1].To(p[^2]);
            p.RemoveAt(p.Count - 1);
        }

        var d = p[^1].To(p[^2]);
        var k = d == 0 ? 1 : Math.Max(0, (d - r) / d);
        p[^1] = (p[^2].X + (p[^1].X - p[^2].X) * k, p[^2].Y + (p[^1].Y - p[^2].Y) * k);
        return p;
    }
}

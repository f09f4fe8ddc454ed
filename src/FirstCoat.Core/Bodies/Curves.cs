namespace FirstCoat.Core.Bodies;

/// <summary>A point of an unfolded body: centimetres, x from the centre line (right positive), y from the
/// nose.</summary>
public readonly record struct Pt(double X, double Y)
{
    /// <summary>The same point of the other side.</summary>
    public Pt Mirror() => new(-X, Y);

    internal double To(Pt other) => Math.Sqrt((X - other.X) * (X - other.X) + (Y - other.Y) * (Y - other.Y));

    public static implicit operator Pt((double X, double Y) p) => new(p.X, p.Y);
}

/// <summary>Chains of cubic Beziers: 3n + 1 points.</summary>
internal static class Curves
{
    public static Pt[] Line(Pt p, Pt q) =>
        [p, (p.X + (q.X - p.X) / 3, p.Y + (q.Y - p.Y) / 3), (p.X + (q.X - p.X) * 2 / 3, p.Y + (q.Y - p.Y) * 2 / 3), q];

    public static Pt[] Join(params Pt[][] curves) =>
        curves[0].Concat(curves.Skip(1).SelectMany(c => c.Skip(1))).ToArray();

    /// <summary>A smooth curve through the points (Catmull-Rom, a sixth of the chord).</summary>
    public static Pt[] Through(params Pt[] pts)
    {
        var o = new List<Pt> { pts[0] };
        for (var i = 0; i < pts.Length - 1; i++)
        {
            var (a, b, c, d) = (pts[Math.Max(i - 1, 0)], pts[i], pts[i + 1], pts[Math.Min(i + 2, pts.Length - 1)]);
            o.Add((b.X + (c.X - a.X) / 6, b.Y + (c.Y - a.Y) / 6));
            o.Add((c.X - (d.X - b.X) / 6, c.Y - (d.Y - b.Y) / 6));
            o.Add(c);
        }

        return [.. o];
    }

    /// <summary>A true arc, split so that the cubic is within 0.03 % of the circle.</summary>
    public static Pt[] Arc(double cx, double cy, double r, double a0, double a1)
    {
        var n = Math.Max(1, (int)Math.Ceiling(Math.Abs(a1 - a0) / (Math.PI / 4)));
        var da = (a1 - a0) / n;
        var k = 4.0 / 3 * Math.Tan(da / 4);
        Pt At(double t) => (cx + r * Math.Cos(t), cy + r * Math.Sin(t));
        Pt Along(double t) => (-r * Math.Sin(t), r * Math.Cos(t));
        var o = new List<Pt> { At(a0) };
        for (var i = 0; i < n; i++)
        {
            var (a, b) = (a0 + da * i, a0 + da * (i + 1));
            var (p, q, u, v) = (At(a), At(b), Along(a), Along(b));
            o.Add((p.X + k * u.X, p.Y + k * u.Y));
            o.Add((q.X - k * v.X, q.Y - k * v.Y));
            o.Add(q);
        }

        return [.. o];
    }

    /// <summary>A cross line of the centre column, left to right.</summary>
    public static Pt[] Bow(CrossLine c)
    {
        Pt Control(double side) => (side * .66 * c.HalfWidth, c.Middle + (c.Side - c.Middle) * .29);
        return
        [
            (-c.HalfWidth, c.Side),
            Control(-1),
            (-.31 * c.HalfWidth, c.Middle),
            (0, c.Middle),
            (.31 * c.HalfWidth, c.Middle),
            Control(1),
            (c.HalfWidth, c.Side),
        ];
    }

    public static Pt[] Mirror(Pt[] c) => c.Select(p => p.Mirror()).ToArray();

    public static Pt[] Reverse(Pt[] c) => c.Reverse().ToArray();

    public static Pt[] RightHalf(Pt[] bow) => bow[(bow.Length / 2)..];

    public static Pt At(Pt[] c, double t)
    {
        var n = (c.Length - 1) / 3;
        var s = Math.Min((int)(t * n), n - 1);
        return Cubic(c, 3 * s, t * n - s);
    }

    public static Pt[] Sample(Pt[] c, double step = 6)
    {
        var o = new List<Pt>();
        for (var s = 0; s + 3 < c.Length; s += 3)
        {
            var (p0, p1, p2, p3) = (c[s], c[s + 1], c[s + 2], c[s + 3]);
            var length = p0.To(p1) + p1.To(p2) + p2.To(p3);
            var bend =
                Math.Abs((p3.X - p0.X) * (p1.Y - p0.Y) - (p3.Y - p0.Y) * (p1.X - p0.X))
                + Math.Abs((p3.X - p0.X) * (p2.Y - p0.Y) - (p3.Y - p0.Y) * (p2.X - p0.X));
            var k = bend < .01 * length ? 2 : Math.Max(2, (int)Math.Ceiling(length / step));
            for (var i = 0; i < k; i++)
            {
                o.Add(Cubic(c, s, (double)i / k));
            }
        }

        o.Add(c[^1]);
        return [.. o];
    }

    /// <summary>The stretch of a mostly lengthwise curve between two y.</summary>
    public static Pt[] Between(Pt[] c, double y0, double y1)
    {
        var pts = Sample(c, 4);
        Pt Cut(double y)
        {
            for (var i = 0; i + 1 < pts.Length; i++)
            {
                var (a, b) = (pts[i], pts[i + 1]);
                if ((a.Y - y) * (b.Y - y) <= 0 && a.Y != b.Y)
                {
                    return (a.X + (b.X - a.X) * (y - a.Y) / (b.Y - a.Y), y);
                }
            }

            return Math.Abs(pts[0].Y - y) < Math.Abs(pts[^1].Y - y) ? pts[0] : pts[^1];
        }

        var inside = pts.Where(p =>
            Math.Min(y0, y1) < p.Y && p.Y < Math.Max(y0, y1) && Math.Abs(p.Y - y0) > 1.5 && Math.Abs(p.Y - y1) > 1.5
        );
        if ((pts[0].Y < pts[^1].Y) != (y0 < y1))
        {
            inside = inside.Reverse();
        }

        return Through([Cut(y0), .. inside, Cut(y1)]);
    }

    private static Pt Cubic(Pt[] c, int s, double u)
    {
        var v = 1 - u;
        var (a, b, d, e) = (v * v * v, 3 * v * v * u, 3 * v * u * u, u * u * u);
        return (
            a * c[s].X + b * c[s + 1].X + d * c[s + 2].X + e * c[s + 3].X,
            a * c[s].Y + b * c[s + 1].Y + d * c[s + 2].Y + e * c[s + 3].Y
        );
    }
}

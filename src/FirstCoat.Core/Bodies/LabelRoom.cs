namespace FirstCoat.Core.Bodies;

/// <summary>Where words fit in a panel: the middle and the width of the widest box of so many lines, in
/// centimetres.</summary>
public sealed record LabelBox(int Lines, bool Turned, double X, double Y, double Width);

/// <summary>Finds the room for a label inside a polygon.</summary>
public static class LabelRoom
{
    /// <summary>Height of one line of a label, in centimetres of the body.</summary>
    public const double Line = 10.5;

    /// <summary>Upright boxes of one to three lines, and one line turned along the panel.</summary>
    public static IReadOnlyList<LabelBox> Of(IReadOnlyList<Pt> polygon)
    {
        var boxes = Enumerable.Range(1, 3).Select(n => Box(polygon, n, false)).ToList();
        boxes.Add(Box(polygon.Select(p => new Pt(p.Y, p.X)).ToList(), 1, true));
        return boxes;
    }

    /// <summary>The stretches of a horizontal line that lie inside a polygon.</summary>
    public static List<(double From, double To)> Spans(IReadOnlyList<Pt> p, double y)
    {
        var xs = new List<double>();
        for (var i = 0; i < p.Count; i++)
        {
            var (a, b) = (p[i], p[(i + 1) % p.Count]);
            if ((a.Y <= y) != (b.Y <= y))
            {
                xs.Add(a.X + (b.X - a.X) * (y - a.Y) / (b.Y - a.Y));
            }
        }

        xs.Sort();
        var spans = new List<(double, double)>();
        for (var i = 0; i + 1 < xs.Count; i += 2)
        {
            spans.Add((xs[i], xs[i + 1]));
        }

        return spans;
    }

    private static LabelBox Box(IReadOnlyList<Pt> p, int lines, bool turned)
    {
        var h = Line * lines;
        var (y0, y1) = (p.Min(q => q.Y), p.Max(q => q.Y));
        var best = (Width: 0.0, X: 0.0, Y: 0.0);
        for (var i = 0; i <= 28 && y1 - y0 > h; i++)
        {
            var y = y0 + h / 2 + (y1 - y0 - h) * i / 28;
            foreach (var (from, to) in Common(p, y, h))
            {
                var width = to - from - .035 * Math.Abs(y - (y0 + y1) / 2);
                if (width > best.Width)
                {
                    best = (width, (from + to) / 2, y);
                }
            }
        }

        return turned
            ? new(lines, true, Round(best.Y), Round(best.X), Round(best.Width))
            : new(lines, false, Round(best.X), Round(best.Y), Round(best.Width));
    }

    private static List<(double From, double To)> Common(IReadOnlyList<Pt> p, double y, double h)
    {
        List<(double From, double To)>? common = null;
        for (var j = 0; j <= 6; j++)
        {
            var spans = Spans(
                p,
                y
                    - h / 2
                    + h * j / 6
                    + (
                        j == 0 ? .01
                        : j == 6 ? -.01
                        : 0
                    )
            );
            common = common is null
                ? spans
                : common
                    .SelectMany(a => spans.Select(b => (Math.Max(a.From, b.From), Math.Min(a.To, b.To))))
                    .Where(s => s.Item2 > s.Item1)
                    .ToList();
        }

        return common ?? [];
    }

    private static double Round(double v) => Math.Round(v, 2);
}

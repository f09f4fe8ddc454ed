using CsCheck;
using FirstCoat.Core.Bodies;

namespace FirstCoat.Core.Tests.Survey;

/// <summary>Every style unfolds into panels that tile: nothing crosses, nothing overlaps, left mirrors right.</summary>
public sealed class BodyTests
{
    public static TheoryData<BodyStyleKey> Styles() => [.. Enum.GetValues<BodyStyleKey>()];

    private static Body Own(BodyStyleKey style) => Body.Unfold(style, BodyDimensions.Of(style));

    [Theory, MemberData(nameof(Styles))]
    public void No_path_crosses_itself_and_no_two_panels_overlap(BodyStyleKey style) => ShouldTile(Own(style), .5);

    [Fact]
    public void Two_hundred_cars_of_other_dimensions_tile_too()
    {
        var share = Gen.Double[.90, 1.10];
        Gen.Select(Gen.Enum<BodyStyleKey>(), share, share, share)
            .Sample(
                (style, length, width, wheelbase) =>
                {
                    var own = BodyDimensions.Of(style);
                    var overhang = (own.LengthMm - own.WheelbaseMm) * length;
                    var middle = own.WheelbaseMm * wheelbase;
                    ShouldTile(
                        Body.Unfold(style, new((int)(overhang + middle), (int)(own.WidthMm * width), (int)middle)),
                        1.5
                    );
                },
                iter: 200,
                threads: 1,
                seed: "0N0XIzNsQ0O2"
            );
    }

    [Fact]
    public void Vehicles_of_all_sizes_and_proportions_tile()
    {
        var share = Gen.Double[0, 1];
        Gen.Select(Gen.Enum<BodyStyleKey>(), Gen.Int[BodyDimensions.Shortest, BodyDimensions.Longest], share, share)
            .Sample(
                (style, length, width, wheelbase) =>
                {
                    var (widest, longest) = (
                        style switch
                        {
                            BodyStyleKey.Saloon => .495,
                            BodyStyleKey.Roadster => .475,
                            _ => .555,
                        },
                        style == BodyStyleKey.Roadster ? .625 : .715
                    );
                    var body = Body.Unfold(
                        style,
                        new(
                            length,
                            (int)(length * (.24 + (width * (widest - .24)))),
                            (int)(length * (.47 + (wheelbase * (longest - .47))))
                        )
                    );
                    ShouldTile(body, 1.5);
                    (body.MaxY - body.MinY).ShouldBe(length / 10.0, length / 10.0 * .06, "it is as long as was said");
                },
                iter: 120,
                threads: 2,
                seed: "0N0XIzNsQ0O2"
            );
    }

    [Fact]
    public void Edges_of_different_joints_that_meet_nearly_in_line_leave_no_fold() =>
        ShouldTile(Body.Unfold(BodyStyleKey.Hatch, new(6810, 1734, 4869)), 1.5);

    [Theory]
    [InlineData(BodyStyleKey.Coupe, 3900, 1560, 2400)]
    [InlineData(BodyStyleKey.Van, 5600, 1990, 3300)]
    [InlineData(BodyStyleKey.Saloon, 2980, 1320, 1840)]
    [InlineData(BodyStyleKey.Estate, 3300, 1410, 2040)]
    [InlineData(BodyStyleKey.Roadster, 3480, 1390, 2030)]
    [InlineData(BodyStyleKey.Pickup, 6900, 2100, 4400)]
    public void Real_sizes_are_drawn_with_labels_inside_and_their_arches_round(
        BodyStyleKey style,
        int length,
        int width,
        int wheelbase
    )
    {
        var body = Body.Unfold(style, new(length, width, wheelbase));
        ShouldTile(body, .5);
        (body.Arches[1].Centre.Y - body.Arches[0].Centre.Y).ShouldBe(wheelbase / 10.0, wheelbase / 10.0 * .005);
        LabelsLieInside(body);
        body.Panels.Where(p => p.Side == PanelSide.Left)
            .ToList()
            .ForEach(p =>
                body.Panels.Single(q => q.Key == p.Key[..^1] + "R")
                    .Polygon.Select(q => q.Mirror())
                    .ShouldBe(p.Polygon, p.Name)
            );
    }

    [Theory]
    [InlineData(2599, 1400, 1500, "lengthMm")]
    [InlineData(7001, 2000, 4000, "lengthMm")]
    [InlineData(4000, 900, 2400, "widthMm")]
    [InlineData(4000, 1600, 3100, "wheelbaseMm")]
    public void What_no_vehicle_measures_is_refused_at_its_field(int length, int width, int wheelbase, string field) =>
        Should
            .Throw<Refusal>(() => new BodyDimensions(length, width, wheelbase).Check(BodyStyleKey.Coupe))
            .Field.ShouldBe(field);

    [Theory, MemberData(nameof(Styles))]
    public void The_left_side_is_the_right_one_mirrored(BodyStyleKey style)
    {
        var body = Own(style);
        var left = body.Panels.Where(p => p.Side == PanelSide.Left).ToList();
        left.ShouldNotBeEmpty();
        foreach (var panel in left)
        {
            var right = body.Panels.Single(p => p.Key == panel.Key[..^1] + "R");
            panel.Polygon.ShouldBe(right.Polygon.Select(p => new Pt(-p.X, p.Y)));
            Numbers(panel.Path).ShouldBe(Numbers(right.Path).Select((v, i) => i % 2 == 0 ? -v : v));
        }
    }

    [Theory, MemberData(nameof(Styles))]
    public void Arches_are_circles(BodyStyleKey style)
    {
        var body = Own(style);
        foreach (var (centre, r) in body.Arches)
        {
            var near = body
                .Panels.Where(p => p.Side == PanelSide.Right)
                .SelectMany(p => p.Polygon)
                .Where(p =>
                    p.X < centre.X - 3 && Math.Abs(Math.Sqrt(Square(p.X - centre.X) + Square(p.Y - centre.Y)) - r) < 2
                )
                .ToList();
            near.Count.ShouldBeGreaterThan(10);
            near.Max(p => Math.Abs(Math.Sqrt(Square(p.X - centre.X) + Square(p.Y - centre.Y)) - r))
                .ShouldBeLessThan(.3);
        }
    }

    [Theory, MemberData(nameof(Styles))]
    public void Labels_lie_inside_their_panels(BodyStyleKey style) => LabelsLieInside(Own(style));

    private static void LabelsLieInside(Body body)
    {
        foreach (var panel in body.Panels)
        {
            foreach (var box in panel.Labels.Where(b => b.Width > 0))
            {
                var (w, h) = box.Turned ? (LabelRoom.Line, box.Width) : (box.Width, LabelRoom.Line * box.Lines);
                foreach (var (sx, sy) in new[] { (-.48, -.48), (.48, -.48), (-.48, .48), (.48, .48), (0, 0) })
                {
                    LabelRoom
                        .Spans(panel.Polygon, box.Y + sy * h)
                        .Any(s => s.From - .05 <= box.X + sx * w && box.X + sx * w <= s.To + .05)
                        .ShouldBeTrue($"{panel.Name}, {box}");
                }
            }
        }
    }

    [Theory, MemberData(nameof(Styles))]
    public void Lengths_and_areas_follow_the_stated_dimensions(BodyStyleKey style)
    {
        var own = BodyDimensions.Of(style);
        var plain = Own(style);
        var stretched = Body.Unfold(
            style,
            new(own.LengthMm + own.WheelbaseMm / 20, own.WidthMm * 105 / 100, own.WheelbaseMm * 105 / 100)
        );
        foreach (var body in new[] { plain, stretched })
        {
            ((body.Arches[1].Centre.Y - body.Arches[0].Centre.Y) * 10).ShouldBe(
                body.Dimensions.WheelbaseMm,
                body.Dimensions.WheelbaseMm * .005
            );
            var centre = body.Panels.Where(p => p.Side == PanelSide.Centre).SelectMany(p => p.Polygon).ToList();
            ((centre.Max(p => p.Y) - centre.Min(p => p.Y)) * 10).ShouldBe(
                body.Dimensions.LengthMm,
                body.Dimensions.LengthMm * .05
            );
        }

        // Girth grows with the width, and area with girth times length.
        (stretched.MaxX / plain.MaxX).ShouldBe(1.05, .05);
        foreach (var key in plain.Panels.Select(p => p.Key).Where(k => k is "bonnet" or "doorL" or "roof"))
        {
            var (a, b) = (plain.Panels.Single(p => p.Key == key), stretched.Panels.Single(p => p.Key == key));
            double Long(BodyPanel p) => p.Polygon.Max(q => q.Y) - p.Polygon.Min(q => q.Y);
            (b.AreaCm2 / a.AreaCm2).ShouldBe(1.05 * Long(b) / Long(a), .05, key);
        }
    }

    [Theory, MemberData(nameof(Styles))]
    public void Panels_have_names_and_keys_of_their_own(BodyStyleKey style)
    {
        var body = Own(style);
        body.Panels.Select(p => p.Key).ShouldBeUnique();
        body.Panels.Select(p => p.Name).ShouldBeUnique();
        body.Panels.Count.ShouldBeGreaterThan(13);
        body.ShutLines.ShouldNotBeEmpty();
        body.Openings.ShouldNotBeEmpty();
    }

    private static double Square(double v) => v * v;

    private static List<double> Numbers(string path) =>
        System
            .Text.RegularExpressions.Regex.Matches(path, @"-?\d+\.?\d*")
            .Select(m => double.Parse(m.Value, System.Globalization.CultureInfo.InvariantCulture))
            .ToList();

    private static void ShouldTile(Body body, double step)
    {
        foreach (var panel in body.Panels.Where(p => p.Side != PanelSide.Left))
        {
            SelfCrossings(panel.Polygon).ShouldBeEmpty($"{body.Style} {body.Dimensions}: {panel.Name} crosses itself");
        }

        Overlaps(body.Panels, step).ShouldBeEmpty($"{body.Style} {body.Dimensions}");
    }

    private static List<(Pt From, Pt To, Pt Across, Pt AcrossTo)> SelfCrossings(IReadOnlyList<Pt> p)
    {
        var (n, crossings) = (p.Count, new List<(Pt From, Pt To, Pt Across, Pt AcrossTo)>());
        for (var i = 0; i < n; i++)
        {
            var (a, b) = (p[i], p[(i + 1) % n]);
            var (low, high) = (Math.Min(a.Y, b.Y), Math.Max(a.Y, b.Y));
            for (var j = i + 2; j < n; j++)
            {
                var (c, d) = (p[j], p[(j + 1) % n]);
                if (
                    Math.Min(c.Y, d.Y) <= high
                    && low <= Math.Max(c.Y, d.Y)
                    && !(i == 0 && j == n - 1)
                    && Cross(p[i], p[(i + 1) % n], p[j], p[(j + 1) % n])
                )
                {
                    crossings.Add((p[i], p[(i + 1) % n], p[j], p[(j + 1) % n]));
                }
            }
        }

        return crossings;
    }

    private static bool Cross(Pt a, Pt b, Pt c, Pt d)
    {
        var (rx, ry, sx, sy) = (b.X - a.X, b.Y - a.Y, d.X - c.X, d.Y - c.Y);
        var den = rx * sy - ry * sx;
        if (Math.Abs(den) < 1e-12)
        {
            return false;
        }

        var (t, u) = (((c.X - a.X) * sy - (c.Y - a.Y) * sx) / den, ((c.X - a.X) * ry - (c.Y - a.Y) * rx) / den);
        var (x, y) = (a.X + t * rx, a.Y + t * ry);
        return t is > 0 and < 1
            && u is > 0 and < 1
            && Math.Min(Square(x - a.X) + Square(y - a.Y), Square(x - b.X) + Square(y - b.Y)) > .0004;
    }

    /// <summary>Scan lines across the body: the length that two panels cover together, summed to square
    /// centimetres.</summary>
    private static List<string> Overlaps(IReadOnlyList<BodyPanel> panels, double step)
    {
        var found = new Dictionary<string, double>();
        var reach = panels.Select(p => (Panel: p, From: p.Polygon.Min(q => q.Y), To: p.Polygon.Max(q => q.Y))).ToList();
        for (var y = reach.Min(r => r.From) + .13; y < reach.Max(r => r.To); y += step)
        {
            var spans = reach
                .Where(r => r.From <= y && y <= r.To)
                .Select(r => r.Panel)
                .SelectMany(p => LabelRoom.Spans(p.Polygon, y).Select(s => (s.From, s.To, p.Key)))
                .OrderBy(s => s.From)
                .ToList();
            for (var i = 0; i < spans.Count; i++)
            {
                for (var j = i + 1; j < spans.Count && spans[j].From < spans[i].To; j++)
                {
                    var pair =
                        string.CompareOrdinal(spans[i].Key, spans[j].Key) < 0
                            ? $"{spans[i].Key}/{spans[j].Key}"
                            : $"{spans[j].Key}/{spans[i].Key}";
                    found[pair] =
                        found.GetValueOrDefault(pair) + (Math.Min(spans[i].To, spans[j].To) - spans[j].From) * step;
                }
            }
        }

        return found.Where(f => f.Value > .3).Select(f => $"{f.Key} {f.Value:0.0} cm2").ToList();
    }
}

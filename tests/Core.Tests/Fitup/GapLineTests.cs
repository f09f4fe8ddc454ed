using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;

namespace FirstCoat.Core.Tests.Fitup;

/// <summary>The lines of every body style: named, lettered, long as they are, between the panels they part.</summary>
public sealed class GapLineTests
{
    private static IReadOnlyList<GapLine> Lines(BodyStyleKey style) =>
        GapLine.Of(Body.Unfold(style, BodyDimensions.Of(style)));

    public static TheoryData<BodyStyleKey> Styles => [.. Enum.GetValues<BodyStyleKey>()];

    [Theory]
    [MemberData(nameof(Styles))]
    public void Every_line_of_every_style_parts_two_panels_and_reads_from_end_to_end(BodyStyleKey style)
    {
        var body = Body.Unfold(style, BodyDimensions.Of(style));
        var lines = GapLine.Of(body);
        lines.ShouldNotBeEmpty();
        lines.Select(l => l.Letter).ShouldBeUnique();
        lines.Select(l => l.Name).ShouldBeUnique();
        lines.ShouldAllBe(l => !l.Letter.Intersect("IJLOQR").Any());
        foreach (var line in lines)
        {
            // A deck that is no panel of its own leaves one; two doors under one roof make three.
            line.Between.Distinct().Count().ShouldBeInRange(1, 3, line.Name);
            (
                line.Between.Count == 2 || line.Name is "Deck to boot" or "Roof to rear doors" or "Rear doors to step"
            ).ShouldBeTrue($"{line.Name}: {string.Join(" ", line.Between)}");
            line.LengthMm.ShouldBeInRange(100, 2600, line.Name);
            line.StationsMm.Count.ShouldBeInRange(3, 9, line.Name);
            line.At.Count.ShouldBe(line.StationsMm.Count);
            line.StationsMm[0].ShouldBe(0);
            line.StationsMm[^1].ShouldBe(line.LengthMm, 1e-9);
            // At a station its panels are half a joint away.
            var polygons = line.Between.Select(k => body.Panels.Single(p => p.Key == k)).ToList();
            foreach (var at in line.At.Skip(1).SkipLast(1))
            {
                polygons
                    .Count(p => Distance(p.Polygon, at) < 6)
                    .ShouldBeGreaterThanOrEqualTo(Math.Min(2, polygons.Count), line.Name);
            }

            var sides = polygons.Select(p => p.Side).Where(s => s != PanelSide.Centre).ToHashSet();
            sides.ShouldBe(line.Side == PanelSide.Centre ? sides : [line.Side], line.Name);
        }

        // Each left line has its counterpart, as long and between the same panels of the other side.
        foreach (var left in lines.Where(l => l.Side == PanelSide.Left))
        {
            var right = lines.Single(l => l.Key == left.Key[..^1] + "R");
            right.LengthMm.ShouldBe(left.LengthMm, 1e-6);
            right.From.ShouldBe(left.From);
            right.At.Select(p => p.Mirror()).Zip(left.At).ShouldAllBe(p => Apart(p.First, p.Second) < 1e-6);
        }
    }

    private static double Apart(Pt a, Pt b) => Math.Sqrt((a.X - b.X) * (a.X - b.X) + (a.Y - b.Y) * (a.Y - b.Y));

    /// <summary>To the nearest of many points along the edge: another way than the code's.</summary>
    private static double Distance(IReadOnlyList<Pt> polygon, Pt at) =>
        polygon
            .Zip([.. polygon.Skip(1), polygon[0]])
            .SelectMany(e =>
                Enumerable
                    .Range(0, 40)
                    .Select(i => new Pt(
                        e.First.X + (e.Second.X - e.First.X) * i / 40,
                        e.First.Y + (e.Second.Y - e.First.Y) * i / 40
                    ))
            )
            .Min(p => Apart(p, at));

    [Fact]
    public void A_coupe_has_the_lines_that_one_walks_round()
    {
        var lines = Lines(BodyStyleKey.Coupe);
        lines
            .Select(l => $"{l.Letter} {l.Name}: {string.Join(" ", l.Between.Order())}")
            .ShouldBe([
                "A Nose to bonnet: bonnet nose",
                "B Bonnet to scuttle: bonnet scuttle",
                "C Bonnet to wing, L: bonnet wingL",
                "D Bonnet to wing, R: bonnet wingR",
                "E Wing to door, L: doorL wingL",
                "F Wing to door, R: doorR wingR",
                "G Door to sill, L: doorL sillL",
                "H Door to sill, R: doorR sillR",
                "K Deck to boot: boot",
                "M Boot to quarter, L: boot quarterL",
                "N Boot to quarter, R: boot quarterR",
                "P Boot to tail: boot tail",
                "S Door to quarter, L: doorL quarterL",
                "T Door to quarter, R: doorR quarterR",
            ]);
        var sill = lines.Single(l => l.Key == "door/sill R");
        (sill.From, sill.StationsMm.Count).ShouldBe(("front end", 9));
        sill.At[0].Y.ShouldBeLessThan(sill.At[^1].Y);
        lines.Single(l => l.Key == "wing/door R").From.ShouldBe("lower end");
        lines.Single(l => l.Key == "nose/bonnet").From.ShouldBe("left end");
    }
}

using CsCheck;
using FirstCoat.Core.Fitup;

namespace FirstCoat.Core.Tests.Fitup;

/// <summary>Measured points laid on a reference sheet, the bent ones among them, and the plane in the middle of a
/// body.</summary>
public sealed class DatumTests
{
    private static readonly Point[] Sheet =
    [
        new(0, 0, 0),
        new(2600, 0, 40),
        new(2600, 1300, 40),
        new(0, 1300, 0),
        new(1200, 650, 480),
    ];

    private static readonly Gen<double> Metre = Gen.Double[-1000, 1000];
    private static readonly Gen<Point> AnyPoint = Gen.Select(Metre, Metre, Metre, (x, y, z) => new Point(x, y, z));

    /// <summary>A turn about each axis, one after the other, and a shift.</summary>
    private static readonly Gen<Func<Point, Point>> AnyMove = Gen.Select(
        Gen.Double[-3, 3],
        Gen.Double[-3, 3],
        Gen.Double[-3, 3],
        AnyPoint,
        (a, b, c, shift) =>
            (Func<Point, Point>)(
                p =>
                {
                    p = new(p.X * Math.Cos(a) - p.Y * Math.Sin(a), p.X * Math.Sin(a) + p.Y * Math.Cos(a), p.Z);
                    p = new(p.X, p.Y * Math.Cos(b) - p.Z * Math.Sin(b), p.Y * Math.Sin(b) + p.Z * Math.Cos(b));
                    p = new(p.X * Math.Cos(c) + p.Z * Math.Sin(c), p.Y, p.Z * Math.Cos(c) - p.X * Math.Sin(c));
                    return p + shift;
                }
            )
    );

    private static string Refused(Action ask) => Should.Throw<Refusal>(ask).Field;

    private static void Near(Point a, Point b, double within = 1e-6) => (a - b).Length.ShouldBeLessThan(within);

    [Fact]
    public void A_quarter_turn_is_taken_back()
    {
        var fit = RigidFit.Of(
            [new(10, 20, 30), new(10, 23, 30), new(6, 20, 30)],
            [new(0, 0, 0), new(3, 0, 0), new(0, 4, 0)]
        );
        fit.RmsMm.ShouldBe(0, 1e-9);
        Near(fit.Land(new(10, 23, 30)), new(3, 0, 0));
    }

    [Fact]
    public void However_both_lie_what_is_off_is_off_by_as_much() =>
        Gen.Select(AnyPoint.List[4, 9], AnyPoint.List[9, 9], AnyMove, AnyMove)
            .Sample(
                (reference, noise, turn, other) =>
                {
                    var measured = reference.Zip(noise, (r, n) => r + 0.005 * n).ToList();
                    if (RigidFit.IsOnLine(reference) || RigidFit.IsOnLine(measured))
                    {
                        return;
                    }

                    var fit = RigidFit.Of(measured, reference);
                    var moved = RigidFit.Of([.. measured.Select(turn)], [.. reference.Select(other)]);
                    moved.RmsMm.ShouldBe(fit.RmsMm, 1e-6);
                    foreach (var (a, b) in fit.Residuals.Zip(moved.Residuals))
                    {
                        b.Length.ShouldBe(a.Length, 1e-5);
                    }

                    // No small turn or shift of it does better.
                    double Squares(Func<Point, Point> also) =>
                        measured.Zip(reference, (m, r) => also(fit.Land(m)) - r).Sum(x => x.Dot(x));
                    var least = Squares(p => p);
                    Squares(p => p + new Point(0.01, 0, 0)).ShouldBeGreaterThan(least - 1e-9);
                    Squares(p => new(p.X - 1e-5 * p.Y, p.Y + 1e-5 * p.X, p.Z)).ShouldBeGreaterThan(least - 1e-6);
                },
                iter: 300
            );

    [Fact]
    public void A_mirrored_body_is_not_turned_into_the_reference()
    {
        var fit = RigidFit.Of([.. Sheet.Select(p => p with { Y = -p.Y })], Sheet);
        fit.RmsMm.ShouldBeGreaterThan(50);
        var r = fit.Rotation;
        (
            r[0][0] * (r[1][1] * r[2][2] - r[1][2] * r[2][1])
            - r[0][1] * (r[1][0] * r[2][2] - r[1][2] * r[2][0])
            + r[0][2] * (r[1][0] * r[2][1] - r[1][1] * r[2][0])
        ).ShouldBe(1, 1e-9, "a turn, never a mirror");
    }

    [Fact]
    public void Points_that_say_too_little_are_refused()
    {
        Refused(() => RigidFit.Of(Sheet[..2], Sheet[..2])).ShouldBe("measured");
        Refused(() => RigidFit.Of(Sheet, Sheet[..4])).ShouldBe("reference");
        Point[] line = [new(0, 0, 0), new(1, 1, 1), new(2, 2, 2)];
        Refused(() => RigidFit.Of(line, Sheet[..3])).ShouldBe("measured");
        Refused(() => RigidFit.Of(Sheet[..3], line)).ShouldBe("reference");
        Refused(() => RigidFit.Of([line[0], line[0], line[0]], Sheet[..3])).ShouldBe("measured");
    }

    [Fact]
    public void The_one_bent_point_of_five_is_found_with_how_far_it_is_off() =>
        Gen.Select(AnyMove, Gen.Int[0, 4])
            .Sample(
                (move, bent) =>
                {
                    var measured = Sheet
                        .Select((p, i) => i == bent ? p + new Point(0, 0, 12) : p)
                        .Select(move)
                        .ToList();
                    var found = BentPoints.Of(measured, Sheet, 1)!;
                    found.Bent.ShouldBe([bent]);
                    found.Residuals[bent].Length.ShouldBe(12, 1e-6);
                    Near(found.Residuals[bent], new(0, 0, 12));
                    found.Fit.RmsMm.ShouldBe(0, 1e-6);
                },
                iter: 60
            );

    [Fact]
    public void Where_no_more_than_half_agree_nothing_is_said()
    {
        Point[] bent = [new(0, 0, 0), new(30, 0, 0), new(0, -45, 20), new(0, 0, 60), new(-25, 10, -80)];
        BentPoints.Of([.. Sheet.Zip(bent, (p, b) => p + b)], Sheet, 0.5).ShouldBeNull();
        BentPoints.Of(Sheet, Sheet, 0.5)!.Bent.ShouldBeEmpty();
        Refused(() => BentPoints.Of(Sheet, Sheet, 0)).ShouldBe("toleranceMm");
        Point[] many = [.. Enumerable.Range(0, 13).Select(i => new Point(i * i, i * 7 % 5, i))];
        Refused(() => BentPoints.Of(many, many, 1)).ShouldBe("measured");
    }

    private static readonly PointPair[] Pairs =
    [
        new(new(0, 700, 0), new(0, -700, 0)),
        new(new(1200, 640, 300), new(1200, -640, 300)),
        new(new(2500, 710, 80), new(2500, -710, 80)),
        new(new(1900, 520, 900), new(1900, -520, 900)),
    ];

    [Fact]
    public void The_middle_lies_between_both_sides()
    {
        var further = Pairs.Select(p => p with { Left = p.Left + new Point(0, 10, 0) }).ToList();
        var plane = MirrorPlane.Of(further, [new(800, 5, 200)]);
        plane.DistanceMm.ShouldBe(5, 1e-9);
        plane.RmsMm.ShouldBe(0, 1e-9);
        Near(plane.Normal, new(0, 1, 0));
        plane.CentreOffMm.ShouldHaveSingleItem().ShouldBe(0, 1e-9);
        // A point of the centre line that lies to the left draws the plane after it, but not all the way.
        var drawn = MirrorPlane.Of(further, [new(800, 7, 200)]);
        drawn.CentreOffMm.ShouldHaveSingleItem().ShouldBeInRange(0.1, 2);
        drawn.RmsMm.ShouldBeGreaterThan(0.1);
    }

    [Fact]
    public void Read_from_the_other_side_everything_is_mirrored() =>
        Gen.Select(AnyPoint.List[4, 4], AnyMove)
            .Sample(
                (noise, move) =>
                {
                    var pairs = Pairs
                        .Zip(noise, (p, n) => new PointPair(move(p.Left + 0.01 * n), move(p.Right)))
                        .ToList();
                    var plane = MirrorPlane.Of(pairs, []);
                    var swapped = MirrorPlane.Of([.. pairs.Select(p => new PointPair(p.Right, p.Left))], []);
                    Near(swapped.Normal, -1 * plane.Normal);
                    swapped.RmsMm.ShouldBe(plane.RmsMm, 1e-6);
                    // Mirrored twice it is where it was.
                    Near(plane.Mirrored(plane.Mirrored(pairs[0].Left)), pairs[0].Left);
                },
                iter: 200
            );

    [Fact]
    public void A_middle_that_is_not_one_plane_is_refused()
    {
        Refused(() => MirrorPlane.Of(Pairs[..1], [])).ShouldBe("pairs");
        // Left and right on one spot each, and nothing that says how the plane is turned about that line.
        var point = new PointPair(new(0, 5, 0), new(0, 5, 0));
        Refused(() => MirrorPlane.Of([point, point], [])).ShouldBe("pairs");
    }
}

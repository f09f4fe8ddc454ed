using CsCheck;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;
using NodaTime;

namespace FirstCoat.Core.Tests.Fitup;

/// <summary>A shell laid on its sheet: what is bent, what moved, where its middle is, whatever frame it was read
/// in.</summary>
public sealed class DatumSheetTests
{
    private static readonly Instant Noon = Instant.FromUtc(2026, 3, 5, 12, 0);

    /// <summary>Six pairs: x to the rear, y to the left, z up.</summary>
    private static readonly (string Letter, double X, double Y, double Z)[] Pairs =
    [
        ("A", -500, 400, 100),
        ("B", 600, 420, 180),
        ("C", 800, 640, 600),
        ("D", 2000, 500, 150),
        ("E", 3000, 450, 300),
        ("F", 2300, 650, 900),
    ];

    private static DatumSheet Sheet() =>
        new()
        {
            Id = Guid.NewGuid(),
            BuildId = Guid.NewGuid(),
            Drawing = "FS 12",
            Points =
            [
                .. Pairs.SelectMany(p =>
                    new[]
                    {
                        new DatumPoint(p.Letter, PanelSide.Left, "", At(p.X, p.Y, p.Z)),
                        new DatumPoint(p.Letter, PanelSide.Right, "", At(p.X, -p.Y, p.Z)),
                    }
                ),
            ],
        };

    private static TypedPoint At(double x, double y, double z) =>
        new((decimal)Math.Round(x, 6), (decimal)Math.Round(y, 6), (decimal)Math.Round(z, 6), LengthUnit.Mm);

    /// <summary>The shell turned by an angle about an upright axis and shifted, as it stands on a jig.</summary>
    private static Point Standing(Point p, double angle, Point shift) =>
        new Point(p.X * Math.Cos(angle) - p.Y * Math.Sin(angle), p.X * Math.Sin(angle) + p.Y * Math.Cos(angle), p.Z)
        + shift;

    private static List<DatumReading> Read(
        DatumSheet sheet,
        DatumRound round,
        Func<DatumPoint, Point> where,
        Func<DatumPoint, bool>? which = null
    ) =>
        [
            .. sheet
                .Points.Where(p => which?.Invoke(p) ?? true)
                .Select(p => new DatumReading
                {
                    Id = Guid.NewGuid(),
                    BuildId = sheet.BuildId,
                    Point = p.Key,
                    Round = round,
                    At = where(p) is var at ? At(at.X, at.Y, at.Z) : default,
                    Tool = DatumTool.Laser,
                    ReadAt = Noon,
                    By = "Bram",
                }),
        ];

    [Fact]
    public void The_one_bent_point_is_found_wherever_the_shell_stands_and_what_was_pulled_back_has_moved()
    {
        var sheet = Sheet();
        Gen.Select(Gen.Double[-3, 3], Gen.Double[-500, 500], Gen.Double[-500, 500], Gen.Double[6, 30])
            .Sample(
                (angle, dx, dy, bent) =>
                {
                    var shift = new Point(dx, dy, 40);
                    Point Place(DatumPoint p, double up) =>
                        Standing(p.At.InMm() + (p.Key == "D R" ? new Point(0, 0, up) : default), angle, shift);
                    var state = DatumState.Of(
                        sheet,
                        [
                            .. Read(sheet, DatumRound.BeforeCut, p => Place(p, bent)),
                            // Read again on another jig, half of it pulled back.
                            .. Read(sheet, DatumRound.AfterCut, p =>
                                Standing(
                                    p.At.InMm() + (p.Key == "D R" ? new Point(0, 0, bent / 2) : default),
                                    -angle,
                                    default
                                )
                            ),
                        ]
                    );
                    var before = state.Fits[0];
                    before.Bent.ShouldBe(["D R"]);
                    before.IsSearched.ShouldBeTrue();
                    before.Off["D R"].Z.ShouldBe(bent, 1e-3);
                    before.Off["A L"].Length.ShouldBeLessThan(1e-3);
                    state.Moved["D R"].Z.ShouldBe(-bent / 2, .02 * bent);
                    state.Moved["B L"].Length.ShouldBeLessThan(.2 * bent);
                    state.Unread(DatumRound.AfterCut).ShouldBeEmpty();
                },
                iter: 20
            );
    }

    [Fact]
    public void The_middle_of_the_shell_is_found_in_the_frame_in_which_it_was_read()
    {
        var sheet = Sheet();
        // Turned by a thousandth, its middle 3 to the left at the origin.
        var state = DatumState.Of(
            sheet,
            Read(sheet, DatumRound.BeforeCut, p => Standing(p.At.InMm(), .001, new(0, 3, 0)))
        );
        state.Mirror!.Asymmetry.Count.ShouldBe(6);
        state.Mirror.RmsMm.ShouldBeLessThan(1e-3);
        // n . p = d at the origin: 3 to the left of the jig's middle.
        (state.Mirror.DistanceMm / state.Mirror.Normal.Y).ShouldBe(3, 1e-3);
        state.Diagonals!.Value.LeftToRight.ShouldBe(state.Diagonals.Value.RightToLeft, 1e-3);
        state.Diagonals.Value.LeftToRight.ShouldBe(Math.Sqrt(3500 * 3500 + 850 * 850 + 200 * 200), 1e-3);
    }

    [Fact]
    public void What_cannot_be_laid_on_the_sheet_says_why()
    {
        var sheet = Sheet();
        DatumFit One(Func<DatumPoint, Point> where, Func<DatumPoint, bool>? which = null) =>
            DatumState.Of(sheet, Read(sheet, DatumRound.BeforeCut, where, which)).Fits.Single();
        One(p => p.At.InMm(), p => p.Letter == "A").Why.ShouldBe("Three points at least say how the shell lies.");
        One(p => p.At.InMm(), p => p.Key is "A L" or "A R" or "B L").Fit.ShouldNotBeNull();
        One(p => new(p.At.InMm().X, 0, 0)).Why.ShouldBe("The measured points lie on one line.");
        var random = new Random(3);
        One(p => p.At.InMm() + new Point(random.Next(-90, 90), random.Next(-90, 90), random.Next(-90, 90)))
            .Why.ShouldContain("Read again");
        DatumState.Of(sheet, []).Fits.ShouldBeEmpty();
        DatumState.Of(sheet, []).Unread(DatumRound.BeforeCut).Count.ShouldBe(12);
    }

    [Fact]
    public void Of_more_than_a_dozen_points_the_worst_is_left_out_one_after_another()
    {
        var sheet = Sheet();
        sheet.Points = [.. sheet.Points, new("M", PanelSide.Centre, "", At(1000, 0, 50))];
        DatumFit One(params string[] bent) =>
            DatumState
                .Of(
                    sheet,
                    Read(sheet, DatumRound.BeforeCut, p =>
                        p.At.InMm() + (bent.Contains(p.Key) ? new Point(0, 0, 12) : default)
                    )
                )
                .Fits.Single();
        One().Bent.ShouldBeEmpty();
        var fit = One("D R", "C L");
        fit.IsSearched.ShouldBeFalse();
        fit.Bent.ShouldBe(["C L", "D R"], ignoreOrder: true);
        fit.Off["D R"].Z.ShouldBe(12, 1e-6);
        fit.Off["A L"].Length.ShouldBeLessThan(1e-6);
    }

    [Fact]
    public void The_last_reading_that_stands_counts()
    {
        var sheet = Sheet();
        var readings = Read(sheet, DatumRound.BeforeCut, p => p.At.InMm());
        var slip = Read(sheet, DatumRound.BeforeCut, p => p.At.InMm() + new Point(0, 0, 9), p => p.Key == "C L")
            .Single();
        readings.Add(slip);
        DatumState.Of(sheet, readings).Fits.Single().Bent.ShouldBe(["C L"]);
        slip.TakeBack();
        DatumState.Of(sheet, readings).Fits.Single().Bent.ShouldBeEmpty();
    }

    [Fact]
    public void Points_are_named_with_their_sides_and_a_sheet_with_its_drawing()
    {
        DatumPoint.Parts(" d r ").ShouldBe(("D", PanelSide.Right));
        DatumPoint.Parts("D left").ShouldBe(("D", PanelSide.Left));
        DatumPoint.Parts("m").ShouldBe(("M", PanelSide.Centre));
        new DatumPoint("D", PanelSide.Right, "", default).Key.ShouldBe("D R");
        new TypedPoint(10, 1, .5m, LengthUnit.Inch).InMm().ShouldBe(new Point(254, 25.4, 12.7));
        string Refused(Action<DatumSheet> change)
        {
            var sheet = Sheet();
            change(sheet);
            return Should.Throw<Refusal>(sheet.Check).Field;
        }

        Sheet().Check();
        Refused(s => s.Drawing = " ").ShouldBe("drawing");
        Refused(s => s.ToleranceMm = 0).ShouldBe("toleranceMm");
        Refused(s => s.Points.Add(s.Points[0])).ShouldBe("points");
        Refused(s => s.Points[0] = s.Points[0] with { At = At(90_000, 0, 0) }).ShouldBe("x");
        Refused(s => s.Before = new(TrackMm: 0)).ShouldBe("trackMm");
    }

    [Fact]
    public void Figures_of_a_chassis_follow_as_soon_as_all_of_them_are_read()
    {
        // By hand: 4 in 1,400 is 0.1637 degrees; (706 - 700) / 2; |10 - 6 - 6 + 10| / 4, and four times that.
        var all = new ChassisFigures(2844, 2840, 1400, 700, 706, 10, 6, 6, 10);
        all.SkewDeg()!.Value.ShouldBe(.1637, 1e-4);
        all.OffCentreMm().ShouldBe(3);
        all.Twist()!.Value.ShouldBe(new FrameTwist(2, 8, true));
        new ChassisFigures(2844, 2840).SkewDeg().ShouldBeNull();
        new ChassisFigures(HeightFrontLeftMm: 3).Twist().ShouldBeNull();
    }
}

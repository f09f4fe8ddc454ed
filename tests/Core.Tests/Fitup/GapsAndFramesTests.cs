using FirstCoat.Core.Fitup;

namespace FirstCoat.Core.Tests.Fitup;

/// <summary>Gaps, shims, openings, frames and marking out, each against numbers worked by hand.</summary>
public sealed class GapsAndFramesTests
{
    private static GapProfile Line(double tolerance, double range, params double[] gaps) =>
        GapProfile.Of([.. gaps.Select((g, i) => new GapStation(i * 500, g))], new(4.5, tolerance, range));

    private static string Refused(Action ask) => Should.Throw<Refusal>(ask).Field;

    [Fact]
    public void A_line_that_is_right_in_its_middle_fails_along_its_edge()
    {
        var line = Line(0.5, 0.8, 4, 4.5, 5);
        line.MeanMm.ShouldBe(4.5);
        line.RangeMm.ShouldBe(1);
        line.TaperMmPerM!.Value.ShouldBe(1, 1e-12);
        line.Faults.ShouldBe([GapFault.NotUniform]);
        line.Off.ShouldBeEmpty();
        line.Passes.ShouldBeFalse("its mean is on the target to the last digit");
    }

    [Fact]
    public void Each_station_is_off_by_itself_and_what_meets_the_limit_is_allowed()
    {
        var line = Line(0.4, 5, 4.1, 4.9, 4.0, 5.2);
        line.Faults.ShouldBe([GapFault.TooTight, GapFault.TooWide]);
        line.Off.ShouldBe([2, 3]);
        // 4.9 - 4.1 is a little above 0.8 in binary.
        Line(0.4, 0.8, 4.1, 4.9).Passes.ShouldBeTrue();
    }

    [Fact]
    public void Read_at_one_place_it_has_no_taper()
    {
        var line = GapProfile.Of([new(100, 4), new(100, 5)], new(4.5, 1, 2));
        line.TaperMmPerM.ShouldBeNull();
        line.Passes.ShouldBeTrue();
    }

    [Fact]
    public void A_line_says_what_it_lacks()
    {
        Refused(() => Line(0.5, 0.8)).ShouldBe("stations");
        Refused(() => Line(0.5, 0.8, -1)).ShouldBe("gapMm");
        Refused(() => Line(-0.1, 0.8, 4)).ShouldBe("toleranceMm");
        Refused(() => Line(0.5, -0.1, 4)).ShouldBe("rangeLimitMm");
        Refused(() => GapProfile.Of([new(0, 4)], new(-1, 0, 0))).ShouldBe("targetMm");
    }

    [Theory]
    [InlineData(4, 1.4, Hinge.Lower)]
    [InlineData(-4, 1.4, Hinge.Upper)]
    [InlineData(0, 0, null)]
    public void A_door_that_hangs_is_packed_below_and_one_that_stands_high_above(
        double drop,
        double shim,
        Hinge? behind
    ) => HingeShim.For(drop, 350, 1000).ShouldBe(new(shim, behind));

    [Fact]
    public void A_shim_moves_the_edge_by_what_it_was_reckoned_for()
    {
        // Turned about the hinge that is left alone: the far edge moves by shim x length / spacing.
        var shim = HingeShim.For(3.2, 410, 1130);
        (shim.ThicknessMm * 1130 / 410).ShouldBe(3.2, 1e-12);
        Refused(() => HingeShim.For(4, 0, 1000)).ShouldBe("hingeSpacingMm");
        Refused(() => HingeShim.For(4, 350, 0)).ShouldBe("hingeToRearMm");
        Refused(() => HingeShim.For(1000, 350, 1000)).ShouldBe("rearDropMm");
    }

    [Fact]
    public void An_opening_leans_by_its_diagonals()
    {
        var opening = Opening.Of(1510, 1490, 1200, 900, 2);
        opening.ShearMm.ShouldBe(12.5);
        opening.DiagonalDifferenceMm.ShouldBe(20);
        opening.ImpliedSideMm.ShouldBe(900.06, 0.005);
        opening.LeanDeg.ShouldBe(0.796, 0.0005);
        opening.IsConsistent.ShouldBeTrue();
        Opening.Of(1510, 1490, 1200, 903, 2).IsConsistent.ShouldBeFalse("one of the four is read again");
        // A square one by the rule of 3, 4 and 5.
        Opening.Of(1500, 1500, 1200, 900, 0).ShouldBe(new(0, 0, 900, 0, 0, true));
    }

    [Fact]
    public void What_cannot_be_drawn_is_read_again()
    {
        Refused(() => Opening.Of(0, 1490, 1200, 900, 2)).ShouldBe("d1Mm");
        Refused(() => Opening.Of(1510, 1490, 1200, 0, 2)).ShouldBe("sideMm");
        Refused(() => Opening.Of(1200, 1200, 1200, 900, 2)).ShouldBe("d1Mm", "as flat as a line");
        Refused(() => Opening.Of(3000, 500, 1200, 900, 2)).ShouldBe("d1Mm");
        Refused(() => Opening.Of(1510, 1490, 1200, 900, -1)).ShouldBe("toleranceMm");
    }

    [Fact]
    public void A_frame_out_of_square_off_centre_and_twisted()
    {
        Frame.SkewDeg(2500, 2496, 1400).ShouldBe(0.1637, 0.00005);
        Frame.OffCentreMm(700, 706).ShouldBe(3);
        Frame.Twist(10, 6, 6, 10).ShouldBe(new(2, 8, true));
        Frame.Twist(6, 10, 10, 6).ShouldBe(new(2, 8, false));
        // A slope is no twist.
        Frame.Twist(0, 5, 10, 15).ShouldBe(new(0, 0, null));
        Refused(() => Frame.SkewDeg(2500, 2496, 0)).ShouldBe("trackMm");
        Refused(() => Frame.OffCentreMm(0, 706)).ShouldBe("leftMm");
    }

    [Fact]
    public void A_mark_is_moved_to_the_middle()
    {
        CentreMark.Of(612, 618, 2).ShouldBe(new(1230, 3, -6, false));
        CentreMark.Of(614, 616, 2).IsCentred.ShouldBeTrue();
        Refused(() => CentreMark.Of(0, 1, 1)).ShouldBe("leftMm");
    }

    [Fact]
    public void The_doubtful_side_is_read_against_the_sound_one()
    {
        var targets = MirrorTargets.Of(
            [new("a", 412), new("b", 655), new("c", 900)],
            [new("b", 654), new("a", 415)],
            -2,
            3
        );
        targets.Targets.ShouldBe([new("a", 410), new("b", 653), new("c", 898)]);
        targets.Off.ShouldBe([new("a", 5), new("b", 1)]);
        targets.Outside.ShouldBe(["a"]);
        targets.NotRead.ShouldBe(["c"]);
        Refused(() => MirrorTargets.Of([], [], 0, 1)).ShouldBe("good");
        Refused(() => MirrorTargets.Of([new("a", 1), new("a", 2)], [], 0, 1)).ShouldBe("good");
        Refused(() => MirrorTargets.Of([new("a", 1)], [new("z", 2)], 0, 1)).ShouldBe("other");
        Refused(() => MirrorTargets.Of([new("a", 1)], [], 0, -1)).ShouldBe("toleranceMm");
    }

    [Theory]
    [InlineData(1000, 30, false, 35, 29.41)]
    [InlineData(1000, 30, true, 34, 29.41)]
    [InlineData(0.3, 0.1, true, 3, 0.1)]
    public void Tacks_lie_no_further_apart_than_asked(double length, double most, bool closed, int count, double apart)
    {
        var tacks = Tacks.Along(length, most, closed);
        tacks.Count.ShouldBe(count);
        tacks.SpacingMm.ShouldBe(apart, 0.005);
    }

    [Fact]
    public void Holes_lie_evenly_between_the_ends()
    {
        var holes = PlugHoles.Along(900, 40, 25);
        (holes.Steps, holes.PositionsMm.Count).ShouldBe((22, 23));
        holes.PitchMm!.Value.ShouldBe(38.636, 0.0005);
        holes.PositionsMm[0].ShouldBe(25);
        holes.PositionsMm[^1].ShouldBe(875, 1e-9);
        PlugHoles.Along(50, 40, 25).PositionsMm.ShouldBe([25.0], "nothing is left between the ends");
        Refused(() => PlugHoles.Along(900, 0, 25)).ShouldBe("pitchMm");
        Refused(() => PlugHoles.Along(900, 40, 451)).ShouldBe("endMm");
        Refused(() => PlugHoles.Along(1e9, 0.001, 0)).ShouldBe("pitchMm");
    }

    [Fact]
    public void A_taper_runs_out_evenly_or_eased()
    {
        var table = TaperTable.Of(5, 80, 0, TaperLaw.Linear, 1400);
        table.ValuesMm.ShouldBe([80.0, 60, 40, 20, 0]);
        table.RadiiMm![0]!.Value.ShouldBe(3102.5, 1e-9);
        table.RadiiMm[^1].ShouldBeNull();
        var eased = TaperTable.Of(3, 0, 10, TaperLaw.Eased, null);
        eased.ValuesMm[1].ShouldBe(5, 1e-12);
        eased.RadiiMm.ShouldBeNull();
        Refused(() => TaperTable.Of(1, 80, 0, TaperLaw.Linear, 1400)).ShouldBe("stations");
        Refused(() => TaperTable.Of(5, 80, -1, TaperLaw.Linear, 1400)).ShouldBe("lastMm");
    }

    [Fact]
    public void A_chain_clears_at_its_worst_or_as_its_tolerances_go()
    {
        var chain = DimensionChain.Of([new(60, 1, true), new(48, 0.5, false), new(3, 0.5, false)], 4, 2);
        (chain.NominalMm, chain.WorstMm, chain.LeastWorstMm, chain.ClearsWorst).ShouldBe((9, 2, 3, true));
        chain.RssMm.ShouldBe(1.2247, 0.00005);
        chain.LeastRssMm.ShouldBe(3.7753, 0.00005);
        var tight = DimensionChain.Of([new(60, 1, true), new(48, 0.5, false), new(3, 0.5, false)], 4, 3.5);
        (tight.ClearsWorst, tight.ClearsRss).ShouldBe((false, true));
        Refused(() => DimensionChain.Of([], 0, 0)).ShouldBe("links");
        Refused(() => DimensionChain.Of([new(1, -1, true)], 0, 0)).ShouldBe("tolMm");
    }
}

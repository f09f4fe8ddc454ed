using CsCheck;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;

namespace FirstCoat.Core.Tests.Fitup;

/// <summary>What moving a door or a lid does to the lines round it, and which move is advised.</summary>
public sealed class FitAdviceTests
{
    private static readonly Body Coupe = Body.Unfold(BodyStyleKey.Coupe, BodyDimensions.Of(BodyStyleKey.Coupe));
    private static readonly IReadOnlyList<GapLine> Lines = GapLine.Of(Coupe);
    private static readonly GapLimits Limits = new(4, .8, .8);

    private static HungPanel Door(string key = "doorR", params DoorHang[] hangs) =>
        HungPanel.Of(Coupe, Lines, hangs, key);

    private static EdgeLine At(HungPanel panel, PanelEdge edge) => panel.Lines.Single(l => l.Edge == edge);

    private static IReadOnlyList<double?> None(GapLine line) => [.. line.StationsMm.Select(_ => (double?)null)];

    [Fact]
    public void A_door_that_hangs_four_millimetres_takes_a_shim_of_1_4_behind_its_lower_hinge()
    {
        // By hand: hinges 350 apart, 1,000 to the rear edge, the gap at the sill 7.0 in front and 3.0 at 1,000.
        var door = Door();
        door = Door("doorR", new DoorHang("doorR", 350, 200, door.LengthMm));
        var sill = At(door, PanelEdge.Bottom);
        IReadOnlyList<double?> Read(GapLine l) =>
            l == sill.Line ? [.. sill.XMm.Select(x => (double?)(7 - 4 * x / 1000))] : None(l);
        var advice = FitAdvice.Of(door, Read, _ => Limits);
        // The whole door is longer than a metre: 4 mm in a metre is the same turn.
        advice.Move.ShimMm.ShouldBe(1.4);
        advice.Move.Behind.ShouldBe(Hinge.Lower);
        // Even at 7.0 then: 3.0 down at both hinges.
        advice.Move.RaiseMm.ShouldBe(-3, .051);
        advice.Move.RearwardMm.ShouldBe(0);
        advice.Move.Steps()[0].ShouldBe("1.4 mm behind the lower hinge");
        advice.Move.Steps()[1].ShouldStartWith("lower ");
        advice.Why.ShouldStartWith("s h / L = ");
        advice.Why.ShouldEndWith(" = 1.4 mm");
        var then = advice.Lines.Single(l => l.Line == sill);
        then.Then!.Passes.ShouldBeTrue();
        then.Then.RangeMm.ShouldBeLessThan(.1);
        advice.Heals.ShouldBeTrue();
        advice.Lines.Where(l => l.Line != sill).ShouldAllBe(l => l.Then == null, "what was not read is not foretold");
    }

    [Fact]
    public void A_shim_behind_the_lower_hinge_lifts_the_rear_and_pushes_the_foot_of_the_door_to_the_rear()
    {
        var door = Door("doorR", new DoorHang("doorR", 400, 150, 1000));
        var move = new FitMove(2, Hinge.Lower);
        var (front, rear, sill) = (At(door, PanelEdge.Front), At(door, PanelEdge.Rear), At(door, PanelEdge.Bottom));
        // 2 / 400 = 5 mm in a metre, about the upper hinge 550 above the lower edge.
        for (var i = 0; i < front.YMm.Count; i++)
        {
            door.Change(front, i, move).ShouldBe((550 - front.YMm[i]) * .005, 1e-9);
        }

        for (var i = 0; i < rear.YMm.Count; i++)
        {
            door.Change(rear, i, move).ShouldBe((rear.YMm[i] - 550) * .005, 1e-9);
        }

        for (var i = 0; i < sill.XMm.Count; i++)
        {
            door.Change(sill, i, move).ShouldBe((sill.XMm[i] - (door.LengthMm - 1000)) * .005, 1e-9);
        }

        // Behind the upper hinge it turns the other way, about the lower one.
        door.Change(rear, 0, new(2, Hinge.Upper)).ShouldBe((150 - rear.YMm[0]) * .005, 1e-9);
    }

    [Fact]
    public void What_a_move_foretells_is_read_when_the_door_is_moved_as_a_rigid_body()
    {
        var door = Door("doorR", new DoorHang("doorR", 380, 160, 1050));
        Gen.Select(Gen.Double[.2, 4], Gen.Double[-3, 3], Gen.Double[-3, 3], Gen.Bool)
            .Sample(
                (shim, raise, rearward, lower) =>
                {
                    var move = new FitMove(shim, lower ? Hinge.Lower : Hinge.Upper, raise, rearward);
                    // The true turn: the hinge that is left alone stays, the other goes out by the shim.
                    var angle = Math.Asin(shim / 380) * (lower ? 1 : -1);
                    var (px, py) = (door.LengthMm - 1050, lower ? 160 + 380 : 160);
                    foreach (var line in door.Lines)
                    {
                        for (var i = 0; i < line.XMm.Count; i++)
                        {
                            var (x, y) = (line.XMm[i] - px, line.YMm[i] - py);
                            var back = x * Math.Cos(angle) - y * Math.Sin(angle) - x + rearward;
                            var up = x * Math.Sin(angle) + y * Math.Cos(angle) - y + raise;
                            var read = line.Edge switch
                            {
                                PanelEdge.Front => back,
                                PanelEdge.Rear => -back,
                                _ => up,
                            };
                            door.Change(line, i, move).ShouldBe(read, .12);
                        }
                    }
                },
                iter: 200
            );
    }

    [Fact]
    public void A_door_that_was_good_and_was_moved_is_advised_back()
    {
        var door = Door("doorR", new DoorHang("doorR", 380, 160, 1050));
        Gen.Select(Gen.Double[.5, 3], Gen.Bool, Gen.Double[-2, 2], Gen.Double[-1.5, 1.5])
            .Sample(
                (shim, lower, raise, rearward) =>
                {
                    var moved = new FitMove(shim, lower ? Hinge.Lower : Hinge.Upper, raise, rearward);
                    IReadOnlyList<double?> Read(GapLine l)
                    {
                        var line = door.Lines.Single(x => x.Line == l);
                        return [.. line.XMm.Select((_, i) => (double?)(4 + door.Change(line, i, moved)))];
                    }

                    if (door.Lines.SelectMany(l => Read(l.Line)).Any(g => g < 0))
                    {
                        return;
                    }

                    var advice = FitAdvice.Of(door, Read, _ => Limits);
                    // Steps of a tenth of a millimetre at the hinges are what can be set.
                    advice.Move.ShimMm.ShouldBe(shim, .06 + shim * .02);
                    advice.Move.Behind.ShouldBe(lower ? Hinge.Upper : Hinge.Lower);
                    advice.Lines.ShouldAllBe(l => l.Then!.Passes);
                },
                iter: 200
            );
    }

    [Fact]
    public void Mirrored_readings_give_mirrored_advice()
    {
        var hang = new DoorHang("", 380, 160, 1050);
        var (left, right) = (
            Door("doorL", hang with { Panel = "doorL" }),
            Door("doorR", hang with { Panel = "doorR" })
        );
        Gen.Double[1, 8]
            .Array[9]
            .Sample(
                gaps =>
                {
                    IReadOnlyList<double?> Read(GapLine l) => [.. l.StationsMm.Select((_, i) => (double?)gaps[i])];
                    var (a, b) = (FitAdvice.Of(left, Read, _ => Limits), FitAdvice.Of(right, Read, _ => Limits));
                    a.Move.ShouldBe(b.Move);
                    a.Lines.Select(l => l.Left.Replace(", L", "", StringComparison.Ordinal))
                        .ShouldBe(b.Lines.Select(l => l.Left.Replace(", R", "", StringComparison.Ordinal)));
                },
                iter: 100
            );
        // A lid read as in a mirror is moved and turned the other way.
        var lid = Door("bonnet");
        Gen.Double[2, 6]
            .Array[9]
            .Sample(
                gaps =>
                {
                    IReadOnlyList<double?> Side(GapLine l, bool mirrored) =>
                        l.Side == PanelSide.Centre ? None(l)
                        : l.Side == (mirrored ? PanelSide.Left : PanelSide.Right)
                            ? [.. l.StationsMm.Select((_, i) => (double?)gaps[i])]
                        : [.. l.StationsMm.Select(_ => (double?)4)];
                    var a = FitAdvice.Of(lid, l => Side(l, false), _ => Limits).Move;
                    var b = FitAdvice.Of(lid, l => Side(l, true), _ => Limits).Move;
                    b.ShouldBe(a with { RightMm = -a.RightMm + 0.0, TurnMmPerM = -a.TurnMmPerM + 0.0 });
                },
                iter: 100
            );
    }

    [Fact]
    public void A_lid_that_was_moved_and_turned_is_advised_back()
    {
        var lid = Door("bonnet");
        lid.IsDoor.ShouldBeFalse();
        var moved = new FitMove(RightMm: .6, RearwardMm: -.4, TurnMmPerM: .5);
        IReadOnlyList<double?> Read(GapLine l)
        {
            var line = lid.Lines.Single(x => x.Line == l);
            return [.. line.XMm.Select((_, i) => (double?)(4 + lid.Change(line, i, moved)))];
        }

        var advice = FitAdvice.Of(lid, Read, _ => Limits);
        advice.Move.ShouldBe(new FitMove(RightMm: -.6, RearwardMm: .4, TurnMmPerM: -.5));
        advice
            .Move.Steps()
            .ShouldBe([
                "move 0.4 mm to the rear",
                "move 0.6 mm to the left",
                "turn its rear to the right, 0.5 mm in a metre",
            ]);
        advice.Heals.ShouldBeTrue();
    }

    [Fact]
    public void Where_moving_runs_out_it_says_what_is_left()
    {
        var door = Door("doorR", new DoorHang("doorR", 380, 160, 1050));
        // Both ends are too wide: no move closes them.
        IReadOnlyList<double?> Read(GapLine l) =>
            [.. l.StationsMm.Select(_ => (double?)(l.Key.StartsWith("door/sill", StringComparison.Ordinal) ? 4 : 7))];
        var advice = FitAdvice.Of(door, Read, _ => Limits);
        advice.Move.Steps().ShouldBeEmpty();
        advice.Heals.ShouldBeFalse();
        advice
            .Lines.Select(l => l.Left)
            .Where(l => l.Length > 0)
            .ShouldBe(
                [
                    "Wing to door, R: even, but 3.0 mm too wide: build the edge",
                    "Door to quarter, R: even, but 3.0 mm too wide: build the edge",
                ],
                ignoreOrder: true
            );
        // A wave is no matter of hinges.
        var sill = At(door, PanelEdge.Bottom).Line;
        IReadOnlyList<double?> Wave(GapLine l) =>
            l == sill ? [.. l.StationsMm.Select((_, i) => (double?)(i == 4 ? 6 : 4))] : None(l);
        FitAdvice
            .Of(door, Wave, _ => Limits)
            .Lines.Single(l => l.Line.Line == sill)
            .Left.ShouldBe("Door to sill, R: not even, 2.0 mm between the widest and the tightest: dress the edge");
        // What would be pushed through its neighbour says so.
        FitAdvice
            .With(door, new(RaiseMm: -5), Wave, _ => Limits)
            .Lines.Single(l => l.Line.Line == sill)
            .Left.ShouldBe("Door to sill, R: the panels would touch");
    }

    [Fact]
    public void What_does_not_hang_or_was_not_read_is_refused()
    {
        Should.Throw<Refusal>(() => Door("wingR")).Message.ShouldContain("does not hang");
        Should.Throw<Refusal>(() => Door("nothing")).NotFound.ShouldBeTrue();
        Should.Throw<Refusal>(() => FitAdvice.Of(Door(), None, _ => Limits)).Message.ShouldContain("Read a line");
        Should.Throw<Refusal>(() => new FitMove(-1).Check()).Field.ShouldBe("shimMm");
        Should.Throw<Refusal>(() => new FitMove(1).Check()).Field.ShouldBe("behind");
        Should.Throw<Refusal>(() => new FitMove(RaiseMm: double.NaN).Check()).Field.ShouldBe("raiseMm");
    }

    [Fact]
    public void A_door_whose_hinges_nobody_measured_is_taken_from_its_drawing_and_says_so()
    {
        var door = Door();
        door.IsMeasured.ShouldBeFalse();
        door.Hang!.HingeToRearMm.ShouldBe(door.LengthMm, 1);
        Door("doorR", new DoorHang("doorR", 380, 160, 1050)).IsMeasured.ShouldBeTrue();
    }
}

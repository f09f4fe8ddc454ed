using static FirstCoat.Core.Bodies.Curves;

namespace FirstCoat.Core.Bodies;

/// <summary>Nose, bonnet, scuttle and front wings.</summary>
internal sealed partial class BodyBuilder
{
    private void SettleFront()
    {
        var (b0, b1) = (Line("b0"), Line("b1"));
        _bonnetSide =
        [
            End("b0"),
            (b0.HalfWidth + 4, b0.Side + .3 * (b1.Side - b0.Side)),
            (b1.HalfWidth + 3, b1.Side - .35 * (b1.Side - b0.Side)),
            End("b1"),
        ];
        _noseSide = Curves.Line(End("n"), End("b0"));
        _scuttleSide = Curves.Line(End("b1"), End("s1"));
        Column("nose", spec.Nose, "n", "b0", _noseSide, Free, Shut, spec.SeparateWings ? Bolted : Seam);
        Column("bonnet", "Bonnet", "b0", "b1", _bonnetSide, Shut, Shut, Shut);
        Column("scuttle", "Scuttle", "b1", "s1", _scuttleSide, Shut, Free, Seam);
        Gap("nose/bonnet", _bows["b0"], [.13, .5, .87]);
        Gap("bonnet/scuttle", _bows["b1"], [.15, .85]);
        var depth = b1.Middle - b0.Middle;
        Zone("bonnet", "front", -99, 99, 0, b0.Middle + .3 * depth);
        Zone("bonnet", "middle", -99, 99, b0.Middle + .3 * depth, b0.Middle + .7 * depth);
        Zone("bonnet", "rear", -99, 99, b0.Middle + .7 * depth, 999);
    }

    private void IntegralWing()
    {
        var n = End("n");
        Pt apex = (Belt + 2, n.Y - 20),
            shoulder = (Out - 9, n.Y + 9);
        Pt[] front =
        [
            n,
            (n.X + 6, n.Y - 13),
            (apex.X - 15, apex.Y),
            apex,
            (apex.X + 20, apex.Y),
            (shoulder.X - 6, shoulder.Y - 18),
            shoulder,
            (shoulder.X + 3, shoulder.Y + 11),
            (Axle - 2, FrontY - FrontR - 12),
            (Axle, FrontY - FrontR),
        ];
        var low = Through(
            (Axle, FrontY + FrontR),
            (Out + .4, (FrontY + FrontR + _firstDoor + 9) / 2),
            (Out, _firstDoor + 9)
        );
        Side(
            "wing",
            "wing",
            2.4,
            new(front, Free),
            new(FrontArch(), Free),
            new(low, Seam),
            new(Reverse(_doorLines[0]), Shut),
            new(Reverse(_postFoot), Free),
            new(Reverse(_scuttleSide), Seam),
            new(Reverse(_bonnetSide), Shut),
            new(Reverse(_noseSide), Seam)
        );
        Gap("bonnet/wing", _bonnetSide, [.2, .9], side: true);
        Gap("wing/door", _doorLines[0], [.1, .9], side: true);
        ArchCrease(FrontY, FrontR + 4.5);
        var crest = Belt + 5;
        SideCrease(1.2, (crest, n.Y + 20), (crest - 1, FrontY), (crest, _firstDoor - 1));
        _sideLamps.Add(new(Belt + 3, n.Y + 1, 14.5, 1));
        _sideLamps.Add(new(Belt + 27, n.Y + 8, 4.6, 0));
        Zone("wing", "front", 60, Axle + 9, n.Y - 40, FrontY - FrontR - 2);
        Zone("wing", "crown", 60, Belt + 16, FrontY - FrontR - 2, FrontY + FrontR + 6);
        ArchZone("wing", FrontY, FrontR);
        Zone("wing", "lower rear", Belt, Out + 9, FrontY + FrontR - 4, _firstDoor + 20);
    }

    private void SeparateWing()
    {
        var n = End("n");
        var (b0, b1) = (Line("b0"), Line("b1"));
        var inner = spec.WingInner;
        var high = spec.Drop > 20;
        Pt fa = (inner - 9, n.Y + 6),
            fb = (inner, b1.Side + 5),
            tail = (Out + 1.5, _firstDoor - 13);
        var flange = Through(fa, (inner - 3, FrontY - 14), (inner, FrontY + 16), fb);
        Pt[] noseToWing = [n, (n.X + 6, n.Y + 2), (fa.X - 6, fa.Y - 1), fa];
        var across = Curves.Line(End("b1"), fb);
        Pt[] sweep = [fb, (fb.X + 10, fb.Y + 16), (Out - 22, _firstDoor - 20), tail];
        Side(
            "bside",
            "bonnet side",
            2.4,
            new(noseToWing, Free),
            new(flange, Bolted),
            new(Reverse(across), Seam),
            new(Reverse(_bonnetSide), Shut),
            new(Reverse(_noseSide), Bolted)
        );
        var low = Through(tail, (Out + .5, _firstDoor - 3), (Out, _firstDoor + 9));
        Side(
            "cowl",
            "cowl side",
            2.4,
            new(_scuttleSide, Seam),
            new(_postFoot, Free),
            new(_doorLines[0], _doors.Count > 0 ? Shut : Seam),
            new(Reverse(low), Seam),
            new(Reverse(sweep), Bolted),
            new(Reverse(across), Seam)
        );
        Pt apex = (inner + (Axle - inner) * (high ? .30 : .42), n.Y - (high ? 2 : 8)),
            foot = high ? (Axle, FrontY + FrontR + 7) : (Axle, _firstDoor - 8);
        Pt[] front =
        [
            fa,
            (fa.X + 2, fa.Y - 9),
            (apex.X - 14, apex.Y),
            apex,
            (apex.X + (high ? .62 : .36) * (Axle - apex.X), apex.Y),
            (Axle, FrontY - FrontR - (high ? 14 : 26)),
            (Axle, FrontY - FrontR),
        ];
        Side(
            "wing",
            "wing",
            3,
            new(front, Free),
            new(FrontArch(), Free),
            new(Curves.Line((Axle, FrontY + FrontR), foot), Free),
            new(Through(foot, ((foot.X + tail.X) / 2, (foot.Y + tail.Y) / 2 + 1), tail), Free),
            new(Reverse(sweep), Bolted),
            new(Reverse(flange), Bolted)
        );
        SideCrease(
            1.3,
            (inner + .44 * (Axle - inner) - 6, n.Y + 16),
            (Axle - FrontR - 11, FrontY),
            (Out - 16, _firstDoor - 24)
        );
        ArchCrease(FrontY, FrontR + 4, .06);
        _sideBolts.AddRange(new[] { .1, .32, .54, .76, .94 }.Select(t => At(flange, t)));
        _sideBolts.AddRange(new[] { .35, .7 }.Select(t => At(sweep, t)));
        for (var y = FrontY + 10.4; y < Math.Min(FrontY + 43, b1.Side - 6); y += 6.4)
        {
            var x = At(_bonnetSide, Math.Clamp((y - b0.Side) / (b1.Side - b0.Side), 0, 1)).X + 7;
            _sideDark.Add(Stroke(x, y, inner - 7, y + 1.5));
        }

        _sideLamps.Add(new(inner - 2, n.Y + 18, 11, 2));
        Gap("bonnet/side", _bonnetSide, [.25, .85], side: true);
        if (_doors.Count > 0)
        {
            Gap("cowl/door", _doorLines[0], [.12, .88], side: true);
        }

        Zone("wing", "front", 60, Axle + 9, n.Y - 30, FrontY - FrontR - 2);
        Zone("wing", "crown", 60, Axle - FrontR, FrontY - FrontR - 2, FrontY + FrontR);
        ArchZone("wing", FrontY, FrontR);
        Zone("wing", "tail", 60, Axle + 9, FrontY + FrontR - 4, _firstDoor + 20);
        Zone("cowl", "foot", Out - 16, Out + 9, _firstDoor - 40, _firstDoor + 20);
    }

    private void CentreDecor()
    {
        var (b0, b1, s1) = (Line("b0"), Line("b1"), Line("s1"));
        if (spec.SeparateWings)
        {
            _dark.Add(Stroke(0, b0.Middle + 3, 0, b1.Middle - 3));
            _light.Add(Stroke(1.2, b0.Middle + 4, 1.2, b1.Middle - 3));
        }
        else
        {
            foreach (var s in new[] { -1, 1 })
            {
                Pt[] Crease(double dx) =>
                    [
                        (s * (b0.HalfWidth * .3 - dx), b0.Middle + 5),
                        (s * (b0.HalfWidth * .234 - dx), b0.Middle + 40),
                        (s * (b0.HalfWidth * .198 - dx), b1.Middle - 34),
                        (s * (b0.HalfWidth * .174 - dx), b1.Middle - 3),
                    ];
                _dark.Add(Outline.Path(Crease(0)));
                _light.Add(Outline.Path(Crease(1.25)));
            }
        }

        for (var j = 0; spec.Louvres && j < 6; j++)
        {
            var y = b1.Middle - 43.5 + j * 5.6;
            _dark.Add(Stroke(33, y, 55, y + 1.2));
            _dark.Add(Stroke(-33, y, -55, y + 1.2));
        }

        var vent = (b1.Middle + s1.Middle) / 2;
        for (var j = -5; j <= 5; j++)
        {
            _dark.Add(Stroke(j * 5, vent - 2.5 + Math.Abs(j) * .2, j * 5, vent + 3.5 + Math.Abs(j) * .2));
        }
    }

    /// <summary>The mouth of an integral nose, or the bars of an upright one.</summary>
    private string GrillePath()
    {
        var n = Line("n");
        if (!spec.SeparateWings)
        {
            var (k, m) = (n.HalfWidth * .62, n.Middle);
            Pt[] mouth =
            [
                (-k, m + 13),
                (-k * .5, m + 5),
                (k * .5, m + 5),
                (k, m + 13),
                (k * 1.08, m + 16),
                (k, m + 20.5),
                (k * .9, m + 20.5),
                (k * .43, m + 14),
                (-k * .43, m + 14),
                (-k * .9, m + 20.5),
                (-k, m + 20.5),
                (-k * 1.08, m + 16),
                (-k, m + 13),
            ];
            return Outline.Path(mouth, close: true);
        }

        var depth = .42 * (Line("b0").Middle - n.Middle);
        return string.Concat(
            Enumerable
                .Range(-4, 9)
                .Select(q =>
                    Stroke(
                        q * n.HalfWidth * .17,
                        n.Middle + 3 + q * q * .5,
                        q * n.HalfWidth * .17,
                        n.Middle + 3 + depth + q * q * .4
                    )
                )
        );
    }
}

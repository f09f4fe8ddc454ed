using static FirstCoat.Core.Bodies.Curves;

namespace FirstCoat.Core.Bodies;

/// <summary>What lies behind the last door: boot, tailgate, open tail; pick-up bed; van; benches on a wood
/// frame.</summary>
internal sealed partial class BodyBuilder
{
    private void BootTail()
    {
        var (d0, d1, t) = (Line("d0"), Line("d1"), Line("t"));
        Pt[] lidSide =
        [
            End("d0"),
            (d0.HalfWidth + 4, d0.Side + .34 * (d1.Side - d0.Side)),
            (d1.HalfWidth + 4.5, d1.Side - .32 * (d1.Side - d0.Side)),
            End("d1"),
        ];
        var tailSide = Curves.Line(End("d1"), End("t"));
        var gate = spec.Tail == Tail.Tailgate;
        Column("boot", gate ? "Tailgate" : "Boot lid", "d0", "d1", lidSide, Shut, Shut, Shut);
        Column("tail", "Tail", "d1", "t", tailSide, Shut, Free, Seam);
        var inner = spec.Tail switch
        {
            Tail.Boot => BootUpper(lidSide),
            Tail.Tailgate => GateUpper(lidSide),
            _ => OpenUpper(lidSide),
        };
        var lid = gate ? "tailgate" : "boot";
        Gap($"{lid}/quarter", lidSide, [.2, .84], side: true);
        Gap($"{lid}/tail", _bows["d1"], [.5]);
        var head = new Edge(_lastDoorLine, Shut, 7);
        if (spec.RearWing > 0)
        {
            BoltedRearWing(head, tailSide, inner);
        }
        else
        {
            var low = Through(
                _lastDoorLine[^1],
                (Out + .3, (_lastDoorLine[^1].Y + RearY - RearR) / 2),
                (Axle, RearY - RearR)
            );
            Side(
                "quarter",
                "quarter",
                2.4,
                [
                    head,
                    new(low, Seam),
                    new(RearArch(), Free),
                    new(RearLow(t.End, Math.Max(t.Side - 30, RearY + RearR + 16)), Free),
                    new(Reverse(tailSide), Seam),
                    .. inner,
                ]
            );
            ArchCrease(RearY, RearR + 4.5);
            SideCrease(
                1.2,
                (Belt + 6, _lastDoor + 5),
                (Belt + 7, RearY - 18),
                (Belt + 4, RearY + 24),
                (Belt - 4, t.Side - 22)
            );
            double[][] lamps = gate
                ?
                [
                    [14, -10, 5],
                    [28, -11, 5],
                    [42, -13, 5],
                ]
                :
                [
                    [21, -9, 6.2],
                    [40, -9, 6.2],
                ];
            _sideLamps.AddRange(lamps.Select(l => new Lamp(t.HalfWidth + l[0], t.Side + l[1], l[2], 0)));
        }

        Gap(_doors.Count == 1 ? "door/quarter" : "rear door/quarter", _lastDoorLine, [.07, .93], side: true);
        Zone("quarter", "post", 0, Belt - 3, 0, d0.Side);
        Zone("quarter", "deck side", 0, Belt, d0.Side, 999);
        Zone("quarter", "skin", Belt, Out, 0, 999);
        ArchZone("quarter", RearY, RearR);
        Zone("quarter", "tail end", 0, Out + 9, t.Side - 36, 999);
        if (!gate)
        {
            foreach (var k in new[] { -1, 1 })
            {
                _dark.Add(
                    Outline.Path(
                        Through(
                            (k * d0.HalfWidth * .77, d0.Middle + 5),
                            (k * d0.HalfWidth * .79, (d0.Middle + d1.Middle) / 2),
                            (k * d1.HalfWidth * .74, d1.Middle - 11)
                        )
                    )
                );
            }
        }

        _dark.Add(Outline.Path(Arc(0, d1.Middle - 9, 2.4, 0, Math.PI * 2)));
        _dark.Add(Box(-25, t.Middle - 24, 50, 13));
    }

    private static string Box(double x, double y, double w, double h) =>
        Outline.Path(
            Join(
                Line(x, y, x + w, y),
                Line(x + w, y, x + w, y + h),
                Line(x + w, y + h, x, y + h),
                Line(x, y + h, x, y)
            ),
            close: true
        );

    /// <summary>The free edge from the rear arch round the tail.</summary>
    private Pt[] RearLow(Pt tail, double y) =>
        [
            (Axle, RearY + RearR),
            (Axle, y - 14),
            (Out + .5, y - 8),
            (Out - 1, y - 4),
            (Out - 3, y + 13),
            (Out - 10, y + 24),
            (Out - 21, y + 30),
            (Out - 39, y + 38),
            (tail.X + 20, tail.Y + 8),
            tail,
        ];

    private Edge[] BootUpper(Pt[] lidSide)
    {
        var (r1, d0) = (Line("r1"), Line("d0"));
        Column("roof", "Roof", "r0", "r1", _roofSide, Free, Free, Seam);
        Hole(r1.Moved(-2, 4.5), d0.Moved(-2.5, -4.5));
        var y = spec.GlassEnd - 3;
        var up = Between(_roofSide, r1.Side, y);
        var backGlass = Through(r1.End, ((r1.HalfWidth + d0.HalfWidth) * .5 - .5, (r1.Side + d0.Side) / 2), d0.End);
        var x = up[^1];
        var post = Join(
            Curves.Line(x, (x.X + 5, y)),
            [(x.X + 5, y), (x.X + 13, y + 17), (Belt - 17, _lastDoor - 2), (Belt, _lastDoor)]
        );
        Gap("deck/boot", _bows["d0"], [.16, .84]);
        return [new(Reverse(lidSide), Shut), new(Reverse(backGlass), Free), new(up, Seam), new(post, Free)];
    }

    private Edge[] GateUpper(Pt[] lidSide)
    {
        var (r0, r1, d0, d1) = (Line("r0"), Line("r1"), Line("d0"), Line("d1"));
        Column("roof", "Roof", "r0", "r1", _roofSide, Free, Shut, Seam);
        var y = spec.GlassEnd + 4;
        var up = Between(_roofSide, r1.Side, y);
        var v = spec.ExtraGlass[^1].To;
        var edge = RoofEdge(y);
        var post = Join(
            Curves.Line(up[^1], (edge, y)),
            [(edge, y), (edge + 12, y + 1), (Belt - 18, v + 1), (Belt - 2, v)],
            Through((Belt - 2, v), (Belt - 2.5, (v + _lastDoor) / 2), (Belt, _lastDoor))
        );
        Gap("roof/tailgate", _bows["d0"], [.16, .84]);
        Hole(
            new(d0.HalfWidth - 9, d0.Middle + 9, d0.Side + 9),
            new(d0.HalfWidth - 6, d0.Middle + .42 * (d1.Middle - d0.Middle), d0.Side + .42 * (d1.Side - d0.Side))
        );
        for (var j = -3; j <= 3; j++)
        {
            _dark.Add(Stroke(j * 12.5, r0.Side + 44, j * 12.5, r1.Side - 26));
        }

        return [new(Reverse(lidSide), Shut, 0), new(up, Seam), new(post, Free)];
    }

    private Edge[] OpenUpper(Pt[] lidSide)
    {
        var (s1, k0, d0) = (Line("s1"), Line("k0"), Line("d0"));
        var (a, b) = (
            Bow(new(s1.HalfWidth - 2, s1.Middle + 6, s1.Side + 5.5)),
            Bow(new(s1.HalfWidth - 2, s1.Middle + 11, s1.Side + 10))
        );
        Centre(
            "screen",
            "Screen frame",
            1,
            new(a, Free),
            new(Curves.Line(a[^1], b[^1]), Free),
            new(Reverse(b), Free),
            new(Curves.Line(b[0], a[0]), Free)
        );
        var (front, rear) = (Bow(new(s1.HalfWidth - 3, s1.Middle + 16, s1.Side + 15)), Bow(k0.Moved(-1, -5)));
        var waist = Through(
            front[^1],
            (Belt - 7, _firstDoor + 13),
            (Belt - 8, (_firstDoor + _lastDoor) / 2),
            (Belt - 9, _lastDoor - 2),
            rear[^1]
        );
        _openings.Add(Join(front, waist, Reverse(rear), Reverse(Mirror(waist))));
        foreach (var k in new[] { -1, 1 })
        {
            var y = _lastDoor;
            _openings.Add(
                Join(
                    Through((k * 8, y - 36), (k * 44, y - 38)),
                    Through((k * 44, y - 38), (k * 48, y - 8)),
                    Through((k * 48, y - 8), (k * 26, y - 1), (k * 8, y - 4)),
                    Line(k * 8, y - 4, k * 8, y - 36)
                )
            );
        }

        var side = Curves.Line(k0.End, d0.End);
        Column("tonneau", "Hood panel", "k0", "d0", side, Free, Shut, Shut);
        var waistLine = Through(
            k0.End,
            (k0.HalfWidth + (Belt - k0.HalfWidth) * .5, k0.Side + 1),
            (Belt - 5, (k0.Side + _lastDoor) / 2 + 4),
            (Belt, _lastDoor)
        );
        Gap("hood panel/boot", _bows["d0"], [.16, .84]);
        Gap("hood panel/quarter", side, [.5], side: true);
        return [new(Reverse(lidSide), Shut), new(Reverse(side), Shut), new(waistLine, Free)];
    }

    private void BoltedRearWing(Edge head, Pt[] tailSide, Edge[] inner)
    {
        var t = Line("t");
        var big = RearR + spec.RearWing;
        var start = Math.Acos(spec.Drop / big);
        var joint = Arc(Axle, RearY, big, Math.PI + start, Math.PI - start * .72);
        var (e0, e1) = (joint[0], joint[^1]);
        var round = Through(e1, (e1.X - 9, e1.Y + 16), (t.HalfWidth + 22, t.Side + 5), t.End);
        Side(
            "quarter",
            "quarter",
            2.4,
            [
                head,
                new(Curves.Line(_lastDoorLine[^1], e0), Seam),
                new(joint, Bolted),
                new(round, Free),
                new(Reverse(tailSide), Seam),
                .. inner,
            ]
        );
        Pt tip = (e1.X + 6, e1.Y + 17);
        var outer = Through((Axle, RearY + RearR), (Axle - 3, RearY + RearR + 14), (Axle - 14, e1.Y + 12), tip);
        Side(
            "rwing",
            "rear wing",
            3,
            new(Curves.Line(e0, (Axle, e0.Y + 1)), Free),
            new(Line(Axle, e0.Y + 1, Axle, RearY - RearR), Free),
            new(RearArch(), Free),
            new(outer, Free),
            new(Curves.Line(tip, e1), Free),
            new(Reverse(joint), Bolted)
        );
        _sideBolts.AddRange(new[] { .06, .25, .45, .65, .85 }.Select(s => At(joint, s)));
        _sideDark.Add(
            Outline.Path(Arc(Axle, RearY, RearR + spec.RearWing * .48, -Math.PI / 2 - .15, -Math.PI * 1.5 + .5))
        );
        _sideLight.Add(
            Outline.Path(Arc(Axle, RearY, RearR + spec.RearWing * .48 + 1.3, -Math.PI / 2 - .15, -Math.PI * 1.5 + .5))
        );
        Zone("rwing", "front", 0, 300, 0, RearY - RearR * .4);
        Zone("rwing", "crown", 0, 300, RearY - RearR * .4, RearY + RearR * .4);
        Zone("rwing", "rear", 0, 300, RearY + RearR * .4, 999);
        _sideLamps.Add(new(t.HalfWidth + 14, t.Side - 12, 4.4, 0));
    }

    private void PickupTail()
    {
        var (r1, k0, k1, e0, e1, e2) = (Line("r1"), Line("k0"), Line("k1"), Line("e0"), Line("e1"), Line("e2"));
        Column("roof", "Roof", "r0", "r1", _roofSide, Free, Free, Seam);
        Hole(r1.Moved(-2, 4.5), k0.Moved(-2.5, -4.5));
        var backSide = Curves.Line(k0.End, k1.End);
        Column("back", "Cab back", "k0", "k1", backSide, Free, Free, Seam);
        var y = spec.GlassEnd - 3;
        var up = Between(_roofSide, r1.Side, y);
        var glass = Through(r1.End, ((r1.HalfWidth + k0.HalfWidth) * .5, (r1.Side + k0.Side) / 2), k0.End);
        var x = up[^1];
        var post = Join(
            Curves.Line(x, (x.X + 5, y)),
            [(x.X + 5, y), (x.X + 13, y + 13), (Belt - 17, _lastDoor - 1), (Belt, _lastDoor)]
        );
        Pt bend = (Out, k1.Side);
        Side(
            "corner",
            "cab corner",
            2.4,
            new(_lastDoorLine, Shut),
            new(Curves.Line(_lastDoorLine[^1], bend), Seam),
            new(Through(bend, (Belt + 10, k1.Side), k1.End), Free),
            new(Reverse(backSide), Seam),
            new(Reverse(glass), Free),
            new(up, Seam),
            new(post, Free)
        );
        var frontSide = Curves.Line(End("e00"), e0.End);
        Column("bedfront", "Bed front", "e00", "e0", frontSide, Free, Seam, Free);
        Column("bed", "Bed floor", "e0", "e1", Curves.Line(e0.End, e1.End), Seam, Shut, Seam);
        var gateSide = Curves.Line(e1.End, e2.End);
        Centre(
            "tailgate",
            "Tailgate",
            3,
            new(_bows["e1"], Shut),
            new(gateSide, Free),
            new(Reverse(_bows["e2"]), Free),
            new(Reverse(Mirror(gateSide)), Free)
        );
        var (y0, y1) = (Line("e00").Side, e1.Side + 5);
        Pt[] round = [(Axle, RearY + RearR), (Axle, y1 - 20), (Out + 1, y1 - 8), (Out - 4, y1)];
        Side(
            "bedside",
            "bed side",
            3,
            new(Through((Out, y0), (Out + .4, RearY - RearR - 6), (Axle, RearY - RearR)), Free),
            new(RearArch(), Free),
            new(round, Free),
            new(Line(Out - 4, y1, e1.HalfWidth, y1), Free),
            new(Line(e1.HalfWidth, y1, e1.HalfWidth, e0.Side), Seam),
            new(Line(e0.HalfWidth, e0.Side, e0.HalfWidth, y0), Free),
            new(Line(e0.HalfWidth, y0, Out, y0), Free)
        );
        for (var j = -4; j <= 4; j++)
        {
            _dark.Add(Stroke(j * 14, e0.Side + 7, j * 14, e1.Side - 7));
        }

        SideCrease(1.2, (e0.HalfWidth + 12, y0 + 3), (e0.HalfWidth + 12, y1 - 3));
        ArchCrease(RearY, RearR + 4.5);
        _sideDark.Add(Stroke(Out - 10, y0 + 4, Out - 10, RearY - RearR - 2));
        _sideLamps.Add(new(Belt + 20, y1 - 14, 5.4, 0));
        _dark.Add(Box(-38, e1.Middle + 7, 76, e2.Middle - e1.Middle - 14));
        Gap("door/cab corner", _lastDoorLine, [.08, .92], side: true);
        Gap("bed/tailgate", _bows["e1"], [.14, .86]);
        Zone("bedside", "rail", 0, e0.HalfWidth + 12, 0, 999);
        Zone("bedside", "skin front", e0.HalfWidth + 12, Out, 0, RearY - RearR);
        ArchZone("bedside", RearY, RearR);
        Zone("bedside", "skin rear", e0.HalfWidth + 12, Out, RearY + RearR, 999);
        Zone("bed", "front", -99, 99, 0, e0.Middle + 52);
        Zone("bed", "middle", -99, 99, e0.Middle + 52, e1.Middle - 52);
        Zone("bed", "rear", -99, 99, e1.Middle - 52, 999);
    }

    private void VanTail()
    {
        var (r0, r1, d1, t) = (Line("r0"), Line("r1"), Line("d1"), Line("t"));
        Column("roof", "Roof", "r0", "r1", _roofSide, Free, Shut, Seam);
        var (doorSide, middle) = (Curves.Line(r1.End, d1.End), Line(0, r1.Middle, 0, d1.Middle));
        Side(
            "rdoor",
            "rear door",
            3,
            new(RightHalf(_bows["r1"]), Shut),
            new(doorSide, Shut),
            new(Reverse(RightHalf(_bows["d1"])), Shut),
            new(Reverse(middle), Shut)
        );
        var tailSide = Curves.Line(d1.End, t.End);
        Column("tail", "Rear step", "d1", "t", tailSide, Shut, Free, Seam);
        var up = Between(_roofSide, r1.Side, _lastDoor);
        var top = up[^1];
        var low = Through(
            _lastDoorLine[^1],
            (Out + .3, (_lastDoorLine[^1].Y + RearY - RearR) / 2),
            (Axle, RearY - RearR)
        );
        var y = d1.Side - 26;
        Pt[] round =
        [
            (Axle, RearY + RearR),
            (Axle, y - 12),
            (Out + .4, y - 8),
            (Out - 1, y - 2),
            (Out - 3, y + 12),
            (Out - 8, y + 18),
            (Out - 20, y + 20),
            (Out - 50, y + 21),
            (t.HalfWidth + 14, t.Side + 3),
            t.End,
        ];
        Side(
            "side",
            "van side",
            3,
            new(_lastDoorLine, Shut),
            new(low, Seam),
            new(RearArch(), Free),
            new(round, Free),
            new(Reverse(tailSide), Seam),
            new(Reverse(doorSide), Shut),
            new(up, Seam),
            new(Curves.Line(top, (Belt, _lastDoor)), Free)
        );
        for (var j = 1; j < 8; j++)
        {
            var across = r0.Side + (r1.Side - r0.Side) * j / 8;
            _dark.Add(Stroke(-r0.HalfWidth + 5, across, r0.HalfWidth - 5, across));
        }

        foreach (var share in new[] { .3, .5, .7 })
        {
            var x = top.X + (Out - top.X) * share;
            SideCrease(1.2, (x, _lastDoor + 12), (x, share < .6 ? y - 2 : RearY - RearR - 8));
        }

        ArchCrease(RearY, RearR + 4.5);
        var (g0, g1) = (r1.Middle + 13, r1.Middle + 44);
        _sideOpenings.Add(
            Join(
                Line(10, g0, r1.HalfWidth - 11, g0 - 1),
                Line(r1.HalfWidth - 11, g0 - 1, r1.HalfWidth - 11, g1),
                Line(r1.HalfWidth - 11, g1, 10, g1),
                Line(10, g1, 10, g0)
            )
        );
        _sideHandles.Add((5.5, g1 + 16, 4.4, 15));
        _sideLamps.Add(new(Belt + 2, y + 2, 5.2, 0));
        _sideLamps.Add(new(Belt + 18, y + 1, 5.2, 0));
        Gap("door/van side", _lastDoorLine, [.07, .93], side: true);
        Gap("rear doors, middle", middle, [.5]);
        Gap("roof/rear doors", _bows["r1"], [.2, .8]);
        Gap("rear door/van side", doorSide, [.25, .8], side: true);
        Gap("rear doors/step", _bows["d1"], [.2, .8]);
        Zone("side", "upper", 0, Belt, 0, 999);
        Zone("side", "front", Belt, Out, 0, RearY - RearR);
        ArchZone("side", RearY, RearR);
        Zone("side", "rear", Belt, Out, RearY + RearR, 999);
    }

    /// <summary>Wood frame: posts, slats, bows; open top.</summary>
    private void BenchTail()
    {
        const double PostHalf = 3.2;
        var (y0, y1, cant, bow0) = (spec.Bays[0].From, spec.Bays[^1].To, spec.Cant, spec.Bows[0]);
        for (var i = 0; i < spec.Bays.Count; i++)
        {
            var (u, v) = spec.Bays[i];
            var (width, slats) = (Out - Belt - 10, spec.Slats);
            for (var j = 0; j < slats; j++)
            {
                var (xa, xb) = (Belt + 5 + width * j / slats, Belt + 5 + width * (j + 1) / slats);
                double Lean(double x) => u + PostHalf + 1 + (i == 0 ? 9 * (x - Belt) / (Out - Belt) : 0);
                var end = v - PostHalf - .6;
                Side(
                    $"bay{i + 1}s{j + 1}",
                    $"bay {i + 1} slat {j + 1}",
                    .6,
                    new(Line(xa, Lean(xa), xb, Lean(xb)), Free),
                    new(Line(xb, Lean(xb), xb, end), .5),
                    new(Line(xb, end, xa, end), Free),
                    new(Line(xa, end, xa, Lean(xa)), .5)
                );
            }

            Plank($"post{i + 2}", $"post {i + 2}", .8, Belt + 5.6, Out - 5.6, v - PostHalf, v + PostHalf);
            Side(
                $"pillar{i + 2}",
                $"pillar {i + 2}",
                .8,
                new(Line(cant + 6, v - 2, Belt - .8, v - 2.6), Free),
                new(Line(Belt - .8, v - 2.6, Belt - .8, v + 2.6), Free),
                new(Line(Belt - .8, v + 2.6, cant + 6, v + 2), Free),
                new(Line(cant + 6, v + 2, cant + 6, v - 2), Free)
            );
        }

        Plank("beltrail", "belt rail", 1, Belt, Belt + 5, y0 + 3, y1 + 4);
        Plank("solerail", "sole rail", 1, Out - 5, Out - .6, y0 + 14, y1 + 4);
        Plank("cant", "cant rail", 1, cant, cant + 5, bow0 - 4, y1 + 4);
        var s = End("s1");
        var (near, far) = (
            Through((s.X + 5, s.Y + 3), (s.X + 6, (s.Y + bow0) / 2), (cant + 2, bow0 - 5)),
            Through((cant + 6, bow0 - 5), (s.X + 12, (s.Y + bow0) / 2), (s.X + 11, s.Y + 4))
        );
        Side(
            "post",
            "screen post",
            .8,
            new(near, Free),
            new(Curves.Line(near[^1], far[0]), Free),
            new(far, Free),
            new(Curves.Line(far[^1], near[0]), Free)
        );
        for (var i = 0; i < spec.Bows.Count; i++)
        {
            var y = spec.Bows[i];
            var (a, b) = (Bow(new(cant - .9, y - 5.5, y)), Bow(new(cant - .9, y + .5, y + 6)));
            Centre(
                $"bow{i + 1}",
                $"Bow {i + 1}",
                .8,
                new(a, Free),
                new(Curves.Line(a[^1], b[^1]), Free),
                new(Reverse(b), Free),
                new(Curves.Line(b[0], a[0]), Free)
            );
        }

        var (f, g) = (Bow(Line("s1").Moved(0, 4.5)), Bow(new(cant - 2, bow0 - 9, bow0 - 4)));
        _openings.Add(Join(f, Curves.Line(f[^1], g[^1]), Reverse(g), Curves.Line(g[0], f[0])));
        var board = Curves.Line(End("t0"), End("t"));
        Centre(
            "tail",
            "Tailboard",
            3,
            new(_bows["t0"], Free),
            new(board, Free),
            new(Reverse(_bows["t"]), Free),
            new(Reverse(Mirror(board)), Free)
        );
        var (t0, t) = (Line("t0"), Line("t"));
        for (var j = 1; j < 5; j++)
        {
            _dark.Add(
                Stroke(
                    -t.HalfWidth + 5,
                    t0.Middle + (t.Middle - t0.Middle) * j / 5,
                    t.HalfWidth - 5,
                    t0.Middle + (t.Middle - t0.Middle) * j / 5
                )
            );
        }

        var (top, bottom, inner) = (RearY - RearR - 11, RearY + RearR + 11, Out + 1.4);
        var root = Through(
            (Axle, bottom),
            (inner + 10, bottom - 9),
            (inner, RearY + 20),
            (inner, RearY),
            (inner, RearY - 20),
            (inner + 10, top + 9),
            (Axle, top)
        );
        Side(
            "rwing",
            "rear wing",
            2,
            new(Line(Axle, top, Axle, RearY - RearR), Free),
            new(RearArch(), Free),
            new(Line(Axle, RearY + RearR, Axle, bottom), Free),
            new(root, Bolted)
        );
        _sideBolts.AddRange([(inner + .2, RearY - 16), (inner + .2, RearY), (inner + .2, RearY + 16)]);
        foreach (var (u, v) in spec.Bays)
        {
            var (y, x) = ((u + v) / 2 + 4, cant - 8);
            _openings.Add(
                Join(
                    Line(-x, y - 13, x, y - 13),
                    Line(x, y - 13, x, y + 13),
                    Line(x, y + 13, -x, y + 13),
                    Line(-x, y + 13, -x, y - 13)
                )
            );
        }
    }

    private void Plank(string key, string name, double corner, double x0, double x1, double y0, double y1) =>
        Side(
            key,
            name,
            corner,
            new(Line(x0, y0, x1, y0), Free),
            new(Line(x1, y0, x1, y1), Free),
            new(Line(x1, y1, x0, y1), Free),
            new(Line(x0, y1, x0, y0), Free)
        );
}

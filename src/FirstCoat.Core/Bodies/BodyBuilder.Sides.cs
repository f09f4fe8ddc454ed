using static FirstCoat.Core.Bodies.Curves;

namespace FirstCoat.Core.Bodies;

/// <summary>Doors, sills, running boards; posts, roof and glass.</summary>
internal sealed partial class BodyBuilder
{
    private void SettleDoors()
    {
        _doors = [.. spec.Doors];
        _firstDoor = _doors.Count > 0 ? _doors[0].From : spec.Bays[0].From;
        _lastDoor = _doors.Count > 0 ? _doors[^1].To : spec.Bays[^1].To;
        if (spec.RearWing > 0 && spec.Tail == Tail.Boot)
        {
            // The last door is cut round the wing: same centre as the wing.
            // On a wide body it reaches the belt all the same.
            var r = Math.Max(RearR + spec.RearWing + 8, (Axle - Belt) / .93);
            _lastDoorLine = Arc(
                Axle,
                RearY,
                r,
                Math.PI + Math.Acos((Axle - Belt) / r),
                Math.PI + Math.Acos((Axle - Out) / r)
            );
            _lastDoor = _lastDoorLine[0].Y;
            _doors[^1] = (_doors[^1].From, _lastDoor);
        }
        else
        {
            _lastDoorLine =
            [
                (Belt, _lastDoor),
                (Belt + 21, _lastDoor + 3),
                (Out - 7, _lastDoor - 3),
                (Out, _lastDoor - spec.DoorLean),
            ];
        }

        _doorLines = [FirstLine(_firstDoor)];
        if (_doors.Count > 0)
        {
            _doorLines.AddRange(
                _doors
                    .SkipLast(1)
                    .Select(d => (Pt[])[(Belt, d.To), (Belt + 16, d.To + 2), (Out - 16, d.To + 3), (Out, d.To + 3)])
            );
            _doorLines.Add(_lastDoorLine);
        }

        var s1 = Line("s1");
        _postFoot = Through(End("s1"), (s1.HalfWidth + .45 * (Belt - s1.HalfWidth), s1.Side + 3), (Belt, _firstDoor));
    }

    private Pt[] FirstLine(double y) => [(Belt, y), (Belt + 13, y + 2), (Out - 15, y + 7), (Out, y + 9)];

    private void Doors()
    {
        for (var i = 0; i < _doors.Count; i++)
        {
            var key = i == 0 ? "door" : "door2";
            var last = i == _doors.Count - 1;
            var (a, b) = (_doorLines[i], _doorLines[i + 1]);
            var low = Curves.Line(a[^1], b[^1]);
            var waist = Through(a[0], (Belt - 1.6, (a[0].Y + b[0].Y) / 2), b[0]);
            Side(
                key,
                _doors.Count == 1 ? "door"
                    : i == 0 ? "front door"
                    : "rear door",
                3,
                new(a, Shut),
                new(low, Shut),
                new(Reverse(b), Shut, last ? 7 : 2.4),
                new(Reverse(waist), Free)
            );
            // A rear-hung door has its handle at the front.
            var handle = spec.RearWing > 0 && i > 0 ? a[0].Y + 25 : b[0].Y - 14;
            SideCrease(1.2, (Belt + 6, a[0].Y + 4), (Belt + 4.6, (a[0].Y + b[0].Y) / 2), (Belt + 6, b[0].Y - 3));
            _sideHandles.Add((Belt + 10, handle - 15, 4.6, 15));
            Zone(key, "top", 0, Belt + 13, 0, 999);
            Zone(key, "skin", Belt + 13, Out - 13, 0, 999);
            Zone(key, "foot", Out - 13, Out + 9, 0, 999);
            Gap(i == 0 ? "door/sill" : "rear door/sill", low, [.5], side: true);
            if (!last)
            {
                Gap("front door/rear door", b, [.1, .9], side: true);
            }
        }
    }

    private void Sills()
    {
        if (spec.Board > 0)
        {
            RunningBoard();
            return;
        }

        var (s0, s1) = (
            FrontY + FrontR + 6,
            spec.Tail == Tail.Pickup ? _lastDoor - spec.DoorLean + 20 : RearY - RearR - 5
        );
        var w = spec.Sill;
        Side(
            "sill",
            "sill",
            3,
            new(Line(Out, s0 + 4, Out, s1 - 4), Shut),
            new(Through((Out, s1 - 4), (Out + w * .45, s1), (Out + w - 3, s1 - 3)), Free),
            new(Through((Out + w - 3, s1 - 3), (Out + w, (s0 + s1) / 2), (Out + w - 3, s0 + 3)), Free),
            new(Through((Out + w - 3, s0 + 3), (Out + w * .45, s0), (Out, s0 + 4)), Free)
        );
        Zone("sill", "front", Out, Out + 30, s0 - 9, s0 + .33 * (s1 - s0));
        Zone("sill", "middle", Out, Out + 30, s0 + .33 * (s1 - s0), s0 + .67 * (s1 - s0));
        Zone("sill", "aft", Out, Out + 30, s0 + .67 * (s1 - s0), s1 + 9);
    }

    private void RunningBoard()
    {
        var bench = spec.Tail == Tail.Bench;
        var from = _firstDoor - 6;
        var to = bench ? RearY - RearR - 12 : RearY - RearR - spec.RearWing - 3;
        var (x, w) = (Out + spec.Drop + 1.2, spec.Board);
        if (!bench)
        {
            var (front, rear) = (
                _firstDoor + 9,
                spec.RearWing > 0 ? _lastDoorLine[^1].Y + 3 : Math.Min(_lastDoorLine[^1].Y + 6, to + 2)
            );
            var outer = Out + spec.Drop - 1;
            Side(
                "sill",
                "sill",
                1.5,
                new(Line(Out, front, Out, rear), Shut),
                new(Line(Out, rear, outer, rear), Free),
                new(Line(outer, rear, outer, front), Bolted),
                new(Line(outer, front, Out, front), Free)
            );
        }

        Side(
            "board",
            "running board",
            3,
            new(Line(x, from, x, to), Free),
            new(Through((x, to), (x + w * .5, to + 2), (x + w, to - 4)), Free),
            new(Line(x + w, to - 4, x + w, from + 7), Free),
            new(Through((x + w, from + 7), (x + w * .5, from + 1), (x, from)), Free)
        );
        for (var j = 1; j < 4; j++)
        {
            _sideDark.Add(Stroke(x + w * j / 4, from + 10, x + w * j / 4, to - 9));
        }

        if (bench)
        {
            Side(
                "apron",
                "apron",
                2.4,
                new(Line(Out, _firstDoor + 1, Out, to), Bolted),
                new(Line(Out, to, x - 1.2, to), Free),
                new(Line(x - 1.2, to, x - 1.2, from + 3), Bolted),
                new(Line(x - 1.2, from + 3, Out, _firstDoor + 1), Free)
            );
        }
    }

    private double RoofEdge(double y) => Between(_roofSide, y, y + .1)[0].X + 5.5;

    private void Hole(CrossLine from, CrossLine to)
    {
        var (f, g) = (Bow(from), Bow(to));
        var middle = ((f[^1].X * .45) + (g[^1].X * .55), (f[^1].Y + g[^1].Y) / 2);
        _openings.Add(
            Join(f, Through(f[^1], middle, g[^1]), Reverse(g), Through(g[0], (-middle.Item1, middle.Item2), f[0]))
        );
    }

    private void Upper()
    {
        var (r0, r1, s) = (Line("r0"), Line("r1"), End("s1"));
        var bulge = spec.RoofBulge;
        _roofSide =
        [
            End("r0"),
            (r0.HalfWidth + bulge, r0.Side + .28 * (r1.Side - r0.Side)),
            (r1.HalfWidth + bulge, r1.Side - .28 * (r1.Side - r0.Side)),
            End("r1"),
        ];
        var foot = Line(s.X + 3.5, s.Y + 3, s.X + 10.5, s.Y + 5);
        Pt q0 = (r0.HalfWidth + 8, r0.Side + 1),
            q1 = (r0.HalfWidth + 3, r0.Side - 1.5);
        static Pt[] Lean(Pt p, Pt q, double k) =>
            [p, (p.X - k, p.Y + .4 * (q.Y - p.Y)), (q.X + k * 1.2, q.Y - .35 * (q.Y - p.Y)), q];
        Side(
            "post",
            "screen post",
            1,
            new(foot, Free),
            new(Lean(foot[^1], q0, 3), Free),
            new(Curves.Line(q0, q1), Seam),
            new(Lean(q1, foot[0], -3), Free)
        );
        Hole(Line("s1").Moved(-1.5, 4.5), r0.Moved(0, -4.5));
        foreach (var k in new[] { -1, 1 })
        {
            _dark.Add(
                Outline.Path(
                    Through(
                        (k * (r0.HalfWidth - 4), r0.Side + 4),
                        (k * (r0.HalfWidth + bulge * .75 - 4), (r0.Side + r1.Side) / 2),
                        (k * (r1.HalfWidth - 4), r1.Side - 4)
                    )
                )
            );
        }

        var depth = r1.Middle - r0.Middle;
        Zone("roof", "front", -99, 99, 0, r0.Middle + .33 * depth);
        Zone("roof", "middle", -99, 99, r0.Middle + .33 * depth, r0.Middle + .67 * depth);
        Zone("roof", "rear", -99, 99, r0.Middle + .67 * depth, 999);
        SideGlass(r0, s);
    }

    private void SideGlass(CrossLine r0, Pt s)
    {
        var bays = _doors.Concat(spec.ExtraGlass).ToList();
        var (top, end) = (r0.Side + 5, spec.GlassEnd);
        for (var i = 0; i < bays.Count; i++)
        {
            var (u, v) = bays[i];
            var last = i == bays.Count - 1;
            Pt lowFront = (Belt - 4, u + (i == 0 ? 5 : 4)),
                lowRear = (Belt - 4, v - (last ? 3 : 4));
            Pt highFront = i > 0 ? (RoofEdge(u + 4), u + 4) : (RoofEdge(top) + .5, top);
            Pt highRear = last ? (RoofEdge(end), end) : (RoofEdge(v - 4), v - 4);
            var front =
                i > 0
                    ? Curves.Line(highFront, lowFront)
                    : Join(
                        [
                            highFront,
                            (highFront.X + 6, highFront.Y - 14),
                            (s.X + 12, _firstDoor + 16),
                            (s.X + 13.5, _firstDoor + 3),
                        ],
                        Curves.Line((s.X + 13.5, _firstDoor + 3), lowFront)
                    );
            Pt[] rear =
                last && end < v - 10
                    ? [lowRear, (lowRear.X - 13, lowRear.Y - 2), (highRear.X + 10, highRear.Y + 15), highRear]
                    : Curves.Line(lowRear, highRear);
            var middle = (highFront.Y + highRear.Y) / 2;
            _sideOpenings.Add(
                Join(
                    front,
                    Through(lowFront, (Belt - 5, (lowFront.Y + lowRear.Y) / 2), lowRear),
                    rear,
                    Through(highRear, (RoofEdge(middle), middle), highFront)
                )
            );
        }

        for (var i = 0; i + 1 < bays.Count; i++)
        {
            var v = bays[i].To;
            var (x0, x1) = (RoofEdge(v) - 4.6, Belt - 1.4);
            Side(
                $"post{i + 2}",
                i == 0 ? "centre post" : "rear post",
                .8,
                new(Line(x0, v - 2.6, x0, v + 2.6), Seam),
                new(Line(x0, v + 2.6, x1, v + 3), Free),
                new(Line(x1, v + 3, x1, v - 3), Free),
                new(Line(x1, v - 3, x0, v - 2.6), Free)
            );
        }
    }
}

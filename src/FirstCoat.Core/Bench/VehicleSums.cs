using FirstCoat.Core.Fitup;
using FirstCoat.Core.Shop;
using static FirstCoat.Core.Bench.BenchFigures;

namespace FirstCoat.Core.Bench;

/// <summary>Wheel in the arch, body under the door, chassis on its wheels.</summary>
internal static class VehicleSums
{
    public static BenchAnswer Wheel(BenchFigures f)
    {
        var (was, now) = (WheelOf(f, "was"), WheelOf(f, ""));
        var measured = new ArchMeasure(
            f.Length("lip", "what is between the wheel on the car and the lip"),
            f.Length("spring", "what is between the wheel on the car and the spring"),
            f.Length("above", "what is above its tyre"),
            f.Length("bump", "what the suspension takes of that")
        );
        var (wantLip, wantSpring) = (
            f.Length("wantLip", "what you want to the lip"),
            f.Length("wantSpring", "what you want to the spring")
        );
        var room = ArchRoom.Of(was, measured, now, wantLip, wantSpring);
        var (tight, close) = (room.LipMm < wantLip - 1e-9, room.SpringMm < wantSpring - 1e-9);
        var error = now.SpeedometerErrorPercent(was);
        var grows = now.Tyre.DiameterMm / was.Tyre.DiameterMm;
        var low = room.AboveMm < 0;
        return new(
            tight ? $"{f.Say(room.LipMm)} to the lip, want {f.Typed(wantLip)}"
                : close ? $"{f.Say(room.SpringMm)} to the spring, want {f.Typed(wantSpring)}"
                : low ? $"{f.Say(-room.AboveMm)} too little above at full bump"
                : $"It clears: {f.Show(room.LipMm)} to the lip, {f.Say(room.SpringMm)} to the spring",
            tight || close || low,
            [
                room.HasRange
                    ? $"Any offset from {Fixed(room.LeastOffsetMm, "0.0")} to {Fixed(room.MostOffsetMm, "0.0")} clears the lip by {f.Typed(wantLip)} and the spring by {f.Typed(wantSpring)}."
                    : $"No offset clears both: the wheel is {f.Say(room.LeastOffsetMm - room.MostOffsetMm)} too wide.",
                .. tight ? new[] { "A spacer makes it worse." }
                : close && room.HasRange
                    ?
                    [
                        $"A spacer of {Fixed(now.OffsetMm - room.MostOffsetMm, "0.0")} mm or more, within the range, would do; its bolts and the hub come first.",
                    ]
                : [],
                "Unloaded, nominal section. The tyre maker's sheet and the local rules come first; turn the lock and try the bump before it is driven.",
            ],
            [
                new("Diameter", f.Show(now.Tyre.DiameterMm), f.Show(was.Tyre.DiameterMm)),
                new("Change", $"{(grows > 1 ? "+" : "")}{Fixed(100 * (grows - 1), "0.00")} %"),
                new(
                    "Speedometer",
                    Math.Abs(error) < 0.005
                        ? "reads the same"
                        : $"{Fixed(Math.Abs(error), "0.00")} % reads {(error > 0 ? "fast" : "slow")}"
                ),
                new("Dial 100, road", Fixed(100 * grows, "0.0")),
                new("Turns a km", Fixed(now.Tyre.RevsPerKm, "0.0"), Fixed(was.Tyre.RevsPerKm, "0.0")),
                new("To the lip", f.Show(room.LipMm), f.Show(measured.LipMm), tight),
                new("To the spring", f.Show(room.SpringMm), f.Show(measured.SpringMm), close),
                new("Above at bump", f.Show(room.AboveMm), f.Show(measured.AboveMm - measured.BumpMm), low),
            ],
            [
                $"{Plain(now.Tyre.RimIn)} × 25.4 + 2 × {Plain(now.Tyre.SectionMm)} × {Plain(now.Tyre.AspectPercent / 100)} = {Fixed(now.Tyre.DiameterMm, "0.0")} mm across",
                $"lip {f.Typed(measured.LipMm)} + ({f.Show(was.OuterMm)} − {f.Show(now.OuterMm)}) = {f.Show(room.LipMm)}",
                $"spring {f.Typed(measured.SpringMm)} + ({f.Show(was.InnerMm)} − {f.Show(now.InnerMm)}) = {f.Show(room.SpringMm)}",
            ],
            new(
                "Edges from the hub's face: half the width − offset outside, + offset inside; the wider of rim and tyre counts."
            ),
            new()
            {
                ["diameterMm"] = now.Tyre.DiameterMm,
                ["sectionMm"] = now.Tyre.SectionMm,
                ["rimMm"] = now.Tyre.RimIn * Tyre.MmPerInch,
                ["rimWidthMm"] = now.RimWidthIn * Tyre.MmPerInch,
                ["offsetMm"] = now.OffsetMm,
                ["outerMm"] = now.OuterMm,
                ["innerMm"] = now.InnerMm,
                ["lipAtMm"] = now.OuterMm + room.LipMm,
                ["springAtMm"] = now.InnerMm + room.SpringMm,
                ["archAtMm"] = was.Tyre.DiameterMm / 2 + measured.AboveMm,
                ["lipMm"] = room.LipMm,
                ["springMm"] = room.SpringMm,
                ["aboveMm"] = room.AboveMm,
                ["leastOffsetMm"] = room.LeastOffsetMm,
                ["mostOffsetMm"] = room.MostOffsetMm,
                ["wasDiameterMm"] = was.Tyre.DiameterMm,
                ["wasSectionMm"] = was.Tyre.SectionMm,
                ["wasOffsetMm"] = was.OffsetMm,
                ["tight"] = tight,
                ["close"] = close,
                ["low"] = low,
            }
        );
    }

    private static Wheel WheelOf(BenchFigures f, string which)
    {
        string Field(string name) => which == "" ? name : which + char.ToUpperInvariant(name[0]) + name[1..];
        var it = which == "" ? "the wheel you try" : "the wheel on the car";
        Refusal.When(!f.Has(Field("tyre")), Field("tyre"), "Write the tyre as on its side: 245/40R18.");
        Tyre tyre;
        try
        {
            tyre = Tyre.Read(f.Text(Field("tyre")));
        }
        catch (Refusal refusal)
        {
            throw new Refusal(Field("tyre"), refusal.Message);
        }

        var wheel = new Wheel(
            tyre,
            f.Number(Field("rim"), $"the rim width of {it} in inches"),
            f.Number(Field("offset"), $"the offset of {it}")
        );
        Refusal.When(wheel.RimWidthIn <= 0, Field("rim"), "The rim is wider than nothing.");
        return wheel;
    }

    public static BenchAnswer Door(BenchFigures f)
    {
        var (body, dolly) = (f.Length("body", "the body's height"), f.Length("dolly", "the dolly's height"));
        var (margin, door) = (f.Length("margin", "the margin"), f.Length("door", "the door's height"));
        var clear = DoorClearance.Of(body, dolly, margin, door);
        return new(
            clear.Fits ? $"It passes with {f.Say(clear.SpareMm)} to spare" : $"{f.Say(clear.LowerByMm)} too high",
            !clear.Fits,
            clear.Fits ? []
                : clear.DollyAloneSuffices ? [$"A dolly of {f.Say(dolly - clear.LowerByMm)} or less is enough."]
                :
                [
                    "The dolly alone is not enough: lower the body on its mounts, take the wheels off, or use another door.",
                ],
            [
                new("Needs", f.Show(clear.NeededMm)),
                new("Door", f.Show(door)),
                new("Left", f.Show(clear.SpareMm), IsWrong: !clear.Fits),
            ],
            [$"{f.Typed(door)} − ({f.Typed(body)} + {f.Typed(dolly)} + {f.Typed(margin)}) = {f.Show(clear.SpareMm)}"],
            new("Counting; the margin is the shop's own."),
            new()
            {
                ["bodyMm"] = body,
                ["dollyMm"] = dolly,
                ["marginMm"] = margin,
                ["doorMm"] = door,
                ["spareMm"] = clear.SpareMm,
                ["fits"] = clear.Fits,
            }
        );
    }

    public static BenchAnswer Chassis(BenchFigures f)
    {
        var (left, right) = (
            f.Extent("wheelbaseLeft", "the left wheelbase"),
            f.Extent("wheelbaseRight", "the right wheelbase")
        );
        var track = f.Extent("track", "the track");
        var skew = Frame.SkewDeg(left, right, track);
        var (rows, worked, wrong) = (new List<BenchRow>(), new List<string>(), new List<string>());
        rows.Add(
            new(
                "Skew",
                $"{Fixed(Math.Abs(skew), "0.000")}°",
                left > right ? "left longer"
                    : left < right ? "right longer"
                    : ""
            )
        );
        worked.Add($"arctan(({f.Typed(left)} − {f.Typed(right)}) / {f.Typed(track)}) = {Fixed(skew, "0.0000")}°");
        if (Math.Abs(left - right) > Slack)
        {
            wrong.Add($"the {(left > right ? "left" : "right")} wheelbase is {f.Say(Math.Abs(left - right))} longer");
        }

        double? front = Axle("front"),
            rear = Axle("rear");
        var twist = (FrameTwist?)null;
        string[] corners = ["fl", "fr", "rl", "rr"];
        if (corners.Any(f.Has))
        {
            double[] z =
            [
                .. corners.Zip(["front left", "front right", "rear left", "rear right"], (c, name) =>
                    f.Length(c, $"the height at the {name}")
                ),
            ];
            twist = Frame.Twist(z[0], z[1], z[2], z[3]);
            rows.Add(new("Twist", f.Show(twist.Value.ResidualMm)));
            rows.Add(
                new(
                    "Under the fourth corner",
                    f.Show(twist.Value.CornerGapMm),
                    IsWrong: twist.Value.CornerGapMm > Slack
                )
            );
            worked.Add(
                $"|{f.Typed(z[0])} − {f.Typed(z[1])} − {f.Typed(z[2])} + {f.Typed(z[3])}| / 4 = {f.Show(twist.Value.ResidualMm)}; four times that is the gap under the fourth corner"
            );
            if (twist.Value.CornerGapMm > Slack)
            {
                wrong.Add(
                    $"it stands on three corners with {f.Say(twist.Value.CornerGapMm)} under the fourth; high from {(twist.Value.FrontLeftHigh == true ? "front left to rear right" : "front right to rear left")}"
                );
            }
        }

        return new(
            wrong.Count == 0 ? "Straight, as far as it was measured" : Capital(wrong[0]),
            wrong.Count > 0,
            [
                .. wrong.Skip(1).Select(w => Capital(w) + "."),
                $"Said from {f.Say(Slack)} on, a rule of thumb; the maker's sheet decides. A frame is pulled by who is trained and equipped for it.",
            ],
            rows,
            worked,
            new(
                "Skew: arctangent of the difference over the track. Centring: half the difference. Twist: residual of the least-squares plane on a rectangle."
            ),
            new()
            {
                ["leftMm"] = left,
                ["rightMm"] = right,
                ["trackMm"] = track,
                ["skewDeg"] = skew,
                ["frontOffMm"] = front,
                ["rearOffMm"] = rear,
                ["twistMm"] = twist?.ResidualMm,
                ["cornerGapMm"] = twist?.CornerGapMm,
                ["frontLeftHigh"] = twist?.FrontLeftHigh,
                ["isLongerOff"] = Math.Abs(left - right) > Slack,
            }
        );

        double? Axle(string which)
        {
            if (!f.Has($"{which}Left") && !f.Has($"{which}Right"))
            {
                return null;
            }

            var l = f.Length($"{which}Left", $"the {which} axle from the centre line to the left");
            var r = f.Length($"{which}Right", $"the {which} axle from the centre line to the right");
            Refusal.When(l <= 0, $"{which}Left", "A distance from the centre line is more than nothing.");
            Refusal.When(r <= 0, $"{which}Right", "A distance from the centre line is more than nothing.");
            var off = Frame.OffCentreMm(l, r);
            var isOff = Math.Abs(off) > Slack;
            rows.Add(
                new(
                    $"{Capital(which)} axle off centre",
                    f.Show(Math.Abs(off)),
                    off > 0 ? "to the right"
                        : off < 0 ? "to the left"
                        : "",
                    isOff
                )
            );
            worked.Add($"{which}: ({f.Typed(r)} − {f.Typed(l)}) / 2 = {f.Show(off)}");
            if (isOff)
            {
                wrong.Add($"the {which} axle stands {f.Say(Math.Abs(off))} too far {(off > 0 ? "right" : "left")}");
            }

            return off;
        }
    }

    /// <summary>Rule of thumb: less than that is the tape's, in millimetres.</summary>
    private const double Slack = 2;

    internal static string Capital(string words) => char.ToUpperInvariant(words[0]) + words[1..];
}

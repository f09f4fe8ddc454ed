using FirstCoat.Core.Bodies;

namespace FirstCoat.Core.Fitup;

/// <summary>How a panel that hangs is moved: a shim behind a hinge, and all of it along or across the body.</summary>
/// <param name="ShimMm">Behind the hinge named; nothing: none.</param>
/// <param name="RaiseMm">At both hinges; negative: lowered.</param>
/// <param name="RearwardMm">Along the vehicle; negative: forward.</param>
/// <param name="RightMm">Across the vehicle; negative: to the left. For lids.</param>
/// <param name="TurnMmPerM">Seen from above, clockwise: the rear of the lid goes left of its front. For lids.</param>
public sealed record FitMove(
    double ShimMm = 0,
    Hinge? Behind = null,
    double RaiseMm = 0,
    double RearwardMm = 0,
    double RightMm = 0,
    double TurnMmPerM = 0
)
{
    private const double MostMm = 100;

    /// <summary>Less than this nobody sets.</summary>
    private const double Finest = .05;

    /// <exception cref="Refusal">More than any panel is moved.</exception>
    public void Check() =>
        Refusal.Each(
            () =>
                Refusal.When(
                    !(ShimMm is >= 0 and <= MostMm),
                    "shimMm",
                    "A shim is nothing or more, and up to 100 mm thick."
                ),
            () => Refusal.When(ShimMm > 0 && Behind is null, "behind", "Say behind which hinge the shim goes."),
            () => Within(RaiseMm, "raiseMm"),
            () => Within(RearwardMm, "rearwardMm"),
            () => Within(RightMm, "rightMm"),
            () => Within(TurnMmPerM, "turnMmPerM")
        );

    /// <summary>To the tenth of a millimetre that can be set.</summary>
    public FitMove Rounded() =>
        new(
            Tenth(ShimMm),
            Tenth(ShimMm) == 0 ? null : Behind,
            Tenth(RaiseMm),
            Tenth(RearwardMm),
            Tenth(RightMm),
            Tenth(TurnMmPerM)
        );

    /// <summary>What is done, one step a line; none: it stays as it hangs.</summary>
    public IReadOnlyList<string> Steps() =>
        [
            .. ShimMm >= Finest && Behind is { } hinge
                ? [$"{ShimMm:0.0} mm behind the {(hinge == Hinge.Lower ? "lower" : "upper")} hinge"]
                : Array.Empty<string>(),
            .. Step(RaiseMm, "raise {0} mm at both hinges", "lower {0} mm at both hinges"),
            .. Step(RearwardMm, "move {0} mm to the rear", "move {0} mm forward"),
            .. Step(RightMm, "move {0} mm to the right", "move {0} mm to the left"),
            .. Step(
                TurnMmPerM,
                "turn its rear to the left, {0} mm in a metre",
                "turn its rear to the right, {0} mm in a metre"
            ),
        ];

    private static string[] Step(double mm, string up, string down) =>
        Math.Abs(mm) < Finest
            ? []
            :
            [
                string.Format(
                    System.Globalization.CultureInfo.InvariantCulture,
                    mm > 0 ? up : down,
                    Math.Abs(mm).ToString("0.0", System.Globalization.CultureInfo.InvariantCulture)
                ),
            ];

    private static double Tenth(double mm) => Math.Round(mm, 1, MidpointRounding.AwayFromZero) + 0.0;

    private static void Within(double mm, string field) =>
        Refusal.When(!(Math.Abs(mm) <= MostMm), field, "No panel is moved by more than 100 mm.");
}

/// <summary>An edge of a panel that hangs.</summary>
public enum PanelEdge
{
    Front,
    Rear,
    Bottom,
    Left,
    Right,
}

/// <summary>A line along an edge of a panel that hangs.</summary>
/// <param name="XMm">Of each station, behind the panel's front edge.</param>
/// <param name="YMm">Of each station: above the lower edge of a door; right of the centre line for a lid.</param>
public sealed record EdgeLine(GapLine Line, PanelEdge Edge, IReadOnlyList<double> XMm, IReadOnlyList<double> YMm);

/// <summary>A door or lid as it hangs in its opening: what moving it does to every line round it.</summary>
/// <remarks>Source: a rigid panel turned by a small angle; the gap changes by what its edge moves along the gap. For a
/// shim s over hinges h apart the angle is s / h (similar triangles), about the hinge that is left alone.</remarks>
public sealed class HungPanel
{
    private readonly DoorHang? _hang;
    private readonly double _middleX,
        _middleY;

    private HungPanel(string key, bool isDoor, DoorHang? hang, bool isMeasured, double lengthMm, double heightMm)
    {
        (Key, IsDoor, _hang, IsMeasured, LengthMm, HeightMm) = (key, isDoor, hang, isMeasured, lengthMm, heightMm);
        (_middleX, _middleY) = (lengthMm / 2, 0);
    }

    public string Key { get; }

    /// <summary>It hangs at its front edge; else it is a lid.</summary>
    public bool IsDoor { get; }

    /// <summary>Along the vehicle.</summary>
    public double LengthMm { get; }

    /// <summary>Of a door from its lower edge up; of a lid across.</summary>
    public double HeightMm { get; }

    /// <summary>Whether its hinges were measured; else they are taken from the body's drawing.</summary>
    public bool IsMeasured { get; }

    /// <summary>Null for a lid.</summary>
    public DoorHang? Hang => _hang;

    public IReadOnlyList<EdgeLine> Lines { get; private set; } = [];

    /// <summary>The panel of a key with the lines round it.</summary>
    /// <param name="hangs">Doors whose hinges were measured.</param>
    /// <exception cref="Refusal">The panel does not hang, or has no line.</exception>
    public static HungPanel Of(Body body, IReadOnlyList<GapLine> lines, IReadOnlyList<DoorHang> hangs, string key)
    {
        var panel = body.Panels.FirstOrDefault(p => p.Key == key) ?? throw Refusal.Missing("panel");
        var mine = lines.Where(l => l.Between.Contains(key)).ToList();
        Refusal.When(!BodyPanel.Hangs(key) || mine.Count == 0, "panel", $"{panel.Name} does not hang on hinges.");
        // A door of a side hangs at its front; doors at the back open like lids here.
        var isDoor = panel.Side != PanelSide.Centre && key.StartsWith("door", StringComparison.Ordinal);
        var (front, rear) = (panel.Polygon.Min(p => p.Y), panel.Polygon.Max(p => p.Y));
        var (low, high) = (panel.Polygon.Max(p => Math.Abs(p.X)), panel.Polygon.Min(p => Math.Abs(p.X)));
        var length = (rear - front) * 10;
        var height = isDoor ? (low - high) * 10 : (panel.Polygon.Max(p => p.X) - panel.Polygon.Min(p => p.X)) * 10;
        var measured = hangs.FirstOrDefault(h => h.Panel == key);
        return new(
            key,
            isDoor,
            isDoor ? measured ?? Drawn(key, length, height) : null,
            measured is not null,
            length,
            height
        )
        {
            Lines =
            [
                .. mine.Select(l => new EdgeLine(
                    l,
                    EdgeOf(l),
                    [.. l.At.Select(p => (p.Y - front) * 10)],
                    [.. l.At.Select(p => isDoor ? (low - Math.Abs(p.X)) * 10 : p.X * 10)]
                )),
            ],
        };

        PanelEdge EdgeOf(GapLine l)
        {
            var (x, y) = (l.At.Average(p => p.X), l.At.Average(p => p.Y));
            if (!l.RunsAlong)
            {
                return y < (front + rear) / 2 ? PanelEdge.Front : PanelEdge.Rear;
            }

            return isDoor ? PanelEdge.Bottom
                : x < panel.Polygon.Average(p => p.X) ? PanelEdge.Left
                : PanelEdge.Right;
        }
    }

    /// <summary>Where the hinges of a door usually are, as long as nobody has measured: a rule of thumb.</summary>
    private static DoorHang Drawn(string key, double length, double height) =>
        new(key, Math.Round(height * .45), Math.Round(height * .2), Math.Round(length));

    /// <summary>By how much the gap at a station of a line changes, in millimetres.</summary>
    public double Change(EdgeLine line, int station, FitMove move)
    {
        var (x, y) = (line.XMm[station], line.YMm[station]);
        var (right, rearward, up) = IsDoor ? OfDoor(x, y, move) : OfLid(x, y, move);
        return line.Edge switch
        {
            PanelEdge.Front => rearward,
            PanelEdge.Rear => -rearward,
            PanelEdge.Bottom => up,
            PanelEdge.Left => right,
            _ => -right,
        };
    }

    private (double Right, double Rearward, double Up) OfDoor(double x, double y, FitMove move)
    {
        var angle = move.Behind switch
        {
            Hinge.Lower => move.ShimMm / _hang!.HingeSpacingMm,
            Hinge.Upper => -move.ShimMm / _hang!.HingeSpacingMm,
            _ => 0,
        };
        // It turns about the hinge that is left alone, which lies so far before the rear edge.
        var pivot = _hang!.LowerHingeUpMm + (move.Behind == Hinge.Lower ? _hang.HingeSpacingMm : 0);
        var hinges = LengthMm - _hang.HingeToRearMm;
        return (0, move.RearwardMm - angle * (y - pivot), move.RaiseMm + angle * (x - hinges));
    }

    private (double Right, double Rearward, double Up) OfLid(double x, double y, FitMove move)
    {
        var angle = move.TurnMmPerM / 1000;
        return (move.RightMm - angle * (x - _middleX), move.RearwardMm + angle * (y - _middleY), 0);
    }
}

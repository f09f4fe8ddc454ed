using FirstCoat.Core.Bodies;

namespace FirstCoat.Core.Fitup;

/// <summary>Within what gap and flush of a line are good, in millimetres.</summary>
/// <param name="ToleranceMm">By so much each station may be off the target.</param>
/// <param name="RangeMm">By so much the widest may differ from the tightest.</param>
/// <param name="FlushMm">By so much one panel may stand above the other.</param>
public sealed record FitLimits(double TargetMm, double ToleranceMm, double RangeMm, double FlushMm)
{
    /// <summary>A rule of thumb for edges that are painted; the shop's own agreement comes first.</summary>
    public static FitLimits Painted { get; } = new(4, .8, .8, .6);

    /// <summary>A rule of thumb for lines beside bright metal, which shows more than a painted edge.</summary>
    public static FitLimits Bright { get; } = new(4, .5, .5, .4);

    private const double Most = 50;

    public GapLimits ForGaps() => new(TargetMm, ToleranceMm, RangeMm);

    /// <exception cref="Refusal">A figure that no line has.</exception>
    public void Check() =>
        Refusal.Each(
            () => Between(TargetMm, "targetMm", "The target"),
            () => Between(ToleranceMm, "toleranceMm", "The tolerance"),
            () => Between(RangeMm, "rangeMm", "The range"),
            () => Between(FlushMm, "flushMm", "The flush")
        );

    private static void Between(double value, string field, string what) =>
        Refusal.When(!(value is >= 0 and <= Most), field, $"{what} is between 0 and {Most:0} mm.");
}

/// <summary>What is special about one line of a build.</summary>
/// <param name="Line">Its key.</param>
/// <param name="IsBright">It has bright metal beside it.</param>
/// <param name="Own">Limits of its own; null: those of its edges.</param>
/// <param name="LeftOut">Why this vehicle's line is not read; empty: it is.</param>
public sealed record LineTerms(string Line, bool IsBright = false, FitLimits? Own = null, string LeftOut = "");

/// <summary>How a door hangs, as it was measured, in millimetres.</summary>
/// <param name="Panel">The door's key.</param>
/// <param name="HingeSpacingMm">From hinge to hinge.</param>
/// <param name="LowerHingeUpMm">The lower hinge above the door's lower edge.</param>
/// <param name="HingeToRearMm">From the hinges to the door's rear edge.</param>
public sealed record DoorHang(string Panel, double HingeSpacingMm, double LowerHingeUpMm, double HingeToRearMm)
{
    private const double Most = 3000;

    /// <exception cref="Refusal">A figure that no door has.</exception>
    public void Check() =>
        Refusal.Each(
            () =>
                Refusal.When(
                    !(HingeSpacingMm is > 0 and <= Most),
                    "hingeSpacingMm",
                    "The hinges lie apart, by up to 3 m."
                ),
            () =>
                Refusal.When(
                    !(LowerHingeUpMm is >= 0 and <= Most),
                    "lowerHingeUpMm",
                    "The lower hinge lies above the door's lower edge."
                ),
            () =>
                Refusal.When(
                    !(HingeToRearMm is > 0 and <= Most),
                    "hingeToRearMm",
                    "The rear edge lies behind the hinges, by up to 3 m."
                )
        );
}

/// <summary>By what the lines of a build are judged.</summary>
public sealed class FitSheet : Entity
{
    public required Guid BuildId { get; init; }

    /// <summary>For lines between painted edges.</summary>
    public FitLimits Painted { get; set; } = FitLimits.Painted;

    /// <summary>For lines beside bright metal.</summary>
    public FitLimits Bright { get; set; } = FitLimits.Bright;

    /// <summary>Film that is still to come on one edge, in micrometres; null: nobody has said.</summary>
    public double? FilmUm { get; set; }

    public List<LineTerms> Lines { get; set; } = [];

    public List<DoorHang> Doors { get; set; } = [];

    private const double MostFilmUm = 5000;

    /// <param name="lines">Of the build's body.</param>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(IReadOnlyList<GapLine> lines)
    {
        Painted.Check();
        Bright.Check();
        Refusal.When(
            FilmUm is { } film && !(film is >= 0 and <= MostFilmUm),
            "filmUm",
            "The film still to come is between 0 and 5,000 µm."
        );
        var keys = lines.Select(l => l.Key).ToHashSet();
        Refusal.When(
            Lines.Exists(l => !keys.Contains(l.Line)) || Lines.DistinctBy(l => l.Line).Count() < Lines.Count,
            "lines",
            "Each line of this body is named once."
        );
        Refusal.When(Lines.Exists(l => l.LeftOut.Length > 200), "leftOut", "Up to 200 characters.");
        var panels = lines.SelectMany(l => l.Between).ToHashSet();
        Refusal.When(
            Doors.Exists(d => !panels.Contains(d.Panel)) || Doors.DistinctBy(d => d.Panel).Count() < Doors.Count,
            "doors",
            "Each door of this body is named once."
        );
        Refusal.When(Doors.Exists(d => !BodyPanel.Hangs(d.Panel)), "doors", "Only what hangs has hinges.");
        Lines.ForEach(l => l.Own?.Check());
        Doors.ForEach(d => d.Check());
    }

    public LineTerms Of(GapLine line) => Lines.Find(l => l.Line == line.Key) ?? new(line.Key);

    public FitLimits LimitsOf(GapLine line) =>
        Of(line) is var terms && terms.Own is { } own ? own
        : terms.IsBright ? Bright
        : Painted;
}

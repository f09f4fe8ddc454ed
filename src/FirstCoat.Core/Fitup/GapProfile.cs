using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Fitup;

/// <summary>A gap as it was read somewhere along a shut line, in millimetres.</summary>
/// <param name="PosMm">Along the line.</param>
public readonly record struct GapStation(double PosMm, double GapMm);

/// <summary>Within what a gap is good, in millimetres.</summary>
/// <param name="ToleranceMm">By so much each station may be off the target.</param>
/// <param name="RangeMm">By so much the widest may differ from the tightest.</param>
public readonly record struct GapLimits(double TargetMm, double ToleranceMm, double RangeMm);

/// <summary>What is wrong with a gap.</summary>
public enum GapFault
{
    TooTight,
    TooWide,
    NotUniform,
}

/// <summary>A shut line by its readings. A mean never passes or fails a line by itself.</summary>
/// <param name="TaperMmPerM">How much it widens along the line, in mm per m; null: all was read at one place.</param>
/// <param name="Off">Stations off the target by more than the tolerance, by their place in the list.</param>
public sealed record GapProfile(
    double MeanMm,
    double RangeMm,
    double? TaperMmPerM,
    IReadOnlyList<GapFault> Faults,
    IReadOnlyList<int> Off
)
{
    public bool Passes => Faults.Count == 0;

    /// <summary>Judges a line. Source: mean and range; taper by least squares, 1000 sum((x - xm)(g - gm)) /
    /// sum((x - xm)^2). Answers are unrounded.</summary>
    /// <param name="stations">In any order.</param>
    /// <exception cref="Refusal">No station, or a gap, target, tolerance or limit below nothing.</exception>
    public static GapProfile Of(IReadOnlyList<GapStation> stations, GapLimits limits)
    {
        Refusal.When(stations.Count == 0, "stations", "Read the gap at one place at least.");
        Refusal.When(stations.Any(s => s.GapMm < 0), "gapMm", "A gap is nothing or more.");
        Refusal.When(limits.TargetMm < 0, "targetMm", "The target is nothing or more.");
        Refusal.When(limits.ToleranceMm < 0, "toleranceMm", "The tolerance is nothing or more.");
        Refusal.When(limits.RangeMm < 0, "rangeLimitMm", "The limit of the range is nothing or more.");
        var (x, g) = (stations.Average(s => s.PosMm), stations.Average(s => s.GapMm));
        var range = stations.Max(s => s.GapMm) - stations.Min(s => s.GapMm);
        var spread = stations.Sum(s => (s.PosMm - x) * (s.PosMm - x));
        var off = stations
            .Select((s, i) => (i, By: s.GapMm - limits.TargetMm))
            .Where(s => !Near.AtMost(Math.Abs(s.By), limits.ToleranceMm))
            .ToList();
        List<GapFault> faults =
        [
            .. off.Exists(s => s.By < 0) ? [GapFault.TooTight] : Array.Empty<GapFault>(),
            .. off.Exists(s => s.By > 0) ? [GapFault.TooWide] : Array.Empty<GapFault>(),
            .. Near.AtMost(range, limits.RangeMm) ? Array.Empty<GapFault>() : [GapFault.NotUniform],
        ];
        return new(
            g,
            range,
            spread == 0 ? null : 1000 * stations.Sum(s => (s.PosMm - x) * (s.GapMm - g)) / spread,
            faults,
            [.. off.Select(s => s.i)]
        );
    }
}

/// <summary>Which hinge of a door is packed.</summary>
public enum Hinge
{
    Upper,
    Lower,
}

/// <summary>The shim behind one hinge that lifts or drops the far edge of a door, the other hinge left alone.</summary>
/// <param name="ThicknessMm">Of the shim.</param>
/// <param name="Behind">Null: the far edge stands where it should.</param>
public readonly record struct HingeShim(double ThicknessMm, Hinge? Behind)
{
    /// <summary>Source: similar triangles, s h / L; exact where the drop is taken at the height of the hinge that is
    /// left alone.</summary>
    /// <param name="rearDropMm">How far the far edge hangs; negative: it stands too high.</param>
    /// <param name="hingeSpacingMm">From hinge to hinge.</param>
    /// <param name="hingeToRearMm">From the hinges to the far edge.</param>
    /// <exception cref="Refusal">No spacing, no length, or a drop as long as the door.</exception>
    public static HingeShim For(double rearDropMm, double hingeSpacingMm, double hingeToRearMm)
    {
        Refusal.When(hingeSpacingMm <= 0, "hingeSpacingMm", "The hinges lie apart.");
        Refusal.When(hingeToRearMm <= 0, "hingeToRearMm", "The far edge lies behind the hinges.");
        Refusal.When(
            Math.Abs(rearDropMm) >= hingeToRearMm,
            "rearDropMm",
            "No door hangs by as much as it is long: read it again."
        );
        return new(
            Math.Abs(rearDropMm) * hingeSpacingMm / hingeToRearMm,
            rearDropMm > 0 ? Hinge.Lower
                : rearDropMm < 0 ? Hinge.Upper
                : null
        );
    }
}

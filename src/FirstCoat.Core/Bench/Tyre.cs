using System.Globalization;
using System.Text.RegularExpressions;

namespace FirstCoat.Core.Bench;

/// <summary>A tyre by the marks on its side, unloaded; in millimetres.</summary>
/// <param name="SectionMm">Nominal width, not corrected for the rim's.</param>
/// <param name="AspectPercent">Height of the sidewall in percent of the section.</param>
/// <param name="RimIn">Diameter of the rim, in inches.</param>
public sealed partial record Tyre(double SectionMm, double AspectPercent, double RimIn)
{
    public const double MmPerInch = 25.4;

    public double SidewallMm => SectionMm * AspectPercent / 100;

    public double DiameterMm => MmPerInch * RimIn + 2 * SidewallMm;

    public double CircumferenceMm => Math.PI * DiameterMm;

    public double RevsPerKm => 1e6 / CircumferenceMm;

    /// <summary>Reads "245/40R18", with spaces, in lower case, with a leading P, ZR, and marks of load and speed behind
    /// it.</summary>
    /// <exception cref="Refusal">Other text, or a figure of nothing.</exception>
    public static Tyre Read(string marks)
    {
        var m = Marks().Match(marks);
        double Figure(int group) =>
            m.Success ? double.Parse(m.Groups[group].Value, NumberStyles.Float, CultureInfo.InvariantCulture) : 0;
        var tyre = new Tyre(Figure(1), Figure(2), Figure(3));
        Refusal.When(
            tyre.SectionMm <= 0 || tyre.AspectPercent <= 0 || tyre.RimIn <= 0,
            "tyre",
            "Write the tyre as on its side: 245/40R18."
        );
        return tyre;
    }

    [GeneratedRegex(
        @"^\s*P?\s*(\d{1,4}(?:\.\d+)?)\s*/\s*(\d{1,3}(?:\.\d+)?)\s*Z?\s*R\s*(\d{1,2}(?:\.\d+)?)(?:\s*\(?\d{2,3}(?:/\d{2,3})?\s*[A-Z]\d?\)?)?\s*(?:XL|C)?\s*$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Marks();
}

/// <summary>A wheel with its tyre as it stands on a hub.</summary>
/// <param name="RimWidthIn">Between the beads, in inches.</param>
/// <param name="OffsetMm">Positive: the face lies outboard of the rim's middle.</param>
public sealed record Wheel(Tyre Tyre, double RimWidthIn, double OffsetMm)
{
    private double HalfRimMm => Tyre.MmPerInch * RimWidthIn / 2;

    /// <summary>From the hub's face to an edge, outboard and inboard.</summary>
    public double RimOuterMm => HalfRimMm - OffsetMm;

    public double RimInnerMm => HalfRimMm + OffsetMm;

    public double TyreOuterMm => Tyre.SectionMm / 2 - OffsetMm;

    public double TyreInnerMm => Tyre.SectionMm / 2 + OffsetMm;

    /// <summary>From the hub's face to the wider of rim and tyre, outboard and inboard.</summary>
    public double OuterMm => Math.Max(RimOuterMm, TyreOuterMm);

    public double InnerMm => Math.Max(RimInnerMm, TyreInnerMm);

    /// <exception cref="Refusal">A rim of no width.</exception>
    public void Check() => Refusal.When(RimWidthIn <= 0, "rimWidthIn", "The rim is wider than nothing.");

    /// <summary>By how many percent the speedometer reads too fast with these wheels instead of others; negative: too
    /// slow. Source: (shown - true) / true = D1 / D2 - 1.</summary>
    public double SpeedometerErrorPercent(Wheel instead) => 100 * (instead.Tyre.DiameterMm / Tyre.DiameterMm - 1);
}

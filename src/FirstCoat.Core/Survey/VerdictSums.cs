using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;

namespace FirstCoat.Core.Survey;

/// <summary>What a verdict is reckoned with.</summary>
/// <param name="Rates">Billing rate per hour of each trade.</param>
/// <param name="DelayPerDay">What a day of waiting costs the build.</param>
/// <param name="Seen">Whether the place is seen on the finished vehicle.</param>
public sealed record VerdictTerms(
    IReadOnlyDictionary<Trade, decimal> Rates,
    decimal DelayPerDay,
    FinishGrade Grade,
    bool Seen,
    IReadOnlyList<SheetStock>? Sheets = null
);

/// <summary>One way with its sum taken apart.</summary>
/// <param name="Hidden">The allowance for hidden damage: the total less everything else.</param>
/// <param name="Barred">Why it may not be chosen; null: it may.</param>
/// <param name="BreakEvenHours">Hours at which it costs as much as the cheapest other allowed way; null: no hours would
/// do, or there is no other.</param>
public sealed record OptionSum(
    FindingOption Option,
    decimal Labour,
    decimal Material,
    decimal Part,
    decimal Freight,
    decimal Wait,
    decimal Hidden,
    decimal Total,
    string? Barred,
    decimal? BreakEvenHours,
    Verdict? Against
);

/// <summary>The four ways to deal with a finding side by side.</summary>
/// <remarks>Source: rule of thumb, as <see cref="RepairOptions"/>.</remarks>
public sealed record VerdictSums(IReadOnlyList<OptionSum> Ways, Verdict? Cheapest)
{
    /// <summary>Leaving it costs nothing; it is always among the ways.</summary>
    public static readonly FindingOption Leaving = new(Verdict.Leave, 0, Trade.Hand);

    private static readonly FindingKind[] Showing =
    [
        FindingKind.Dent,
        FindingKind.Crease,
        FindingKind.Filler,
        FindingKind.RustThrough,
        FindingKind.Pitting,
        FindingKind.EarlierPatch,
        FindingKind.PanelOverPanel,
        FindingKind.Missing,
        FindingKind.WrongPart,
        FindingKind.Crack,
        FindingKind.Twisted,
        FindingKind.Collision,
    ];

    /// <summary>Reckons every way of a finding, in the order leave, repair, replace, fabricate.</summary>
    public static VerdictSums Of(Finding finding, VerdictTerms terms)
    {
        var options = finding.Options.Any(o => o.Verdict == Verdict.Leave)
            ? finding.Options
            : finding.Options.Prepend(Leaving).ToList();
        var reckoned = options
            .OrderBy(o => o.Verdict)
            .Select(o => (Option: o, Sum: ToRepair(o, finding, terms), Barred: BarredBecause(o, finding, terms)))
            .ToList();
        var ranking = RepairOptions
            .Rank(reckoned.Where(r => r.Barred is null).Select(r => r.Sum).ToList(), structural: false)
            .Ranking;
        return new(
            reckoned
                .Select(r => Row(r.Option, r.Sum, r.Barred, ranking.FirstOrDefault(x => x.Verdict != r.Sum.Verdict)))
                .ToList(),
            ranking.Count > 0 ? ranking[0].Verdict : null
        );
    }

    /// <summary>Why one of the ways may not be taken; null: it may.</summary>
    public string? BarredBecause(Verdict verdict) => Ways.FirstOrDefault(w => w.Option.Verdict == verdict)?.Barred;

    /// <summary>Why a way may not be chosen.</summary>
    public static string? BarredBecause(FindingOption option, Finding finding, VerdictTerms terms) =>
        option.Verdict switch
        {
            Verdict.Leave when finding.Structural => "structural, may not be left",
            Verdict.Leave when terms.Seen && terms.Grade != FinishGrade.Driver && Showing.Contains(finding.Kind) =>
                "it would show at this finish",
            Verdict.Replace when option.NotSold => "not sold new",
            _ => null,
        };

    /// <summary>Sheet for the drawn area and other material, at cost.</summary>
    public static decimal MaterialOf(FindingOption option, Finding finding, VerdictTerms terms) =>
        Cents.Round(option.Material + SheetM2Of(option, finding, terms) * (decimal)finding.AreaM2);

    /// <summary>
    /// What a square metre of its sheet costs: as it was judged, else the shop's sheet of the thickness found there,
    /// where new metal goes in.
    /// </summary>
    private static decimal SheetM2Of(FindingOption o, Finding finding, VerdictTerms terms) =>
        o.SheetM2Price > 0 ? o.SheetM2Price
        : o.Verdict is Verdict.Repair or Verdict.Fabricate && o.Trade == Trade.Metal
            ? terms.Sheets?.FirstOrDefault(s => s.GaugeMm == finding.GaugeMm)?.M2Price ?? 0
        : 0;

    private static RepairOption ToRepair(FindingOption o, Finding finding, VerdictTerms terms) =>
        new(
            $"{o.Verdict}",
            o.Verdict,
            o.Hours,
            terms.Rates.GetValueOrDefault(o.Trade),
            MaterialOf(o, finding, terms),
            o.Part,
            o.Freight,
            o.LeadDays,
            terms.DelayPerDay,
            o.RiskPercent
        );

    private static OptionSum Row(FindingOption option, RepairOption sum, string? barred, RepairOption? other)
    {
        var (labour, wait) = (Cents.Round(sum.Hours * sum.Rate), Cents.Round(sum.LeadDays * sum.DelayPerDay));
        var known = labour + sum.Material + sum.Part + sum.Freight + wait;
        var even = barred is null && other is not null ? RepairOptions.BreakEvenHours(sum, other) : null;
        return new(
            option,
            labour,
            sum.Material,
            sum.Part,
            sum.Freight,
            wait,
            sum.Total - known,
            sum.Total,
            barred,
            even,
            even is null ? null : other!.Verdict
        );
    }
}

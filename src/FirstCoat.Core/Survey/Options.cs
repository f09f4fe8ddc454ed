using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Survey;

/// <summary>What to do about a finding.</summary>
public enum Verdict
{
    Leave,
    Repair,
    Replace,
    Fabricate,
}

/// <summary>One way to deal with a finding, with all it costs. Amounts per hour, per day or once, in the shop's
/// currency.</summary>
/// <param name="Barred">Why it cannot be chosen here; null: it can.</param>
public sealed record RepairOption(
    string Id,
    Verdict Verdict,
    decimal Hours,
    decimal Rate,
    decimal Material = 0,
    decimal Part = 0,
    decimal Freight = 0,
    decimal LeadDays = 0,
    decimal DelayPerDay = 0,
    decimal RiskPercent = 0,
    string? Barred = null
)
{
    /// <summary>All but the hours, before the allowance for hidden damage.</summary>
    public decimal Other => Material + Part + Freight + LeadDays * DelayPerDay;

    /// <summary>The total before rounding: the allowance is on everything, delay included.</summary>
    public decimal Exact => (Hours * Rate + Other) * (1 + RiskPercent / 100);

    /// <summary>The total, rounded once at the end.</summary>
    public decimal Total => Cents.Round(Exact);
}

/// <summary>Options in their order, and why some are barred.</summary>
public sealed record RankedOptions(
    IReadOnlyList<RepairOption> Ranking,
    IReadOnlyList<(RepairOption Option, string Why)> Barred
);

/// <summary>A zone of a body that may be chosen.</summary>
public sealed record DonorZone(string Name, bool Structural, IReadOnlyList<RepairOption>? Options);

/// <summary>A body that may be chosen.</summary>
public sealed record Donor(string Name, decimal Purchase, decimal Freight, IReadOnlyList<DonorZone> Zones);

/// <summary>What one body comes to; no total while a zone is unknown.</summary>
public sealed record DonorTotal(
    string Name,
    decimal? Total,
    IReadOnlyList<string> NotKnown,
    IReadOnlyDictionary<string, RepairOption> Choices
);

/// <summary>Ranking of repair options and donor bodies. Source: rule of thumb.</summary>
public static class RepairOptions
{
    /// <summary>By total in cents, then lead days, then hours, then list order; a structural place may not be
    /// left.</summary>
    /// <exception cref="Refusal">Negative figures or an id twice.</exception>
    public static RankedOptions Rank(IReadOnlyList<RepairOption> options, bool structural)
    {
        foreach (var o in options)
        {
            Check(o);
        }

        Refusal.When(options.GroupBy(o => o.Id).Any(g => g.Count() > 1), "id", "Two options carry the same id.");
        string? Why(RepairOption o) => o.Barred ?? (structural && o.Verdict == Verdict.Leave ? "structural" : null);
        var barred = options.Where(o => Why(o) is not null).Select(o => (o, Why(o)!)).ToList();
        return new(
            options
                .Where(o => Why(o) is null)
                .OrderBy(o => o.Total)
                .ThenBy(o => o.LeadDays)
                .ThenBy(o => o.Hours)
                .ToList(),
            barred
        );
    }

    /// <summary>Hours at which an option costs as much as another; null when its rate is nothing or no hours would
    /// do.</summary>
    public static decimal? BreakEvenHours(RepairOption option, RepairOption against)
    {
        Check(option);
        Check(against);
        if (option.Rate == 0)
        {
            return null;
        }

        var hours = (against.Exact / (1 + option.RiskPercent / 100) - option.Other) / option.Rate;
        return hours < 0 ? null : hours;
    }

    /// <summary>Purchase, freight and per zone the cheapest allowed option.</summary>
    public static DonorTotal Total(Donor donor)
    {
        Refusal.When(donor.Purchase < 0, "purchase", "The purchase cannot be negative.");
        Refusal.When(donor.Freight < 0, "freight", "Freight cannot be negative.");
        var choices = new Dictionary<string, RepairOption>();
        var unknown = new List<string>();
        foreach (var zone in donor.Zones)
        {
            var best = Rank(zone.Options ?? [], zone.Structural).Ranking.FirstOrDefault();
            if (best is null)
            {
                unknown.Add(zone.Name);
            }
            else
            {
                choices[zone.Name] = best;
            }
        }

        return new(
            donor.Name,
            unknown.Count > 0 ? null : donor.Purchase + donor.Freight + choices.Values.Sum(c => c.Total),
            unknown,
            choices
        );
    }

    private static void Check(RepairOption o)
    {
        foreach (
            var (value, field) in new[]
            {
                (o.Hours, "hours"),
                (o.Rate, "rate"),
                (o.Material, "material"),
                (o.Part, "part"),
                (o.Freight, "freight"),
                (o.LeadDays, "leadDays"),
                (o.DelayPerDay, "delayPerDay"),
                (o.RiskPercent, "riskPercent"),
            }
        )
        {
            Refusal.When(value < 0, field, $"The {field} of {o.Id} cannot be negative.");
        }
    }
}

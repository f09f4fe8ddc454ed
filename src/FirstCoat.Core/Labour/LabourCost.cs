using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Labour;

/// <summary>One entry as the cost computation needs it.</summary>
/// <param name="Day">The local day of the start: overtime is counted by it.</param>
/// <param name="Billed">Whether it is billed; null: by its kind.</param>
public sealed record WorkedEntry(
    string Id,
    string Person,
    Instant Start,
    Instant Stop,
    LocalDate Day,
    LabourKind Kind,
    decimal CostRate,
    decimal BillRate,
    bool? Billed = null
);

/// <summary>What one entry costs the shop and brings.</summary>
public sealed record LabourLine(string Id, int Paid, int Overtime, int Billed, decimal Cost, decimal Billing);

/// <summary>Overtime of a shop: minutes a day before it, and what a minute of it costs.</summary>
public sealed record OvertimeRule(int DailyMinutes, decimal Multiplier);

/// <summary>Sums over all entries.</summary>
public sealed record LabourCostResult(IReadOnlyList<LabourLine> Lines, IReadOnlyDictionary<LabourKind, int> PaidByKind)
{
    public int Paid => Lines.Sum(l => l.Paid);
    public int Overtime => Lines.Sum(l => l.Overtime);
    public int Billed => Lines.Sum(l => l.Billed);
    public decimal Cost => Lines.Sum(l => l.Cost);
    public decimal Billing => Lines.Sum(l => l.Billing);
    public decimal Margin => Billing - Cost;

    /// <summary>Cost of some of the entries; a day's overtime falls on its last minutes, whichever build they were
    /// for.</summary>
    public decimal CostOf(IReadOnlySet<string> entries) => Lines.Where(l => entries.Contains(l.Id)).Sum(l => l.Cost);
}

/// <summary>
/// Labour cost and billing. Source: arithmetic; rounding and overtime are rules of the shop and of local labour law,
/// to which it defers.
/// </summary>
public static class LabourCost
{
    /// <summary>Pairs of entries of one person that share time, with the minutes shared, as half-open
    /// intervals.</summary>
    public static IReadOnlyList<(string First, string Second, int Minutes)> Overlaps(IReadOnlyList<WorkedEntry> entries)
    {
        var found = new List<(string, string, int)>();
        for (var i = 0; i < entries.Count; i++)
        {
            for (var j = i + 1; j < entries.Count; j++)
            {
                var (a, b) = (entries[i], entries[j]);
                var shared = (int)(Instant.Min(a.Stop, b.Stop) - Instant.Max(a.Start, b.Start)).TotalMinutes;
                if (a.Person == b.Person && shared > 0)
                {
                    found.Add((a.Id, b.Id, shared));
                }
            }
        }

        return found;
    }

    /// <summary>
    /// Cost and billing per entry, each rounded once to the cent. Entries of one person and local day use up the daily
    /// minutes in order of start; each paid minute beyond counts <see cref="OvertimeRule.Multiplier"/>-fold in cost.
    /// </summary>
    /// <param name="overtime">Null: no overtime.</param>
    /// <param name="roundPay">Whether paid minutes are rounded too, not only the billed ones.</param>
    /// <exception cref="Refusal">Two entries of one person overlap.</exception>
    public static LabourCostResult Of(
        IReadOnlyList<WorkedEntry> entries,
        MinuteRounding rounding,
        bool roundPay,
        OvertimeRule? overtime
    )
    {
        var clash = Overlaps(entries);
        Refusal.When(
            clash.Count > 0,
            "entries",
            clash.Count > 0
                ? $"Entries {clash[0].First} and {clash[0].Second} of one person share {clash[0].Minutes} minutes."
                : ""
        );
        var lines = new Dictionary<string, LabourLine>();
        foreach (var day in entries.GroupBy(e => (e.Person, e.Day)))
        {
            var left = overtime?.DailyMinutes ?? int.MaxValue;
            foreach (var e in day.OrderBy(e => e.Start))
            {
                var worked = LabourMinutes.Between(e.Start, e.Stop);
                var paid = roundPay ? LabourMinutes.Round(worked, rounding) : worked;
                var normal = Math.Min(paid, left);
                left -= normal;
                var billed = e.Billed ?? e.Kind == LabourKind.Billable ? LabourMinutes.Round(worked, rounding) : 0;
                var cost = Cents.Round((normal + (paid - normal) * (overtime?.Multiplier ?? 1)) * e.CostRate / 60);
                lines[e.Id] = new(e.Id, paid, paid - normal, billed, cost, Cents.Round(billed * e.BillRate / 60));
            }
        }

        var byKind = entries.GroupBy(e => e.Kind).ToDictionary(g => g.Key, g => g.Sum(e => lines[e.Id].Paid));
        return new(entries.OrderBy(e => e.Start).Select(e => lines[e.Id]).ToList(), byKind);
    }
}

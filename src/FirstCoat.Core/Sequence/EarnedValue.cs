namespace FirstCoat.Core.Sequence;

/// <summary>Budget, planned, earned and spent of one stage, all in hours or all in money.</summary>
public sealed record StageValue(string Name, double Budget, double Planned, double Earned, double Spent);

/// <summary>Indices and estimates at completion; null wherever a division by nothing would stand.</summary>
public sealed record EarnedIndices(double? Cpi, double? Spi, double? AtIndex, double AtBudget);

/// <summary>Earned value of stages and build. Source: earned value management, any textbook.</summary>
public static class EarnedValue
{
    /// <summary>CPI = EV/AC, SPI = EV/PV, EAC by index = AC + (BAC - EV)/CPI, EAC at budget = AC + (BAC - EV).
    /// Unrounded.</summary>
    /// <exception cref="Refusal">Negative or not finite, or EV or PV above BAC.</exception>
    public static EarnedIndices Of(StageValue s)
    {
        foreach (
            var (value, field) in new[] { (s.Budget, "bac"), (s.Planned, "pv"), (s.Earned, "ev"), (s.Spent, "ac") }
        )
        {
            Refusal.When(!double.IsFinite(value), field, $"The {field} must be a number.");
            Refusal.When(value < 0, field, $"The {field} cannot be negative.");
        }

        Refusal.When(s.Planned > s.Budget, "pv", "Planned cannot pass the budget.");
        Refusal.When(s.Earned > s.Budget, "ev", "Earned cannot pass the budget.");
        return Indices(s);
    }

    /// <summary>The total's indices come from summed figures, not from sums of indices.</summary>
    public static (StageValue Sum, EarnedIndices Indices) Total(IReadOnlyList<StageValue> stages)
    {
        var sum = new StageValue(
            "total",
            stages.Sum(s => s.Budget),
            stages.Sum(s => s.Planned),
            stages.Sum(s => s.Earned),
            stages.Sum(s => s.Spent)
        );
        return (sum, Indices(sum));
    }

    private static EarnedIndices Indices(StageValue s)
    {
        double? cpi = s.Spent == 0 ? null : s.Earned / s.Spent;
        double? spi = s.Planned == 0 ? null : s.Earned / s.Planned;
        double? atIndex = cpi is null or 0 ? null : s.Spent + (s.Budget - s.Earned) / cpi;
        return new(cpi, spi, atIndex, s.Spent + (s.Budget - s.Earned));
    }
}

namespace FirstCoat.Core.Money;

/// <summary>When tooling is earned back. Source: break-even analysis.</summary>
public static class Tooling
{
    /// <summary>Margin per set, and the sets that pay for the tooling; null when the margin never does.</summary>
    /// <exception cref="Refusal">Negative amounts.</exception>
    public static (decimal Margin, long? Sets) BreakEven(decimal tooling, decimal price, decimal unitCost)
    {
        Refusal.When(tooling < 0, "tooling", "The cost of tooling cannot be negative.");
        Refusal.When(price < 0, "price", "The price cannot be negative.");
        Refusal.When(unitCost < 0, "unitCost", "The unit cost cannot be negative.");
        var margin = price - unitCost;
        return (
            margin,
            tooling == 0 ? 0
            : margin <= 0 ? null
            : (long)Math.Ceiling(tooling / margin)
        );
    }
}

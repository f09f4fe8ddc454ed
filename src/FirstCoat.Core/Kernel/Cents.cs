namespace FirstCoat.Core.Kernel;

/// <summary>Rounding of money.</summary>
public static class Cents
{
    /// <summary>To the cent; a half goes away from zero (2.345 to 2.35, -2.345 to -2.35).</summary>
    public static decimal Round(decimal amount) => Math.Round(amount, 2, MidpointRounding.AwayFromZero);

    /// <summary>Whether the amount is in whole cents.</summary>
    public static bool AreWhole(decimal amount) => amount * 100 % 1 == 0;

    /// <summary>
    /// Splits an amount in proportion to the weights so that the shares add up to it: whole cents down, then the
    /// largest remainders get a cent more; equal remainders in order.
    /// </summary>
    /// <param name="weights">None negative; not all zero unless the amount is zero.</param>
    public static IReadOnlyList<decimal> Split(decimal amount, IReadOnlyList<decimal> weights)
    {
        var total = weights.Sum();
        if (total == 0)
        {
            return weights.Select(_ => 0m).ToList();
        }

        var cents = (long)(amount * 100);
        var exact = weights.Select(w => cents * w / total).ToList();
        var whole = exact.Select(Math.Floor).ToList();
        var left = cents - (long)whole.Sum();
        foreach (
            var i in Enumerable
                .Range(0, weights.Count)
                .OrderByDescending(i => exact[i] - whole[i])
                .ThenBy(i => i)
                .Take((int)left)
        )
        {
            whole[i] += 1;
        }

        return whole.Select(c => c / 100).ToList();
    }
}

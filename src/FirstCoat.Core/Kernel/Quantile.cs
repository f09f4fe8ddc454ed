namespace FirstCoat.Core.Kernel;

/// <summary>Quantiles of samples.</summary>
public static class Quantile
{
    /// <summary>The value below which the share <paramref name="p"/> of the sorted samples lies, with a straight line
    /// between neighbours.</summary>
    /// <param name="sorted">Ascending, not empty.</param>
    public static double Of(IReadOnlyList<double> sorted, double p)
    {
        var at = p * (sorted.Count - 1);
        var below = (int)at;
        return below + 1 >= sorted.Count
            ? sorted[^1]
            : sorted[below] + (at - below) * (sorted[below + 1] - sorted[below]);
    }
}

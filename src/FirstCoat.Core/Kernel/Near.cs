namespace FirstCoat.Core.Kernel;

/// <summary>Comparisons that allow what meets a limit exactly: sums such as 4.9 - 4.1 are a little above 0.8.</summary>
public static class Near
{
    private const double Guard = 1e-9;

    public static bool AtMost(double value, double limit) => value <= limit + Guard;

    public static bool AtLeast(double value, double limit) => value >= limit - Guard;

    /// <summary>The next whole number, where a quotient of whole steps stays whole: 0.3 / 0.1 is 3.</summary>
    public static int Ceiling(double value) => checked((int)Math.Ceiling(value - Guard));
}

using FirstCoat.Core.Labour;

namespace FirstCoat.Core.Plan;

/// <summary>
/// A quantity given as low, likely and high, read as P20, P50 and P80 of a two-sided lognormal: the sd of its logarithm
/// is ln(high / likely) / 0.8416 above and ln(likely / low) / 0.8416 below.
/// </summary>
public sealed record Spread(double Low, double Likely, double High)
{
    /// <summary>Checks low &lt;= likely &lt;= high, all above nothing.</summary>
    /// <exception cref="Refusal">Names the figure.</exception>
    public Spread Checked()
    {
        Refusal.When(!(Low > 0) || !double.IsFinite(High), "low", "Low, likely and high are more than nothing.");
        Refusal.When(Low > Likely || Likely > High, "likely", "Likely must be between low and high.");
        return this;
    }

    /// <summary>The quantity at a standard normal deviate.</summary>
    public double At(double z) =>
        Likely * Math.Exp(z / Learned.Z80 * (z < 0 ? Math.Log(Likely / Low) : Math.Log(High / Likely)));
}

/// <summary>Draws standard normal deviates; the same seed gives the same futures.</summary>
/// <remarks>Source: G. E. P. Box, M. E. Muller, A note on the generation of random normal deviates, 1958.</remarks>
public sealed class Deviates(int seed)
{
    private readonly Random _random = new(seed);
    private double? _kept;

    public double Next()
    {
        if (_kept is { } kept)
        {
            _kept = null;
            return kept;
        }

        var radius = Math.Sqrt(-2 * Math.Log(1 - _random.NextDouble()));
        var (sin, cos) = Math.SinCos(2 * Math.PI * _random.NextDouble());
        _kept = radius * sin;
        return radius * cos;
    }
}

namespace FirstCoat.Core.Labour;

/// <summary>What records of one trade or supplier say about its bias.</summary>
public sealed record Learned(int Count, double Mean, double Sd, double PredictiveSd)
{
    /// <summary>Standard normal quantile of 0.8.</summary>
    public const double Z80 = 0.8416212336;

    /// <summary>Standard normal quantile of 0.9.</summary>
    public const double Z90 = 1.2815515655;

    /// <summary>Multiply an estimate by it: a median, not a mean.</summary>
    public double Multiplier => Math.Exp(Mean);

    public double P50 => Multiplier;

    /// <summary>Exceeded one time in five.</summary>
    public double P80 => Math.Exp(Mean + Z80 * PredictiveSd);

    public double P90 => Math.Exp(Mean + Z90 * PredictiveSd);
}

/// <summary>
/// Learning from x = ln(actual / estimate). Source: normal model with known variance and conjugate prior, any Bayesian
/// textbook; the prior's figures are rules of thumb.
/// </summary>
public static class Learning
{
    /// <summary>Bias of a trade or supplier: prior mean 0, sd 0.35; sd of one record 0.5.</summary>
    /// <exception cref="Refusal">A figure that is zero, negative or not finite.</exception>
    public static Learned Bias(
        IEnumerable<(double Actual, double Estimate)> records,
        string estimateName = "estimate"
    ) => Posterior(records.Select(r => LogRatio(r.Actual, "actual", r.Estimate, estimateName)).ToList(), 0, 0.35, 0.5);

    /// <summary>How long the same work takes the second time: prior mean ln 0.8, sd 0.2; sd of one pair 0.3.</summary>
    /// <exception cref="Refusal">A time of zero or less.</exception>
    public static Learned Repeat(IEnumerable<(double First, double Second)> pairs) =>
        Posterior(pairs.Select(p => LogRatio(p.Second, "second", p.First, "first")).ToList(), Math.Log(0.8), 0.2, 0.3);

    private static double LogRatio(double over, string overName, double under, string underName)
    {
        Refusal.When(!double.IsFinite(under) || under <= 0, underName, $"The {underName} must be more than nothing.");
        Refusal.When(!double.IsFinite(over) || over <= 0, overName, $"The {overName} must be more than nothing.");
        return Math.Log(over / under);
    }

    private static Learned Posterior(List<double> x, double priorMean, double priorSd, double recordSd)
    {
        var precision = 1 / (priorSd * priorSd) + x.Count / (recordSd * recordSd);
        var mean = (priorMean / (priorSd * priorSd) + x.Sum() / (recordSd * recordSd)) / precision;
        var sd = 1 / Math.Sqrt(precision);
        return new(x.Count, mean, sd, Math.Sqrt(sd * sd + recordSd * recordSd));
    }
}

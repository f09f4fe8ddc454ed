namespace FirstCoat.Core.Labour;

/// <summary>Work that is found later: what no sequence has in it yet.</summary>
/// <remarks>Rule of thumb: a tenth of a stage's planned hours, as sure as 200 hours make it, and spread by 0.8 in
/// logarithms. Source: ratio estimate with a prior, lognormal spread of mean one.</remarks>
public static class FoundWork
{
    private const double PriorShare = 0.10,
        PriorHours = 200,
        Sd = 0.8;

    /// <summary>The mean share of planned hours that is found later.</summary>
    /// <param name="plannedHours">Of stages that are done, running ones by the part that is done.</param>
    /// <param name="foundHours">Of operations that were added after acceptance.</param>
    /// <exception cref="Refusal">Negative or not finite hours.</exception>
    public static double Share(double plannedHours, double foundHours)
    {
        Refusal.When(
            !double.IsFinite(plannedHours) || plannedHours < 0,
            "plannedH",
            "Hours are a number of nought or more."
        );
        Refusal.When(!double.IsFinite(foundHours) || foundHours < 0, "foundH", "Hours are a number of nought or more.");
        return (PriorShare * PriorHours + foundHours) / (PriorHours + plannedHours);
    }

    /// <summary>The share of one future, by a deviate; its mean over all futures is <paramref name="mean"/>.</summary>
    public static double Drawn(double mean, double deviate) => mean * Math.Exp(Sd * deviate - Sd * Sd / 2);
}

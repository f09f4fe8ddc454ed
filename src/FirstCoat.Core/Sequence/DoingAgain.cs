namespace FirstCoat.Core.Sequence;

/// <summary>How often work is done again because of how a build ran, and what that takes.</summary>
/// <param name="Chance">Share of builds in which it happens, between 0 and 1.</param>
/// <param name="Hours">That it takes where it happens.</param>
/// <param name="What">What goes wrong.</param>
/// <param name="Builds">Of the shop's own that it was learned from; none: a rule of thumb.</param>
public sealed record DoingAgain(double Chance, double Hours, string What, int Builds = 0)
{
    /// <summary>Builds of which a rule of thumb is as sure as it is worth.</summary>
    private const double RuleOfThumb = 12;

    /// <summary>Hours to expect in every build, whether or not it happens.</summary>
    public double Expected => Chance * Hours;

    /// <summary>Spoken "1 in so many".</summary>
    public int OneIn => (int)Math.Round(1 / Chance, MidpointRounding.AwayFromZero);

    /// <summary>With what the shop has seen: the rule of thumb counts as twelve builds.</summary>
    /// <remarks>Source: mean of a beta distribution for the chance, and of the hours with the builds in which it was
    /// expected to happen as their prior.</remarks>
    /// <param name="builds">That ran so and are over.</param>
    /// <param name="hours">Done again, of each of those in which some were.</param>
    /// <exception cref="Refusal">More builds in which it happened than there were.</exception>
    public DoingAgain Learned(int builds, IReadOnlyCollection<double> hours)
    {
        Refusal.When(hours.Count > builds, "builds", "It happened in more builds than there were.");
        if (builds == 0)
        {
            return this;
        }

        var happens = Chance * RuleOfThumb;
        return this with
        {
            Chance = (happens + hours.Count) / (RuleOfThumb + builds),
            Hours = (Hours * happens + hours.Sum()) / (happens + hours.Count),
            Builds = builds,
        };
    }
}

namespace FirstCoat.Core.Bench;

/// <summary>What was measured round the wheel that is on the car, in millimetres.</summary>
/// <param name="LipMm">From its outer edge to the lip of the arch.</param>
/// <param name="SpringMm">From its inner edge to the spring, or to what is nearest there.</param>
/// <param name="AboveMm">From the top of its tyre to the arch, standing.</param>
/// <param name="BumpMm">So much of that the suspension takes.</param>
public sealed record ArchMeasure(double LipMm, double SpringMm, double AboveMm, double BumpMm);

/// <summary>How another wheel stands in the arch, in millimetres. Unloaded, with the nominal section: the tyre maker's
/// sheet and a trial fit come first.</summary>
/// <param name="LipMm">To the lip; below nothing it fouls.</param>
/// <param name="SpringMm">To the spring.</param>
/// <param name="AboveMm">Above the tyre when the suspension is up.</param>
/// <param name="LeastOffsetMm">From this offset on the lip is clear by what is wanted.</param>
/// <param name="MostOffsetMm">Up to this one the spring is.</param>
public sealed record ArchRoom(double LipMm, double SpringMm, double AboveMm, double LeastOffsetMm, double MostOffsetMm)
{
    /// <summary>Some offset clears both.</summary>
    public bool HasRange => LeastOffsetMm <= MostOffsetMm + 1e-9;

    /// <summary>Source: the edges of both wheels from the hub's face, the wider of rim and tyre.</summary>
    /// <exception cref="Refusal">A rim of no width, a measure or a want below nothing.</exception>
    public static ArchRoom Of(Wheel was, ArchMeasure measured, Wheel now, double wantLipMm, double wantSpringMm)
    {
        was.Check();
        now.Check();
        Refusal.When(measured.LipMm < 0, "lipMm", "A distance is nothing or more.");
        Refusal.When(measured.SpringMm < 0, "springMm", "A distance is nothing or more.");
        Refusal.When(measured.AboveMm < 0, "aboveMm", "A distance is nothing or more.");
        Refusal.When(measured.BumpMm < 0, "bumpMm", "The suspension moves by nothing or more.");
        Refusal.When(wantLipMm < 0, "wantLipMm", "What is wanted is nothing or more.");
        Refusal.When(wantSpringMm < 0, "wantSpringMm", "What is wanted is nothing or more.");
        var lip = measured.LipMm + was.OuterMm - now.OuterMm;
        var spring = measured.SpringMm + was.InnerMm - now.InnerMm;
        var above = measured.AboveMm - measured.BumpMm - (now.Tyre.DiameterMm - was.Tyre.DiameterMm) / 2;
        return new(lip, spring, above, now.OffsetMm + wantLipMm - lip, now.OffsetMm + spring - wantSpringMm);
    }
}

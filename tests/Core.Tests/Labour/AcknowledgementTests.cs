using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using NodaTime;

namespace FirstCoat.Core.Tests.Labour;

/// <summary>A caution is read once on each build, by each person, for each kind of danger.</summary>
public sealed class AcknowledgementTests
{
    private static Acknowledgement Read(Hazard hazard, string? caution = null) =>
        new()
        {
            BuildId = Guid.Empty,
            PersonId = Guid.Empty,
            Hazard = hazard,
            Work = "Sill",
            Caution = caution ?? Cautions.Text(hazard),
            At = Instant.FromUtc(2026, 3, 2, 9, 0),
        };

    [Fact]
    public void Work_without_a_danger_asks_for_nothing() => Acknowledgement.Owed(null, []).ShouldBeNull();

    [Fact]
    public void A_caution_is_owed_until_its_own_was_read()
    {
        Acknowledgement.Owed(Hazard.Welding, []).ShouldBe(Cautions.Text(Hazard.Welding));
        Acknowledgement.Owed(Hazard.Welding, [Read(Hazard.Lead)]).ShouldNotBeNull();
        Acknowledgement.Owed(Hazard.Welding, [Read(Hazard.Lead), Read(Hazard.Welding)]).ShouldBeNull();
    }

    [Fact]
    public void Another_wording_is_read_anew() =>
        Acknowledgement.Owed(Hazard.Welding, [Read(Hazard.Welding, "Mind the sparks.")]).ShouldNotBeNull();

    [Fact]
    public void Every_danger_has_a_caution_of_its_own_and_says_what_comes_first()
    {
        var all = Enum.GetValues<Hazard>().Select(Cautions.Text).ToList();
        all.Distinct().Count().ShouldBe(all.Count);
        all.ShouldAllBe(t =>
            t.EndsWith(Cautions.Defer, StringComparison.Ordinal) && t != $"{Cautions.Defer} {Cautions.Defer}"
        );
        all.ShouldAllBe(t => t.Length <= 500);
    }
}

using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Tests.Fitup;

/// <summary>Openings by their diagonals: square, leaning, read wrong, and how far a weld pulled them.</summary>
public sealed class OpeningSheetTests
{
    private static readonly IReadOnlyList<BodyOpening> Openings = BodyOpening.Of(
        Body.Unfold(BodyStyleKey.Coupe, BodyDimensions.Of(BodyStyleKey.Coupe))
    );

    private static OpeningReading Read(
        decimal d1,
        decimal d2,
        decimal width = 1200,
        decimal side = 900,
        string of = "cabin",
        LengthUnit unit = LengthUnit.Mm,
        string when = "before the weld"
    ) =>
        new()
        {
            Id = Guid.NewGuid(),
            BuildId = Guid.NewGuid(),
            Of = of,
            Diagonal1 = d1,
            Diagonal2 = d2,
            Width = width,
            Side = side,
            Unit = unit,
            When = when,
            At = Instant.FromUtc(2026, 3, 5, 12, 0),
            By = "Wil",
        };

    private static OpeningState Cabin(params OpeningReading[] readings) =>
        OpeningState.Of(Openings, readings).Single(o => o.Opening.Key == "cabin");

    [Fact]
    public void A_body_has_an_opening_for_each_panel_that_hangs_its_screen_and_its_floor() =>
        Openings
            .Select(o => o.Name)
            .ShouldBe(
                [
                    "Bonnet opening",
                    "L door opening",
                    "R door opening",
                    "Boot lid opening",
                    "Screen opening",
                    "Cabin floor",
                ],
                ignoreOrder: true
            );

    [Fact]
    public void The_cabin_that_leans_twelve_and_a_half_says_which_diagonal_is_pulled()
    {
        // By hand: (1510^2 - 1490^2) / 4800 = 12.5; the four figures agree within 2.
        var cabin = Cabin(Read(1510, 1490));
        cabin.Last!.Sum.ShearMm.ShouldBe(12.5);
        cabin.Wrong.ShouldBe("leans 12.5 mm to the right");
        cabin.Advice.ShouldBe(
            "Pull the diagonal from bottom left to top right shorter by 10.0 mm, brace it, then read it again."
        );
        var other = Cabin(Read(1490, 1510));
        other.Wrong.ShouldBe("leans 12.5 mm to the left");
        other.Advice.ShouldStartWith("Pull the diagonal from bottom right to top left");
        Cabin(Read(1500, 1500)).Wrong.ShouldBe("");
        Cabin().Wrong.ShouldBe("");
    }

    [Fact]
    public void Figures_that_do_not_agree_are_read_again_whatever_they_say()
    {
        var cabin = Cabin(Read(1510, 1490, side: 908));
        cabin.Wrong.ShouldBe("its figures do not agree by 7.9 mm: read it again");
        cabin.Advice.ShouldBe("");
    }

    [Fact]
    public void Each_weld_is_seen_by_what_it_pulled()
    {
        var slip = Read(1530, 1470);
        slip.TakeBack();
        var rounds = Cabin(Read(1500, 1500), slip, Read(1502, 1498), Read(1510, 1490, when: "after the sill")).Rounds;
        rounds.Select(r => r.DriftMm).ShouldBe([null, 2.5, 10]);
        rounds[^1].Reading.When.ShouldBe("after the sill");
        // In inches it is the same opening.
        Cabin(Read(60, 59, 47.24m, 35.43m, unit: LengthUnit.Inch))
            .Last!.Sum.ShearMm.ShouldBe(25.4 * (60 * 60 - 59 * 59) / (4 * 47.24), 1e-9);
    }

    [Fact]
    public void What_cannot_be_drawn_is_refused()
    {
        string Refused(OpeningReading r) => Should.Throw<Refusal>(() => r.Check(Openings)).Field;
        Read(1510, 1490).Check(Openings);
        Refused(Read(1510, 1490, of: "attic")).ShouldBe("opening");
        Refused(Read(1510, 1490, when: " ")).ShouldBe("when");
        Refused(Read(0, 1490)).ShouldBe("diagonal1");
        Refused(Read(1510, 1490, side: -1)).ShouldBe("side");
        Refused(Read(600, 590)).ShouldBe("diagonal1");
        Refused(Read(1510, 1490, unit: LengthUnit.Inch)).ShouldBe("diagonal1");
    }

    [Fact]
    public void The_dry_builds_gate_asks_for_those_that_were_measured()
    {
        GateAsk One(GateKind kind, params OpeningReading[] readings) =>
            OpeningState
                .Asks(
                    new()
                    {
                        Id = Guid.NewGuid(),
                        BuildId = Guid.NewGuid(),
                        Name = "Fit-up",
                        Kind = OperationKind.Gate,
                        Gate = kind,
                    },
                    OpeningState.Of(Openings, readings)
                )
                .Single();
        One(GateKind.FitUp).ShouldBe(new GateAsk("Openings measured", "no opening was measured", false));
        One(GateKind.FitUp, Read(1510, 1490))
            .ShouldBe(new GateAsk("Openings square", "Cabin floor leans 12.5 mm to the right", true));
        One(GateKind.FitUp, Read(1510, 1490), Read(1501, 1499)).IsMet.ShouldBeTrue();
        Should.Throw<InvalidOperationException>(() => One(GateKind.Datum, Read(1510, 1490)));
    }
}

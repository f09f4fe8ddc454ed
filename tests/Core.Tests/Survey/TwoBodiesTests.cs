using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Survey;
using NodaTime;

namespace FirstCoat.Core.Tests.Survey;

/// <summary>Two bodies by the same sums.</summary>
public sealed class TwoBodiesTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 3, 2, 9, 0);

    private static VerdictTerms Terms(bool seen) =>
        new(Enum.GetValues<Trade>().ToDictionary(t => t, _ => 60m), 36, FinishGrade.Driver, seen);

    private static SurveyPlace Place(
        string key,
        PanelSide side = PanelSide.Centre,
        PlaceGroup group = PlaceGroup.Outside
    ) =>
        new(
            key,
            key.EndsWith('L') ? $"L {key[..^1]}"
                : key.EndsWith('R') ? $"R {key[..^1]}"
                : key,
            group,
            side,
            "",
            null,
            null,
            true,
            false
        );

    private static readonly List<SurveyPlace> Places =
    [
        Place("sillL", PanelSide.Left),
        Place("sillR", PanelSide.Right),
        Place("roof"),
        Place("bonnet"),
    ];

    private static SurveySheet Sheet(IEnumerable<Finding> findings, params string[] looked) =>
        SurveySheet.Of(
            Places,
            [],
            looked.Select(p => new SurveyLook
            {
                Id = Guid.CreateVersion7(),
                BuildId = Guid.Empty,
                Place = p,
                By = "",
                On = Now,
            }),
            findings
        );

    private static Finding Found(string place, params FindingOption[] ways)
    {
        var f = new Finding
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Number = 1,
            FoundBy = "",
            FoundAt = Now,
            Place = place,
            Structural = true,
        };
        f.Judge(ways);
        return f;
    }

    private static FindingOption Way(
        Verdict verdict,
        decimal hours,
        decimal part = 0,
        decimal days = 0,
        decimal risk = 0
    ) => new(verdict, hours, Trade.Metal, Part: part, LeadDays: days, RiskPercent: risk);

    private static OtherBody Farm(params OtherZone[] zones) =>
        new()
        {
            BuildId = Guid.Empty,
            Name = "Farm",
            Year = 1965,
            Purchase = 650,
            Freight = 286,
            Zones = [.. zones],
        };

    private static TwoBodies Compare(List<Finding> findings, OtherBody other, params string[] looked) =>
        TwoBodies.Of(
            Sheet(findings, looked),
            findings.Select(f => (f, VerdictSums.Of(f, Terms(true)))).ToList(),
            1962,
            other,
            Terms
        );

    [Fact]
    public void A_zone_is_both_sides_and_each_findings_cheapest_way()
    {
        // Left 10 h x 60 = 600.00 or a part of 300 with 2 h = 420.00; right 5 h and a tenth on top = 330.00.
        var own = new List<Finding>
        {
            Found("sillL", Way(Verdict.Repair, 10), Way(Verdict.Replace, 2, 300)),
            Found("sillR", Way(Verdict.Repair, 5, risk: 10)),
        };
        var two = Compare(
            own,
            Farm(
                new OtherZone("sill", true, true, [Way(Verdict.Repair, 2, days: 4)], ""),
                new OtherZone("roof", true, false, [], ""),
                new OtherZone("bonnet", true, true, [Way(Verdict.Replace, 1, 500)], "")
            ),
            "roof",
            "bonnet"
        );
        var sill = two.Rungs.Single(r => r.Zone == "sill");
        sill.Places.ShouldBe(["sillL", "sillR"]);
        (sill.Name, sill.Own.Total, sill.Own.How).ShouldBe(("Sill", 750m, "repair, replace"));
        sill.Own.Parts.ShouldBe(new ZoneParts(420, 300, 0, 30));
        // 2 h and four days of waiting at 36.00: 264.00.
        (sill.Other.Total, sill.Other.Parts.Wait, sill.OwnWins).ShouldBe((264m, 144m, false));
        two.Rungs.Single(r => r.Zone == "roof")
            .ShouldSatisfyAllConditions(
                r => r.Own.How.ShouldBe("sound"),
                r => r.OwnWins.ShouldBeNull("both are sound")
            );
        // What was chosen counts, though another way is cheaper: 10 h for the left one.
        own[0].Choose(Verdict.Repair, "", null, "Bram", Now);
        Compare(own, Farm(), "roof", "bonnet").Rungs.Single(r => r.Zone == "sill").Own.Total.ShouldBe(930m);
        // 750.00 against 264 + 560 + 650 + 286.
        (two.OwnTotal, two.OtherTotal, two.OwnSaves, two.OwnWon, two.OtherWon).ShouldBe((750m, 1760m, 1010m, 1, 1));
    }

    [Fact]
    public void A_zone_nobody_looked_at_leaves_no_total_and_no_sentence()
    {
        var two = Compare([], Farm(new OtherZone("roof", true, false, [], "")), "roof", "bonnet", "sillL");
        two.Rungs.Single(r => r.Zone == "sill").Own.How.ShouldBe("right side not looked at", "one side was");
        (two.OwnTotal, two.OtherTotal, two.OwnSaves).ShouldBe((null, null, null));
    }

    [Fact]
    public void A_structural_zone_may_not_be_left()
    {
        var left = new FindingOption(Verdict.Leave, 0, Trade.Hand);
        Compare([], Farm(new OtherZone("sill", true, true, [left], "")), "roof", "bonnet", "sillL", "sillR")
            .Rungs.Single(r => r.Zone == "sill")
            .Other.ShouldSatisfyAllConditions(o => o.Total.ShouldBeNull(), o => o.How.ShouldBe("no allowed way"));
    }

    [Fact]
    public void A_part_fits_when_one_span_holds_both_years()
    {
        var other = Farm();
        other.Spans =
        [
            new("Bonnet", 1958, 1963, ""),
            new("Bonnet", 1964, 1968, "catch moved"),
            new("Doors", 1958, 1968, ""),
            new("Tailgate", 1958, 1962, ""),
            new("Tailgate", 1963, 1968, "pins 12 mm, not 10"),
        ];
        Compare([], other)
            .Fits.Select(f => (f.Part, f.Fits, f.Differs))
            .ShouldBe([
                ("Doors", true, ""),
                ("Bonnet", false, "catch moved"),
                ("Tailgate", false, "pins 12 mm, not 10"),
            ]);
        other.Year = 1962;
        Compare([], other).Fits.ShouldAllBe(f => f.Fits);
    }

    [Theory]
    [InlineData("name")]
    [InlineData("purchase")]
    [InlineData("zones")]
    [InlineData("spans")]
    public void What_cannot_be_names_its_field(string field)
    {
        var body = Farm(new OtherZone("sill", true, true, [], ""));
        switch (field)
        {
            case "name":
                body.Name = "";
                break;
            case "purchase":
                body.Purchase = -1;
                break;
            case "zones":
                body.Zones.Add(new("sill", true, true, [], ""));
                break;
            default:
                body.Spans = [new("Bonnet", 1965, 1960, "")];
                break;
        }

        Should.Throw<Refusal>(body.Check).Field.ShouldBe(field);
    }
}

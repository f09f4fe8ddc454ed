using FirstCoat.Core.Survey;

namespace FirstCoat.Core.Tests.Survey;

/// <summary>Ranking of what to do about a finding, worked by hand.</summary>
public sealed class OptionsTests
{
    private static readonly RepairOption Repair = new("repair", Verdict.Repair, 14, 85, Material: 60, RiskPercent: 15);
    private static readonly RepairOption Replace = new(
        "replace",
        Verdict.Replace,
        6,
        85,
        Part: 420,
        Freight: 55,
        LeadDays: 9,
        DelayPerDay: 20,
        RiskPercent: 5
    );
    private static readonly RepairOption Leave = new("leave", Verdict.Leave, 0, 85);

    [Fact]
    public void The_allowance_is_on_everything_and_rounded_once()
    {
        Repair.Total.ShouldBe(1437.50m);
        Replace.Total.ShouldBe(1223.25m);
    }

    [Fact]
    public void A_structural_place_may_not_be_left()
    {
        RepairOptions
            .Rank([Repair, Replace, Leave], structural: false)
            .Ranking.Select(o => o.Id)
            .ShouldBe(["leave", "replace", "repair"]);
        var structural = RepairOptions.Rank([Repair, Replace, Leave], structural: true);
        structural.Ranking.Select(o => o.Id).ShouldBe(["replace", "repair"]);
        structural.Barred.Single().ShouldBe((Leave, "structural"));
    }

    [Fact]
    public void Equal_totals_go_by_lead_days_then_hours_then_the_list()
    {
        var (quick, slow) = (
            new RepairOption("quick", Verdict.Replace, 0, 0, Part: 100),
            new RepairOption("slow", Verdict.Replace, 0, 0, Part: 100, LeadDays: 3)
        );
        var hours = new RepairOption("hours", Verdict.Repair, 1, 100);
        RepairOptions.Rank([slow, hours, quick], false).Ranking.Select(o => o.Id).ShouldBe(["quick", "hours", "slow"]);
    }

    [Fact]
    public void Break_even_hours_are_where_both_cost_the_same()
    {
        var hours = RepairOptions.BreakEvenHours(Repair, Replace)!.Value;
        hours.ShouldBe(11.808m, .001m);
        (Repair with { Hours = hours }).Exact.ShouldBe(Replace.Exact, .0001m);
        RepairOptions.BreakEvenHours(Repair with { Rate = 0 }, Replace).ShouldBeNull();
        RepairOptions.BreakEvenHours(Repair with { Material = 5000 }, Replace).ShouldBeNull();
    }

    [Fact]
    public void A_body_with_a_zone_nobody_looked_at_has_no_total()
    {
        var known = RepairOptions.Total(
            new("barn", 1500, 200, [new("floor", true, [Repair, Leave]), new("roof", false, [Leave])])
        );
        known.Total.ShouldBe(1700 + 1437.50m);
        var unknown = RepairOptions.Total(new("coast", 900, 0, [new("floor", true, null), new("sill", true, [Leave])]));
        unknown.Total.ShouldBeNull();
        unknown.NotKnown.ShouldBe(["floor", "sill"]);
    }

    [Theory]
    [InlineData("hours")]
    [InlineData("rate")]
    [InlineData("material")]
    [InlineData("riskPercent")]
    public void A_negative_figure_is_refused_by_name(string field)
    {
        var bad = field switch
        {
            "hours" => Repair with { Hours = -1 },
            "rate" => Repair with { Rate = -1 },
            "material" => Repair with { Material = -1 },
            _ => Repair with { RiskPercent = -1 },
        };
        Should.Throw<Refusal>(() => RepairOptions.Rank([bad], false)).Field.ShouldBe(field);
    }
}

using CsCheck;
using FirstCoat.Core.Plan;
using FirstCoat.PlanCheck;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>Vehicles in places, and reasons, by a check that knows nothing of how plans are made.</summary>
public sealed class PlacesTests
{
    [Fact]
    public void Every_plan_of_every_shop_could_be_kept() =>
        ShopWithPlaces.Problems.Sample(problem => ShopPlanCheck.Faults(problem, new Planner().Plan(problem)).ShouldBeEmpty(), iter: 300);

    [Fact]
    public void A_better_order_could_be_kept_too() => ShopWithPlaces.Problems.Sample(problem =>
    {
        var better = PlanImprovement.Search(problem, 0.1).Plan;
        ShopPlanCheck.Faults(problem, better).ShouldBeEmpty();
        ShopPlanCheck.Faults(problem, new Planner().Plan(problem with { Turns = better.Turns })).ShouldBeEmpty();
    }, iter: 12);

    [Fact]
    public void Futures_are_drawn_with_places() => ShopWithPlaces.Problems.Sample(problem =>
    {
        var outlook = Outlook.Of(problem, Beliefs.None, futures: 10);
        outlook.Builds.Values.ShouldAllBe(b => b.P50 >= problem.Now && b.P80 >= b.P50);
    }, iter: 40);
}

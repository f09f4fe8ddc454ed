using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>What a build would be if it ran in another way, among the others.</summary>
public sealed class WaysTests
{
    private readonly RecordedShop _shop = new();
    private static readonly Way One = new(Templates.PaintThenAssemble, new());
    private static readonly Way Other = new(Templates.PaintThenAssemble, new(Sides: SideSchool.Both));

    private Ways Of(Build build, Func<Way, IReadOnlyList<Operation>> run) =>
        new(_shop.Facts, build, run, new Planner(), 2);

    private static Operation Weld(Build build, int hours) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = build.Id,
            Name = "Weld",
            Trade = Trade.Metal,
            BudgetMinutes = hours * 60,
        };

    [Fact]
    public void A_build_is_planned_with_its_other_work_in_the_place_of_its_own()
    {
        var (first, second) = (_shop.Build(1, priority: 1), _shop.Build(2, priority: 2));
        var own = _shop.Work(first, "Weld", 8);
        var behind = _shop.Work(second, "Weld too", 8);
        var ways = Of(first, way => way == One ? [own.Copy()] : [Weld(first, 24)]);
        var plans = ways.Of([One, Other, One]);
        plans.Count.ShouldBe(2);
        (plans[One].Minutes, plans[Other].Minutes).ShouldBe((480, 1440));
        _shop.Calendar.Local(plans[One].Finish(first.Id)!.Value).ShouldBe(new(2026, 3, 5, 16, 30));
        _shop.Calendar.Local(plans[Other].Finish(first.Id)!.Value).ShouldBe(new(2026, 3, 9, 16, 30));
        // The other build waits for the same person.
        _shop.Starts(plans[Other].Plan, behind, 10, 8);
        // Nothing of the shop was changed.
        _shop.Operations.ShouldBe([own, behind]);
        own.BudgetMinutes.ShouldBe(480);
    }

    [Fact]
    public void A_build_that_is_not_there_yet_comes_in_beside_the_others()
    {
        var own = _shop.Work(_shop.Build(1, priority: 1), "Weld", 8);
        var maybe = new RecordedShop().Build(2, priority: 2);
        var plan = Of(maybe, _ => [Weld(maybe, 8)]).Of(One);
        _shop.Starts(plan.Plan, own, 5, 8);
        _shop.Calendar.Local(plan.Finish(maybe.Id)!.Value).ShouldBe(new(2026, 3, 6, 16, 30));
    }

    [Fact]
    public void Work_that_nobody_can_do_leaves_the_build_without_a_finish()
    {
        var build = _shop.Build(1);
        var sewing = Weld(build, 8);
        sewing.Trade = Trade.Trim;
        Of(build, _ => [Weld(build, 8), sewing]).Of(One).Finish(build.Id).ShouldBeNull();
    }

    [Fact]
    public void A_way_that_is_refused_says_why_and_the_others_stand()
    {
        var build = _shop.Build(1);
        var own = _shop.Work(build, "Weld", 8);
        var plans = Of(build, way =>
                way == One ? [own.Copy()] : throw new Refusal("after", "It goes round in a circle.")
            )
            .Of([One, Other]);
        (plans[One].Refused, plans[Other].Refused).ShouldBe((null, "It goes round in a circle."));
        plans[Other].Finish(build.Id).ShouldNotBe(plans[One].Finish(build.Id));
    }
}

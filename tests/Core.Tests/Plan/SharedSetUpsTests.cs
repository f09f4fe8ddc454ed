using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>Work that shares a set-up is proposed with what the plan really says then. Now: Thursday 5 March.</summary>
public sealed class SharedSetUpsTests
{
    private readonly RecordedShop _shop = new();
    private readonly Build _first;
    private readonly Build _second;
    private readonly Supplier _plater = new() { Id = Guid.CreateVersion7(), Name = "Marrow Plating" };

    public SharedSetUpsTests()
    {
        _shop.Station(StationKind.Bay, 3);
        _shop.Station(StationKind.Blast);
        _shop.Station(StationKind.Booth);
        _shop.People.Add(RecordedShop.Person("Cy", Trade.Strip));
        _shop.Shop.Plan = new() { Ready = [new(StationKind.Blast, 240), new(StationKind.Booth, 90)] };
        (_first, _second) = (_shop.Build(1), _shop.Build(2));
    }

    private PlanFacts Facts => _shop.Facts with { Suppliers = [_plater] };

    private IReadOnlyList<SharedSetUp> Found => new SharedSetUps(Facts, new Planner(), 2).Find();

    private Operation Blast(Build build, string name, params OperationLink[] after) =>
        _shop.Work(build, name, 4, Trade.Strip, new() { Body = BodyUse.OnBody }, StationKind.Blast, after);

    private Operation Weld(Build build, int hours) => _shop.Work(build, "Weld", hours);

    private static OperationLink After(Operation o) => new(o.Id, 0);

    private (Operation Early, Operation Late) TwoBlasts()
    {
        var early = Blast(_first, "Blast the first");
        // Two days of Ada's: Thursday and Friday.
        return (early, Blast(_second, "Blast the second", After(Weld(_second, 16))));
    }

    /// <summary>What a proposal says is what the plan says once it is done.</summary>
    private void HoldsOnceDone(SharedSetUp said)
    {
        foreach (var work in said.Works)
        {
            var o = work.Operation;
            (OperationPin.Of(o) with { On = work.On ?? OperationPin.Of(o).On }).Put(o, new(2026, 3, 5), null, null);
            o.Terms = o.Terms with { Batch = said.Batch };
        }

        var plan = new Planner().Plan(Facts.Problem());
        foreach (var work in said.Works)
        {
            plan.Operations[work.Operation.Id.ToString()].Start.ShouldBe(work.StartAfter!.Value);
            // No pin is broken from the start.
            if (work.On is { } on)
            {
                _shop.Calendar.Local(work.StartAfter.Value).Date.ShouldBe(on);
            }
        }

        plan.WeightedDaysLate.ShouldBe(said.Comparison.WeightedAfter);
        foreach (var move in said.Comparison.Moves)
        {
            plan.Builds[move.Build].Finish.ShouldBe(move.After);
        }
    }

    [Fact]
    public void Two_blasts_some_days_apart_are_proposed_for_one_day()
    {
        var (early, late) = TwoBlasts();
        var said = Found.ShouldHaveSingleItem();
        said.Kind.ShouldBe(SetUpKind.Blasting);
        said.Works.Select(w => w.Operation).ShouldBe([early, late]);
        said.On.ShouldBe(new LocalDate(2026, 3, 9), "a Monday: the first day on which both are ready");
        (said.SetUpsBefore, said.SetUpsAfter).ShouldBe((2, 1));
        said.ReadyMinutes.ShouldBe(240, "once less, four hours of all hands");
        said.Works[0].StartBefore.ShouldBe(_shop.At(5, 8));
        said.Comparison.Moves[0].Build.ShouldBe(_first.Id.ToString(), "who waits the longest stands first");
        HoldsOnceDone(said);
        Found.ShouldBeEmpty("what is settled is not proposed again");
    }

    [Fact]
    public void What_does_not_fit_the_day_is_pinned_to_the_next()
    {
        var long1 = Blast(_first, "Blast the first");
        long1.BudgetMinutes = 480;
        var long2 = Blast(_second, "Blast the second", After(Weld(_second, 24)));
        var said = Found.ShouldHaveSingleItem();
        said.Works.Select(w => w.On).ShouldBe([new LocalDate(2026, 3, 10), new LocalDate(2026, 3, 11)]);
        said.Works.Select(w => w.Operation).ShouldBe([long1, long2]);
        HoldsOnceDone(said);
    }

    [Fact]
    public void What_costs_a_promise_is_told_with_its_days()
    {
        TwoBlasts();
        _first.Brief = _first.Brief with { Promised = new(2026, 3, 6) };
        var said = Found.ShouldHaveSingleItem();
        said.DaysLater.ShouldBeGreaterThan(0);
        HoldsOnceDone(said);
    }

    [Fact]
    public void Work_that_follows_within_a_day_shares_its_set_up_already()
    {
        Blast(_first, "Blast the first");
        Blast(_second, "Blast the second", After(Weld(_second, 4)));
        Found.ShouldBeEmpty();
    }

    [Fact]
    public void What_is_begun_settled_or_of_one_build_is_left_alone()
    {
        var (early, late) = TwoBlasts();
        early.State(0.1m, _shop.Clock(5, 8));
        Found.ShouldBeEmpty("nobody stops what is begun for company");
        _shop.Operations.Remove(early);
        Found.ShouldBeEmpty("one alone");
        Blast(_second, "Blast it again", After(late));
        Found.ShouldBeEmpty("one build's own order");
        new OperationPin(new(2026, 3, 5), null, null).Put(Blast(_first, "Pinned"), new(2026, 3, 5), null, null);
        Found.ShouldBeEmpty("its day is settled");
    }

    [Fact]
    public void Nobody_waits_for_company_for_more_than_three_weeks()
    {
        Blast(_first, "Blast the first");
        Blast(_second, "Blast the second", new OperationLink(Weld(_second, 1).Id, 22 * 1440));
        Found.ShouldBeEmpty();
    }

    private Operation Spray(Build build, Coat coat, int weld)
    {
        var o = _shop.Work(
            build,
            $"{coat} on {build.Number}",
            2,
            Trade.Paint,
            new() { Body = BodyUse.OnBody },
            StationKind.Booth,
            weld == 0 ? [] : [After(Weld(build, weld))]
        );
        o.Coat = coat;
        return o;
    }

    [Theory]
    [InlineData(12, 6)]
    // On the day itself the other coat lies between: they wait for the next.
    [InlineData(4, 6)]
    public void One_coat_on_two_vehicles_goes_without_the_other_coat_between(int weld, int day)
    {
        var sealer = Spray(_first, Coat.Sealer, 0);
        Spray(_shop.Build(3), Coat.Clear, 0);
        var other = Spray(_shop.Build(4), Coat.Sealer, weld);
        var said = Found.ShouldHaveSingleItem();
        (said.Kind, said.What, said.On).ShouldBe((SetUpKind.Coat, "sealer", new LocalDate(2026, 3, day)));
        said.Works.Select(w => w.Operation).ShouldBe([sealer, other]);
        (said.SetUpsBefore, said.SetUpsAfter, said.ReadyMinutes).ShouldBe((2, 1, 90));
        HoldsOnceDone(said);
    }

    [Fact]
    public void Pieces_for_one_supplier_leave_together()
    {
        Operation Plate(Build build, int weld) => Outside(build, weld == 0 ? [] : [After(Weld(build, weld))]);
        var (early, late) = (Plate(_first, 0), Plate(_second, 24));
        var said = Found.ShouldHaveSingleItem();
        (said.Kind, said.What, said.On).ShouldBe((SetUpKind.Crossing, "Marrow Plating", null));
        said.Batch.ShouldStartWith("Marrow Plating, ");
        (said.SetUpsBefore, said.SetUpsAfter).ShouldBe((2, 1));
        said.Works.Select(w => w.StartAfter).Distinct().ShouldHaveSingleItem();
        HoldsOnceDone(said);
        (early.Terms.Batch, late.Terms.Batch).ShouldBe((said.Batch, said.Batch));
        Found.ShouldBeEmpty();
    }

    private Operation Outside(Build build, OperationLink[] after)
    {
        var o = _shop.Work(
            build,
            $"Plate {build.Number}",
            0,
            Trade.Metal,
            new() { SupplierId = _plater.Id },
            null,
            after
        );
        (o.Kind, o.Trade, o.ClockMinutes) = (OperationKind.Outside, null, 5 * 1440);
        return o;
    }

    [Fact]
    public void Where_there_is_no_such_place_nothing_is_made_ready()
    {
        TwoBlasts();
        _shop.Stations.RemoveAll(s => s.Kind == StationKind.Blast);
        Found.ShouldBeEmpty();
    }

    [Fact]
    public void An_empty_shop_has_nothing_to_share() =>
        new SharedSetUps(new RecordedShop().Facts, new Planner(), 2).Find().ShouldBeEmpty();

    [Fact]
    public void No_work_stands_in_two_proposals_and_what_costs_least_comes_first()
    {
        TwoBlasts();
        var third = _shop.Build(3, promised: new(2026, 3, 6));
        Blast(third, "Blast the third");
        Blast(_shop.Build(4), "Blast the fourth", After(Weld(_shop.Builds[^1], 30)));
        var all = Found;
        all.ShouldNotBeEmpty();
        all.SelectMany(s => s.Works).Select(w => w.Operation.Id).ShouldBeUnique();
        all.Select(s => s.DaysLater).ShouldBeInOrder();
        all.ShouldAllBe(s => s.SetUpsAfter < s.SetUpsBefore);
    }
}

using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>What is tried beside the plan, who wants the same, and what was agreed, with numbers counted by
/// hand.</summary>
public sealed class WhatIfTests
{
    private readonly RecordedShop _shop = new();

    private ShopPlan Tried(params WhatIfChange[] changes) =>
        new Planner().Plan(
            new WhatIf { Name = "try", Changes = [.. changes] }
                .Apply(_shop.Facts, new TemplateShelf([]))
                .Problem()
        );

    [Fact]
    public void Saturdays_are_worked_like_fridays_until_they_end()
    {
        var build = _shop.Build(1);
        var work = _shop.Work(build, "Weld", 48);
        _shop.Calendar.Local(_shop.Plan().Operations[work.Id.ToString()].Finish).ShouldBe(new(2026, 3, 12, 16, 30));
        var plan = Tried(new WhatIfChange(WhatIfKind.Saturdays) { From = new(2026, 3, 5), To = new(2026, 3, 8) });
        _shop.Calendar.Local(plan.Operations[work.Id.ToString()].Finish).ShouldBe(new(2026, 3, 11, 16, 30));
        _shop
            .Ada.Terms.Hours.Select(h => (h.From, Saturday: h.Week.Any(d => d.Day == IsoDayOfWeek.Saturday)))
            .ShouldBe([(new(2026, 3, 5), true), (new(2026, 3, 9), false)]);
    }

    [Fact]
    public void An_absence_another_station_a_promise_and_a_place_in_the_queue()
    {
        _shop.Station(StationKind.Booth);
        var (one, two) = (_shop.Build(1, new(2026, 3, 5), priority: 1), _shop.Build(2, priority: 2));
        _shop.People.Add(RecordedShop.Person("Cy", Trade.Paint));
        _shop.Work(one, "Coat", 8, Trade.Paint, station: StationKind.Booth);
        var second = _shop.Work(two, "Coat too", 8, Trade.Paint, station: StationKind.Booth);
        _shop.Starts(_shop.Plan(), second, 6, 8);
        _shop.Starts(Tried(new WhatIfChange(WhatIfKind.MoreStations) { Station = StationKind.Booth }), second, 5, 8);
        _shop.Starts(
            Tried(
                new WhatIfChange(WhatIfKind.Promise) { BuildId = two.Id, Promised = new(2026, 3, 4) },
                new(WhatIfKind.Promise) { BuildId = one.Id, Promised = new(2026, 6, 1) }
            ),
            second,
            5,
            8
        );
        _shop.Starts(Tried(new WhatIfChange(WhatIfKind.Rank) { BuildId = one.Id, Priority = 30 }), second, 5, 8);
        one.Priority = 1;
        var ill = Tried(
            new WhatIfChange(WhatIfKind.Absence)
            {
                PersonId = _shop.Bo.Id,
                From = new(2026, 3, 5),
                To = new(2026, 3, 6),
            }
        );
        ill.Operations.Values.ShouldAllBe(o => o.Person == _shop.People[2].Id.ToString());
    }

    [Fact]
    public void Nothing_is_paid_until_may_and_the_work_rests_as_long()
    {
        var build = _shop.Build(1);
        var work = _shop.Work(build, "Weld", 8);
        var plan = Tried(new WhatIfChange(WhatIfKind.NoPayments) { BuildId = build.Id, To = new(2026, 5, 1) });
        _shop.Calendar.Local(plan.Operations[work.Id.ToString()].Start).ShouldBe(new(2026, 5, 1, 8, 0));
        build.Terms.Spending.ShouldBe(new SpendingPace(null, false) { PaysFrom = new(2026, 5, 1) });
    }

    [Fact]
    public void A_build_that_may_come_starts_when_it_arrives()
    {
        var maybe = new MaybeBuild(
            Guid.CreateVersion7(),
            "N. Client",
            "Heron",
            "Two",
            BodyStyleKey.Coupe,
            Construction.Unitary,
            FinishGrade.Driver,
            Templates.SmallWork,
            1,
            new(2026, 3, 16),
            null
        );
        _shop.People.Add(RecordedShop.Person("Cy", Trade.Mechanic));
        var plan = Tried(new WhatIfChange(WhatIfKind.NewBuild) { Build = maybe });
        _shop.Calendar.Local(plan.Operations.Values.Min(o => o.Start)).ShouldBe(new(2026, 3, 16, 8, 0));
        plan.Operations.Values.MinBy(o => o.Start)!.Reason.Kind.ShouldBe(WaitKind.NotBefore);
    }

    public static TheoryData<WhatIfChange, string> Wrong() =>
        new()
        {
            {
                new(WhatIfKind.Absence) { From = new(2026, 3, 5), To = new(2026, 3, 6) },
                "personId"
            },
            {
                new(WhatIfKind.Absence) { PersonId = Guid.Empty },
                "from"
            },
            {
                new(WhatIfKind.Saturdays) { From = new(2026, 3, 5), To = new(2026, 3, 4) },
                "to"
            },
            { new(WhatIfKind.MoreStations), "station" },
            { new(WhatIfKind.Promise), "buildId" },
            {
                new(WhatIfKind.NoPayments) { To = new(2026, 3, 4) },
                "buildId"
            },
            {
                new(WhatIfKind.NoPayments) { BuildId = Guid.Empty },
                "to"
            },
            {
                new(WhatIfKind.Rank) { BuildId = Guid.Empty },
                "priority"
            },
            { new(WhatIfKind.NewBuild), "build" },
        };

    [Theory, MemberData(nameof(Wrong))]
    public void What_says_too_little_cannot_be_tried(WhatIfChange change, string field) =>
        Should.Throw<Refusal>(change.Check).Field.ShouldBe(field);

    [Fact]
    public void Wages_overtime_and_use()
    {
        // Twelve hours at 30.00: Ada works Thursday and half of Friday; of the eight weeks' forty days one and a half
        // are used.
        _shop.Station(StationKind.Bay);
        _shop.Work(_shop.Build(1, new(2026, 3, 4)), "Weld", 12, station: StationKind.Bay);
        var problem = _shop.Facts.Problem();
        var plan = new Planner().Plan(problem);
        var costs = _shop.People.ToDictionary(p => p.Id.ToString(), _ => 30m);
        var figures = PlanFigures.Of(problem, plan, costs, _ => false, 1.5m, 8);
        (figures.Minutes, figures.Wages, figures.Overtime).ShouldBe((720, 360m, 0m));
        figures.Used.Single(u => u.Name == "Ada").Share.ShouldBe(12 / 320.0, 1e-9);
        figures.Used.Single(u => u.Name == "Bo").Share.ShouldBe(0);
        figures.Used.Single(u => u.Name == "Bay").Share.ShouldBe(12 / 320.0, 1e-9);
        // Promised for the end of the 4th, done on the 6th at 12:00.
        figures.DaysLate.ShouldBe(1.5, 1e-9);

        figures.LateCost(36).ShouldBe(54m);
        PlanFigures.Of(_shop.Facts, problem, plan, 8).Wages.ShouldBe(360m, "nobody works on a Saturday");

        var friday = PlanFigures.Of(problem, plan, costs, minute => _shop.Calendar.Local(minute).Day == 6, 1.5m, 8);
        (friday.Wages, friday.Overtime).ShouldBe((420m, 60m));
    }

    [Fact]
    public void Who_goes_first_is_a_decision_where_it_moves_a_promise_by_a_day()
    {
        _shop.Station(StationKind.Booth);
        var (one, two) = (_shop.Build(1, new(2026, 3, 20), priority: 1), _shop.Build(2, new(2026, 3, 20), priority: 2));
        _shop.Work(one, "Coat", 16, Trade.Paint, station: StationKind.Booth);
        var waits = _shop.Work(two, "Coat too", 8, Trade.Paint, station: StationKind.Booth);
        var problem = _shop.Facts.Problem();
        var found = Contention.Of(problem, new Planner().Plan(problem), new Planner()).ShouldHaveSingleItem();
        (found.First, found.Second, found.Operation).ShouldBe(
            (one.Id.ToString(), two.Id.ToString(), waits.Id.ToString())
        );
        // The first ends Monday instead of Friday; the second on Thursday instead of Monday.
        (found.FirstLoses, found.SecondGains).ShouldBe((3, 4));
        two.Priority = found.Turning.Ranks[two.Id.ToString()];
        one.Priority = found.Turning.Ranks[one.Id.ToString()];
        _shop.Starts(_shop.Plan(), waits, 5, 8);

        one.Brief = one.Brief with { Promised = null };
        problem = _shop.Facts.Problem();
        Contention
            .Of(problem, new Planner().Plan(problem), new Planner())
            .ShouldBeEmpty("nothing is promised for one of them");
    }

    [Fact]
    public void In_an_accepted_order_the_two_are_turned_round_within_it()
    {
        _shop.Station(StationKind.Booth);
        var (one, two) = (_shop.Build(1, new(2026, 3, 20), priority: 1), _shop.Build(2, new(2026, 3, 20), priority: 2));
        var coat = _shop.Work(one, "Coat", 16, Trade.Paint, station: StationKind.Booth);
        var mask = _shop.Work(two, "Mask", 1, Trade.Paint);
        var waits = _shop.Work(two, "Coat too", 8, Trade.Paint, station: StationKind.Booth);
        var turns = new Dictionary<string, double>
        {
            [coat.Id.ToString()] = 0,
            [mask.Id.ToString()] = 1,
            [waits.Id.ToString()] = 2,
        };
        var problem = _shop.Facts.Problem() with { Turns = turns };
        var found = Contention.Of(problem, new Planner().Plan(problem), new Planner()).ShouldHaveSingleItem();
        found.Turning.Ranks.ShouldBeEmpty("the accepted order goes before the queue");
        found
            .Turning.Turns!.OrderBy(t => t.Value)
            .Select(t => t.Key)
            .ShouldBe([mask.Id.ToString(), waits.Id.ToString(), coat.Id.ToString()]);
        var turned = new Planner().Plan(found.Turning.Apply(problem));
        turned.Operations[waits.Id.ToString()].Start.ShouldBeLessThan(turned.Operations[coat.Id.ToString()].Start);
        found.SecondGains.ShouldBeGreaterThan(1);
    }

    [Fact]
    public void What_should_be_earned_by_now_is_spread_from_start_to_finish()
    {
        var start = Instant.FromUtc(2026, 3, 2, 8, 0);
        var baseline = new Baseline
        {
            BuildId = Guid.Empty,
            Why = "Estimate accepted",
            Finish = start + Duration.FromDays(10),
            Rows =
            [
                new(Guid.Empty, Stage.Metal, 600, start, start + Duration.FromDays(4)),
                new(Guid.Empty, Stage.Fill, 300, start + Duration.FromDays(4), start + Duration.FromDays(10)),
                new(Guid.Empty, Stage.Fill, 60, null, null),
            ],
        };
        baseline.PlannedMinutes(start).ShouldBe(0);
        baseline.PlannedMinutes(start + Duration.FromDays(1)).ShouldBe(150);
        baseline.PlannedMinutes(start + Duration.FromDays(7), Stage.Fill).ShouldBe(150);
        baseline.PlannedMinutes(start + Duration.FromDays(10)).ShouldBe(960);
    }
}

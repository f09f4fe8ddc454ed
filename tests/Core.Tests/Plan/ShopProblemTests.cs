using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using NodaTime;
using NodaTime.Text;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>What is recorded in the shop reaches the plan, with numbers counted by hand.</summary>
public sealed class ShopProblemTests
{
    private readonly RecordedShop _shop = new();

    [Fact]
    public void A_pair_of_hands_is_there_at_the_same_moment()
    {
        var cy = RecordedShop.Person("Cy", Trade.Hand);
        cy.Absences = [new(new(2026, 3, 5, 0, 0), new(2026, 3, 5, 10, 0), "late")];
        _shop.People.Add(cy);
        var hang = _shop.Work(_shop.Build(1), "Hang doors", 2, terms: new() { With = [new(Trade.Hand, 1)] });
        var plan = _shop.Plan();
        _shop.Starts(plan, hang, 5, 10);
        plan.Operations[hang.Id.ToString()].People.ShouldBe([_shop.Ada.Id.ToString(), cy.Id.ToString()]);
        plan.Operations[hang.Id.ToString()].Reason.Kind.ShouldBe(WaitKind.Absence);
        // Two hours of two pairs of hands are one on the clock.
        _shop.Calendar.Local(plan.Operations[hang.Id.ToString()].Finish).ShouldBe(new(2026, 3, 5, 11, 0));

        // One person who is a pair of hands too cannot be two; and nobody does what nobody has learnt.
        _shop.People.Remove(cy);
        _shop
            .Plan()
            .Unplanned.ShouldHaveSingleItem()
            .Reason.ShouldBe(new(WaitKind.Trade, "nobody has the trade helper"));
        _shop.Ada.Trades = [Trade.Metal, Trade.Hand];
        _shop.People.Remove(_shop.Bo);
        plan = _shop.Plan();
        plan.Unplanned.ShouldHaveSingleItem()
            .Reason.ShouldBe(new(WaitKind.Trade, "needs 2 people at once, and one person could do it"));
        plan.Builds.Values.ShouldHaveSingleItem().Partly.ShouldBeTrue();
    }

    [Fact]
    public void Own_hours_pace_and_kept_times_decide_when_somebody_works()
    {
        // From Friday on Ada comes for the afternoon only; a likely hour takes her an hour and a half.
        var (one, two) = (_shop.Build(1), _shop.Build(2));
        _shop.Ada.Terms = new()
        {
            Pace = 1.5m,
            Hours =
            [
                new(
                    new(2026, 3, 6),
                    [
                        new(IsoDayOfWeek.Friday, new(12, 30), new(16, 30), []),
                        new(IsoDayOfWeek.Monday, new(12, 30), new(16, 30), []),
                    ]
                ),
            ],
            Slots = [new(IsoDayOfWeek.Thursday, new(8, 0), new(12, 0), two.Id)],
        };
        var work = _shop.Work(one, "Weld", 4);
        var other = _shop.Work(two, "Bend", 1);
        var plan = _shop.Plan();
        _shop.Starts(plan, work, 5, 12, 30);
        _shop.Starts(plan, other, 5, 8);
        // Six hours of hers: four on Thursday afternoon, two on Friday from 12:30.
        _shop.Calendar.Local(plan.Operations[work.Id.ToString()].Finish).ShouldBe(new(2026, 3, 6, 14, 30));
    }

    [Fact]
    public void Somebody_is_not_given_a_kind_of_work()
    {
        _shop.Ada.Terms = new() { NotGiven = [WorkKind.HotWork] };
        var weld = _shop.Work(_shop.Build(1), "Weld", 1, terms: new() { Kinds = [WorkKind.HotWork] });
        _shop
            .Plan()
            .Unplanned.ShouldHaveSingleItem()
            .Reason.Text.ShouldBe("nobody can do it who is given such work: metal");
        var cy = RecordedShop.Person("Cy", Trade.Metal);
        _shop.People.Add(cy);
        _shop.Plan().Operations[weld.Id.ToString()].Person.ShouldBe(cy.Id.ToString());
    }

    [Theory]
    [InlineData(null, null)]
    [InlineData("2026-03-04", null)]
    [InlineData("2026-03-10", "2026-03-11")]
    public void A_danger_that_is_not_settled_holds_its_work_until_the_day_that_was_said(
        string? expected,
        string? starts
    )
    {
        var build = _shop.Build(1);
        var (fit, strip) = (_shop.Work(build, "Fit", 1), _shop.Work(build, "Strip", 1));
        (fit.Stage, strip.Stage) = (Stage.Trim, Stage.Strip);
        LocalDate? Date(string? text) => text is null ? null : LocalDatePattern.Iso.Parse(text).Value;
        var pad = new NoticedHazard(Guid.CreateVersion7(), Hazard.Asbestos, "pad", "", false)
        {
            ExpectedOn = Date(expected),
        };
        _shop.Dangers[build.Id] = [pad];
        var held = _shop.Plan();
        if (starts is null)
        {
            held.Unplanned.ShouldHaveSingleItem()
                .Reason.ShouldBe(
                    new(WaitKind.Danger, "Suspected asbestos (pad) is not settled: no date yet", pad.Id.ToString())
                );
        }
        else
        {
            _shop.Starts(held, strip, Date(starts)!.Value.Day, 8);
            held.Operations[strip.Id.ToString()].Reason.Kind.ShouldBe(WaitKind.Danger);
        }

        _shop.Starts(held, fit, 5, 8);
        _shop.Dangers[build.Id] = [pad with { Settled = true }];
        _shop
            .Plan()
            .Operations[strip.Id.ToString()]
            .Start.ShouldBeLessThan(_shop.At(6, 8), "the cause taken away, it starts");
    }

    [Fact]
    public void What_rests_on_temporary_metal_that_is_in_the_way_says_so_until_it_is_out_and_is_under_way()
    {
        var build = _shop.Build(1);
        var hang = _shop.Work(build, "Hang", 2);
        (hang.Held, hang.Panels) = (Held.Bolted, ["doorL"]);
        var gap = _shop.Work(build, "Gap", 2, after: new OperationLink(hang.Id, 0));
        (gap.Held, gap.Panels) = (Held.Bolted, ["doorL"]);
        string? Rests(PlanFacts facts) => new Planner().Plan(facts.Problem()).Operations[hang.Id.ToString()].Assumes;
        var brace = _shop.Facts with
        {
            Metal = new Dictionary<Guid, IReadOnlyList<TemporaryMetal>>
            {
                [build.Id] =
                [
                    new("doorL", "brace across the opening", true, Stage.Fill),
                    new("doorR", "tack on the right", true, Stage.Fill),
                ],
            },
        };
        Rests(brace).ShouldBe("if out by then: brace across the opening");
        new Planner()
            .Plan(brace.Problem())
            .Operations[gap.Id.ToString()]
            .Assumes.ShouldBeNull("it is said once, at the first that it stops");
        Rests(_shop.Facts).ShouldBeNull();
        Rests(brace with { Running = new Dictionary<Guid, Guid> { [hang.Id] = _shop.Ada.Id } }).ShouldBeNull();
    }

    [Fact]
    public void What_asks_for_a_kind_of_place_that_the_shop_does_not_have_is_done_where_the_vehicle_stands()
    {
        _shop.Station(StationKind.Bay);
        var build = _shop.Build(1);
        build.Stand(_shop.Stations[0].Id, "");
        var look = _shop.Work(build, "Look over", 2, terms: new() { Body = BodyUse.OnBody }, station: StationKind.Lift);
        var plan = _shop.Plan();
        _shop.Starts(plan, look, 5, 8);
        plan.Unplanned.ShouldBeEmpty();
        plan.Stays.ShouldHaveSingleItem().Place.ShouldBe(_shop.Stations[0].Id.ToString());

        // Once there is a lift, it goes there: a quarter of an hour, and Ada's.
        _shop.Station(StationKind.Lift);
        _shop.Starts(_shop.Plan(), look, 5, 8, 15);
    }

    [Fact]
    public void What_should_have_come_before_work_that_goes_on_still_comes_before_what_follows_it()
    {
        // Bo fills while the floor, found late, is still to be replaced: the high-build waits for the floor all the
        // same.
        var build = _shop.Build(1);
        _shop.People.Add(RecordedShop.Person("Cy", Trade.Paint));
        var floor = _shop.Work(build, "Floor", 8);
        var fill = _shop.Work(build, "Fill", 1, Trade.Paint, after: new OperationLink(floor.Id, 0));
        var spray = _shop.Work(build, "High-build", 1, Trade.Paint, after: new OperationLink(fill.Id, 0));
        var idle = new Planner().Plan(_shop.Facts.Problem());
        _shop.Starts(idle, fill, 6, 8);
        var plan = new Planner().Plan(
            (_shop.Facts with { Running = new Dictionary<Guid, Guid> { [fill.Id] = _shop.Bo.Id } }).Problem()
        );
        _shop.Starts(plan, fill, 5, 8);
        _shop.Starts(plan, floor, 5, 8);
        _shop.Starts(plan, spray, 6, 8);
    }

    [Fact]
    public void Past_its_inspection_a_station_is_closed_and_says_which()
    {
        _shop.Station(
            StationKind.Booth,
            terms: new() { InspectedUntil = new(2026, 3, 6), Inspected = "breathing air" }
        );
        var build = _shop.Build(1);
        var first = _shop.Work(build, "Prime", 4, Trade.Paint, station: StationKind.Booth);
        var late = _shop.Work(
            build,
            "Colour",
            8,
            Trade.Paint,
            station: StationKind.Booth,
            after: new OperationLink(first.Id, 1440)
        );
        var plan = _shop.Plan();
        _shop.Starts(plan, first, 5, 8);
        // It is still to run out: the plan takes it that it is renewed, and marks what rests on that.
        plan.Operations[first.Id.ToString()].Assumes.ShouldBeNull();
        plan.Operations[late.Id.ToString()]
            .Assumes.ShouldBe("if renewed: Booth: breathing air, which runs out on 6 Mar 2026");

        _shop.Stations[0].Terms = new() { InspectedUntil = new(2026, 3, 4), Inspected = "breathing air" };
        plan = _shop.Plan();
        plan.Unplanned[0]
            .ShouldBe(
                new(
                    first.Id.ToString(),
                    build.Id.ToString(),
                    new(WaitKind.Inspection, "Booth: breathing air ran out on 4 Mar 2026")
                )
            );
        plan.Unplanned[1].Operation.ShouldBe(late.Id.ToString());
    }

    [Fact]
    public void A_place_that_was_taken_last_week_is_still_held_and_its_own_work_goes_on_in_it()
    {
        _shop.Station(StationKind.Jig);
        var (one, two) = (_shop.Build(1, priority: 9), _shop.Build(2, priority: 1));
        var mount = _shop.Work(one, "On the jig", 4, station: StationKind.Jig);
        var cut = _shop.Work(one, "Cut and weld", 8, station: StationKind.Jig, after: new OperationLink(mount.Id, 0));
        var off = _shop.Work(one, "Off the jig", 2, station: StationKind.Jig, after: new OperationLink(cut.Id, 0));
        mount.Terms = new() { Hold = new(StationKind.Jig, off.Id) };
        mount.Finish("Ada", _shop.Clock(4, 12));
        var wants = _shop.Work(two, "Measure", 1, station: StationKind.Jig);
        _shop.People.Add(RecordedShop.Person("Cy", Trade.Metal));
        var plan = _shop.Plan();
        _shop.Starts(plan, cut, 5, 8);
        // Ten hours on the jig: until Friday 10:00.
        _shop.Starts(plan, wants, 6, 10);
        plan.Operations[wants.Id.ToString()].Reason.Kind.ShouldBe(WaitKind.Station);
        ShopReference
            .Of(plan.Operations[wants.Id.ToString()].Reason.Ref, new Dictionary<Guid, Guid>())
            .ShouldBe(mount.Id.ToString());
    }

    [Fact]
    public void A_place_that_is_held_since_last_week_is_out_of_nobodys_reach_wherever_the_vehicle_was_recorded()
    {
        // The shell does not roll any more, and the booth that it holds is behind a door.
        _shop.Station(StationKind.Booth, door: 2300);
        var build = _shop.Build(1, terms: new() { Support = SupportState.Jig });
        var mask = _shop.Work(build, "Mask", 1, Trade.Paint, station: StationKind.Booth);
        var bare = _shop.Work(build, "Take the paper off", 1, Trade.Paint, after: new OperationLink(mask.Id, 0));
        mask.Terms = new() { Hold = new(StationKind.Booth, bare.Id) };
        mask.Finish("Ada", _shop.Clock(4, 12));
        var plan = _shop.Plan();
        plan.OutOfReach.ShouldBeEmpty();
        plan.Unplanned.ShouldBeEmpty();
        plan.Operations.ShouldContainKey(bare.Id.ToString());
    }

    [Fact]
    public void Of_a_crew_that_could_be_put_together_in_hundreds_of_ways_one_is_found_that_is_there()
    {
        var build = _shop.Build(1);
        var lift = _shop.Work(build, "Lift the body", 2, terms: new() { With = [new(Trade.Hand, 2)] });
        // Whoever has done least is away for a year: the crew is found among the others all the same.
        var away = new Absence(new(2026, 1, 1, 0, 0), new(2027, 1, 1, 0, 0), "away");
        foreach (var i in Enumerable.Range(0, 24))
        {
            var person = RecordedShop.Person($"Hand {i}", Trade.Hand);
            person.Absences = i < 20 ? [away] : [];
            _shop.People.Add(person);
        }

        var planned = _shop.Plan().Operations[lift.Id.ToString()];
        _shop.Starts(_shop.Plan(), lift, 5, 8);
        planned.People.Count.ShouldBe(3);
        planned
            .People.Select(id => _shop.People.Single(p => p.Id.ToString() == id))
            .ShouldAllBe(p => p.Absences.Count == 0);
    }

    [Fact]
    public void While_the_body_is_away_the_plan_fills_with_what_does_not_need_it()
    {
        var build = _shop.Build(1);
        var supplier = new Supplier { Id = Guid.CreateVersion7(), Name = "Dipper" };
        var dip = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = build.Id,
            Name = "Dipped",
            Kind = OperationKind.Outside,
            ClockMinutes = 4 * 1440,
            Position = 1,
            Terms = new() { Body = BodyUse.TakesAway, SupplierId = supplier.Id },
        };
        _shop.Operations.Add(dip);
        var on = _shop.Work(build, "Floor", 2, terms: new() { Body = BodyUse.OnBody });
        var beside = _shop.Work(build, "Door skins", 2);
        var job = new OutsideJob
        {
            BuildId = build.Id,
            SupplierId = supplier.Id,
            OperationId = dip.Id,
            Title = "Dip the shell",
            Id = Guid.CreateVersion7(),
        };
        job.Send(new(2026, 3, 4), new(2026, 3, 10));
        var plan = new Planner().Plan((_shop.Facts with { Jobs = [job], Suppliers = [supplier] }).Problem());
        _shop.Starts(plan, beside, 5, 8);
        _shop.Starts(plan, on, 10, 8);
        plan.Operations[on.Id.ToString()].Reason.Text.ShouldBe("the vehicle is away for Dip the shell");
    }

    [Fact]
    public void A_suppliers_days_are_its_own_and_a_batch_leaves_together()
    {
        var build = _shop.Build(1);
        // Works on Mondays and Tuesdays: two days from Thursday the 5th are over on Tuesday the 10th.
        var supplier = new Supplier
        {
            Id = Guid.CreateVersion7(),
            Name = "Plater",
            WorkDays = [IsoDayOfWeek.Monday, IsoDayOfWeek.Tuesday],
        };
        Operation Out(string name, params OperationLink[] after) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                BuildId = build.Id,
                Name = name,
                Kind = OperationKind.Outside,
                ClockMinutes = 2 * 1440,
                After = [.. after],
                Terms = new() { SupplierId = supplier.Id, Batch = "March" },
            };
        var strip = _shop.Work(build, "Take off trim", 8);
        var (bumpers, trim) = (Out("Bumpers"), Out("Trim", new OperationLink(strip.Id, 0)));
        _shop.Operations.AddRange([bumpers, trim]);
        var plan = new Planner().Plan((_shop.Facts with { Suppliers = [supplier] }).Problem());
        plan.Operations[bumpers.Id.ToString()].Start.ShouldBe(plan.Operations[trim.Id.ToString()].Start);
        _shop.Calendar.Local(plan.Operations[trim.Id.ToString()].Finish).ShouldBe(new(2026, 3, 11, 0, 0));
    }

    [Fact]
    public void A_visiting_trade_comes_on_its_own_days_after_it_has_accepted_and_takes_a_bay_of_ours()
    {
        _shop.Station(StationKind.Bay);
        var (build, other) = (_shop.Build(1), _shop.Build(2, priority: 3));
        var supplier = new Supplier
        {
            Id = Guid.CreateVersion7(),
            Name = "Upholsterer",
            WorkDays = [IsoDayOfWeek.Tuesday, IsoDayOfWeek.Thursday],
        };
        var glass = _shop.Work(build, "Glass", 8, station: StationKind.Bay);
        var gate = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = build.Id,
            Name = "Accepted",
            Kind = OperationKind.Gate,
            Gate = GateKind.Surface,
            After = [new(glass.Id, 0)],
        };
        var visit = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = build.Id,
            Name = "Trim",
            Kind = OperationKind.Outside,
            ClockMinutes = 2 * 1440,
            Station = StationKind.Bay,
            After = [new(gate.Id, 0)],
            Terms = new() { SupplierId = supplier.Id, Body = BodyUse.OnBody },
        };
        _shop.Operations.AddRange([gate, visit]);
        var later = _shop.Work(other, "Metalwork", 24, station: StationKind.Bay);
        var plan = new Planner().Plan((_shop.Facts with { Suppliers = [supplier] }).Problem());
        // Glass all Thursday the 5th; they come on Tuesday and on Thursday, as long as the shop is open.
        _shop.Starts(plan, visit, 10, 8);
        _shop.Calendar.Local(plan.Operations[visit.Id.ToString()].Finish).ShouldBe(new(2026, 3, 12, 16, 30));
        // Friday and Monday are free there; three days are not.
        _shop.Starts(plan, later, 13, 8);
        plan.Operations[later.Id.ToString()].Reason.Kind.ShouldBe(WaitKind.Station);
    }

    [Fact]
    public void A_window_since_finished_work_lapses_and_says_what_must_be_done_again()
    {
        var build = _shop.Build(1);
        var blast = _shop.Work(build, "Blast", 4);
        var prime = _shop.Work(
            build,
            "Prime",
            2,
            Trade.Paint,
            after: new OperationLink(blast.Id, 0)
            {
                AtMostMinutes = 24 * 60,
                Lapse = new("Clean again", 60, Trade.Metal),
            }
        );
        blast.Finish("Ada", _shop.Clock(3, 16));
        var plan = _shop.Plan();
        plan.Inserted.ShouldHaveSingleItem().Name.ShouldBe("Clean again");
        _shop.Starts(plan, prime, 5, 9);
        blast.Reopen();
        blast.Finish("Ada", _shop.Clock(4, 16));
        plan = _shop.Plan();
        plan.Inserted.ShouldBeEmpty();
        _shop.Starts(plan, prime, 5, 8);
    }

    [Fact]
    public void Grinding_and_a_wet_coat_share_no_air_but_two_spaces_do_not_meet()
    {
        _shop.Station(StationKind.Prep, terms: new() { AirSpace = "hall" });
        _shop.Station(StationKind.Bay, terms: new() { AirSpace = "hall" });
        var (one, two) = (_shop.Build(1), _shop.Build(2, priority: 3));
        _shop.Work(one, "Dress welds", 3, station: StationKind.Bay, terms: new() { Kinds = [WorkKind.Grinding] });
        var coat = _shop.Work(
            two,
            "Etch",
            2,
            Trade.Paint,
            station: StationKind.Prep,
            terms: new() { Kinds = [WorkKind.WetCoat] }
        );
        var plan = _shop.Plan();
        _shop.Starts(plan, coat, 5, 11);
        plan.Operations[coat.Id.ToString()]
            .Reason.Text.ShouldBe("grinding dust and a wet coat share the air: Dress welds on 1");
        _shop.Stations[0].Terms = new() { AirSpace = "cabin" };
        _shop.Starts(_shop.Plan(), coat, 5, 8);
    }

    [Theory]
    [InlineData(Hazard.Support, Hazard.Welding, "welding")]
    [InlineData(Hazard.Lifting, Hazard.AirTools, "grinding")]
    public void Nothing_is_cut_on_a_vehicle_while_it_is_lifted_or_put_on_its_support(
        Hazard heavy,
        Hazard hot,
        string says
    )
    {
        _shop.People.Add(RecordedShop.Person("Bea", Trade.Mechanic));
        var (one, two) = (_shop.Build(1), _shop.Build(2, priority: 3));
        var lift = _shop.Work(one, "Body off", 3, Trade.Mechanic, terms: new() { Body = BodyUse.OnBody });
        var cut = _shop.Work(one, "Cut out the sill", 2, terms: new() { Body = BodyUse.OnBody });
        lift.Hazard = heavy;
        _shop.Starts(_shop.Plan(), cut, 5, 8);
        // Said of the danger alone, on whatever path it was entered.
        cut.Hazard = hot;
        var plan = _shop.Plan();
        var (first, second) = (plan.Operations[lift.Id.ToString()], plan.Operations[cut.Id.ToString()]);
        (second.Start >= first.Finish || first.Start >= second.Finish).ShouldBeTrue();
        new[] { first, second }.ShouldContain(o =>
            o.Reason.Kind == WaitKind.Air && o.Reason.Text.StartsWith($"no {says}", StringComparison.Ordinal)
        );
        // On the bench nothing hangs over anybody, and another vehicle is another matter.
        cut.Terms = new() { Body = BodyUse.Beside };
        _shop.Starts(_shop.Plan(), cut, 5, 8);
        cut.Terms = new() { Body = BodyUse.OnBody };
        _shop.Operations.Remove(lift);
        _shop.Work(two, "Body off", 3, Trade.Mechanic, terms: new() { Body = BodyUse.OnBody }).Hazard = heavy;
        _shop.Starts(_shop.Plan(), cut, 5, 8);
    }

    [Fact]
    public void What_cannot_be_reached_in_the_rotisserie_waits_for_the_cart_and_is_done_before_the_shell_moves_on()
    {
        _shop.Station(StationKind.Booth, door: 2300);
        var build = _shop.Build(1, terms: new() { Support = SupportState.Rotisserie });
        var mount = _shop.Work(build, "Weld behind the mount", 2, terms: new() { Forbids = [SupportState.Rotisserie] });
        var under = _shop.Work(build, "Underside", 4, terms: new() { Needs = [SupportState.Rotisserie] });
        var cart = _shop.Work(build, "On the cart", 1, terms: new() { Sets = SupportState.Cart });
        var jig = _shop.Work(build, "On the jig", 1, terms: new() { Sets = SupportState.Jig });
        var paint = _shop.Work(build, "Paint", 4, Trade.Paint, station: StationKind.Booth);
        var facts = _shop.Facts with { Heights = new Dictionary<Guid, Heights> { [build.Id] = new(1500, 0, 50, []) } };
        var plan = new Planner().Plan(facts.Problem());
        plan.OutOfReach.Single(r => r.Until is not null)
            .ShouldBe(
                new(
                    mount.Id.ToString(),
                    build.Id.ToString(),
                    "cannot be done while the shell stands on the rotisserie",
                    cart.Id.ToString()
                )
            );
        _shop.Starts(plan, under, 5, 8);
        _shop.Starts(plan, cart, 5, 12, 30);
        _shop.Starts(plan, mount, 5, 13, 30);
        _shop.Starts(plan, jig, 5, 15, 30);
        plan.Unplanned.Single(u => u.Operation == paint.Id.ToString())
            .Reason.Text.ShouldBe("the shell does not roll on the jig, and Booth is behind a door");
    }

    [Fact]
    public void Too_tall_for_the_door_by_what_the_dolly_lifts_it()
    {
        // 1,900 + 450 on the cart + 50 kept free, as was entered with it, = 2,400 under a door of 2,300.
        _shop.Station(StationKind.Booth, door: 2300);
        var build = _shop.Build(1, terms: new() { Support = SupportState.Cart });
        var paint = _shop.Work(build, "Paint", 4, Trade.Paint, station: StationKind.Booth);
        PlanFacts Tall(int mm, params Lowering[] lower) =>
            _shop.Facts with
            {
                Heights = new Dictionary<Guid, Heights> { [build.Id] = new(mm, 0, 50, [.. lower]) },
            };
        new Planner()
            .Plan(Tall(1900).Problem())
            .Unplanned.ShouldHaveSingleItem()
            .Reason.Text.ShouldBe(
                "the shell is 1900 mm, on the cart 2350 mm: with 50 mm to spare it does not pass the door of Booth, 2300 mm"
            );
        new Planner().Plan(Tall(1800).Problem()).Unplanned.ShouldBeEmpty();
        // A way to lower it that nobody has planned lowers nothing; once it is work, that comes before the door.
        new Planner().Plan(Tall(1900, new Lowering("Bows off", 200)).Problem()).Unplanned.Count.ShouldBe(1);
        Outlook
            .Of(Tall(1900).Problem(), Beliefs.None, futures: 10)
            .Builds.Values.ShouldHaveSingleItem()
            .Partly.ShouldBeTrue();
        var bows = _shop.Work(build, "Bows off", 2, terms: new() { LowersMm = 200 });
        var plan = new Planner().Plan(Tall(1900).Problem());
        _shop.Starts(plan, bows, 5, 8);
        _shop.Starts(plan, paint, 5, 10);
        bows.Finish("Ada", _shop.Clock(4, 12));
        _shop.Starts(new Planner().Plan(Tall(1900).Problem()), paint, 5, 8);
    }

    [Fact]
    public void The_reference_side_stays_closed_until_the_other_is_signed_off()
    {
        var build = _shop.Build(1);
        _shop.People.Add(RecordedShop.Person("Cy", Trade.Metal));
        var left = _shop.Work(build, "Left", 8);
        var right = _shop.Work(build, "Right", 8, terms: new() { ClosedUntil = left.Id });
        _shop.Starts(_shop.Plan(), right, 6, 8);
        left.Finish("Ada", _shop.Clock(4, 12));
        _shop.Starts(_shop.Plan(), right, 5, 8);
    }

    [Fact]
    public void Nothing_starts_that_the_months_money_does_not_cover()
    {
        // At 60.00 an hour and without tax eight hours are 480.00: one a month.
        var build = _shop.Build(1, terms: new() { Spending = new(500, false) });
        var first = _shop.Work(build, "Left", 8);
        var second = _shop.Work(build, "Right", 8, after: new OperationLink(first.Id, 0));
        var plan = new Planner().Plan(
            (_shop.Facts with { Covers = new Dictionary<Guid, CoverSoFar> { [build.Id] = new(0, 0) } }).Problem()
        );
        _shop.Starts(plan, first, 5, 8);
        _shop.Calendar.Local(plan.Operations[second.Id.ToString()].Start).ShouldBe(new(2026, 4, 1, 8, 0));
        plan.Operations[second.Id.ToString()].Reason.Kind.ShouldBe(WaitKind.Deposit);

        // 100.00 were worked this month already: 400.00 cover nothing of it before April.
        plan = new Planner().Plan(
            (_shop.Facts with { Covers = new Dictionary<Guid, CoverSoFar> { [build.Id] = new(0, 100) } }).Problem()
        );
        _shop.Calendar.Local(plan.Operations[first.Id.ToString()].Start).ShouldBe(new(2026, 4, 1, 8, 0));
    }

    [Fact]
    public void As_far_as_the_deposit_reaches()
    {
        var build = _shop.Build(1, terms: new() { Spending = new(null, true) });
        var first = _shop.Work(build, "Left", 8);
        var second = _shop.Work(build, "Right", 8, after: new OperationLink(first.Id, 0));
        var plan = new Planner().Plan(
            (_shop.Facts with { Covers = new Dictionary<Guid, CoverSoFar> { [build.Id] = new(600, 0) } }).Problem()
        );
        _shop.Starts(plan, first, 5, 8);
        plan.Unplanned.ShouldHaveSingleItem()
            .ShouldBe(
                new(
                    second.Id.ToString(),
                    build.Id.ToString(),
                    new(WaitKind.Deposit, "not covered: 600.00 may be spent in all")
                )
            );
    }

    [Theory]
    [InlineData(null, "2026-04-15")]
    // A month's 500.00 are there in April, but nobody pays them before the 15th.
    [InlineData(500, "2026-04-15")]
    // Two months' 1,000.00 are there then, two thirds of what a second day and the first take: the third in June.
    [InlineData(320, "2026-05-01")]
    public void Who_pays_again_later_has_work_as_far_as_was_paid_and_from_then_on_as_usual(int? month, string second)
    {
        var build = _shop.Build(1, terms: new() { Spending = new(month, false) { PaysFrom = new(2026, 4, 15) } });
        var works = (First: _shop.Work(build, "Left", 5), Second: _shop.Work(build, "Right", 8));
        works.Second.After = [new(works.First.Id, 0)];
        var plan = new Planner().Plan(
            (_shop.Facts with { Covers = new Dictionary<Guid, CoverSoFar> { [build.Id] = new(310, 0) } }).Problem()
        );
        _shop.Starts(plan, works.First, 5, 8);
        var start = _shop.Calendar.Local(plan.Operations[works.Second.Id.ToString()].Start);
        start.Date.ShouldBe(NodaTime.Text.LocalDatePattern.Iso.Parse(second).Value);
        plan.Operations[works.Second.Id.ToString()].Reason.Kind.ShouldBe(WaitKind.Deposit);
    }

    [Fact]
    public void Who_pays_again_by_now_holds_nothing_back()
    {
        var build = _shop.Build(1, terms: new() { Spending = new(null, false) { PaysFrom = new(2026, 3, 5) } });
        var work = _shop.Work(build, "Left", 8);
        _shop.Starts(_shop.Plan(), work, 5, 8);
    }

    [Fact]
    public void An_order_waits_for_its_measurement_and_the_fitting_for_the_order()
    {
        var build = _shop.Build(1);
        var measure = _shop.Work(build, "Trial fit of the spring", 8);
        var fit = _shop.Work(build, "Springs in", 2);
        var part = new PartLine
        {
            Id = Guid.CreateVersion7(),
            BuildId = build.Id,
            Name = "Rear spring",
            OperationId = fit.Id,
            MeasuredBy = measure.Id,
        };
        // Measured on Thursday by 16:30; fourteen days later that is Thursday the 19th at 16:30, so Friday at 8.
        var plan = new Planner().Plan((_shop.Facts with { Parts = [part] }).Problem());
        _shop.Starts(plan, fit, 20, 8);
        plan.Operations[fit.Id.ToString()].Reason.Kind.ShouldBe(WaitKind.Measurement);
        plan.Operations[fit.Id.ToString()]
            .Reason.Text.ShouldBe("Rear spring: ordered once Trial fit of the spring has measured");
        ShopReference
            .Of(plan.Operations[fit.Id.ToString()].Reason.Ref, new Dictionary<Guid, Guid> { [part.Id] = measure.Id })
            .ShouldBe(measure.Id.ToString());
        plan.Chain(fit.Id.ToString())
            .Select(c => c.Operation)
            .ShouldBe([fit.Id.ToString(), $"part {part.Id}", measure.Id.ToString()]);
    }

    [Fact]
    public void Shared_things_run_out()
    {
        _shop.Shop.Plan = new() { Things = [new("carrier", 1)] };
        var (one, two) = (_shop.Build(1), _shop.Build(2, priority: 3));
        _shop.Work(one, "Skin off", 3, terms: new() { Uses = [new("carrier", 1)] });
        var skin = _shop.Work(two, "Skin on", 2, Trade.Paint, terms: new() { Uses = [new("carrier", 1)] });
        var plan = _shop.Plan();
        _shop.Starts(plan, skin, 5, 11);
        plan.Operations[skin.Id.ToString()].Reason.Text.ShouldBe("carrier is in use on 1");
    }

    [Fact]
    public void Not_before_a_day_and_by_a_day()
    {
        var late = _shop.Work(
            _shop.Build(1),
            "Show panel",
            4,
            terms: new() { NotBefore = new(2026, 3, 9), Deadline = new(2026, 3, 9) }
        );
        var plan = _shop.Plan();
        _shop.Starts(plan, late, 9, 8);
        plan.Operations[late.Id.ToString()].MissesDeadline.ShouldBeFalse();
        late.Terms = late.Terms with { Deadline = new(2026, 3, 9) };
        late.BudgetMinutes = 20 * 60;
        _shop.Plan().Operations[late.Id.ToString()].MissesDeadline.ShouldBeTrue();
    }

    [Fact]
    public void The_spread_is_of_what_is_left()
    {
        var o = _shop.Work(_shop.Build(1), "Weld", 10, terms: new() { LowMinutes = 480, HighMinutes = 900 });
        o.State(0.5m, default);
        var left = _shop.Facts.Problem().Builds[0].Operations.ShouldHaveSingleItem();
        (left.Low, left.Minutes, left.High).ShouldBe((240, 300, 450));
    }

    public static TheoryData<OperationTerms, string> Wrong() =>
        new()
        {
            {
                new() { LowMinutes = 30 },
                "lowMinutes"
            },
            {
                new() { LowMinutes = 90, HighMinutes = 120 },
                "lowMinutes"
            },
            {
                new() { LowMinutes = 30, HighMinutes = 40 },
                "highMinutes"
            },
            {
                new() { With = [new(Trade.Hand, 0)] },
                "with"
            },
            {
                new() { Needs = [SupportState.Jig], Forbids = [SupportState.Jig] },
                "needs"
            },
            {
                new() { NotBefore = new(2026, 3, 9), Deadline = new(2026, 3, 8) },
                "deadline"
            },
            {
                new() { Uses = [new("clamp", 1), new("clamp", 2)] },
                "uses"
            },
        };

    [Theory, MemberData(nameof(Wrong))]
    public void Terms_that_cannot_be_are_refused(OperationTerms terms, string field) =>
        Should.Throw<Refusal>(() => terms.Check(60)).Field.ShouldBe(field);
}

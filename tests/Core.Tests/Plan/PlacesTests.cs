using CsCheck;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Plan.Files;
using FirstCoat.Core.Sequence;
using FirstCoat.PlanCheck;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>Vehicles in places, and reasons, by a check that knows nothing of how plans are made.</summary>
public sealed class PlacesTests
{
    [Fact]
    public void Every_plan_of_every_shop_could_be_kept() =>
        ShopWithPlaces.Problems.Sample(
            problem => ShopPlanCheck.Faults(problem, new Planner().Plan(problem)).ShouldBeEmpty(),
            iter: 300
        );

    /// <summary>Shops in which vehicles once were moved as they would stand later, were not out of a place in time, or
    /// were pushed twice at once.</summary>
    [Theory]
    [InlineData(6249)]
    [InlineData(6840)]
    [InlineData(26163)]
    public void The_plan_of_a_shop_that_once_broke_it_can_be_kept(int seed) =>
        ShopPlanCheck.Faults(ShopWithPlaces.Of(seed), new Planner().Plan(ShopWithPlaces.Of(seed))).ShouldBeEmpty();

    [Fact]
    public void A_better_order_could_be_kept_too() =>
        ShopWithPlaces.Problems.Sample(
            problem =>
            {
                var better = PlanImprovement.Search(problem, 0.1).Plan;
                ShopPlanCheck.Faults(problem, better).ShouldBeEmpty();
                ShopPlanCheck
                    .Faults(problem, new Planner().Plan(problem with { Turns = better.Turns }))
                    .ShouldBeEmpty();
            },
            iter: 12
        );

    [Fact]
    public void What_is_wanted_in_one_place_is_done_in_that_one_and_the_plan_could_be_kept() =>
        ShopWithPlaces.Problems.Sample(
            problem =>
            {
                static PlanOperation InTheSecond(PlanOperation o, int i) =>
                    o is { Station: "bay", Body: BodyUse.OnBody } && i % 2 == 0 ? o with { At = "bay2" } : o;
                var wanted = problem with
                {
                    Builds =
                    [
                        .. problem.Builds.Select(b => b with { Operations = [.. b.Operations.Select(InTheSecond)] }),
                    ],
                };
                var plan = new Planner().Plan(wanted);
                ShopPlanCheck.Faults(wanted, plan).ShouldBeEmpty();
                wanted
                    .Builds.SelectMany(b => b.Operations)
                    .Where(o =>
                        o is { At: not null, UnderWay: false, Minutes: > 0 } && plan.Operations.ContainsKey(o.Id)
                    )
                    .ShouldAllBe(o => plan.Operations[o.Id].Place == "bay2");
            },
            iter: 60
        );

    [Fact]
    public void What_is_put_off_takes_nobodys_date_away() =>
        Gen.Select(ShopWithPlaces.Problems, Gen.Int[0, 200], Gen.Int[1, 60])
            .Sample(
                (problem, which, days) =>
                {
                    var plan = new Planner().Plan(problem);
                    var planned = problem
                        .Builds.SelectMany(b => b.Operations)
                        .Where(o => !o.UnderWay && plan.Operations.ContainsKey(o.Id))
                        .ToList();
                    // Where something has no date in any case, its vehicle may stand in the way for good.
                    if (planned.Count == 0 || plan.Unplanned.Count > 0)
                    {
                        return;
                    }

                    var chosen = planned[which % planned.Count].Id;
                    var day = plan.Operations[chosen].Start + (days * 1440L);
                    new Planner().Plan(PutOff(problem, chosen, day)).Unplanned.ShouldBeEmpty();
                },
                iter: 200
            );

    private static PlanProblem PutOff(PlanProblem problem, string operation, long until) =>
        problem with
        {
            Builds =
            [
                .. problem.Builds.Select(b =>
                    b with
                    {
                        Operations =
                        [
                            .. b.Operations.Select(o =>
                                o.Id == operation
                                    ? o with
                                    {
                                        Waits = [.. o.Waits, new(WaitKind.NotBefore, until, "not before")],
                                    }
                                    : o
                            ),
                        ],
                    }
                ),
            ],
        };

    [Fact]
    public void Futures_are_drawn_with_places() =>
        ShopWithPlaces.Problems.Sample(
            problem =>
            {
                var outlook = Outlook.Of(problem, Beliefs.None, futures: 10);
                outlook.Builds.Values.ShouldAllBe(b => b.P50 >= problem.Now && b.P80 >= b.P50);
            },
            iter: 40
        );

    // Counted by hand: Monday to Friday, 08:00 to 16:30 with a break at noon, eight hours a day; it is Thursday the 5th
    // of March 2026, 08:00.
    private static readonly WorkCalendar Calendar = new(
        WorkWeek.Of(
            Enumerable
                .Range(1, 5)
                .Select(d => ((NodaTime.IsoDayOfWeek)d, 480, 990, (IReadOnlyList<(int, int)>)[(720, 750)]))
        )
    );

    private static long At(int day, int hour, int minute = 0) => Calendar.Minute(new(2026, 3, day, hour, minute));

    private static PlanPerson Person(string id, params string[] trades) =>
        new(id, id, trades.ToHashSet(), Blocked.None);

    private static PlanOperation On(
        string id,
        string station,
        long minutes,
        string trade = "metal",
        params PlanLink[] after
    ) =>
        new()
        {
            Id = id,
            Name = id,
            Minutes = minutes,
            Trade = trade,
            Station = station,
            Body = BodyUse.OnBody,
            After = after,
        };

    private static PlanStation Place(string name, string kind) => new(kind, 1) { Id = name, Name = name };

    private static PlanProblem Shop(PlanStation[] stations, PlanPerson[] people, params PlanBuild[] builds) =>
        new(At(5, 8), Calendar, people, stations, builds);

    private static ShopPlan Plan(PlanProblem problem)
    {
        var plan = new Planner().Plan(problem);
        ShopPlanCheck.Faults(problem, plan).ShouldBeEmpty();
        return plan;
    }

    private static string Says(PlanProblem problem, ShopPlan plan, string id) =>
        string.Join(" + ", plan.Why(id).Roots.Select(r => r.Dated(problem.Calendar)));

    [Fact]
    public void What_somebody_is_at_on_a_build_that_fills_in_goes_on_before_a_vehicle_is_moved_by_them()
    {
        // Ada is at the fill-in in the yard for an hour; 46 has to be rolled into the bay, and only she is there to do
        // it.
        var problem = Shop(
            [Place("Bay", "bay"), new("yard", 2) { Id = "Yard", Name = "Yard" }],
            [Person("Ada", "metal")],
            new PlanBuild("45", "45", [On("doors", "yard", 60) with { UnderWay = true, Begun = true, GoesOn = "Ada" }])
            {
                StandsAt = "Yard",
                FillIn = true,
            },
            new PlanBuild("46", "46", [On("weld", "bay", 60)]) { StandsAt = "Yard" }
        );
        var plan = Plan(problem);
        plan.Operations["doors"].Start.ShouldBe(At(5, 8));
        plan.Operations["weld"].Start.ShouldBe(At(5, 9, 15));
    }

    [Fact]
    public void One_vehicle_is_worked_on_in_one_place_and_what_is_off_it_on_the_bench_meanwhile()
    {
        // The engine goes in on the lift until 12:00; the carpet is laid in the bay after the move; the seat is
        // stitched beside it.
        var problem = Shop(
            [Place("Bay", "bay"), Place("Lift", "lift"), new("bench", 1)],
            [Person("Ada", "metal"), Person("Odile", "trim"), Person("Cy", "trim")],
            new PlanBuild(
                "44",
                "44",
                [
                    On("engine", "lift", 240),
                    On("carpet", "bay", 60, "trim"),
                    On("seat", "bench", 60, "trim") with
                    {
                        Body = BodyUse.Beside,
                    },
                ]
            )
            {
                StandsAt = "Lift",
            }
        );
        var plan = Plan(problem);
        plan.Operations["engine"].Start.ShouldBe(At(5, 8));
        plan.Operations["seat"].Start.ShouldBe(At(5, 8));
        // From twelve to half past is the break: it is moved then at half past twelve.
        plan.Operations["carpet"].Start.ShouldBe(At(5, 12, 45));
        Says(problem, plan, "carpet").ShouldBe("the vehicle is in Lift for engine until Thu 5 Mar 12:00");
        plan.Stays.Select(s => (s.Place, s.From, s.To, s.For))
            .ShouldBe([("Lift", At(5, 8), At(5, 12, 30), null), ("Bay", At(5, 12, 30), At(5, 13, 45), "carpet")]);
    }

    [Fact]
    public void A_vehicle_that_is_worked_on_elsewhere_is_no_root_what_keeps_that_work_is()
    {
        // The engine is on the lift from Monday, when its mounts come; the carpet would go in before, but was put
        // behind it.
        var problem = Shop(
            [Place("Bay", "bay"), Place("Lift", "lift")],
            [Person("Ada", "metal"), Person("Odile", "trim")],
            new PlanBuild(
                "44",
                "44",
                [
                    On("engine", "lift", 240) with
                    {
                        Waits = [new(WaitKind.Part, At(9, 8), "mounts")],
                    },
                    On("carpet", "bay", 60, "trim"),
                ]
            )
            {
                StandsAt = "Lift",
            }
        ) with
        {
            Turns = new Dictionary<string, double> { ["engine"] = 0, ["carpet"] = 1 },
        };
        var plan = Plan(problem);
        plan.Operations["carpet"].Start.ShouldBeGreaterThan(At(9, 8));
        Says(problem, plan, "carpet").ShouldBe("mounts, here Mon 9 Mar");
        plan.Why("carpet")
            .Steps.Select(s => (s.Operation, s.Reason.Dated(problem.Calendar)))
            .ShouldBe([
                ("carpet", "the vehicle is in Lift for engine until Mon 9 Mar 12:00"),
                ("engine", "mounts, here Mon 9 Mar"),
            ]);
    }

    [Fact]
    public void A_vehicle_that_stands_in_the_way_is_named_with_the_day_on_which_it_leaves()
    {
        // 43 is in the only bay until Tuesday 10:00, worked on from Monday on only: its part comes then.
        var problem = Shop(
            [Place("Bay 2", "bay"), Place("Prep", "prep")],
            [Person("Ada", "metal"), Person("Bo", "metal")],
            new PlanBuild(
                "43",
                "43",
                [On("floor", "bay", 600) with { Waits = [new(WaitKind.Part, At(9, 8), "floor pan")] }]
            )
            {
                StandsAt = "Bay 2",
                Due = At(6, 8),
            },
            new PlanBuild("44", "44", [On("wing", "bay", 60)]) { StandsAt = "Prep", Due = At(30, 8) }
        );
        var plan = Plan(problem);
        plan.Operations["floor"].Start.ShouldBe(At(9, 8));
        plan.Operations["floor"].Finish.ShouldBe(At(10, 10));
        plan.Operations["wing"].Start.ShouldBe(At(10, 10, 15));
        Says(problem, plan, "wing").ShouldBe("Bay 2 holds 43 until Tue 10 Mar 10:00");

        // With a yard it makes room while it waits: that is a move in the plan, and another one back.
        var yard = problem with { Stations = [.. problem.Stations, Place("Yard", "Yard")] };
        plan = Plan(yard);
        plan.Operations["wing"].Start.ShouldBeLessThan(At(6, 8));
        plan.Stays.Where(s => s.Build == "43").Select(s => s.Place).ShouldBe(["Bay 2", "Yard", "Bay 2"]);
        plan.Stays.Count(s => s.Build == "43" && s.Move is not null && s.MovedBy.Count == 1).ShouldBe(2);
        plan.Operations["floor"].Start.ShouldBe(At(9, 8));
    }

    [Fact]
    public void A_vehicle_on_each_place_and_one_too_many_waits_for_the_first_that_leaves()
    {
        var problem = Shop(
            [Place("Bay 1", "bay"), Place("Bay 2", "bay")],
            [Person("Ada", "metal"), Person("Bo", "metal"), Person("Cy", "metal")],
            new PlanBuild("41", "41", [On("a", "bay", 480)]) { StandsAt = "Bay 1" },
            new PlanBuild("42", "42", [On("b", "bay", 240)]) { StandsAt = "Bay 2" },
            new PlanBuild("43", "43", [On("c", "bay", 60)])
        );
        var plan = Plan(problem);
        plan.Operations["c"].Start.ShouldBe(At(5, 12, 30));
        plan.Operations["c"].Place.ShouldBe("Bay 2");
        Says(problem, plan, "c").ShouldBe("Bay 2 holds 42 until Thu 5 Mar 12:00");

        // One on which nobody works stands where it stands for good.
        plan = Plan(
            problem with
            {
                Builds =
                [
                    new("41", "41", []) { StandsAt = "Bay 1" },
                    new("42", "42", []) { StandsAt = "Bay 2" },
                    problem.Builds[2],
                ],
            }
        );
        plan.Unplanned.ShouldHaveSingleItem()
            .Reason.ShouldBe(new(WaitKind.Station, "Bay 1 holds 41, and nothing that has a date moves it"));
    }

    [Fact]
    public void Two_that_want_each_others_place_change_over()
    {
        var problem = Shop(
            [Place("Bay", "bay"), Place("Booth", "booth")],
            [Person("Ada", "metal"), Person("Teo", "paint")],
            new PlanBuild("41", "41", [On("coat", "booth", 120, "paint")]) { StandsAt = "Bay" },
            new PlanBuild("42", "42", [On("weld", "bay", 120)]) { StandsAt = "Booth" }
        );
        var plan = Plan(problem);
        plan.Operations["coat"].Finish.ShouldBeLessThanOrEqualTo(At(5, 11));
        plan.Operations["weld"].Finish.ShouldBeLessThanOrEqualTo(At(5, 13, 30));
    }

    /// <summary>39 is put in between two others on the only lift, and what it needs the lift for once more takes
    /// longer than that: it comes back after the other.</summary>
    [Fact]
    public void A_vehicle_comes_back_to_the_place_that_another_has_meanwhile()
    {
        using var file = File.OpenRead(
            Path.Combine(AppContext.BaseDirectory, "Plan", "two-want-the-lift-in-turn.json")
        );
        var plan = Plan(ShopFileReader.Read(file));
        plan.Unplanned.ShouldBeEmpty();
        plan.Operations["39 First start"].Place.ShouldBe("Lift");
    }

    [Fact]
    public void Work_beside_its_own_vehicle_has_that_moved_out_of_the_place_it_needs()
    {
        // The vehicle waits for a part until the 20th, in the booth; its wheels are painted there.
        var part = new PlanWait(WaitKind.Part, At(20, 8), "trim comes");
        var problem = Shop(
            [Place("Booth", "booth"), Place("Bay", "bay"), new("Yard", 2) { Id = "Yard", Name = "Yard" }],
            [Person("Ada", "paint"), Person("Ben", "metal")],
            new PlanBuild(
                "46",
                "46",
                [
                    On("coat", "booth", 120, "paint"),
                    On("wheels", "booth", 60, "paint", new PlanLink("coat", 0)) with
                    {
                        Body = BodyUse.Beside,
                    },
                    On("trim", "bay", 60, "metal", new PlanLink("coat", 0)) with
                    {
                        Waits = [part],
                    },
                ]
            )
            {
                StandsAt = "Booth",
            }
        );
        var plan = Plan(problem);
        plan.Unplanned.ShouldBeEmpty();
        plan.Operations["wheels"].Start.ShouldBeLessThan(At(6, 8));
    }

    [Fact]
    public void A_vehicle_that_keeps_its_place_for_a_coat_stays_there_however_late_that_is()
    {
        // The base coat is on; the clear coat waits three weeks. The yard has room, and the booth is kept all the same.
        var problem = Shop(
            [Place("Booth", "booth"), new("Yard", 2) { Id = "Yard", Name = "Yard" }],
            [Person("Ada", "paint")],
            new PlanBuild(
                "46",
                "46",
                [
                    On("held", "booth", 0, "paint") with
                    {
                        Trade = null,
                        Hold = new("booth", "clear"),
                        UnderWay = true,
                    },
                    On("base", "booth", 60, "paint") with
                    {
                        UnderWay = true,
                        Begun = true,
                        GoesOn = "Ada",
                    },
                    On("clear", "booth", 120, "paint", new PlanLink("base", 0)) with
                    {
                        Waits = [new(WaitKind.NotBefore, At(26, 8), "the client chooses")],
                    },
                ]
            )
            {
                StandsAt = "Booth",
                Support = new("the cart", true),
            }
        );
        var plan = Plan(problem);
        plan.Unplanned.ShouldBeEmpty();
        plan.Operations["clear"].Start.ShouldBe(At(26, 8));
        plan.Stays.Select(s => s.Place).ShouldBe(["Booth"]);
    }

    [Fact]
    public void A_move_takes_a_quarter_of_an_hour_of_one_person_and_of_two_where_the_shell_does_not_roll()
    {
        PlanProblem To(bool rolls) =>
            Shop(
                [Place("Bay", "bay"), Place("Prep", "prep")],
                [Person("Ada", "metal"), Person("Bo", "paint")],
                new PlanBuild("41", "41", [On("a", "prep", 60)])
                {
                    StandsAt = "Bay",
                    Support = new("its stands", rolls),
                }
            );
        var plan = Plan(To(rolls: true));
        (plan.Operations["a"].Start, plan.Stays[1].MovedBy.Count, plan.Stays[1].Move).ShouldBe(
            (At(5, 8, 15), 1, new Span(At(5, 8), At(5, 8, 15)))
        );
        Plan(To(rolls: false)).Stays[1].MovedBy.ShouldBe(["Ada", "Bo"], ignoreOrder: true);
        Plan(To(rolls: true) with { Moves = new(30, 2) }).Operations["a"].Start.ShouldBe(At(5, 8, 30));
        // Through a door it does not get at all.
        var door = To(rolls: false) with
        {
            Stations = [Place("Bay", "bay"), Place("Prep", "prep") with { Door = new(2500, 40) }],
        };
        Plan(door)
            .Unplanned.ShouldHaveSingleItem()
            .Reason.Text.ShouldBe("the shell does not roll on its stands, and prep is behind a door");
    }

    [Fact]
    public void Begun_work_keeps_its_place_and_goes_on_with_who_began_it_unless_another_is_done_more_than_a_day_sooner()
    {
        // The booth's coat is urgent, but the filler in the prep bay was begun: it is done before the vehicle is moved.
        PlanProblem Begun(PlanPerson wil) =>
            Shop(
                [Place("Prep", "prep"), Place("Booth", "booth")],
                [wil, Person("Nessa", "body"), Person("Teo", "paint")],
                new PlanBuild(
                    "41",
                    "41",
                    [
                        On("coat", "booth", 60, "paint") with
                        {
                            Deadline = At(5, 10),
                        },
                        On("filler", "prep", 240, "body") with
                        {
                            Begun = true,
                            GoesOn = "Wil",
                        },
                    ]
                )
                {
                    StandsAt = "Prep",
                }
            );
        var problem = Begun(Person("Wil", "body"));
        var plan = Plan(problem);
        (plan.Operations["filler"].Start, plan.Operations["filler"].Person).ShouldBe((At(5, 8), "Wil"));
        plan.Operations["coat"].Start.ShouldBe(At(5, 12, 45));
        Says(problem, plan, "coat").ShouldBe("filler was begun in Prep, and is done before the vehicle is moved");
        // Two hours later he is still the one; seven weeks later Nessa is.
        Plan(Begun(Person("Wil", "body") with { Absent = new([new(At(5, 0), At(5, 10))]) }))
            .Operations["filler"]
            .Person.ShouldBe("Wil");
        Plan(Begun(Person("Wil", "body") with { Absent = new([new(At(5, 0), At(5, 10) + 49 * 1440)]) }))
            .Operations["filler"]
            .Person.ShouldBe("Nessa");
    }

    [Fact]
    public void A_fill_in_keeps_the_booth_to_the_end_of_its_coat_and_shares_no_bay()
    {
        // Teo has half a day for the fill-in's coat on Thursday and the rest on Monday; nobody else's coat comes
        // between.
        var teo = Person("Teo", "paint") with { Absent = new([new(At(5, 12, 30), At(9, 8))]) };
        var problem = Shop(
            [Place("Booth", "booth"), Place("Bay", "bay")],
            [teo, Person("Wil", "paint")],
            new PlanBuild("45", "45", [On("high-build", "booth", 360, "paint") with { Person = "Teo" }])
            {
                StandsAt = "Booth",
                FillIn = true,
            },
            new PlanBuild(
                "41",
                "41",
                [
                    On("spray", "booth", 120, "paint") with
                    {
                        Person = "Wil",
                        Waits = [new(WaitKind.Part, At(6, 8), "colour")],
                    },
                ]
            )
            {
                StandsAt = "Bay",
            }
        );
        var plan = Plan(problem);
        var (coat, spray) = (plan.Operations["high-build"], plan.Operations["spray"]);
        (spray.Start >= coat.Finish || spray.Finish <= coat.Start).ShouldBeTrue();
    }
}

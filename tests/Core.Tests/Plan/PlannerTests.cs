using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>The planner against numbers counted by hand: Monday to Friday, 08:00 to 16:30 with a break at noon, eight
/// hours a day.</summary>
public sealed class PlannerTests
{
    private static readonly WorkCalendar Calendar = new(
        WorkWeek.Of(
            Enumerable.Range(1, 5).Select(d => ((IsoDayOfWeek)d, 480, 990, (IReadOnlyList<(int, int)>)[(720, 750)]))
        )
    );

    // A Thursday.
    private static readonly long Now = At(5, 8);

    private static long At(int day, int hour, int minute = 0) => Calendar.Minute(new(2026, 3, day, hour, minute));

    private static PlanPerson Person(string id, params string[] trades) =>
        new(id, id, trades.ToHashSet(), Blocked.None);

    private static PlanOperation Op(string id, long minutes, string? trade = "metal", params PlanLink[] after) =>
        new()
        {
            Id = id,
            Name = id,
            Minutes = minutes,
            Trade = trade,
            After = after,
        };

    private static PlanProblem Shop(PlanBuild[] builds, PlanPerson[]? people = null, params PlanStation[] stations) =>
        new(Now, Calendar, people ?? [Person("Ada", "metal"), Person("Bo", "paint")], stations, builds);

    private static PlanBuild Build(string id, params PlanOperation[] operations) => new(id, id, operations);

    private static ShopPlan Plan(PlanProblem problem) => new Planner().Plan(problem);

    private static void Runs(ShopPlan plan, string id, long start, long finish)
    {
        Calendar.Local(plan.Operations[id].Start).ShouldBe(Calendar.Local(start), id);
        Calendar.Local(plan.Operations[id].Finish).ShouldBe(Calendar.Local(finish), id);
    }

    [Fact]
    public void Shifts_breaks_and_a_cure_over_the_weekend()
    {
        var plan = Plan(
            Shop([
                Build(
                    "b",
                    Op("cut", 300),
                    Op("weld", 420, "metal", new PlanLink("cut", 0)),
                    Op("prime", 120, "paint", new PlanLink("weld", 0)) with
                    {
                        WithoutStop = true,
                    },
                    Op("block", 480, "paint", new PlanLink("prime", 1440))
                ),
            ])
        );
        Runs(plan, "cut", At(5, 8), At(5, 13, 30));
        Runs(plan, "weld", At(5, 13, 30), At(6, 12));
        Runs(plan, "prime", At(6, 12, 30), At(6, 14, 30));
        Runs(plan, "block", At(9, 8), At(9, 16, 30));
        plan.Operations["weld"].Worked.ShouldBe([new(At(5, 13, 30), At(5, 16, 30)), new(At(6, 8), At(6, 12))]);
        (plan.Operations["block"].Reason with { Until = null }).ShouldBe(
            new(WaitKind.Cure, "prime cures 24 h first", "prime")
        );
    }

    [Fact]
    public void A_lag_in_working_time_does_not_count_nights()
    {
        // Ends Thursday 10:00; 420 worked minutes later: 360 left on Thursday, 60 on Friday.
        var plan = Plan(
            Shop([Build("b", Op("a", 120), Op("c", 60, "metal", new PlanLink("a", 420) { Working = true }))])
        );
        Runs(plan, "c", At(6, 9), At(6, 10));
    }

    [Fact]
    public void Start_to_start_runs_beside_it()
    {
        var plan = Plan(
            Shop([Build("b", Op("a", 240), Op("c", 60, "paint", new PlanLink("a", 60) { FromStart = true }))])
        );
        Runs(plan, "c", At(5, 9), At(5, 10));
    }

    [Fact]
    public void A_booth_is_held_from_masking_to_the_end_of_the_bake_and_the_other_build_waits()
    {
        PlanOperation[] Coat(string b) =>
            [
                Op($"{b}.mask", 60, "paint") with
                {
                    Hold = new("booth", $"{b}.bake"),
                },
                Op($"{b}.spray", 120, "paint", new PlanLink($"{b}.mask", 0)) with
                {
                    WithoutStop = true,
                },
                Op($"{b}.bake", 240, null, new PlanLink($"{b}.spray", 30)),
            ];
        var plan = Plan(
            Shop(
                [Build("one", Coat("one")), Build("two", Coat("two"))],
                [Person("Bo", "paint"), Person("Cy", "paint")],
                new PlanStation("booth", 1)
            )
        );
        Runs(plan, "one.bake", At(5, 11, 30), At(5, 15, 30));
        Runs(plan, "two.mask", At(5, 15, 30), At(5, 16, 30));
        (plan.Operations["two.mask"].Reason with { Until = null }).ShouldBe(
            new(WaitKind.Station, "booth is in use on one", "one.mask")
        );
    }

    [Fact]
    public void A_window_is_kept_by_starting_later()
    {
        // The painter is busy until Thursday 14:00; three hours without a stop do not fit before 16:30, and on Friday
        // morning only what was blasted on Friday is within reach: 08:00-10:00, and then the first three hours without
        // the break.
        var plan = Plan(
            Shop([
                Build("first", Op("busy", 330, "paint")) with
                {
                    Due = Now,
                },
                Build(
                    "b",
                    Op("blast", 120),
                    Op(
                        "prime",
                        180,
                        "paint",
                        new PlanLink("blast", 0) { AtMost = 240, Lapse = new("clean again", 60, "metal") }
                    ) with
                    {
                        WithoutStop = true,
                    }
                ) with
                {
                    Due = At(20, 8),
                },
            ])
        );
        Runs(plan, "busy", At(5, 8), At(5, 14));
        Runs(plan, "blast", At(6, 8), At(6, 10));
        Runs(plan, "prime", At(6, 12, 30), At(6, 15, 30));
        (plan.Operations["blast"].Reason with { Until = null }).ShouldBe(
            new(WaitKind.Person, "Bo is on first", "busy")
        );
        plan.Operations["prime"].StartBy.ShouldBe(At(6, 14));
        plan.Inserted.ShouldBeEmpty();
    }

    [Fact]
    public void A_window_that_nobody_can_keep_brings_the_work_that_it_asks_for()
    {
        // Two days of repair lie between blasting and priming, which must follow within four hours.
        var plan = Plan(
            Shop([
                Build(
                    "b",
                    Op("blast", 120),
                    Op("repair", 960, "metal", new PlanLink("blast", 0)),
                    Op(
                        "prime",
                        120,
                        "paint",
                        new PlanLink("blast", 0) { AtMost = 240, Lapse = new("blast again, lightly", 60, "metal") },
                        new PlanLink("repair", 0)
                    )
                ),
            ])
        );
        var again = plan.Inserted.ShouldHaveSingleItem();
        again.ShouldBe(new("prime again", "b", "blast again, lightly", "blast", "prime", "its window cannot be kept"));
        // Blast Thursday 08:00-10:00, repair until Monday 10:00, an hour of blasting, then the primer.
        Runs(plan, "prime again", At(9, 10), At(9, 11));
        (plan.Operations["prime"].Reason with { Until = null }).ShouldBe(
            new(WaitKind.Operation, "comes after blast again, lightly", "prime again")
        );
        plan.Chain("prime").Select(c => c.Operation).ShouldBe(["prime", "prime again", "repair", "blast"]);
    }

    [Fact]
    public void A_window_that_ran_out_in_the_meantime_brings_it_too()
    {
        var plan = Plan(
            Shop([
                Build(
                    "b",
                    Op(
                        "colour",
                        120,
                        "paint",
                        new PlanLink("sealer", 0)
                        {
                            DoneAt = Now - 600,
                            AtMost = 480,
                            Lapse = new("scuff", 90, "paint"),
                        }
                    )
                ),
            ])
        );
        plan.Inserted.ShouldHaveSingleItem().Why.ShouldBe("its window is over");
        Runs(plan, "colour", At(5, 9, 30), At(5, 11, 30));
    }

    /// <summary>Priming that must follow within four hours of a blasting that ended an hour ago.</summary>
    private static PlanOperation Primed() =>
        Op(
            "prime",
            120,
            "paint",
            new PlanLink("blast", 0)
            {
                DoneAt = Now - 60,
                AtMost = 240,
                Lapse = new("clean again", 60, "metal"),
            }
        );

    [Fact]
    public void Bare_metal_goes_before_what_is_more_urgent_otherwise()
    {
        var busy = Build("first", Op("busy", 330, "paint")) with { Due = Now };
        var plan = Plan(Shop([busy, Build("b", Primed()) with { Due = At(20, 8) }]));
        Runs(plan, "prime", At(5, 8), At(5, 10));
        Runs(plan, "busy", At(5, 10), At(5, 16));
        plan.Inserted.ShouldBeEmpty();
        plan.Operations["prime"].StartBy.ShouldBe(At(5, 11));
        plan.Operations["busy"].StartBy.ShouldBeNull();
        // With time enough it waits for what is more urgent.
        var later = Primed() with { After = [Primed().After[0] with { AtMost = 5 * 1440 }] };
        Runs(Plan(Shop([busy, Build("b", later) with { Due = At(20, 8) }])), "prime", At(5, 14), At(5, 16));
        // Turns that were accepted stand where they keep the window, and no further.
        double First(string id, long minutes) =>
            Plan(
                Shop([busy with { Operations = [Op("busy", minutes, "paint")] }, Build("b", Primed())]) with
                {
                    Turns = new Dictionary<string, double> { ["busy"] = 1, ["prime"] = 2 },
                }
            )
                .Operations[id]
                .Start;
        First("busy", 150).ShouldBe(Now);
        First("busy", 210).ShouldBe(At(5, 10));
    }

    [Fact]
    public void A_window_since_finished_work_that_nobody_can_keep_lapses_and_what_it_asks_for_waits_for_them()
    {
        var people = new[]
        {
            Person("Ada", "metal"),
            Person("Bo", "paint") with
            {
                Absent = new([new(Now - 60, At(9, 8))]),
            },
        };
        var plan = Plan(Shop([Build("b", Primed())], people));
        plan.Inserted.ShouldHaveSingleItem().Why.ShouldBe("its window cannot be kept");
        // Cleaned on Friday it would be bare over the weekend: four hours at most lie between.
        Runs(plan, "prime again", At(9, 8), At(9, 9));
        Runs(plan, "prime", At(9, 9), At(9, 11));
    }

    [Fact]
    public void What_was_to_be_done_again_is_not_done_weeks_before_the_part_comes()
    {
        var plan = Plan(Shop([Build("b", Primed() with { Waits = [new(WaitKind.Part, At(12, 8), "primer")] })]));
        // The evening before is more than four hours away.
        Runs(plan, "prime again", At(12, 8), At(12, 9));
        Runs(plan, "prime", At(12, 9), At(12, 11));
        // Nobody has the trade that was thought of: who primes cleans.
        plan = Plan(
            Shop([
                Build(
                    "b",
                    Primed() with
                    {
                        After =
                        [
                            Primed().After[0] with
                            {
                                DoneAt = Now - 600,
                                Lapse = new("clean again", 60, "strip"),
                            },
                        ],
                    }
                ),
            ])
        );
        plan.Operations["prime again"].Person.ShouldBe("Bo");
        Runs(plan, "prime", At(5, 9), At(5, 11));
    }

    [Fact]
    public void A_deadline_puts_what_leads_to_it_first_and_no_better_order_gives_it_away()
    {
        // The urgent build would have Ada all day; the carrier leaves on Friday at noon with what she cuts and welds
        // first.
        var urgent = Build("urgent", Op("busy", 480)) with { Due = At(5, 17), Weight = 5 };
        var problem = Shop([
            urgent,
            Build(
                "b",
                Op("cut", 120),
                Op("weld", 60, "metal", new PlanLink("cut", 0)) with
                {
                    Deadline = At(5, 12),
                }
            ) with
            {
                Due = At(30, 8),
            },
        ]);
        var plan = Plan(problem);
        Runs(plan, "weld", At(5, 10), At(5, 11));
        plan.Operations["weld"].MissesDeadline.ShouldBeFalse();
        var better = PlanImprovement.Search(problem, 0.2).Plan;
        better.Operations["weld"].MissesDeadline.ShouldBeFalse();
        // Without it the urgent build goes first, in the plan and in the better order.
        var free = problem with
        {
            Builds =
            [
                urgent,
                problem.Builds[1] with
                {
                    Operations = [.. problem.Builds[1].Operations.Select(o => o with { Deadline = null })],
                },
            ],
        };
        Runs(Plan(free), "busy", At(5, 8), At(5, 16, 30));
        // Nor does one that cannot be kept put anything first.
        plan = Plan(
            problem with
            {
                Builds =
                [
                    urgent,
                    problem.Builds[1] with
                    {
                        Operations =
                        [
                            .. problem
                                .Builds[1]
                                .Operations.Select(o => o.Id == "weld" ? o with { Deadline = At(5, 9) } : o),
                        ],
                    },
                ],
            }
        );
        Runs(plan, "busy", At(5, 8), At(5, 16, 30));
        plan.Operations["weld"].MissesDeadline.ShouldBeTrue();
    }

    [Fact]
    public void Blasting_closes_what_lies_beside_it_and_no_more_than_there_is()
    {
        // Two prep places, one closed while blasting goes on: only one of the two that prime has room until noon.
        PlanProblem Blasting(int closes, params PlanStation[] stations) =>
            Shop(
                [
                    Build(
                        "blasted",
                        Op("blast", 240) with
                        {
                            Kinds = new HashSet<string> { "dust" },
                            Station = "blast",
                        }
                    ) with
                    {
                        Due = Now,
                    },
                    Build("one", Op("one.etch", 120, "paint") with { Station = "prep" }),
                    Build("two", Op("two.etch", 120, "paint") with { Station = "prep" }),
                ],
                [Person("Ada", "metal"), Person("Bo", "paint"), Person("Cy", "paint")],
                [new("blast", 1), .. stations]
            ) with
            {
                Crowds = [new("dust", "prep", closes), new("dust", "yard", 1)],
            };
        var plan = Plan(Blasting(1, new PlanStation("prep", 2)));
        Runs(plan, "one.etch", At(5, 8), At(5, 10));
        Runs(plan, "two.etch", At(5, 10), At(5, 12));
        plan = Plan(Blasting(5, new PlanStation("prep", 2)));
        Runs(plan, "one.etch", At(5, 12, 30), At(5, 14, 30));
        Runs(plan, "two.etch", At(5, 12, 30), At(5, 14, 30));
        (plan.Operations["one.etch"].Reason with { Until = null }).ShouldBe(
            new(WaitKind.Station, "prep is in use on blasted", "blast")
        );
        // A build's own hold of the place is not in its own way.
        var held = Blasting(1, new PlanStation("prep", 1));
        plan = Plan(
            held with
            {
                Builds =
                [
                    Build(
                        "blasted",
                        Op("cover", 60) with
                        {
                            Hold = new("prep", "uncover"),
                        },
                        Op("blast", 60, "metal", new PlanLink("cover", 0)) with
                        {
                            Kinds = new HashSet<string> { "dust" },
                        },
                        Op("uncover", 60, "metal", new PlanLink("blast", 0))
                    ),
                ],
            }
        );
        Runs(plan, "uncover", At(5, 10), At(5, 11));
    }

    [Fact]
    public void Suppliers_count_their_own_working_days_one_after_the_other()
    {
        // Three days from Thursday at a Monday to Friday plater: Thursday, Friday, Monday. Then two days at one who
        // works Tuesday and Wednesday only.
        var midweek = new WorkCalendar(
            WorkWeek.Of([(IsoDayOfWeek.Tuesday, 480, 990, []), (IsoDayOfWeek.Wednesday, 480, 990, [])])
        );
        var problem = Shop([
            Build(
                "b",
                Op("strip", 3 * 1440, null) with
                {
                    Supplier = "s1",
                },
                Op("plate", 2 * 1440, null, new PlanLink("strip", 0)) with
                {
                    Supplier = "s2",
                },
                Op("fit", 60, "metal", new PlanLink("plate", 0))
            ),
        ]) with
        {
            Now = At(5, 0),
            Suppliers = [new("s1", "Stripper", Calendar), new("s2", "Plater", midweek)],
        };
        var plan = Plan(problem);
        Runs(plan, "strip", At(5, 0), At(10, 0));
        Runs(plan, "plate", At(10, 0), At(12, 0));
        Runs(plan, "fit", At(12, 8), At(12, 9));
        plan.Chain("fit").Select(c => c.Operation).ShouldBe(["fit", "plate", "strip"]);
    }

    [Fact]
    public void The_reference_side_waits_for_the_sign_off_unless_a_jig_holds_the_shell()
    {
        PlanBuild Sides(PlanHold? hold) =>
            Build(
                "b",
                Op("left", 240),
                Op("sign", 0, null, new PlanLink("left", 0)),
                Op("right", 240, "trim") with
                {
                    Hold = hold,
                }
            ) with
            {
                SideLocks = [new("sign", ["right"])],
            };
        PlanPerson[] people = [Person("Ada", "metal"), Person("Cy", "trim")];
        Runs(Plan(Shop([Sides(null)], people)), "right", At(5, 12, 30), At(5, 16, 30));
        Runs(Plan(Shop([Sides(new("Jig", "right"))], people, new PlanStation("Jig", 1))), "right", At(5, 8), At(5, 12));
    }

    [Fact]
    public void Fill_in_work_uses_only_what_is_left_in_half_hours_and_more()
    {
        // Ada is taken 08:00-10:00, and from 10:30 on; the fill-in gets the half hour and the rest on Friday.
        var plan = Plan(
            Shop([
                Build("fill", Op("bits", 90)) with
                {
                    FillIn = true,
                    Due = Now,
                },
                Build(
                    "b",
                    Op("a", 120),
                    Op("set", 30, null, new PlanLink("a", 0)),
                    Op("c", 330, "metal", new PlanLink("set", 0))
                ) with
                {
                    Due = At(30, 8),
                },
            ])
        );
        Runs(plan, "c", At(5, 10, 30), At(5, 16, 30));
        plan.Operations["bits"].Worked.ShouldBe([new(At(5, 10), At(5, 10, 30)), new(At(6, 8), At(6, 9))]);
    }

    [Fact]
    public void Fill_in_work_leaves_a_quarter_of_an_hour_before_the_break_alone()
    {
        var plan = Plan(
            Shop([
                Build("fill", Op("pre", 225), Op("bits", 60, "metal", new PlanLink("pre", 0))) with
                {
                    FillIn = true,
                },
            ])
        );
        Runs(plan, "pre", At(5, 8), At(5, 11, 45));
        Runs(plan, "bits", At(5, 12, 30), At(5, 13, 30));
        (plan.Operations["bits"].Reason with { Until = null }).ShouldBe(
            new(WaitKind.Operation, "comes after pre", "pre")
        );
    }

    [Fact]
    public void A_crew_of_two_trades_works_when_both_are_there()
    {
        var away = Person("Bo", "hands") with { Absent = new([new(At(5, 8), At(5, 13))]) };
        var plan = Plan(
            Shop(
                [Build("b", Op("hang", 120, "metal") with { With = [new("hands", 1)] })],
                [Person("Ada", "metal"), away]
            )
        );
        Runs(plan, "hang", At(5, 13), At(5, 15));
        plan.Operations["hang"].People.ShouldBe(["Ada", "Bo"]);
        (plan.Operations["hang"].Reason with { Until = null }).ShouldBe(new(WaitKind.Absence, "Bo is away", "Bo"));
    }

    [Fact]
    public void The_chain_of_reasons_ends_at_its_root()
    {
        // Ada is there from Friday on, and then on one until Friday evening: that is what two waits for, whoever waits
        // for two.
        var plan = Plan(
            Shop(
                [
                    Build(
                        "one",
                        Op("one.a", 480) with
                        {
                            Waits = [new(WaitKind.Part, At(6, 8), "floor pan", "part-1")],
                        }
                    ) with
                    {
                        Due = Now,
                    },
                    Build(
                        "two",
                        Op("two.a", 60) with
                        {
                            Waits = [new(WaitKind.NotBefore, At(6, 9), "not before Friday nine")],
                        },
                        Op("two.b", 60, "paint", new PlanLink("two.a", 0))
                    ) with
                    {
                        Due = At(30, 8),
                    },
                ],
                [Person("Ada", "metal") with { Absent = new([new(Now, At(6, 8))]) }, Person("Bo", "paint")]
            )
        );
        plan.Chain("two.b")
            .Select(c => (c.Operation, c.Reason.Kind))
            .ShouldBe([("two.b", WaitKind.Operation), ("two.a", WaitKind.Person)]);
        plan.Why("two.b")
            .Roots.ShouldHaveSingleItem()
            .ShouldBe(new(WaitKind.Person, "Ada is on one", "one.a") { Until = At(6, 16, 30) });
        plan.Why("one.a").Roots.Select(r => r.Text).ShouldBe(["floor pan", "Ada is away"]);
        plan.Why("two.b").WithoutThem.ShouldBe(At(6, 10));
    }

    [Fact]
    public void Pace_own_hours_and_a_slot_kept_for_a_build()
    {
        var slow = Person("Ada", "metal") with { Pace = 1.5, Slots = [new(IsoDayOfWeek.Thursday, 480, 720, "two")] };
        var plan = Plan(
            Shop(
                [
                    Build("one", Op("one.a", 120)) with
                    {
                        Due = Now,
                    },
                    Build("two", Op("two.a", 60)) with
                    {
                        Due = At(30, 8),
                    },
                ],
                [slow]
            )
        );
        // Thursday morning is for "two": 60 minutes take 90. "one" begins after noon: 120 minutes take 180.
        Runs(plan, "one.a", At(5, 12, 30), At(5, 15, 30));
        Runs(plan, "two.a", At(5, 8), At(5, 9, 30));
    }

    [Fact]
    public void Work_put_before_other_work_takes_along_what_it_comes_after()
    {
        var problem = Shop([
            Build("one", Op("a", 240), Op("b", 240, "metal", new PlanLink("a", 0))) with
            {
                Rank = 0,
            },
            Build("two", Op("c", 240), Op("d", 240, "metal", new PlanLink("c", 0))) with
            {
                Rank = 1,
            },
        ]);
        string[] Order(PlanProblem p) => [.. Plan(p).Operations.Values.OrderBy(o => o.Start).Select(o => o.Id)];
        string[] Before(string id, string other) => Order(problem with { Turns = TurnBefore.Of(problem, id, other) });
        Order(problem).ShouldBe(["a", "b", "c", "d"]);
        Before("d", "a").ShouldBe(["c", "d", "a", "b"]);
        Before("d", "b").ShouldBe(["a", "c", "d", "b"]);
        Before("c", "b").ShouldBe(["a", "c", "b", "d"]);
        // What goes first already stays.
        Before("a", "d").ShouldBe(["a", "b", "c", "d"]);
        Should.Throw<Refusal>(() => Before("b", "a")).Message.ShouldStartWith("a comes before this on the vehicle");
        Should.Throw<Refusal>(() => Before("b", "nothing")).Field.ShouldBe("other");
    }

    [Fact]
    public void The_order_of_some_builds_is_taken_and_the_others_keep_theirs()
    {
        // One pair of hands, a day each: as it stands one, two, three; what was found goes the other way round.
        var problem = Shop([
            Build("one", Op("a", 480)) with
            {
                Rank = 0,
            },
            Build("two", Op("b", 480)) with
            {
                Rank = 1,
            },
            Build("three", Op("c", 480)) with
            {
                Rank = 2,
            },
        ]);
        string[] Order(ShopPlan plan) => [.. plan.Operations.Values.OrderBy(o => o.Start).Select(o => o.Id)];
        Order(Plan(problem)).ShouldBe(["a", "b", "c"]);
        var turns = new Dictionary<string, double>
        {
            ["c"] = 0,
            ["b"] = 1,
            ["a"] = 2,
        };
        var found = Plan(problem with { Turns = turns }) with { Turns = turns };
        Order(found).ShouldBe(["c", "b", "a"]);
        string[] For(params string[] builds) => Order(PlanImprovement.For(problem, found, builds.ToHashSet()));
        For("three").ShouldBe(["c", "a", "b"]);
        For("two", "three").ShouldBe(["c", "a", "b"]);
        For("one").ShouldBe(["b", "a", "c"]);
        For("one", "two", "three").ShouldBe(["c", "b", "a"]);
        For().ShouldBe(["a", "b", "c"]);
    }

    [Fact]
    public void Dust_does_not_fly_beside_a_wet_coat()
    {
        var problem = Shop([
            Build("one", Op("spray", 120, "paint") with { Kinds = new HashSet<string> { "wet" } }),
            Build("two", Op("grind", 60) with { Kinds = new HashSet<string> { "dust" } }),
        ]);
        Runs(Plan(problem), "grind", At(5, 8), At(5, 9));
        var plan = Plan(problem with { Air = [new("wet", "dust", "no dust beside a wet coat")] });
        Runs(plan, "grind", At(5, 10), At(5, 11));
        (plan.Operations["grind"].Reason with { Until = null }).ShouldBe(
            new(WaitKind.Air, "no dust beside a wet coat: spray on one", "spray")
        );
    }

    [Fact]
    public void Nothing_starts_that_the_deposit_does_not_cover()
    {
        var build = Build(
            "b",
            Op("a", 60) with
            {
                Cost = 400,
            },
            Op("c", 60, "metal", new PlanLink("a", 0)) with
            {
                Cost = 300,
            },
            Op("d", 60, "metal", new PlanLink("c", 0)) with
            {
                Cost = 900,
            }
        ) with
        {
            Covered = [new(Now, 500), new(At(16, 0), 1000)],
        };
        var plan = Plan(Shop([build]));
        Runs(plan, "a", At(5, 8), At(5, 9));
        Runs(plan, "c", At(16, 8), At(16, 9));
        plan.Operations["c"].Reason.Kind.ShouldBe(WaitKind.Deposit);
        plan.Unplanned.ShouldHaveSingleItem()
            .Reason.ShouldBe(new(WaitKind.Deposit, "not covered: 1000.00 may be spent in all"));
        plan.Builds["b"].Partly.ShouldBeTrue();
    }

    [Fact]
    public void What_only_this_support_allows_is_done_before_the_shell_moves_on()
    {
        var build = Build(
            "b",
            Op("under", 120) with
            {
                Needs = ["rotisserie"],
            },
            Op("move", 60, "paint") with
            {
                Sets = new("cart", true, 150),
            },
            Op("booth", 60, "paint") with
            {
                Station = "booth",
            },
            Op("late", 60) with
            {
                Needs = ["rotisserie"],
            }
        ) with
        {
            Support = new("rotisserie", false),
            HeightMm = 1400,
        };
        var plan = Plan(Shop([build], null, new PlanStation("booth", 1) { Door = new(2000, 50) }));
        Runs(plan, "move", At(5, 10), At(5, 11));
        Runs(plan, "booth", At(5, 11), At(5, 12));
        plan.Unplanned.ShouldHaveSingleItem()
            .Reason.ShouldBe(new(WaitKind.Support, "needs the shell on rotisserie, and by then it stands on cart"));

        var low = Plan(Shop([build], null, new PlanStation("booth", 1) { Door = new(1590, 50) }));
        low.Unplanned.First(u => u.Operation == "booth")
            .Reason.Text.ShouldBe(
                "the shell is 1400 mm, on cart 1550 mm: with 50 mm to spare it does not pass the door of booth, 1590 mm"
            );
    }

    [Fact]
    public void A_station_past_its_inspection_is_closed_and_named()
    {
        var lift = new PlanStation("lift", 1) { Closed = [new(At(5, 9), At(6, 9), 1, "inspection")] };
        Runs(Plan(Shop([Build("b", Op("a", 120) with { Station = "lift" })], null, lift)), "a", At(6, 9), At(6, 11));
        var never = Plan(
            Shop(
                [Build("b", Op("a", 120) with { Station = "lift" }, Op("c", 60))],
                null,
                lift with
                {
                    Closed = [new(Now, null, 1, "inspection ran out on 1 March")],
                }
            )
        );
        never
            .Unplanned.ShouldHaveSingleItem()
            .Reason.ShouldBe(new(WaitKind.Inspection, "inspection ran out on 1 March"));
        Runs(never, "c", At(5, 8), At(5, 9));
    }

    [Fact]
    public void Longer_work_of_others_is_split_round_a_kept_time_and_the_fill_in_uses_it()
    {
        // Ada's Thursday and Tuesday from eight to half past are kept for the fill-in; two and a half days of the other
        // build go round them.
        var ada = Person("Ada", "metal") with
        {
            Slots =
            [
                new(NodaTime.IsoDayOfWeek.Thursday, 480, 510, "fill"),
                new(NodaTime.IsoDayOfWeek.Tuesday, 480, 510, "fill"),
            ],
        };
        var problem = Shop(
            [
                Build("long", Op("weld", 1500)) with
                {
                    Due = At(20, 8),
                },
                Build("fill", Op("bits", 75)) with
                {
                    FillIn = true,
                },
            ],
            [ada]
        );
        var plan = Plan(problem);
        // 08:30-16:30 on Thursday are 450, Friday and Monday 480 each, and 90 are left for Tuesday from half past
        // eight.
        Runs(plan, "weld", At(5, 8, 30), At(10, 10));
        plan.Operations["weld"].Worked.Sum(w => w.End - w.Start).ShouldBe(1500);
        plan.Operations["bits"]
            .Worked.ShouldBe([
                new(At(5, 8), At(5, 8, 30)),
                new(At(10, 8), At(10, 8, 30)),
                new(At(10, 10), At(10, 10, 15)),
            ]);
        PlanCheck.ShopPlanCheck.Faults(problem, plan).ShouldBeEmpty();

        var kept = KeptTime.Ahead(problem, plan, 2);
        kept.Select(k => (k.From, k.Used, k.Why))
            .ShouldBe([
                (At(5, 8), 30, null),
                (At(10, 8), 30, null),
                (At(12, 8), 0, "nothing left on it for Ada"),
                (At(17, 8), 0, "nothing left on it for Ada"),
            ]);
        // What could be done in it waits for its part.
        problem = problem with
        {
            Builds =
            [
                problem.Builds[0],
                Build("fill", Op("bits", 75) with { Waits = [new(WaitKind.Part, At(9, 8), "clips")] }) with
                {
                    FillIn = true,
                },
            ],
        };
        KeptTime.Ahead(problem, Plan(problem), 1)[0].Why.ShouldBe("bits: clips, here Mon 9 Mar");
        // Two Thursdays and two Tuesdays ago: one of four was used, in one she was away.
        var before = ada with { Absent = new([new(At(5, 8) - 7 * 1440, At(5, 8) - 6 * 1440)]) };
        KeptTime
            .Missed(
                problem,
                before,
                before.Slots[0],
                2,
                new(2026, 1, 1),
                [new(At(5, 8) - 14 * 1440, At(5, 8) - 14 * 1440 + 40)]
            )
            .ShouldBe(0);
        KeptTime.Missed(problem, ada, ada.Slots[1], 2, new(2026, 1, 1), []).ShouldBe(2);
        KeptTime
            .Missed(problem, ada, ada.Slots[1], 2, new(2026, 2, 25), [])
            .ShouldBe(1, "the Tuesday before was not agreed yet");
    }

    [Fact]
    public void A_time_that_is_kept_counts_from_the_day_on_which_it_was_agreed()
    {
        KeptSlot Slot(int hour, NodaTime.LocalDate? since = null) =>
            new(NodaTime.IsoDayOfWeek.Tuesday, new(hour, 0), new(hour, 30), Guid.Empty) { Since = since };
        var (first, today) = (new NodaTime.LocalDate(2026, 1, 6), new NodaTime.LocalDate(2026, 3, 5));
        var before = new PersonTerms { Slots = [Slot(8, first)] };
        // Whoever sends them does not say since when.
        new PersonTerms { Slots = [Slot(8, today), Slot(9, first)] }
            .Agreed(before, today)
            .Slots.Select(s => s.Since)
            .ShouldBe([first, today]);
    }

    [Fact]
    public void What_leaves_together_waits_for_the_last()
    {
        var plan = Plan(
            Shop([
                Build(
                    "b",
                    Op("a", 120),
                    Op("p", 180, "paint"),
                    Op("out1", 1440, null, new PlanLink("a", 0)) with
                    {
                        Batch = "zinc",
                    },
                    Op("out2", 1440, null, new PlanLink("p", 0)) with
                    {
                        Batch = "zinc",
                    }
                ),
            ])
        );
        plan.Operations["out1"].Start.ShouldBe(At(5, 11));
        plan.Operations["out2"].Start.ShouldBe(At(5, 11));
        (plan.Operations["out1"].Reason with { Until = null }).ShouldBe(new(WaitKind.Operation, "comes after p", "p"));
    }

    [Fact]
    public void Clamps_run_out()
    {
        var problem = Shop([
            Build("one", Op("one.fit", 120) with { Uses = [new("clamps", 8)] }),
            Build("two", Op("two.fit", 60, "paint") with { Uses = [new("clamps", 6)] }),
        ]) with
        {
            Stock = [new("clamps", 12)],
        };
        var plan = Plan(problem);
        Runs(plan, "two.fit", At(5, 10), At(5, 11));
        (plan.Operations["two.fit"].Reason with { Until = null }).ShouldBe(
            new(WaitKind.Stock, "clamps is in use on one", "one.fit")
        );
    }

    [Fact]
    public void What_is_at_fault_is_named_and_the_rest_stands()
    {
        var plan = Plan(
            Shop([
                Build(
                    "b",
                    Op("x", 60, "metal", new PlanLink("z", 0)),
                    Op("y", 60, "metal", new PlanLink("x", 0)),
                    Op("z", 60, "metal", new PlanLink("y", 0)),
                    Op("glass", 60, "glass"),
                    Op("long", 600) with
                    {
                        WithoutStop = true,
                    },
                    Op("after", 60, "metal", new PlanLink("long", 0)),
                    Op("good", 60),
                    Op("open", 60) with
                    {
                        Waits = [new(WaitKind.Decision, null, "which red?", "d1")],
                    }
                ),
            ])
        );
        plan.Operations.Keys.ShouldBe(["good"]);
        var reasons = plan.Unplanned.ToDictionary(u => u.Operation, u => u.Reason.Text);
        reasons["x"].ShouldStartWith("these wait for each other: ");
        reasons["glass"].ShouldBe("nobody has the trade glass");
        reasons["long"].ShouldBe("must run without a stop for 10 hours, and no shift is as long");
        reasons["after"].ShouldBe("comes after long");
        reasons["open"].ShouldBe("which red?: no date yet");
    }

    [Fact]
    public void A_hold_that_waits_for_itself_is_named()
    {
        var plan = Plan(
            Shop(
                [
                    Build(
                        "b",
                        Op("mask", 60, "paint") with
                        {
                            Hold = new("booth", "spray"),
                        },
                        Op("spray", 60, "paint", new PlanLink("mask", 0)) with
                        {
                            Station = "booth",
                        }
                    ),
                    Build("c", Op("other", 60)),
                ],
                null,
                new PlanStation("booth", 1)
            )
        );
        plan.Unplanned.ShouldAllBe(u => u.Reason.Text == "what it holds and what it needs wait for each other");
        Runs(plan, "other", At(5, 8), At(5, 9));
    }
}

using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>Sampled futures against what can be worked out.</summary>
public sealed class OutlookTests
{
    // Round the clock, so that durations are finishes.
    private static readonly WorkCalendar Always = new(
        WorkWeek.Of(Enumerable.Range(1, 7).Select(d => ((IsoDayOfWeek)d, 0, 1440, (IReadOnlyList<(int, int)>)[])))
    );
    private static readonly long Now = Always.Minute(new(2026, 3, 5, 8, 0));

    private static PlanOperation Op(string id, long minutes, string trade, params string[] after) =>
        new()
        {
            Id = id,
            Name = id,
            Minutes = minutes,
            Trade = trade,
            After = after.Select(a => new PlanLink(a, 0)).ToList(),
        };

    private static PlanProblem Shop(params PlanOperation[] operations) =>
        new(
            Now,
            Always,
            [
                new("Ada", "Ada", new HashSet<string> { "metal" }, Blocked.None),
                new("Bo", "Bo", new HashSet<string> { "paint" }, Blocked.None),
            ],
            [],
            [new("b", "b", operations) { Due = Now + 12_000 }]
        );

    [Theory]
    [InlineData(0.31, 0.22, true)]
    [InlineData(0.31, 0.28, false)]
    [InlineData(0.22, 0.31, false)]
    [InlineData(null, 0.1, false)]
    [InlineData(0.9, null, false)]
    public void An_order_is_riskier_where_noticeably_fewer_futures_keep_the_promise(
        double? was,
        double? now,
        bool riskier
    ) => new BuildOutlook("b", 0, 0, 0, now, []).IsRiskierThan(new("b", 0, 0, 0, was, [])).ShouldBe(riskier);

    [Fact]
    public void One_operation_finishes_at_the_quantiles_of_its_estimate()
    {
        // Low 5,000, likely 10,000, high 30,000 are P20, P50, P80; the trade's own bias is known to be nothing.
        var beliefs = Beliefs.None with { Trades = new Dictionary<string, Belief> { ["metal"] = new(0, 0, 0.5) } };
        var outlook = Outlook
            .Of(Shop(Op("a", 10_000, "metal") with { Low = 5_000, High = 30_000 }), beliefs, futures: 20_000)
            .Builds["b"];
        (outlook.P50 - Now).ShouldBeInRange(9_700, 10_300);
        (outlook.P80 - Now).ShouldBeInRange(29_000, 31_000);
        // P90: 10,000 x exp(1.2816 / 0.8416 x ln 3).
        (outlook.P90 - Now).ShouldBeInRange(51_000, 56_500);
        // ln 1.2 / (ln 3 / 0.8416) = 0.1397: 55.6 of 100.
        outlook.Kept!.Value.ShouldBeInRange(0.545, 0.567);
    }

    [Fact]
    public void What_a_trade_gets_wrong_it_gets_wrong_everywhere()
    {
        var shared = Beliefs.None with { Trades = new Dictionary<string, Belief> { ["metal"] = new(0, 0.4, 0) } };
        var single = Beliefs.None with { Trades = new Dictionary<string, Belief> { ["metal"] = new(0, 0, 0.4) } };
        var chain = Enumerable
            .Range(0, 10)
            .Select(i => Op($"o{i}", 1_000, "metal", i == 0 ? [] : [$"o{i - 1}"]))
            .ToArray();
        // One shared bias: P80 is 10,000 x exp(0.8416 x 0.4) = 14,002. Independent spreads even out.
        (Outlook.Of(Shop(chain), shared, 20_000).Builds["b"].P80 - Now).ShouldBeInRange(13_800, 14_250);
        (Outlook.Of(Shop(chain), single, 20_000).Builds["b"].P80 - Now).ShouldBeInRange(11_500, 12_300);
    }

    [Fact]
    public void The_same_seed_gives_the_same_outlook_with_any_number_of_threads()
    {
        var problem = Shop(Op("a", 3_000, "metal"), Op("c", 2_000, "paint", "a"));
        var (one, two) = (
            Outlook.Of(problem, Beliefs.None, 200, threads: 1).Builds["b"],
            Outlook.Of(problem, Beliefs.None, 200, threads: 2).Builds["b"]
        );
        (one.P50, one.P80, one.P90, one.Kept).ShouldBe((two.P50, two.P80, two.P90, two.Kept));
        Outlook.Of(problem, Beliefs.None, 200, seed: 2).Builds["b"].P80.ShouldNotBe(one.P80);
    }

    [Fact]
    public void The_operation_on_the_critical_way_carries_the_risk_and_one_beside_it_does_not()
    {
        var outlook = Outlook.Of(Shop(Op("long", 10_000, "metal"), Op("beside", 100, "paint")), Beliefs.None);
        outlook.Builds["b"].Risks[0].Operation.ShouldBe("long");
        outlook.Builds["b"].Risks[0].Days.ShouldBeGreaterThan(2);
        outlook.Builds["b"].Risks.ShouldNotContain(r => r.Operation == "beside" && r.Days > 0.5);
    }

    [Fact]
    public void A_supplier_whose_parts_come_late_moves_the_finish_and_one_that_is_sure_does_not()
    {
        PlanProblem Waiting(string? supplier) =>
            Shop(
                Op("fit", 60, "metal") with
                {
                    Waits = [new(WaitKind.Part, Now + 10_000, "grille") { Supplier = supplier }],
                }
            );
        var beliefs = new Beliefs(
            new Dictionary<string, Belief> { ["metal"] = new(0, 0, 0) },
            new Dictionary<string, Belief> { ["s"] = new(Math.Log(1.5), 0, 0) }
        );
        (Outlook.Of(Waiting(null), beliefs, 50).Builds["b"].P50 - Now).ShouldBe(10_060);
        (Outlook.Of(Waiting("s"), beliefs, 50).Builds["b"].P50 - Now).ShouldBeInRange(15_059, 15_061);
    }

    /// <summary>Shifts of eight hours; the coat goes on without a stop within an hour of the cleaning before it, so it
    /// must begin by the first minute where it takes a whole shift.</summary>
    private static Outlook Coating(long? lapse)
    {
        var calendar = new WorkCalendar(
            WorkWeek.Of(Enumerable.Range(1, 7).Select(d => ((IsoDayOfWeek)d, 480, 960, (IReadOnlyList<(int, int)>)[])))
        );
        var now = calendar.Minute(new(2026, 3, 5, 8, 0));
        PlanOperation[] operations =
        [
            new()
            {
                Id = "clean",
                Name = "clean",
                Minutes = 60,
                Low = 60,
                High = 60,
                Trade = "paint",
            },
            new()
            {
                Id = "coat",
                Name = "coat",
                Minutes = 400,
                Low = 300,
                High = 420,
                Trade = "paint",
                WithoutStop = true,
                After =
                [
                    new("clean", 0) { AtMost = 60, Lapse = lapse is { } l ? new("clean again", l, "paint") : null },
                ],
            },
        ];
        var certain = Beliefs.None with { Trades = new Dictionary<string, Belief> { ["paint"] = new(0, 0, 0.3) } };
        return Outlook.Of(
            new(
                now,
                calendar,
                [new("Bo", "Bo", new HashSet<string> { "paint" }, Blocked.None)],
                [],
                [new("b", "b", operations)]
            ),
            certain,
            2_000
        );
    }

    [Fact]
    public void A_future_in_which_a_window_cannot_be_kept_has_the_work_that_it_asks_for()
    {
        var (without, with) = (Coating(null).Builds["b"], Coating(1_200).Builds["b"]);
        // 400 and 420 minutes follow an hour of cleaning within a shift of 480: half and eight in ten are done the same
        // day.
        with.P50.ShouldBe(without.P50);
        with.P80.ShouldBe(without.P80);
        // More than 420 are not, and by the next morning the window is over. Cleaning again for twenty hours takes the
        // seven left of this day, eight of the next and five of the third: the coat is on the fourth, not on the
        // second.
        (with.P90 - without.P90).ShouldBe(2 * 1440);
    }

    [Fact]
    public void A_window_of_work_that_nobody_does_asks_nobody_to_do_anything()
    {
        // Within an hour of the coat's start, and after its end: no future in which the coat takes longer can keep it.
        var problem = Shop(
            Op("coat", 50, "paint"),
            new()
            {
                Id = "bake",
                Name = "bake",
                Minutes = 300,
                After =
                [
                    new("coat", 0),
                    new("coat", 0)
                    {
                        FromStart = true,
                        AtMost = 60,
                        Lapse = new("scuff", 600, "paint"),
                    },
                ],
            }
        );
        var outlook = Outlook
            .Of(
                problem,
                Beliefs.None with
                {
                    Trades = new Dictionary<string, Belief> { ["paint"] = new(0, 0, 0.5) },
                },
                2_000
            )
            .Builds["b"];
        // P80 of the coat is 50 x exp(0.8416 x 0.5) = 76.
        (outlook.P80 - Now).ShouldBeInRange(372, 381);
    }

    [Fact]
    public void A_window_since_what_is_finished_is_missed_in_a_future_in_which_the_supplier_is_late()
    {
        // Blasted at the beginning, to be primed within 10,200 minutes; the primer comes after 10,000, or twice as
        // late.
        PlanProblem Priming(long? lapse) =>
            Shop(
                Op("prime", 60, "metal") with
                {
                    After =
                    [
                        new("blast", 0)
                        {
                            DoneAt = Now,
                            AtMost = 10_200,
                            Lapse = lapse is { } l ? new("clean again", l, "metal") : null,
                        },
                    ],
                    Waits = [new(WaitKind.Part, Now + 10_000, "primer") { Supplier = "s" }],
                }
            );
        // So it is where the build has a spending pace, which places its work another way.
        PlanProblem Paced(PlanProblem p) =>
            p with
            {
                Builds = [.. p.Builds.Select(b => b with { Covered = [new(Now, 1_000)] })],
            };
        Outlook After(double factor, long? lapse, bool paced = false) =>
            Outlook.Of(
                paced ? Paced(Priming(lapse)) : Priming(lapse),
                new Beliefs(
                    new Dictionary<string, Belief> { ["metal"] = new(0, 0, 0) },
                    new Dictionary<string, Belief> { ["s"] = new(Math.Log(factor), 0, 0) }
                ),
                20
            );
        long Later(double factor, bool paced = false) =>
            After(factor, 300, paced).Builds["b"].P50 - After(factor, null, paced).Builds["b"].P50;
        Later(1).ShouldBe(0);
        Later(1.01).ShouldBe(0);
        Later(2).ShouldBe(300);
        Later(2, paced: true).ShouldBe(300);
    }

    [Fact]
    public void What_is_found_later_makes_a_stage_longer_by_its_share_after_its_last_work()
    {
        // Ten days of one trade in two stages; nothing else is unsure. A tenth is found on average, at most a little
        // for every second build.
        PlanOperation Sure(string id, string stage, params PlanLink[] after) =>
            Op(id, 2400, "metal") with
            {
                Stage = stage,
                Low = 2400,
                High = 2400,
                After = after,
            };
        var shop = Shop(Sure("a", "Metal"), Sure("b", "Paint", new PlanLink("a", 0)));
        var nothing = Outlook.Of(shop, Known, futures: 400).Builds["b"];
        nothing.P50.ShouldBe(nothing.P90);
        var found = Outlook.Of(shop with { FoundShare = 0.10 }, Known, futures: 400).Builds["b"];
        // The median share is a tenth x exp(-0.32), 7.3 in a hundred: of 80 hours nearly six.
        (shop.Calendar.Between(nothing.P50, found.P50) / 60.0).ShouldBeInRange(4.5, 8.5);
        (shop.Calendar.Between(nothing.P50, found.P90) / 60.0).ShouldBeInRange(11, 19);
        // Where the first stage is half done, only its other half finds more.
        var half = shop with
        {
            FoundShare = 0.10,
            Builds =
            [
                shop.Builds[0] with
                {
                    Operations =
                    [
                        shop.Builds[0].Operations[0] with
                        {
                            Minutes = 1200,
                            Low = 1200,
                            High = 1200,
                        },
                        shop.Builds[0].Operations[1],
                    ],
                },
            ],
        };
        Outlook.Of(half, Known, futures: 400).Builds["b"].P50.ShouldBeLessThan(found.P50 - 1200);
    }

    /// <summary>Trades whose estimates are what they take.</summary>
    private static readonly Beliefs Known = new(
        new Dictionary<string, Belief> { ["metal"] = new(0, 0, 0) },
        new Dictionary<string, Belief>()
    );
}

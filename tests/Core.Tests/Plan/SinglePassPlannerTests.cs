using CsCheck;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>A plan never works a closed minute nor a person twice, and more work never brings a build's own date
/// forward.</summary>
public sealed class SinglePassPlannerTests
{
    private static readonly string[] Trades = ["metal", "paint", "trim"];
    private static readonly WorkCalendar Calendar = new(
        WorkWeek.Of(
            Enumerable.Range(1, 5).Select(d => ((IsoDayOfWeek)d, 480, 990, (IReadOnlyList<(int, int)>)[(720, 750)]))
        ),
        [new LocalDate(2026, 3, 11)]
    );

    private static readonly long Now = Calendar.Minute(new(2026, 3, 6, 9, 30));

    private sealed record Drawn(int[] Minutes, int[] TradeOf, bool[] NonStop, int[] AfterOf, int[] Lags);

    private static readonly Gen<Drawn> AnyBuild =
        from n in Gen.Int[1, 9]
        from minutes in Gen.Int[0, 900].Array[n]
        from trade in Gen.Int[0, 3].Array[n]
        from nonStop in Gen.Bool.Array[n]
        from after in Gen.Int[-1, 8].Array[n]
        from lags in Gen.Int[0, 3000].Array[n]
        select new Drawn(minutes, trade, nonStop, after, lags);

    private static readonly Gen<Drawn[]> AnyShop = AnyBuild.Array[1, 4];

    private static PlanBuild Build(Drawn d, int number, int more = 0) =>
        new(
            $"b{number}",
            $"{number}",
            d.Minutes.Select(
                    (m, i) =>
                        new PlanOperation
                        {
                            Id = $"b{number}.{i}",
                            Name = $"{number}.{i}",
                            Minutes = (d.NonStop[i] ? Math.Min(m, 200) : m) + (i == 0 && !d.NonStop[i] ? more : 0),
                            Trade = d.TradeOf[i] == 3 ? null : Trades[d.TradeOf[i]],
                            Station = i % 3 == 0 ? "booth" : null,
                            WithoutStop = d.NonStop[i],
                            After =
                                d.AfterOf[i] >= 0 && d.AfterOf[i] < i
                                    ? [new($"b{number}.{d.AfterOf[i]}", d.Lags[i])]
                                    : [],
                        }
                )
                .ToList()
        );

    private static PlanProblem Problem(Drawn[] shop, int more = 0, int to = 0)
    {
        var away = new Blocked([new(Calendar.Minute(new(2026, 3, 9, 0, 0)), Calendar.Minute(new(2026, 3, 10, 12, 0)))]);
        return new(
            Now,
            Calendar,
            [
                new("p1", "Ada", new HashSet<string> { "metal", "paint" }, Blocked.None),
                new("p2", "Bo", new HashSet<string> { "metal" }, away),
                new("p3", "Cy", new HashSet<string> { "paint", "trim" }, Blocked.None),
            ],
            [new("booth", 1)],
            shop.Select((d, i) => Build(d, i, i == to ? more : 0)).ToList()
        );
    }

    [Fact]
    public void Nobody_works_twice_at_once_nor_while_the_shop_is_closed_or_they_are_away() =>
        AnyShop.Sample(
            shop =>
            {
                var problem = Problem(shop);
                var plan = new SinglePassPlanner().Plan(problem);
                foreach (var person in problem.People)
                {
                    var worked = plan
                        .Operations.Values.Where(o => o.Person == person.Id)
                        .SelectMany(o => o.Worked)
                        .OrderBy(w => w.Start)
                        .ToList();
                    foreach (var (a, b) in worked.Zip(worked.Skip(1)))
                    {
                        b.Start.ShouldBeGreaterThanOrEqualTo(a.End);
                    }

                    foreach (var w in worked)
                    {
                        ((long)Calendar.Between(w.Start, w.End, person.Absent)).ShouldBe(
                            w.End - w.Start,
                            "works only open minutes"
                        );
                    }
                }
            },
            iter: 400
        );

    [Fact]
    public void Everything_comes_after_what_it_follows_and_takes_its_minutes() =>
        AnyShop.Sample(
            shop =>
            {
                var problem = Problem(shop);
                var plan = new SinglePassPlanner().Plan(problem);
                foreach (var operation in problem.Builds.SelectMany(b => b.Operations))
                {
                    var placed = plan.Operations[operation.Id];
                    placed.Start.ShouldBeGreaterThanOrEqualTo(Now);
                    placed.Worked.Sum(w => w.End - w.Start).ShouldBe(operation.Minutes);
                    operation.After.ShouldAllBe(a =>
                        plan.Operations[a.Operation].Finish + a.LagMinutes <= placed.Start
                    );
                }
            },
            iter: 400
        );

    [Fact]
    public void A_station_for_one_serves_one_build_at_a_time() =>
        AnyShop.Sample(
            shop =>
            {
                var problem = Problem(shop);
                var plan = new SinglePassPlanner().Plan(problem);
                var uses = problem
                    .Builds.SelectMany(b =>
                        b.Operations.Where(o => o is { Station: "booth", Trade: not null })
                            .SelectMany(o => plan.Operations[o.Id].Worked.Select(w => (w.Start, w.End, Build: b.Id)))
                    )
                    .OrderBy(u => u.Start)
                    .ToList();
                foreach (var a in uses)
                {
                    uses.ShouldAllBe(b => b.Build == a.Build || b.End <= a.Start || a.End <= b.Start);
                }
            },
            iter: 400
        );

    [Fact]
    public void One_more_hour_on_a_build_never_makes_its_own_date_earlier_nor_touches_a_build_before_it() =>
        Gen.Select(AnyShop, Gen.Int[0, 3])
            .Sample(
                (shop, pick) =>
                {
                    var which = pick % shop.Length;
                    var (before, after) = (
                        new SinglePassPlanner().Plan(Problem(shop)),
                        new SinglePassPlanner().Plan(Problem(shop, 60, which))
                    );
                    after.Builds[$"b{which}"].Finish.ShouldBeGreaterThanOrEqualTo(before.Builds[$"b{which}"].Finish);
                    for (var i = 0; i < which; i++)
                    {
                        after.Builds[$"b{i}"].Finish.ShouldBe(before.Builds[$"b{i}"].Finish);
                    }
                },
                iter: 600
            );

    [Fact]
    public void The_same_problem_gives_the_same_plan() =>
        AnyShop.Sample(
            shop =>
            {
                var (a, b) = (new SinglePassPlanner().Plan(Problem(shop)), new SinglePassPlanner().Plan(Problem(shop)));
                a.Operations.Values.Select(o => (o.Id, o.Start, o.Finish, o.Person))
                    .ShouldBe(b.Operations.Values.Select(o => (o.Id, o.Start, o.Finish, o.Person)));
            },
            iter: 50
        );

    [Fact]
    public void A_lower_build_fills_the_gaps_of_a_higher_one()
    {
        var high = new PlanBuild(
            "high",
            "high",
            [
                new()
                {
                    Id = "spray",
                    Name = "spray",
                    Minutes = 60,
                    Trade = "paint",
                },
                new()
                {
                    Id = "flat",
                    Name = "flat",
                    Minutes = 60,
                    Trade = "paint",
                    After = [new("spray", 2880)],
                },
            ]
        );
        var low = new PlanBuild(
            "low",
            "low",
            [
                new()
                {
                    Id = "low.spray",
                    Name = "low.spray",
                    Minutes = 60,
                    Trade = "paint",
                },
            ]
        );
        var plan = new SinglePassPlanner().Plan(
            new(Now, Calendar, [new("p", "Pia", new HashSet<string> { "paint" }, Blocked.None)], [], [high, low])
        );
        plan.Operations["low.spray"].Finish.ShouldBeLessThan(plan.Operations["flat"].Start);
        plan.Operations["low.spray"].Reason.Kind.ShouldBe(WaitKind.Person);
        plan.Operations["low.spray"].Reason.Ref.ShouldBe("spray");
    }

    [Fact]
    public void A_dated_wait_is_the_reason_when_it_comes_last()
    {
        var until = Calendar.Minute(new(2026, 3, 12, 0, 0));
        var build = new PlanBuild(
            "b",
            "b",
            [
                new()
                {
                    Id = "fit",
                    Name = "fit",
                    Minutes = 60,
                    Trade = "trim",
                    Waits = [new(WaitKind.Part, until, "hinge pins", "part-7")],
                },
            ]
        );
        var plan = new SinglePassPlanner().Plan(
            new(Now, Calendar, [new("p", "Pia", new HashSet<string> { "trim" }, Blocked.None)], [], [build])
        );
        plan.Operations["fit"].Start.ShouldBe(Calendar.Minute(new(2026, 3, 12, 8, 0)));
        plan.Builds["b"].Holds.ShouldBe(new PlanReason(WaitKind.Part, "hinge pins", "part-7"));
    }

    [Fact]
    public void A_shift_over_midnight_belongs_to_its_first_day_and_a_clock_change_keeps_real_minutes()
    {
        var zone = DateTimeZoneProviders.Tzdb["Europe/London"];
        var nights = new WorkCalendar(WorkWeek.Of([(IsoDayOfWeek.Saturday, 22 * 60, 6 * 60, [])]), zone: zone);
        // The clocks go forward in the night of 28 to 29 March 2026: the shift has seven real hours.
        var placed = Placing.Add(nights, Blocked.None, nights.Minute(new(2026, 3, 28, 12, 0)), 420);
        nights.Local(placed.Start).ShouldBe(new LocalDateTime(2026, 3, 28, 22, 0));
        nights.Local(placed.Finish).ShouldBe(new LocalDateTime(2026, 3, 29, 6, 0));
    }
}

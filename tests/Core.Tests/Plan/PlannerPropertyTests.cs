using CsCheck;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Plan.Engine;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>What holds for every plan of every shop.</summary>
public sealed class PlannerPropertyTests
{
    private static readonly Planner Planner = new();

    [Fact]
    public void Nobody_and_nothing_is_in_use_twice_and_every_link_hold_calendar_and_crew_is_kept() =>
        AnyShop.Problems.Sample(
            problem =>
            {
                var plan = Planner.Plan(problem);
                var operations = problem.Builds.SelectMany(b => b.Operations).ToDictionary(o => o.Id);
                foreach (var person in problem.People)
                {
                    var mine = plan
                        .Operations.Values.Where(o => o.People.Contains(person.Id))
                        .SelectMany(o => o.Worked)
                        .OrderBy(w => w.Start)
                        .ToList();
                    foreach (var (a, b) in mine.Zip(mine.Skip(1)))
                    {
                        b.Start.ShouldBeGreaterThanOrEqualTo(a.End, person.Id);
                    }

                    mine.ShouldAllBe(w => !person.Absent.Covers(w.Start) && !person.Absent.Covers(w.End - 1));
                    mine.ShouldAllBe(w => problem.Calendar.Between(w.Start, w.End, null) == w.End - w.Start, person.Id);
                }

                foreach (var station in problem.Stations)
                {
                    var taken = plan
                        .Operations.Values.Where(o =>
                            operations.TryGetValue(o.Id, out var x) && x.Station == station.Kind
                        )
                        .SelectMany(o => Of(problem, o))
                        .Concat(
                            plan.Operations.Values.Where(o =>
                                    operations.TryGetValue(o.Id, out var x)
                                    && problem.Crowds.Any(c => c.Station == station.Kind && x.Kinds.Contains(c.Kind))
                                )
                                .SelectMany(o => Of(problem, o))
                        )
                        .Concat(
                            operations
                                .Values.Where(o => o.Hold?.Station == station.Kind && plan.Operations.ContainsKey(o.Id))
                                .Select(o => new Span(
                                    plan.Operations[o.Id].Start,
                                    plan.Operations[o.Hold!.Until].Finish
                                ))
                        );
                    Most(taken).ShouldBeLessThanOrEqualTo(station.Count);
                }

                Most(
                    plan.Operations.Values.Where(o =>
                            operations.TryGetValue(o.Id, out var x) && x.Kinds.Contains("wet")
                        )
                        .SelectMany(o => Of(problem, o)),
                    plan.Operations.Values.Where(o =>
                            operations.TryGetValue(o.Id, out var x) && x.Kinds.Contains("dust")
                        )
                        .SelectMany(o => Of(problem, o))
                );
                foreach (
                    var (o, planned) in operations
                        .Values.Where(o => plan.Operations.ContainsKey(o.Id))
                        .Select(o => (o, plan.Operations[o.Id]))
                )
                {
                    planned.People.Count.ShouldBe(
                        o.Trade is null || o.Minutes == 0 ? 0 : 1 + o.With.Sum(w => w.Count),
                        o.Id
                    );
                    planned.Start.ShouldBeGreaterThanOrEqualTo(
                        Math.Max(problem.Now, o.Waits.Select(w => w.Until!.Value).DefaultIfEmpty(0).Max())
                    );
                    foreach (var link in o.After)
                    {
                        var since = link.DoneAt
                            ?? (
                                link.FromStart
                                    ? plan.Operations[link.Operation].Start
                                    : plan.Operations[link.Operation].Finish
                            );
                        (
                            link.Working ? problem.Calendar.Between(since, planned.Start) : planned.Start - since
                        ).ShouldBeGreaterThanOrEqualTo(link.LagMinutes, o.Id);
                        if (link.AtMost is { } most && plan.Inserted.All(i => i.Before != o.Id))
                        {
                            (planned.Start - since).ShouldBeLessThanOrEqualTo(most, o.Id);
                        }
                    }
                }

                // What a missed window asks for is done within the same time before what follows it.
                foreach (var i in plan.Inserted)
                {
                    var most = operations[i.Before].After.Single(a => a.Operation == i.After).AtMost!.Value;
                    (plan.Operations[i.Before].Start - plan.Operations[i.Id].Finish).ShouldBeInRange(0, most, i.Before);
                }

                // What has no date has a reason that names a lack, or follows something without a date.
                plan.Unplanned.ShouldAllBe(u =>
                    u.Reason.Kind == WaitKind.Fault
                    || u.Reason.Kind == WaitKind.Trade
                    || u.Reason.Kind == WaitKind.Operation
                );
            },
            iter: 300
        );

    [Fact]
    public void Nothing_that_is_not_tied_could_start_earlier_where_everything_else_stands() =>
        AnyShop.Problems.Sample(
            problem =>
            {
                var run = new PlanRun(problem);
                var decoder = new Decoder(run.Shop.Model);
                decoder.Decode(run.Order);
                var schedule = decoder.Schedule();
                foreach (
                    var cluster in run.Shop.Model.Clusters.Where(c =>
                        !c.Tied && schedule.Start[c.Operations[0]] < Model.Parked
                    )
                )
                {
                    var o = cluster.Operations[0];
                    decoder.Book(cluster, -1);
                    decoder.PutIn(cluster);
                    decoder.Finish[o].ShouldBeGreaterThanOrEqualTo(schedule.Finish[o], run.Shop.Operations[o].Id);
                    decoder.Book(cluster, -1);
                    decoder.Restore(o, schedule);
                    decoder.Book(cluster, 1);
                }
            },
            iter: 200
        );

    [Fact]
    public void The_same_problem_gives_the_same_plan_and_every_chain_ends() =>
        AnyShop.Problems.Sample(
            problem =>
            {
                var (a, b) = (Planner.Plan(problem), Planner.Plan(problem));
                b.Operations.Values.Select(o => (o.Id, o.Start, o.Finish, o.Person))
                    .ShouldBe(a.Operations.Values.Select(o => (o.Id, o.Start, o.Finish, o.Person)));
                foreach (var id in a.Operations.Keys)
                {
                    var chain = a.Chain(id);
                    chain[0].Operation.ShouldBe(id);
                    chain.Count.ShouldBeLessThanOrEqualTo(a.Operations.Count);
                }
            },
            iter: 100
        );

    [Fact]
    public void More_capacity_in_a_fixed_order_breaks_nothing() =>
        AnyShop.Problems.Sample(
            problem =>
            {
                var plan = PlanImprovement.Search(problem, 0).Plan;
                var roomy = problem with
                {
                    Turns = plan.Turns,
                    Stations = problem.Stations.Select(s => s with { Count = s.Count + 1 }).ToList(),
                    People = [.. problem.People, problem.People[0] with { Id = "more", Name = "more", Slots = [] }],
                };
                var after = Planner.Plan(roomy);
                after.Unplanned.Count.ShouldBeLessThanOrEqualTo(plan.Unplanned.Count);
                foreach (var person in roomy.People)
                {
                    var mine = after
                        .Operations.Values.Where(o => o.People.Contains(person.Id))
                        .SelectMany(o => o.Worked)
                        .OrderBy(w => w.Start)
                        .ToList();
                    mine.Zip(mine.Skip(1)).ShouldAllBe(p => p.First.End <= p.Second.Start);
                }
            },
            iter: 100
        );

    [Fact]
    public void Improving_is_never_worse_and_its_turns_give_the_plan_again() =>
        AnyShop.Problems.Sample(
            problem =>
            {
                var now = Planner.Plan(problem);
                var better = PlanImprovement.Search(problem, 0.1);
                better.Plan.WeightedDaysLate.ShouldBeLessThanOrEqualTo(now.WeightedDaysLate + 1e-9);
                better.LeastWeightedDaysLate.ShouldBeLessThanOrEqualTo(better.Plan.WeightedDaysLate + 1e-9);
                Planner
                    .Plan(problem with { Turns = better.Plan.Turns })
                    .WeightedDaysLate.ShouldBeLessThanOrEqualTo(better.Plan.WeightedDaysLate + 1e-9);
            },
            iter: 12
        );

    [Fact]
    public void An_order_taken_for_all_builds_is_the_one_found_and_for_some_its_turns_give_the_plan_again() =>
        AnyShop.Problems.Sample(
            problem =>
            {
                var found = PlanImprovement.Search(problem, 0.05).Plan;
                Dictionary<string, long> Finishes(ShopPlan plan) =>
                    plan.Builds.Values.ToDictionary(b => b.Id, b => b.Finish);
                var all = problem.Builds.Select(b => b.Id).ToHashSet();
                Finishes(PlanImprovement.For(problem, found, all))
                    .ShouldBe(Finishes(Planner.Plan(problem with { Turns = found.Turns })), ignoreOrder: true);
                var some = PlanImprovement.For(problem, found, all.Where((_, i) => i % 2 == 0).ToHashSet());
                Finishes(some).ShouldBe(Finishes(Planner.Plan(problem with { Turns = some.Turns })), ignoreOrder: true);
                some.Operations.Keys.ShouldBe(found.Operations.Keys, ignoreOrder: true);
            },
            iter: 12
        );

    [Fact]
    public void One_more_hour_moves_few_of_the_other_builds_operations_by_more_than_a_day()
    {
        var (moved, all) = (0, 0);
        foreach (var seed in Enumerable.Range(0, 60))
        {
            var problem = AnyShop.Of(seed);
            var other = problem with
            {
                Builds = problem
                    .Builds.Select(
                        (b, i) =>
                            i > 0
                                ? b
                                : b with
                                {
                                    Operations = b
                                        .Operations.Select(
                                            (o, k) =>
                                                k == 0 && o.Trade is not null ? o with { Minutes = o.Minutes + 60 } : o
                                        )
                                        .ToList(),
                                }
                    )
                    .ToList(),
            };
            var (before, after) = (Planner.Plan(problem), Planner.Plan(other));
            var mine = before
                .Operations.Values.Where(o => o.Build != "b0" && after.Operations.ContainsKey(o.Id))
                .ToList();
            all += mine.Count;
            moved += mine.Count(o => Math.Abs(after.Operations[o.Id].Start - o.Start) > 1440);
        }

        (moved / (double)all).ShouldBeLessThanOrEqualTo(0.05);
    }

    private static IEnumerable<Span> Of(PlanProblem problem, PlannedOperation o) =>
        problem.Builds.Single(b => b.Id == o.Build).FillIn ? o.Worked
        : o.Finish > o.Start ? [new(o.Start, o.Finish)]
        : [];

    private static int Most(IEnumerable<Span> spans)
    {
        var (now, most) = (0, 0);
        foreach (
            var (_, by) in spans
                .SelectMany(s => new[] { (At: s.Start, By: 1), (At: s.End, By: -1) })
                .OrderBy(e => e.At)
                .ThenBy(e => e.By)
        )
        {
            most = Math.Max(most, now += by);
        }

        return most;
    }

    private static void Most(IEnumerable<Span> one, IEnumerable<Span> other)
    {
        foreach (var a in one)
        {
            other.ShouldAllBe(b => b.End <= a.Start || b.Start >= a.End);
        }
    }
}

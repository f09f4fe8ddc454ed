using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.PlanCheck;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>A reason is a claim: take its cause away, place its chain again, leave the rest as it is, and it starts
/// sooner.</summary>
public sealed class ReasonsTests
{
    /// <summary>The shops are the same in every run; another number here draws others.</summary>
    private static readonly int First = int.TryParse(
        Environment.GetEnvironmentVariable("FIRSTCOAT_FIRST_SHOP"),
        out var first
    )
        ? first
        : 0;

    private static void Each(int shops, Action<int> holds) => Parallel.For(First, First + shops, seed =>
        {
            try
            {
                holds(seed);
            }
            catch (ShouldAssertException e)
            {
                throw new ShouldAssertException($"shop {seed}: {e.Message}", e);
            }
        });

    [Fact]
    public void Every_root_that_is_stated_lets_the_work_start_sooner_once_it_is_gone() => Each(150, seed =>
        {
            var problem = seed % 2 == 0 ? ShopWithPlaces.Of(seed) : AnyShop.Of(seed);
            var plan = new Planner().Plan(problem);
            foreach (var o in plan.Operations.Values)
            {
                var why = plan.Why(o.Id);
                why.Steps[0].Operation.ShouldBe(o.Id);
                why.Steps.Select(s => s.Operation).ShouldBeUnique($"{o.Id} waits in a circle");
                why.Steps.ShouldAllBe(s => s.Reason.Text.Length > 0 && s.Slack >= 0);
                if (o.Start == problem.Now)
                {
                    continue;
                }

                why.Roots.ShouldNotBeEmpty($"{o.Id} starts later than now, and nothing is said");
                why.WithoutThem.ShouldNotBeNull(o.Id);
                why.WithoutThem!.Value.ShouldBeLessThan(o.Start, o.Id);
            }
        });

    /// <summary>Shops in which something that starts late once had no cause, or waited in a circle.</summary>
    [Theory]
    [InlineData(20003)]
    [InlineData(21190)]
    [InlineData(21485)]
    [InlineData(22049)]
    [InlineData(22160)]
    [InlineData(22388)]
    [InlineData(24253)]
    public void Nothing_starts_late_without_a_cause(int seed)
    {
        var problem = ShopWithPlaces.Of(seed);
        var plan = new Planner().Plan(problem);
        plan.Operations.Values.Where(o => o.Start > problem.Now && !(plan.Why(o.Id).WithoutThem < o.Start))
            .Select(o => o.Id)
            .ShouldBeEmpty();
    }

    /// <summary>The same, with the cause really taken out of the problem, and the whole plan looked at by the
    /// independent check.</summary>
    [Fact]
    public void A_plan_without_the_cause_in_which_only_the_chain_is_moved_could_be_kept() => Each(100, seed =>
        {
            var problem = AnyShop.Of(seed);
            var plan = new Planner().Plan(problem);
            foreach (var o in plan.Operations.Values)
            {
                var why = plan.Why(o.Id);
                if (why.Roots.Count != 1 || Without(problem, why.Roots[0]) is not { } other)
                {
                    continue;
                }

                var placed = plan.Again!(o.Id);
                if (placed.Any(a => problem.Builds.Single(b => b.Id == a.Build).FillIn))
                {
                    continue;
                }

                var again = placed.Select(a => Worked(other, a)).ToDictionary(a => a.Id);
                again[o.Id].Start.ShouldBeLessThan(o.Start);
                var moved = plan with
                {
                    Operations = plan.Operations.ToDictionary(
                        x => x.Key,
                        x => again.GetValueOrDefault(x.Key) ?? x.Value
                    ),
                };
                ShopPlanCheck.Faults(other, moved).ShouldBeEmpty($"{seed} {o.Id}: {why.Roots[0].Text}");
            }
        });

    /// <summary>The problem with a cause taken away; null: it is one of those that cannot be put into a
    /// problem.</summary>
    private static PlanProblem? Without(PlanProblem problem, PlanReason root) =>
        root.Kind switch
        {
            WaitKind.Part => problem with
            {
                Builds =
                [
                    .. problem.Builds.Select(b =>
                        b with
                        {
                            Operations =
                            [
                                .. b.Operations.Select(o =>
                                    o with
                                    {
                                        Waits = [.. o.Waits.Where(w => w.Until != root.Until)],
                                    }
                                ),
                            ],
                        }
                    ),
                ],
            },
            WaitKind.Stock => problem with { Stock = [.. problem.Stock.Select(s => s with { Count = s.Count * 2 })] },
            WaitKind.Air => problem with { Air = [] },
            WaitKind.Station => problem with
            {
                Stations = [.. problem.Stations.Select(s => s with { Count = s.Count + 2 })],
            },
            _ => null,
        };

    private static PlannedOperation Worked(PlanProblem problem, PlannedOperation o)
    {
        var said = problem.Builds.SelectMany(b => b.Operations).First(x => x.Id == o.Id || o.Id == $"{x.Id} again");
        return o with
        {
            Worked =
                o.People.Count == 0 || said.WithoutStop
                    ? o.Finish > o.Start
                        ? [new(o.Start, o.Finish)]
                        : []
                    : Stretches(problem, o),
        };
    }

    /// <summary>The minutes between start and finish in which all who do it are at work and not on others'
    /// time.</summary>
    private static List<Span> Stretches(PlanProblem problem, PlannedOperation o)
    {
        var (stretches, people) = (
            new List<Span>(),
            o.People.Select(id => problem.People.Single(p => p.Id == id)).ToList()
        );
        for (var minute = o.Start; minute < o.Finish; minute++)
        {
            var local = problem.Calendar.Local(minute);
            var works =
                problem.Calendar.Between(minute, minute + 1) == 1
                && people.TrueForAll(p =>
                    !p.Absent.Covers(minute)
                    && p.Slots.All(s =>
                        s.Build == o.Build
                        || s.Day != local.DayOfWeek
                        || local.Hour * 60 + local.Minute < s.From
                        || local.Hour * 60 + local.Minute >= s.To
                    )
                );
            if (works && stretches.Count > 0 && stretches[^1].End == minute)
            {
                stretches[^1] = stretches[^1] with { End = minute + 1 };
            }
            else if (works)
            {
                stretches.Add(new(minute, minute + 1));
            }
        }

        return stretches;
    }
}

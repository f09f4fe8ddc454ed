using CsCheck;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>A week as the plan drafts it.</summary>
public sealed class WeekDraftTests
{
    private const long Week = 7 * 1440;

    /// <summary>Monday at eight.</summary>
    private static readonly long Now = AnyShop.Calendar.Minute(new LocalDateTime(2026, 3, 2, 8, 0));

    private static readonly long Midnight = AnyShop.Calendar.Minute(new LocalDateTime(2026, 3, 2, 0, 0));

    private static readonly PlanPerson Ann = new("ann", "Ann", new HashSet<string> { "paint" }, Blocked.None);

    private static PlanOperation Op(string id, long hours, params string[] after) =>
        new()
        {
            Id = id,
            Name = id,
            Minutes = hours * 60,
            Trade = "paint",
            After = [.. after.Select(a => new PlanLink(a, 0))],
        };

    private static WeekDraft Draft(PlanProblem problem, long from, long to)
    {
        var plan = new Planner().Plan(problem);
        return WeekDraft.Of(problem, plan, PlanLanes.Of(problem, plan), from, to);
    }

    private static PlanProblem Shop(params PlanOperation[] operations) =>
        new(Now, AnyShop.Calendar, [Ann], [], [new("one", "One", operations)]);

    [Fact]
    public void What_ends_in_the_week_is_whole_and_of_the_rest_the_hours_that_lie_in_it()
    {
        var problem = Shop(Op("short", 4), Op("long", 100, "short"));
        var draft = Draft(problem, Midnight, Midnight + Week);
        var (first, second) = (
            draft.Work.Single(w => w.Operation == "short"),
            draft.Work.Single(w => w.Operation == "long")
        );
        (first.Minutes, first.Whole).ShouldBe((240, true));
        second.Whole.ShouldBeFalse();
        (first.Minutes + second.Minutes).ShouldBe(AnyShop.Calendar.Between(Now, Midnight + Week), "all of her week");
        draft.Free["ann"].ShouldBe(0);
        var next = Draft(problem, Midnight + Week, Midnight + 2 * Week);
        next.Work.Select(w => w.Operation).ShouldBe(["long"]);
        next.Work[0].Times[0].Start.ShouldBeGreaterThanOrEqualTo(Midnight + Week);
    }

    [Fact]
    public void What_is_free_is_what_is_left_of_the_week_from_now_on()
    {
        var draft = Draft(Shop(Op("short", 4)), Midnight, Midnight + Week);
        draft.Free["ann"].ShouldBe(AnyShop.Calendar.Between(Now, Midnight + Week) - 240);
        Draft(Shop(Op("short", 4)), Midnight - Week, Midnight).Work.ShouldBeEmpty("that week is over");
        Draft(Shop(Op("short", 4)), Midnight - Week, Midnight).Free["ann"].ShouldBe(0);
    }

    [Fact]
    public void Weeks_on_end_hold_all_of_the_plan_once()
    {
        AnyShop.Problems.Sample(
            problem =>
            {
                var plan = new Planner().Plan(problem);
                var lanes = PlanLanes.Of(problem, plan);
                var from = problem.Now;
                var last = plan.Operations.Values.Select(o => o.Finish).DefaultIfEmpty(from).Max();
                var minutes = 0L;
                for (var w = from; w < last; w += Week)
                {
                    var draft = WeekDraft.Of(problem, plan, lanes, w, w + Week);
                    minutes += draft.Work.Sum(x => x.Minutes);
                    draft.Free.Values.ShouldAllBe(f => f >= 0);
                }

                var known = lanes.Blocks.Select(b => b.Operation).ToHashSet();
                minutes.ShouldBe(
                    plan.Operations.Values.Where(o => known.Contains(o.Id))
                        .Sum(o => o.People.Count * o.Worked.Sum(s => s.End - s.Start))
                );
            },
            iter: 60,
            threads: 1
        );
    }
}

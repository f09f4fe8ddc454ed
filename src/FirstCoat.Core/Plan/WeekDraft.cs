using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan.Engine;

namespace FirstCoat.Core.Plan;

/// <summary>Work of one person in a span of time, as the plan has it.</summary>
/// <param name="Minutes">That the person works on it in that time.</param>
/// <param name="Whole">The plan has it done by the end of that time.</param>
/// <param name="Times">Within that time, the breaks of a day left out.</param>
public sealed record WeekWork(
    string Operation,
    string Build,
    string Person,
    string Name,
    long Minutes,
    bool Whole,
    IReadOnlyList<Span> Times
);

/// <summary>What a plan gives people to do in a span of time, and what it leaves them.</summary>
/// <param name="Free">By person, the minutes of their working time that nothing is planned in.</param>
public sealed record WeekDraft(IReadOnlyList<WeekWork> Work, IReadOnlyDictionary<string, long> Free)
{
    /// <summary>Drafts a span of time; what lies before now is no draft any more.</summary>
    public static WeekDraft Of(PlanProblem problem, ShopPlan plan, PlanLanes lanes, long from, long to)
    {
        var start = Math.Max(from, problem.Now);
        var work = new List<WeekWork>();
        var planned = problem.People.ToDictionary(p => p.Id, _ => 0L);
        foreach (var block in lanes.Blocks.Where(b => b.People.Count > 0 && b.Start < to && b.Finish > start))
        {
            var worked = plan.Operations[block.Operation].Worked;
            var minutes = worked.Sum(s => Math.Max(0, Math.Min(s.End, to) - Math.Max(s.Start, start)));
            var times = block
                .Hours.Select(s => new Span(Math.Max(s.Start, start), Math.Min(s.End, to)))
                .Where(s => s.End > s.Start)
                .ToList();
            if (minutes == 0)
            {
                continue;
            }

            foreach (var person in block.People)
            {
                planned[person] += minutes;
                work.Add(new(block.Operation, block.Build, person, block.Name, minutes, block.Finish <= to, times));
            }
        }

        var hours = new ShopHours(problem);
        var (a, b) = ((int)(start - problem.Now), (int)Math.Max(0, to - problem.Now));
        return new(
            work,
            problem
                .People.Select((p, i) => (p.Id, There: b > a ? hours.Of(i).Between(a, b) : 0))
                .ToDictionary(p => p.Id, p => Math.Max(0, p.There - planned[p.Id]))
        );
    }
}

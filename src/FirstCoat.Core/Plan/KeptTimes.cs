using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Plan;

/// <summary>One time that is kept for a build.</summary>
/// <param name="Used">Minutes in which its person works on the build.</param>
/// <param name="Why">Why it goes unused; null: it is used.</param>
public sealed record KeptTime(string Person, string Build, long From, long To, long Used, string? Why)
{
    /// <summary>A piece shorter than this is no use of it, in minutes.</summary>
    public const int Least = 30;

    /// <summary>The times that are kept from now on, with what the plan does in them.</summary>
    public static IReadOnlyList<KeptTime> Ahead(PlanProblem problem, ShopPlan plan, int weeks)
    {
        var kept = new List<KeptTime>();
        var first = problem.Calendar.Local(problem.Now).Date;
        foreach (var (person, slot) in problem.People.SelectMany(p => p.Slots.Select(s => (p, s))))
        {
            for (var day = first; day < first.PlusWeeks(weeks); day = day.PlusDays(1))
            {
                var (from, to) = (
                    problem.Calendar.Minute(day.AtMidnight().PlusMinutes(slot.From)),
                    problem.Calendar.Minute(day.AtMidnight().PlusMinutes(slot.To))
                );
                if (day.DayOfWeek == slot.Day && from >= problem.Now)
                {
                    kept.Add(One(problem, plan, person, slot.Build, from, to));
                }
            }
        }

        return [.. kept.OrderBy(k => k.From).ThenBy(k => k.Person, StringComparer.Ordinal)];
    }

    /// <summary>How many times that were kept before an instant went by without work of their person on their
    /// build.</summary>
    /// <param name="since">The first day on which they were kept.</param>
    /// <param name="worked">When somebody worked on a build.</param>
    public static int Missed(
        PlanProblem problem,
        PlanPerson person,
        PlanSlot slot,
        int weeks,
        LocalDate since,
        IEnumerable<Span> worked
    )
    {
        var last = problem.Calendar.Local(problem.Now).Date;
        var spans = worked.ToList();
        return Enumerable
            .Range(1, weeks * 7)
            .Select(back => last.PlusDays(-back))
            .Where(d => d >= since && d.DayOfWeek == slot.Day && !problem.Calendar.Closed.Contains(d))
            .Select(d => new Span(
                problem.Calendar.Minute(d.AtMidnight().PlusMinutes(slot.From)),
                problem.Calendar.Minute(d.AtMidnight().PlusMinutes(slot.To))
            ))
            .Count(s =>
                !person.Absent.Covers(s.Start)
                && spans.Sum(w => Math.Max(0, Math.Min(w.End, s.End) - Math.Max(w.Start, s.Start))) < Least
            );
    }

    private static KeptTime One(PlanProblem problem, ShopPlan plan, PlanPerson person, string build, long from, long to)
    {
        var mine = plan.Operations.Values.Where(o => o.Build == build).ToList();
        var used = mine.Where(o => o.People.Contains(person.Id))
            .SelectMany(o => o.Worked)
            .Sum(w => Math.Max(0, Math.Min(w.End, to) - Math.Max(w.Start, from)));
        return new(person.Id, build, from, to, used, used >= Least ? null : WhyUnused(problem, person, mine, from, to));
    }

    private static string WhyUnused(
        PlanProblem problem,
        PlanPerson person,
        List<PlannedOperation> mine,
        long from,
        long to
    )
    {
        if (person.Absent.Covers(from))
        {
            return $"{person.Name} is away";
        }

        if (problem.Calendar.Between(from, to) < Least)
        {
            return "the shop is closed";
        }

        var operations = problem.Builds.SelectMany(b => b.Operations).ToDictionary(o => o.Id);
        // The next work of the build that this person could do.
        var next = mine.Where(o =>
                o.Finish > from
                && operations.TryGetValue(o.Id, out var said)
                && said.Trade is { } trade
                && person.Trades.Contains(trade)
            )
            .MinBy(o => o.Start);
        return next is null ? $"nothing left on it for {person.Name}"
            : next.Start >= to ? $"{operations[next.Id].Name}: {next.Reason.Dated(problem.Calendar)}"
            : next.People.Contains(person.Id) ? $"{operations[next.Id].Name} is done at other times"
            : $"{operations[next.Id].Name} is done by somebody else";
    }
}

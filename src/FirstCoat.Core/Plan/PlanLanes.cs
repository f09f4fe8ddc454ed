using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Plan;

/// <summary>Planned work as it lies in the lanes of its place, its people and its build.</summary>
/// <param name="Operation">By its id in the plan.</param>
/// <param name="Place">The place in whose lane it lies; null: in none.</param>
/// <param name="Hours">When somebody is at it, the breaks of a day left out; none: nobody is.</param>
public sealed record LaneBlock(
    string Operation,
    string Build,
    string Name,
    long Start,
    long Finish,
    string? Place,
    IReadOnlyList<string> People,
    IReadOnlyList<Span> Hours
)
{
    /// <summary>Until when it dries or cures before what follows may start; null: nothing waits for that.</summary>
    public long? DryUntil { get; init; }

    /// <summary>An open question stops it.</summary>
    public bool Asks { get; init; }

    /// <summary>Done by a supplier elsewhere.</summary>
    public bool Away { get; init; }

    /// <summary>Nobody is at it and nobody is needed: it cures, dries or sets.</summary>
    public bool Cures { get; init; }
}

/// <summary>A place that a vehicle takes, worked on or not.</summary>
/// <param name="To">Null: nothing moves it.</param>
public sealed record LaneHold(string Build, string Place, long From, long? To);

/// <summary>Somebody who is not at work.</summary>
public sealed record LaneAbsence(string Person, long From, long To);

/// <summary>Work that follows other work, and the days by which the other can be later before this one is.</summary>
/// <param name="Over">What they share: a person or a place by its name; null: it is what comes next on the
/// vehicle.</param>
public sealed record LaneFollower(string Operation, long Start, decimal RoomDays, string? Over);

/// <summary>A plan laid out in lanes.</summary>
public sealed record PlanLanes(
    IReadOnlyList<LaneBlock> Blocks,
    IReadOnlyList<LaneHold> Holds,
    IReadOnlyList<LaneAbsence> Absences
)
{
    /// <summary>A stretch without work that is no longer than this is a break of the same day, in minutes.</summary>
    private const long BreakMost = 120;

    /// <summary>The next stretches in which somebody works on a build by the plan, each with the work and who it
    /// is.</summary>
    public IEnumerable<(LaneBlock Work, string Person, Span Hours)> HoursOf(string build, long from) =>
        Blocks
            .Where(b => b.Build == build)
            .SelectMany(b => b.People.SelectMany(p => b.Hours.Select(h => (Work: b, Person: p, Hours: h))))
            .Where(x => x.Hours.End > from)
            .OrderBy(x => x.Hours.Start)
            .ThenBy(x => x.Person, StringComparer.Ordinal);

    /// <summary>Lays out a plan. Work beside the vehicle has no place of its own in the plan, only a kind: it lies in
    /// one of that kind that is free then, where there is one.</summary>
    public static PlanLanes Of(PlanProblem problem, ShopPlan plan)
    {
        var known = problem.Builds.SelectMany(b => b.Operations).ToDictionary(o => o.Id);
        var inserted = plan.Inserted.ToDictionary(i => i.Id, i => i.Name);
        var dry = Drying(problem, plan);
        var holds = plan
            .Stays.Where(s => s.Place is not null && (s.To is null || s.To > s.From))
            .Select(s => new LaneHold(s.Build, s.Place!, s.From, s.To))
            .ToList();
        var taken = plan.Operations.Values.Where(o => o.Place is not null).ToLookup(o => o.Place!);
        var beside = new Dictionary<string, List<Span>>();
        var blocks = new List<LaneBlock>();
        foreach (var o in plan.Operations.Values.OrderBy(o => o.Start).ThenBy(o => o.Id, StringComparer.Ordinal))
        {
            var operation = known.GetValueOrDefault(o.Id);
            // What goes on already without anybody (a place that is held, a body that is away) is no work.
            if (o.Finish <= o.Start || operation is { UnderWay: true })
            {
                continue;
            }

            blocks.Add(
                new(
                    o.Id,
                    o.Build,
                    operation?.Name ?? inserted.GetValueOrDefault(o.Id) ?? o.Id,
                    o.Start,
                    o.Finish,
                    o.Place ?? (o.Station is { } kind ? Free(kind, o) : null),
                    o.People,
                    o.People.Count == 0 ? [] : Joined(problem.Calendar, o.Worked)
                )
                {
                    DryUntil = dry.TryGetValue(o.Id, out var until) && until > o.Finish ? until : null,
                    Asks = operation?.Waits.Any(w => w.Kind == WaitKind.Decision) == true,
                    Away = operation is { Supplier: not null, Here: false },
                    Cures = operation is { Trade: null, Supplier: null, Here: false, Body: not BodyUse.TakesAway },
                }
            );
        }

        return new(
            blocks,
            holds,
            [.. problem.People.SelectMany(p => p.Absent.Spans.Select(s => new LaneAbsence(p.Id, s.Start, s.End)))]
        );

        string? Free(string kind, PlannedOperation o)
        {
            var places = problem.Stations.Where(s => s.Kind == kind).Select(s => s.Id ?? s.Kind).Distinct().ToList();
            if (places.Count == 0)
            {
                return null;
            }

            var best = places.MinBy(p => Overlaps(p, o))!;
            (beside.TryGetValue(best, out var there) ? there : beside[best] = []).Add(new(o.Start, o.Finish));
            return best;
        }

        int Overlaps(string place, PlannedOperation o) =>
            taken[place].Count(t => t.Start < o.Finish && t.Finish > o.Start)
            + (beside.GetValueOrDefault(place)?.Count(s => s.Start < o.Finish && s.End > o.Start) ?? 0);
    }

    /// <summary>What an operation holds up if it is late: what comes next on the vehicle, at its place and for its
    /// people, the tightest first.</summary>
    public static IReadOnlyList<LaneFollower> After(PlanProblem problem, ShopPlan plan, string operation)
    {
        if (!plan.Operations.TryGetValue(operation, out var held))
        {
            return [];
        }

        var followers = new Dictionary<string, LaneFollower>();
        foreach (var next in problem.Builds.SelectMany(b => b.Operations))
        {
            if (
                next.After.FirstOrDefault(l => l.Operation == operation) is { } link
                && plan.Operations.TryGetValue(next.Id, out var planned)
            )
            {
                var free = link.FromStart ? held.Start : held.Finish;
                var ready = link.Working ? free : free + link.LagMinutes;
                followers[next.Id] = new(next.Id, planned.Start, InDays.Of(Math.Max(0, planned.Start - ready)), null);
            }
        }

        foreach (var person in held.People)
        {
            Next(o => o.People.Contains(person), problem.People.First(p => p.Id == person).Name);
        }

        if (held.Place is { } place)
        {
            Next(
                o => o.Place == place && o.Build != held.Build,
                problem.Stations.FirstOrDefault(s => s.Id == place)?.Name ?? place
            );
        }

        return [.. followers.Values.OrderBy(f => f.RoomDays).ThenBy(f => f.Start)];

        void Next(Func<PlannedOperation, bool> shares, string over)
        {
            var next = plan
                .Operations.Values.Where(o => o.Id != operation && o.Start >= held.Finish && o.Finish > o.Start)
                .Where(shares)
                .MinBy(o => o.Start);
            if (next is not null && !followers.ContainsKey(next.Id))
            {
                followers[next.Id] = new(next.Id, next.Start, InDays.Of(next.Start - held.Finish), over);
            }
        }
    }

    /// <summary>Until when something dries after each operation that something else waits for, by the clock.</summary>
    private static Dictionary<string, long> Drying(PlanProblem problem, ShopPlan plan)
    {
        var dry = new Dictionary<string, long>();
        foreach (var link in problem.Builds.SelectMany(b => b.Operations).SelectMany(o => o.After))
        {
            if (
                link is { LagMinutes: > 0, Working: false, FromStart: false }
                && plan.Operations.TryGetValue(link.Operation, out var wet)
            )
            {
                dry[link.Operation] = Math.Max(dry.GetValueOrDefault(link.Operation), wet.Finish + link.LagMinutes);
            }
        }

        return dry;
    }

    /// <summary>Over the breaks of a day, in which nobody of the shop works, but not over other work.</summary>
    private static List<Span> Joined(WorkCalendar calendar, IReadOnlyList<Span> worked)
    {
        var joined = new List<Span>();
        foreach (var span in worked)
        {
            if (
                joined.Count > 0
                && span.Start - joined[^1].End <= BreakMost
                && calendar.Between(joined[^1].End, span.Start) == 0
            )
            {
                joined[^1] = new(joined[^1].Start, span.End);
            }
            else
            {
                joined.Add(span);
            }
        }

        return joined;
    }
}

using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Plan;

/// <summary>
/// One pass over all builds in order of priority, each person and station used up as it goes. Within a build the first
/// operation of the list whose predecessors are placed comes next; a person's gaps before their last operation on the
/// same build are not filled, gaps left by other builds are.
/// </summary>
/// <remarks>
/// Source: serial schedule generation by list. Who does an operation is settled by the list, never by the hours, so
/// that more work on a build can never bring its own date forward. With one build, one person per trade and no stations
/// it gives exactly the list forecast of the arithmetic.
/// </remarks>
public sealed class SinglePassPlanner : IPlanner
{
    /// <inheritdoc />
    public ShopPlan Plan(PlanProblem problem) => new Pass(problem).Run();

    private sealed record Use(Span Span, string Build, string BuildName, string Operation);

    private sealed class Pass(PlanProblem problem)
    {
        private readonly Dictionary<string, PlannedOperation> _placed = [];
        private readonly Dictionary<string, List<Use>> _personUse = problem.People.ToDictionary(
            p => p.Id,
            _ => new List<Use>()
        );
        private readonly Dictionary<string, List<Use>> _stationUse = problem
            .Stations.Select(s => s.Kind)
            .Distinct()
            .ToDictionary(k => k, _ => new List<Use>());
        private readonly Dictionary<string, int> _stationCount = problem
            .Stations.GroupBy(s => s.Kind)
            .ToDictionary(s => s.Key, s => s.Sum(x => x.Count));
        private readonly Dictionary<string, PlanPerson> _people = problem.People.ToDictionary(p => p.Id);
        private readonly Dictionary<string, PlanPerson[]> _byTrade = problem
            .People.SelectMany(p => p.Trades.Select(t => (t, p)))
            .GroupBy(x => x.t)
            .ToDictionary(g => g.Key, g => g.Select(x => x.p).ToArray());

        public ShopPlan Run()
        {
            var builds = new Dictionary<string, PlannedBuild>();
            for (var i = 0; i < problem.Builds.Count; i++)
            {
                builds[problem.Builds[i].Id] = PlaceBuild(problem.Builds[i], i);
            }

            return new(_placed, builds);
        }

        private PlannedBuild PlaceBuild(PlanBuild build, int turn)
        {
            var known = build.Operations.Select(o => o.Id).ToHashSet();
            foreach (var operation in build.Operations)
            {
                Refusal.When(operation.Minutes < 0, "minutes", "Minutes cannot be negative.");
                Refusal.When(
                    operation.After.Any(a => !known.Contains(a.Operation)),
                    "after",
                    $"{operation.Name} comes after something that is not in the sequence."
                );
                Refusal.When(
                    operation.Trade is not null && !_byTrade.ContainsKey(operation.Trade),
                    "trade",
                    $"Nobody in the shop has the trade that {operation.Name} asks for."
                );
            }

            var busy = problem.People.ToDictionary(
                p => p.Id,
                p => p.Absent.With(new(_personUse[p.Id].Select(u => u.Span)))
            );
            var full = _stationUse.ToDictionary(s => s.Key, s => Full(s.Value, _stationCount[s.Key]));
            var lastOn = new Dictionary<string, PlannedOperation>();
            var left = build.Operations.ToList();
            var uses = new List<(string? Person, string? Station, Use Use)>();
            while (left.Count > 0)
            {
                var next = left.FindIndex(o => o.After.All(a => _placed.ContainsKey(a.Operation)));
                Refusal.When(
                    next < 0,
                    "after",
                    next < 0 ? $"These wait for each other: {string.Join(", ", left.Select(o => o.Name).Take(6))}." : ""
                );
                var operation = left[next];
                left.RemoveAt(next);
                var placed = Place(operation, build, turn, build.Operations.Count - left.Count, busy, full, lastOn);
                _placed[operation.Id] = placed;
                if (placed.Person is not null)
                {
                    lastOn[placed.Person] = placed;
                }

                uses.AddRange(
                    placed.Worked.Select(w =>
                        (placed.Person, operation.Station, new Use(w, build.Id, build.Name, operation.Id))
                    )
                );
            }

            foreach (var (person, station, use) in uses)
            {
                if (person is not null)
                {
                    _personUse[person].Add(use);
                }

                if (station is not null && _stationUse.TryGetValue(station, out var list))
                {
                    list.Add(use);
                }
            }

            var mine = build.Operations.Select(o => _placed[o.Id]).ToList();
            var first = mine.Where(o => o.Finish > o.Start).OrderBy(o => o.Start).FirstOrDefault()
                ?? mine.FirstOrDefault();
            return new(
                build.Id,
                mine.Count == 0 ? problem.Now : mine.Max(o => o.Finish),
                first?.Id,
                first?.Reason ?? new(WaitKind.Nothing, "nothing left to do")
            );
        }

        private PlannedOperation Place(
            PlanOperation operation,
            PlanBuild build,
            int turn,
            int position,
            Dictionary<string, Blocked> busy,
            Dictionary<string, Blocked> full,
            Dictionary<string, PlannedOperation> lastOn
        )
        {
            var (ready, reason) = Ready(operation);
            if (operation.Trade is null || operation.Minutes == 0)
            {
                return new(
                    operation.Id,
                    build.Id,
                    ready,
                    ready + operation.Minutes,
                    null,
                    operation.Minutes == 0 ? [] : [new(ready, ready + operation.Minutes)],
                    reason
                );
            }

            var candidates = _byTrade[operation.Trade];
            var person =
                operation.Person is not null && _people.TryGetValue(operation.Person, out var named)
                    ? named
                    : candidates[(turn + position) % candidates.Length];
            lastOn.TryGetValue(person.Id, out var before);
            var from = Math.Max(ready, before?.Finish ?? ready);
            var blocked =
                operation.Station is not null && full.TryGetValue(operation.Station, out var taken)
                    ? busy[person.Id].With(taken)
                    : busy[person.Id];
            var fit = operation.WithoutStop
                ? Placing.WithoutStop(problem.Calendar, blocked, from, operation.Minutes, operation.ThroughBreak)
                : Placing.Add(problem.Calendar, blocked, from, operation.Minutes);
            Refusal.When(fit is null, "minutes", $"{operation.Name} must run without a stop and fits no shift.");
            var why = Why(operation, person, ready, reason, fit!.Start, before);
            return new(operation.Id, build.Id, fit.Start, fit.Finish, person.Id, fit.Worked, why);
        }

        private (long Ready, PlanReason Reason) Ready(PlanOperation operation)
        {
            var (ready, reason) = (problem.Now, new PlanReason(WaitKind.Nothing, "can start now"));
            foreach (var link in operation.After)
            {
                var other = _placed[link.Operation];
                if (other.Finish + link.LagMinutes > ready)
                {
                    ready = other.Finish + link.LagMinutes;
                    reason =
                        link.LagMinutes > 0
                            ? PlanReason.Cures(link.LagMinutes, link.Operation)
                            : new(WaitKind.Operation, "comes after", link.Operation);
                }
            }

            foreach (var wait in operation.Waits.Where(w => w.Until > ready))
            {
                (ready, reason) = (wait.Until!.Value, new(wait.Kind, wait.Text, wait.Ref));
            }

            return (ready, reason);
        }

        private PlanReason Why(
            PlanOperation operation,
            PlanPerson person,
            long ready,
            PlanReason reason,
            long start,
            PlannedOperation? before
        )
        {
            var free = Placing.NextWorking(problem.Calendar, Blocked.None, ready);
            if (start <= free)
            {
                return reason.Kind == WaitKind.Nothing && free > problem.Now
                    ? new(WaitKind.Calendar, "the shop is closed until then")
                    : reason;
            }

            if (before is not null && before.Finish > ready)
            {
                return new(WaitKind.Person, $"{person.Name} does something else on it first", before.Id);
            }

            if (person.Absent.Covers(free))
            {
                return new(WaitKind.Absence, $"{person.Name} is away", person.Id);
            }

            var other = _personUse[person.Id]
                .Where(u => u.Span.End > ready && u.Span.Start < start)
                .MaxBy(u => u.Span.End);
            if (other is not null)
            {
                return new(WaitKind.Person, $"{person.Name} is on {other.BuildName}", other.Operation);
            }

            var holder =
                operation.Station is not null && _stationUse.TryGetValue(operation.Station, out var uses)
                    ? uses.Where(u => u.Span.End > ready && u.Span.Start < start).MaxBy(u => u.Span.End)
                    : null;
            return holder is not null
                ? new(WaitKind.Station, $"{operation.Station} holds {holder.BuildName}", holder.Operation)
                : new(WaitKind.Calendar, "needs one whole shift");
        }

        /// <summary>The stretches in which all units of a kind are taken; a build takes one, however many work in
        /// it.</summary>
        private static Blocked Full(List<Use> uses, int count)
        {
            var perBuild = uses.GroupBy(u => u.Build).SelectMany(g => Merge(g.Select(u => u.Span)));
            var edges = perBuild
                .SelectMany(s => new[] { (At: s.Start, By: 1), (At: s.End, By: -1) })
                .OrderBy(e => e.At)
                .ThenBy(e => e.By);
            var spans = new List<Span>();
            var (taken, since) = (0, 0L);
            foreach (var (at, by) in edges)
            {
                if (taken >= count && at > since)
                {
                    spans.Add(new(since, at));
                }

                taken += by;
                since = at;
            }

            return new(spans);
        }

        private static List<Span> Merge(IEnumerable<Span> spans)
        {
            var merged = new List<Span>();
            foreach (var s in spans.OrderBy(s => s.Start))
            {
                if (merged.Count > 0 && s.Start <= merged[^1].End)
                {
                    merged[^1] = new(merged[^1].Start, Math.Max(merged[^1].End, s.End));
                }
                else
                {
                    merged.Add(s);
                }
            }

            return merged;
        }
    }
}

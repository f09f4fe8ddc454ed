using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;

namespace FirstCoat.PlanCheck;

/// <summary>
/// Looks at a whole plan minute by minute and names what a shop could not do. It knows the problem and the plan as
/// anybody can read them, and nothing of how plans are made.
/// </summary>
public sealed class ShopPlanCheck
{
    private readonly PlanProblem _problem;
    private readonly ShopPlan _plan;
    private readonly List<string> _faults = [];
    private readonly Dictionary<string, PlanOperation> _operations;
    private readonly Dictionary<string, PlanBuild> _builds;
    private readonly Dictionary<string, PlanPerson> _people;
    private readonly List<(string Id, string Kind, int Takes, PlanStation Station, int Number)> _places = [];

    private ShopPlanCheck(PlanProblem problem, ShopPlan plan)
    {
        (_problem, _plan) = (problem, plan);
        _operations = problem.Builds.SelectMany(b => b.Operations).ToDictionary(o => o.Id);
        _builds = problem.Builds.ToDictionary(b => b.Id);
        _people = problem.People.ToDictionary(p => p.Id);
        foreach (var s in problem.Stations)
        {
            for (var i = 1; i <= (s.Id is null ? s.Count : 1); i++)
            {
                _places.Add(
                    (s.Id ?? (s.Count == 1 ? s.Kind : $"{s.Kind} {i}"), s.Kind, s.Id is null ? 1 : s.Count, s, i)
                );
            }
        }
    }

    /// <summary>What is wrong with a plan; nothing: a shop could keep it.</summary>
    public static IReadOnlyList<string> Faults(PlanProblem problem, ShopPlan plan)
    {
        var check = new ShopPlanCheck(problem, plan);
        check.Everything();
        return check._faults;
    }

    private IEnumerable<(PlannedOperation Planned, PlanOperation Said)> Known =>
        _plan.Operations.Values.Where(o => _operations.ContainsKey(o.Id)).Select(o => (o, _operations[o.Id]));

    private void Everything()
    {
        Complete();
        foreach (var (planned, said) in Known)
        {
            Crew(planned, said);
            Work(planned, said);
            Order(planned, said);
        }

        foreach (var person in _problem.People)
        {
            Busy(person);
        }

        if (_plan.Stays.Count > 0)
        {
            foreach (var build in _problem.Builds)
            {
                Vehicle(build);
            }

            Places();
        }

        WorkPlaces();
        Together();
        foreach (var build in _problem.Builds)
        {
            Support(build);
        }
    }

    private void Fault(bool wrong, string what)
    {
        if (wrong && _faults.Count < 40)
        {
            _faults.Add(what);
        }
    }

    private string At(long minute) =>
        _problem.Calendar.Local(minute).ToString("ddd d MMM HH:mm", System.Globalization.CultureInfo.InvariantCulture);

    private static bool Overlap(long from, long to, long start, long end) => from < end && start < to;

    /// <summary>Every operation has a date, or a reason why it has none; what nobody can do has none.</summary>
    private void Complete()
    {
        var without = _plan.Unplanned.Select(u => u.Operation).ToHashSet();
        foreach (var o in _operations.Values)
        {
            Fault(
                _plan.Operations.ContainsKey(o.Id) == without.Contains(o.Id),
                $"{o.Id} has a date and has none, or neither"
            );
            var trades = o.Trade is null ? [] : o.With.Select(w => w.Trade).Append(o.Trade);
            Fault(
                _plan.Operations.ContainsKey(o.Id) && trades.Any(t => _problem.People.All(p => !p.Trades.Contains(t))),
                $"{o.Id} has a date, and nobody has its trade"
            );
        }

        Fault(
            _plan.Unplanned.Any(u => string.IsNullOrWhiteSpace(u.Reason.Text)),
            "something has no date and no reason"
        );
    }

    /// <summary>The right number of different people, each with the trade, none of whom is not given such
    /// work.</summary>
    private void Crew(PlannedOperation planned, PlanOperation said)
    {
        if (said.Trade is null || said.Minutes == 0)
        {
            return;
        }

        var asked = said.With.SelectMany(w => Enumerable.Repeat(w.Trade, w.Count)).Append(said.Trade).ToList();
        var people = planned.People.Distinct().Where(_people.ContainsKey).Select(p => _people[p]).ToList();
        Fault(people.Count != asked.Count, $"{said.Id} needs {asked.Count} people and has {people.Count}");
        Fault(
            people.Any(p => p.NotGiven.Overlaps(said.Kinds)),
            $"{said.Id} is done by somebody who is not given such work"
        );
        Fault(
            said.Person is { } named && _people.ContainsKey(named) && !planned.People.Contains(named),
            $"{said.Id} is not done by {said.Person}"
        );
        Fault(people.Count == asked.Count && !Fill(asked, people), $"{said.Id} is done by people without the trades");
    }

    private static bool Fill(List<string> asked, List<PlanPerson> people) =>
        asked.Count == 0
        || people
            .Where(p => p.Trades.Contains(asked[0]))
            .Any(p => Fill(asked[1..], [.. people.Where(x => x.Id != p.Id)]));

    /// <summary>As much is worked as there is to do, from its start to its end, and without a stop where it must not
    /// stop.</summary>
    private void Work(PlannedOperation planned, PlanOperation said)
    {
        Fault(planned.Start < _problem.Now, $"{said.Id} starts before now");
        Fault(planned.Finish < planned.Start, $"{said.Id} ends before it starts");
        if (planned.People.Count == 0)
        {
            return;
        }

        var minutes = planned.Worked.Sum(w => w.End - w.Start);
        // Who works on through a break works more minutes than the shift counts.
        Fault(
            minutes != (long)Math.Ceiling(said.Minutes * _people[planned.People[0]].Pace - 1e-9),
            $"{said.Id} takes {said.Minutes} minutes and is worked on for {minutes}"
        );
        Fault(
            planned.Worked.Count > 0
                && (planned.Worked[0].Start != planned.Start || planned.Worked[^1].End != planned.Finish),
            $"{said.Id} is not worked on at its start or end"
        );
        Fault(said.WithoutStop && planned.Worked.Count > 1, $"{said.Id} must not stop and does");
    }

    /// <summary>Links, windows and what it waits for.</summary>
    private void Order(PlannedOperation planned, PlanOperation said)
    {
        foreach (var wait in said.Waits)
        {
            Fault(wait.Until is null || planned.Start < wait.Until, $"{said.Id} starts before {wait.Text}");
        }

        foreach (var link in said.After)
        {
            var after = link.DoneAt
                ?? (
                    _plan.Operations.TryGetValue(link.Operation, out var other)
                        ? link.FromStart
                            ? other.Start
                            : other.Finish
                        : long.MaxValue
                );
            Fault(after == long.MaxValue, $"{said.Id} has a date and {link.Operation} has none");
            if (after == long.MaxValue)
            {
                continue;
            }

            var waited = link.Working
                ? Minutes(after, planned.Start).Count(m => IsWorked(_problem.Calendar, m, false))
                : planned.Start - after;
            Fault(waited < link.LagMinutes, $"{said.Id} starts too soon after {link.Operation}");
            Fault(
                link.AtMost is { } most && planned.Start - after > most && _plan.Inserted.All(i => i.Before != said.Id),
                $"{said.Id} misses its window after {link.Operation}, and nothing is done about it"
            );
        }
    }

    private static IEnumerable<long> Minutes(long from, long to)
    {
        for (var m = from; m < to; m++)
        {
            yield return m;
        }
    }

    /// <summary>Nobody does two things at once, works while away or outside their hours, or on others' work in time
    /// that is kept.</summary>
    private void Busy(PlanPerson person)
    {
        var all = _plan
            .Operations.Values.Where(o => o.People.Contains(person.Id))
            .SelectMany(o =>
                o.Worked.Select(w =>
                    (
                        w.Start,
                        w.End,
                        What: o.Id,
                        o.Build,
                        Through: _operations.GetValueOrDefault(o.Id) is { WithoutStop: true, ThroughBreak: true }
                    )
                )
            )
            .Concat(
                _plan
                    .Stays.Where(s => s.Move is not null && s.MovedBy.Contains(person.Id))
                    .Select(s =>
                        (s.Move!.Value.Start, s.Move.Value.End, What: $"moving {s.Build}", s.Build, Through: false)
                    )
            )
            .OrderBy(w => w.Start)
            .ThenBy(w => w.End)
            .ToList();
        for (var i = 0; i < all.Count; i++)
        {
            var (start, end, what, build, through) = all[i];
            Fault(
                i > 0 && start < all[i - 1].End,
                $"{person.Id} is on {all[Math.Max(0, i - 1)].What} and {what} at {At(start)}"
            );
            foreach (var minute in Minutes(start, end))
            {
                if (person.Absent.Spans.Any(a => a.Start <= minute && minute < a.End))
                {
                    Fault(true, $"{person.Id} is away at {At(minute)} and on {what}");
                    break;
                }

                if (
                    !IsWorked(
                        person.Hours.Where(h => h.From <= minute).MaxBy(h => h.From)?.Calendar ?? _problem.Calendar,
                        minute,
                        through
                    )
                )
                {
                    Fault(true, $"{person.Id} is not at work at {At(minute)} and on {what}");
                    break;
                }

                var local = _problem.Calendar.Local(minute);
                if (
                    !what.StartsWith("moving", StringComparison.Ordinal)
                    && person.Slots.Any(s =>
                        s.Build != build
                        && s.Day == local.DayOfWeek
                        && s.From <= local.Hour * 60 + local.Minute
                        && local.Hour * 60 + local.Minute < s.To
                    )
                )
                {
                    Fault(true, $"{person.Id} is on {what} at {At(minute)}, which is kept for another");
                    break;
                }
            }
        }
    }

    /// <summary>Whether a minute lies in a shift; a shift may run over midnight.</summary>
    private static bool IsWorked(WorkCalendar calendar, long minute, bool throughBreaks)
    {
        var local = calendar.Local(minute);
        foreach (var back in new[] { 0, 1 })
        {
            var day = local.Date.PlusDays(-back);
            var at = local.Hour * 60 + local.Minute + back * 1440;
            if (
                !calendar.Closed.Contains(day)
                && calendar
                    .Week.On(day.DayOfWeek)
                    .Any(s =>
                        s.From <= at && at < s.To && (throughBreaks || s.Breaks.All(b => at < b.From || at >= b.To))
                    )
            )
            {
                return true;
            }
        }

        return false;
    }

    private static bool OnVehicle(PlanOperation o) => o.Body == BodyUse.OnBody && o.Minutes > 0;

    /// <summary>A vehicle is in one place after the other without a gap, moved by hands that have time, and worked on
    /// where it stands.</summary>
    private void Vehicle(PlanBuild build)
    {
        var stays = _plan
            .Stays.Where(s => s.Build == build.Id)
            .OrderBy(s => s.From)
            .ThenBy(s => s.To ?? long.MaxValue)
            .ToList();
        Fault(stays.Count == 0, $"nobody knows where {build.Id} is");
        if (stays.Count == 0)
        {
            return;
        }

        var standing =
            build.StandsAt is not { } here ? null
            : _places.Any(p => p.Id == here) ? here
            : _places.FirstOrDefault(p => p.Kind == here).Id;
        Fault(
            (stays[0].From != _problem.Now || stays[0].Place != standing),
            $"{build.Id} stands in {build.StandsAt}, not in {stays[0].Place}"
        );
        foreach (var (stay, next) in stays.Zip(stays.Skip(1)))
        {
            Fault(
                stay.To != next.From,
                $"{build.Id} is in {stay.Place} until {stay.To} and in {next.Place} from {next.From}"
            );
            var moves = stay.Place is not null && next.Place is not null && stay.Place != next.Place;
            Fault(
                moves && next.Move is null && next.For is not null,
                $"{build.Id} gets to {next.Place} and nobody moves it"
            );
            Fault(
                next.Move is { } m
                    && (m.End - m.Start != _problem.Moves.Minutes || next.MovedBy.Count == 0 || m.Start < stay.From),
                $"{build.Id} is not moved to {next.Place} as it should be"
            );
            Fault(
                next.For is { } f
                    && _plan.Operations.TryGetValue(f, out var first)
                    && next.Move is { } move
                    && move.End > first.Start,
                $"{build.Id} is moved to {next.Place} after its work there began"
            );
        }

        foreach (
            var (planned, said) in Known.Where(x =>
                x.Planned.Build == build.Id
                && x.Said.Body != BodyUse.Beside
                && x.Said.Minutes > 0
                && x.Planned.Finish > x.Planned.Start
            )
        )
        {
            var at = stays.FirstOrDefault(s =>
                s.From <= planned.Start
                && (s.To ?? long.MaxValue) >= planned.Finish
                && s.Gone == (said.Body == BodyUse.TakesAway)
            );
            Fault(
                at is null,
                $"{said.Id} runs from {At(planned.Start)} to {At(planned.Finish)}, and the vehicle is not in one place meanwhile"
            );
            if (at is null || said.Body == BodyUse.TakesAway)
            {
                continue;
            }

            var kind = said.Station ?? said.Hold?.Station;
            Fault(
                kind is not null && _places.FirstOrDefault(p => p.Id == at.Place).Kind != kind,
                $"{said.Id} needs {kind}, and the vehicle is in {at.Place}"
            );
            Fault(
                kind is not null && planned.Place != at.Place,
                $"{said.Id} is said to be in {planned.Place}, and the vehicle is in {at.Place}"
            );
            Fault(
                kind is not null
                    && _places.First(p => p.Id == at.Place) is var place
                    && Closed(place, planned.Start, planned.Finish),
                $"{said.Id} is in {at.Place} while it is closed"
            );
            Fault(at.Move is { } move && planned.Start < move.End, $"{said.Id} starts while the vehicle is moved");
            if (said.Hold is { } hold && _plan.Operations.TryGetValue(hold.Until, out var until))
            {
                Fault(
                    (at.To ?? long.MaxValue) < until.Finish,
                    $"{said.Id} keeps {at.Place} until {hold.Until} ends, and the vehicle leaves before"
                );
            }
        }

        foreach (
            var (a, b) in Pairs(
                Known
                    .Where(x => x.Planned.Build == build.Id && OnVehicle(x.Said) && x.Said.Station is not null)
                    .ToList()
            )
        )
        {
            Fault(
                a.Said.Station != b.Said.Station
                    && Overlap(a.Planned.Start, a.Planned.Finish, b.Planned.Start, b.Planned.Finish),
                $"{a.Said.Id} in {a.Said.Station} and {b.Said.Id} in {b.Said.Station} are done on one vehicle at once"
            );
        }
    }

    private static IEnumerable<(T, T)> Pairs<T>(List<T> all) =>
        all.SelectMany((a, i) => all.Skip(i + 1).Select(b => (a, b)));

    private bool Closed(
        (string Id, string Kind, int Takes, PlanStation Station, int Number) place,
        long from,
        long to
    ) =>
        place.Station.Closed.Any(c =>
            (place.Station.Id is not null || place.Number > place.Station.Count - c.Count)
            && Overlap(c.From, c.To ?? long.MaxValue, from, to)
        );

    /// <summary>No place has more vehicles than it takes, worked on or not, and no kind of place more than it has room
    /// for with what lies there.</summary>
    private void Places()
    {
        foreach (var place in _places)
        {
            var taken = _plan
                .Stays.Where(s => s.Place == place.Id)
                .Select(s => (s.From, To: s.To ?? long.MaxValue, What: s.Build))
                .ToList();
            Crowded(place.Id, place.Takes, taken);
        }

        foreach (var kind in _places.GroupBy(p => p.Kind))
        {
            var ids = kind.Select(p => p.Id).ToHashSet();
            var taken = _plan
                .Stays.Where(s => s.Place is not null && ids.Contains(s.Place))
                .Select(s => (s.From, To: s.To ?? long.MaxValue, What: s.Build))
                .Concat(
                    Known
                        .Where(x => x.Said.Body == BodyUse.Beside && x.Said.Station == kind.Key && !IsHeld(x.Said))
                        .SelectMany(x => Spans(x.Planned, x.Said))
                        .Select(s => (s.From, s.To, s.What))
                )
                .ToList();
            Crowded(kind.Key, kind.Sum(p => p.Takes), taken);
        }
    }

    private bool IsHeld(PlanOperation o) =>
        _problem.Builds.Single(b => b.Operations.Contains(o)).Operations.Any(h => h.Hold?.Station == o.Station);

    private IEnumerable<(long From, long To, string What)> Spans(PlannedOperation planned, PlanOperation said) =>
        _builds[planned.Build].FillIn ? planned.Worked.Select(w => (w.Start, w.End, said.Id))
        : planned.Finish > planned.Start ? [(planned.Start, planned.Finish, said.Id)]
        : [];

    private void Crowded(string where, int room, List<(long From, long To, string What)> taken)
    {
        foreach (var (from, _, what) in taken)
        {
            var there = taken.Where(t => t.From <= from && from < t.To).Select(t => t.What).ToList();
            Fault(there.Count > room, $"{where} has {string.Join(" and ", there)} at {At(from)}, and room for {room}");
        }
    }

    /// <summary>Work at a kind of place, what it closes beside it, and what is held there come to no more than the shop
    /// has.</summary>
    private void WorkPlaces()
    {
        foreach (var kind in _problem.Stations.GroupBy(s => s.Kind))
        {
            var work = new List<(long From, long To, string What)>();
            foreach (var (planned, said) in Known)
            {
                var own = said.Station == kind.Key && !IsHeld(said) ? 1 : 0;
                var crowds = _problem
                    .Crowds.Where(c => c.Station == kind.Key && said.Kinds.Contains(c.Kind))
                    .Sum(c => c.Count);
                var times = Math.Min(kind.Sum(s => s.Count), own + crowds);
                work.AddRange(Enumerable.Repeat(Spans(planned, said), times).SelectMany(s => s));
                if (said.Hold?.Station == kind.Key && _plan.Operations.TryGetValue(said.Hold.Until, out var until))
                {
                    work.Add((planned.Start, until.Finish, $"{said.Id} (held)"));
                }
            }

            Crowded($"work at {kind.Key}", kind.Sum(s => s.Count), work);
        }
    }

    /// <summary>What may not go on at once, in the same air, or with more of a thing than there is.</summary>
    private void Together()
    {
        foreach (var (a, b) in Pairs(Known.Where(x => x.Planned.Finish > x.Planned.Start).ToList()))
        {
            if (!Overlap(a.Planned.Start, a.Planned.Finish, b.Planned.Start, b.Planned.Finish))
            {
                continue;
            }

            var meet = Spans(a.Planned, a.Said)
                .Any(s => Spans(b.Planned, b.Said).Any(t => Overlap(s.From, s.To, t.From, t.To)));
            Fault(
                meet
                    && a.Planned.Build == b.Planned.Build
                    && _builds[a.Planned.Build].OneAtATime.Any(g => g.Contains(a.Said.Id) && g.Contains(b.Said.Id)),
                $"{a.Said.Id} and {b.Said.Id} go on at once"
            );
            Fault(
                meet
                    && _problem.Air.Any(r =>
                        (
                            r.OnOneVehicle
                                ? a.Planned.Build == b.Planned.Build
                                    && a.Said.Body != BodyUse.Beside
                                    && b.Said.Body != BodyUse.Beside
                                : a.Said.Space == b.Said.Space
                        )
                        && (
                            (a.Said.Kinds.Contains(r.One) && b.Said.Kinds.Contains(r.Other))
                            || (a.Said.Kinds.Contains(r.Other) && b.Said.Kinds.Contains(r.One))
                        )
                    ),
                $"{a.Said.Id} and {b.Said.Id} share the air"
            );
        }

        foreach (var thing in _problem.Stock)
        {
            var used = Known
                .SelectMany(x =>
                    Enumerable
                        .Repeat(
                            Spans(x.Planned, x.Said),
                            x.Said.Uses.Where(u => u.Name == thing.Name).Sum(u => u.Count)
                        )
                        .SelectMany(s => s)
                )
                .ToList();
            Crowded(thing.Name, thing.Count, used);
        }
    }

    /// <summary>The shell stands as each operation needs it, and passes the doors on its way.</summary>
    private void Support(PlanBuild build)
    {
        if (build.Support is not { } first)
        {
            return;
        }

        var mine = Known.Where(x => x.Planned.Build == build.Id).OrderBy(x => x.Planned.Start).ToList();
        (PlanSupport Shell, int? Height) Before(long start, string not)
        {
            var (shell, height) = (first, build.HeightMm);
            foreach (
                var (planned, said) in mine.Where(x => x.Planned.Finish <= start && x.Said.Id != not)
                    .OrderBy(x => x.Planned.Finish)
            )
            {
                (shell, height) = (said.Sets ?? shell, height - said.LowersMm);
            }

            return (shell, height);
        }

        foreach (var (planned, said) in mine)
        {
            var (shell, height) = Before(planned.Start, said.Id);
            Fault(
                said.Needs.Count > 0 && !said.Needs.Contains(shell.State),
                $"{said.Id} needs the shell on {string.Join("/", said.Needs)}, and it stands on {shell.State}"
            );
            Fault(said.Forbids.Contains(shell.State), $"{said.Id} cannot be done on {shell.State}");
        }

        foreach (var stay in _plan.Stays.Where(s => s.Build == build.Id && s.Move is not null && s.Place is not null))
        {
            var (shell, height) = Before(stay.Move!.Value.Start, "");
            var door = _places.First(p => p.Id == stay.Place).Station.Door;
            Fault(
                door is not null && !shell.Rolls,
                $"{build.Id} does not roll on {shell.State}, and goes through the door of {stay.Place}"
            );
            Fault(
                door is { } d && height is { } h && h + shell.DollyMm + (build.KeptFreeMm ?? d.MarginMm) > d.HeightMm,
                $"{build.Id} does not pass the door of {stay.Place}"
            );
            Fault(
                !shell.Rolls && stay.MovedBy.Count < _problem.Moves.HandsNotRolling,
                $"{build.Id} does not roll on {shell.State}, and {stay.MovedBy.Count} move it"
            );
        }
    }
}

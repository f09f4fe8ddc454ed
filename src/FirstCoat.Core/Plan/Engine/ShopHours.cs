using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Plan.Engine;

/// <summary>Working hours of people and suppliers on the model's axis, on which the problem's now is nought.</summary>
internal sealed class ShopHours
{
    private readonly PlanProblem _problem;
    private readonly Hours[] _own;
    private readonly Dictionary<(int Person, string Build), Hours> _byBuild = [];
    private readonly Dictionary<string, Hours> _suppliers;
    private readonly Dictionary<string, Hours> _visits;
    private readonly Dictionary<(Hours, Hours), Hours> _both = [];

    public ShopHours(PlanProblem problem)
    {
        _problem = problem;
        Shop = new(until => Pieces([new(long.MinValue, problem.Calendar)], Blocked.None, until));
        // People of the shop's week who are away at the same times share theirs, so that they are only laid out once.
        var alike = new Dictionary<string, Hours> { [""] = Shop };
        _own = problem
            .People.Select(p =>
                p.Hours.Count > 0 ? Own(p)
                : alike.TryGetValue(Away(p), out var same) ? same
                : alike[Away(p)] = Own(p)
            )
            .ToArray();
        _suppliers = problem.Suppliers.ToDictionary(
            s => s.Id,
            s =>
                Hours.WholeDays(
                    until => Days(s.Calendar, until),
                    s.Freight is { } freight ? new(until => Days(freight, until)) : null
                )
        );
        _visits = problem.Suppliers.ToDictionary(s => s.Id, Visits);
        HasSlots = problem.People.Any(p => p.Slots.Count > 0);
    }

    /// <summary>The shop's.</summary>
    public Hours Shop { get; }

    /// <summary>Whether somebody's hours differ from build to build.</summary>
    public bool HasSlots { get; }

    public Hours Of(int person) => _own[person];

    /// <summary>Somebody's hours for a build: without the times that belong to others.</summary>
    public Hours Of(int person, string build)
    {
        var slots = _problem.People[person].Slots;
        if (slots.All(s => s.Build == build))
        {
            return _own[person];
        }

        lock (_byBuild)
        {
            if (!_byBuild.TryGetValue((person, build), out var hours))
            {
                var mine = _problem.People[person];
                var others = slots.Where(s => s.Build != build).ToList();
                hours = _byBuild[(person, build)] = new(until =>
                    Pieces(Weeks(mine), mine.Absent.With(new(SlotSpans(others, until))), until)
                );
            }

            return hours;
        }
    }

    /// <summary>The time that two have; the same two give the same hours, which are only compiled once.</summary>
    public Hours Both(Hours one, Hours other)
    {
        if (ReferenceEquals(one, other))
        {
            return one;
        }

        lock (_both)
        {
            return _both.TryGetValue((one, other), out var both) ? both : _both[(one, other)] = Hours.Both(one, other);
        }
    }

    /// <summary>Whole days, midnight to midnight, on which a supplier works; one that is not known works every
    /// day.</summary>
    public Hours Supplier(string id) => _suppliers.GetValueOrDefault(id, Hours.Always);

    /// <summary>When a supplier works here; one that is not known: in the shop's hours.</summary>
    public Hours Visiting(string? id) => id is null ? Shop : _visits.GetValueOrDefault(id, Shop);

    private Hours Visits(PlanSupplier s)
    {
        var theirs = s.Visits is { } visits
            ? new Hours(until => Pieces([new(long.MinValue, visits)], Blocked.None, until))
            : new(until => Days(s.Calendar, until));
        return s.OpensForThem ? theirs : Hours.Both(theirs, Shop);
    }

    private Hours Own(PlanPerson p) => new(until => Pieces(Weeks(p), p.Absent, until));

    /// <summary>Somebody's hours as if they were never away.</summary>
    public Hours Without(int person) => new(until => Pieces(Weeks(_problem.People[person]), Blocked.None, until));

    private static string Away(PlanPerson p) => string.Join(' ', p.Absent.Spans.Select(s => $"{s.Start}-{s.End}"));

    private List<PlanHours> Weeks(PlanPerson p) =>
        [new(long.MinValue, _problem.Calendar), .. p.Hours.OrderBy(h => h.From)];

    private IEnumerable<HoursPiece> Pieces(List<PlanHours> weeks, Blocked absent, int until)
    {
        var shift = 0;
        for (var i = 0; i < weeks.Count; i++)
        {
            var from = Math.Max(_problem.Now, weeks[i].From);
            var to = i + 1 < weeks.Count ? weeks[i + 1].From : long.MaxValue;
            foreach (
                var stretch in absent.Cut(
                    weeks[i]
                        .Calendar.From(from, throughBreaks: true)
                        .TakeWhile(s => s.Start < to && s.Start - _problem.Now < until)
                )
            )
            {
                shift++;
                var start = stretch.Start;
                var end = Math.Min(stretch.End, to);
                foreach (var pause in stretch.Breaks)
                {
                    if (Math.Min(pause.Start, end) > start)
                    {
                        yield return new(At(start), At(Math.Min(pause.Start, end)), shift);
                    }

                    start = Math.Max(start, pause.End);
                }

                if (end > start)
                {
                    yield return new(At(start), At(end), shift);
                }
            }
        }
    }

    private IEnumerable<HoursPiece> Days(WorkCalendar calendar, int until)
    {
        var last = NodaTime.LocalDate.MinIsoValue;
        foreach (
            var stretch in calendar
                .From(_problem.Now - 1440, throughBreaks: true)
                .TakeWhile(s => s.Start - _problem.Now < until)
        )
        {
            var day = calendar.Local(stretch.Start).Date;
            var (from, to) = (calendar.Minute(day.AtMidnight()), calendar.Minute(day.PlusDays(1).AtMidnight()));
            if (day > last && to > _problem.Now)
            {
                yield return new(At(Math.Max(from, _problem.Now)), At(to), day.DayOfYear + day.Year * 400);
            }

            last = day;
        }
    }

    private IEnumerable<Span> SlotSpans(List<PlanSlot> slots, int until)
    {
        var first = _problem.Calendar.Local(_problem.Now).Date;
        for (var i = 0; i <= until / 1440 + 1; i++)
        {
            var day = first.PlusDays(i);
            foreach (var slot in slots.Where(s => s.Day == day.DayOfWeek))
            {
                yield return new(
                    _problem.Calendar.Minute(day.AtMidnight().PlusMinutes(slot.From)),
                    _problem.Calendar.Minute(day.AtMidnight().PlusMinutes(slot.To))
                );
            }
        }
    }

    private int At(long minute) => (int)(minute - _problem.Now);
}

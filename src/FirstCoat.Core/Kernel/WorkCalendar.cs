using NodaTime;

namespace FirstCoat.Core.Kernel;

/// <summary>
/// Working time of a shop on an axis of whole minutes. Without a zone the axis counts wall minutes; with one it counts
/// real minutes, a wall time that is skipped moves on by the gap and one that comes twice is the first.
/// </summary>
/// <remarks>Source: counting. A closed day removes the shifts that start on it.</remarks>
public sealed class WorkCalendar
{
    private const int Day = 1440;

    /// <summary>How far ahead working time is looked for.</summary>
    private const int HorizonDays = 366 * 60;

    private readonly WorkWeek _week;
    private readonly HashSet<LocalDate> _closed;
    private readonly DateTimeZone? _zone;
    private readonly Dictionary<int, ShiftSpan[]> _days = [];

    /// <summary>Makes a calendar.</summary>
    /// <exception cref="Refusal">There is no working time at all.</exception>
    public WorkCalendar(WorkWeek week, IEnumerable<LocalDate>? closed = null, DateTimeZone? zone = null)
    {
        Refusal.When(!week.HasWork, "week", "The week has no working time at all.");
        (_week, _closed, _zone) = (week, [.. closed ?? []], zone);
    }

    public WorkWeek Week => _week;

    public IReadOnlyCollection<LocalDate> Closed => _closed;

    /// <summary>Null: wall minutes.</summary>
    public DateTimeZone? Zone => _zone;

    /// <summary>Minutes of the longest shift, breaks included.</summary>
    public int LongestShift => _week.LongestShift;

    /// <summary>The minute on the axis at which a wall time falls.</summary>
    public long Minute(LocalDateTime local) =>
        _zone is null
            ? Instant.FromUtc(local.Year, local.Month, local.Day, local.Hour, local.Minute).ToUnixTimeSeconds() / 60
            : _zone.AtLeniently(local).ToInstant().ToUnixTimeSeconds() / 60;

    /// <summary>The wall time at a minute of the axis.</summary>
    public LocalDateTime Local(long minute) =>
        Instant.FromUnixTimeSeconds(minute * 60).InZone(_zone ?? DateTimeZone.Utc).LocalDateTime;

    /// <summary>
    /// The stretches of working time from a minute on, in order, none longer than its shift; breaks split them unless
    /// <paramref name="throughBreaks"/>.
    /// </summary>
    public IEnumerable<WorkStretch> From(long from, bool throughBreaks = false)
    {
        var first = Local(from).Date.PlusDays(-1);
        for (var i = 0; i < HorizonDays; i++)
        {
            foreach (var shift in ShiftsOn(first.PlusDays(i)))
            {
                if (shift.End <= from)
                {
                    continue;
                }

                if (throughBreaks)
                {
                    yield return new(Math.Max(from, shift.Start), shift.End, shift.Breaks);
                    continue;
                }

                var start = shift.Start;
                foreach (var pause in shift.Breaks)
                {
                    if (pause.Start > Math.Max(start, from))
                    {
                        yield return new(Math.Max(start, from), pause.Start, []);
                    }

                    start = pause.End;
                }

                if (shift.End > Math.Max(start, from))
                {
                    yield return new(Math.Max(start, from), shift.End, []);
                }
            }
        }
    }

    /// <summary>The unpaid breaks that lie wholly inside a stretch, in order.</summary>
    public IReadOnlyList<Span> BreaksWithin(long from, long to) =>
        From(from, throughBreaks: true)
            .TakeWhile(s => s.Start < to)
            .SelectMany(s => s.Breaks)
            .Where(b => b.Start > from && b.End < to)
            .ToList();

    /// <summary>Working minutes between two minutes of the axis.</summary>
    /// <exception cref="Refusal">The end lies before the start.</exception>
    public int Between(long from, long to, Blocked? blocked = null)
    {
        Refusal.When(to < from, "to", "The end lies before the start.");
        var sum = 0L;
        foreach (var piece in (blocked ?? Blocked.None).Cut(From(from)))
        {
            if (piece.Start >= to)
            {
                break;
            }

            sum += Math.Min(piece.End, to) - piece.Start;
        }

        return (int)sum;
    }

    /// <summary>Whether a shift starts on a day.</summary>
    public bool WorksOn(LocalDate date) => ShiftsOn(date).Length > 0;

    private ShiftSpan[] ShiftsOn(LocalDate date)
    {
        var key = Period.DaysBetween(new LocalDate(1970, 1, 1), date);
        if (!_days.TryGetValue(key, out var spans))
        {
            spans = _closed.Contains(date) ? [] : _week.On(date.DayOfWeek).Select(s => Place(date, s)).ToArray();
            _days[key] = spans;
        }

        return spans;
    }

    private ShiftSpan Place(LocalDate date, Shift shift) =>
        new(
            At(date, shift.From),
            At(date, shift.To),
            shift.Breaks.Select(b => new Span(At(date, b.From), At(date, b.To))).Where(b => b.End > b.Start).ToArray()
        );

    private long At(LocalDate date, int minute) =>
        Minute(date.PlusDays(minute / Day).AtMidnight().PlusMinutes(minute % Day));

    private sealed record ShiftSpan(long Start, long End, Span[] Breaks);
}

/// <summary>A half-open stretch of the axis, in minutes.</summary>
public readonly record struct Span(long Start, long End);

/// <summary>A half-open stretch of working time within one shift, with the breaks that lie in it.</summary>
public sealed record WorkStretch(long Start, long End, IReadOnlyList<Span> Breaks);

using NodaTime;

namespace FirstCoat.Core.Kernel;

/// <summary>A shift in minutes after the midnight on which its day begins; <see cref="To"/> may lie past
/// 1,440.</summary>
public sealed record Shift(int From, int To, IReadOnlyList<(int From, int To)> Breaks);

/// <summary>The shifts of a week. A shift belongs to the day it starts on, also over midnight.</summary>
public sealed class WorkWeek
{
    private const int Day = 1440;
    private readonly IReadOnlyList<Shift>[] _days;

    private WorkWeek(IReadOnlyList<Shift>[] days) => _days = days;

    /// <summary>Whether there is any working minute at all.</summary>
    public bool HasWork => _days.Any(d => d.Any(s => s.To - s.From > s.Breaks.Sum(b => b.To - b.From)));

    /// <summary>Minutes of the longest shift, breaks included: more than that cannot run without a stop.</summary>
    public int LongestShift => _days.SelectMany(d => d).Select(s => s.To - s.From).DefaultIfEmpty(0).Max();

    /// <summary>Worked minutes of the longest day.</summary>
    public int LongestDay => _days.Max(d => d.Sum(s => s.To - s.From - s.Breaks.Sum(b => b.To - b.From)));

    /// <summary>The shifts that start on a day of the week, in order.</summary>
    public IReadOnlyList<Shift> On(IsoDayOfWeek day) => _days[(int)day];

    /// <summary>Builds the week from the shop's settings.</summary>
    public static WorkWeek From(IEnumerable<DayShift> shifts) =>
        Of(
            shifts.Select(s =>
                (
                    s.Day,
                    Minute(s.From),
                    Minute(s.To),
                    (IReadOnlyList<(int, int)>)s.Breaks.Select(b => (Minute(b.From), Minute(b.To))).ToList()
                )
            )
        );

    /// <summary>
    /// Builds a week from wall minutes. An end at or before its start means the next day; 24:00 ends a day.
    /// </summary>
    /// <exception cref="Refusal">Overlapping shifts, or a break outside its shift.</exception>
    public static WorkWeek Of(
        IEnumerable<(IsoDayOfWeek Day, int From, int To, IReadOnlyList<(int From, int To)> Breaks)> shifts
    )
    {
        var days = new IReadOnlyList<Shift>[8];
        Array.Fill(days, []);
        foreach (var day in shifts.GroupBy(s => s.Day))
        {
            days[(int)day.Key] = day.OrderBy(s => s.From).Select(s => Make(s.From, s.To, s.Breaks)).ToList();
        }

        var all = Enumerable
            .Range(1, 7)
            .SelectMany(d => days[d].Select(s => (From: (d - 1) * Day + s.From, To: (d - 1) * Day + s.To)))
            .ToList();
        for (var i = 0; i < all.Count; i++)
        {
            var next = i + 1 < all.Count ? all[i + 1].From : all[0].From + 7 * Day;
            Refusal.When(all[i].To > next, "week", "Two shifts of the week overlap.");
        }

        return new(days);
    }

    private static Shift Make(int from, int to, IReadOnlyList<(int From, int To)> breaks)
    {
        var end = to <= from ? to + Day : to;
        var inner = new List<(int From, int To)>();
        foreach (var b in breaks)
        {
            var start = b.From < from ? b.From + Day : b.From;
            var stop = b.To <= b.From ? b.To + Day : b.To;
            stop = b.From < from ? stop + (stop < start ? Day : 0) : stop;
            Refusal.When(start < from || stop > end || stop <= start, "breaks", "A break lies outside its shift.");
            inner.Add((start, stop));
        }

        inner.Sort();
        for (var i = 1; i < inner.Count; i++)
        {
            Refusal.When(inner[i].From < inner[i - 1].To, "breaks", "Two breaks of a shift overlap.");
        }

        return new(from, end, inner);
    }

    private static int Minute(LocalTime t) => t.Hour * 60 + t.Minute;
}

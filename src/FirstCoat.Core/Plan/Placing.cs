using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Plan;

/// <summary>Where a piece of work falls: the first worked minute, the end of the last one, and the stretches
/// between.</summary>
public sealed record Placed(long Start, long Finish, IReadOnlyList<Span> Worked);

/// <summary>Placing work in working time that is not blocked. Source: counting.</summary>
public static class Placing
{
    /// <summary>
    /// Work that may be split over shifts. The finish is the end of the last worked minute; no minutes: the given
    /// instant.
    /// </summary>
    /// <exception cref="Refusal">Negative minutes, or no free time in sixty years.</exception>
    public static Placed Add(WorkCalendar calendar, Blocked blocked, long from, long minutes)
    {
        Refusal.When(minutes < 0, "minutes", "Minutes cannot be negative.");
        if (minutes == 0)
        {
            return new(from, from, []);
        }

        var worked = new List<Span>();
        var left = minutes;
        foreach (var piece in blocked.Cut(calendar.From(from)))
        {
            var take = Math.Min(left, piece.End - piece.Start);
            worked.Add(new(piece.Start, piece.Start + take));
            left -= take;
            if (left == 0)
            {
                return new(worked[0].Start, worked[^1].End, worked);
            }
        }

        throw new Refusal("minutes", "There is not enough working time for this.");
    }

    /// <summary>
    /// Work that must not stop: the earliest start in a working minute from which all of it lies in one shift. Breaks
    /// interrupt unless <paramref name="throughBreak"/>; then break minutes met on the way are worked.
    /// </summary>
    /// <returns>Null when it never fits.</returns>
    /// <exception cref="Refusal">Negative minutes.</exception>
    public static Placed? WithoutStop(
        WorkCalendar calendar,
        Blocked blocked,
        long from,
        long minutes,
        bool throughBreak
    )
    {
        Refusal.When(minutes < 0, "minutes", "Minutes cannot be negative.");
        if (minutes == 0)
        {
            return new(from, from, []);
        }

        // Past the last exception the weeks repeat, but for changes of the clocks within a year.
        var giveUp = Math.Max(from, blocked.LastEnd ?? from) + 800L * 1440;
        foreach (var piece in blocked.Cut(calendar.From(from, throughBreak)))
        {
            if (piece.Start > giveUp)
            {
                return null;
            }

            var start = piece.Start;
            foreach (var pause in piece.Breaks)
            {
                start = pause.Start <= start && start < pause.End ? pause.End : start;
            }

            if (start + minutes <= piece.End)
            {
                return new(start, start + minutes, [new(start, start + minutes)]);
            }
        }

        return null;
    }

    /// <summary>The first working minute at or after a minute; the end of a shift is not one.</summary>
    public static long NextWorking(WorkCalendar calendar, Blocked blocked, long from) =>
        blocked.Cut(calendar.From(from)).First().Start;
}

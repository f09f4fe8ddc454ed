using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Plan.Engine;

/// <summary>A piece of working time on the model's axis.</summary>
/// <param name="Shift">Pieces of the same shift, with breaks between them, have the same number.</param>
internal readonly record struct HoursPiece(int From, int To, int Shift);

/// <summary>The working time of somebody or of a supplier, laid out for fast questions; round the clock when it has no
/// pieces.</summary>
/// <remarks>Safe for many readers at once: what is known of the time ahead grows by replacing it whole.</remarks>
internal sealed class Hours
{
    /// <summary>Every minute counts.</summary>
    public static readonly Hours Always = new(null);

    private readonly Func<int, IEnumerable<HoursPiece>>? _ahead;
    private readonly bool _wholeDays;
    private readonly Hours? _freight;
    private volatile Known _known = new([], [], [], [], [], [], 0, 0, int.MinValue);

    /// <param name="ahead">Pieces in order up to an instant at least; null: round the clock.</param>
    public Hours(Func<int, IEnumerable<HoursPiece>>? ahead) => _ahead = ahead;

    /// <summary>Days that are counted whole, from the first that begins after it leaves to the end of the last, and
    /// then until goods cross.</summary>
    public static Hours WholeDays(Func<int, IEnumerable<HoursPiece>> ahead, Hours? freight) => new(ahead, freight);

    private Hours(Func<int, IEnumerable<HoursPiece>> ahead, Hours? freight) =>
        (_ahead, _wholeDays, _freight) = (ahead, true, freight);

    public bool IsAlways => _ahead is null;

    /// <summary>Beyond this nothing is planned.</summary>
    public const int Horizon = 60 * 366 * 1440;

    /// <param name="Before">Working minutes before each piece, and at last all that there are.</param>
    /// <param name="ByDay">The first piece that ends after the midnight of each day.</param>
    /// <param name="ByWorked">The piece in which each <see cref="Stride"/>th working minute lies.</param>
    private sealed record Known(
        int[] From,
        int[] To,
        int[] Before,
        int[] ShiftEnd,
        int[] ByDay,
        int[] ByWorked,
        int LongestPiece,
        int LongestShift,
        int Until
    )
    {
        public int InAll => Before.Length == 0 ? 0 : Before[^1];

        /// <summary>The piece in which the working minute ends that so many make, itself counted.</summary>
        public int Reaching(int worked)
        {
            var piece = ByWorked[(worked - 1) / Stride];
            while (Before[piece + 1] < worked)
            {
                piece++;
            }

            return piece;
        }
    }

    private const int Day = 1440;

    /// <summary>About as long as a piece is.</summary>
    private const int Stride = 256;

    /// <summary>Past the last exception the weeks repeat: what fits no shift of two years fits none.</summary>
    private const int GiveUp = 800 * Day;

    /// <summary>The most that breaks of one shift come to, so far as the time ahead is known.</summary>
    public int MostPause { get; private set; }

    /// <summary>The first working minute from <paramref name="t"/> on; <see cref="Horizon"/> where there is
    /// none.</summary>
    public int Next(int t)
    {
        if (_ahead is null)
        {
            return t;
        }

        var (k, i) = At(t);
        return i < k.From.Length ? Math.Max(t, k.From[i]) : Horizon;
    }

    /// <summary>The end of work that begins at a working minute and may rest where nobody works.</summary>
    public int Finish(int start, int work)
    {
        if (_ahead is null)
        {
            return start + work;
        }

        if (work == 0)
        {
            return start;
        }

        if (_wholeDays)
        {
            return BackOn(start, (work + Day - 1) / Day);
        }

        var (k, i) = At(start);
        while (true)
        {
            if (i >= k.From.Length)
            {
                return Horizon;
            }

            var target = k.Before[i] + Math.Max(0, start - k.From[i]) + work;
            if (target <= k.InAll)
            {
                var j = k.Reaching(target);
                return k.From[j] + target - k.Before[j];
            }

            if (k.Until >= Horizon)
            {
                return Horizon;
            }

            k = Learn(k.Until * 2);
        }
    }

    private int BackOn(int start, int days)
    {
        var (k, i) = At(start);
        // The day in the midst of which it leaves does not count.
        var last = (i < k.From.Length && k.From[i] < start ? i + 1 : i) + days - 1;
        while (last >= k.To.Length && k.Until < Horizon)
        {
            k = Learn(k.Until * 2);
        }

        return last >= k.To.Length ? Horizon : _freight?.Next(k.To[last]) ?? k.To[last];
    }

    /// <summary>The first start from <paramref name="t"/> on from which work runs inside one shift; breaks end it
    /// unless they are worked.</summary>
    public int NextWithoutStop(int t, int work, bool throughBreaks)
    {
        if (_ahead is null)
        {
            return t;
        }

        var (k, i) = At(t);
        while (true)
        {
            if (work > (throughBreaks ? k.LongestShift : k.LongestPiece) && (long)k.Until > t + GiveUp)
            {
                return Horizon;
            }

            for (; i < k.From.Length; i++)
            {
                var start = Math.Max(t, k.From[i]);
                if ((throughBreaks ? k.ShiftEnd[i] : k.To[i]) - start >= work)
                {
                    return start;
                }
            }

            if (k.Until >= Horizon)
            {
                return Horizon;
            }

            k = Learn(k.Until * 2);
        }
    }

    /// <summary>The end of the piece that a working minute lies in; round the clock: none.</summary>
    public int PieceEnd(int t)
    {
        if (_ahead is null)
        {
            return int.MaxValue;
        }

        var (k, i) = At(t);
        return i < k.To.Length ? k.To[i] : t;
    }

    /// <summary>The instant of the working minute that so many come before; <see cref="Horizon"/> where there is
    /// none.</summary>
    public int StartAt(int worked)
    {
        if (_ahead is null)
        {
            return worked;
        }

        var k = _known;
        while (k.InAll <= worked)
        {
            if (k.Until >= Horizon)
            {
                return Horizon;
            }

            k = Learn(Math.Max(180 * Day, k.Until * 2));
        }

        var piece = k.Reaching(worked + 1);
        return k.From[piece] + worked - k.Before[piece];
    }

    /// <summary>Working minutes between two instants.</summary>
    public int Between(int from, int to) =>
        _ahead is null ? Math.Max(0, to - from) : Math.Max(0, Worked(to) - Worked(from));

    /// <summary>The pieces that lie between two instants, told as from another nought of time.</summary>
    public Span[] Pieces(int from, int to, long nought)
    {
        if (_ahead is null)
        {
            return [new(nought + from, nought + to)];
        }

        _ = Next(to);
        var (k, first) = At(from);
        var last = first;
        while (last < k.From.Length && k.From[last] < to)
        {
            last++;
        }

        var pieces = new Span[last - first];
        for (var i = first; i < last; i++)
        {
            pieces[i - first] = new(nought + Math.Max(from, k.From[i]), nought + Math.Min(to, k.To[i]));
        }

        return pieces;
    }

    /// <summary>The time that both have.</summary>
    public static Hours Both(Hours a, Hours b)
    {
        if (a.IsAlways || ReferenceEquals(a, b))
        {
            return b;
        }

        return b.IsAlways ? a : new(until => Shared(a, b, until));
    }

    private static IEnumerable<HoursPiece> Shared(Hours a, Hours b, int until)
    {
        var (left, right) = (a.Upto(until), b.Upto(until));
        var (i, j, shift) = (0, 0, 0);
        var last = (A: -1, B: -1);
        while (i < left.Count && j < right.Count)
        {
            var (from, to) = (Math.Max(left[i].From, right[j].From), Math.Min(left[i].To, right[j].To));
            if (to > from)
            {
                shift += last == (left[i].Shift, right[j].Shift) ? 0 : 1;
                last = (left[i].Shift, right[j].Shift);
                yield return new(from, to, shift);
            }

            _ = left[i].To < right[j].To ? i++ : j++;
        }
    }

    private List<HoursPiece> Upto(int until) => [.. _ahead!(until)];

    /// <summary>Working minutes before an instant.</summary>
    public int Worked(int t)
    {
        if (_ahead is null)
        {
            return t;
        }

        var (k, i) = At(t);
        return i < k.From.Length ? k.Before[i] + Math.Max(0, t - k.From[i]) : k.InAll;
    }

    /// <summary>The first piece that ends after an instant, learning more of the time ahead where it must.</summary>
    private (Known, int) At(int t)
    {
        var k = _known;
        while (true)
        {
            if (k.To.Length > 0 && k.To[^1] > t)
            {
                var piece = k.ByDay[Math.Max(0, t) / Day];
                while (k.To[piece] <= t)
                {
                    piece++;
                }

                return (k, piece);
            }

            if (k.Until >= Horizon)
            {
                return (k, k.To.Length);
            }

            k = Learn(Math.Max(t + 60 * Day, Math.Max(k.Until, 180 * Day) * 2));
        }
    }

    private Known Learn(int until)
    {
        until = Math.Min(Horizon, Math.Max(until, 1440));
        lock (_ahead!)
        {
            if (_known.Until >= until)
            {
                return _known;
            }

            var pieces = Upto(until);
            var (from, to, before, shiftEnd) = (
                new int[pieces.Count],
                new int[pieces.Count],
                new int[pieces.Count + 1],
                new int[pieces.Count]
            );
            var sum = 0;
            for (var i = 0; i < pieces.Count; i++)
            {
                (from[i], to[i], before[i]) = (pieces[i].From, pieces[i].To, sum);
                sum += to[i] - from[i];
            }

            before[^1] = sum;
            var byWorked = new int[(sum + Stride - 1) / Stride];
            for (var (b, i) = (0, 0); b < byWorked.Length; b++)
            {
                while (before[i + 1] <= b * Stride)
                {
                    i++;
                }

                byWorked[b] = i;
            }

            var pause = 0;
            for (var i = 1; i < pieces.Count; i++)
            {
                pause = pieces[i].Shift == pieces[i - 1].Shift ? pause + from[i] - to[i - 1] : 0;
                MostPause = Math.Max(MostPause, pause);
            }

            for (var i = pieces.Count - 1; i >= 0; i--)
            {
                shiftEnd[i] = i + 1 < pieces.Count && pieces[i + 1].Shift == pieces[i].Shift ? shiftEnd[i + 1] : to[i];
            }

            var byDay = new int[to.Length == 0 ? 0 : (to[^1] - 1) / Day + 1];
            for (int d = 0, i = 0; d < byDay.Length; d++)
            {
                while (to[i] <= d * Day)
                {
                    i++;
                }

                byDay[d] = i;
            }

            var (longestPiece, longestShift) = (0, 0);
            for (var i = 0; i < from.Length; i++)
            {
                longestPiece = Math.Max(longestPiece, to[i] - from[i]);
                longestShift = Math.Max(longestShift, shiftEnd[i] - from[i]);
            }

            return _known = new(from, to, before, shiftEnd, byDay, byWorked, longestPiece, longestShift, until);
        }
    }
}

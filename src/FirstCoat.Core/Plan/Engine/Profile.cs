using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;

namespace FirstCoat.Core.Plan.Engine;

/// <summary>How much of a resource is taken over time, as steps: the level that begins at each instant lasts until the
/// next.</summary>
/// <remarks>
/// This is where a schedule's time is spent, so bounds are not checked again inside the loops: every index comes from a
/// search between nought and the count.
/// </remarks>
internal sealed class Profile
{
    private struct Step
    {
        public int At;
        public int Used;
    }

    private Step[] _steps = new Step[16];
    private int _count = 1;

    /// <summary>The step in which the last question was answered: what is booked next mostly begins there.</summary>
    private int _hint;

    /// <summary>An empty one.</summary>
    /// <param name="capacity">How much there is at any time.</param>
    public Profile(int capacity)
    {
        Capacity = capacity;
        _steps[0].At = int.MinValue;
    }

    public int Capacity { get; }

    /// <summary>Grows with everything that is booked, taken back or put in its place.</summary>
    public int Changes { get; private set; }

    /// <summary>From when on it is as it will be for ever.</summary>
    public int End => _steps[_count - 1].At;

    public void Clear() => (_count, _steps[0].Used, _hint, Changes) = (1, 0, 0, Changes + 1);

    public void CopyFrom(Profile other)
    {
        if (_steps.Length < other._count)
        {
            _steps = new Step[other._steps.Length];
        }

        Array.Copy(other._steps, _steps, other._count);
        (_count, _hint, Changes) = (other._count, other._hint, Changes + 1);
    }

    /// <summary>The first instant from <paramref name="from"/> on at which <paramref name="need"/> is free for a whole
    /// stretch.</summary>
    public int FirstFit(int from, int length, int need)
    {
        if (length == 0)
        {
            return from;
        }

        ref var steps = ref MemoryMarshal.GetArrayDataReference(_steps);
        var (count, most) = (_count, Capacity - need);
        var i = Find(from);
        var (start, at) = (from, i);
        while (true)
        {
            if (Unsafe.Add(ref steps, i).Used <= most)
            {
                if (++i >= count || Unsafe.Add(ref steps, i).At - length >= start)
                {
                    _hint = at;
                    return start;
                }
            }
            else if (++i < count)
            {
                (start, at) = (Unsafe.Add(ref steps, i).At, i);
            }
            else
            {
                return int.MaxValue;
            }
        }
    }

    /// <summary>
    /// <paramref name="start"/> where a whole stretch is free from there; else the first instant after what stands in
    /// its way from which <paramref name="least"/> is free. For work whose stretch depends on when it begins but is
    /// never shorter than that: a longer jump could leave out a shorter stretch that fits.
    /// </summary>
    public int FreeOrNext(int start, int length, int need, int least)
    {
        if (length == 0)
        {
            return start;
        }

        ref var steps = ref MemoryMarshal.GetArrayDataReference(_steps);
        var (count, most, end) = (_count, Capacity - need, (long)start + length);
        for (var i = Find(start); i < count && (i == 0 || Unsafe.Add(ref steps, i).At < end); i++)
        {
            if (Unsafe.Add(ref steps, i).Used > most)
            {
                _hint = i;
                return FirstFit(Math.Max(start, Unsafe.Add(ref steps, i).At), least, need);
            }
        }

        return start;
    }

    /// <summary>Until when <paramref name="need"/> stays free from an instant at which it is.</summary>
    public int FreeUntil(int from, int need)
    {
        for (var i = Find(from) + 1; i < _count; i++)
        {
            if (_steps[i].Used > Capacity - need)
            {
                return _steps[i].At;
            }
        }

        return int.MaxValue;
    }

    /// <summary>Since when <paramref name="need"/> has been free at an instant at which it is.</summary>
    public int FreeSince(int at, int need)
    {
        var i = Find(at);
        while (i > 0 && _steps[i - 1].Used <= Capacity - need)
        {
            i--;
        }

        return _steps[i].At;
    }

    /// <summary>The last start from which <paramref name="need"/> is free for a whole stretch that ends by
    /// <paramref name="to"/>.</summary>
    public int LastFit(int to, int length, int need)
    {
        var end = to;
        for (var i = Find(to - 1); i >= 0; i--)
        {
            if (_steps[i].Used > Capacity - need)
            {
                end = _steps[i].At;
            }
            else if (end - length >= _steps[i].At)
            {
                return end - length;
            }
        }

        return int.MinValue;
    }

    /// <summary>The most that is taken within a stretch.</summary>
    public int MostUsed(int start, int end)
    {
        var most = 0;
        for (var i = Find(start); i < _count && _steps[i].At < end; i++)
        {
            most = Math.Max(most, _steps[i].Used);
        }

        return most;
    }

    /// <summary>What is taken between two instants, stretch by stretch.</summary>
    public IEnumerable<(int From, int To, int Used)> Taken(int from, int to)
    {
        for (var i = 0; i < _count; i++)
        {
            var (start, end) = (Math.Max(from, _steps[i].At), i + 1 < _count ? Math.Min(to, _steps[i + 1].At) : to);
            if (_steps[i].Used > 0 && end > start)
            {
                yield return (start, end, _steps[i].Used);
            }
        }
    }

    /// <summary>Takes an amount over a stretch; a negative amount gives it back.</summary>
    public void Add(int start, int end, int amount)
    {
        Changes++;
        if (end <= start)
        {
            return;
        }

        if (_count + 2 > _steps.Length)
        {
            Array.Resize(ref _steps, _steps.Length * 2);
        }

        ref var steps = ref MemoryMarshal.GetArrayDataReference(_steps);
        var first = Find(start);
        var last = first;
        while (last + 1 < _count && Unsafe.Add(ref steps, last + 1).At < end)
        {
            last++;
        }

        // From here on: the first step touched, the last, and whether each is cut.
        var level = Unsafe.Add(ref steps, last).Used;
        var cutsStart = Unsafe.Add(ref steps, first).At < start;
        var cutsEnd = last + 1 >= _count || Unsafe.Add(ref steps, last + 1).At > end;
        var joinsStart =
            !cutsStart
            && first > 0
            && Unsafe.Add(ref steps, first - 1).Used == Unsafe.Add(ref steps, first).Used + amount;
        var joinsEnd = !cutsEnd && Unsafe.Add(ref steps, last + 1).Used == level + amount;
        for (var i = first + (cutsStart ? 1 : 0); i <= last; i++)
        {
            Unsafe.Add(ref steps, i).Used += amount;
        }

        var before = (cutsStart ? 1 : 0) - (joinsStart ? 1 : 0);
        var grows = before + (cutsEnd ? 1 : 0) - (joinsEnd ? 1 : 0);
        var rest = last + 1 + (joinsEnd ? 1 : 0);
        if (before < 0 && first < last)
        {
            Array.Copy(_steps, first + 1, _steps, first, last - first);
        }

        if (grows != 0 && rest < _count)
        {
            Array.Copy(_steps, rest, _steps, rest + grows, _count - rest);
        }

        if (before > 0 && first < last)
        {
            Array.Copy(_steps, first + 1, _steps, first + 1 + before, last - first);
        }

        if (cutsStart)
        {
            ref var begun = ref Unsafe.Add(ref steps, first + 1);
            (begun.At, begun.Used) = (start, (first == last ? level : Unsafe.Add(ref steps, first).Used) + amount);
        }

        if (cutsEnd)
        {
            ref var after = ref Unsafe.Add(ref steps, last + 1 + before);
            (after.At, after.Used) = (end, level);
        }

        _count += grows;
        _hint = Math.Max(0, first - (joinsStart ? 1 : 0));
    }

    private const int FirstStride = 4;

    /// <summary>The step in which an instant lies.</summary>
    private int Find(int at)
    {
        ref var steps = ref MemoryMarshal.GetArrayDataReference(_steps);
        var (low, high, hint) = (0, _count - 1, _hint);
        if (Unsafe.Add(ref steps, hint).At <= at)
        {
            if (hint == high || Unsafe.Add(ref steps, hint + 1).At > at)
            {
                return hint;
            }

            // In wider and wider strides: what is asked next is mostly not far.
            low = hint + 1;
            var stride = FirstStride;
            for (; low + stride <= high && Unsafe.Add(ref steps, low + stride).At <= at; stride *= 2)
            {
                low += stride;
            }

            high = Math.Min(high, low + stride - 1);
        }
        else
        {
            high = hint - 1;
            var stride = FirstStride;
            for (; high >= stride && Unsafe.Add(ref steps, high - stride).At > at; stride *= 2)
            {
                high -= stride;
            }

            low = Math.Max(0, high - stride);
        }

        while (low < high)
        {
            var middle = (low + high + 1) >> 1;
            if (Unsafe.Add(ref steps, middle).At <= at)
            {
                low = middle;
            }
            else
            {
                high = middle - 1;
            }
        }

        return low;
    }
}

namespace FirstCoat.Core.Kernel;

/// <summary>Stretches of the axis that are not to be had: absences of a person, other work, a station in use.</summary>
public sealed class Blocked
{
    /// <summary>Nothing is blocked.</summary>
    public static readonly Blocked None = new([]);

    private readonly List<Span> _spans;

    /// <summary>Makes it from stretches in any order, also overlapping ones.</summary>
    public Blocked(IEnumerable<Span> spans)
    {
        _spans = [];
        foreach (var span in spans.Where(s => s.End > s.Start).OrderBy(s => s.Start))
        {
            if (_spans.Count > 0 && span.Start <= _spans[^1].End)
            {
                _spans[^1] = new(_spans[^1].Start, Math.Max(_spans[^1].End, span.End));
            }
            else
            {
                _spans.Add(span);
            }
        }
    }

    /// <summary>The stretches, in order and apart from each other.</summary>
    public IReadOnlyList<Span> Spans => _spans;

    /// <summary>The end of the last blocked stretch; null when nothing is blocked.</summary>
    public long? LastEnd => _spans.Count == 0 ? null : _spans[^1].End;

    /// <summary>This and another together.</summary>
    public Blocked With(Blocked other) =>
        _spans.Count == 0 ? other
        : other._spans.Count == 0 ? this
        : new(_spans.Concat(other._spans));

    /// <summary>Whether a minute is blocked.</summary>
    public bool Covers(long minute)
    {
        var i = FirstEndingAfter(minute);
        return i < _spans.Count && _spans[i].Start <= minute;
    }

    /// <summary>The parts of the stretches that are not blocked, in order.</summary>
    public IEnumerable<WorkStretch> Cut(IEnumerable<WorkStretch> stretches)
    {
        foreach (var stretch in stretches)
        {
            var start = stretch.Start;
            for (var i = FirstEndingAfter(start); i < _spans.Count && _spans[i].Start < stretch.End; i++)
            {
                if (_spans[i].Start > start)
                {
                    yield return stretch with
                    {
                        Start = start,
                        End = _spans[i].Start,
                    };
                }

                start = Math.Max(start, _spans[i].End);
            }

            if (stretch.End > start)
            {
                yield return stretch with
                {
                    Start = start,
                };
            }
        }
    }

    private int FirstEndingAfter(long minute)
    {
        var (low, high) = (0, _spans.Count);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (_spans[middle].End > minute)
            {
                high = middle;
            }
            else
            {
                low = middle + 1;
            }
        }

        return low;
    }
}

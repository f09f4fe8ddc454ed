using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Fitup;

/// <summary>How a line stands.</summary>
public enum LineVerdict
{
    NotRead,

    /// <summary>Some of its stations are read.</summary>
    PartlyRead,

    /// <summary>It was read, and something beside it has changed since, or it was welded or painted.</summary>
    ReadAgain,
    InLimits,
    Out,

    /// <summary>Out, and good as it is by a name and a reason.</summary>
    Accepted,

    /// <summary>This vehicle's line is not read, for a reason.</summary>
    LeftOut,
}

/// <summary>Something that changed what a line reads.</summary>
/// <param name="Panels">Keys of the panels whose lines it touches.</param>
/// <param name="What">In words.</param>
/// <param name="Seq">When, in the order in which things were recorded.</param>
public sealed record FitTouch(IReadOnlyCollection<string> Panels, string What, long Seq);

/// <summary>One station of a line in a round.</summary>
/// <param name="Number">Counted from 1.</param>
/// <param name="Gap">The reading that counts; null: none.</param>
/// <param name="Touched">What changed since the gap was read, in words; empty: it stands.</param>
public sealed record FitStation(int Number, double PosMm, FitReading? Gap, FitReading? Flush, string Touched);

/// <summary>A line in one round.</summary>
/// <param name="Profile">Of the stations that are read; null: none is.</param>
/// <param name="FlushOff">Stations that stand out or in by more than they may, counted from 1.</param>
public sealed record LineRound(
    GapRound Round,
    IReadOnlyList<FitStation> Stations,
    GapProfile? Profile,
    IReadOnlyList<int> FlushOff
)
{
    /// <summary>The gap that is furthest off its target; null: none is read.</summary>
    public double? WorstMm { get; init; }

    /// <summary>The step that is largest, with its sign; null: none is read.</summary>
    public double? WorstFlushMm { get; init; }

    /// <summary>Each station's gap is read, and flush at both ends and in the middle.</summary>
    public bool IsComplete => Stations.All(s => s.Gap is not null) && Missing.Count == 0;

    /// <summary>Stations that still have to be read, counted from 1, with what is missing there.</summary>
    public IReadOnlyList<(int Station, FitMeasure Measure)> Missing =>
        [
            .. Stations.Where(s => s.Gap is null).Select(s => (s.Number, FitMeasure.Gap)),
            .. FlushAt(Stations.Count).Where(n => Stations[n - 1].Flush is null).Select(n => (n, FitMeasure.Flush)),
        ];

    /// <summary>Where flush is read at least: both ends and the middle.</summary>
    public static IReadOnlyList<int> FlushAt(int stations) => [.. new[] { 1, (stations + 1) / 2, stations }.Distinct()];
}

/// <summary>A line of a build with all that was read of it, and how it stands.</summary>
/// <param name="Rounds">Those of which something was read, in their order.</param>
/// <param name="Verdict">By its last round.</param>
/// <param name="Words">Why, in words; empty: nothing is to be said.</param>
/// <param name="Acceptance">The last that holds or is proposed for the last round; null: none.</param>
/// <param name="Foretold">What each station would read with the film still to come on both edges; none: it cannot be
/// said.</param>
public sealed record LineState(
    GapLine Line,
    LineTerms Terms,
    FitLimits Limits,
    IReadOnlyList<LineRound> Rounds,
    LineVerdict Verdict,
    string Words,
    FitAcceptance? Acceptance,
    IReadOnlyList<double?> Foretold
)
{
    /// <summary>Null: nothing was read yet.</summary>
    public LineRound? Last => Rounds.Count == 0 ? null : Rounds[^1];

    /// <summary>Whether it lets work go on.</summary>
    public bool IsGood => Verdict is LineVerdict.InLimits or LineVerdict.Accepted or LineVerdict.LeftOut;
}

/// <summary>All lines of a build by what was read.</summary>
public static class GapSheet
{
    /// <param name="readings">Of the build, in the order in which they were recorded.</param>
    /// <param name="acceptances">In the same order.</param>
    /// <param name="touches">New metal, moved hinges and mounts.</param>
    /// <param name="now">In which round each line is read now, by its key; none: before the weld.</param>
    public static IReadOnlyList<LineState> Of(
        IReadOnlyList<GapLine> lines,
        FitSheet sheet,
        IReadOnlyList<FitReading> readings,
        IReadOnlyList<FitAcceptance> acceptances,
        IReadOnlyList<FitTouch> touches,
        IReadOnlyDictionary<string, GapRound>? now = null
    )
    {
        var read = readings.Where(r => !r.TakenBack).ToLookup(r => r.Line);
        var accepted = acceptances.Where(a => !a.TakenBack).ToLookup(a => a.Line);
        return
        [
            .. lines.Select(l =>
                One(
                    l,
                    sheet,
                    [.. read[l.Key]],
                    [.. accepted[l.Key]],
                    touches,
                    now?.GetValueOrDefault(l.Key) ?? GapRound.BeforeWeld
                )
            ),
        ];
    }

    private static LineState One(
        GapLine line,
        FitSheet sheet,
        IReadOnlyList<FitReading> readings,
        IReadOnlyList<FitAcceptance> acceptances,
        IReadOnlyList<FitTouch> touches,
        GapRound now
    )
    {
        var (terms, limits) = (sheet.Of(line), sheet.LimitsOf(line));
        var mine = touches.Where(t => t.Panels.Any(line.Between.Contains)).OrderBy(t => t.Seq).ToList();
        var rounds = readings
            .GroupBy(r => r.Round)
            .OrderBy(g => g.Key)
            .Select(g => Round(line, limits, g.Key, [.. g], mine))
            .ToList();
        var last = rounds.Count == 0 ? null : rounds[^1];
        var newest = last is null ? 0 : readings.Where(r => r.Round == last.Round).Max(r => r.Seq);
        // It was given for what was read then: a newer reading or change is another matter.
        var acceptance = acceptances.LastOrDefault(a =>
            last is not null && a.Round == last.Round && a.Seq > newest && mine.TrueForAll(t => t.Seq < a.Seq)
        );
        var (verdict, words) = Judged(line, terms, limits, last, acceptance, now);
        return new(line, terms, limits, rounds, verdict, words, acceptance, Foretold(sheet, last));
    }

    private static LineRound Round(
        GapLine line,
        FitLimits limits,
        GapRound round,
        IReadOnlyList<FitReading> readings,
        List<FitTouch> touches
    )
    {
        FitReading? Last(int station, FitMeasure what) =>
            readings.LastOrDefault(r => r.Station == station && r.Measure == what);
        var stations = line
            .StationsMm.Select(
                (pos, i) =>
                {
                    var gap = Last(i + 1, FitMeasure.Gap);
                    var since = gap is null ? null : touches.LastOrDefault(t => t.Seq > gap.Seq);
                    return new FitStation(i + 1, pos, gap, Last(i + 1, FitMeasure.Flush), since?.What ?? "");
                }
            )
            .ToList();
        var gaps = stations.Where(s => s.Gap is not null).ToList();
        var flush = stations.Where(s => s.Flush is not null).ToList();
        return new(
            round,
            stations,
            gaps.Count == 0
                ? null
                : GapProfile.Of([.. gaps.Select(s => new GapStation(s.PosMm, s.Gap!.Mm))], limits.ForGaps()),
            [.. flush.Where(s => !Near.AtMost(Math.Abs(s.Flush!.Mm), limits.FlushMm)).Select(s => s.Number)]
        )
        {
            WorstMm = gaps.MaxBy(s => Math.Abs(s.Gap!.Mm - limits.TargetMm))?.Gap!.Mm,
            WorstFlushMm = flush.MaxBy(s => Math.Abs(s.Flush!.Mm))?.Flush!.Mm,
        };
    }

    private static (LineVerdict, string) Judged(
        GapLine line,
        LineTerms terms,
        FitLimits limits,
        LineRound? last,
        FitAcceptance? acceptance,
        GapRound now
    )
    {
        if (terms.LeftOut.Length > 0)
        {
            return (LineVerdict.LeftOut, terms.LeftOut);
        }

        if (last is null)
        {
            return (LineVerdict.NotRead, "");
        }

        if (last.Round < now)
        {
            // What a line read before it was welded or painted says nothing of it now.
            return (
                LineVerdict.ReadAgain,
                $"{(now == GapRound.AfterPaint ? "Painted" : "Welded out")} since: read {line.StationsMm.Count} of {line.StationsMm.Count} again"
            );
        }

        if (last.Stations.FirstOrDefault(s => s.Touched.Length > 0) is { } touched)
        {
            var left = last.Stations.Count(s => s.Touched.Length > 0);
            return (LineVerdict.ReadAgain, $"{touched.Touched}: read {left} of {line.StationsMm.Count} again");
        }

        if (!last.IsComplete)
        {
            var gaps = last.Stations.Count(s => s.Gap is not null);
            return (
                LineVerdict.PartlyRead,
                gaps < last.Stations.Count
                    ? $"{gaps} of {last.Stations.Count} read"
                    : $"flush at {string.Join(", ", last.Missing.Select(m => m.Station))} is not read"
            );
        }

        var faults = Faults(last, limits);
        return faults.Length == 0 ? (LineVerdict.InLimits, "")
            : acceptance?.AcceptedAt is not null
                ? (LineVerdict.Accepted, $"{faults}: stays, {acceptance.Why} ({acceptance.AcceptedBy})")
            : (LineVerdict.Out, faults);
    }

    /// <summary>What is wrong with a line, in words; empty: nothing is.</summary>
    public static string Faults(LineRound round, FitLimits limits) =>
        round.Profile is not { } profile
            ? ""
            : string.Join(
                "; ",
                new[]
                {
                    Off(profile, round, GapFault.TooTight, "too tight", limits),
                    Off(profile, round, GapFault.TooWide, "too wide", limits),
                    profile.Faults.Contains(GapFault.NotUniform)
                        ? FormattableString.Invariant($"not even: range {profile.RangeMm:0.0} mm")
                        : "",
                    round.FlushOff.Count > 0
                        ? FormattableString.Invariant(
                            $"steps up to {Math.Abs(round.WorstFlushMm!.Value):0.0} mm at {Places(round.FlushOff)}"
                        )
                        : "",
                }.Where(w => w.Length > 0)
            );

    private static string Off(GapProfile profile, LineRound round, GapFault fault, string words, FitLimits limits)
    {
        if (!profile.Faults.Contains(fault))
        {
            return "";
        }

        var read = round.Stations.Where(s => s.Gap is not null).ToList();
        var off = profile
            .Off.Select(i => read[i])
            .Where(s => s.Gap!.Mm > limits.TargetMm == (fault == GapFault.TooWide));
        return $"{words} at {Places([.. off.Select(s => s.Number)])}";
    }

    private static string Places(IReadOnlyList<int> stations) =>
        stations.Count > 2 && stations[^1] - stations[0] == stations.Count - 1
            ? $"{stations[0]} to {stations[^1]}"
            : string.Join(", ", stations);

    private static IReadOnlyList<double?> Foretold(FitSheet sheet, LineRound? last) =>
        sheet.FilmUm is { } film && last is not null && last.Round != GapRound.AfterPaint
            ? [.. last.Stations.Select(s => s.Gap is null ? (double?)null : s.Gap.Mm - 2 * film / 1000)]
            : [];
}

using System.Globalization;
using FirstCoat.Core.Bodies;

namespace FirstCoat.Core.Fitup;

/// <summary>Lines before and after, as a client reads them.</summary>
public static class GapStory
{
    private const double MmPerInch = 25.4;

    /// <summary>What became of the lines that were read again, the most improved first.</summary>
    /// <param name="readings">Of the build, in the order in which they were recorded.</param>
    /// <param name="since">What was recorded after that place in the order is told; what a station read until then, or
    /// else at first, is what it was.</param>
    /// <param name="most">So many lines at most.</param>
    public static IReadOnlyList<string> Of(
        IReadOnlyList<GapLine> lines,
        IReadOnlyList<FitReading> readings,
        long since,
        bool inches,
        int most
    ) =>
        [
            .. lines
                .Select(l => Told(l, readings.Where(r => r.Line == l.Key && Counts(r)).ToList(), since, inches))
                .OfType<(double Better, string Words)>()
                .OrderByDescending(t => t.Better)
                .Take(most)
                .Select(t => t.Words),
        ];

    private static bool Counts(FitReading r) => r is { TakenBack: false, Measure: FitMeasure.Gap };

    private static (double, string)? Told(GapLine line, List<FitReading> readings, long since, bool inches)
    {
        var twice = readings
            .GroupBy(r => r.Station)
            .Where(g => g.Count() > 1 && g.Last().Seq > since)
            .Select(g => (Was: (g.LastOrDefault(r => r.Seq <= since) ?? g.First()).Mm, Now: g.Last().Mm))
            .ToList();
        if (twice.Count == 0)
        {
            return null;
        }

        var (was, now) = (twice.Select(t => t.Was).ToList(), twice.Select(t => t.Now).ToList());
        var better = was.Max() - was.Min() - (now.Max() - now.Min());
        return was.SequenceEqual(now)
            ? null
            : (better, $"Gap, {Name(line)}: it was {Between(was)}, and is now {Between(now)}");

        string Between(List<double> gaps)
        {
            var (low, high) = (Shown(gaps.Min()), Shown(gaps.Max()));
            return $"{(low == high ? low : $"between {low} and {high}")} {(inches ? "in" : "mm")}";
        }

        string Shown(double mm) =>
            inches
                ? (mm / MmPerInch).ToString("0.00", CultureInfo.InvariantCulture)
                : mm.ToString("0.0", CultureInfo.InvariantCulture);
    }

    /// <summary>The line's name with its side in words.</summary>
    private static string Name(GapLine line)
    {
        var cut = line.Name.LastIndexOf(", ", StringComparison.Ordinal);
        var bare = line.Side == PanelSide.Centre || cut < 0 ? line.Name : line.Name[..cut];
        var side = line.Side switch
        {
            PanelSide.Left => " on the left",
            PanelSide.Right => " on the right",
            _ => "",
        };
        return $"{char.ToLowerInvariant(bare[0])}{bare[1..]}{side}";
    }
}

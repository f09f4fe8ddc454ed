using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Fitup;

/// <summary>Tacks round or along a seam.</summary>
/// <param name="SpacingMm">From tack to tack.</param>
public readonly record struct Tacks(int Count, double SpacingMm)
{
    /// <summary>Source: counting; ceil(length / spacing) steps, a tack at both ends of an open seam.</summary>
    /// <param name="mostMm">The most that lies between two.</param>
    /// <param name="isClosed">It runs into itself.</param>
    /// <exception cref="Refusal">A length or spacing of nothing or less.</exception>
    public static Tacks Along(double lengthMm, double mostMm, bool isClosed)
    {
        Refusal.When(lengthMm <= 0, "lengthMm", "The seam is longer than nothing.");
        Refusal.When(mostMm <= 0, "spacingMm", "The tacks lie apart.");
        var steps = Near.Ceiling(lengthMm / mostMm);
        return new(isClosed ? steps : steps + 1, lengthMm / steps);
    }

    /// <summary>More tacks than that are not put in order.</summary>
    public const int MostOrdered = 500;

    /// <summary>In which order they are set, and the stretches between them are welded, so that no heat gathers: each
    /// next one is the farthest from all that are set, and of those as far the one farthest from the last.</summary>
    /// <remarks>Source: rule of thumb of sheet metal work.</remarks>
    /// <returns>Numbers of the tacks along the seam, from 0 on.</returns>
    /// <exception cref="Refusal">Too many.</exception>
    public IReadOnlyList<int> Order(bool isClosed)
    {
        Refusal.When(
            Count > MostOrdered,
            "spacingMm",
            $"That is more than {MostOrdered} tacks: give stretches of the seam."
        );
        var (count, order) = (Count, new List<int> { 0 });
        var near = Enumerable.Range(0, count).Select(i => Apart(i, 0)).ToArray();
        while (order.Count < count)
        {
            var next = Enumerable.Range(0, count).Where(i => near[i] > 0).MaxBy(i => (near[i], Apart(i, order[^1])));
            order.Add(next);
            for (var i = 0; i < count; i++)
            {
                near[i] = Math.Min(near[i], Apart(i, next));
            }
        }

        return order;

        int Apart(int a, int b) => isClosed ? Math.Min(Math.Abs(a - b), count - Math.Abs(a - b)) : Math.Abs(a - b);
    }
}

/// <summary>Holes for plug welds along a flange.</summary>
/// <param name="PitchMm">From hole to hole; null: there is one.</param>
/// <param name="PositionsMm">From the flange's end.</param>
public sealed record PlugHoles(double? PitchMm, IReadOnlyList<double> PositionsMm)
{
    /// <summary>The most holes that are laid out at once.</summary>
    private const int Most = 10_000;

    public int Steps => PositionsMm.Count - 1;

    /// <summary>Source: counting; ceil((length - 2 end) / pitch) steps.</summary>
    /// <param name="mostMm">The most that lies between two.</param>
    /// <param name="endMm">From each end of the flange to its hole.</param>
    /// <exception cref="Refusal">A length or pitch of nothing or less, an end below nothing or beyond the
    /// middle.</exception>
    public static PlugHoles Along(double lengthMm, double mostMm, double endMm)
    {
        Refusal.When(lengthMm <= 0, "lengthMm", "The flange is longer than nothing.");
        Refusal.When(mostMm <= 0, "pitchMm", "The holes lie apart.");
        Refusal.When(
            endMm < 0 || !Near.AtMost(endMm, lengthMm / 2),
            "endMm",
            "The first hole lies between the end of the flange and its middle."
        );
        var usable = lengthMm - 2 * endMm;
        if (Near.AtMost(usable, 0))
        {
            return new(null, [endMm]);
        }

        Refusal.When(usable / mostMm > Most, "pitchMm", "That is more than ten thousand holes.");
        var steps = Near.Ceiling(usable / mostMm);
        var pitch = usable / steps;
        return new(pitch, [.. Enumerable.Range(0, steps + 1).Select(k => endMm + k * pitch)]);
    }
}

/// <summary>By which law a taper runs from its first station to its last.</summary>
public enum TaperLaw
{
    Linear,

    /// <summary>It leaves and arrives without a corner.</summary>
    Eased,
}

/// <summary>A taper or an offset at equal stations, to be printed at full size.</summary>
/// <param name="RadiiMm">Of the arc of that rise over the chord, null where there is no rise; none: no chord was
/// given.</param>
public sealed record TaperTable(IReadOnlyList<double> ValuesMm, IReadOnlyList<double?>? RadiiMm)
{
    private const int Most = 10_000;

    /// <summary>Source: the share k / (n - 1), or eased (1 - cos(pi k / (n - 1))) / 2; radius of an arc by chord and
    /// rise, c^2 / (8 v) + v / 2.</summary>
    /// <exception cref="Refusal">Fewer than two stations, a chord of nothing or less, a rise below nothing with a
    /// chord.</exception>
    public static TaperTable Of(int stations, double firstMm, double lastMm, TaperLaw law, double? chordMm)
    {
        Refusal.When(stations is < 2 or > Most, "stations", "A taper has between two and ten thousand stations.");
        Refusal.When(chordMm <= 0, "chordMm", "The chord is longer than nothing.");
        var values = Enumerable
            .Range(0, stations)
            .Select(k => (double)k / (stations - 1))
            .Select(share => law == TaperLaw.Eased ? (1 - Math.Cos(Math.PI * share)) / 2 : share)
            .Select(share => firstMm + share * (lastMm - firstMm))
            .ToList();
        Refusal.When(
            chordMm is not null && (firstMm < 0 || lastMm < 0),
            firstMm < 0 ? "firstMm" : "lastMm",
            "Over a chord nothing rises by less than nothing."
        );
        return new(
            values,
            chordMm is { } c ? [.. values.Select(v => v == 0 ? (double?)null : c * c / (8 * v) + v / 2)] : null
        );
    }
}

/// <summary>One dimension of a chain.</summary>
/// <param name="TolMm">By so much it may be more or less.</param>
/// <param name="Adds">It opens the clearance; else it takes from it.</param>
public readonly record struct ChainLink(double Mm, double TolMm, bool Adds);

/// <summary>What is left between two parts at the end of a chain of dimensions.</summary>
/// <param name="WorstMm">If every tolerance goes the wrong way.</param>
/// <param name="RssMm">As the tolerances go together, root sum square.</param>
/// <param name="LeastWorstMm">Clearance then, with the movement taken off.</param>
public sealed record DimensionChain(
    double NominalMm,
    double WorstMm,
    double RssMm,
    double LeastWorstMm,
    double LeastRssMm,
    bool ClearsWorst,
    bool ClearsRss
)
{
    /// <summary>Source: sums of signed dimensions and of tolerances; root of the sum of their squares.</summary>
    /// <param name="movementMm">That the parts make against each other.</param>
    /// <param name="needMm">Wanted between them.</param>
    /// <exception cref="Refusal">No link, or a length, tolerance, movement or need below nothing.</exception>
    public static DimensionChain Of(IReadOnlyList<ChainLink> links, double movementMm, double needMm)
    {
        Refusal.When(links.Count == 0, "links", "Give one dimension at least.");
        Refusal.When(
            links.Any(l => l.Mm < 0),
            "mm",
            "A dimension is nothing or more; its sign says which way it goes."
        );
        Refusal.When(links.Any(l => l.TolMm < 0), "tolMm", "A tolerance is nothing or more.");
        Refusal.When(movementMm < 0, "movementMm", "A movement is nothing or more.");
        Refusal.When(needMm < 0, "needMm", "What is wanted is nothing or more.");
        var nominal = links.Sum(l => l.Adds ? l.Mm : -l.Mm);
        var (worst, rss) = (links.Sum(l => l.TolMm), Math.Sqrt(links.Sum(l => l.TolMm * l.TolMm)));
        var (leastWorst, leastRss) = (nominal - movementMm - worst, nominal - movementMm - rss);
        return new(
            nominal,
            worst,
            rss,
            leastWorst,
            leastRss,
            Near.AtLeast(leastWorst, needMm),
            Near.AtLeast(leastRss, needMm)
        );
    }
}

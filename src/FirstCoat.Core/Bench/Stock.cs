using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Bench;

/// <summary>Pieces cut from bars of one length.</summary>
/// <param name="WasteMm">Of all bars, the kerfs among it.</param>
/// <param name="IsFewest">No fewer bars would do; else fewer may.</param>
/// <param name="Layout">The pieces of each bar, longest first.</param>
public sealed record LineCuts(
    int Bars,
    double WasteMm,
    double UsedPercent,
    bool IsFewest,
    IReadOnlyList<IReadOnlyList<double>> Layout
)
{
    /// <summary>More pieces than that are not tried in every way.</summary>
    public const int MostExact = 12;

    private const int MostPieces = 2000;

    /// <summary>Source: counting; so many pieces need their lengths and a kerf between each two, and the last may end
    /// at the bar's end. Up to twelve pieces in every way, more of them longest first.</summary>
    /// <exception cref="Refusal">No piece, one of nothing or longer than the bar, no bar, a kerf below
    /// nothing.</exception>
    public static LineCuts Of(double barMm, double kerfMm, IReadOnlyList<double> piecesMm)
    {
        Refusal.When(barMm <= 0, "stockMm", "A bar is longer than nothing.");
        Refusal.When(kerfMm < 0, "kerfMm", "A kerf is nothing or more.");
        Refusal.When(
            piecesMm.Count is 0 or > MostPieces,
            "piecesMm",
            "Give between one and two thousand pieces to be cut."
        );
        Refusal.When(piecesMm.Any(p => p <= 0), "piecesMm", "A piece is longer than nothing.");
        Refusal.When(piecesMm.Any(p => !Near.AtMost(p, barMm)), "piecesMm", "A piece is longer than the bar.");
        // With a kerf to each piece and one more to the bar, pieces and bars simply add up.
        double[] lengths = [.. piecesMm.OrderDescending()];
        var (sizes, room) = (lengths.Select(p => p + kerfMm).ToArray(), barMm + kerfMm);
        var (bars, on) = LongestFirst(sizes, room);
        var least = Near.Ceiling(sizes.Sum() / room);
        var better = new int[sizes.Length];
        while (
            bars > least && sizes.Length <= MostExact && Fit(sizes, 0, [.. Enumerable.Repeat(room, bars - 1)], better)
        )
        {
            (bars, on) = (bars - 1, [.. better]);
        }

        var pieces = piecesMm.Sum();
        return new(
            bars,
            bars * barMm - pieces,
            100 * pieces / (bars * barMm),
            bars == least || sizes.Length <= MostExact,
            [.. Enumerable.Range(0, bars).Select(b => (IReadOnlyList<double>)[.. lengths.Where((_, i) => on[i] == b)])]
        );
    }

    private static (int Bars, int[] On) LongestFirst(double[] sizes, double room)
    {
        var (left, on) = (new List<double>(), new int[sizes.Length]);
        for (var i = 0; i < sizes.Length; i++)
        {
            on[i] = left.FindIndex(l => Near.AtMost(sizes[i], l));
            if (on[i] < 0)
            {
                on[i] = left.Count;
                left.Add(room);
            }

            left[on[i]] -= sizes[i];
        }

        return (left.Count, on);
    }

    /// <param name="on">The bar of each piece, where all fit.</param>
    private static bool Fit(double[] sizes, int next, double[] left, int[] on)
    {
        if (next == sizes.Length)
        {
            return true;
        }

        var tried = new HashSet<double>();
        for (var bar = 0; bar < left.Length; bar++)
        {
            // A bar with as much left as another one that was tried is no other way.
            if (!Near.AtMost(sizes[next], left[bar]) || !tried.Add(left[bar]))
            {
                continue;
            }

            on[next] = bar;
            left[bar] -= sizes[next];
            if (Fit(sizes, next + 1, left, on))
            {
                return true;
            }

            left[bar] += sizes[next];
        }

        return false;
    }
}

/// <summary>Timber in the steam box.</summary>
public static class SteamBend
{
    /// <summary>A rule of thumb: an hour for each 25 mm.</summary>
    private const double MinutesPerMm = 60 / 25.0;

    /// <summary>How long it steams, in minutes. Source: rule of thumb, an hour for each 25 mm of thickness.</summary>
    /// <exception cref="Refusal">No thickness.</exception>
    public static double Minutes(double thicknessMm)
    {
        Refusal.When(thicknessMm <= 0, "thicknessMm", "The timber is thicker than nothing.");
        return thicknessMm * MinutesPerMm;
    }
}

/// <summary>What a box holds.</summary>
public readonly record struct BoxVolume(double Litres)
{
    private const double LitresPerUsGallon = 3.785411784;
    private const double LitresPerImperialGallon = 4.54609;

    public double UsGallons => Litres / LitresPerUsGallon;

    public double ImperialGallons => Litres / LitresPerImperialGallon;

    /// <summary>Source: length x width x height; a US gallon is 231 cubic inches.</summary>
    /// <exception cref="Refusal">A side of nothing or less.</exception>
    public static BoxVolume Of(double lengthMm, double widthMm, double heightMm)
    {
        Refusal.When(lengthMm <= 0, "lengthMm", "A side is longer than nothing.");
        Refusal.When(widthMm <= 0, "widthMm", "A side is longer than nothing.");
        Refusal.When(heightMm <= 0, "heightMm", "A side is longer than nothing.");
        return new(lengthMm * widthMm * heightMm / 1e6);
    }
}

/// <summary>A wire of the shop's table.</summary>
/// <param name="MostAmps">It carries, by the table that the shop goes by.</param>
public readonly record struct WireSize(double Mm2, double MostAmps);

/// <summary>A wire for a current over a length, with its fuse. A rule of thumb: tables, grouping and heat are local
/// code's.</summary>
/// <param name="NeededMm2">Of copper, so that no more than the allowed share is lost.</param>
/// <param name="SizeMm2">The smallest of the table that does; null: none does.</param>
/// <param name="FuseAmps">The smallest of the list that holds the load and guards the wire; null: none does.</param>
public sealed record WireRun(
    double NeededMm2,
    double? SizeMm2,
    double? DropVolts,
    double? DropPercent,
    double? FuseAmps
)
{
    /// <summary>Of copper, in ohm mm2/m.</summary>
    private const double Copper = 0.0175;

    /// <summary>A fuse is so much larger than the load that it does not blow by it.</summary>
    private const double FuseMargin = 1.25;

    /// <summary>Source: Ohm's law there and back, 2 x 0.0175 x length x amps / (volts x share).</summary>
    /// <param name="lengthM">One way.</param>
    /// <param name="mostDropPercent">Of the voltage, that may be lost.</param>
    /// <exception cref="Refusal">A figure of nothing or less, a loss of all, an empty table.</exception>
    public static WireRun Of(
        double volts,
        double amps,
        double lengthM,
        double mostDropPercent,
        IReadOnlyList<WireSize> wires,
        IReadOnlyList<double> fuses
    )
    {
        Refusal.When(volts <= 0, "volts", "The voltage is more than nothing.");
        Refusal.When(amps <= 0, "amps", "The current is more than nothing.");
        Refusal.When(lengthM <= 0, "lengthM", "The wire is longer than nothing.");
        Refusal.When(
            mostDropPercent is <= 0 or >= 100,
            "dropPercent",
            "Some of the voltage may be lost, and not all of it."
        );
        Refusal.When(wires.Count == 0, "wires", "Give the wires of your table.");
        Refusal.When(wires.Any(w => w.Mm2 <= 0 || w.MostAmps <= 0), "wires", "Each wire has an area and a current.");
        Refusal.When(fuses.Any(f => f <= 0), "fuses", "A fuse carries more than nothing.");
        var needed = 2 * Copper * lengthM * amps / (volts * mostDropPercent / 100);
        var large = wires
            .Where(w => Near.AtLeast(w.Mm2, needed) && Near.AtLeast(w.MostAmps, amps))
            .OrderBy(w => w.Mm2)
            .Select(w => (Wire: w, Fuse: Fuse(w)))
            .ToList();
        if (large.Count == 0)
        {
            return new(needed, null, null, null, null);
        }

        var (wire, fuse) = large.Exists(w => w.Fuse is not null) ? large.Find(w => w.Fuse is not null) : large[0];
        var drop = 2 * Copper * lengthM * amps / wire.Mm2;
        return new(needed, wire.Mm2, drop, 100 * drop / volts, fuse);

        double? Fuse(WireSize w) =>
            fuses
                .Where(f => Near.AtLeast(f, FuseMargin * amps) && Near.AtMost(f, w.MostAmps))
                .Order()
                .Select(f => (double?)f)
                .FirstOrDefault();
    }
}

namespace FirstCoat.Core.Bench;

/// <summary>Lays pieces one after the other into free rectangles, in many orders.</summary>
/// <remarks>Source: J. Jylänki, A thousand ways to pack the bin (2010): maximal rectangles, or with cuts from edge to
/// edge the guillotine's; the order of the pieces is searched from the best of several sorted ones, the same for the
/// same pieces every time.</remarks>
internal static class NestSearch
{
    /// <summary>Pieces laid in all orders together; a fixed number, so that a busy machine finds the same.</summary>
    private const int Laid = 120_000;

    /// <summary>How good a place is, lower is better.</summary>
    private delegate (long, long) Rule(NestFree free, NestSize size);

    /// <summary>How the next piece is laid.</summary>
    /// <param name="FarSide">With cuts from edge to edge: the cut beside the piece runs so that the larger rest stays
    /// whole; else the smaller does.</param>
    private readonly record struct Way(Rule Rule, bool FarSide);

    private static readonly Rule[] Rules =
    [
        (f, s) => (Math.Min(f.W - s.W, f.H - s.H), Math.Max(f.W - s.W, f.H - s.H)),
        (f, s) => (f.W * f.H - s.Area, Math.Min(f.W - s.W, f.H - s.H)),
        (f, s) => (f.Y + s.H, f.X),
        (f, s) => (f.X + s.W, f.Y),
    ];

    private static readonly Func<NestItem, long>[] Keys =
    [
        i => i.Size.Area,
        i => Math.Max(i.Size.W, i.Size.H),
        i => i.Size.W + i.Size.H,
        i => i.Size.H,
        i => i.Size.W,
    ];

    private static Way[] Ways(NestCuts cuts) =>
        [
            .. Rules.SelectMany(r =>
                cuts == NestCuts.EdgeToEdge ? new Way[] { new(r, true), new(r, false) } : [new(r, false)]
            ),
        ];

    private static IEnumerable<int[]> Orders(NestItem[] all) =>
        Keys.Select(key => (int[])[.. Enumerable.Range(0, all.Length).OrderByDescending(i => key(all[i]))]);

    /// <summary>As much as goes on one sheet; what does not is left out.</summary>
    /// <returns>A place for each piece; null: it is not on it.</returns>
    public static NestPlace?[] Fill(NestSize sheet, NestItem[] all, NestCuts cuts)
    {
        var (best, most) = (new NestPlace?[all.Length], 0L);
        foreach (var order in Orders(all))
        {
            foreach (var way in Ways(cuts))
            {
                var (free, at) = (NestFree.Whole(sheet), new NestPlace?[all.Length]);
                foreach (var i in order)
                {
                    at[i] = Put(free, 0, all[i], way, cuts);
                }

                var filled = all.Where((_, i) => at[i] is not null).Sum(p => p.Size.Area);
                if (filled > most)
                {
                    (best, most) = (at, filled);
                }
            }
        }

        return best;
    }

    /// <param name="bound">No fewer sheets would do: there the search ends.</param>
    public static NestLayout Best(NestSize sheet, NestItem[] all, int bound, NestCuts cuts = NestCuts.Free)
    {
        var ways = Ways(cuts);
        var (best, quality, order, way) = ((NestLayout?)null, (0, 0.0), (int[])[], ways[0]);
        foreach (var sorted in Orders(all))
        {
            foreach (var by in ways)
            {
                Take(sorted, by);
            }
        }

        var random = new Random(20_260);
        for (var i = 0; i < Laid / all.Length && best!.Sheets > bound; i++)
        {
            var tried = (int[])order.Clone();
            var (a, b) = (random.Next(tried.Length), random.Next(tried.Length));
            if (i % 3 == 0)
            {
                var moved = tried[a];
                Array.Copy(tried, a + 1, tried, a, tried.Length - a - 1);
                Array.Copy(tried, b, tried, b + 1, tried.Length - b - 1);
                tried[b] = moved;
            }
            else
            {
                (tried[a], tried[b]) = (tried[b], tried[a]);
            }

            Take(tried, i % 10 == 0 ? ways[random.Next(ways.Length)] : way);
        }

        return best!;

        void Take(int[] tried, Way by)
        {
            if (best is not null && best.Sheets <= bound)
            {
                return;
            }

            var layout = Lay(sheet, all, tried, by, cuts);
            // Of equal ones the better has its waste in one place: there the next piece goes.
            var fill = new double[layout.Sheets];
            for (var i = 0; i < all.Length; i++)
            {
                fill[layout.At[i].Sheet] += (double)all[i].Size.Area / sheet.Area;
            }

            var worth = (-layout.Sheets, fill.Sum(f => f * f));
            if (best is null || worth.CompareTo(quality) >= 0)
            {
                (best, quality, order, way) = (layout, worth, tried, by);
            }
        }
    }

    private static NestLayout Lay(NestSize sheet, NestItem[] all, int[] order, Way way, NestCuts cuts)
    {
        var (sheets, at) = (new List<List<NestFree>>(), new NestPlace[all.Length]);
        foreach (var i in order)
        {
            var place = (NestPlace?)null;
            for (var s = 0; place is null; s++)
            {
                if (s == sheets.Count)
                {
                    sheets.Add(NestFree.Whole(sheet));
                }

                place = Put(sheets[s], s, all[i], way, cuts);
            }

            at[i] = place.Value;
        }

        return new(sheets.Count, at);
    }

    private static NestPlace? Put(List<NestFree> free, int sheet, NestItem item, Way by, NestCuts cuts)
    {
        var best = ((long, long)?)null;
        var (place, size, room) = (default(NestPlace), default(NestSize), default(NestFree));
        foreach (var (way, turned) in item.Ways)
        {
            foreach (var f in free)
            {
                if (
                    way.W <= f.W
                    && way.H <= f.H
                    && by.Rule(f, way) is var worth
                    && (best is null || worth.CompareTo(best.Value) < 0)
                )
                {
                    (best, place, size, room) = (worth, new(sheet, f.X, f.Y, turned), way, f);
                }
            }
        }

        if (best is null)
        {
            return null;
        }

        if (cuts == NestCuts.EdgeToEdge)
        {
            NestFree.Split(free, room, size, by.FarSide);
        }
        else
        {
            NestFree.Take(free, new(place.X, place.Y, size.W, size.H));
        }

        return place;
    }
}

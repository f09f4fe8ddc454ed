namespace FirstCoat.Core.Bench;

/// <summary>Lays pieces one after the other into the largest free rectangles, in many orders.</summary>
/// <remarks>Source: J. Jylänki, A thousand ways to pack the bin (2010): maximal rectangles; the order of the pieces is
/// searched from the best of several sorted ones, the same for the same pieces every time.</remarks>
internal static class NestSearch
{
    /// <summary>Pieces laid in all orders together; a fixed number, so that a busy machine finds the same.</summary>
    private const int Laid = 120_000;

    private readonly record struct Free(long X, long Y, long W, long H);

    /// <summary>How good a place is, lower is better.</summary>
    private delegate (long, long) Rule(Free free, NestSize size);

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

    /// <param name="bound">No fewer sheets would do: there the search ends.</param>
    public static NestLayout Best(NestSize sheet, NestItem[] all, int bound)
    {
        var (best, quality, order, rule) = ((NestLayout?)null, (0, 0.0), (int[])[], Rules[0]);
        foreach (var key in Keys)
        {
            int[] sorted = [.. Enumerable.Range(0, all.Length).OrderByDescending(i => key(all[i]))];
            foreach (var by in Rules)
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

            Take(tried, i % 10 == 0 ? Rules[random.Next(Rules.Length)] : rule);
        }

        return best!;

        void Take(int[] tried, Rule by)
        {
            if (best is not null && best.Sheets <= bound)
            {
                return;
            }

            var layout = Lay(sheet, all, tried, by);
            // Of equal ones the better has its waste in one place: there the next piece goes.
            var fill = new double[layout.Sheets];
            for (var i = 0; i < all.Length; i++)
            {
                fill[layout.At[i].Sheet] += (double)all[i].Size.Area / sheet.Area;
            }

            var worth = (-layout.Sheets, fill.Sum(f => f * f));
            if (best is null || worth.CompareTo(quality) >= 0)
            {
                (best, quality, order, rule) = (layout, worth, tried, by);
            }
        }
    }

    private static NestLayout Lay(NestSize sheet, NestItem[] all, int[] order, Rule rule)
    {
        var (sheets, at) = (new List<List<Free>>(), new NestPlace[all.Length]);
        foreach (var i in order)
        {
            var place = (NestPlace?)null;
            for (var s = 0; place is null; s++)
            {
                if (s == sheets.Count)
                {
                    sheets.Add([new(0, 0, sheet.W, sheet.H)]);
                }

                place = Put(sheets[s], s, all[i], rule);
            }

            at[i] = place.Value;
        }

        return new(sheets.Count, at);
    }

    private static NestPlace? Put(List<Free> free, int sheet, NestItem item, Rule rule)
    {
        var best = ((long, long)?)null;
        var (place, size) = (default(NestPlace), default(NestSize));
        foreach (var (way, turned) in item.Ways)
        {
            foreach (var f in free)
            {
                if (
                    way.W <= f.W
                    && way.H <= f.H
                    && rule(f, way) is var worth
                    && (best is null || worth.CompareTo(best.Value) < 0)
                )
                {
                    (best, place, size) = (worth, new(sheet, f.X, f.Y, turned), way);
                }
            }
        }

        if (best is null)
        {
            return null;
        }

        Take(free, new(place.X, place.Y, size.W, size.H));
        return place;
    }

    /// <summary>Takes a rectangle out of all that are free, and drops those that lie within others.</summary>
    private static void Take(List<Free> free, Free used)
    {
        var cut = new List<Free>();
        for (var i = free.Count - 1; i >= 0; i--)
        {
            var f = free[i];
            if (used.X >= f.X + f.W || used.X + used.W <= f.X || used.Y >= f.Y + f.H || used.Y + used.H <= f.Y)
            {
                continue;
            }

            free.RemoveAt(i);
            if (used.X > f.X)
            {
                cut.Add(f with { W = used.X - f.X });
            }

            if (used.X + used.W < f.X + f.W)
            {
                cut.Add(new(used.X + used.W, f.Y, f.X + f.W - used.X - used.W, f.H));
            }

            if (used.Y > f.Y)
            {
                cut.Add(f with { H = used.Y - f.Y });
            }

            if (used.Y + used.H < f.Y + f.H)
            {
                cut.Add(new(f.X, used.Y + used.H, f.W, f.Y + f.H - used.Y - used.H));
            }
        }

        for (var i = 0; i < cut.Count; i++)
        {
            var c = cut[i];
            if (
                !free.Exists(f => Holds(f, c)) && !cut.Where((o, j) => j != i && Holds(o, c) && (o != c || j < i)).Any()
            )
            {
                free.Add(c);
            }
        }
    }

    private static bool Holds(Free o, Free i) =>
        i.X >= o.X && i.Y >= o.Y && i.X + i.W <= o.X + o.W && i.Y + i.H <= o.Y + o.H;
}

namespace FirstCoat.Core.Bench;

/// <summary>A rectangle of a sheet on which nothing lies, in ten-thousandths of a millimetre.</summary>
internal readonly record struct NestFree(long X, long Y, long W, long H)
{
    public long Area => checked(W * H);

    public static List<NestFree> Whole(NestSize sheet) => [new(0, 0, sheet.W, sheet.H)];

    private bool Holds(NestFree o) => o.X >= X && o.Y >= Y && o.X + o.W <= X + W && o.Y + o.H <= Y + H;

    /// <summary>Takes a rectangle out of all that are free, and drops those that lie within others.</summary>
    public static void Take(List<NestFree> free, NestFree used)
    {
        var cut = new List<NestFree>();
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
            if (!free.Exists(f => f.Holds(c)) && !cut.Where((o, j) => j != i && o.Holds(c) && (o != c || j < i)).Any())
            {
                free.Add(c);
            }
        }
    }

    /// <summary>Two cuts from edge to edge beside a piece in the corner of a free rectangle leave two others.</summary>
    /// <param name="farSide">The larger rest stays whole.</param>
    public static void Split(List<NestFree> free, NestFree room, NestSize used, bool farSide)
    {
        free.Remove(room);
        var (right, above) = (room.W - used.W, room.H - used.H);
        var upright = right > above == farSide;
        var beside = new NestFree(room.X + used.W, room.Y, right, upright ? room.H : used.H);
        var over = new NestFree(room.X, room.Y + used.H, upright ? used.W : room.W, above);
        free.AddRange(new[] { beside, over }.Where(f => f is { W: > 0, H: > 0 }));
    }

    /// <summary>What is left of a sheet in rectangles that do not overlap, each the largest there is.</summary>
    public static IReadOnlyList<NestFree> Left(NestSize sheet, IEnumerable<NestFree> used)
    {
        var free = Whole(sheet);
        foreach (var u in used)
        {
            Take(free, u);
        }

        var left = new List<NestFree>();
        while (free.Count > 0)
        {
            var largest = free.MaxBy(f => (f.Area, -f.X, -f.Y));
            left.Add(largest);
            Take(free, largest);
        }

        return left;
    }
}

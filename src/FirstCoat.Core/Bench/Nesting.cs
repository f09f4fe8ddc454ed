using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Bench;

/// <summary>A rectangle to be cut, in millimetres.</summary>
/// <param name="MayTurn">By a quarter; grain or a swage forbids it.</param>
public sealed record NestPiece(string Id, double WidthMm, double HeightMm, int Quantity, bool MayTurn);

/// <summary>Where a piece lies on its sheet, from the sheet's corner.</summary>
/// <param name="Sheet">From 0 on.</param>
/// <param name="Turned">By a quarter.</param>
public readonly record struct NestedPiece(string Id, int Sheet, double XMm, double YMm, bool Turned);

/// <summary>How sheets are cut.</summary>
public enum NestCuts
{
    /// <summary>Pieces lie anywhere.</summary>
    Free,

    /// <summary>Each cut runs from edge to edge of what is cut, as a shear cuts.</summary>
    EdgeToEdge,
}

/// <summary>Rectangles laid on equal sheets.</summary>
/// <param name="BoundSheets">By their area alone no fewer would do.</param>
/// <param name="WasteShare">Of all sheets, between 0 and 1.</param>
/// <param name="IsFewest">No fewer sheets would do; else fewer may.</param>
public sealed record Nesting(
    int Sheets,
    IReadOnlyList<NestedPiece> Placed,
    int BoundSheets,
    double WasteShare,
    bool IsFewest
)
{
    /// <summary>More pieces than that are not laid in every way.</summary>
    public const int MostExact = 12;

    /// <summary>The most pieces that are laid out at once.</summary>
    public const int Most = 2000;

    /// <summary>Parts of a millimetre that are told apart.</summary>
    private const double Grain = 10_000;

    /// <summary>Lays out pieces on the fewest sheets that are found.</summary>
    /// <param name="kerfMm">Between neighbours; none at the sheet's edge.</param>
    /// <remarks>Source: free rectangles with a search over the order of the pieces; lying anywhere, up to twelve
    /// pieces in every way, by corner points (<see cref="NestProof"/>).</remarks>
    /// <exception cref="Refusal">No piece, a size of nothing or less, a quantity below one, a kerf below nothing, a piece
    /// that fits in no way.</exception>
    public static Nesting Of(
        double sheetWidthMm,
        double sheetHeightMm,
        double kerfMm,
        IReadOnlyList<NestPiece> pieces,
        NestCuts cuts = NestCuts.Free
    )
    {
        Check(sheetWidthMm, sheetHeightMm, kerfMm, pieces);
        // With a kerf to each piece and one more to the sheet, pieces simply lie side by side.
        var sheet = Size(sheetWidthMm, sheetHeightMm, kerfMm);
        var all = Items(pieces, kerfMm);
        foreach (var p in all.Where(p => !p.Ways.Any(w => w.Size.FitsIn(sheet))))
        {
            throw new Refusal("pieces", $"{p.Piece.Id} does not fit on the sheet in any way it may lie.");
        }

        var bound = (int)((all.Sum(p => p.Size.Area) + sheet.Area - 1) / sheet.Area);
        var best = NestSearch.Best(sheet, all, bound, cuts);
        var proven = best.Sheets == bound;
        if (!proven && cuts == NestCuts.Free && all.Length <= MostExact)
        {
            (best, proven) = NestProof.Fewest(sheet, all, bound, best);
        }

        var net = pieces.Sum(p => p.WidthMm * p.HeightMm * p.Quantity);
        return new(
            best.Sheets,
            [.. best.At.Select((at, i) => new NestedPiece(all[i].Piece.Id, at.Sheet, Mm(at.X), Mm(at.Y), at.Turned))],
            Math.Max(1, Near.Ceiling(net / (sheetWidthMm * sheetHeightMm))),
            1 - net / (best.Sheets * sheetWidthMm * sheetHeightMm),
            proven
        );
    }

    /// <exception cref="Refusal">Names what cannot be cut.</exception>
    internal static void Check(
        double sheetWidthMm,
        double sheetHeightMm,
        double kerfMm,
        IReadOnlyList<NestPiece> pieces
    )
    {
        Refusal.When(sheetWidthMm <= 0, "widthMm", "The sheet is wider than nothing.");
        Refusal.When(sheetHeightMm <= 0, "heightMm", "The sheet is higher than nothing.");
        Refusal.When(kerfMm < 0, "kerfMm", "A kerf is nothing or more.");
        Refusal.When(pieces.Count == 0, "pieces", "Give one piece at least.");
        Refusal.When(pieces.Any(p => p.WidthMm <= 0), "widthMm", "A piece is wider than nothing.");
        Refusal.When(pieces.Any(p => p.HeightMm <= 0), "heightMm", "A piece is higher than nothing.");
        Refusal.When(pieces.Any(p => p.Quantity < 1), "quantity", "A quantity is a whole number from 1 on.");
        Refusal.When(pieces.Sum(p => (long)p.Quantity) > Most, "quantity", $"At most {Most} pieces at once.");
    }

    /// <summary>Each piece by itself, with its kerf.</summary>
    internal static NestItem[] Items(IEnumerable<NestPiece> pieces, double kerfMm) =>
        [
            .. pieces.SelectMany(p =>
                Enumerable.Repeat(
                    new NestItem(p, new(Whole(p.WidthMm + kerfMm), Whole(p.HeightMm + kerfMm)), p.MayTurn),
                    p.Quantity
                )
            ),
        ];

    /// <summary>A sheet with the kerf that it does not need at its edge.</summary>
    internal static NestSize Size(double widthMm, double heightMm, double kerfMm) =>
        new(Whole(widthMm + kerfMm), Whole(heightMm + kerfMm));

    internal static NestPlace Place(NestedPiece p) => new(p.Sheet, Whole(p.XMm), Whole(p.YMm), p.Turned);

    internal static double Mm(long parts) => parts / Grain;

    private static long Whole(double mm) => checked((long)Math.Round(mm * Grain));
}

/// <summary>A width and a height, in ten-thousandths of a millimetre.</summary>
internal readonly record struct NestSize(long W, long H)
{
    public long Area => checked(W * H);

    public NestSize Turned => new(H, W);

    public bool FitsIn(NestSize o) => W <= o.W && H <= o.H;
}

/// <summary>One piece with its kerf.</summary>
internal sealed record NestItem(NestPiece Piece, NestSize Size, bool MayTurn)
{
    /// <summary>How it may lie.</summary>
    public IReadOnlyList<(NestSize Size, bool Turned)> Ways { get; } =
        MayTurn && Size.W != Size.H ? [(Size, false), (Size.Turned, true)] : [(Size, false)];
}

/// <summary>Where a piece lies.</summary>
internal readonly record struct NestPlace(int Sheet, long X, long Y, bool Turned);

/// <summary>All pieces, each in its place.</summary>
internal sealed record NestLayout(int Sheets, NestPlace[] At);

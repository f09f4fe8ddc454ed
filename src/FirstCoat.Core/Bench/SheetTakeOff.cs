namespace FirstCoat.Core.Bench;

/// <summary>A rest of sheet in stock, in millimetres.</summary>
public readonly record struct StockPiece(string Name, double WidthMm, double HeightMm);

/// <summary>A piece on its sheet, in millimetres from the sheet's corner.</summary>
public readonly record struct LaidPiece(string Id, double XMm, double YMm, double WidthMm, double HeightMm);

/// <summary>A rest worth keeping.</summary>
public readonly record struct SheetRest(double XMm, double YMm, double WidthMm, double HeightMm);

/// <summary>A sheet or a rest of one that is cut.</summary>
/// <param name="Offcut">Its name in stock; empty: a new sheet.</param>
public sealed record CutSheet(
    string Offcut,
    double WidthMm,
    double HeightMm,
    IReadOnlyList<LaidPiece> Pieces,
    IReadOnlyList<SheetRest> Rests
);

/// <summary>Pieces laid on what lies in stock first, then on new sheets.</summary>
/// <param name="BoundSheets">New ones; by area alone no fewer would do for what the offcuts do not take.</param>
/// <param name="IsFewest">No fewer new sheets would do for it.</param>
/// <param name="WasteShare">Of all that is cut, rests worth keeping not counted as waste; between 0 and 1.</param>
public sealed record SheetTakeOff(
    IReadOnlyList<CutSheet> Sheets,
    int NewSheets,
    int BoundSheets,
    bool IsFewest,
    double AreaM2,
    double WasteShare
)
{
    /// <summary>Rule of thumb: a rest narrower than that is scrap, in millimetres.</summary>
    public const double LeastRestMm = 150;

    /// <summary>Lays the pieces out: the smallest rest that takes any first, so that large ones stay.</summary>
    /// <exception cref="Refusal">As <see cref="Nesting.Of"/>; a piece that a rest takes and a sheet does not is
    /// allowed.</exception>
    public static SheetTakeOff Of(
        double sheetWidthMm,
        double sheetHeightMm,
        double kerfMm,
        IReadOnlyList<NestPiece> pieces,
        IReadOnlyList<StockPiece> offcuts,
        NestCuts cuts
    )
    {
        Nesting.Check(sheetWidthMm, sheetHeightMm, kerfMm, pieces);
        Refusal.When(
            offcuts.Any(o => o.WidthMm <= 0 || o.HeightMm <= 0),
            "offcuts",
            "An offcut is larger than nothing both ways."
        );
        var (sheets, left) = (new List<CutSheet>(), Nesting.Items(pieces, kerfMm));
        foreach (var o in offcuts.OrderBy(o => o.WidthMm * o.HeightMm))
        {
            var at = left.Length == 0 ? [] : NestSearch.Fill(Nesting.Size(o.WidthMm, o.HeightMm, kerfMm), left, cuts);
            var laid = left.Select((p, i) => (Piece: p, At: at[i])).ToList();
            if (laid.Exists(l => l.At is not null))
            {
                sheets.Add(
                    Cut(
                        o.Name,
                        o.WidthMm,
                        o.HeightMm,
                        laid.Where(l => l.At is not null).Select(l => (l.Piece, l.At!.Value))
                    )
                );
                left = [.. laid.Where(l => l.At is null).Select(l => l.Piece)];
            }
        }

        var (fresh, bound, fewest) = (0, 0, true);
        if (left.Length > 0)
        {
            var rest = left.GroupBy(i => i.Piece).Select(g => g.Key with { Quantity = g.Count() }).ToList();
            var nesting = Nesting.Of(sheetWidthMm, sheetHeightMm, kerfMm, rest, cuts);
            var items = Nesting.Items(rest, kerfMm);
            (fresh, bound, fewest) = (nesting.Sheets, nesting.BoundSheets, nesting.IsFewest);
            sheets.AddRange(
                nesting
                    .Placed.Select((p, i) => (Item: items[i], p.Sheet, At: p))
                    .GroupBy(p => p.Sheet)
                    .OrderBy(g => g.Key)
                    .Select(g => Cut("", sheetWidthMm, sheetHeightMm, g.Select(p => (p.Item, Nesting.Place(p.At)))))
            );
        }

        var net = pieces.Sum(p => p.WidthMm * p.HeightMm * p.Quantity);
        var used = sheets.Sum(s => s.WidthMm * s.HeightMm - s.Rests.Sum(r => r.WidthMm * r.HeightMm));
        return new(sheets, fresh, bound, fewest, net / 1e6, Math.Max(0, 1 - net / used));

        CutSheet Cut(string name, double w, double h, IEnumerable<(NestItem Item, NestPlace At)> laid)
        {
            var all = laid.Select(l => (l.Item, l.At, Size: l.At.Turned ? l.Item.Size.Turned : l.Item.Size)).ToList();
            var rests = NestFree
                .Left(Nesting.Size(w, h, kerfMm), all.Select(l => new NestFree(l.At.X, l.At.Y, l.Size.W, l.Size.H)))
                .Select(f => new SheetRest(
                    Nesting.Mm(f.X),
                    Nesting.Mm(f.Y),
                    Nesting.Mm(f.W) - kerfMm,
                    Nesting.Mm(f.H) - kerfMm
                ))
                .Where(r => Math.Min(r.WidthMm, r.HeightMm) >= LeastRestMm);
            return new(
                name,
                w,
                h,
                [
                    .. all.Select(l => new LaidPiece(
                        l.Item.Piece.Id,
                        Nesting.Mm(l.At.X),
                        Nesting.Mm(l.At.Y),
                        l.At.Turned ? l.Item.Piece.HeightMm : l.Item.Piece.WidthMm,
                        l.At.Turned ? l.Item.Piece.WidthMm : l.Item.Piece.HeightMm
                    )),
                ],
                [.. rests]
            );
        }
    }
}

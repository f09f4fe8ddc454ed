using CsCheck;
using FirstCoat.Core.Bench;

namespace FirstCoat.Core.Tests.Bench;

/// <summary>Pieces from rests in stock first, then from new sheets; cuts from edge to edge as a shear cuts.</summary>
public sealed class TakeOffTests
{
    private static NestPiece Piece(string id, double width, double height, int quantity = 1, bool mayTurn = true) =>
        new(id, width, height, quantity, mayTurn);

    private static readonly Gen<NestPiece[]> Pieces = Gen.Select(
            Gen.Int[50, 900],
            Gen.Int[50, 900],
            Gen.Int[1, 4],
            Gen.Bool
        )
        .Select((w, h, n, turn) => (w, h, n, turn))
        .Array[1, 9]
        .Select(all => all.Select((p, i) => Piece($"p{i}", p.w, p.h, p.n, p.turn)).ToArray());

    /// <summary>Whether pieces can be parted by cuts from edge to edge: some cut parts them into two lots, and each lot
    /// again.</summary>
    private static bool ShearParts(IReadOnlyList<LaidPiece> all)
    {
        if (all.Count <= 1)
        {
            return true;
        }

        const double hair = 0.001;
        foreach (var upright in new[] { true, false })
        {
            double From(LaidPiece p) => upright ? p.XMm : p.YMm;
            double To(LaidPiece p) => upright ? p.XMm + p.WidthMm : p.YMm + p.HeightMm;
            foreach (var at in all.Select(To).Distinct())
            {
                var low = all.Where(p => To(p) <= at + hair).ToList();
                var high = all.Where(p => From(p) >= at - hair).ToList();
                if (low.Count > 0 && high.Count > 0 && low.Count + high.Count == all.Count)
                {
                    return ShearParts(low) && ShearParts(high);
                }
            }
        }

        return false;
    }

    private static void LiesWell(SheetTakeOff take, IReadOnlyList<NestPiece> pieces)
    {
        take.Sheets.SelectMany(s => s.Pieces)
            .GroupBy(p => p.Id)
            .ToDictionary(g => g.Key, g => g.Count())
            .ShouldBe(pieces.ToDictionary(p => p.Id, p => p.Quantity), ignoreOrder: true);
        const double hair = 0.001;
        foreach (var sheet in take.Sheets)
        {
            // Rests are what is left: they lie on no piece and on no other rest either.
            var all = sheet
                .Pieces.Select(p => (p.XMm, p.YMm, p.WidthMm, p.HeightMm))
                .Concat(sheet.Rests.Select(r => (r.XMm, r.YMm, r.WidthMm, r.HeightMm)))
                .ToList();
            all.ShouldAllBe(p =>
                p.XMm >= 0
                && p.YMm >= 0
                && p.XMm + p.WidthMm <= sheet.WidthMm + hair
                && p.YMm + p.HeightMm <= sheet.HeightMm + hair
            );
            for (var i = 0; i < all.Count; i++)
            {
                for (var j = i + 1; j < all.Count; j++)
                {
                    var (a, b) = (all[i], all[j]);
                    (
                        a.XMm + a.WidthMm <= b.XMm + hair
                        || b.XMm + b.WidthMm <= a.XMm + hair
                        || a.YMm + a.HeightMm <= b.YMm + hair
                        || b.YMm + b.HeightMm <= a.YMm + hair
                    ).ShouldBeTrue("two lie on each other");
                }
            }
        }
    }

    [Fact]
    public void A_rest_in_stock_is_cut_before_a_new_sheet_and_the_smallest_that_serves_first()
    {
        StockPiece[] stock = [new("large", 900, 900), new("small", 320, 420), new("too small", 200, 200)];
        var take = SheetTakeOff.Of(2000, 1000, 0, [Piece("sill", 400, 300)], stock, NestCuts.Free);

        take.NewSheets.ShouldBe(0);
        take.Sheets.Single().Offcut.ShouldBe("small");
    }

    [Fact]
    public void What_the_rests_do_not_take_goes_on_new_sheets()
    {
        // The rest takes one of three; two of 900 x 900 need 2000 x 1000 both.
        var take = SheetTakeOff.Of(
            2000,
            1000,
            2,
            [Piece("floor", 900, 900, 3)],
            [new("rest", 950, 950)],
            NestCuts.Free
        );

        take.NewSheets.ShouldBe(1);
        take.BoundSheets.ShouldBe(1);
        take.IsFewest.ShouldBeTrue();
        take.Sheets.Select(s => (s.Offcut, s.Pieces.Count)).ShouldBe([("rest", 1), ("", 2)]);
        take.AreaM2.ShouldBe(2.43, 1e-9);
    }

    [Fact]
    public void A_rest_with_a_narrow_side_is_waste_and_a_wide_one_is_not()
    {
        // 1000 x 1000 less 1000 x 860 leaves 140 mm: scrap. Less 1000 x 800 leaves 200 mm: kept.
        SheetTakeOff Of(double height) =>
            SheetTakeOff.Of(1000, 1000, 0, [Piece("p", 1000, height, 1, false)], [], NestCuts.Free);

        Of(860).Sheets.Single().Rests.ShouldBeEmpty();
        Of(860).WasteShare.ShouldBe(0.14, 1e-9);
        Of(800).Sheets.Single().Rests.Single().ShouldBe(new SheetRest(0, 800, 1000, 200));
        Of(800).WasteShare.ShouldBe(0, 1e-9);
    }

    [Fact]
    public void A_pinwheel_needs_a_second_sheet_where_a_shear_cuts_it()
    {
        // Four of 60 x 40 round a hole of 20 x 20 fill 100 x 100, and no cut from edge to edge parts them.
        NestPiece[] four = [Piece("blade", 60, 40, 4)];

        SheetTakeOff.Of(100, 100, 0, four, [], NestCuts.Free).NewSheets.ShouldBe(1);
        SheetTakeOff.Of(100, 100, 0, four, [], NestCuts.EdgeToEdge).NewSheets.ShouldBe(2);
    }

    [Fact]
    public void Nothing_is_lost_or_laid_on_another_and_a_shear_can_cut_what_is_laid_for_it() =>
        Pieces.Sample(
            pieces =>
            {
                foreach (var cuts in new[] { NestCuts.Free, NestCuts.EdgeToEdge })
                {
                    var take = SheetTakeOff.Of(2000, 1000, 3, pieces, [new("a", 700, 400), new("b", 1100, 600)], cuts);
                    LiesWell(take, pieces);
                    if (cuts == NestCuts.EdgeToEdge)
                    {
                        take.Sheets.ShouldAllBe(s => ShearParts(s.Pieces));
                    }
                }
            },
            iter: 40
        );

    [Fact]
    public void A_piece_that_goes_on_no_sheet_and_no_rest_is_refused() =>
        Should
            .Throw<Refusal>(() =>
                SheetTakeOff.Of(1000, 500, 0, [Piece("roof", 1400, 600)], [new("rest", 700, 700)], NestCuts.Free)
            )
            .Field.ShouldBe("pieces");

    [Fact]
    public void Bars_say_which_pieces_are_cut_from_which()
    {
        var cuts = LineCuts.Of(6000, 3, [2000, 1994, 2000, 1500]);

        cuts.Bars.ShouldBe(2);
        cuts.Layout.Sum(b => b.Count).ShouldBe(4);
        cuts.Layout.ShouldAllBe(b => b.Sum() + 3 * (b.Count - 1) <= 6000);
    }

    [Fact]
    public void Bars_laid_out_hold_all_pieces_each_once() =>
        Gen.Int[100, 3000]
            .Array[1, 14]
            .Sample(
                pieces =>
                {
                    double[] lengths = [.. pieces.Select(p => (double)p)];
                    var cuts = LineCuts.Of(3000, 2, lengths);
                    cuts.Layout.SelectMany(b => b).Order().ShouldBe(lengths.Order());
                    cuts.Layout.Count.ShouldBe(cuts.Bars);
                    cuts.Layout.ShouldAllBe(b => b.Count > 0 && b.Sum() + 2 * (b.Count - 1) <= 3000 + 1e-6);
                },
                iter: 60
            );
}

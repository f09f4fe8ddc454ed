using CsCheck;
using FirstCoat.Core.Bench;

namespace FirstCoat.Core.Tests.Bench;

/// <summary>Pieces on sheets: none is lost, none lies on another, and as few sheets as can be.</summary>
public sealed class NestingTests
{
    private const double Width = 2500,
        Height = 1250;

    private static NestPiece Piece(string id, double width, double height, int quantity = 1, bool mayTurn = true) =>
        new(id, width, height, quantity, mayTurn);

    private static string Refused(Action ask) => Should.Throw<Refusal>(ask).Field;

    /// <summary>Every piece lies on a sheet by itself, a kerf away from its neighbours.</summary>
    private static void LiesWell(Nesting nesting, IReadOnlyList<NestPiece> pieces, double kerf, double w, double h)
    {
        nesting
            .Placed.GroupBy(p => p.Id)
            .ToDictionary(g => g.Key, g => g.Count())
            .ShouldBe(pieces.ToDictionary(p => p.Id, p => p.Quantity), ignoreOrder: true);
        var known = pieces.ToDictionary(p => p.Id);
        var all = nesting
            .Placed.Select(p =>
            {
                var piece = known[p.Id];
                (p.Turned && !piece.MayTurn).ShouldBeFalse();
                var (pw, ph) = p.Turned ? (piece.HeightMm, piece.WidthMm) : (piece.WidthMm, piece.HeightMm);
                return (p.Sheet, Left: p.XMm, Right: p.XMm + pw, Low: p.YMm, High: p.YMm + ph);
            })
            .ToList();
        const double hair = 0.001;
        all.ShouldAllBe(p => p.Left >= 0 && p.Low >= 0 && p.Right <= w + hair && p.High <= h + hair);
        for (var i = 0; i < all.Count; i++)
        {
            for (var j = i + 1; j < all.Count; j++)
            {
                var (a, b) = (all[i], all[j]);
                (
                    a.Sheet != b.Sheet
                    || a.Right + kerf <= b.Left + hair
                    || b.Right + kerf <= a.Left + hair
                    || a.High + kerf <= b.Low + hair
                    || b.High + kerf <= a.Low + hair
                ).ShouldBeTrue("two pieces lie on each other");
            }
        }

        all.Select(p => p.Sheet).Distinct().Count().ShouldBe(nesting.Sheets);
        nesting.Sheets.ShouldBeGreaterThanOrEqualTo(nesting.BoundSheets);
    }

    [Theory]
    [InlineData(0, 1)]
    [InlineData(2, 4)]
    public void Four_quarters_fill_a_sheet_unless_the_saw_takes_its_share(double kerf, int sheets)
    {
        var pieces = new[] { Piece("q", 500, 500, 4) };
        var nesting = Nesting.Of(1000, 1000, kerf, pieces);
        (nesting.Sheets, nesting.IsFewest, nesting.BoundSheets).ShouldBe((sheets, true, 1));
        nesting.WasteShare.ShouldBe(1 - 1.0 / sheets, 1e-12);
        LiesWell(nesting, pieces, kerf, 1000, 1000);
    }

    [Fact]
    public void Round_a_hole_in_the_middle_no_cut_goes_from_edge_to_edge()
    {
        // A pinwheel: four of 700 x 300 round a middle of 400 x 400.
        var pieces = new[] { Piece("arm", 700, 300, 4), Piece("middle", 400, 400) };
        var nesting = Nesting.Of(1000, 1000, 0, pieces);
        (nesting.Sheets, nesting.IsFewest).ShouldBe((1, true));
        nesting.WasteShare.ShouldBe(0, 1e-12);
        LiesWell(nesting, pieces, 0, 1000, 1000);
    }

    [Fact]
    public void What_may_not_turn_lies_as_it_is()
    {
        Nesting.Of(1000, 500, 0, [Piece("door", 500, 1000)]).Sheets.ShouldBe(1);
        Refused(() => Nesting.Of(1000, 500, 0, [Piece("door", 500, 1000, mayTurn: false)])).ShouldBe("pieces");
    }

    [Fact]
    public void It_says_what_it_lacks()
    {
        Refused(() => Nesting.Of(0, 500, 0, [Piece("a", 1, 1)])).ShouldBe("widthMm");
        Refused(() => Nesting.Of(1000, 500, -1, [Piece("a", 1, 1)])).ShouldBe("kerfMm");
        Refused(() => Nesting.Of(1000, 500, 0, [])).ShouldBe("pieces");
        Refused(() => Nesting.Of(1000, 500, 0, [Piece("a", 1, 0)])).ShouldBe("heightMm");
        Refused(() => Nesting.Of(1000, 500, 0, [Piece("a", 1, 1, 0)])).ShouldBe("quantity");
        Refused(() => Nesting.Of(1000, 500, 0, [Piece("a", 1, 1, 3000)])).ShouldBe("quantity");
    }

    /// <summary>Full sheets cut up at random, one piece in two again and again.</summary>
    private static List<NestPiece> CutUp(int sheets, int count, int seed)
    {
        var random = new Random(seed);
        var all = Enumerable.Repeat((W: Width, H: Height), sheets).ToList();
        for (var tries = 0; all.Count < count && tries < 100 * count; tries++)
        {
            var at = random.Next(all.Count);
            var (w, h) = all[at];
            var across = random.NextDouble() < w / (w + h);
            var (side, least) = (across ? w : h, 60);
            if (side < 2 * least)
            {
                continue;
            }

            var cut = least + random.Next((int)(side - 2 * least) + 1);
            all[at] = across ? (cut, h) : (w, cut);
            all.Add(across ? (w - cut, h) : (w, h - cut));
        }

        return [.. all.Select((p, i) => Piece($"p{i}", p.W, p.H, 1, random.Next(3) > 0))];
    }

    [Theory]
    [InlineData(1, 40)]
    [InlineData(3, 40)]
    [InlineData(5, 80)]
    [InlineData(8, 120)]
    [InlineData(12, 200)]
    [InlineData(4, 200)]
    public void What_was_cut_from_full_sheets_goes_back_with_one_more_at_most(int sheets, int count)
    {
        for (var seed = 1; seed <= 3; seed++)
        {
            var pieces = CutUp(sheets, count, seed);
            var nesting = Nesting.Of(Width, Height, 0, pieces);
            nesting.Sheets.ShouldBeInRange(sheets, sheets + 1, $"seed {seed}");
            LiesWell(nesting, pieces, 0, Width, Height);
        }
    }

    [Fact]
    public void A_dozen_goes_back_into_just_as_many() =>
        Gen.Select(Gen.Int[1, 3], Gen.Int[5, 12], Gen.Int[1, 100_000])
            .Sample(
                (sheets, count, seed) =>
                {
                    var pieces = CutUp(sheets, count, seed);
                    var nesting = Nesting.Of(Width, Height, 0, pieces);
                    LiesWell(nesting, pieces, 0, Width, Height);
                    if (nesting.IsFewest)
                    {
                        nesting.Sheets.ShouldBe(sheets);
                    }

                    nesting.IsFewest.ShouldBeTrue("twelve pieces are laid in every way");
                },
                iter: 30
            );

    [Fact]
    public void Any_pieces_lie_well() =>
        Gen.Select(
                Gen.Double[0, 5],
                Gen.Select(Gen.Double[20, 1200], Gen.Double[20, 1200], Gen.Int[1, 4], Gen.Bool).List[1, 12]
            )
            .Sample(
                (kerf, sizes) =>
                {
                    var pieces = sizes.Select((s, i) => Piece($"p{i}", s.Item1, s.Item2, s.Item3, s.Item4)).ToList();
                    LiesWell(Nesting.Of(Width, Height, kerf, pieces), pieces, kerf, Width, Height);
                },
                iter: 40
            );
}

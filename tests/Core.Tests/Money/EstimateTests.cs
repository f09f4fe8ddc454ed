using CsCheck;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Plan;

namespace FirstCoat.Core.Tests.Money;

/// <summary>An estimate: what it adds up to, what the shop's history does to it, how sure it is.</summary>
public sealed class EstimateTests
{
    private static readonly TradeHistory NoHistory = new([]);

    private static Dictionary<Trade, decimal> Rates(decimal rate = 60) =>
        Enum.GetValues<Trade>().ToDictionary(t => t, _ => rate);

    private static EstimateWork Work(string name, int hours, Trade trade = Trade.Metal, Stage stage = Stage.Metal) =>
        new(name, stage, trade, hours * 60);

    private static EstimateFigures Of(
        IReadOnlyList<EstimateWork> work,
        TradeHistory? history = null,
        params PaperGoods[] goods
    ) => EstimateFigures.Of(new(work, goods, history ?? NoHistory, Rates(), Guid.Empty));

    private static TradeHistory Took(params (int Actual, int Estimate)[] records) =>
        new(
            records
                .Select(r => new WorkRecord(
                    Guid.CreateVersion7(),
                    "Sill",
                    Stage.Metal,
                    Trade.Metal,
                    r.Actual,
                    r.Estimate
                ))
                .ToList()
        );

    [Fact]
    public void One_piece_of_work_without_history_has_the_spread_of_the_prior()
    {
        // sd of ln = sqrt(0.35^2 + 0.5^2) = 0.6103; P80 = 10 h x exp(0.8416 x 0.6103) = 16.71 h, P20 = 5.98 h, at
        // 60.00.
        var row = Of([Work("Sill", 10)]).Rows.ShouldHaveSingleItem();
        row.Likely.ShouldBeInRange(585m, 615m);
        row.High.ShouldBeInRange(960m, 1050m);
        row.Low.ShouldBeInRange(340m, 378m);
        row.Cells.ShouldHaveSingleItem().Amount.ShouldBe(row.Likely);
    }

    [Fact]
    public void What_somebody_said_of_a_piece_counts_instead_of_its_trades_spread()
    {
        // Own spread 9, 10, 11 h: ln sd 0.1132 above, with the bias's 0.35 together 0.3679; P80 = 600 x exp(0.8416 x
        // 0.3679) = 818.
        var row = Of([Work("Sill", 10) with { Own = new(540, 600, 660) }]).Rows.ShouldHaveSingleItem();
        row.Likely.ShouldBeInRange(585m, 615m);
        row.High.ShouldBeInRange(785m, 850m);
    }

    [Fact]
    public void A_trade_that_runs_over_is_estimated_higher()
    {
        // 180 for 120 and 150 for 100: the multiplier is 1.2222 (learning, by hand).
        var history = Took((180, 120), (150, 100));
        history.Of(Trade.Metal).Learned.Multiplier.ShouldBe(1.2222, 0.0001);
        var (plain, learned) = (Of([Work("Sill", 40)]), Of([Work("Sill", 40)], history));
        (learned.Likely / plain.Likely).ShouldBeInRange(1.17m, 1.28m);
        learned.Rows[0].FirstGuess.ShouldBe(40);
        Of([Work("Sill", 40, Trade.Paint)], history)
            .Likely.ShouldBe(plain.Likely, "another trade's record says nothing about paint");
    }

    [Fact]
    public void The_spread_of_a_trade_shrinks_to_half_with_the_weight_of_ten_records()
    {
        NoHistory.Of(Trade.Metal).Spread.ShouldBe(0.5, 1e-9);
        // Two records with ln 1.5 both: sample variance 0, so (10 x 0.25) / 12 = 0.208333.
        Took((180, 120), (150, 100)).Of(Trade.Metal).Spread.ShouldBe(Math.Sqrt(2.5 / 12), 1e-9);
    }

    [Fact]
    public void The_second_of_two_equal_sides_is_quicker_and_one_that_was_thought_quicker_is_left()
    {
        // No pair on record: exp(ln 0.8) = 0.8. 20 + 16 hours against 20 + 20.
        var equal = Of([Work("Left sill", 20), Work("Right sill", 20)]);
        var different = Of([Work("Left sill", 20), Work("Right sill", 16)]);
        equal.Hours.ShouldBe(different.Hours);
        equal.Rows[0].FirstGuess.ShouldBe(40);
        TradeHistory
            .WithoutSide("Left sill: repair, finding 3")
            .ShouldBe(
                TradeHistory
                    .WithoutSide("right sill: repair, finding 12")
                    ?.Replace("right", "Left", StringComparison.Ordinal)
            );
        TradeHistory.WithoutSide("Bright work").ShouldBeNull("bright is not right");
    }

    [Fact]
    public void Pairs_of_the_log_teach_how_much_quicker_the_second_goes()
    {
        var build = Guid.CreateVersion7();
        WorkRecord Did(string name, int actual, int estimate = 150) =>
            new(build, name, Stage.Metal, Trade.Metal, actual, estimate);
        // By hand: one pair 160, 120 gives 0.7843.
        new TradeHistory([Did("Left door skin", 160), Did("Right door skin", 120)]).Second.Multiplier.ShouldBe(
            0.7843,
            0.0001
        );
        new TradeHistory([Did("Left door skin", 160), Did("Right door skin", 120, 130)]).Second.Count.ShouldBe(0);
    }

    [Fact]
    public void What_a_trade_gets_wrong_it_gets_wrong_everywhere()
    {
        // 25 pieces of one trade: drawn independently the band would be narrower than one with the trade's shared bias.
        var many = Of(Enumerable.Range(1, 25).Select(i => Work($"Piece {i}", 10)).ToList());
        var ratio = (double)(many.High / many.Likely);
        // Independent: sd about 0.53 / 5 = 0.107, so 1.09. With a shared bias of 0.35: about 1.36.
        ratio.ShouldBeInRange(1.28, 1.48);
        // Not everything goes wrong at once: five trades together are surer than each alone.
        var spread = Of(
            new[] { Trade.Metal, Trade.Paint, Trade.Trim, Trade.Wood, Trade.Mechanic }
                .Select((t, i) => Work("Piece", 50, t, (Stage)i))
                .ToList()
        );
        spread.High.ShouldBeLessThan(spread.Rows.Sum(r => r.High));
        spread.Low.ShouldBeGreaterThan(spread.Rows.Sum(r => r.Low));
    }

    [Fact]
    public void Rows_add_up_and_low_likely_and_high_are_in_order() =>
        Gen.Select(Gen.Int[15, 6000], Gen.Int[0, 8], Gen.Int[0, 9], (m, t, s) =>
                new EstimateWork("Work", (Stage)s, (Trade)t, m)
            )
            .List[1, 12]
            .Sample(
                work =>
                {
                    var e = Of(work, null, new PaperGoods(CostKind.Parts, "Parts", 90, 100, 130, ""));
                    return e.Likely == e.Rows.Sum(r => r.Likely) + 100
                        && e.Rows.All(r =>
                            r.Likely == r.Cells.Sum(c => c.Amount) && r.Low <= r.Likely && r.Likely <= r.High
                        )
                        && e.Low <= e.Likely
                        && e.Likely <= e.High
                        && e.Rows.All(r => r.Cells.All(c => c.Hours * 4 % 1 == 0));
                },
                iter: 30
            );

    [Fact]
    public void The_same_facts_give_the_same_figures() =>
        Of([Work("A", 10), Work("B", 7, Trade.Paint)])
            .Likely.ShouldBe(Of([Work("A", 10), Work("B", 7, Trade.Paint)]).Likely);

    [Fact]
    public void A_quote_that_is_sure_has_no_spread()
    {
        var e = Of([], null, new PaperGoods(CostKind.Parts, "Sill, quoted", 268, 268, 268, "1 of 1 quoted"));
        (e.Low, e.Likely, e.High).ShouldBe((268m, 268m, 300m), "high of the whole is to the hundred");
        Should
            .Throw<Refusal>(() => Of([], null, new PaperGoods(CostKind.Parts, "Sill", 300, 268, 300, "")))
            .Field.ShouldBe("goods");
        Should
            .Throw<Refusal>(() => Of([], null, new PaperGoods(CostKind.Labour, "Sill", 1, 1, 1, "")))
            .Field.ShouldBe("goods");
    }

    [Fact]
    public void Quantities_read_as_quantiles()
    {
        var s = new Spread(8, 10, 15).Checked();
        (s.At(0), s.At(Learned.Z80), s.At(-Learned.Z80)).ShouldSatisfyAllConditions(
            x => x.Item1.ShouldBe(10),
            x => x.Item2.ShouldBe(15, 1e-9),
            x => x.Item3.ShouldBe(8, 1e-9)
        );
        Should.Throw<Refusal>(() => new Spread(11, 10, 15).Checked()).Field.ShouldBe("likely");
        Should.Throw<Refusal>(() => new Spread(0, 10, 15).Checked()).Field.ShouldBe("low");
        Quantile.Of([1, 2, 3, 4, 5], 0.5).ShouldBe(3);
        Quantile.Of([1, 2], 0.25).ShouldBe(1.25);
        var d = new Deviates(7);
        var drawn = Enumerable.Range(0, 20_000).Select(_ => d.Next()).ToList();
        drawn.Average().ShouldBe(0, 0.03);
        drawn.Average(x => x * x).ShouldBe(1, 0.05);
    }

    [Theory]
    [InlineData(6, 6, 252)]
    [InlineData(3, 6, 126)]
    [InlineData(9, 6, 252)]
    [InlineData(2, 0, 252)]
    [InlineData(0, 6, 0)]
    public void An_open_choice_costs_the_days_it_moves_the_finish(int lost, int open, int perWeek) =>
        WaitCost.PerWeek(lost, open, 36).ShouldBe(perWeek);
}

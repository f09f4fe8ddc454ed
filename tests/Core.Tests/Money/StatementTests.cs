using CsCheck;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money;

namespace FirstCoat.Core.Tests.Money;

/// <summary>A statement always adds up and nothing rounds twice.</summary>
public sealed class StatementTests
{
    private static readonly Dictionary<string, decimal> Tax = new()
    {
        ["labour"] = 0,
        ["parts"] = 8.25m,
        ["outside"] = 8.25m,
        ["consumables"] = 8.25m,
    };

    /// <summary>The worked example with every kind of line.</summary>
    private static StatementInput Worked(ContractTerms contract) =>
        new()
        {
            Contract = contract,
            TaxRates = Tax,
            PartTiers = [new(100, 40), new(500, 25), new(null, 15)],
            OutsideMarkup = 12,
            Labour = [new("metal", 487, 95), new("again", 60, 95, LabourKind.Rework), new("paint", 325, 88.40m)],
            Parts = [new("sill", 2, 41.35m), new("door skin", 1, 312.80m), new("loom", 1, 780)],
            Outside = [new("blasting", 380)],
            ConsumablesPercent = 5,
            ConsumablesCap = 500,
            Payments = [500],
        };

    [Fact]
    public void A_capped_contract_takes_the_excess_off_by_category()
    {
        var s = Statement.Of(Worked(new(ContractKind.Capped, 2000, RetentionPercent: 10)));
        s.Lines.Where(l => l.Net < 0).Select(l => l.Net).ShouldBe([-454.24m, -510.16m, -154.67m, -22.72m]);
        (s.Net, s.Tax, s.Retention, s.Balance).ShouldBe((2000.00m, 99.36m, 200.00m, 1399.36m));
    }

    [Fact]
    public void A_fixed_price_is_billed_whole_with_its_approved_changes_and_no_lines()
    {
        var s = Statement.Of(
            Worked(new(ContractKind.Fixed, 5000)) with
            {
                Changes = [new("c1", 300, ChangeStatus.Approved, 50), new("c2", 900, ChangeStatus.Pending)],
            }
        );
        s.Lines.Select(l => (l.Id, l.Net)).ShouldBe([("contract price", 5000m), ("c1", 150m)]);
        (s.ChangesApproved, s.ChangesPending).ShouldBe((300m, 900m));
    }

    [Fact]
    public void Stages_of_a_progress_contract_add_up_to_its_price()
    {
        var stages = new List<ContractStage>
        {
            new("a", 33.3333m, 100),
            new("b", 33.3333m, 100),
            new("c", 33.3334m, 100),
        };
        Statement.Of(Worked(new(ContractKind.Progress, 1000.01m, stages))).Net.ShouldBe(1000.01m);
    }

    [Fact]
    public void A_withdrawal_bills_what_is_done_and_committed_within_the_price_and_the_fee_beyond_it()
    {
        var s = Statement.Of(
            Worked(new(ContractKind.Fixed, 1000, DonePercent: 90, RetentionPercent: 10)) with
            {
                Withdrawal = new([new("glass", 250, Category: "parts")], 75),
            }
        );
        s.Limit.ShouldBe(1000);
        s.Net.ShouldBe(1075);
        s.Retention.ShouldBe(0);
    }

    [Fact]
    public void Work_of_a_change_waits_for_its_approval()
    {
        var s = Statement.Of(
            Worked(ContractTerms.TimeAndMaterials) with
            {
                Changes = [new("pan", 1184, ChangeStatus.Pending), new("no", 10, ChangeStatus.Declined)],
                Labour = [new("floor", 60, 95, Change: "pan"), new("trial", 60, 95, Change: "no")],
            }
        );
        s.NotBilled.ShouldBe([("floor", "pending"), ("trial", "declined")]);
    }

    [Theory]
    [InlineData(100.00, 140.00)]
    [InlineData(100.01, 125.01)]
    public void The_whole_unit_cost_takes_its_tiers_percentage(double cost, double price)
    {
        var s = Statement.Of(
            Worked(ContractTerms.TimeAndMaterials) with
            {
                Labour = [],
                Outside = [],
                ConsumablesPercent = null,
                Parts = [new("p", 1, (decimal)cost)],
            }
        );
        s.Net.ShouldBe((decimal)price);
    }

    private static readonly Gen<StatementInput> Any =
        from kind in Gen.Enum<ContractKind>()
        from price in Gen.Int[0, 2_000_000]
        from minutes in Gen.Int[0, 3000].Array[0, 8]
        from rate in Gen.Int[0, 20_000].Array[8]
        from costs in Gen.Int[0, 200_000].Array[0, 8]
        from quantity in Gen.Int[-3, 9].Array[8]
        from bills in Gen.Int[0, 500_000].Array[0, 4]
        from share in Gen.Int[0, 100]
        from retention in Gen.Int[0, 20]
        select new StatementInput
        {
            Contract = new(
                kind,
                kind == ContractKind.TimeAndMaterials ? null : price / 100m,
                [new("first", share, 40), new("second", 100 - share, 70)],
                RetentionPercent: retention
            ),
            TaxRates = Tax,
            PartTiers = [new(100, 40), new(500, 25), new(null, 15)],
            OutsideMarkup = 12.5m,
            Labour = minutes.Select((m, i) => new LabourItem($"l{i}", m, rate[i] / 100m)).ToList(),
            Parts = costs.Select((c, i) => new PartItem($"p{i}", quantity[i], c / 100m)).ToList(),
            Outside = bills.Select((b, i) => new CostItem($"o{i}", b / 100m)).ToList(),
            ConsumablesPercent = 4,
            ConsumablesCap = 300,
            Payments = [123.45m],
        };

    [Fact]
    public void A_statement_always_adds_up_in_whole_cents() =>
        Any.Sample(
            input =>
            {
                var s = Statement.Of(input);
                s.Lines.ShouldAllBe(l =>
                    Cents.AreWhole(l.Net)
                    && Cents.AreWhole(l.Tax)
                    && l.Tax == Cents.Round(l.Net * Tax[l.Category] / 100)
                );
                s.Net.ShouldBe(s.Lines.Sum(l => l.Net));
                s.Tax.ShouldBe(s.TaxByCategory.Values.Sum());
                s.Balance.ShouldBe(s.Net + s.Tax - s.Retention - s.Paid);
                if (input.Contract.Kind == ContractKind.Capped)
                {
                    s.Net.ShouldBeLessThanOrEqualTo(input.Contract.Price!.Value);
                }
            },
            iter: 2000
        );

    [Fact]
    public void A_split_gives_away_every_cent() =>
        Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1000].Array[1, 9])
            .Where(x => x.Item2.Sum() > 0)
            .Sample(
                (cents, weights) =>
                {
                    var shares = Cents.Split(cents / 100m, weights.Select(w => (decimal)w).ToList());
                    shares.Sum().ShouldBe(cents / 100m);
                    shares
                        .Zip(weights)
                        .ShouldAllBe(x => Math.Abs(x.First - cents / 100m * x.Second / weights.Sum()) < .01m);
                },
                iter: 1000
            );

    [Theory]
    [InlineData(2.345, 2.35)]
    [InlineData(-2.345, -2.35)]
    public void A_half_cent_goes_away_from_zero(double amount, double rounded) =>
        Cents.Round((decimal)amount).ShouldBe((decimal)rounded);

    [Fact]
    public void Outside_work_has_one_price_for_the_client_wherever_it_is_asked_for()
    {
        var job = new Outside.OutsideJob
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            SupplierId = Guid.Empty,
            Title = "Plating",
            Quoted = 333.33m,
        };
        job.ToClient(12.5m).ShouldBe(375.00m); // 374.99625
        job.Billed = 100.05m;
        job.Price.ShouldBe(100.05m);
        job.ToClient(10).ShouldBe(110.06m); // 110.055, half a cent upward
    }

    [Theory]
    [InlineData(600, 1100)]
    [InlineData(-120.5, 379.5)]
    [InlineData(-900, 0)]
    public void A_change_moves_the_most_that_is_billed_and_never_below_nothing(decimal change, decimal limit)
    {
        var capped = new Agreement(ContractKind.Capped, 500, new(500, 0, 0, 0), 500, 0, 0);
        capped.LimitWith(change).ShouldBe(limit);
        (capped with { Limit = null }).LimitWith(change).ShouldBeNull();
    }
}

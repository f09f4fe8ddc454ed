using CsCheck;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Tests.Money;

/// <summary>Contract, estimate, changes, bill, cover and forecast of a build are one computation: none contradicts
/// another.</summary>
public sealed class MoneyOutlookTests
{
    private static readonly LocalDate Today = new(2026, 3, 20);
    private static readonly TradeHistory NoHistory = new([]);
    private static readonly Person Wil = new()
    {
        Id = Guid.CreateVersion7(),
        Name = "Wil Aske",
        Trades = [Trade.Metal, Trade.Paint],
        Rates = [new(new(2026, 1, 1), 25, 60)],
    };

    private static ShopSettings NewShop(decimal tax = 20, decimal consumables = 0) =>
        new()
        {
            Name = "Shop",
            TaxRates = new()
            {
                [TaxCategory.Labour] = tax,
                [TaxCategory.Parts] = tax / 2,
                [TaxCategory.Outside] = tax,
                [TaxCategory.Materials] = tax,
            },
            PartTiers = [new(null, 25)],
            OutsideMarkup = 10,
            ConsumablesPercent = consumables,
            StorageFreeDays = 5,
            StoragePerDay = 12.50m,
        };

    private static Build NewBuild(ContractTerms contract, EstimateTotals estimate)
    {
        var build = new Build
        {
            Id = Guid.CreateVersion7(),
            Number = 7,
            ClientId = Guid.CreateVersion7(),
            Vehicle = new(
                "Plover",
                "Eight",
                1951,
                BodyStyleKey.Coupe,
                Construction.Unitary,
                "P8",
                "Blue",
                "#33557A",
                BodyDimensions.Of(BodyStyleKey.Coupe)
            ),
            Brief = new(FinishGrade.Show, OriginalityPolicy.Original, null, null, []),
            Contract = contract,
            Estimate = estimate,
        };
        build.Open();
        return build;
    }

    private static Operation Work(string name, int hours, Stage stage = Stage.Metal, Trade trade = Trade.Metal) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = name,
            Stage = stage,
            Trade = trade,
            BudgetMinutes = hours * 60,
        };

    private static TimeEntry Hours(Operation o, int day, int minutes)
    {
        var entry = new TimeEntry
        {
            Id = Guid.CreateVersion7(),
            PersonId = Wil.Id,
            BuildId = Guid.Empty,
            OperationId = o.Id,
            Start = Instant.FromUtc(2026, 3, day, 8, 0),
        };
        entry.StopAt(entry.Start + Duration.FromMinutes(minutes));
        return entry;
    }

    private static BillFacts Facts(Build build, IEnumerable<Operation> operations, ShopSettings? shop = null) =>
        new(
            build,
            shop ?? NewShop(),
            [],
            operations.ToDictionary(o => o.Id),
            new Dictionary<Guid, Person> { [Wil.Id] = Wil },
            [],
            [],
            [],
            [],
            []
        )
        {
            Today = Today,
        };

    private static MoneyOutlook Of(BillFacts facts, IReadOnlyList<PaperGoods>? goods = null) =>
        MoneyOutlook.Of(
            facts,
            new(
                NoHistory,
                TradeRates.On(Today, facts.People.Values),
                facts
                    .Operations.Values.Select((o, i) => (o.Id, On: Today.PlusDays(7 * (i + 1))))
                    .ToDictionary(x => x.Id, x => x.On),
                goods
            )
        );

    private static ClientPaper Change(decimal labour, ChangeStatus status, params Guid[] operations)
    {
        var paper = new ClientPaper
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Kind = PaperKind.ChangeOrder,
            Number = 1,
            Words = Words([]),
        };
        paper.Put(new(Guid.CreateVersion7(), null, "More", 60, new(labour, 0, 0, 0), [.. operations], []));
        paper.Send("{}", paper.Words, SentWay.ByHand, "Mara", Instant.FromUtc(2026, 3, 1, 8, 0));
        if (status != ChangeStatus.Pending)
        {
            paper.Take(
                new(
                    status == ChangeStatus.Approved,
                    "Ottilie Brandvold",
                    Instant.FromUtc(2026, 3, 2, 8, 0),
                    AnswerWay.Paper,
                    [],
                    ""
                )
            );
        }

        return paper;
    }

    private static ClientPaper Estimate(params (string Letter, decimal Adds)[] taken)
    {
        var paper = new ClientPaper
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Kind = PaperKind.Estimate,
            Number = 1,
            Words = Words([.. taken.Select(t => new PaperChoice(t.Letter, $"Choice {t.Letter}", t.Adds, 0))]),
        };
        paper.Send("{}", paper.Words, SentWay.ByHand, "Mara", Instant.FromUtc(2026, 2, 1, 8, 0));
        paper.Take(
            new(
                true,
                "Ottilie Brandvold",
                Instant.FromUtc(2026, 2, 2, 8, 0),
                AnswerWay.Paper,
                [.. taken.Select(t => t.Letter)],
                ""
            )
        );
        return paper;
    }

    private static PaperWords Words(List<PaperChoice> choices) =>
        new("Title", "Because", [], [], choices, [], [], new(2026, 4, 1), null);

    [Fact]
    public void Before_the_first_hour_the_end_is_the_estimate()
    {
        var build = NewBuild(ContractTerms.TimeAndMaterials, new(0, 500, 250, 0));
        var part = new PartLine
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Sill",
            Quantity = 2,
            UnitCost = 40,
        };
        var outlook = Of(
            Facts(build, [Work("Sill", 20), Work("Colour", 10, Stage.Colour, Trade.Paint)]) with
            {
                Parts = [part],
            }
        );
        // 500 are allowed for parts, of which 100 are priced; 250 for what is sent out.
        outlook.AtEnd.Net.ShouldBe(outlook.Work.Likely);
        outlook.Work.Of(CostKind.Labour).ShouldBe(outlook.Work.Hours * 60);
        (outlook.Work.Of(CostKind.Parts), outlook.Work.Of(CostKind.Outside)).ShouldBe((500m, 250m));
        (outlook.SoFar, outlook.Charges.Sum(c => c.Amount)).ShouldBe((0m, outlook.AtEnd.Gross));
    }

    [Fact]
    public void What_is_priced_beyond_what_was_allowed_counts()
    {
        var part = new PartLine
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Loom",
            UnitPrice = 640,
        };
        var outlook = Of(
            Facts(NewBuild(ContractTerms.TimeAndMaterials, new(0, 500, 0, 0)), [Work("Sill", 20)]) with
            {
                Parts = [part],
            }
        );
        outlook.Work.Of(CostKind.Parts).ShouldBe(640m);
        outlook.Work.Goods.Select(g => (g.Likely, g.RestsOn)).ShouldBe([(500m, ""), (140m, "as priced")]);
    }

    [Fact]
    public void A_cap_limits_the_end_and_only_an_approved_change_raises_it()
    {
        var capped = new ContractTerms(ContractKind.Capped, 1000);
        var facts = Facts(NewBuild(capped, new(1200, 0, 0, 0)), [Work("Sill", 40)]);
        var outlook = Of(facts);
        (outlook.AtEnd.Net, outlook.AtEnd.Limit, facts.Agreement.Net).ShouldBe((1000m, 1000m, 1000m));
        outlook.Uncapped.ShouldBeGreaterThan(1000);
        foreach (
            var (status, most) in new[]
            {
                (ChangeStatus.Pending, 1000m),
                (ChangeStatus.Declined, 1000m),
                (ChangeStatus.Approved, 1300m),
            }
        )
        {
            var changed = facts with { Changes = [Change(300, status)] };
            (Of(changed).AtEnd.Limit, changed.Agreement.Limit).ShouldBe((most, most), status.ToString());
        }
    }

    [Fact]
    public void At_a_fixed_price_the_agreed_sum_is_the_price_and_what_was_chosen_and_approved()
    {
        var build = NewBuild(new(ContractKind.Fixed, 4000), new(2500, 900, 300, 300));
        var facts = Facts(build, [Work("Sill", 40)]) with
        {
            Accepted = Estimate(("A", 250.50m)),
            Changes = [Change(300, ChangeStatus.Approved), Change(900, ChangeStatus.Pending)],
        };
        (facts.Agreement.Net, facts.Agreement.Pending, facts.Agreement.ByKind.Total).ShouldBe(
            (4550.50m, 900m, 4550.50m)
        );
        var bill = BuildBill.Of(facts);
        bill.Kinds.ShouldHaveSingleItem().ShouldBe(new("contract", 4550.50m, 4550.50m));
        bill.Lines.Select(l => (l.Text, l.Net))
            .ShouldBe([
                ("Agreed price", 4000m),
                ("Change order 1: Title", 300m),
                ("Chosen with the estimate: Choice A", 250.50m),
            ]);
    }

    [Fact]
    public void At_a_fixed_price_the_deposit_is_used_up_as_the_work_goes_on_and_not_on_the_first_day()
    {
        var (done, open) = (Work("Sill", 10), Work("Floor", 10));
        done.Finish("Wil", Instant.FromUtc(2026, 3, 10, 16, 0));
        var facts = Facts(NewBuild(new(ContractKind.Fixed, 4000), new(0, 0, 0, 0)), [done, open], NewShop(tax: 0)) with
        {
            Entries = [Hours(done, 10, 600)],
            Payments =
            [
                new()
                {
                    BuildId = Guid.Empty,
                    On = new(2026, 3, 1),
                    Amount = 2500,
                },
            ],
        };
        var outlook = Of(facts);
        // Ten hours are done of ten and what the other ten are likely to take.
        outlook.SoFar.ShouldBe(Cents.Round(4000m * 600 / (600 + outlook.Work.Rows.Sum(r => r.Likely))));
        (outlook.Cover.AlreadyOut, outlook.Short).ShouldBe((false, 1500m));
        outlook.Cover.RunsOut.ShouldNotBeNull();
    }

    [Fact]
    public void Hours_before_the_estimate_stand_in_it()
    {
        var (done, open) = (Work("Teardown", 10, Stage.Teardown), Work("Sill", 20));
        done.Finish("Wil", Instant.FromUtc(2026, 3, 10, 16, 0));
        var outlook = Of(
            Facts(NewBuild(ContractTerms.TimeAndMaterials, new(0, 0, 0, 0)), [done, open]) with
            {
                Entries = [Hours(done, 10, 750)],
            },
            []
        );
        (outlook.Work.Done, outlook.Work.DoneHours).ShouldBe((750m, 12.5m));
        outlook.AtEnd.Net.ShouldBe(outlook.Work.Likely);
        outlook.Work.Low.ShouldBeGreaterThanOrEqualTo(750);
    }

    [Fact]
    public void Consumables_are_in_the_estimate_as_they_will_be_on_the_bill()
    {
        var outlook = Of(
            Facts(
                NewBuild(ContractTerms.TimeAndMaterials, new(0, 0, 0, 100)),
                [Work("Sill", 100)],
                NewShop(consumables: 5)
            )
        );
        var labour = outlook.Work.Of(CostKind.Labour);
        // 5 % of the labour is more than the 100.00 that were thought of.
        outlook.Work.Of(CostKind.Materials).ShouldBe(Cents.Round(labour * 5 / 100));
        outlook.AtEnd.Net.ShouldBe(outlook.Work.Likely);
    }

    [Fact]
    public void Work_that_waits_for_a_change_is_not_in_the_end_until_it_is_approved()
    {
        var (own, more) = (Work("Sill", 20), Work("Floor", 10));
        var facts = Facts(NewBuild(ContractTerms.TimeAndMaterials, new(1200, 0, 0, 0)), [own, more]);
        var without = Of(facts with { Operations = new Dictionary<Guid, Operation> { [own.Id] = own } }).AtEnd.Net;
        Of(facts with { Changes = [Change(600, ChangeStatus.Pending, more.Id)] }).AtEnd.Net.ShouldBe(without);
        Of(facts with { Changes = [Change(600, ChangeStatus.Approved, more.Id)] })
            .AtEnd.Net.ShouldBeGreaterThan(without);
    }

    [Fact]
    public void Storage_comes_on_top_of_a_cap_and_counts_from_the_notice()
    {
        var build = NewBuild(new(ContractKind.Capped, 100), new(100, 0, 0, 0));
        build.Notice(new(2026, 3, 1));
        var done = Work("Sill", 10);
        done.Finish("Wil", Instant.FromUtc(2026, 3, 1, 16, 0));
        var facts = Facts(build, [done], NewShop(tax: 0)) with { Entries = [Hours(done, 1, 600)] };
        // To the 20th are 19 days, five of them free: 14 x 12.50.
        var bill = BuildBill.Of(facts);
        bill.Lines.Single(l => l.Kind == "storage")
            .ShouldSatisfyAllConditions(
                l => l.Net.ShouldBe(175m),
                l => l.Formula.ShouldBe("14 days x 12.50, 5 days free")
            );
        (bill.Statement.Net, bill.Kinds.Sum(k => k.Net)).ShouldBe((275m, 275m));
        // Once it has left, the day on which it left counts.
        build.End(withdrawn: false, new(2026, 3, 8));
        BuildBill.Of(facts).Lines.Single(l => l.Kind == "storage").Net.ShouldBe(25m);
        build.Notice(null);
        BuildBill.Of(facts).Lines.ShouldNotContain(l => l.Kind == "storage");
    }

    [Fact]
    public void Hours_of_somebody_without_a_rate_are_never_billed_at_nothing()
    {
        var guest = new Person { Id = Guid.CreateVersion7(), Name = "Ewa Lund" };
        var sill = Work("Sill", 10);
        var entry = new TimeEntry
        {
            Id = Guid.CreateVersion7(),
            PersonId = guest.Id,
            BuildId = Guid.Empty,
            OperationId = sill.Id,
            Start = Instant.FromUtc(2026, 3, 3, 8, 0),
        };
        entry.StopAt(Instant.FromUtc(2026, 3, 3, 10, 0));
        var facts = Facts(NewBuild(ContractTerms.TimeAndMaterials, new(0, 0, 0, 0)), [sill]) with
        {
            Entries = [entry],
            People = new Dictionary<Guid, Person> { [guest.Id] = guest },
        };
        var bill = BuildBill.Of(facts);
        bill.Lines.ShouldBeEmpty();
        bill.NotBilled.ShouldHaveSingleItem().Text.ShouldBe("Sill: no rate has been entered for Ewa Lund");
        guest.Rates = [new(new(2026, 6, 1), 20, 50)];
        BuildBill.Of(facts).Lines.Single().Net.ShouldBe(100m, "hours before the first rate are billed at the first");
    }

    private sealed record Drawn(
        int Kind,
        int Price,
        int Retention,
        int Tax,
        int Consumables,
        int[] Budgets,
        int[] Worked,
        int DoneUpTo,
        int[] Parts,
        int Outside,
        int[] Changes,
        int Paid,
        int Goods,
        int Choice
    );

    private static readonly Gen<Drawn> AnyBuild =
        from kind in Gen.Int[0, 3]
        from price in Gen.Int[0, 9000]
        from retention in Gen.Int[0, 20]
        from tax in Gen.Int[0, 25]
        from consumables in Gen.Int[0, 6]
        from budgets in Gen.Int[15, 6000].Array[1, 7]
        from worked in Gen.Int[0, 1200].Array[7]
        from done in Gen.Int[0, 7]
        from parts in Gen.Int[0, 900].Array[0, 5]
        from outside in Gen.Int[0, 1500]
        from changes in Gen.Int[-400, 900].Where(c => c != 0).Array[0, 4] // a change of nothing cannot be sent
        from paid in Gen.Int[0, 12000]
        from goods in Gen.Int[0, 2000]
        from choice in Gen.Int[-200, 600]
        select new Drawn(
            kind,
            price,
            retention,
            tax,
            consumables,
            budgets,
            worked,
            done,
            parts,
            outside,
            changes,
            paid,
            goods,
            choice
        );

    private static BillFacts Make(Drawn d)
    {
        var terms = (ContractKind)d.Kind switch
        {
            ContractKind.TimeAndMaterials => ContractTerms.TimeAndMaterials with { RetentionPercent = d.Retention },
            ContractKind.Progress => new(
                ContractKind.Progress,
                d.Price,
                [new("Shell", 40, d.Retention * 5), new("Colour", 60)],
                RetentionPercent: d.Retention
            ),
            var kind => new(kind, d.Price, RetentionPercent: d.Retention),
        };
        var build = NewBuild(terms, new(d.Price, d.Goods, d.Goods / 2, d.Goods / 5));
        var operations = d
            .Budgets.Select(
                (m, i) =>
                    new Operation
                    {
                        Id = Guid.CreateVersion7(),
                        BuildId = build.Id,
                        Position = i,
                        Name = $"Work {i}",
                        Stage = (Stage)(i % 4),
                        Trade = i % 2 == 0 ? Trade.Metal : Trade.Paint,
                        BudgetMinutes = m,
                    }
            )
            .ToList();
        operations.Take(d.DoneUpTo).ToList().ForEach(o => o.Finish("Wil", Instant.FromUtc(2026, 3, 19, 8, 0)));
        var parts = d
            .Parts.Select(
                (c, i) =>
                {
                    var part = new PartLine
                    {
                        Id = Guid.CreateVersion7(),
                        BuildId = build.Id,
                        Name = $"Part {i}",
                        UnitCost = c + 0.35m,
                        ClientSupplied = i == 3,
                        SupplierId = Guid.CreateVersion7(),
                        OperationId = operations[0].Id,
                    };
                    if (i % 2 == 0)
                    {
                        part.Move(PartState.Received, new(2026, 3, 10));
                    }

                    return part;
                }
            )
            .ToList();
        var job = new OutsideJob
        {
            Id = Guid.CreateVersion7(),
            BuildId = build.Id,
            SupplierId = Guid.Empty,
            Title = "Plating",
            Pieces = [new("bumper", 3)],
            Quoted = d.Outside,
        };
        job.Send(new(2026, 3, 1), new(2026, 3, 30));
        if (d.Outside % 2 == 0)
        {
            job.CountIn(new(2026, 3, 15), [d.Outside % 4]);
        }

        var changes = d
            .Changes.Select(
                (a, i) => Change(a, (ChangeStatus)(i % 3), i < operations.Count && i > 0 ? [operations[^1].Id] : [])
            )
            .ToList();
        return Facts(build, operations, NewShop(d.Tax, d.Consumables)) with
        {
            Entries =
            [
                .. operations.Zip(d.Worked).Where(x => x.Second > 0).Select((x, i) => Hours(x.First, i + 2, x.Second)),
            ],
            Parts = parts,
            Jobs = [job],
            Materials =
            [
                new()
                {
                    BuildId = build.Id,
                    Name = "Epoxy",
                    Quantity = 1.5m,
                    UnitCost = d.Outside / 10m,
                    On = new(2026, 3, 3),
                },
            ],
            Payments =
            [
                new()
                {
                    BuildId = build.Id,
                    On = new(2026, 3, 1),
                    Amount = d.Paid,
                },
            ],
            Changes = changes,
            Accepted = d.Choice == 0 ? null : Estimate(("A", d.Choice)),
        };
    }

    [Fact]
    public void No_two_of_contract_estimate_changes_bill_cover_and_forecast_contradict_each_other() =>
        AnyBuild.Sample(
            d =>
            {
                var facts = Make(d);
                var outlook = Of(facts);
                var (bill, end, agreed) = (outlook.Bill.Statement, outlook.AtEnd, facts.Agreement);
                // Bill and kinds.
                outlook.Bill.Kinds.Sum(k => k.Net).ShouldBe(bill.Net, "the kinds add up to the bill");
                outlook.Bill.Kinds.Sum(k => k.Estimate).ShouldBe(agreed.Net, "the kinds add up to what was agreed");
                outlook.Bill.Lines.Sum(l => l.Net).ShouldBe(bill.Net);
                // Contract and changes.
                (bill.ChangesApproved, bill.ChangesPending).ShouldBe((agreed.Approved, agreed.Pending));
                var kind = facts.Build.Contract.Kind;
                if (kind == ContractKind.Capped)
                {
                    agreed.Limit.ShouldBe(bill.Limit);
                    bill.Net.ShouldBeLessThanOrEqualTo(agreed.Limit!.Value);
                    end.Net.ShouldBeLessThanOrEqualTo(agreed.Limit.Value);
                    agreed.Net.ShouldBeLessThanOrEqualTo(agreed.Limit.Value);
                    end.Net.ShouldBe(Math.Min(outlook.Uncapped, agreed.Limit.Value));
                }
                else if (kind == ContractKind.Fixed && facts.Build.Contract.Price + agreed.Approved >= 0)
                {
                    (bill.Net, end.Net).ShouldBe((agreed.Net, agreed.Net));
                }
                else if (kind == ContractKind.TimeAndMaterials)
                {
                    end.Net.ShouldBe(outlook.Uncapped);
                    // What the estimate says of the work is what the bill comes to at the end.
                    Math.Abs(outlook.Work.Likely - outlook.Uncapped)
                        .ShouldBeLessThanOrEqualTo(0.03m, "but for the cent of a batch that is counted in twice");
                }

                // Cover and forecast.
                (outlook.SoFar + outlook.Charges.Sum(c => c.Amount)).ShouldBe(end.Gross - end.Retention);
                outlook.Cover.End.ShouldBe(-end.Balance);
                (outlook.Cover.RunsOut is null && !outlook.Cover.AlreadyOut).ShouldBe(
                    outlook.Short == 0,
                    "either it covers all or something is short"
                );
                outlook.Short.ShouldBeGreaterThanOrEqualTo(Math.Max(0, end.Balance));
                // When nothing is left to do, the forecast is the bill.
                var ended = facts with
                {
                    Operations = facts.Operations.Values.Select(Ended).ToDictionary(o => o.Id),
                    Parts = [.. facts.Parts.Where(p => !p.IsAwaited)],
                    Jobs = [],
                };
                if (kind != ContractKind.Progress)
                {
                    Of(ended).AtEnd.Net.ShouldBe(BuildBill.Of(ended).Statement.Net);
                }
            },
            iter: 300
        );

    private static Operation Ended(Operation o)
    {
        if (!o.IsDone)
        {
            o.Finish("Wil", Instant.FromUtc(2026, 3, 19, 8, 0));
        }

        return o;
    }

    [Fact]
    public void A_choice_has_the_price_of_its_hours_and_goods_and_becomes_work_in_its_stage()
    {
        var rates = Enum.GetValues<Trade>().ToDictionary(t => t, _ => 60m);
        var (sill, block, colour) = (
            Work("Sill", 10),
            Work("Block", 8, Stage.Fill, Trade.Body),
            Work("Colour", 6, Stage.Colour, Trade.Paint)
        );
        (sill.Position, block.Position, colour.Position) = (1, 2, 3);
        block.After = [new(sill.Id, 0)];
        colour.After = [new(block.Id, 0)];
        var work = new AddedWork(7 * 60, Trade.Paint, Stage.Fill, 120, 300, 10, 40, [sill.Id]);
        work.Check();
        // 7 h less the 10 h of the sill at 60.00; 4 % consumables on the difference.
        work.Price(rates, 4, [sill]).ShouldBe(new EstimateTotals(-180, 120, 300, 40 - 7.20m));
        var made = WorkOfChange.Into(
            [sill, block, colour],
            Guid.Empty,
            "Second colour on the roof",
            work,
            Guid.CreateVersion7
        );
        made.Select(o => (o.Kind, o.Stage, o.BudgetMinutes, o.ClockMinutes))
            .ShouldBe([(OperationKind.Work, Stage.Fill, 420, 0), (OperationKind.Outside, Stage.Fill, 0, 14400)]);
        made[0].After.ShouldHaveSingleItem().Operation.ShouldBe(block.Id);
        colour
            .After.Select(a => a.Operation)
            .ShouldBe([block.Id, made[0].Id, made[1].Id], "the next stage waits for it");
        OperationOrder.Check([sill, block, colour, .. made]);
        Should
            .Throw<Refusal>(() => new AddedWork(60, null, Stage.Fill, 0, 0, 0, 0, []).Check())
            .Field.ShouldBe("trade");
    }

    [Fact]
    public void What_has_no_price_stands_under_not_in_it()
    {
        var facts = Facts(
            NewBuild(ContractTerms.TimeAndMaterials, new(0, 0, 0, 0)),
            [
                Work("Sill", 10),
                new()
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = Guid.Empty,
                    Name = "Plating batch",
                    Kind = OperationKind.Outside,
                    ClockMinutes = 14400,
                },
            ]
        ) with
        {
            Parts =
            [
                new()
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = Guid.Empty,
                    Name = "Loom",
                },
                new()
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = Guid.Empty,
                    Name = "Badge",
                    ClientSupplied = true,
                },
            ],
        };
        var scope = EstimateScope.Of(facts);
        scope
            .NotIncluded([])
            .ShouldBe([
                "Work sent out that nobody has quoted yet: Plating batch",
                "Parts without a price yet: Loom",
                "Parts that you bring: Badge",
            ]);
        // A row that allows for more than what is priced covers it.
        scope
            .NotIncluded([
                new(CostKind.Outside, "Work sent out", 400, 500, 600, ""),
                new(CostKind.Parts, "Parts", 90, 100, 120, ""),
            ])
            .ShouldBe(["Parts that you bring: Badge"]);
        scope
            .Told([new(CostKind.Outside, "Work sent out", 400, 500, 600, "1 of 1 quoted")])
            .Single()
            .RestsOn.ShouldBe("0 of 1 quoted");
    }
}

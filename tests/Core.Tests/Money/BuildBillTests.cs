using CsCheck;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Tests.Money;

/// <summary>A build's bill from what is recorded: what is a line, what is behind it, what is left out.</summary>
public sealed class BuildBillTests
{
    private static readonly Person Wil = new()
    {
        Id = Guid.CreateVersion7(),
        Name = "Wil Aske",
        Rates = [new(new(2026, 1, 1), 25, 60), new(new(2026, 3, 3), 26, 66)],
    };
    private static readonly Person Joss = new()
    {
        Id = Guid.CreateVersion7(),
        Name = "Joss Ferrier",
        Rates = [new(new(2026, 1, 1), 22, 60)],
    };
    private static readonly Operation Sill = new()
    {
        Id = Guid.CreateVersion7(),
        BuildId = Guid.Empty,
        Name = "Right sill",
        Position = 1,
    };
    private static readonly Operation Block = new()
    {
        Id = Guid.CreateVersion7(),
        BuildId = Guid.Empty,
        Name = "Block",
        Position = 2,
    };

    private static Build NewBuild(ContractTerms? contract = null) =>
        new()
        {
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
            Contract = contract ?? ContractTerms.TimeAndMaterials,
            Estimate = new(1000, 500, 250, 100),
        };

    private static ShopSettings NewShop() =>
        new()
        {
            Name = "Shop",
            TimeZone = "Europe/London",
            TaxRates = Enum.GetValues<TaxCategory>().ToDictionary(c => c, _ => 20m),
            PartTiers = [new(100, 40), new(null, 15)],
            OutsideMarkup = 12,
            MaterialsMarkup = 25,
            ConsumablesPercent = 5,
            ConsumablesCap = 10,
        };

    private static TimeEntry Entry(
        Person who,
        Operation what,
        int day,
        int from,
        int to,
        LabourKind kind = LabourKind.Billable
    )
    {
        var entry = new TimeEntry
        {
            Id = Guid.CreateVersion7(),
            PersonId = who.Id,
            BuildId = Guid.Empty,
            OperationId = what.Id,
            Start = Instant.FromUtc(2026, 3, day, from / 60, from % 60),
            Kind = kind,
        };
        entry.StopAt(Instant.FromUtc(2026, 3, day, to / 60, to % 60));
        return entry;
    }

    private static BillFacts Facts(
        List<TimeEntry> entries,
        ContractTerms? contract = null,
        ShopSettings? shop = null
    ) =>
        new(
            NewBuild(contract),
            shop ?? NewShop(),
            entries,
            new[] { Sill, Block }.ToDictionary(o => o.Id),
            new[] { Wil, Joss }.ToDictionary(p => p.Id),
            [],
            [],
            [],
            [],
            []
        )
        {
            Today = new(2026, 3, 20),
        };

    [Fact]
    public void One_operation_at_one_rate_is_one_line_and_its_hours_stand_behind_it()
    {
        // Sill: Wil 1:20 and Joss 0:25 at 60.00, Wil 0:50 at the rate of the next day; rework is not billed.
        var bill = BuildBill.Of(
            Facts([
                Entry(Wil, Sill, 2, 480, 560),
                Entry(Joss, Sill, 2, 480, 505),
                Entry(Wil, Sill, 3, 480, 530),
                Entry(Wil, Block, 3, 600, 660, LabourKind.Rework),
            ])
        );
        var labour = bill.Lines.Where(l => l.Kind == "labour").ToList();
        labour
            .Select(l => (l.Text, l.Formula, l.Net))
            .ShouldBe([("Right sill", "1:45 h x 60.00", 105.00m), ("Right sill", "0:50 h x 66.00", 55.00m)]);
        labour[0]
            .Entries.Select(e => (e.Text, e.Minutes))
            .ShouldBe([("Wil Aske, 2026-03-02", 80), ("Joss Ferrier, 2026-03-02", 25)]);
        bill.NotBilled.ShouldHaveSingleItem().Text.ShouldBe("Block: rework, Wil Aske");
        // 5 % of 160.00 is 8.00, below the cap.
        bill.Lines.Single(l => l.Id == "consumables")
            .ShouldSatisfyAllConditions(
                l => l.Net.ShouldBe(8.00m),
                l => l.Kind.ShouldBe("materials"),
                l => l.Formula.ShouldBe("5 % of 160.00, at most 10.00")
            );
    }

    [Fact]
    public void Goods_are_billed_as_they_come_with_their_formula_beside_them()
    {
        var part = new PartLine
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Sill",
            Quantity = 2,
            UnitCost = 41.35m,
        };
        var agreed = new PartLine
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Loom",
            UnitCost = 300,
            UnitPrice = 350,
        };
        var own = new PartLine
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Badge",
            UnitCost = 80,
            ClientSupplied = true,
        };
        var awaited = new PartLine
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Screen",
            UnitCost = 400,
        };
        foreach (var here in new[] { part, agreed, own })
        {
            here.Move(PartState.Received, new(2026, 3, 2));
        }

        var job = new OutsideJob
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            SupplierId = Guid.Empty,
            Title = "Plating",
            Pieces = [new("bumper", 2), new("handle", 2)],
            Quoted = 400,
        };
        job.Send(new(2026, 3, 1), new(2026, 3, 8));
        var away = new OutsideJob
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            SupplierId = Guid.Empty,
            Title = "Engine",
            Pieces = [new("engine", 1)],
            Quoted = 900,
        };
        job.CountIn(new(2026, 3, 9), [2, 1]);
        var paint = new MaterialBooking
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Epoxy",
            Quantity = 2.5m,
            Unit = "l",
            UnitCost = 31.50m,
            On = new(2026, 3, 2),
        };
        var facts = Facts([]) with
        {
            Parts = [part, agreed, own, awaited],
            Jobs = [job, away],
            Materials = [paint],
            Payments =
            [
                new()
                {
                    BuildId = Guid.Empty,
                    On = new(2026, 3, 1),
                    Amount = 500,
                },
            ],
        };
        var bill = BuildBill.Of(facts);
        bill.Lines.Select(l => (l.Text, l.Formula, l.Net))
            .ShouldBe(
                [
                    ("Sill", "2 x 41.35 + 40 %", 115.78m),
                    ("Loom", "1 x 350.00", 350.00m),
                    ("Badge", "supplied by the client", 0.00m),
                    // Three of four pieces are back: 300.00 of 400.00, and 12 %.
                    ("Plating", "300.00 + 12 %", 336.00m),
                    ("Epoxy", "2.5 l x 31.50 + 25 %", 98.44m),
                ],
                ignoreOrder: true
            );
        bill.Statement.Paid.ShouldBe(500);
        bill.Kinds.Select(k => (k.Kind, k.Estimate, k.Net))
            .ShouldBe([
                ("labour", 1000, 0),
                ("parts", 500, 465.78m),
                ("outside", 250, 336m),
                ("materials", 100, 98.44m),
            ]);
        // What it costs the shop: the client's own badge and the engine that is away cost nothing yet.
        var margin = MarginView.Of(facts, 40, bill.Statement.Net);
        (margin.Parts, margin.Outside, margin.Materials, margin.Cost).ShouldBe(
            (382.70m, 300m, 78.75m, 40 + 382.70m + 300 + 78.75m)
        );
    }

    [Fact]
    public void Under_a_fixed_price_the_lines_do_not_count()
    {
        var bill = BuildBill.Of(Facts([Entry(Wil, Sill, 2, 480, 560)], new(ContractKind.Fixed, 4000)));
        bill.Lines.ShouldHaveSingleItem().Kind.ShouldBe("contract");
        bill.Kinds.Last().ShouldBe(new("contract", 4000, 4000));
    }

    [Fact]
    public void Minutes_are_rounded_entry_by_entry_and_the_sum_is_priced_once()
    {
        var shop = NewShop();
        shop.Rounding = MinuteRounding.Nearest6;
        // 80 becomes 78 and 25 becomes 24: 1:42 at 60.00.
        BuildBill
            .Of(Facts([Entry(Wil, Sill, 2, 480, 560), Entry(Joss, Sill, 2, 480, 505)], shop: shop))
            .Lines[0]
            .ShouldSatisfyAllConditions(l => l.Formula.ShouldBe("1:42 h x 60.00"), l => l.Net.ShouldBe(102.00m));
    }

    [Fact]
    public void Every_minute_is_either_on_the_bill_or_told_as_not_billed() =>
        Gen.Select(
                Gen.Int[0, 1],
                Gen.Int[0, 1],
                Gen.Int[2, 5],
                Gen.Int[0, 700],
                Gen.Int[1, 600],
                Gen.Enum<LabourKind>()
            )
            .List[0, 12]
            .Sample(
                drawn =>
                {
                    var entries = drawn
                        .Select(d =>
                            Entry(
                                d.Item1 == 0 ? Wil : Joss,
                                d.Item2 == 0 ? Sill : Block,
                                d.Item3,
                                d.Item4,
                                d.Item4 + d.Item5,
                                d.Item6
                            )
                        )
                        .ToList();
                    var bill = BuildBill.Of(Facts(entries));
                    var told = bill.Lines.SelectMany(l => l.Entries).Concat(bill.NotBilled).ToList();
                    told.Select(e => e.Id).Order().ShouldBe(entries.Select(e => e.Id).Order());
                    told.Sum(e => e.Minutes).ShouldBe(drawn.Sum(d => d.Item5));
                    bill.Kinds.Sum(k => k.Net).ShouldBe(bill.Statement.Net);
                },
                iter: 200
            );
}

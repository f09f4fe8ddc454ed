using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Money;

/// <summary>What the money still to come is computed from, beside the bill.</summary>
/// <param name="Rates">Billing rate of each trade.</param>
/// <param name="Ends">The day on which the plan ends an operation; what has no date is left out.</param>
/// <param name="Goods">What is allowed for besides labour: the rows of the estimate that is being written; null: what
/// was agreed or entered.</param>
public sealed record MoneyAhead(
    TradeHistory History,
    IReadOnlyDictionary<Trade, decimal> Rates,
    IReadOnlyDictionary<Guid, LocalDate> Ends,
    IReadOnlyList<PaperGoods>? Goods = null
);

/// <summary>
/// A build's money from the first hour to the last: the bill as it stands, what the rest will likely come to, and the
/// bill at the end. Estimate, forecast and cover are read from it, so that no two of them differ.
/// </summary>
/// <param name="Work">Likely hours of the work that is not done, and goods, net.</param>
/// <param name="AtEnd">The statement when all of it is done.</param>
/// <param name="Uncapped">What the work and goods come to at the end, net, whatever the contract bills for
/// them.</param>
/// <param name="SoFar">What the work until now comes to for the client, tax included: at an agreed price its share of
/// the price.</param>
/// <param name="Charges">What is still to come day by day, tax included, a credit below nothing; they add up to what
/// the end comes to beyond what is so far.</param>
public sealed record MoneyOutlook(
    BuildBill Bill,
    EstimateFigures Work,
    StatementResult AtEnd,
    decimal Uncapped,
    decimal SoFar,
    IReadOnlyList<DatedAmount> Charges
)
{
    /// <summary>What is paid beyond the work so far, tax included; below nothing: the work is ahead of the
    /// payments.</summary>
    public decimal Ahead => Bill.Statement.Paid - SoFar;

    /// <summary>How far what was paid reaches.</summary>
    public DepositCover Cover { get; } =
        Deposit.Cover(
            Bill.Statement.Paid - SoFar,
            Charges.Where(c => c.Amount > 0),
            Charges.Where(c => c.Amount < 0).Select(c => c with { Amount = -c.Amount })
        );

    /// <summary>What of the work at the end the contract does not bill, net.</summary>
    public decimal NotBillable => Math.Max(0, Uncapped - AtEnd.Net);

    /// <summary>What must still be paid so that all of it is covered, tax included; what is held back is not asked for
    /// yet.</summary>
    public decimal Short => Cover.TopUpNeeded;

    /// <summary>Makes the outlook.</summary>
    public static MoneyOutlook Of(BillFacts facts, MoneyAhead ahead)
    {
        var bill = BuildBill.Of(facts);
        var recorded = BuildBill.InputOf(facts);
        var still = new StillToCome(facts, ahead, recorded);
        var work = still.Figures;
        var end = still.Until(null);
        var atEnd = Statement.Of(end);
        var lines = Statement.Of(end with { Contract = ContractTerms.TimeAndMaterials });
        var byLines = facts.Build.Contract.Kind is ContractKind.TimeAndMaterials or ContractKind.Capped;
        var storage = bill.Lines.Where(l => l.Kind == "storage").Sum(l => l.Net + l.Tax);
        // What is held back is not paid for until it is released.
        decimal Due(StatementResult s) => s.Gross - s.Retention;
        // At an agreed price the client pays for a share of it as that share of the work is done.
        decimal Worth(StatementInput input) =>
            byLines ? Due(Statement.Of(input))
            : lines.Gross - storage <= 0 ? Due(atEnd)
            : Cents.Round(
                (Due(atEnd) - storage)
                    * (Statement.Of(input with { Contract = ContractTerms.TimeAndMaterials }).Gross - storage)
                    / (lines.Gross - storage)
            ) + storage;
        var (soFar, charges) = (Worth(recorded), new List<DatedAmount>());
        var before = soFar;
        foreach (var day in still.Days)
        {
            var now = day == still.Days[^1] ? Due(atEnd) : Worth(still.Until(day));
            if (now != before)
            {
                charges.Add(new(day, now - before));
                before = now;
            }
        }

        return new(
            bill,
            work,
            atEnd,
            lines.Net - bill.Lines.Where(l => l.Kind == "storage").Sum(l => l.Net),
            soFar,
            charges
        );
    }
}

/// <summary>Work and goods of a build that are still to come, as items of a statement.</summary>
internal sealed class StillToCome
{
    private readonly StatementInput _recorded;
    private readonly List<(LocalDate On, PartItem Item)> _parts;
    private readonly List<(LocalDate On, CostItem Item)> _outside;
    private readonly List<Cell> _cells;
    private readonly List<NetItem> _allowed;
    private readonly LocalDate _last;

    public StillToCome(BillFacts facts, MoneyAhead ahead, StatementInput recorded)
    {
        _recorded = recorded;
        var today = facts.Today;
        var open = facts.Operations.Values.Where(o => !o.Removed && !o.IsDone).OrderBy(o => o.Position).ToList();
        var works = facts.Build.Status is BuildStatus.Open or BuildStatus.Paused or BuildStatus.Enquiry;
        var worked = facts.Entries.ToLookup(e => e.OperationId);
        int Left(Operation o) =>
            o.LeftMinutes(
                worked[o.Id]
                    .Sum(e =>
                        o.StatedAt is { } at
                            ? e.Stop <= at
                                ? 0
                                : (int)(e.Stop!.Value - Instant.Max(at, e.Start)).TotalMinutes
                            : e.Minutes(e.Stop!.Value)
                    )
            );
        var changed = open.Where(o => facts.ChangeOf(o.Id)?.Change is ChangeStatus.Pending or ChangeStatus.Declined)
            .Select(o => o.Id)
            .ToHashSet();
        // What waits for a change order is not agreed to: its money stands on that order.
        var work = works
            ? open.Where(o =>
                    o is { Kind: OperationKind.Work, Trade: not null, BudgetMinutes: > 0 } && !changed.Contains(o.Id)
                )
                .ToList()
            : [];
        LocalDate Day(Guid? operation) =>
            operation is { } id && ahead.Ends.TryGetValue(id, out var on) ? LocalDate.Max(on, today) : today;
        var ends = work.Select(o => ahead.Ends.GetValueOrDefault(o.Id, today)).Append(today).ToList();
        _parts = works
            ?
            [
                .. facts
                    .Parts.Where(p =>
                        p is { IsAwaited: true, ClientSupplied: false }
                        && facts.ChangeOf(p.Id)?.Change is not (ChangeStatus.Pending or ChangeStatus.Declined)
                    )
                    .Select(p =>
                        (
                            LocalDate.Max(today, p.ExpectedOn ?? p.OrderedOn ?? Day(p.OperationId)),
                            p.ToItem() with
                            {
                                Change = facts.ChangeOf(p.Id)?.Id.ToString(),
                            }
                        )
                    ),
            ]
            : [];
        _outside = works
            ?
            [
                .. facts
                    .Jobs.Select(j => (Job: j, Open: Rest(j)))
                    .Where(x => x.Open > 0)
                    .Select(x =>
                        (
                            x.Job.PromisedOn is { } p ? LocalDate.Max(today, p) : Day(x.Job.OperationId),
                            new CostItem($"{x.Job.Id} to come", x.Open, Category: TaxKeys.Outside)
                        )
                    ),
            ]
            : [];
        _last = ends.Concat(_parts.Select(p => p.On)).Concat(_outside.Select(o => o.On)).Max();
        var bill = Statement.Of(recorded with { Contract = ContractTerms.TimeAndMaterials });
        decimal Billed(string category) =>
            bill
                .Lines.Where(l =>
                    l.Category == category && l.Id != "consumables" && recorded.Besides.All(b => b.Id != l.Id)
                )
                .Sum(l => l.Net);
        var rest = open.Count > 0 && works;
        var goods = ahead.Goods ?? (rest ? Agreed(facts.Build.Estimate) : []);
        decimal Known(CostKind kind) =>
            kind switch
            {
                CostKind.Parts => Billed(TaxKeys.Parts)
                    + _parts.Sum(p => Cents.Round(Statement.PartNet(p.Item, recorded.PartTiers))),
                CostKind.Outside => Billed(TaxKeys.Outside)
                    + _outside.Sum(o => Cents.Round(Markup.On(o.Item.Cost, recorded.OutsideMarkup))),
                _ => 0,
            };
        List<PaperGoods> all =
        [
            .. goods,
            .. new[] { CostKind.Parts, CostKind.Outside }.Select(k => Beyond(goods, k, Known(k))).OfType<PaperGoods>(),
        ];
        Figures = EstimateFigures.Of(
            new(
                [.. work.Select(o => ToEstimate(o, Left(o), ahead.Ends))],
                all,
                ahead.History,
                ahead.Rates,
                facts.Build.Id
            )
            {
                DoneLabour = Billed(TaxKeys.Labour),
                DoneHours = Math.Round(
                    recorded.Labour.Where(l => bill.NotBilled.All(n => n.Id != l.Id)).Sum(l => l.Minutes) / 60m,
                    2
                ),
                Booked = Billed(TaxKeys.Materials),
                ConsumablesPercent = recorded.ConsumablesPercent ?? 0,
                ConsumablesCap = recorded.ConsumablesCap,
            }
        );
        _cells =
        [
            .. Figures.Rows.SelectMany(r =>
                r.Cells.Select(c => new Cell(
                    r.Stage,
                    c,
                    [
                        .. work.Where(o => o.Stage == r.Stage && o.Trade == c.Trade)
                            .Select(o => (LocalDate.Max(today, ahead.Ends.GetValueOrDefault(o.Id, _last)), Left(o))),
                    ]
                ))
            ),
        ];
        _allowed =
        [
            .. new[] { (CostKind.Parts, TaxKeys.Parts), (CostKind.Outside, TaxKeys.Outside) }
                .Select(k => new NetItem($"allowed for {k.Item2}", Figures.Of(k.Item1) - Known(k.Item1), k.Item2))
                .Where(a => a.Net > 0),
        ];
        // The consumables are a line of the statement themselves.
        var labour = Figures.Of(CostKind.Labour);
        var materials =
            Figures.Of(CostKind.Materials)
            - new EstimateFacts([], [], ahead.History, ahead.Rates, Guid.Empty)
            {
                Booked = Billed(TaxKeys.Materials),
                ConsumablesPercent = recorded.ConsumablesPercent ?? 0,
                ConsumablesCap = recorded.ConsumablesCap,
            }.Materials(labour);
        if (materials > 0)
        {
            _allowed.Add(new("allowed for materials", materials, TaxKeys.Materials));
        }

        Days =
        [
            .. _cells
                .SelectMany(c => c.Ends.Select(e => e.On))
                .Concat(_parts.Select(p => p.On))
                .Concat(_outside.Select(o => o.On))
                .Append(_last)
                .Distinct()
                .Order(),
        ];
    }

    /// <summary>The work with its likely hours, and all goods.</summary>
    public EstimateFigures Figures { get; }

    /// <summary>Days on which something comes, ascending.</summary>
    public IReadOnlyList<LocalDate> Days { get; }

    /// <summary>The statement's items with what has come by the end of a day; null: all of it.</summary>
    public StatementInput Until(LocalDate? day) =>
        _recorded with
        {
            Labour = [.. _recorded.Labour, .. _cells.Select(c => c.Until(day)).Where(l => l.Minutes > 0)],
            Parts = [.. _recorded.Parts, .. _parts.Where(p => day is null || p.On <= day).Select(p => p.Item)],
            Outside = [.. _recorded.Outside, .. _outside.Where(o => day is null || o.On <= day).Select(o => o.Item)],
            Allowed = day is null || day >= _last ? _allowed : [],
        };

    /// <summary>Of a batch, what has not been counted in yet, at cost.</summary>
    private static decimal Rest(OutsideJob job) => Cents.Round(job.Price) - Cents.Round(job.ToItem()?.Cost ?? 0);

    private static EstimateWork ToEstimate(Operation o, int left, IReadOnlyDictionary<Guid, LocalDate> ends) =>
        new(o.Name, o.Stage, o.Trade!.Value, left)
        {
            Own = o.Terms is { LowMinutes: { } low, HighMinutes: { } high }
                ? new(Math.Min(low, o.BudgetMinutes), o.BudgetMinutes, Math.Max(high, o.BudgetMinutes))
                : null,
            Ends = ends.TryGetValue(o.Id, out var on) ? on : null,
        };

    private static List<PaperGoods> Agreed(EstimateTotals of) =>
        [
            .. new[] { (CostKind.Parts, of.Parts), (CostKind.Outside, of.Outside), (CostKind.Materials, of.Materials) }
                .Where(k => k.Item2 > 0)
                .Select(k => new PaperGoods(k.Item1, k.Item1.ToString(), k.Item2, k.Item2, k.Item2, "")),
        ];

    /// <summary>A row for what is priced or quoted beyond the rows that were entered; null: nothing is.</summary>
    private static PaperGoods? Beyond(IReadOnlyList<PaperGoods> goods, CostKind kind, decimal known)
    {
        var entered = goods.Where(g => g.Kind == kind).Sum(g => g.Likely);
        var more = known - entered;
        var text = (kind, entered == 0) switch
        {
            (CostKind.Parts, true) => "Parts",
            (CostKind.Parts, _) => "More parts",
            (_, true) => "Work sent out",
            _ => "More work sent out",
        };
        return more <= 0 ? null : new(kind, text, more, more, more, kind == CostKind.Parts ? "as priced" : "as quoted");
    }

    /// <summary>One trade's likely hours in a stage, with the days on which the plan ends its operations and their
    /// weights.</summary>
    private sealed record Cell(Stage Stage, EstimateCell Of, IReadOnlyList<(LocalDate On, int Weight)> Ends)
    {
        private readonly int _minutes = (int)(Of.Hours * 60);

        public LabourItem Until(LocalDate? day)
        {
            var (all, by) = (Ends.Sum(e => e.Weight), Ends.Where(e => day is null || e.On <= day).Sum(e => e.Weight));
            var minutes =
                day is null || by == all ? _minutes
                : all == 0 ? 0
                : (int)Math.Round((decimal)_minutes * by / all, MidpointRounding.AwayFromZero);
            return new($"{Stage} {Of.Trade} to come", minutes, Of.Rate);
        }
    }
}

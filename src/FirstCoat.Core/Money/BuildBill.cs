using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Money;

/// <summary>What stands behind a figure: a line of the bill in words.</summary>
/// <param name="Formula">The figure with its numbers in it.</param>
public sealed record MoneyLine(
    string Id,
    string Kind,
    string Text,
    string Formula,
    decimal Net,
    decimal Tax,
    IReadOnlyList<MoneyEntry> Entries
);

/// <summary>One record behind a line.</summary>
public sealed record MoneyEntry(Guid Id, string Text, int? Minutes, decimal? Amount);

/// <summary>Estimate and present state of one kind of cost, net.</summary>
public sealed record MoneyKind(string Kind, decimal Estimate, decimal Net);

/// <summary>What is recorded about a build that bears on its bill.</summary>
/// <param name="Entries">Stopped entries that count, in order of start.</param>
/// <param name="Operations">Of the build, by id.</param>
/// <param name="People">Everybody who ever worked here, by id.</param>
/// <param name="Changes">Its change orders, in order of their number.</param>
/// <param name="Parts">In order of entry, also those that are not here yet; likewise outside jobs, materials and
/// payments.</param>
public sealed record BillFacts(
    Build Build,
    ShopSettings Shop,
    IReadOnlyList<TimeEntry> Entries,
    IReadOnlyDictionary<Guid, Operation> Operations,
    IReadOnlyDictionary<Guid, Person> People,
    IReadOnlyList<PartLine> Parts,
    IReadOnlyList<OutsideJob> Jobs,
    IReadOnlyList<MaterialBooking> Materials,
    IReadOnlyList<Payment> Payments,
    IReadOnlyList<ClientPaper> Changes
)
{
    /// <summary>The shop's day.</summary>
    public required LocalDate Today { get; init; }

    /// <summary>The estimate that was accepted; null: none was.</summary>
    public ClientPaper? Accepted { get; init; }

    /// <summary>The shop's own.</summary>
    public DateTimeZone Zone { get; } = DateTimeZoneProviders.Tzdb[Shop.TimeZone];

    /// <summary>Those that are here and billed.</summary>
    internal IEnumerable<PartLine> Received => Parts.Where(p => !p.IsAwaited);

    /// <summary>What was agreed.</summary>
    public Agreement Agreement => Agreement.Of(Build, Changes, Accepted);

    /// <summary>Storage so far; null: the client has not been told that the work is complete, or nothing is
    /// charged.</summary>
    public StorageCharge? Storage =>
        Build.NoticeOn is { } notice
        && Money.Storage.Of(
            notice,
            LocalDate.Max(notice, Build.LeftOn ?? Today),
            Shop.StorageFreeDays,
            Shop.StoragePerDay
        )
            is { Amount: > 0 } charge
            ? charge
            : null;

    /// <summary>What was worked, received, counted in and booked from a day on.</summary>
    public BillFacts Since(LocalDate day)
    {
        var from = day.AtStartOfDayInZone(Zone).ToInstant();
        return this with
        {
            Entries = [.. Entries.Where(e => e.Start >= from)],
            Parts = [.. Parts.Where(p => p.IsAwaited || p.ReceivedOn >= day)],
            Jobs = [.. Jobs.Where(j => j.BackOn >= day)],
            Materials = [.. Materials.Where(m => m.On >= day)],
        };
    }

    /// <summary>The change order that an operation or a part came in with; null: it was agreed to at the
    /// start.</summary>
    internal ClientPaper? ChangeOf(Guid id) =>
        Changes.LastOrDefault(c => c.Lines.Any(l => l.Operations.Contains(id) || l.Parts.Contains(id)));
}

/// <summary>
/// A build's bill as it stands, each figure with the records and the formula behind it. A labour line is one operation
/// at one rate: minutes summed, rounded once.
/// </summary>
public sealed record BuildBill(
    IReadOnlyList<MoneyKind> Kinds,
    IReadOnlyList<MoneyLine> Lines,
    IReadOnlyList<MoneyEntry> NotBilled,
    StatementResult Statement
)
{
    private const string Consumables = "consumables";
    private const string StorageId = "storage";
    private const string OverCap = "overCap";

    private sealed record Words(string Kind, string Text, string Formula, IReadOnlyList<MoneyEntry> Entries);

    private sealed record Hour(TimeEntry Entry, WorkedEntry Worked, int Minutes);

    private sealed record Group(Guid Operation, decimal Rate, List<Hour> Hours);

    /// <summary>Makes the bill from what is recorded.</summary>
    public static BuildBill Of(BillFacts f)
    {
        var hours = HoursOf(f);
        var groups = Grouped(f, hours);
        var input = InputOf(f, groups);
        var labour = input.Labour;
        var counted = f.Jobs.Select(j => (Job: j, Item: j.ToItem())).Where(j => j.Item is not null).ToList();
        var statement = Money.Statement.Of(input);
        var words = new Dictionary<string, Words>();
        foreach (var (group, item) in groups.Zip(labour))
        {
            words[item.Id] = new(
                "labour",
                f.Operations[group.Operation].Name,
                $"{Clock(item.Minutes)} h x {item.Rate:0.00}",
                group
                    .Hours.Select(h => new MoneyEntry(
                        h.Entry.Id,
                        $"{f.People[h.Entry.PersonId].Name}, {h.Worked.Day:yyyy-MM-dd}",
                        h.Minutes,
                        null
                    ))
                    .ToList()
            );
        }

        AddGoods(words, f, counted!);
        foreach (var c in f.Changes)
        {
            words[c.Id.ToString()] = new("contract", $"{c.Name}: {c.Words.Title}", $"agreed {c.Adds.Total:0.00}", []);
        }

        foreach (var c in f.Accepted?.Taken ?? [])
        {
            words[Agreement.ChoiceId(c)] = new(
                "contract",
                $"Chosen with the estimate: {c.Text}",
                $"agreed {c.Adds:0.00}",
                []
            );
        }

        if (f.Storage is { } storage)
        {
            words[StorageId] = new(
                "storage",
                $"Storage since notice of completion on {f.Build.NoticeOn:yyyy-MM-dd}",
                $"{storage.Days} days x {f.Shop.StoragePerDay:0.00}, {f.Shop.StorageFreeDays} days free",
                []
            );
        }

        var labourNet = statement
            .Lines.Where(l => words.TryGetValue(l.Id, out var w) && w.Kind == "labour")
            .Sum(l => l.Net);
        words[Consumables] = new(
            "materials",
            "Consumables",
            $"{f.Shop.ConsumablesPercent:0.##} % of {labourNet:0.00}{(f.Shop.ConsumablesCap is { } cap ? $", at most {cap:0.00}" : "")}",
            []
        );
        // Without labour there are no consumables, and a line of nothing says nothing.
        var lines = statement
            .Lines.Where(l => l.Id != Consumables || l.Net != 0)
            .Select(l =>
                words.TryGetValue(l.Id, out var w)
                    ? new MoneyLine(l.Id, w.Kind, w.Text, w.Formula, l.Net, l.Tax, w.Entries)
                    : Untold(f, l)
            )
            .ToList();
        var notBilled = hours
            .Where(h => !IsBilled(f, h))
            .Select(h => new MoneyEntry(
                h.Entry.Id,
                $"{f.Operations[h.Entry.OperationId].Name}: {(h.Entry.Kind == LabourKind.Billable ? "no rate has been entered for" : $"{h.Entry.Kind.ToString().ToLowerInvariant()},")} {f.People[h.Entry.PersonId].Name}",
                h.Minutes,
                null
            ))
            .Concat(
                statement
                    .NotBilled.Where(n => words.ContainsKey(n.Id))
                    .SelectMany(n =>
                        words[n.Id]
                            .Entries.Select(e =>
                                e with
                                {
                                    Text =
                                        $"{words[n.Id].Text}: {(n.Why == "pending" ? "waits for its change order" : "its change order was declined")}, {e.Text}",
                                }
                            )
                    )
            )
            .ToList();
        return new(KindsOf(f, lines), lines, notBilled, statement);
    }

    /// <summary>What the work itself comes to, tax included, whatever the contract bills for it.</summary>
    public static decimal WorkGross(BillFacts f) =>
        Money.Statement.Of(InputOf(f) with { Contract = ContractTerms.TimeAndMaterials, Besides = [] }).Gross;

    /// <summary>The bill as the statement takes it in.</summary>
    internal static StatementInput InputOf(BillFacts f) => InputOf(f, Grouped(f, HoursOf(f)));

    private static StatementInput InputOf(BillFacts f, List<Group> groups) =>
        new()
        {
            Contract = f.Build.Contract,
            TaxRates = TaxKeys.Of(f.Shop.TaxRates),
            PartTiers = f.Shop.PartTiers,
            OutsideMarkup = f.Shop.OutsideMarkup,
            MaterialsMarkup = f.Shop.MaterialsMarkup,
            Labour = groups
                .Select(g => new LabourItem(
                    $"{g.Operation}@{g.Rate}",
                    g.Hours.Sum(h => LabourMinutes.Round(h.Minutes, f.Shop.Rounding)),
                    g.Rate,
                    Change: f.ChangeOf(g.Operation)?.Id.ToString()
                ))
                .ToList(),
            Parts = f.Received.Select(p => p.ToItem() with { Change = f.ChangeOf(p.Id)?.Id.ToString() }).ToList(),
            Outside = f.Jobs.Select(j => j.ToItem()).OfType<CostItem>().ToList(),
            Materials = f
                .Materials.Select(m => new CostItem(
                    m.Id.ToString(),
                    m.Quantity * m.UnitCost,
                    Category: TaxKeys.Materials
                ))
                .ToList(),
            ConsumablesPercent = f.Shop.ConsumablesPercent == 0 ? null : f.Shop.ConsumablesPercent,
            ConsumablesCap = f.Shop.ConsumablesCap,
            ConsumablesCategory = TaxKeys.Materials,
            Changes = Agreement.Changes(f.Changes, f.Accepted),
            Besides = f.Storage is { } storage ? [new(StorageId, storage.Amount, TaxKeys.Labour)] : [],
            Payments = f.Payments.Select(p => p.Amount).ToList(),
        };

    /// <summary>Hours of somebody without any rate wait for one: they are never billed at nothing.</summary>
    private static bool IsBilled(BillFacts f, Hour h) =>
        h.Entry.Kind == LabourKind.Billable && f.People[h.Entry.PersonId].Rates.Count > 0;

    private static List<Hour> HoursOf(BillFacts f) =>
        f.Entries.Select(e => new Hour(e, e.Worked(f.People[e.PersonId], f.Zone), e.Minutes(e.Stop!.Value))).ToList();

    private static List<Group> Grouped(BillFacts f, List<Hour> hours) =>
        hours
            .Where(h => IsBilled(f, h))
            .GroupBy(h => (h.Entry.OperationId, h.Worked.BillRate))
            .OrderBy(g => f.Operations[g.Key.OperationId].Position)
            .ThenBy(g => g.Key.BillRate)
            .Select(g => new Group(g.Key.OperationId, g.Key.BillRate, [.. g]))
            .ToList();

    private static void AddGoods(
        Dictionary<string, Words> words,
        BillFacts f,
        List<(OutsideJob Job, CostItem Item)> counted
    )
    {
        foreach (var p in f.Received)
        {
            var formula =
                p.ClientSupplied ? "supplied by the client"
                : p.UnitPrice is { } price ? $"{p.Quantity:0.##} x {price:0.00}"
                : $"{p.Quantity:0.##} x {p.UnitCost:0.00} + {PartTier.PercentFor(p.UnitCost, f.Shop.PartTiers):0.##} %";
            words[p.Id.ToString()] = new(
                "parts",
                p.Name,
                formula,
                [new(p.Id, $"received {p.ReceivedOn:yyyy-MM-dd}", null, p.UnitCost)]
            );
        }

        foreach (var (job, item) in counted)
        {
            words[job.Id.ToString()] = new(
                "outside",
                job.Title,
                $"{item.Cost:0.00} + {f.Shop.OutsideMarkup:0.##} %",
                [new(job.Id, $"{job.CountedIn} of {job.Sent} counted in", null, job.Billed ?? job.Quoted)]
            );
        }

        foreach (var m in f.Materials)
        {
            words[m.Id.ToString()] = new(
                "materials",
                m.Name,
                $"{m.Quantity:0.###} {m.Unit} x {m.UnitCost:0.00} + {f.Shop.MaterialsMarkup:0.##} %",
                [new(m.Id, $"booked {m.On:yyyy-MM-dd}", null, m.UnitCost)]
            );
        }
    }

    /// <summary>A line that no record stands behind: the agreed price, a stage's share of it, or what lies above the
    /// cap.</summary>
    private static MoneyLine Untold(BillFacts f, StatementLine l) =>
        f.Build.Contract.Kind == ContractKind.Capped
            ? new(l.Id, OverCap, $"Above the cap, not billed: {l.Category}", "", l.Net, l.Tax, [])
        : l.Id.StartsWith(Money.Statement.WriteDown, StringComparison.Ordinal)
            ? new(l.Id, "contract", $"Above what was agreed, not billed: {l.Category}", "", l.Net, l.Tax, [])
        : new(l.Id, "contract", l.Id == Money.Statement.ContractLine ? "Agreed price" : l.Id, "", l.Net, l.Tax, []);

    /// <summary>Kind by kind beside what was agreed; at an agreed price the price is one kind. What was agreed adds up
    /// to the agreement.</summary>
    private static List<MoneyKind> KindsOf(BillFacts f, List<MoneyLine> lines)
    {
        decimal Net(string kind) => lines.Where(l => l.Kind == kind).Sum(l => l.Net);
        var agreed = f.Agreement;
        List<MoneyKind> kinds = agreed.Kind is ContractKind.Fixed or ContractKind.Progress
            ? [new("contract", agreed.Net, Net("contract"))]
            :
            [
                new("labour", agreed.ByKind.Labour, Net("labour")),
                new("parts", agreed.ByKind.Parts, Net("parts")),
                new("outside", agreed.ByKind.Outside, Net("outside")),
                new("materials", agreed.ByKind.Materials, Net("materials")),
            ];
        if (agreed.Kind == ContractKind.Capped && lines.Any(l => l.Kind == OverCap))
        {
            kinds.Add(new(OverCap, 0, Net(OverCap)));
        }

        if (lines.Any(l => l.Kind == "storage"))
        {
            kinds.Add(new("storage", 0, Net("storage")));
        }

        return kinds;
    }

    private static string Clock(int minutes) => $"{minutes / 60}:{minutes % 60:00}";
}

/// <summary>For the manager's eyes: what the build costs the shop and leaves.</summary>
public sealed record MarginView(decimal Labour, decimal Parts, decimal Outside, decimal Materials, decimal Bill)
{
    /// <summary>What a build costs the shop before mark-up, of what is on its bill.</summary>
    /// <param name="wages">Of its entries, overtime included.</param>
    public static MarginView Of(BillFacts f, decimal wages, decimal bill) =>
        new(
            wages,
            f.Received.Where(p => !p.ClientSupplied).Sum(p => Cents.Round(p.Quantity * p.UnitCost)),
            f.Jobs.Select(j => j.ToItem()).OfType<CostItem>().Sum(i => Cents.Round(i.Cost)),
            f.Materials.Sum(m => Cents.Round(m.Quantity * m.UnitCost)),
            bill
        );

    public decimal Cost => Labour + Parts + Outside + Materials;
    public decimal Margin => Bill - Cost;
}

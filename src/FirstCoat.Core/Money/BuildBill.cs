using FirstCoat.Core.Builds;
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
public sealed record MoneyLine(string Id, string Kind, string Text, string Formula, decimal Net, decimal Tax, IReadOnlyList<MoneyEntry> Entries);

/// <summary>One record behind a line.</summary>
public sealed record MoneyEntry(Guid Id, string Text, int? Minutes, decimal? Amount);

/// <summary>Estimate and present state of one kind of cost, net.</summary>
public sealed record MoneyKind(string Kind, decimal Estimate, decimal Net);

/// <summary>What is recorded about a build that bears on its bill.</summary>
/// <param name="Entries">Stopped entries that count, in order of start.</param>
/// <param name="Operations">Of the build, by id.</param>
/// <param name="People">Everybody who ever worked here, by id.</param>
/// <param name="Changes">Its change orders, in order of their number.</param>
/// <param name="Parts">Those received, in order of entry; likewise outside jobs, materials and payments.</param>
public sealed record BillFacts(
    Build Build, ShopSettings Shop, IReadOnlyList<TimeEntry> Entries, IReadOnlyDictionary<Guid, Operation> Operations, IReadOnlyDictionary<Guid, Person> People,
    IReadOnlyList<PartLine> Parts, IReadOnlyList<OutsideJob> Jobs, IReadOnlyList<MaterialBooking> Materials, IReadOnlyList<Payment> Payments, IReadOnlyList<ClientPaper> Changes)
{
    internal DateTimeZone Zone { get; } = DateTimeZoneProviders.Tzdb[Shop.TimeZone];

    /// <summary>What was worked, received, counted in and booked from a day on.</summary>
    public BillFacts Since(LocalDate day)
    {
        var from = day.AtStartOfDayInZone(Zone).ToInstant();
        return this with
        {
            Entries = [.. Entries.Where(e => e.Start >= from)],
            Parts = [.. Parts.Where(p => p.ReceivedOn >= day)],
            Jobs = [.. Jobs.Where(j => j.BackOn >= day)],
            Materials = [.. Materials.Where(m => m.On >= day)],
        };
    }

    /// <summary>The change order that an operation or a part came in with; null: it was agreed to at the start.</summary>
    internal ClientPaper? ChangeOf(Guid id) => Changes.LastOrDefault(c => c.Lines.Any(l => l.Operations.Contains(id) || l.Parts.Contains(id)));
}

/// <summary>
/// A build's bill as it stands, each figure with the records and the formula behind it. A labour line is one operation
/// at one rate: minutes summed, rounded once.
/// </summary>
public sealed record BuildBill(IReadOnlyList<MoneyKind> Kinds, IReadOnlyList<MoneyLine> Lines, IReadOnlyList<MoneyEntry> NotBilled, StatementResult Statement)
{
    private const string Consumables = "consumables";

    /// <summary>What the work itself comes to, tax included, whatever the contract bills for it.</summary>
    public decimal WorkGross => Lines.Where(l => l.Kind != "contract").Sum(l => l.Net + l.Tax);

    private sealed record Words(string Kind, string Text, string Formula, IReadOnlyList<MoneyEntry> Entries);

    private sealed record Hour(TimeEntry Entry, WorkedEntry Worked, int Minutes);

    /// <summary>Makes the bill from what is recorded.</summary>
    public static BuildBill Of(BillFacts f)
    {
        var hours = f.Entries.Select(e => new Hour(e, e.Worked(f.People[e.PersonId], f.Zone), e.Minutes(e.Stop!.Value))).ToList();
        var groups = hours.Where(h => h.Entry.Kind == LabourKind.Billable)
            .GroupBy(h => (h.Entry.OperationId, h.Worked.BillRate)).OrderBy(g => f.Operations[g.Key.OperationId].Position).ThenBy(g => g.Key.BillRate).ToList();
        var labour = groups.Select(g => new LabourItem($"{g.Key.OperationId}@{g.Key.BillRate}", g.Sum(h => LabourMinutes.Round(h.Minutes, f.Shop.Rounding)), g.Key.BillRate, Change: f.ChangeOf(g.Key.OperationId)?.Id.ToString())).ToList();
        var counted = f.Jobs.Select(j => (Job: j, Item: j.ToItem())).Where(j => j.Item is not null).ToList();
        var statement = Money.Statement.Of(new()
        {
            Contract = f.Build.Contract,
            TaxRates = TaxKeys.Of(f.Shop.TaxRates),
            PartTiers = f.Shop.PartTiers,
            OutsideMarkup = f.Shop.OutsideMarkup,
            MaterialsMarkup = f.Shop.MaterialsMarkup,
            Labour = labour,
            Parts = f.Parts.Select(p => p.ToItem() with { Change = f.ChangeOf(p.Id)?.Id.ToString() }).ToList(),
            Outside = counted.Select(c => c.Item!).ToList(),
            Materials = f.Materials.Select(m => new CostItem(m.Id.ToString(), m.Quantity * m.UnitCost, Category: TaxKeys.Materials)).ToList(),
            ConsumablesPercent = f.Shop.ConsumablesPercent == 0 ? null : f.Shop.ConsumablesPercent,
            ConsumablesCap = f.Shop.ConsumablesCap,
            ConsumablesCategory = TaxKeys.Materials,
            Changes = f.Changes.Select(c => new ChangeItem(c.Id.ToString(), c.Adds.Total, c.Change)).ToList(),
            Payments = f.Payments.Select(p => p.Amount).ToList(),
        });

        var words = new Dictionary<string, Words>();
        foreach (var (group, item) in groups.Zip(labour))
        {
            words[item.Id] = new("labour", f.Operations[group.Key.OperationId].Name, $"{Clock(item.Minutes)} h x {item.Rate:0.00}",
                group.Select(h => new MoneyEntry(h.Entry.Id, $"{f.People[h.Entry.PersonId].Name}, {h.Worked.Day:yyyy-MM-dd}", h.Minutes, null)).ToList());
        }

        AddGoods(words, f, counted!);
        foreach (var c in f.Changes)
        {
            words[c.Id.ToString()] = new("contract", $"{c.Name}: {c.Words.Title}", $"agreed {c.Adds.Total:0.00}", []);
        }

        var labourNet = statement.Lines.Where(l => words.TryGetValue(l.Id, out var w) && w.Kind == "labour").Sum(l => l.Net);
        words[Consumables] = new("materials", "Consumables", $"{f.Shop.ConsumablesPercent:0.##} % of {labourNet:0.00}{(f.Shop.ConsumablesCap is { } cap ? $", at most {cap:0.00}" : "")}", []);
        // Without labour there are no consumables, and a line of nothing says nothing.
        var lines = statement.Lines.Where(l => l.Id != Consumables || l.Net != 0).Select(l => words.TryGetValue(l.Id, out var w) ? new MoneyLine(l.Id, w.Kind, w.Text, w.Formula, l.Net, l.Tax, w.Entries) : new(l.Id, "contract", l.Id, "", l.Net, l.Tax, [])).ToList();
        var notBilled = hours.Where(h => h.Entry.Kind != LabourKind.Billable)
            .Select(h => new MoneyEntry(h.Entry.Id, $"{f.Operations[h.Entry.OperationId].Name}: {h.Entry.Kind.ToString().ToLowerInvariant()}, {f.People[h.Entry.PersonId].Name}", h.Minutes, null))
            .Concat(statement.NotBilled.Where(n => words.ContainsKey(n.Id)).SelectMany(n => words[n.Id].Entries.Select(e => e with { Text = $"{words[n.Id].Text}: {(n.Why == "pending" ? "waits for its change order" : "its change order was declined")}, {e.Text}" }))).ToList();
        return new(KindsOf(f.Build, lines), lines, notBilled, statement);
    }

    private static void AddGoods(Dictionary<string, Words> words, BillFacts f, List<(OutsideJob Job, CostItem Item)> counted)
    {
        foreach (var p in f.Parts)
        {
            var formula = p.ClientSupplied ? "supplied by the client"
                : p.UnitPrice is { } price ? $"{p.Quantity:0.##} x {price:0.00}"
                : $"{p.Quantity:0.##} x {p.UnitCost:0.00} + {PartTier.PercentFor(p.UnitCost, f.Shop.PartTiers):0.##} %";
            words[p.Id.ToString()] = new("parts", p.Name, formula, [new(p.Id, $"received {p.ReceivedOn:yyyy-MM-dd}", null, p.UnitCost)]);
        }

        foreach (var (job, item) in counted)
        {
            words[job.Id.ToString()] = new("outside", job.Title, $"{item.Cost:0.00} + {f.Shop.OutsideMarkup:0.##} %", [new(job.Id, $"{job.CountedIn} of {job.Sent} counted in", null, job.Billed ?? job.Quoted)]);
        }

        foreach (var m in f.Materials)
        {
            words[m.Id.ToString()] = new("materials", m.Name, $"{m.Quantity:0.###} {m.Unit} x {m.UnitCost:0.00} + {f.Shop.MaterialsMarkup:0.##} %", [new(m.Id, $"booked {m.On:yyyy-MM-dd}", null, m.UnitCost)]);
        }
    }

    private static List<MoneyKind> KindsOf(Build build, List<MoneyLine> lines)
    {
        decimal Net(string kind) => lines.Where(l => l.Kind == kind).Sum(l => l.Net);
        var kinds = new List<MoneyKind>
        {
            new("labour", build.Estimate.Labour, Net("labour")), new("parts", build.Estimate.Parts, Net("parts")),
            new("outside", build.Estimate.Outside, Net("outside")), new("materials", build.Estimate.Materials, Net("materials")),
        };
        if (lines.Any(l => l.Kind == "contract"))
        {
            kinds.Add(new("contract", build.Contract.Price ?? 0, Net("contract")));
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
    public static MarginView Of(BillFacts f, decimal wages, decimal bill) => new(
        wages, f.Parts.Where(p => !p.ClientSupplied).Sum(p => Cents.Round(p.Quantity * p.UnitCost)),
        f.Jobs.Select(j => j.ToItem()).OfType<CostItem>().Sum(i => Cents.Round(i.Cost)), f.Materials.Sum(m => Cents.Round(m.Quantity * m.UnitCost)), bill);

    public decimal Cost => Labour + Parts + Outside + Materials;
    public decimal Margin => Bill - Cost;
}

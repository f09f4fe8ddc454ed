using FirstCoat.Core.Builds;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using FirstCoat.Store.Plan;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Money;

/// <summary>What stands behind a figure: a line of the bill in words.</summary>
/// <param name="Formula">The figure with its numbers in it.</param>
public sealed record MoneyLine(string Id, string Kind, string Text, string Formula, decimal Net, decimal Tax, IReadOnlyList<MoneyEntry> Entries);

/// <summary>One record behind a line.</summary>
public sealed record MoneyEntry(Guid Id, string Text, int? Minutes, decimal? Amount);

/// <summary>Estimate and present state of one kind of cost, net.</summary>
public sealed record MoneyKind(string Kind, decimal Estimate, decimal Net);

/// <summary>A build's money.</summary>
public sealed record MoneyView(
    IReadOnlyList<MoneyKind> Kinds, IReadOnlyList<MoneyLine> Lines, IReadOnlyList<MoneyEntry> NotBilled, StatementResult Statement,
    IReadOnlyList<Payment> Payments, DepositCover Cover, MarginView Margin)
{
    /// <summary>The estimate of all kinds, net.</summary>
    public decimal Estimate => Kinds.Sum(k => k.Estimate);

    /// <summary>Minutes worked that do not reach the bill.</summary>
    public int NotBilledMinutes => NotBilled.Sum(e => e.Minutes ?? 0);
}

/// <summary>For the manager's eyes: what the build costs the shop and leaves.</summary>
public sealed record MarginView(decimal Labour, decimal Parts, decimal Outside, decimal Materials, decimal Bill)
{
    public decimal Cost => Labour + Parts + Outside + Materials;
    public decimal Margin => Bill - Cost;
}

/// <summary>Computes a build's statement, cover and margin from what is recorded.</summary>
public sealed class MoneyDesk(ShopDb db, ShopClock clock, CurrentActor current, PlanDesk plan) : Desk(db, clock, current)
{
    /// <summary>The build's money as it stands.</summary>
    public async Task<MoneyView> Look(Guid buildId, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        var shop = await Shop(cancel);
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var people = await Db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, cancel);
        var operations = await Db.Operations.AsNoTracking().Where(o => o.BuildId == buildId).ToDictionaryAsync(o => o.Id, cancel);
        var entries = await Db.TimeEntries.AsNoTracking().Where(e => e.BuildId == buildId && e.ReplacedBy == null && !e.Void && e.Stop != null).OrderBy(e => e.Start).ToListAsync(cancel);
        var parts = await Db.Parts.AsNoTracking().Where(p => p.BuildId == buildId && p.State >= PartState.Received).OrderBy(p => p.Seq).ToListAsync(cancel);
        var jobs = await Db.OutsideJobs.AsNoTracking().Where(j => j.BuildId == buildId).OrderBy(j => j.Seq).ToListAsync(cancel);
        var materials = await Db.Materials.AsNoTracking().Where(m => m.BuildId == buildId).OrderBy(m => m.Seq).ToListAsync(cancel);
        var payments = await Db.Payments.AsNoTracking().Where(p => p.BuildId == buildId).OrderBy(p => p.On).ThenBy(p => p.Seq).ToListAsync(cancel);

        var worked = entries.Select(e => Worked(e, people[e.PersonId], zone)).ToList();
        var groups = entries.Zip(worked).Where(x => x.First.Kind == LabourKind.Billable)
            .GroupBy(x => (x.First.OperationId, x.Second.BillRate)).OrderBy(g => operations[g.Key.OperationId].Position).ThenBy(g => g.Key.BillRate).ToList();
        var labour = groups.Select(g => new LabourItem($"{g.Key.OperationId}@{g.Key.BillRate}", g.Sum(x => LabourMinutes.Round(x.First.Minutes(Clock.Now), shop.Rounding)), g.Key.BillRate)).ToList();
        var counted = jobs.Select(j => (Job: j, Item: j.ToItem())).Where(j => j.Item is not null).ToList();
        var statement = Statement.Of(new()
        {
            Contract = build.Contract,
            TaxRates = TaxKeys.Of(shop.TaxRates),
            PartTiers = shop.PartTiers,
            OutsideMarkup = shop.OutsideMarkup,
            MaterialsMarkup = shop.MaterialsMarkup,
            Labour = labour,
            Parts = parts.Select(p => p.ToItem()).ToList(),
            Outside = counted.Select(c => c.Item!).ToList(),
            Materials = materials.Select(m => new CostItem(m.Id.ToString(), m.Quantity * m.UnitCost, Category: TaxKeys.Materials)).ToList(),
            ConsumablesPercent = shop.ConsumablesPercent == 0 ? null : shop.ConsumablesPercent,
            ConsumablesCap = shop.ConsumablesCap,
            ConsumablesCategory = TaxKeys.Materials,
            Payments = payments.Select(p => p.Amount).ToList(),
        });

        var words = new Dictionary<string, (string Kind, string Text, string Formula, List<MoneyEntry> Entries)>();
        foreach (var (group, item) in groups.Zip(labour))
        {
            words[item.Id] = ("labour", operations[group.Key.OperationId].Name, $"{Hours(item.Minutes)} h x {item.Rate:0.00}",
                group.Select(x => new MoneyEntry(x.First.Id, $"{people[x.First.PersonId].Name}, {x.Second.Day:yyyy-MM-dd}", x.First.Minutes(Clock.Now), null)).ToList());
        }

        foreach (var p in parts)
        {
            words[p.Id.ToString()] = ("parts", p.Name, p.ClientSupplied ? "supplied by the client" : p.UnitPrice is { } price ? $"{p.Quantity:0.##} x {price:0.00}" : $"{p.Quantity:0.##} x {p.UnitCost:0.00} + {PartTier.PercentFor(p.UnitCost, shop.PartTiers):0.##} %", [new(p.Id, $"received {p.ReceivedOn:yyyy-MM-dd}", null, p.UnitCost)]);
        }

        foreach (var (job, item) in counted)
        {
            words[job.Id.ToString()] = ("outside", job.Title, $"{item!.Cost:0.00} + {shop.OutsideMarkup:0.##} %", [new(job.Id, $"{job.CountedIn} of {job.Sent} counted in", null, job.Billed ?? job.Quoted)]);
        }

        foreach (var m in materials)
        {
            words[m.Id.ToString()] = ("materials", m.Name, $"{m.Quantity:0.###} {m.Unit} x {m.UnitCost:0.00} + {shop.MaterialsMarkup:0.##} %", [new(m.Id, $"booked {m.On:yyyy-MM-dd}", null, m.UnitCost)]);
        }

        var labourNet = statement.Lines.Where(l => words.TryGetValue(l.Id, out var w) && w.Kind == "labour").Sum(l => l.Net);
        words["consumables"] = ("materials", "Consumables", $"{shop.ConsumablesPercent:0.##} % of {labourNet:0.00}{(shop.ConsumablesCap is { } cap ? $", at most {cap:0.00}" : "")}", []);
        var lines = statement.Lines.Select(l => words.TryGetValue(l.Id, out var w) ? new MoneyLine(l.Id, w.Kind, w.Text, w.Formula, l.Net, l.Tax, w.Entries) : new(l.Id, "contract", l.Id, "", l.Net, l.Tax, [])).ToList();
        var notBilled = entries.Zip(worked).Where(x => x.First.Kind != LabourKind.Billable)
            .Select(x => new MoneyEntry(x.First.Id, $"{operations[x.First.OperationId].Name}: {x.First.Kind.ToString().ToLowerInvariant()}, {people[x.First.PersonId].Name}", x.First.Minutes(Clock.Now), null)).ToList();
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

        var margin = new MarginView(await Wages(worked, people, shop, zone, cancel),
            parts.Where(p => !p.ClientSupplied).Sum(p => Cents.Round(p.Quantity * p.UnitCost)),
            counted.Sum(c => Cents.Round(c.Item!.Cost)),
            materials.Sum(m => Cents.Round(m.Quantity * m.UnitCost)), statement.Net);
        var charges = await Planned(build, people, operations, shop, zone, cancel);
        return new(kinds, lines, notBilled, statement, payments, Deposit.Cover(statement.Paid - statement.Gross, charges, []), margin);
    }

    /// <summary>Wages of a build's entries. A person's overtime counts all that was worked on that day, on any build.</summary>
    private async Task<decimal> Wages(List<WorkedEntry> build, Dictionary<Guid, Person> people, ShopSettings shop, DateTimeZone zone, CancellationToken cancel)
    {
        if (build.Count == 0)
        {
            return 0;
        }

        var who = build.Select(e => Guid.Parse(e.Person)).Distinct().ToList();
        var days = build.Select(e => (e.Person, e.Day)).ToHashSet();
        var from = build.Min(e => e.Day).AtStartOfDayInZone(zone).ToInstant();
        var to = build.Max(e => e.Day).PlusDays(1).AtStartOfDayInZone(zone).ToInstant();
        var all = await Db.TimeEntries.AsNoTracking().Where(e => who.Contains(e.PersonId) && e.Start >= from && e.Start < to && e.ReplacedBy == null && !e.Void && e.Stop != null).ToListAsync(cancel);
        var worked = all.Select(e => Worked(e, people[e.PersonId], zone)).Where(e => days.Contains((e.Person, e.Day))).ToList();
        var cost = LabourCost.Of(worked, shop.Rounding, roundPay: false, new((int)(shop.OvertimeAfterHours * 60), shop.OvertimeMultiplier));
        return cost.CostOf(build.Select(e => e.Id).ToHashSet());
    }

    /// <summary>What the plan will spend, day by day, tax included: hours at the billing rate of their day.</summary>
    private async Task<List<DatedAmount>> Planned(Build build, Dictionary<Guid, Person> people, Dictionary<Guid, Operation> operations, ShopSettings shop, DateTimeZone zone, CancellationToken cancel)
    {
        if (build.Status != BuildStatus.Open)
        {
            return [];
        }

        var view = await plan.Look(cancel);
        var tax = 1 + shop.TaxRates.GetValueOrDefault(TaxCategory.Labour) / 100;
        return view.Operations.Values.Where(o => o.BuildId == build.Id && o.PersonId is not null && operations[o.Id].LeftMinutes > 0)
            .Select(o => (Day: o.Finish.InZone(zone).Date, Rate: people[o.PersonId!.Value].RateOn(o.Start.InZone(zone).Date)?.Billing ?? 0, Minutes: operations[o.Id].LeftMinutes))
            .GroupBy(o => o.Day).Select(g => new DatedAmount(g.Key, Cents.Round(g.Sum(o => o.Minutes * o.Rate / 60) * tax))).ToList();
    }

    private static WorkedEntry Worked(TimeEntry e, Person person, DateTimeZone zone)
    {
        var day = e.Start.InZone(zone).Date;
        var rate = person.RateOn(day);
        return new(e.Id.ToString(), person.Id.ToString(), e.Start, e.Stop!.Value, day, e.Kind, rate?.Cost ?? 0, rate?.Billing ?? 0);
    }

    private static string Hours(int minutes) => $"{minutes / 60}:{minutes % 60:00}";
}

using FirstCoat.Core.Builds;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using FirstCoat.Store.Plan;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Money;

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

/// <summary>Computes a build's statement, cover and margin from what is recorded.</summary>
public sealed class MoneyDesk(ShopDb db, ShopClock clock, CurrentActor current, PlanDesk plan) : Desk(db, clock, current)
{
    /// <summary>The build's money as it stands.</summary>
    public async Task<MoneyView> Look(Guid buildId, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        var shop = await Shop(cancel);
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var facts = await Db.BillFactsOf(build, shop, cancel);
        var (people, entries, payments) = (facts.People, facts.Entries, facts.Payments);
        var bill = BuildBill.Of(facts);
        var statement = bill.Statement;
        var worked = entries.Select(e => e.Worked(people[e.PersonId], zone)).ToList();
        var margin = MarginView.Of(facts, await Wages(worked, people, shop, zone, cancel), statement.Net);
        var charges = await Planned(build, people, shop, zone, cancel);
        return new(bill.Kinds, bill.Lines, bill.NotBilled, statement, payments, Deposit.Cover(statement.Paid - statement.Gross, charges, []), margin);
    }

    /// <summary>Wages of a build's entries. A person's overtime counts all that was worked on that day, on any build.</summary>
    private async Task<decimal> Wages(List<WorkedEntry> build, IReadOnlyDictionary<Guid, Person> people, ShopSettings shop, DateTimeZone zone, CancellationToken cancel)
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
        var worked = all.Select(e => e.Worked(people[e.PersonId], zone)).Where(e => days.Contains((e.Person, e.Day))).ToList();
        var cost = LabourCost.Of(worked, shop.Rounding, roundPay: false, new((int)(shop.OvertimeAfterHours * 60), shop.OvertimeMultiplier));
        return cost.CostOf(build.Select(e => e.Id).ToHashSet());
    }

    /// <summary>What the plan will spend, day by day, tax included: hours at the billing rate of their day, and what is ordered or sent out when it is expected.</summary>
    private async Task<List<DatedAmount>> Planned(Build build, IReadOnlyDictionary<Guid, Person> people, ShopSettings shop, DateTimeZone zone, CancellationToken cancel)
    {
        if (build.Status != BuildStatus.Open)
        {
            return [];
        }

        var view = await plan.Look(cancel);
        var today = await Today(cancel);
        var tax = 1 + shop.TaxRates.GetValueOrDefault(TaxCategory.Labour) / 100;
        return view.Operations.Values.Where(o => o.BuildId == build.Id && o.Minutes > 0)
            .SelectMany(o => o.People.Select(p => (Day: o.Finish.InZone(zone).Date, Rate: people[p].RateOn(o.Start.InZone(zone).Date)?.Billing ?? 0, Minutes: (decimal)o.Minutes)))
            .GroupBy(o => o.Day).Select(g => new DatedAmount(g.Key, Cents.Round(g.Sum(o => o.Minutes * o.Rate / 60) * tax)))
            .Concat((await Db.Committed(build.Id, shop, cancel)).Select(c => new DatedAmount(LocalDate.Max(c.On, today), c.Gross))).ToList();
    }
}

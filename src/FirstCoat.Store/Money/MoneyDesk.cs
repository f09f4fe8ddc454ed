using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using FirstCoat.Store.Labour;
using FirstCoat.Store.Plan;
using FirstCoat.Store.Readings;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Money;

/// <summary>A build's money.</summary>
/// <param name="Outlook">The bill as it stands, and what is still to come.</param>
/// <param name="Accepted">Whether the client has accepted an estimate; until then what stands for it is the shop's
/// first thought.</param>
/// <param name="Dated">Whether the plan has days for what is still to come.</param>
public sealed record MoneyView(
    MoneyOutlook Outlook,
    Agreement Agreement,
    IReadOnlyList<Payment> Payments,
    MarginView Margin,
    bool Accepted,
    bool Dated
)
{
    public BuildBill Bill => Outlook.Bill;
    public StatementResult Statement => Bill.Statement;
    public IReadOnlyList<MoneyKind> Kinds => Bill.Kinds;
    public IReadOnlyList<MoneyLine> Lines => Bill.Lines;

    /// <summary>Minutes worked that do not reach the bill.</summary>
    public int NotBilledMinutes => Bill.NotBilled.Sum(e => e.Minutes ?? 0);
}

/// <summary>Computes a build's statement, outlook and margin from what is recorded.</summary>
public sealed class MoneyDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    PlanDesk plan,
    HistoryDesk history,
    ShopCache cache,
    ShopChanges changes
) : Desk(db, clock, current)
{
    /// <summary>The build's money as it stands.</summary>
    public Task<MoneyView> Look(Guid buildId, CancellationToken cancel) =>
        Once<MoneyDesk, MoneyView>(
            cache,
            (changes.ForPlan, Clock.FiveMinutes),
            d => d.Make(buildId, CancellationToken.None),
            cancel,
            buildId
        );

    private async Task<MoneyView> Make(Guid buildId, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        var shop = await Shop(cancel);
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var facts = await Db.BillFactsOf(build, shop, await Today(cancel), cancel);
        var outlook = await Outlook(facts, null, cancel);
        var worked = facts.Entries.Select(e => e.Worked(facts.People[e.PersonId], zone)).ToList();
        var margin = MarginView.Of(
            facts,
            await Wages(worked, facts.People, shop, zone, cancel),
            outlook.Bill.Statement.Net
        );
        return new(
            outlook,
            facts.Agreement,
            facts.Payments,
            margin,
            build.AcceptedAt is not null,
            build.Status == BuildStatus.Open
        );
    }

    /// <summary>The outlook of a build by the plan's days.</summary>
    /// <param name="goods">Rows of an estimate that is being written; null: as agreed or entered.</param>
    internal async Task<MoneyOutlook> Outlook(
        BillFacts facts,
        IReadOnlyList<PaperGoods>? goods,
        CancellationToken cancel
    )
    {
        var ends =
            facts.Build.Status != BuildStatus.Open
                ? []
                : (await plan.Look(cancel))
                    .Operations.Values.Where(o => o.BuildId == facts.Build.Id)
                    .ToDictionary(o => o.Id, o => o.Finish.InZone(facts.Zone).Date);
        return await Db.OutlookOf(facts, await history.Look(cancel), ends, goods, cancel);
    }

    /// <summary>Wages of a build's entries. A person's overtime counts all that was worked on that day, on any
    /// build.</summary>
    private async Task<decimal> Wages(
        List<WorkedEntry> build,
        IReadOnlyDictionary<Guid, Person> people,
        ShopSettings shop,
        DateTimeZone zone,
        CancellationToken cancel
    )
    {
        if (build.Count == 0)
        {
            return 0;
        }

        var who = build.Select(e => Guid.Parse(e.Person)).Distinct().ToList();
        var days = build.Select(e => (e.Person, e.Day)).ToHashSet();
        var bounds = days.Select(d => (Person: Guid.Parse(d.Person), Day: DayBounds.Of(d.Day, zone))).ToList();
        var (from, to) = (bounds.Min(d => d.Day.Start), bounds.Max(d => d.Day.End));
        // Day by day: what the same people did on other days in these months is many times as much.
        var all = await Db
            .TimeEntries.FromSql(
                $"""
                select e.*, e.xmin
                from unnest({bounds.Select(d => d.Person).ToArray()}, {bounds
                    .Select(d => d.Day.Start)
                    .ToArray()}, {bounds.Select(d => d.Day.End).ToArray()}) as d (person, starts, ends)
                join labour_entries e on e.person_id = d.person and e.start >= d.starts and e.start < d.ends
                """
            )
            .AsNoTracking()
            .Where(e => e.ReplacedBy == null && !e.Void && e.Stop != null)
            .ToListAsync(cancel);
        var nobodys = await Db
            .ShopTimes.AsNoTracking()
            .Where(e =>
                who.Contains(e.PersonId) && e.Start >= from && e.Start < to && e.VoidWhy == null && e.Stop != null
            )
            .ToListAsync(cancel);
        var worked = all.Select(e => e.Worked(people[e.PersonId], zone))
            .Concat(nobodys.Select(e => e.Worked(people[e.PersonId], zone)))
            .OrderBy(e => e.Start)
            .Where(e => days.Contains((e.Person, e.Day)))
            .ToList();
        var cost = LabourCost.Of(
            worked,
            shop.Rounding,
            roundPay: false,
            new((int)(shop.OvertimeAfterHours * 60), shop.OvertimeMultiplier)
        );
        return cost.CostOf(build.Select(e => e.Id).ToHashSet());
    }
}

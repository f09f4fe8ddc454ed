using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using FirstCoat.Store.Labour;
using FirstCoat.Store.Readings;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>Reads what the plan is made from.</summary>
public sealed class PlanReader(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    HistoryDesk history,
    ShopCache cache,
    ShopChanges changes,
    Shelf<Operation> shelf,
    Shelf<OutsideJob> jobs
) : Desk(db, clock, current)
{
    /// <summary>What is recorded; nobody changes anything of it.</summary>
    internal Task<PlanFacts> Read(CancellationToken cancel) => Read(shared: true, null, cancel);

    /// <summary>What is recorded, read for this alone: whoever asks may try changes on it.</summary>
    /// <param name="ofMoney">Builds of which it is told what their client's money covers, whatever pace their spending
    /// has.</param>
    internal Task<PlanFacts> ReadApart(CancellationToken cancel, IReadOnlySet<Guid>? ofMoney = null) =>
        Read(shared: false, ofMoney, cancel);

    private async Task<PlanFacts> Read(bool shared, IReadOnlySet<Guid>? ofMoney, CancellationToken cancel)
    {
        var shop = await Shop(cancel);
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var closed = await Db.ClosedDays.AsNoTracking().Select(d => d.Date).ToListAsync(cancel);
        var builds = await Db.Builds.AsNoTracking().Where(b => b.Status == BuildStatus.Open).ToListAsync(cancel);
        var ids = builds.Select(b => b.Id).ToList();
        var ours = Db.Operations.Where(o => ids.Contains(o.BuildId) && !o.Removed).OrderBy(o => o.Position);
        var operations = shared ? await shelf.Take(Db, ours, cancel) : await ours.AsNoTracking().ToListAsync(cancel);
        var open = operations.Where(o => !o.IsDone).ToDictionary(o => o.Id);
        // Of what is done, nobody asks who was on it.
        var work = await Db
            .TimeEntries.AsNoTracking()
            .Where(e =>
                ids.Contains(e.BuildId)
                && e.ReplacedBy == null
                && !e.Void
                && Db.Operations.Any(o => o.Id == e.OperationId && o.DoneAt == null && !o.Removed)
            )
            .Select(e => new WorkedOn(e.OperationId, e.PersonId, e.Start, e.Stop))
            .ToListAsync(cancel);
        var arrivals = await Db
            .Arrivals.AsNoTracking()
            .Where(a => ids.Contains(a.BuildId))
            .Select(a => new
            {
                a.BuildId,
                a.Heights,
                a.Hazards,
            })
            .ToListAsync(cancel);
        var metal = await Db
            .PanelEvents.AsNoTracking()
            .Where(e => ids.Contains(e.BuildId))
            .OnMetal()
            .ToListAsync(cancel);
        return new()
        {
            Shop = shop,
            Calendar = new(WorkWeek.From(shop.Week), closed, zone),
            People = await Db.People.AsNoTracking().Where(p => p.Active).OrderBy(p => p.Name).ToListAsync(cancel),
            Stations = await Db.Stations.AsNoTracking().ToListAsync(cancel),
            Builds = builds,
            Paused = await Db
                .Builds.AsNoTracking()
                .Where(b => b.Status == BuildStatus.Paused && b.StationId != null)
                .ToListAsync(cancel),
            Operations = operations,
            Parts = await Db
                .Parts.AsNoTracking()
                .Where(p => ids.Contains(p.BuildId) && p.OperationId != null && p.State < PartState.Received)
                .ToListAsync(cancel),
            Jobs = await jobs.Take(
                Db,
                Db.OutsideJobs.Where(j => ids.Contains(j.BuildId) && j.OperationId != null),
                cancel
            ),
            Suppliers = await Db.Suppliers.AsNoTracking().ToListAsync(cancel),
            Decisions = await Db
                .Decisions.AsNoTracking()
                .Where(d => ids.Contains(d.BuildId) && d.SettledAt == null)
                .ToListAsync(cancel),
            LastPerson = work.GroupBy(w => w.Operation).ToDictionary(g => g.Key, g => g.MaxBy(w => w.Start)!.Person),
            Running = work.Where(w => w.Stop is null && open.ContainsKey(w.Operation))
                .GroupBy(w => w.Operation)
                .ToDictionary(g => g.Key, g => g.MinBy(w => w.Start)!.Person),
            WorkedSince = work.Where(w => open.ContainsKey(w.Operation))
                .GroupBy(w => w.Operation)
                .ToDictionary(g => g.Key, g => g.Sum(w => w.Since(open[g.Key].StatedAt, Clock.NowMinute))),
            Heights = arrivals.Where(a => a.Heights is not null).ToDictionary(a => a.BuildId, a => a.Heights!),
            Metal = metal.GroupBy(e => e.BuildId).ToDictionary(g => g.Key, g => PanelStates.MetalIn(g)),
            Dangers = arrivals.ToDictionary(a => a.BuildId, a => a.Hazards),
            Covers = await Covers(
                [.. builds.Where(b => b.Terms.Spending is not null || ofMoney?.Contains(b.Id) == true)],
                shop,
                zone,
                cancel
            ),
            LeadTimes = await LeadTimesOf(cancel),
            FoundShare = await FoundShareOf(cancel),
            Now = Clock.Now.ToUnixTimeSeconds() / 60,
            Turns = await Db
                .Turns.AsNoTracking()
                .Where(t => !t.Undone)
                .OrderByDescending(t => t.Seq)
                .Select(t => t.Turns)
                .FirstOrDefaultAsync(cancel)
                ?? [],
        };
    }

    /// <summary>A stretch of somebody's time on an operation; it may still run.</summary>
    private sealed record WorkedOn(Guid Operation, Guid Person, Instant Start, Instant? Stop)
    {
        /// <summary>Whole minutes of it after an instant; null: all of them.</summary>
        public int Since(Instant? at, Instant now) =>
            (int)
                Math.Max(
                    0,
                    (
                        (Stop ?? Instant.Max(now, Start)) - (at is { } since && since > Start ? since : Start)
                    ).TotalMinutes
                );
    }

    /// <summary>What the client's money still covers.</summary>
    private async Task<Dictionary<Guid, CoverSoFar>> Covers(
        List<Build> paced,
        ShopSettings shop,
        DateTimeZone zone,
        CancellationToken cancel
    )
    {
        var covers = new Dictionary<Guid, CoverSoFar>();
        var today = Clock.Now.InZone(zone).Date;
        var month = new LocalDate(today.Year, today.Month, 1);
        var record = paced.Count == 0 ? null : await history.Look(cancel);
        foreach (var build in paced)
        {
            var facts = await Db.BillFactsOf(build, shop, today, cancel);
            var outlook = await Db.OutlookOf(facts, record!, new Dictionary<Guid, LocalDate>(), null, cancel);
            // What is ordered or sent out is as good as spent; it counts to the month in which it comes.
            var committed = await Db.Committed(build.Id, shop, cancel);
            covers[build.Id] = new(
                outlook.Ahead - committed.Sum(c => c.Gross),
                BuildBill.WorkGross(facts.Since(month))
                    + committed.Where(c => c.On < month.PlusMonths(1)).Sum(c => c.Gross)
            )
            {
                Ahead = outlook.Charges.Sum(c => c.Amount) - committed.Sum(c => c.Gross),
                Short = outlook.Short,
            };
        }

        return covers;
    }

    /// <summary>What was found so far beside what was planned, over all builds that a client accepted: what came in by
    /// hand or by a verdict, beside what is done of the rest.</summary>
    private async Task<double> FoundShareOf(CancellationToken cancel) =>
        (
            await Once<PlanReader, FoundSoFar>(
                cache,
                changes.Of(nameof(Operation), nameof(Build)),
                d => d.ReadFoundShare(CancellationToken.None),
                cancel
            )
        ).Share;

    private sealed record FoundSoFar(double Share);

    private async Task<FoundSoFar> ReadFoundShare(CancellationToken cancel)
    {
        var stages = (
            await Db
                .Operations.Where(o =>
                    !o.Removed
                    && o.Kind == OperationKind.Work
                    && Db.Builds.Any(b => b.Id == o.BuildId && b.AcceptedAt != null)
                )
                .GroupBy(o => new { o.BuildId, o.Stage })
                .Select(s => new
                {
                    Planned = s.AsQueryable().Where(o => o.TemplateKey != "").Sum(LabourReading.Earned),
                    Found = s.Sum(o => o.TemplateKey == "" ? o.BudgetMinutes : 0),
                })
                .ToListAsync(cancel)
        )
            .Where(s => s.Planned > 0)
            .ToList();
        return new(FoundWork.Share((double)stages.Sum(s => s.Planned) / 60, (double)stages.Sum(s => s.Found) / 60));
    }

    private Task<Dictionary<Guid, LeadTime>> LeadTimesOf(CancellationToken cancel) =>
        Once<PlanReader, Dictionary<Guid, LeadTime>>(
            cache,
            changes.Of(nameof(PartLine)),
            d => d.ReadLeadTimes(CancellationToken.None),
            cancel
        );

    private async Task<Dictionary<Guid, LeadTime>> ReadLeadTimes(CancellationToken cancel)
    {
        var days = await Db
            .Parts.Where(p => p.SupplierId != null && p.OrderedOn != null && p.ReceivedOn != null)
            .Select(p => new
            {
                Supplier = p.SupplierId!.Value,
                Days = Period.DaysBetween(p.OrderedOn!.Value, p.ReceivedOn!.Value),
            })
            .ToListAsync(cancel);
        var all = days.Select(d => d.Days).ToList();
        return days.GroupBy(d => d.Supplier)
            .ToDictionary(g => g.Key, g => LeadTimes.Of([.. g.Select(d => d.Days)], all));
    }

    /// <summary>What the shop's own log says of trades and suppliers.</summary>
    internal async Task<Beliefs> Believed(CancellationToken cancel)
    {
        var log = await history.Look(cancel);
        var trades = Enum.GetValues<Trade>()
            .Select(t => (Trade: t, Bias: log.Of(t)))
            .ToDictionary(
                x => x.Trade.ToString(),
                x => new Belief(x.Bias.Learned.Mean, x.Bias.Learned.Sd, x.Bias.Spread)
            );
        var back = await Db
            .OutsideJobs.AsNoTracking()
            .Where(j => j.SentOn != null && j.PromisedOn != null && j.BackOn != null)
            .ToListAsync(cancel);
        var suppliers = back.Where(j => j.PromisedOn > j.SentOn && j.BackOn > j.SentOn)
            .GroupBy(j => j.SupplierId)
            .ToDictionary(
                g => g.Key.ToString(),
                g =>
                {
                    var learned = Learning.Bias(
                        g.Select(j =>
                            (
                                (double)Period.DaysBetween(j.SentOn!.Value, j.BackOn!.Value),
                                (double)Period.DaysBetween(j.SentOn!.Value, j.PromisedOn!.Value)
                            )
                        )
                    );
                    return new Belief(learned.Mean, learned.Sd, Belief.Prior.Spread);
                }
            );
        return new(trades, suppliers);
    }
}

using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>What the lanes need of an operation.</summary>
/// <param name="Pin">What somebody has settled of it; a day behind us before which it was not to start is left
/// out.</param>
public sealed record LaneOperation(Guid Id, string Name, StationKind? Station, OperationPin Pin, uint Version);

/// <summary>Hours that somebody worked on an operation.</summary>
/// <param name="To">Null: the clock runs.</param>
public sealed record WorkedHours(Guid Operation, Guid Build, Guid Person, Instant From, Instant? To);

/// <summary>A batch that is at a supplier.</summary>
/// <param name="NeededOn">The day on which the plan starts what waits for it; null: nothing does, or it has no
/// date.</param>
public sealed record BatchAway(OutsideJob Job, string Supplier, LocalDate Likely, LocalDate High, LocalDate? NeededOn)
{
    /// <summary>Days by which it comes after it is needed in two of ten cases; null: it does not.</summary>
    public int? DaysOver => High > NeededOn ? Period.DaysBetween(NeededOn.Value, High) : null;
}

/// <summary>Everything that the lanes of the plan show.</summary>
/// <param name="From">Its first day, a Monday.</param>
/// <param name="Operations">By id, also those that are done.</param>
/// <param name="FreightDays">Weekdays on which something can come from a supplier who has a batch.</param>
public sealed record LaneFacts(
    Instant Now,
    LocalDate From,
    LocalDate Today,
    WorkCalendar Calendar,
    PlanView View,
    IReadOnlyList<Build> Builds,
    IReadOnlyList<Station> Stations,
    IReadOnlyList<Person> People,
    IReadOnlyDictionary<Guid, LaneOperation> Operations,
    IReadOnlyList<WorkedHours> Worked,
    IReadOnlyList<BatchAway> Away,
    IReadOnlyList<IsoDayOfWeek> FreightDays
);

/// <summary>Reads what the lanes of the plan show: what is planned, and what was worked since last week.</summary>
public sealed class LanesDesk(ShopDb db, ShopClock clock, CurrentActor current, PlanDesk plan)
    : Desk(db, clock, current)
{
    public async Task<LaneFacts> Look(CancellationToken cancel)
    {
        var shop = await Shop(cancel);
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var today = Clock.Now.InZone(zone).Date;
        var from = today.With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday)).PlusDays(-7);
        var since = zone.AtStartOfDay(from).ToInstant();
        var builds = await Db
            .Builds.AsNoTracking()
            .Where(b => b.Status == BuildStatus.Open || b.Status == BuildStatus.Paused)
            .OrderBy(b => b.Priority)
            .ThenBy(b => b.Number)
            .ToListAsync(cancel);
        var ids = builds.Select(b => b.Id).ToList();
        var view = await plan.Look(cancel);
        var suppliers = await Db.Suppliers.AsNoTracking().ToDictionaryAsync(s => s.Id, cancel);
        var jobs = await Db.OutsideJobs.AsNoTracking().Where(j => j.SentOn != null).ToListAsync(cancel);
        var (late, needed) = (OutsideJob.Lateness(jobs), await NeededBy(jobs, view, zone, cancel));
        return new(
            Clock.Now,
            from,
            today,
            new(
                WorkWeek.From(shop.Week),
                await Db.ClosedDays.AsNoTracking().Select(d => d.Date).ToListAsync(cancel),
                zone
            ),
            view,
            builds,
            await Db.Stations.AsNoTracking().OrderBy(s => s.Kind).ThenBy(s => s.Name).ToListAsync(cancel),
            await Db.People.AsNoTracking().Where(p => p.Active).OrderBy(p => p.Name).ToListAsync(cancel),
            (
                await Db
                    .Operations.AsNoTracking()
                    .Where(o => ids.Contains(o.BuildId) && !o.Removed)
                    .Select(o => new
                    {
                        o.Id,
                        o.Name,
                        o.Station,
                        o.PersonId,
                        o.Terms,
                        o.Version,
                    })
                    .ToListAsync(cancel)
            ).ToDictionary(
                o => o.Id,
                o => new LaneOperation(
                    o.Id,
                    o.Name,
                    o.Station,
                    new(
                        o.Terms.PinnedOn ?? (o.Terms.NotBefore > today ? o.Terms.NotBefore : null),
                        o.PersonId,
                        o.Terms.PinnedAt
                    ),
                    o.Version
                )
            ),
            await Db
                .TimeEntries.AsNoTracking()
                .Where(e => e.Start >= since && e.ReplacedBy == null && !e.Void && ids.Contains(e.BuildId))
                .OrderBy(e => e.Start)
                .Select(e => new WorkedHours(e.OperationId, e.BuildId, e.PersonId, e.Start, e.Stop))
                .ToListAsync(cancel),
            [
                .. jobs.Where(j => j.IsAway && ids.Contains(j.BuildId))
                    .Select(j =>
                    {
                        var (likely, high) = j.Expected(suppliers[j.SupplierId], late, today);
                        return new BatchAway(
                            j,
                            suppliers[j.SupplierId].Name,
                            likely,
                            high,
                            needed.TryGetValue(j.Id, out var on) ? on : null
                        );
                    })
                    .OrderBy(a => a.Likely),
            ],
            [
                .. jobs.Where(j => j.IsAway && ids.Contains(j.BuildId))
                    .SelectMany(j => suppliers[j.SupplierId].FreightDays)
                    .Distinct(),
            ]
        );
    }

    /// <summary>By job, the day on which the first of the work starts that comes after it.</summary>
    private async Task<Dictionary<Guid, LocalDate>> NeededBy(
        List<OutsideJob> jobs,
        PlanView view,
        DateTimeZone zone,
        CancellationToken cancel
    )
    {
        var away = jobs.Where(j => j is { IsAway: true, OperationId: not null }).ToList();
        var builds = away.Select(j => j.BuildId).Distinct().ToList();
        var operations = await Db
            .Operations.AsNoTracking()
            .Where(o => builds.Contains(o.BuildId) && !o.Removed && o.DoneAt == null)
            .ToListAsync(cancel);
        var needed = new Dictionary<Guid, LocalDate>();
        foreach (var job in away)
        {
            var starts = operations
                .Where(o => o.After.Any(a => a.Operation == job.OperationId))
                .Select(o => view.Operations.GetValueOrDefault(o.Id)?.Start)
                .OfType<Instant>()
                .ToList();
            if (starts.Count > 0)
            {
                needed[job.Id] = starts.Min().InZone(zone).Date;
            }
        }

        return needed;
    }
}

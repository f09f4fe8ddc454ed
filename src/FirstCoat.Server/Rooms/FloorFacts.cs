using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Readings;

namespace FirstCoat.Server.Rooms;

/// <summary>An open gate before which nothing is left to do.</summary>
public sealed record OpenGate(Guid Id, Guid BuildId, string Name);

/// <summary>Hours that were entered against a rule.</summary>
public sealed record FlaggedHours(TimeEntry Entry, string Operation, string Person);

/// <summary>All that the floor is made of besides the plan's advice; each role is shown its part.</summary>
/// <param name="InOrder">Builds in their order on the floor.</param>
/// <param name="OpenWork">Names of operations that are still to come.</param>
/// <param name="Logged">Hours of today, and what runs.</param>
/// <param name="Orders">Parts that are expected up to the next freight day.</param>
public sealed record FloorFacts(
    ShopSettings Shop,
    LocalDate Today,
    DayBounds Day,
    IReadOnlyList<BuildCard> InOrder,
    IReadOnlyDictionary<Guid, FloorEndpoints.Call> Calls,
    IReadOnlyDictionary<Guid, Supplier> Suppliers,
    IReadOnlyList<Station> Stations,
    IReadOnlyList<OutsideJob> Jobs,
    IReadOnlyList<OpenGate> Gates,
    IReadOnlyDictionary<Guid, string> OpenWork,
    IReadOnlyList<TimeEntry> Logged,
    LocalDate? NextFreight,
    int Orders,
    IReadOnlyList<FlaggedHours> FlaggedHours,
    IReadOnlyList<PanelEvent> FlaggedPanels
)
{
    public IReadOnlyDictionary<Guid, BuildCard> Builds { get; } = InOrder.ToDictionary(b => b.Id);
}

/// <summary>Reads the floor, once for all who look at the same minute with nothing recorded in between.</summary>
/// <remarks>Bounded by the builds that have not ended.</remarks>
public sealed class FloorReader(
    ShopDb db,
    ShopClock clock,
    BuildCards cards,
    ShopCache cache,
    Shelf<Core.Sequence.Operation> shelf
)
{
    public Task<FloorFacts> Look(CancellationToken cancel) =>
        cache
            .Of(cards.State, services => services.GetRequiredService<FloorReader>().Read(CancellationToken.None))
            .WaitAsync(cancel);

    private async Task<FloorFacts> Read(CancellationToken cancel)
    {
        var shop = await db.Settings.AsNoTracking().SingleOrDefaultAsync(cancel)
            ?? throw new Refusal("shop", "The shop has not been set up yet.");
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var today = clock.Now.InZone(zone).Date;
        // The cards wait for the plan; the rest is read meanwhile.
        var making = cards.Look(cancel);
        var present = db.Builds.Where(b => b.Status != BuildStatus.Closed && b.Status != BuildStatus.Withdrawn);
        var calls = await present
            .Join(
                db.Clients,
                b => b.ClientId,
                c => c.Id,
                (b, c) => new { b.Id, Call = new FloorEndpoints.Call(c.Name, c.Phone, c.Email) }
            )
            .ToDictionaryAsync(x => x.Id, x => x.Call, cancel);
        var suppliers = await db.Suppliers.AsNoTracking().ToDictionaryAsync(s => s.Id, cancel);
        var jobs = await db
            .OutsideJobs.AsNoTracking()
            .Where(j => j.SentOn != null && j.BackOn == null)
            .OrderBy(j => j.PromisedOn)
            .ToListAsync(cancel);
        var operations = await shelf.Take(
            db,
            db.Operations.Where(o =>
                db.Builds.Any(b => b.Id == o.BuildId && b.Status == BuildStatus.Open) && !o.Removed && o.DoneAt == null
            ),
            cancel
        );
        var day = DayBounds.Of(today, zone);
        var logged = await db
            .TimeEntries.AsNoTracking()
            .Where(e => e.ReplacedBy == null && !e.Void && (e.Stop == null || e.Start >= day.Start))
            .ToListAsync(cancel);
        var next = Supplier.NextFreight(suppliers.Values, today);
        var orders = next is null
            ? 0
            : await db.Parts.CountAsync(
                p => p.State < PartState.Received && p.ExpectedOn >= today && p.ExpectedOn <= next,
                cancel
            );
        var hours = (
            await db
                .TimeEntries.AsNoTracking()
                .Where(e => e.Flag != null && e.ReplacedBy == null && !e.Void && present.Any(b => b.Id == e.BuildId))
                .Join(db.Operations, e => e.OperationId, o => o.Id, (e, o) => new { Entry = e, Operation = o.Name })
                .Join(
                    db.People,
                    x => x.Entry.PersonId,
                    p => p.Id,
                    (x, p) => new FlaggedHours(x.Entry, x.Operation, p.Name)
                )
                .ToListAsync(cancel)
        );
        var panels = await db
            .PanelEvents.AsNoTracking()
            .Where(e => e.Flag != null && present.Any(b => b.Id == e.BuildId))
            .ToListAsync(cancel);
        var stations = await db.Stations.AsNoTracking().ToListAsync(cancel);
        return new(
            shop,
            today,
            day,
            await making,
            calls,
            suppliers,
            stations,
            jobs,
            [.. Core.Sequence.Gates.Ready(operations).Select(o => new OpenGate(o.Id, o.BuildId, o.Name))],
            operations.ToDictionary(o => o.Id, o => o.Name),
            logged,
            next,
            orders,
            [.. hours.Where(h => h.Entry.Flag!.IsOpen)],
            [.. panels.Where(e => !e.Counts)]
        );
    }
}

using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Overview;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;
using FirstCoat.Core.Teardown;
using FirstCoat.Store.Plan;
using FirstCoat.Store.Readings;

namespace FirstCoat.Server.Rooms;

/// <summary>Somebody whose clock runs on a build.</summary>
public sealed record OnIt(
    Guid PersonId,
    string Name,
    Guid OperationId,
    string Operation,
    int Minutes,
    List<string> Panels
);

/// <summary>Minutes of a stage for its layer.</summary>
public sealed record Layer(Stage Stage, int Budget, decimal Earned, int Spent, int Rework);

/// <summary>The next place a vehicle goes to by the plan.</summary>
/// <param name="To">The kind of place.</param>
/// <param name="On">The shop's day on which it is moved.</param>
/// <param name="StationId">The place it takes.</param>
/// <param name="Free">Nobody stands there now.</param>
public sealed record NextMove(StationKind To, LocalDate On, Stage Stage, Guid StationId, bool Free);

/// <summary>A build as the floor and the list show it.</summary>
/// <param name="Move">Null: it is away, or stays where it stands as far as the plan goes.</param>
/// <param name="Holds">What holds it now, in words.</param>
/// <param name="UntouchedDays">Days since its last hour; null: nothing was ever booked.</param>
/// <param name="Coats">What each panel wears, by key.</param>
/// <param name="Likely">The day by which it is finished in half of the futures; null: it is not open, some of its work
/// has no date, or no future was drawn yet.</param>
/// <param name="Partly">Some of its work has no date, so that nothing is said of its end.</param>
/// <param name="Planned">The plan's own day of its end, which stands beside the sequence alone.</param>
/// <param name="WithoutDate">Why the first of that work has none; nothing: all has a date.</param>
public sealed record BuildCard(
    Guid Id,
    int Number,
    string Title,
    int? Year,
    string Client,
    BuildStatus Status,
    BodyStyleKey Style,
    BodyDimensions Dimensions,
    string ColourName,
    string ColourHex,
    Guid? StationId,
    string AwayAt,
    bool FillIn,
    int Priority,
    LocalDate? Promised,
    LocalDate? Likely,
    WaitKind HoldsKind,
    string Holds,
    string? NextName,
    LocalDate? NextOn,
    NextMove? Move,
    int? UntouchedDays,
    decimal Share,
    int BudgetMinutes,
    int SpentMinutes,
    List<Layer> Layers,
    List<OnIt> OnIt,
    Dictionary<string, Coat> Coats,
    string LeftAt,
    string FirstMove,
    bool Partly,
    string WithoutDate,
    LocalDate? Planned,
    List<Waiting> Waits
);

/// <summary>Makes cards of builds.</summary>
public sealed class BuildCards(
    ShopDb db,
    ShopClock clock,
    PlanDesk plan,
    ShopCache cache,
    ShopChanges changes,
    Renewed<List<BuildChance>> chances,
    Shelf<Operation> shelf
)
{
    /// <summary>Those that have not ended, made once for all who look at the same minute with nothing recorded in
    /// between.</summary>
    public Task<List<BuildCard>> Look(CancellationToken cancel) =>
        cache
            .Of(State, services => services.GetRequiredService<BuildCards>().OfOpen(CancellationToken.None))
            .WaitAsync(cancel);

    /// <summary>The same as long as the cards are: nothing was recorded, no minute went by, no futures were
    /// drawn.</summary>
    public object State => (changes.All, clock.NowMinute, chances.Times);

    private Task<List<BuildCard>> OfOpen(CancellationToken cancel) =>
        Look(db.Builds.Where(b => b.Status != BuildStatus.Closed && b.Status != BuildStatus.Withdrawn), cancel);

    /// <summary>One, also when it has ended.</summary>
    /// <exception cref="Refusal">No build has this number.</exception>
    public async Task<BuildCard> One(int number, CancellationToken cancel) =>
        (await Look(db.Builds.Where(b => b.Number == number), cancel)).SingleOrDefault()
        ?? throw Refusal.Missing("build");

    private async Task<List<BuildCard>> Look(IQueryable<Build> which, CancellationToken cancel)
    {
        var shop = await db.Settings.AsNoTracking().SingleOrDefaultAsync(cancel)
            ?? throw new Refusal("shop", "The shop has not been set up yet.");
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        // The plan is made beside what is read here.
        var planning = plan.Look(cancel);
        var builds = await which
            .AsNoTracking()
            .OrderBy(b => b.FillIn)
            .ThenBy(b => b.Priority)
            .ThenBy(b => b.Number)
            .ToListAsync(cancel);
        var ids = builds.Select(b => b.Id).ToList();
        var clientIds = builds.Select(b => b.ClientId).ToList();
        var clients = await db
            .Clients.AsNoTracking()
            .Where(c => clientIds.Contains(c.Id))
            .ToDictionaryAsync(c => c.Id, c => c.Name, cancel);
        var people = await db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, cancel);
        // What is done only counts in sums.
        var operations = (
            await shelf.Take(
                db,
                db.Operations.Where(o => ids.Contains(o.BuildId) && !o.Removed && o.DoneAt == null),
                cancel
            )
        ).ToLookup(o => o.BuildId);
        var stands = await db.StandsOf(ids, clock.Now, cancel);
        var entries = (
            await db
                .TimeEntries.AsNoTracking()
                .Where(e =>
                    ids.Contains(e.BuildId) && e.ReplacedBy == null && !e.Void && (e.Stop == null || e.Flag != null)
                )
                .ToListAsync(cancel)
        ).ToLookup(e => e.BuildId);
        var runs = entries.SelectMany(g => g).Where(e => e.IsRunning).Select(e => e.OperationId).ToList();
        var worked = await db
            .Operations.AsNoTracking()
            .Where(o => runs.Contains(o.Id))
            .ToDictionaryAsync(o => o.Id, cancel);
        var events = (
            await db
                .PanelEvents.AsNoTracking()
                .Where(e =>
                    ids.Contains(e.BuildId)
                    && ((e.Fact == PanelFact.Coat && e.Zone == null) || e.Fact == PanelFact.TakenBack)
                )
                .ToListAsync(cancel)
        ).ToLookup(e => e.BuildId);
        var stations = await db.Stations.AsNoTracking().ToListAsync(cancel);
        var waits = await Waits(builds, operations, entries, clock.Now.InZone(zone).Date, cancel);
        var view = await planning;
        var likely = (await plan.LastChances(cancel)).Chances.Where(c => !c.Partly).ToDictionary(c => c.Id, c => c.P50);
        var moves = Moves(builds, stations, operations, view, zone);
        return builds
            .Select(b =>
                Card(
                    b,
                    clients[b.ClientId],
                    waits[b.Id],
                    moves.GetValueOrDefault(b.Id),
                    operations[b.Id].ToList(),
                    stands[b.Id],
                    [.. entries[b.Id].Where(e => e.IsRunning).Select(e => OnItOf(e, people, worked[e.OperationId]))],
                    events[b.Id],
                    view,
                    likely,
                    zone
                )
            )
            .ToList();
    }

    private BuildCard Card(
        Build b,
        string client,
        List<Waiting> waits,
        NextMove? move,
        List<Operation> operations,
        BuildStands stands,
        List<OnIt> onIt,
        IEnumerable<PanelEvent> events,
        PlanView view,
        Dictionary<Guid, LocalDate> likely,
        DateTimeZone zone
    )
    {
        var (stages, byId) = (stands.Stages, operations.ToDictionary(o => o.Id));
        view.Builds.TryGetValue(b.Id, out var forecast);
        var next = operations
            .Where(o => !o.IsDone && o.Kind == OperationKind.Work && view.Operations.ContainsKey(o.Id))
            .OrderBy(o => view.Operations[o.Id].Start)
            .FirstOrDefault();
        var untouched = stands.Last is { } l
            ? Math.Max(0, Period.DaysBetween(l.InZone(zone).Date, clock.Now.InZone(zone).Date))
            : (int?)null;
        return new(
            b.Id,
            b.Number,
            b.Title,
            b.Vehicle.Year,
            client,
            b.Status,
            b.Vehicle.Style,
            b.Vehicle.Dimensions,
            b.Vehicle.ColourName,
            b.Vehicle.ColourHex,
            b.StationId,
            b.AwayAt,
            b.FillIn,
            b.Priority,
            b.Brief.Promised,
            forecast is null || forecast.Partly ? null
                : likely.TryGetValue(b.Id, out var half) ? half
                : null,
            forecast?.Holds.Kind ?? WaitKind.Nothing,
            HoldsText(b, forecast, byId, onIt),
            next?.Name,
            next is null ? null : view.Operations[next.Id].Start.InZone(zone).Date,
            move,
            untouched,
            Progress.Share(stages),
            stages.Sum(s => s.BudgetMinutes),
            stages.Sum(s => s.SpentMinutes),
            stages
                .Select(s => new Layer(s.Stage, s.BudgetMinutes, s.EarnedMinutes, s.SpentMinutes, s.ReworkMinutes))
                .ToList(),
            onIt,
            PanelStates
                .Counting(events)
                .OrderBy(e => e.Seq)
                .GroupBy(e => e.Panel)
                .ToDictionary(g => g.Key, g => g.Last().Coat!.Value),
            b.LeftAt,
            b.FirstMove,
            forecast?.Partly ?? false,
            view.Without.FirstOrDefault(w => w.BuildId == b.Id && w.Reason.Kind != WaitKind.Operation)?.Reason.Text
                ?? "",
            forecast?.Finish.InZone(zone).Date,
            waits
        );
    }

    private OnIt OnItOf(TimeEntry e, Dictionary<Guid, Person> people, Operation o) =>
        new(e.PersonId, people[e.PersonId].ShortName, o.Id, o.Name, e.Minutes(clock.Now), o.Panels);

    /// <summary>What waits for somebody on each build; only what may wait is read.</summary>
    private async Task<Dictionary<Guid, List<Waiting>>> Waits(
        List<Build> builds,
        ILookup<Guid, Operation> operations,
        ILookup<Guid, TimeEntry> entries,
        LocalDate today,
        CancellationToken cancel
    )
    {
        var ids = builds.Select(b => b.Id).ToList();
        var decisions = (
            await db
                .Decisions.AsNoTracking()
                .Where(d => ids.Contains(d.BuildId) && d.SettledAt == null)
                .ToListAsync(cancel)
        ).ToLookup(d => d.BuildId);
        var flagged = (
            await db
                .PanelEvents.AsNoTracking()
                .Where(e => ids.Contains(e.BuildId) && e.Flag != null)
                .ToListAsync(cancel)
        )
            .Where(e => !e.Counts)
            .ToLookup(e => e.BuildId);
        var arrivals = await db
            .Arrivals.AsNoTracking()
            .Where(a => ids.Contains(a.BuildId))
            .ToDictionaryAsync(a => a.BuildId, cancel);
        var findings = (
            await db
                .Findings.AsNoTracking()
                .Where(f => ids.Contains(f.BuildId) && f.WithdrawnWhy == null && f.Choice == null)
                .ToListAsync(cancel)
        ).ToLookup(f => f.BuildId);
        var bags = (
            await db
                .Bags.AsNoTracking()
                .Where(b => ids.Contains(b.BuildId) && b.State == BagState.NotFound)
                .ToListAsync(cancel)
        ).ToLookup(b => b.BuildId);
        var proposed = (
            await db
                .FitAcceptances.Where(a => ids.Contains(a.BuildId) && a.AcceptedAt == null && !a.TakenBack)
                .Select(a => a.BuildId)
                .ToListAsync(cancel)
        ).ToLookup(id => id);
        var parts = (
            await db
                .Parts.AsNoTracking()
                .Where(p => ids.Contains(p.BuildId) && p.State < PartState.Received && p.ExpectedOn < today)
                .ToListAsync(cancel)
        ).ToLookup(p => p.BuildId);
        var suppliers = await db.Suppliers.AsNoTracking().ToDictionaryAsync(s => s.Id, cancel);
        var batches = (
            await db
                .OutsideJobs.AsNoTracking()
                .Where(j => ids.Contains(j.BuildId) && j.SentOn != null)
                .ToListAsync(cancel)
        ).ToLookup(
            j => j.BuildId,
            j => (j, j.PromisedOn is { } on ? suppliers[j.SupplierId].HereOn(on) : (LocalDate?)null)
        );
        var papers = (
            await db.Papers.AsNoTracking().Where(p => ids.Contains(p.BuildId) && p.SentAt != null).ToListAsync(cancel)
        ).ToLookup(p => p.BuildId);
        return builds.ToDictionary(
            b => b.Id,
            b =>
                WhatWaits.Of(
                    new(b.Status, today)
                    {
                        Decisions = [.. decisions[b.Id]],
                        Operations = [.. operations[b.Id]],
                        AgainstRules = entries[b.Id].Count(e => e.Flag is { IsOpen: true }) + flagged[b.Id].Count(),
                        Arrival = arrivals.GetValueOrDefault(b.Id),
                        Findings = [.. findings[b.Id]],
                        LinesProposed = proposed[b.Id].Count(),
                        Bags = [.. bags[b.Id]],
                        Parts = [.. parts[b.Id]],
                        Batches = [.. batches[b.Id]],
                        Papers = [.. papers[b.Id]],
                    }
                )
        );
    }

    /// <summary>Where each vehicle goes next by the plan.</summary>
    private static Dictionary<Guid, NextMove> Moves(
        List<Build> builds,
        List<Station> stations,
        ILookup<Guid, Operation> operations,
        PlanView view,
        DateTimeZone zone
    )
    {
        var kinds = stations.ToDictionary(s => s.Id, s => s.Kind);
        var standing = builds
            .Select(b => b.StationId)
            .OfType<Guid>()
            .GroupBy(id => id)
            .ToDictionary(g => g.Key, g => g.Count());
        var moves = new Dictionary<Guid, NextMove>();
        foreach (var b in builds.Where(b => b is { StationId: not null, Status: BuildStatus.Open }))
        {
            var stays = view.Stays.Where(s => s.BuildId == b.Id).ToList();
            if (stays.Find(s => s.PlaceId is { } at && at != b.StationId) is not { PlaceId: { } to } next)
            {
                continue;
            }

            // It may go into the yard first; what it is moved for is the work after that.
            var work = stays.SkipWhile(s => s != next).Select(s => s.For).OfType<Guid>().FirstOrDefault();
            var stage = operations[b.Id].FirstOrDefault(o => o.Id == work)?.Stage ?? Stage.Assembly;
            moves[b.Id] = new(
                kinds[to],
                (next.MovedAt ?? next.From).InZone(zone).Date,
                stage,
                to,
                standing.GetValueOrDefault(to) < stations.First(s => s.Id == to).Count
            );
        }

        return moves;
    }

    private static string HoldsText(Build b, BuildForecast? forecast, Dictionary<Guid, Operation> byId, List<OnIt> onIt)
    {
        if (b.Status == BuildStatus.Paused)
        {
            return $"paused: {b.LeftAt}";
        }

        if (b.StationId is null && b.AwayAt.Length > 0)
        {
            return $"away at {b.AwayAt}";
        }

        if (onIt.Count > 0 || forecast is null)
        {
            return "";
        }

        return forecast.Holds.Kind switch
        {
            WaitKind.Nothing => forecast.First is { } f && byId.TryGetValue(f, out var first)
                ? $"ready: {first.Name}"
                : "nothing left to do",
            WaitKind.Decision => $"waits for an answer: {forecast.Holds.Text}",
            WaitKind.Part => $"waits for {forecast.Holds.Text}",
            WaitKind.Outside => $"away: {forecast.Holds.Text}",
            _ => forecast.Holds.Text,
        };
    }
}

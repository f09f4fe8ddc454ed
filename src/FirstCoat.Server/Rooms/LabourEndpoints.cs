using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Labour;
using FirstCoat.Store.Plan;
using FirstCoat.Store.Readings;

namespace FirstCoat.Server.Rooms;

/// <summary>The labour room: the phone's clock and the desk's hours.</summary>
public static class LabourEndpoints
{
    /// <param name="BreakWorked">Whether an unpaid break that was run across was worked; asked for when it
    /// matters.</param>
    /// <param name="Share">How far the operation that is left has come, 0 to 0.9.</param>
    /// <param name="At">When it was touched, where that could only be sent later; null: now.</param>
    /// <param name="Acknowledged">The caution of this kind of work was read; asked for once on each build.</param>
    public sealed record StartBody(
        Guid Id,
        Guid? PersonId,
        Guid OperationId,
        LabourKind Kind,
        decimal? Share,
        bool? BreakWorked,
        Instant? At = null,
        bool Acknowledged = false
    );

    /// <param name="At">When it was read, where that could only be sent later; null: now.</param>
    public sealed record AcknowledgeBody(Guid OperationId, Instant? At = null);

    /// <summary>Who has read the caution of a kind of work on a build.</summary>
    public sealed record AcknowledgementView(Hazard Hazard, string Person, Instant At, string Work, string Caution);

    /// <param name="At">When work really stopped, for a timer that was forgotten.</param>
    public sealed record StopBody(
        Guid? PersonId,
        decimal? Share,
        bool Done,
        bool? BreakWorked,
        Instant? At,
        [property: StringLength(300)] string Why = ""
    );

    /// <param name="NotDone">Why its work was not marked done although that was said; the clock stands all the
    /// same.</param>
    /// <param name="Asks">It is marked done when somebody says why its order is another.</param>
    public sealed record StoppedView(Guid Id, uint Version, string? NotDone, bool Asks);

    public sealed record SettleBody([property: StringLength(300)] string Reason);

    public sealed record HoursBody(
        Guid Id,
        Guid PersonId,
        Guid OperationId,
        Instant Start,
        Instant Stop,
        LabourKind Kind,
        [property: StringLength(300)] string Note
    );

    /// <param name="Void">The entry was not worked at all; times are left out then.</param>
    public sealed record CorrectionBody(
        Guid Id,
        Guid? OperationId,
        Instant? Start,
        Instant? Stop,
        LabourKind? Kind,
        bool Void,
        [property: StringLength(300)] string Reason
    );

    public sealed record EntryView(
        Guid Id,
        Guid PersonId,
        string Person,
        Guid OperationId,
        string Operation,
        Instant Start,
        Instant? Stop,
        int Minutes,
        LabourKind Kind,
        string Note,
        Guid? Replaces,
        Guid? ReplacedBy,
        bool Void,
        AgainstRule? Flag
    );

    /// <summary>An operation on the phone.</summary>
    public sealed record ClockJob(
        Guid OperationId,
        Guid BuildId,
        int BuildNumber,
        string BuildTitle,
        string ColourHex,
        BodyStyleKey Style,
        string Name,
        Stage Stage,
        List<string> Panels,
        int BudgetMinutes,
        int SpentMinutes,
        decimal? StatedShare,
        WaitKind WaitsKind,
        string Waits,
        Instant? Starts,
        string? Caution,
        bool CautionRead
    );

    public sealed record ClockRunning(Guid EntryId, Instant Start, LabourKind Kind, ClockJob Job);

    /// <summary>The clock runs on work that is nobody's build.</summary>
    public sealed record ShopRunning(Guid EntryId, string Job, Instant Start);

    /// <param name="Jobs">Work that is nobody's build, by name.</param>
    public sealed record ClockView(
        Guid PersonId,
        string Name,
        Instant Now,
        int TodayMinutes,
        ClockRunning? Running,
        ShopRunning? ShopRunning,
        List<ClockJob> Next,
        List<string> Jobs
    );

    public sealed record StartShopBody(
        Guid Id,
        Guid? PersonId,
        [property: StringLength(ShopSettings.JobMost)] string Job,
        decimal? Share,
        bool? BreakWorked,
        Instant? At = null
    );

    public sealed record ShopTimeBody(
        Guid Id,
        Guid PersonId,
        [property: StringLength(ShopSettings.JobMost)] string Job,
        Instant Start,
        Instant Stop,
        [property: StringLength(300)] string Note
    );

    public sealed record ShopTimeRow(
        Guid Id,
        Guid PersonId,
        string Person,
        string Job,
        Instant Start,
        Instant? Stop,
        int Minutes,
        string Note,
        string? VoidWhy
    );

    public static void MapLabour(this RouteGroupBuilder api)
    {
        api.MapGet("/clock", Clock).RequireAuthorization(Policies.Anyone).WithName("getClock");
        api.MapPost(
                "/clock/start",
                async (StartBody b, LabourDesk desk, CurrentActor current, CancellationToken cancel) =>
                    Saved.From(
                        await desk.Start(
                            b.Id,
                            b.PersonId ?? Own(current),
                            b.OperationId,
                            b.Kind,
                            b.Share,
                            b.BreakWorked,
                            cancel,
                            b.At,
                            b.Acknowledged
                        )
                    )
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("startClock");
        api.MapPost("/clock/acknowledge", async (AcknowledgeBody b, CautionDesk desk, CancellationToken cancel) =>
            {
                await desk.Acknowledge(b.OperationId, b.At, cancel);
                return Results.NoContent();
            })
            .RequireAuthorization(Policies.Anyone)
            .WithName("acknowledgeCaution")
            .Produces(StatusCodes.Status204NoContent);
        api.MapGet("/builds/{id:guid}/acknowledgements", Acknowledgements)
            .RequireAuthorization(Policies.Anyone)
            .OfKnownBuild()
            .WithName("listAcknowledgements");
        api.MapPost(
                "/clock/stop",
                async (StopBody b, LabourDesk desk, CurrentActor current, CancellationToken cancel) =>
                    await desk.Stop(b.PersonId ?? Own(current), b.Share, b.Done, b.BreakWorked, b.At, cancel, b.Why)
                        is { } stopped
                        ? Results.Ok(
                            new StoppedView(stopped.Entry.Id, stopped.Entry.Version, stopped.NotDone, stopped.Asks)
                        )
                        : Results.NoContent()
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("stopClock")
            .Produces<StoppedView>();
        api.MapPost(
                "/clock/start-shop",
                async (StartShopBody b, LabourDesk desk, CurrentActor current, CancellationToken cancel) =>
                    Saved.From(
                        await desk.StartShopTime(
                            b.Id,
                            b.PersonId ?? Own(current),
                            b.Job,
                            b.Share,
                            b.BreakWorked,
                            cancel,
                            b.At
                        )
                    )
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("startShopClock");
        api.MapGet("/shop-time", ShopTimes).RequireAuthorization(Policies.Desk).WithName("listShopTime");
        api.MapPost("/shop-time", async (ShopTimeBody b, LabourDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.EnterShopTime(b.Id, b.PersonId, b.Job, b.Start, b.Stop, b.Note, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("enterShopTime");
        api.MapPost(
                "/shop-time/{id:guid}/void",
                async (Guid id, SettleBody b, LabourDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.VoidShopTime(id, b.Reason, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("voidShopTime");
        api.MapGet("/builds/{id:guid}/hours", Hours)
            .RequireAuthorization(Policies.Anyone)
            .OfKnownBuild()
            .WithName("listHours");
        api.MapPost("/hours", async (HoursBody b, LabourDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.Enter(b.Id, new(b.PersonId, b.OperationId, b.Start, b.Stop, b.Kind, b.Note), cancel)
                )
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("enterHours");
        api.MapPost(
                "/hours/{id:guid}/settle",
                async (Guid id, SettleBody b, LabourDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Settle(id, b.Reason, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("settleHours");
        api.MapPost("/hours/{id:guid}/correct", Correct).RequireAuthorization(Policies.Anyone).WithName("correctHours");
    }

    private static Guid Own(CurrentActor current) =>
        current.Actor.PersonId
        ?? throw new Refusal("personId", "This account belongs to no person of the shop: say whose clock it is.");

    private static async Task<Saved> Correct(
        Guid id,
        CorrectionBody b,
        ShopDb db,
        LabourDesk desk,
        CurrentActor current,
        CancellationToken cancel
    )
    {
        Refusal.When(current.Actor.IsOffice, "id", "The office proposes corrections to the manager.");
        var original = await db.TimeEntries.AsNoTracking().SingleOrDefaultAsync(e => e.Id == id, cancel)
            ?? throw Refusal.Missing("entry");
        HoursEntry? hours = b.Void
            ? null
            : new(
                original.PersonId,
                b.OperationId ?? original.OperationId,
                b.Start ?? original.Start,
                b.Stop ?? original.Stop ?? throw new Refusal("stop", "Stop the timer before correcting it."),
                b.Kind ?? original.Kind,
                b.Reason
            );
        return Saved.From(await desk.Correct(id, b.Id, hours, b.Reason, cancel));
    }

    /// <summary>Who has read which caution on a build; technicians see what they read themselves.</summary>
    private static async Task<List<AcknowledgementView>> Acknowledgements(
        Guid id,
        ShopDb db,
        CurrentActor current,
        CancellationToken cancel
    )
    {
        var (all, own) = (current.Actor.IsDesk, current.Actor.PersonId);
        var people = await db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, p => p.Name, cancel);
        return (
            await db
                .Acknowledgements.AsNoTracking()
                .Where(a => a.BuildId == id && (all || a.PersonId == own))
                .OrderBy(a => a.Seq)
                .ToListAsync(cancel)
        )
            .Select(a => new AcknowledgementView(a.Hazard, people[a.PersonId], a.At, a.Work, a.Caution))
            .ToList();
    }

    private static async Task<List<EntryView>> Hours(
        Guid id,
        ShopDb db,
        ShopClock clock,
        CurrentActor current,
        CancellationToken cancel
    )
    {
        // Technicians see their own hours; what a job took in all stands with the job.
        var (all, own) = (current.Actor.IsDesk, current.Actor.PersonId);
        var people = await db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, p => p.Name, cancel);
        var operations = await db
            .Operations.AsNoTracking()
            .Where(o => o.BuildId == id)
            .ToDictionaryAsync(o => o.Id, o => o.Name, cancel);
        var entries = await db
            .TimeEntries.AsNoTracking()
            .Where(e => e.BuildId == id && (all || e.PersonId == own))
            .OrderByDescending(e => e.Start)
            .ThenByDescending(e => e.Seq)
            .ToListAsync(cancel);
        return entries
            .Select(e => new EntryView(
                e.Id,
                e.PersonId,
                people[e.PersonId],
                e.OperationId,
                operations[e.OperationId],
                e.Start,
                e.Stop,
                e.Minutes(clock.Now),
                e.Kind,
                e.Note,
                e.Replaces,
                e.ReplacedBy,
                e.Void,
                e.Flag
            ))
            .ToList();
    }

    /// <summary>Shop time of the last four weeks, newest first.</summary>
    private static async Task<List<ShopTimeRow>> ShopTimes(ShopDb db, ShopClock clock, CancellationToken cancel)
    {
        var since = clock.Now - Duration.FromDays(28);
        var people = await db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, p => p.Name, cancel);
        return (
            await db
                .ShopTimes.AsNoTracking()
                .Where(t => t.Start >= since)
                .OrderByDescending(t => t.Start)
                .ToListAsync(cancel)
        )
            .Select(t => new ShopTimeRow(
                t.Id,
                t.PersonId,
                people[t.PersonId],
                t.Job,
                t.Start,
                t.Stop,
                t.Minutes(clock.Now),
                t.Note,
                t.VoidWhy
            ))
            .ToList();
    }

    private static async Task<ClockView> Clock(
        ShopDb db,
        ShopClock clock,
        CurrentActor current,
        PlanDesk plan,
        Guid? personId,
        CancellationToken cancel
    )
    {
        Refusal.When(
            !current.Actor.IsDesk && personId is { } other && other != current.Actor.PersonId,
            "personId",
            "You see your own clock only."
        );
        var id = personId ?? Own(current);
        var person = await db.People.AsNoTracking().SingleOrDefaultAsync(p => p.Id == id, cancel)
            ?? throw Refusal.Missing("person");
        var shop = await db.Settings.AsNoTracking().SingleAsync(cancel);
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var (today, tomorrow) = DayBounds.Of(clock.Now.InZone(zone).Date, zone);
        var mine = await db
            .TimeEntries.AsNoTracking()
            .Where(e => e.PersonId == id && e.ReplacedBy == null && !e.Void)
            .Where(e => e.Stop == null || (e.Start >= today && e.Start < tomorrow))
            .ToListAsync(cancel);
        var nobodys = await db
            .ShopTimes.AsNoTracking()
            .Where(t => t.PersonId == id && t.VoidWhy == null)
            .Where(t => t.Stop == null || (t.Start >= today && t.Start < tomorrow))
            .ToListAsync(cancel);
        var running = mine.SingleOrDefault(e => e.IsRunning);
        var view = await plan.Look(cancel);
        var planned = view
            .Operations.Values.Where(o => o.People.Contains(id) && o.Id != running?.OperationId)
            .OrderBy(o => o.Start)
            .Select(o => o.Id)
            .Take(8)
            .ToList();
        var wanted = running is null ? planned : [.. planned, running.OperationId];
        var operations = await db
            .Operations.AsNoTracking()
            .Where(o => wanted.Contains(o.Id))
            .ToDictionaryAsync(o => o.Id, cancel);
        var buildIds = operations.Values.Select(o => o.BuildId).Distinct().ToList();
        var builds = await db
            .Builds.AsNoTracking()
            .Where(b => buildIds.Contains(b.Id))
            .ToDictionaryAsync(b => b.Id, cancel);
        var spent = await db.SpentOn(
            db.Operations.Where(o => wanted.Contains(o.Id)).Select(o => o.Id),
            clock.Now,
            cancel
        );
        var read = await db
            .Acknowledgements.AsNoTracking()
            .Where(a => a.PersonId == id && buildIds.Contains(a.BuildId))
            .ToListAsync(cancel);
        ClockJob Job(Guid o)
        {
            var (operation, build) = (operations[o], builds[operations[o].BuildId]);
            view.Operations.TryGetValue(o, out var f);
            return new(
                o,
                build.Id,
                build.Number,
                build.Title,
                build.Vehicle.ColourHex,
                build.Vehicle.Style,
                operation.Name,
                operation.Stage,
                operation.Panels,
                operation.BudgetMinutes,
                spent.GetValueOrDefault(o),
                operation.StatedShare,
                f?.Reason.Kind ?? WaitKind.Nothing,
                WaitsText(f),
                f?.Start,
                operation.Hazard is { } h ? Cautions.Text(h) : null,
                Acknowledgement.Owed(operation.Hazard, read.Where(a => a.BuildId == build.Id)) is null
            );
        }

        return new(
            id,
            person.Name,
            clock.Now,
            mine.Where(e => e.Start >= today).Sum(e => e.Minutes(clock.Now))
                + nobodys.Where(t => t.Start >= today).Sum(t => t.Minutes(clock.Now)),
            running is null ? null : new(running.Id, running.Start, running.Kind, Job(running.OperationId)),
            nobodys.Find(t => t.IsRunning) is { } shopRuns ? new(shopRuns.Id, shopRuns.Job, shopRuns.Start) : null,
            planned.Select(Job).ToList(),
            shop.Jobs
        );
    }

    private static string WaitsText(OperationForecast? f) =>
        f?.Reason.Kind switch
        {
            null or WaitKind.Nothing or WaitKind.Calendar => "",
            WaitKind.Person => "in turn",
            WaitKind.Decision => $"waits for an answer: {f.Reason.Text}",
            WaitKind.Part or WaitKind.Outside => $"waits for {f.Reason.Text}",
            _ => f.Reason.Text,
        };
}

using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Outside;
using FirstCoat.Store.Outside;

namespace FirstCoat.Server.Rooms;

/// <summary>The outside room.</summary>
public static class OutsideEndpoints
{
    public sealed record BatchPieceBody([property: StringLength(100)] string Name, int Count, Guid? BagId = null);

    public sealed record JobBody(
        [property: StringLength(200)] string Title,
        Guid SupplierId,
        Guid? OperationId,
        List<BatchPieceBody> Pieces,
        int QuotedDays,
        decimal Quoted,
        decimal? Billed,
        uint? Version
    );

    /// <param name="Why">Why it leaves before what comes before it; empty where nothing does.</param>
    public sealed record SendBody(LocalDate? On, LocalDate Promised, [property: StringLength(300)] string Why = "");

    public sealed record PromiseBody(LocalDate Promised);

    public sealed record CountBody(LocalDate? On, List<int> Counts);

    /// <param name="Quoted">Not for technicians, nor the bill.</param>
    public sealed record JobView(
        Guid Id,
        Guid BuildId,
        Guid SupplierId,
        Guid? OperationId,
        string Title,
        List<OutsidePiece> Pieces,
        int QuotedDays,
        decimal? Quoted,
        decimal? Billed,
        decimal? ToClient,
        LocalDate? SentOn,
        LocalDate? PromisedOn,
        LocalDate? BackOn,
        int Sent,
        int CountedIn,
        int Missing,
        bool Late,
        uint Version
    );

    public static void MapOutside(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/outside", OfBuild)
            .RequireAuthorization(Policies.Anyone)
            .OfKnownBuild()
            .WithName("listOutside");
        api.MapPut(
                "/builds/{id:guid}/outside/{jobId:guid}",
                async (Guid id, Guid jobId, JobBody b, OutsideDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.Put(
                            id,
                            jobId,
                            new(
                                b.Title,
                                b.SupplierId,
                                b.OperationId,
                                b.Pieces.Select(p => new OutsidePiece(p.Name, p.Count, 0, p.BagId)).ToList(),
                                b.QuotedDays,
                                b.Quoted,
                                b.Billed
                            ),
                            b.Version,
                            cancel
                        )
                    )
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("putOutside");
        var jobs = api.MapGroup("/outside/{id:guid}");
        jobs.MapPost("/send", async (Guid id, SendBody b, OutsideDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Send(id, b.On, b.Promised, cancel, b.Why))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("sendOutside");
        jobs.MapPost("/promise", async (Guid id, PromiseBody b, OutsideDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Promise(id, b.Promised, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("promiseOutside");
        jobs.MapPost("/count", async (Guid id, CountBody b, OutsideDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.CountIn(id, b.On, b.Counts, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("countOutside");
    }

    private static async Task<List<JobView>> OfBuild(
        Guid id,
        ShopDb db,
        ShopClock clock,
        CurrentActor current,
        CancellationToken cancel
    )
    {
        var shop = await db.Settings.AsNoTracking().SingleAsync(cancel);
        decimal? markup = current.Actor.IsDesk ? shop.OutsideMarkup : null;
        var today = clock.Now.InZone(DateTimeZoneProviders.Tzdb[shop.TimeZone]).Date;
        var suppliers = await db.Suppliers.AsNoTracking().ToDictionaryAsync(s => s.Id, cancel);
        return
        [
            .. (
                await db.OutsideJobs.AsNoTracking().Where(j => j.BuildId == id).OrderBy(j => j.Seq).ToListAsync(cancel)
            ).Select(j =>
                View(j, markup, j.IsLate(j.PromisedOn is { } on ? suppliers[j.SupplierId].HereOn(on) : null, today))
            ),
        ];
    }

    /// <param name="markup">Of outside work, percent; null: who asks does not see money.</param>
    private static JobView View(OutsideJob j, decimal? markup, bool late) =>
        new(
            j.Id,
            j.BuildId,
            j.SupplierId,
            j.OperationId,
            j.Title,
            j.Pieces,
            j.QuotedDays,
            markup is null ? null : j.Quoted,
            markup is null ? null : j.Billed,
            markup is { } percent ? j.ToClient(percent) : null,
            j.SentOn,
            j.PromisedOn,
            j.BackOn,
            j.Sent,
            j.CountedIn,
            j.MissingPieces,
            late,
            j.Version
        );
}

using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Survey;

namespace FirstCoat.Server.Rooms;

/// <summary>The survey room where there are two bodies.</summary>
public static class BodiesEndpoints
{
    public sealed record OtherZoneBody(
        [property: StringLength(40)] string Zone,
        bool Looked,
        bool Structural,
        List<FindingOption> Ways,
        [property: StringLength(200)] string Note
    );

    public sealed record OtherBodyBody(
        [property: StringLength(80)] string Name,
        int? Year,
        LocalDate? SeenOn,
        LocalDate? HeldUntil,
        decimal Purchase,
        decimal Freight,
        List<OtherZoneBody> Zones,
        List<YearSpan> Spans,
        [property: StringLength(300)] string Identity,
        uint? Version
    );

    public sealed record AskBodyBody(Guid Id, List<Guid> Holds, LocalDate DueOn);

    public sealed record ComparedView(
        Guid Id,
        string Name,
        int? OwnYear,
        int? Year,
        LocalDate? SeenOn,
        LocalDate? HeldUntil,
        decimal Purchase,
        decimal Freight,
        List<OtherZone> Zones,
        List<YearSpan> Spans,
        string Identity,
        Guid? DecisionId,
        List<Rung> Rungs,
        decimal? OwnTotal,
        decimal? OtherTotal,
        decimal? OwnSaves,
        int OwnWon,
        int OtherWon,
        List<PartFit> Fits,
        uint Version
    );

    public static void MapBodies(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/bodies", async (Guid id, BodiesDesk desk, ShopDb db, CancellationToken cancel) =>
            {
                var all = await desk.Look(id, cancel);
                var year = (await db.Builds.AsNoTracking().SingleAsync(b => b.Id == id, cancel)).Vehicle.Year;
                return all.Select(x => View(x.Body, x.Compared, year)).ToList();
            })
            .RequireAuthorization(Policies.Desk)
            .WithName("listBodies");
        api.MapPut(
                "/builds/{id:guid}/bodies/{bodyId:guid}",
                async (Guid id, Guid bodyId, OtherBodyBody b, BodiesDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.Put(
                            id,
                            bodyId,
                            new(
                                b.Name,
                                b.Year,
                                b.SeenOn,
                                b.HeldUntil,
                                b.Purchase,
                                b.Freight,
                                b.Zones.Select(z => new OtherZone(z.Zone, z.Looked, z.Structural, z.Ways, z.Note))
                                    .ToList(),
                                b.Spans,
                                b.Identity
                            ),
                            b.Version,
                            cancel
                        )
                    )
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("putBody");
        api.MapPost(
                "/bodies/{id:guid}/ask",
                async (Guid id, AskBodyBody b, BodiesDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Ask(id, b.Id, b.Holds, b.DueOn, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("askBody");
    }

    private static ComparedView View(OtherBody b, TwoBodies c, int? year) =>
        new(
            b.Id,
            b.Name,
            year,
            b.Year,
            b.SeenOn,
            b.HeldUntil,
            b.Purchase,
            b.Freight,
            b.Zones,
            b.Spans,
            b.Identity,
            b.DecisionId,
            c.Rungs.ToList(),
            c.OwnTotal,
            c.OtherTotal,
            c.OwnSaves,
            c.OwnWon,
            c.OtherWon,
            c.Fits.ToList(),
            b.Version
        );
}

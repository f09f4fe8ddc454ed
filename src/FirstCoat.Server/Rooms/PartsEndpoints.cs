using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Parts;
using FirstCoat.Store.Parts;

namespace FirstCoat.Server.Rooms;

/// <summary>The parts room.</summary>
public static class PartsEndpoints
{
    /// <param name="MeasuredBy">It is ordered only once this operation has measured for it.</param>
    public sealed record PartBody(
        [property: StringLength(200)] string Name,
        decimal Quantity,
        decimal UnitCost,
        decimal? UnitPrice,
        Guid? SupplierId,
        bool ClientSupplied,
        Guid? OperationId,
        uint? Version,
        Guid? MeasuredBy = null
    );

    public sealed record MoveBody(PartState To, LocalDate? On, uint? Version);

    public sealed record MaterialBody(
        Guid Id,
        Guid? OperationId,
        [property: StringLength(200)] string Name,
        decimal Quantity,
        [property: StringLength(20)] string Unit,
        decimal UnitCost,
        LocalDate? On
    );

    /// <param name="UnitCost">Not for technicians, nor the price.</param>
    public sealed record PartView(
        Guid Id,
        string Name,
        decimal Quantity,
        decimal? UnitCost,
        decimal? UnitPrice,
        Guid? SupplierId,
        bool ClientSupplied,
        Guid? OperationId,
        PartState State,
        LocalDate? OrderedOn,
        LocalDate? ExpectedOn,
        LocalDate? ReceivedOn,
        LocalDate? FittedOn,
        Guid? MeasuredBy,
        bool Late,
        uint Version
    );

    public sealed record MaterialView(
        Guid Id,
        string Name,
        decimal Quantity,
        string Unit,
        decimal? UnitCost,
        LocalDate On
    );

    public sealed record PartsView(List<PartView> Parts, List<MaterialView> Materials);

    public static void MapParts(this RouteGroupBuilder api)
    {
        api.MapGet(
                "/builds/{id:guid}/parts",
                async (Guid id, ShopDb db, ShopClock clock, CurrentActor current, CancellationToken cancel) =>
                {
                    var desk = current.Actor.IsDesk;
                    var today = clock
                        .Now.InZone(
                            DateTimeZoneProviders.Tzdb[
                                await db.Settings.AsNoTracking().Select(s => s.TimeZone).SingleAsync(cancel)
                            ]
                        )
                        .Date;
                    var parts = await db
                        .Parts.AsNoTracking()
                        .Where(p => p.BuildId == id)
                        .OrderBy(p => p.Seq)
                        .ToListAsync(cancel);
                    var materials = await db
                        .Materials.AsNoTracking()
                        .Where(m => m.BuildId == id)
                        .OrderBy(m => m.Seq)
                        .ToListAsync(cancel);
                    return new PartsView(
                        parts
                            .Select(p => new PartView(
                                p.Id,
                                p.Name,
                                p.Quantity,
                                desk ? p.UnitCost : null,
                                desk ? p.UnitPrice : null,
                                p.SupplierId,
                                p.ClientSupplied,
                                p.OperationId,
                                p.State,
                                p.OrderedOn,
                                p.ExpectedOn,
                                p.ReceivedOn,
                                p.FittedOn,
                                p.MeasuredBy,
                                p.IsLate(today),
                                p.Version
                            ))
                            .ToList(),
                        materials
                            .Select(m => new MaterialView(
                                m.Id,
                                m.Name,
                                m.Quantity,
                                m.Unit,
                                desk ? m.UnitCost : null,
                                m.On
                            ))
                            .ToList()
                    );
                }
            )
            .RequireAuthorization(Policies.Anyone)
            .OfKnownBuild()
            .WithName("listParts");
        api.MapPut(
                "/builds/{id:guid}/parts/{partId:guid}",
                async (Guid id, Guid partId, PartBody b, PartsDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.Put(
                            id,
                            partId,
                            new(
                                b.Name,
                                b.Quantity,
                                b.UnitCost,
                                b.UnitPrice,
                                b.SupplierId,
                                b.ClientSupplied,
                                b.OperationId,
                                b.MeasuredBy
                            ),
                            b.Version,
                            cancel
                        )
                    )
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("putPart");
        api.MapPost("/parts/{id:guid}/move", async (Guid id, MoveBody b, PartsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Move(id, b.To, b.On, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("movePart");
        api.MapPost(
                "/builds/{id:guid}/materials",
                async (Guid id, MaterialBody b, PartsDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.Book(id, b.Id, b.OperationId, b.Name, b.Quantity, b.Unit, b.UnitCost, b.On, cancel)
                    )
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("bookMaterial");
    }
}

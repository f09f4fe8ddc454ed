using FirstCoat.Core.Sequence;
using FirstCoat.Store.Sequence;

namespace FirstCoat.Server.Rooms;

/// <summary>What work after paint needs in the metal.</summary>
public static class ProvisionsEndpoints
{
    /// <param name="Words">What it is, and where.</param>
    /// <param name="MadeAt">Null: it is not there yet, or nothing is needed.</param>
    public sealed record ProvisionView(
        Guid Id,
        ProvisionKind Kind,
        string Words,
        Instant? MadeAt,
        string MadeBy,
        uint Version
    );

    /// <summary>Work and what was said of it.</summary>
    /// <param name="Gate">The gate that asks for it; null: the build has none that does.</param>
    public sealed record ProvisionsOf(Guid OperationId, string Name, string? Gate, List<ProvisionView> Said);

    public sealed record ProvisionBody(Guid Id, Guid OperationId, ProvisionKind Kind, string What, string Where);

    public sealed record MadeBody(bool Made, uint? Version);

    public sealed record ProvisionOffBody(uint? Version);

    public static void MapProvisions(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/provisions", Look)
            .RequireAuthorization(Policies.Anyone)
            .OfKnownBuild()
            .WithName("listProvisions");
        api.MapPost("/provisions", async (ProvisionBody b, ProvisionDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Say(b.Id, b.OperationId, b.Kind, b.What, b.Where, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("sayProvision");
        var one = api.MapGroup("/provisions/{id:guid}");
        one.MapPost("/made", async (Guid id, MadeBody b, ProvisionDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Made(id, b.Made, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("makeProvision");
        one.MapPost("/remove", async (Guid id, ProvisionOffBody b, ProvisionDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Remove(id, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("removeProvision");
    }

    private static async Task<List<ProvisionsOf>> Look(Guid id, ProvisionDesk desk, CancellationToken cancel) =>
        [
            .. (await desk.Of(id, cancel)).Select(s => new ProvisionsOf(
                s.Of.Id,
                s.Of.Name,
                s.Gate?.Name,
                [.. s.Said.Select(p => new ProvisionView(p.Id, p.Kind, p.Words, p.MadeAt, p.MadeBy, p.Version))]
            )),
        ];
}

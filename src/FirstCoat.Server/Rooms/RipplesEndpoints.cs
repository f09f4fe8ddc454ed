using FirstCoat.Core.Sequence;
using FirstCoat.Store.Sequence;

namespace FirstCoat.Server.Rooms;

/// <summary>What rested on finished work that is another now.</summary>
public static class RipplesEndpoints
{
    /// <param name="LookMinutes">How long a look takes where nobody says otherwise.</param>
    public sealed record RippleView(
        Guid Id,
        Guid OperationId,
        string What,
        Instant At,
        List<RestingView> Rests,
        int LookMinutes,
        uint Version
    );

    /// <param name="Verdict">Null: nobody has judged it.</param>
    /// <param name="Open">What can be said of it now.</param>
    public sealed record RestingView(
        RestsAs As,
        Guid Id,
        string Name,
        string How,
        RippleVerdict? Verdict,
        string By,
        Instant? At,
        IReadOnlyList<RippleVerdict> Open
    );

    private static List<RestingView> Seen(IEnumerable<Resting> rests) =>
        [.. rests.Select(r => new RestingView(r.As, r.Id, r.Name, r.How, r.Verdict, r.By, r.At, Ripple.Open(r)))];

    /// <param name="What">What is another now.</param>
    public sealed record RippleBody(Guid Id, Guid OperationId, string What);

    /// <param name="Thing">Of the list: an operation or a part.</param>
    /// <param name="Minutes">How long a look at it takes; asked for with "check" alone.</param>
    public sealed record RippleVerdictBody(Guid Thing, RippleVerdict Verdict, int Minutes, uint? Version);

    public static void MapRipples(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/ripples", async (Guid id, RippleDesk desk, CancellationToken cancel) =>
                (await desk.Of(id, cancel))
                    .Select(r => new RippleView(
                        r.Id,
                        r.OperationId,
                        r.What,
                        r.RecordedAt,
                        Seen(r.Rests),
                        Ripples.LookMinutes,
                        r.Version
                    ))
                    .ToList()
            )
            .RequireAuthorization(Policies.Anyone)
            .OfKnownBuild()
            .WithName("listRipples");
        api.MapGet("/operations/{id:guid}/rests", async (Guid id, RippleDesk desk, CancellationToken cancel) =>
                Seen(await desk.On(id, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("getResting");
        api.MapPost("/ripples", async (RippleBody b, RippleDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Say(b.Id, b.OperationId, b.What, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("sayRipple");
        api.MapPost(
                "/ripples/{id:guid}/judge",
                async (Guid id, RippleVerdictBody b, RippleDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Judge(id, b.Thing, b.Verdict, b.Minutes, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("judgeRipple");
    }
}

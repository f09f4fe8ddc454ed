using FirstCoat.Core.Fitup;
using FirstCoat.Store.Fitup;

namespace FirstCoat.Server.Rooms;

/// <summary>Openings of a body by their diagonals: lean, whether the figures agree, what each weld pulled.</summary>
public static class OpeningsEndpoints
{
    /// <summary>One measurement with what follows from it.</summary>
    /// <param name="DriftMm">How much more it leans to the right than before; null: it is the first.</param>
    public sealed record OpeningRoundView(
        Guid Id,
        decimal Diagonal1,
        decimal Diagonal2,
        decimal Width,
        decimal Side,
        LengthUnit Unit,
        string When,
        string By,
        Instant At,
        double ShearMm,
        double LeanDeg,
        double ImpliedSideMm,
        double MismatchMm,
        bool IsConsistent,
        double? DriftMm
    );

    /// <param name="Wrong">What is wrong with it; empty: nothing, or it was not measured.</param>
    /// <param name="Advice">What to do about it; empty: nothing.</param>
    public sealed record OpeningView(
        string Key,
        string Name,
        string Wrong,
        string Advice,
        List<OpeningRoundView> Rounds
    );

    public sealed record OpeningBody(
        Guid Id,
        string Opening,
        decimal Diagonal1,
        decimal Diagonal2,
        decimal Width,
        decimal Side,
        LengthUnit Unit,
        string When
    );

    public static void MapOpenings(this RouteGroupBuilder api)
    {
        var openings = api.MapGroup("/builds/{id:guid}/openings");
        openings.MapGet("", Look).RequireAuthorization(Policies.Anyone).OfKnownBuild().WithName("listOpenings");
        openings
            .MapPost("", async (Guid id, OpeningBody b, OpeningsDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.Read(
                        id,
                        b.Id,
                        new(b.Opening, b.Diagonal1, b.Diagonal2, b.Width, b.Side, b.Unit, b.When),
                        cancel
                    )
                )
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("measureOpening");
        api.MapPost(
                "/opening-readings/{id:guid}/take-back",
                async (Guid id, OpeningsDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.TakeBack(id, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("takeBackOpening");
    }

    private static async Task<List<OpeningView>> Look(Guid id, OpeningsDesk desk, CancellationToken cancel) =>
        [
            .. (await desk.Look(id, cancel)).Select(o => new OpeningView(
                o.Opening.Key,
                o.Opening.Name,
                o.Wrong,
                o.Advice,
                [
                    .. o.Rounds.Select(r => new OpeningRoundView(
                        r.Reading.Id,
                        r.Reading.Diagonal1,
                        r.Reading.Diagonal2,
                        r.Reading.Width,
                        r.Reading.Side,
                        r.Reading.Unit,
                        r.Reading.When,
                        r.Reading.By,
                        r.Reading.At,
                        r.Sum.ShearMm,
                        r.Sum.LeanDeg,
                        r.Sum.ImpliedSideMm,
                        r.Sum.MismatchMm,
                        r.Sum.IsConsistent,
                        r.DriftMm
                    )),
                ]
            )),
        ];
}

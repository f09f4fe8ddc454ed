using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Survey;
using FirstCoat.Server.Web;
using FirstCoat.Store.Survey;

namespace FirstCoat.Server.Rooms;

/// <summary>The survey room: unfolded bodies and what their panels wear.</summary>
public static class SurveyEndpoints
{
    public sealed record PanelView(
        string Key,
        string Name,
        PanelSide Side,
        string Path,
        IReadOnlyList<LabelBox> Labels,
        IReadOnlyDictionary<string, string> Zones
    );

    public sealed record ShutLineView(string Name, IReadOnlyList<double> Points, IReadOnlyList<double> MeasureAt);

    /// <summary>A body laid flat, in centimetres: x from the centre line, y from the nose.</summary>
    public sealed record BodyView(
        BodyStyleKey Style,
        string Name,
        BodyDimensions Dimensions,
        double MinX,
        double MinY,
        double MaxX,
        double MaxY,
        IReadOnlyList<PanelView> Panels,
        IReadOnlyList<string> Openings,
        IReadOnlyList<ShutLineView> ShutLines,
        BodyDecor Decor
    );

    public sealed record BodyStateView(BodyView Body, IReadOnlyList<PanelState> Panels, List<FlaggedEvent> Flagged);

    public sealed record PanelEventBody(
        Guid Id,
        [property: StringLength(40)] string Panel,
        [property: StringLength(40)] string? Zone,
        PanelFact Fact,
        Coat? Coat,
        Held? Held,
        [property: StringLength(300)] string Note,
        Stage? OutBy = null,
        bool? BlocksHanging = null
    );

    /// <summary>Something noted on a panel although a rule stood against it; it changes nothing until it is
    /// settled.</summary>
    public sealed record FlaggedEvent(
        Guid Id,
        string Panel,
        PanelFact Fact,
        Coat? Coat,
        Held? Held,
        string By,
        Instant At,
        string Against
    );

    public sealed record NotedView(Guid Id, uint Version, string? Against);

    public sealed record StyleView(BodyStyleKey Key, string Name, BodyDimensions Dimensions);

    public static void MapSurvey(this RouteGroupBuilder api)
    {
        api.MapGet("/body-styles", () =>
                Enum.GetValues<BodyStyleKey>()
                    .Select(s => new StyleView(s, Body.NameOf(s), BodyDimensions.Of(s)))
                    .ToList()
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("listBodyStyles");
        api.MapGet("/body-styles/{style}", (string style, int? lengthMm, int? widthMm, int? wheelbaseMm) =>
            {
                var key = Named.Choice<BodyStyleKey>(style, "style")
                    ?? throw new Refusal("style", "Say which body style.");
                var own = BodyDimensions.Of(key);
                return View(
                    Body.Unfold(
                        key,
                        new(lengthMm ?? own.LengthMm, widthMm ?? own.WidthMm, wheelbaseMm ?? own.WheelbaseMm)
                    )
                );
            })
            .RequireAuthorization(Policies.Anyone)
            .WithName("unfoldBody");
        api.MapGet("/builds/{id:guid}/body", async (Guid id, SurveyDesk desk, CancellationToken cancel) =>
            {
                var (body, panels, flagged) = await desk.Look(id, cancel);
                return new BodyStateView(
                    View(body),
                    panels,
                    [
                        .. flagged.Select(e => new FlaggedEvent(
                            e.Id,
                            e.Panel,
                            e.Fact,
                            e.Coat,
                            e.Held,
                            e.By,
                            e.At,
                            e.Flag!.Against
                        )),
                    ]
                );
            })
            .RequireAuthorization(Policies.Anyone)
            .WithName("getBody");
        api.MapPost(
                "/builds/{id:guid}/panel-events",
                async (Guid id, PanelEventBody b, SurveyDesk desk, CancellationToken cancel) =>
                {
                    var noted = await desk.Note(
                        id,
                        b.Id,
                        b.Panel,
                        b.Zone,
                        b.Fact,
                        b.Coat,
                        b.Held,
                        b.Note,
                        cancel,
                        b.OutBy,
                        b.BlocksHanging
                    );
                    return new NotedView(noted.Id, noted.Version, noted.Flag?.Against);
                }
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("notePanel");
        api.MapPost(
                "/panel-events/{id:guid}/settle",
                async (Guid id, LabourEndpoints.SettleBody b, SurveyDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Settle(id, b.Reason, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("settlePanel");
    }

    internal static BodyView View(Body body) =>
        new(
            body.Style,
            Body.NameOf(body.Style),
            body.Dimensions,
            body.MinX,
            body.MinY,
            body.MaxX,
            body.MaxY,
            body.Panels.Select(p => new PanelView(p.Key, p.Name, p.Side, p.Path, p.Labels, p.Zones)).ToList(),
            body.Openings,
            body.ShutLines.Select(s => new ShutLineView(
                    s.Name,
                    s.Curve.SelectMany(p => new[] { Math.Round(p.X, 2), Math.Round(p.Y, 2) }).ToList(),
                    s.MeasureAt
                ))
                .ToList(),
            body.Decor
        );
}

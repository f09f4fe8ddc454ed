using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Survey;

namespace FirstCoat.Server.Rooms;

/// <summary>The survey room: what was looked at, what was found, and what is to be done about it.</summary>
public static class FindingsEndpoints
{
    public sealed record HistoryBody(List<HistoryHint> History);

    public sealed record MarkBody(Guid Id, [property: StringLength(40)] string Place, MapPoint At, Probe Result);

    public sealed record LookBody(Guid Id, [property: StringLength(40)] string Place);

    public sealed record RestBody(Guid Id);

    /// <param name="Places">That are looked at by it.</param>
    public sealed record RestView(int Places);

    public sealed record FindingBody(
        [property: StringLength(40)] string Place,
        MapPoint At,
        List<MapPoint> Area,
        FindingKind Kind,
        Probe? Probe,
        int? SizeMm,
        bool Structural,
        decimal? GaugeMm,
        [property: StringLength(1000)] string Note,
        Guid? PhotoId,
        Guid? Behind,
        uint? Version
    );

    public sealed record JudgeBody(List<FindingOption> Options, uint? Version);

    public sealed record ChooseBody(Verdict Verdict, [property: StringLength(300)] string Reason);

    public sealed record WhyBody([property: StringLength(300)] string Reason);

    /// <param name="Looked">False: nobody has looked there yet.</param>
    public sealed record PlaceView(
        string Key,
        string Name,
        PlaceGroup Group,
        PanelSide Side,
        string Path,
        string? Spot,
        string? Harder,
        bool Round,
        bool Carries,
        bool Looked,
        Probe? Worst,
        int Marks,
        int Findings
    );

    public sealed record MarkView(Guid Id, string Place, MapPoint At, Probe Result, string By, Instant On);

    /// <summary>A way with its sum taken apart; money is the desk's, so that technicians get hours and days
    /// only.</summary>
    public sealed record WayView(
        Verdict Verdict,
        decimal Hours,
        Core.Kernel.Trade Trade,
        decimal LeadDays,
        decimal RiskPercent,
        bool NotSold,
        decimal Material,
        decimal SheetM2Price,
        decimal PartPrice,
        decimal FreightPrice,
        decimal Labour,
        decimal Sheet,
        decimal Part,
        decimal Freight,
        decimal Wait,
        decimal Hidden,
        decimal Total,
        string? Barred,
        decimal? BreakEvenHours,
        Verdict? Against
    );

    public sealed record FindingView(
        Guid Id,
        int Number,
        string Place,
        string PlaceName,
        MapPoint At,
        List<MapPoint> Area,
        decimal AreaM2,
        FindingKind Kind,
        Probe? Probe,
        int? SizeMm,
        bool Structural,
        decimal? GaugeMm,
        string Note,
        Guid? PhotoId,
        Guid? Behind,
        string FoundBy,
        Instant FoundAt,
        List<WayView> Ways,
        Verdict? Cheapest,
        Verdict? Choice,
        string ChoiceReason,
        string? ChosenBy,
        Instant? ChosenAt,
        string? AgreedBy,
        Instant? AgreedAt,
        bool Planned,
        bool Mended,
        string? NotDoneWhy,
        uint Version
    );

    public sealed record SurveyBody(
        List<HistoryHint> History,
        int Seen,
        int Total,
        List<PlaceView> Places,
        List<PlaceView> StillDark,
        List<MarkView> Marks,
        List<FindingView> Findings,
        decimal Verdicts
    );

    public static void MapFindings(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/survey", Look).RequireAuthorization(Policies.Anyone).WithName("getSurvey");
        api.MapPut(
                "/builds/{id:guid}/survey/history",
                async (Guid id, HistoryBody b, FindingsDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Tell(id, b.History, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("tellHistory");
        api.MapPost(
                "/builds/{id:guid}/survey/marks",
                async (Guid id, MarkBody b, FindingsDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Punch(id, b.Id, b.Place, b.At, b.Result, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("punch");
        api.MapPost("/marks/{id:guid}/take-back", async (Guid id, FindingsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.TakeBack(id, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("takeMarkBack");
        api.MapPost(
                "/builds/{id:guid}/survey/looks",
                async (Guid id, LookBody b, FindingsDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.LookedAt(id, b.Id, b.Place, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("lookedAt");
        api.MapPost(
                "/builds/{id:guid}/survey/rest",
                async (Guid id, RestBody b, FindingsDesk desk, CancellationToken cancel) =>
                    new RestView(await desk.RestIsSound(id, b.Id, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("restIsSound");
        api.MapPut(
                "/builds/{id:guid}/findings/{findingId:guid}",
                async (Guid id, Guid findingId, FindingBody b, FindingsDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.Put(
                            id,
                            findingId,
                            new(
                                b.Place,
                                b.At,
                                b.Area,
                                b.Kind,
                                b.Probe,
                                b.SizeMm,
                                b.Structural,
                                b.GaugeMm,
                                b.Note,
                                b.PhotoId,
                                b.Behind
                            ),
                            b.Version,
                            cancel
                        )
                    )
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("putFinding");
        var findings = api.MapGroup("/findings/{id:guid}");
        findings
            .MapPut("/options", async (Guid id, JudgeBody b, FindingsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Judge(id, b.Options, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("judgeFinding");
        findings
            .MapPost("/choose", async (Guid id, ChooseBody b, FindingsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Choose(id, b.Verdict, b.Reason, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("chooseVerdict");
        findings
            .MapPost("/agree", async (Guid id, FindingsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Agree(id, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("agreeVerdict");
        findings
            .MapGet("/work", async (Guid id, FindingsDesk desk, CancellationToken cancel) =>
                await desk.Preview(id, cancel)
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("previewVerdict");
        findings
            .MapPost("/apply", async (Guid id, FindingsDesk desk, CancellationToken cancel) =>
                await desk.Apply(id, cancel)
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("applyVerdict");
        findings
            .MapPost("/withdraw", async (Guid id, WhyBody b, FindingsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Withdraw(id, b.Reason, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("withdrawFinding");
    }

    private static async Task<SurveyBody> Look(
        Guid id,
        FindingsDesk desk,
        CurrentActor current,
        CancellationToken cancel
    )
    {
        var view = await desk.Look(id, cancel);
        var states = view.Sheet.Places.ToDictionary(p => p.Place.Key);
        PlaceView Place(PlaceState s) =>
            new(
                s.Place.Key,
                s.Place.Name,
                s.Place.Group,
                s.Place.Side,
                s.Place.Path,
                s.Place.Spot,
                s.Place.Harder,
                s.Place.Round,
                s.Place.Carries,
                s.Looked,
                s.Worst,
                s.Marks,
                s.Findings
            );
        var money = current.Actor.IsDesk;
        return new(
            view.History.ToList(),
            view.Sheet.Seen,
            view.Sheet.Total,
            states.Values.Select(Place).ToList(),
            view.Sheet.StillDark.Select(p => Place(states[p.Key])).ToList(),
            view.Marks.Select(m => new MarkView(m.Id, m.Place, m.At, m.Result, m.By, m.On)).ToList(),
            view.Findings.Select(f => Finding(f.Finding, f.Sums, f.Mended, states[f.Finding.Place].Place.Name, money))
                .ToList(),
            money ? view.Chosen : 0
        );
    }

    private static FindingView Finding(Finding f, VerdictSums sums, bool mended, string place, bool money)
    {
        WayView Way(OptionSum s) =>
            money
                ? new(
                    s.Option.Verdict,
                    s.Option.Hours,
                    s.Option.Trade,
                    s.Option.LeadDays,
                    s.Option.RiskPercent,
                    s.Option.NotSold,
                    s.Option.Material,
                    s.Option.SheetM2Price,
                    s.Option.Part,
                    s.Option.Freight,
                    s.Labour,
                    s.Material,
                    s.Part,
                    s.Freight,
                    s.Wait,
                    s.Hidden,
                    s.Total,
                    s.Barred,
                    s.BreakEvenHours,
                    s.Against
                )
                : new(
                    s.Option.Verdict,
                    s.Option.Hours,
                    s.Option.Trade,
                    s.Option.LeadDays,
                    s.Option.RiskPercent,
                    s.Option.NotSold,
                    0,
                    0,
                    0,
                    0,
                    0,
                    0,
                    0,
                    0,
                    0,
                    0,
                    0,
                    s.Barred,
                    null,
                    null
                );
        return new(
            f.Id,
            f.Number,
            f.Place,
            place,
            f.At,
            f.Area,
            Math.Round((decimal)f.AreaM2, 4),
            f.Kind,
            f.Probe,
            f.SizeMm,
            f.Structural,
            f.GaugeMm,
            f.Note,
            f.PhotoId,
            f.Behind,
            f.FoundBy,
            f.FoundAt,
            sums.Ways.Select(Way).ToList(),
            money ? sums.Cheapest : null,
            f.Choice,
            f.ChoiceReason,
            f.ChosenBy,
            f.ChosenAt,
            f.AgreedBy,
            f.AgreedAt,
            f.InEstimate is not null,
            mended,
            f.NotDoneWhy,
            f.Version
        );
    }
}

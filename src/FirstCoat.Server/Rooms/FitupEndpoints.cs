using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;
using FirstCoat.Store.Fitup;

namespace FirstCoat.Server.Rooms;

/// <summary>Gap and flush along the shut lines of a build, what moving a panel would do, what was done.</summary>
public static class FitupEndpoints
{
    /// <summary>A figure as it was read.</summary>
    /// <param name="Typed">As it was typed, with its unit.</param>
    public sealed record ReadingView(Guid Id, double Mm, string Typed, string By, Instant At, string Instrument);

    /// <summary>A station of a line in a round.</summary>
    /// <param name="Touched">What changed since it was read; empty: it stands.</param>
    public sealed record FitStationView(int Number, ReadingView? Gap, ReadingView? Flush, string Touched);

    /// <param name="Off">Stations off the target by more than the tolerance, counted from 1.</param>
    public sealed record LineRoundView(
        GapRound Round,
        List<FitStationView> Stations,
        double? MeanMm,
        double? RangeMm,
        double? TaperMmPerM,
        List<GapFault> Faults,
        List<int> Off,
        IReadOnlyList<int> FlushOff,
        double? WorstMm,
        double? WorstFlushMm,
        bool IsComplete
    );

    /// <param name="AcceptedBy">Empty: it is proposed.</param>
    public sealed record AcceptanceView(Guid Id, string Why, string What, string By, Instant At, string AcceptedBy);

    /// <summary>A shut line with all that was read of it.</summary>
    /// <param name="At">Where each station lies on the body laid flat: x, y, in centimetres.</param>
    /// <param name="FlushAt">Stations at which flush is read at least.</param>
    /// <param name="Hung">Panels of it that hang on hinges.</param>
    /// <param name="Next">In which round it is read now.</param>
    public sealed record FitLineView(
        string Key,
        string Letter,
        string Name,
        PanelSide Side,
        string From,
        double LengthMm,
        IReadOnlyList<string> Between,
        List<string> Hung,
        IReadOnlyList<double> StationsMm,
        List<double[]> At,
        IReadOnlyList<int> FlushAt,
        LineTerms Terms,
        FitLimits Limits,
        LineVerdict Verdict,
        string Words,
        GapRound Next,
        List<LineRoundView> Rounds,
        IReadOnlyList<double?> Foretold,
        AcceptanceView? Acceptance
    );

    public sealed record FitChangeView(
        Guid Id,
        IReadOnlyList<string> Panels,
        FitMethod Method,
        FitMove? Move,
        string What,
        string By,
        Instant At,
        bool? Helped,
        string Result,
        uint Version
    );

    /// <summary>A gate that looks at the lines.</summary>
    public sealed record FitGateView(Guid Id, string Name, bool IsDone);

    /// <param name="SheetVersion">Null: nobody has changed what lines are judged by.</param>
    public sealed record FitView(
        FitLimits Painted,
        FitLimits Bright,
        double? FilmUm,
        List<DoorHang> Doors,
        uint? SheetVersion,
        List<FitLineView> Lines,
        List<FitChangeView> Changes,
        List<FitGateView> Gates
    );

    public sealed record ReadingBody(
        Guid Id,
        string Line,
        GapRound Round,
        int Station,
        FitMeasure Measure,
        decimal Value,
        LengthUnit Unit,
        string? Instrument
    );

    public sealed record FitSheetBody(
        FitLimits Painted,
        FitLimits Bright,
        double? FilmUm,
        List<LineTerms> Lines,
        uint? Version
    );

    public sealed record DoorHangBody(double HingeSpacingMm, double LowerHingeUpMm, double HingeToRearMm);

    public sealed record AcceptLineBody(Guid Id, string Line, string Why);

    public sealed record FitTryBody(string Panel, FitMove? Move);

    /// <summary>A line with its panel moved.</summary>
    /// <param name="XMm">Of each station: behind the panel's front edge.</param>
    /// <param name="YMm">Of each station: above a door's lower edge, or right of the middle for a lid.</param>
    public sealed record MovedLineView(
        string Key,
        PanelEdge Edge,
        IReadOnlyList<double> XMm,
        IReadOnlyList<double> YMm,
        IReadOnlyList<double?> Gaps,
        double? MeanMm,
        double? RangeMm,
        bool? Passes,
        string Left
    );

    /// <summary>What a move does to every line round a panel.</summary>
    /// <param name="Why">The sum by which the shim was found; empty: there is none.</param>
    public sealed record FitAdviceView(
        string Panel,
        bool IsDoor,
        bool IsMeasured,
        DoorHang? Hang,
        double LengthMm,
        double HeightMm,
        FitMove Move,
        IReadOnlyList<string> Steps,
        string Why,
        List<MovedLineView> Lines
    );

    public sealed record FitChangeBody(Guid Id, List<string> Panels, FitMethod Method, FitMove? Move, string What);

    public sealed record FitResultBody(bool Helped, string Result, uint? Version);

    public static void MapFitup(this RouteGroupBuilder api)
    {
        var fit = api.MapGroup("/builds/{id:guid}/fit");
        fit.MapGet("", Look).RequireAuthorization(Policies.Anyone).OfKnownBuild().WithName("getFit");
        fit.MapPost("/readings", Read).RequireAuthorization(Policies.Floor).WithName("readFit");
        fit.MapPut("/sheet", Judge).RequireAuthorization(Policies.Manager).WithName("putFitSheet");
        fit.MapPut(
                "/doors/{panel}",
                async (Guid id, string panel, DoorHangBody b, FitDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.Hang(id, new(panel, b.HingeSpacingMm, b.LowerHingeUpMm, b.HingeToRearMm), cancel)
                    )
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("measureDoor");
        fit.MapPost("/acceptances", async (Guid id, AcceptLineBody b, FitDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Accept(id, b.Id, b.Line, b.Why, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("acceptLine");
        fit.MapPost("/try", Try).RequireAuthorization(Policies.Anyone).WithName("tryFit");
        fit.MapPost("/changes", async (Guid id, FitChangeBody b, FitDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Change(id, b.Id, b.Panels, b.Method, b.Move, b.What, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("changeFit");
        api.MapPost("/fit-readings/{id:guid}/take-back", async (Guid id, FitDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.TakeBackReading(id, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("takeBackReading");
        var accepted = api.MapGroup("/fit-acceptances/{id:guid}");
        accepted
            .MapPost("/accept", async (Guid id, FitDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.AcceptProposed(id, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("acceptProposed");
        accepted
            .MapPost("/take-back", async (Guid id, FitDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.TakeBackAcceptance(id, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("takeBackAcceptance");
        api.MapPost(
                "/fit-changes/{id:guid}/result",
                async (Guid id, FitResultBody b, FitDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.JudgeChange(id, b.Helped, b.Result, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("judgeFitChange");
    }

    private static async Task<Saved> Read(Guid id, ReadingBody b, FitDesk desk, CancellationToken cancel) =>
        Saved.From(
            await desk.Read(
                id,
                b.Id,
                new(b.Line, b.Round, b.Station, b.Measure, b.Value, b.Unit, b.Instrument ?? ""),
                cancel
            )
        );

    private static async Task<Saved> Judge(Guid id, FitSheetBody b, FitDesk desk, CancellationToken cancel) =>
        Saved.From(await desk.Judge(id, new(b.Painted, b.Bright, b.FilmUm, b.Lines), b.Version, cancel));

    private static async Task<FitView> Look(Guid id, FitDesk desk, CancellationToken cancel)
    {
        var look = await desk.Look(id, cancel);
        return new(
            look.Sheet.Painted,
            look.Sheet.Bright,
            look.Sheet.FilmUm,
            look.Sheet.Doors,
            look.Sheet.Version == 0 ? null : look.Sheet.Version,
            [.. look.Lines.Select(l => View(l, look.Next[l.Line.Key]))],
            [
                .. look.Changes.Select(c => new FitChangeView(
                    c.Id,
                    c.Panels,
                    c.Method,
                    c.Move,
                    c.What,
                    c.By,
                    c.At,
                    c.Helped,
                    c.Result,
                    c.Version
                )),
            ],
            [.. look.Gates.Select(g => new FitGateView(g.Id, g.Name, g.IsDone))]
        );
    }

    private static FitLineView View(LineState l, GapRound next) =>
        new(
            l.Line.Key,
            l.Line.Letter,
            l.Line.Name,
            l.Line.Side,
            l.Line.From,
            l.Line.LengthMm,
            l.Line.Between,
            [.. l.Line.Between.Where(BodyPanel.Hangs)],
            l.Line.StationsMm,
            [.. l.Line.At.Select(p => new[] { Math.Round(p.X, 2), Math.Round(p.Y, 2) })],
            LineRound.FlushAt(l.Line.StationsMm.Count),
            l.Terms,
            l.Limits,
            l.Verdict,
            l.Words,
            next,
            [.. l.Rounds.Select(View)],
            l.Foretold,
            l.Acceptance is { } a ? new(a.Id, a.Why, a.What, a.By, a.At, a.AcceptedBy) : null
        );

    private static LineRoundView View(LineRound r)
    {
        var read = r.Stations.Where(s => s.Gap is not null).ToList();
        return new(
            r.Round,
            [.. r.Stations.Select(s => new FitStationView(s.Number, View(s.Gap), View(s.Flush), s.Touched))],
            r.Profile?.MeanMm,
            r.Profile?.RangeMm,
            r.Profile?.TaperMmPerM,
            [.. r.Profile?.Faults ?? []],
            [.. (r.Profile?.Off ?? []).Select(i => read[i].Number)],
            r.FlushOff,
            r.WorstMm,
            r.WorstFlushMm,
            r.IsComplete
        );
    }

    private static ReadingView? View(FitReading? r) =>
        r is null
            ? null
            : new(
                r.Id,
                r.Mm,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{r.Value} {r.Unit switch { LengthUnit.Inch => "in", LengthUnit.Thou => "thou", _ => "mm" }}"
                ),
                r.By,
                r.At,
                r.Instrument
            );

    private static async Task<FitAdviceView> Try(Guid id, FitTryBody b, FitDesk desk, CancellationToken cancel)
    {
        var (panel, advice) = await desk.Try(id, b.Panel, b.Move, cancel);
        return new(
            panel.Key,
            panel.IsDoor,
            panel.IsMeasured,
            panel.Hang,
            panel.LengthMm,
            panel.HeightMm,
            advice.Move,
            advice.Move.Steps(),
            advice.Why,
            [
                .. advice.Lines.Select(l => new MovedLineView(
                    l.Line.Line.Key,
                    l.Line.Edge,
                    l.Line.XMm,
                    l.Line.YMm,
                    l.Gaps,
                    l.Then?.MeanMm,
                    l.Then?.RangeMm,
                    l.Then?.Passes,
                    l.Left
                )),
            ]
        );
    }
}

using FirstCoat.Core.Fitup;
using FirstCoat.Store.Fitup;

namespace FirstCoat.Server.Rooms;

/// <summary>Datum sheets: reference, readings before and after a cut, what is bent and what moved.</summary>
public static class DatumEndpoints
{
    /// <summary>How far in each direction, in millimetres: x to the rear, y to the left, z up.</summary>
    public sealed record OffsetView(double X, double Y, double Z, double Length);

    /// <param name="Off">By how much it is off its place; null: it was not read, or the shell cannot be laid on the
    /// sheet.</param>
    public sealed record PointRoundView(
        DatumRound Round,
        Guid ReadingId,
        OffsetView At,
        OffsetView? Off,
        bool IsBent,
        DatumTool Tool,
        string Instrument,
        string By,
        Instant ReadAt
    );

    /// <param name="Typed">As it stands on the reference sheet.</param>
    public sealed record DatumPointView(
        string Key,
        DatumPoint Typed,
        OffsetView At,
        List<PointRoundView> Rounds,
        OffsetView? Moved
    );

    /// <param name="Why">Why the shell cannot be laid on the sheet; empty: it can.</param>
    public sealed record DatumFitView(
        DatumRound Round,
        double? RmsMm,
        string Why,
        int Agree,
        List<string> Bent,
        bool IsSearched
    );

    /// <summary>The middle of the shell as it stands where it was read.</summary>
    /// <param name="FrontOffMm">How far to the left of the frame's middle at the foremost point.</param>
    /// <param name="RearOffMm">The same at the rearmost.</param>
    /// <param name="WorstMm">By how much the worst pair is out of mirror.</param>
    public sealed record MirrorView(double AngleDeg, double FrontOffMm, double RearOffMm, double WorstMm, int Pairs);

    public sealed record DiagonalsView(double LeftToRight, double RightToLeft);

    /// <summary>Figures of a chassis with what follows from them.</summary>
    public sealed record ChassisView(
        ChassisFigures Figures,
        double? SkewDeg,
        double? OffCentreMm,
        double? TwistMm,
        double? CornerGapMm
    );

    /// <param name="Version">Null: there is no sheet.</param>
    public sealed record DatumView(
        uint? Version,
        string Drawing,
        string Revision,
        string Page,
        double ToleranceMm,
        List<DatumPointView> Points,
        List<DatumFitView> Fits,
        MirrorView? Mirror,
        DiagonalsView? Diagonals,
        ChassisView Before,
        ChassisView After
    );

    public sealed record DatumSheetBody(
        string Drawing,
        string Revision,
        string Page,
        double ToleranceMm,
        List<DatumPoint> Points,
        uint? Version
    );

    public sealed record DatumSheetFileBody(
        string Drawing,
        string Revision,
        string Page,
        double ToleranceMm,
        string Text,
        LengthUnit Unit,
        uint? Version
    );

    public sealed record DatumReadingBody(
        Guid Id,
        string Point,
        decimal X,
        decimal Y,
        decimal Z,
        LengthUnit Unit,
        DatumRound Round,
        DatumTool Tool,
        string? Instrument
    );

    public sealed record DatumFileBody(
        string Text,
        LengthUnit Unit,
        DatumRound Round,
        DatumTool Tool,
        string? Instrument
    );

    public sealed record FiguresBody(ChassisFigures Before, ChassisFigures After, uint? Version);

    public sealed record DatumReadView(int Points);

    public static void MapDatum(this RouteGroupBuilder api)
    {
        var datum = api.MapGroup("/builds/{id:guid}/datum");
        datum.MapGet("", Look).RequireAuthorization(Policies.Anyone).OfKnownBuild().WithName("getDatum");
        datum
            .MapPut("/sheet", async (Guid id, DatumSheetBody b, DatumDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.Put(id, new(b.Drawing, b.Revision, b.Page, b.ToleranceMm, b.Points), b.Version, cancel)
                )
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("putDatumSheet");
        datum
            .MapPut("/sheet/file", async (Guid id, DatumSheetFileBody b, DatumDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.PutFile(
                        id,
                        b.Text,
                        b.Unit,
                        new(b.Drawing, b.Revision, b.Page, b.ToleranceMm, []),
                        b.Version,
                        cancel
                    )
                )
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("putDatumFile");
        datum
            .MapPut("/figures", async (Guid id, FiguresBody b, DatumDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Figures(id, b.Before, b.After, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("putChassis");
        datum
            .MapPost("/readings", async (Guid id, DatumReadingBody b, DatumDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.Read(
                        id,
                        b.Id,
                        b.Point,
                        new(b.X, b.Y, b.Z, b.Unit),
                        new(b.Round, b.Unit, b.Tool, b.Instrument ?? ""),
                        cancel
                    )
                )
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("readDatum");
        datum
            .MapPost("/readings/file", async (Guid id, DatumFileBody b, DatumDesk desk, CancellationToken cancel) =>
                new DatumReadView(
                    (await desk.ReadFile(id, b.Text, new(b.Round, b.Unit, b.Tool, b.Instrument ?? ""), cancel)).Count
                )
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("readDatumFile");
        api.MapPost("/datum-readings/{id:guid}/take-back", async (Guid id, DatumDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.TakeBack(id, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("takeBackDatum");
    }

    private static OffsetView View(Point p) => new(p.X, p.Y, p.Z, p.Length);

    private static ChassisView View(ChassisFigures f) =>
        new(f, f.SkewDeg(), f.OffCentreMm(), f.Twist()?.ResidualMm, f.Twist()?.CornerGapMm);

    private static async Task<DatumView> Look(Guid id, DatumDesk desk, CancellationToken cancel)
    {
        var look = await desk.Look(id, cancel);
        if (look.State is not { } state)
        {
            return new(null, "", "", "", 2, [], [], null, null, View(new ChassisFigures()), View(new ChassisFigures()));
        }

        var read = look.Readings.ToLookup(r => r.Point);
        return new(
            state.Sheet.Version,
            state.Sheet.Drawing,
            state.Sheet.Revision,
            state.Sheet.Page,
            state.Sheet.ToleranceMm,
            [
                .. state.Sheet.Points.Select(p => new DatumPointView(
                    p.Key,
                    p,
                    View(p.At.InMm()),
                    [
                        .. read[p.Key]
                            .GroupBy(r => r.Round)
                            .OrderBy(g => g.Key)
                            .Select(g => Round(g.Last(), state.Fits.First(f => f.Round == g.Key))),
                    ],
                    state.Moved.TryGetValue(p.Key, out var moved) ? View(moved) : null
                )),
            ],
            [
                .. state.Fits.Select(f => new DatumFitView(
                    f.Round,
                    f.Fit?.RmsMm,
                    f.Why,
                    f.Off.Count - f.Bent.Count,
                    [.. f.Bent],
                    f.IsSearched
                )),
            ],
            state.Mirror is { } m ? View(m, state.Sheet) : null,
            state.Diagonals is { } d ? new(d.LeftToRight, d.RightToLeft) : null,
            View(state.Sheet.Before),
            View(state.Sheet.After)
        );
    }

    private static PointRoundView Round(DatumReading r, DatumFit fit) =>
        new(
            r.Round,
            r.Id,
            View(r.At.InMm()),
            fit.Off.TryGetValue(r.Point, out var off) ? View(off) : null,
            fit.Bent.Contains(r.Point),
            r.Tool,
            r.Instrument,
            r.By,
            r.ReadAt
        );

    /// <summary>The plane as it is read on a jig: its angle to the jig's centre line and its distance at both
    /// ends.</summary>
    private static MirrorView View(MirrorPlane m, DatumSheet sheet)
    {
        var along = sheet.Points.ConvertAll(p => p.At.InMm().X);
        double OffAt(double x) => (m.DistanceMm - m.Normal.X * x) / m.Normal.Y;
        return new(
            Math.Atan2(m.Normal.X, m.Normal.Y) * 180 / Math.PI,
            OffAt(along.Min()),
            OffAt(along.Max()),
            m.Asymmetry.Max(a => a.Length),
            m.Asymmetry.Count
        );
    }
}

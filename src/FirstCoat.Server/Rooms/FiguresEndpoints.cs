using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;
using FirstCoat.Store.Fitup;

namespace FirstCoat.Server.Rooms;

/// <summary>Figures against their papers, middles, the sound side as the other's target, mounts, bolts in their
/// order.</summary>
public static class FiguresEndpoints
{
    /// <param name="Words">How it stands.</param>
    public sealed record SpecView(
        Guid Id,
        uint Version,
        string Name,
        string Panel,
        decimal? Specified,
        decimal Tolerance,
        string Unit,
        string Source,
        string Page,
        Guid? PhotoId,
        List<SideReading> Readings,
        decimal? Deviation,
        bool IsOut,
        string Words
    );

    public sealed record CentreView(
        Guid Id,
        string What,
        string Panel,
        decimal Left,
        decimal Right,
        decimal Tolerance,
        LengthUnit Unit,
        string By,
        Instant At,
        double WidthMm,
        double MoveRightMm,
        double DeviationMm,
        bool IsCentred
    );

    /// <param name="TargetMm">What the doubtful side should read; null: the sound side was not read.</param>
    /// <param name="OffMm">By how much it is off it; null: one of both was not read.</param>
    public sealed record BothSidesView(
        Guid Id,
        string Name,
        string Panel,
        PanelSide Sound,
        decimal Asymmetry,
        decimal Tolerance,
        LengthUnit Unit,
        decimal? SoundRead,
        decimal? OtherRead,
        double? TargetMm,
        double? OffMm,
        bool IsOut
    );

    public sealed record MountView(Guid Id, uint Version, string Name, List<string> Panels, decimal ShimMm);

    /// <param name="Next">The bolt that comes next; null: all are tight.</param>
    public sealed record BoltsView(Guid Id, string Name, string Source, List<BoltStep> Steps, int? Next);

    public sealed record FiguresView(
        List<SpecView> Specs,
        List<CentreView> Centres,
        List<BothSidesView> Mirrors,
        List<MountView> Mounts,
        List<BoltsView> Bolts
    );

    public sealed record SpecBody(
        string Name,
        string Panel,
        decimal? Specified,
        decimal Tolerance,
        string Unit,
        string Source,
        string Page,
        Guid? PhotoId,
        uint? Version
    );

    public sealed record SpecReadBody(Guid Id, decimal Value, string Instrument);

    public sealed record CentreBody(
        Guid Id,
        string What,
        string Panel,
        decimal Left,
        decimal Right,
        decimal Tolerance,
        LengthUnit Unit
    );

    public sealed record MirrorBody(
        Guid Id,
        string Name,
        string Panel,
        PanelSide Sound,
        decimal Asymmetry,
        decimal Tolerance,
        LengthUnit Unit
    );

    public sealed record MirrorReadBody(Guid Id, PanelSide Side, decimal Value);

    public sealed record MountBody(Guid Id, string Name, List<string> Panels);

    public sealed record ShimBody(Guid Id, decimal ShimMm, uint? Version);

    public sealed record BoltBody(string Name, string Torque);

    public sealed record BoltsBody(Guid Id, string Name, string Source, List<BoltBody> Bolts);

    public sealed record TightBody(int Number, bool Tight);

    public static void MapFigures(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/figures", Look)
            .RequireAuthorization(Policies.Anyone)
            .OfKnownBuild()
            .WithName("listFigures");
        api.MapSpecs();
        api.MapSides();
        api.MapMounts();
    }

    private static void MapSpecs(this RouteGroupBuilder api)
    {
        var floor = api.MapGroup("").RequireAuthorization(Policies.Floor);
        floor
            .MapPut(
                "/builds/{id:guid}/figures/{figureId:guid}",
                async (Guid id, Guid figureId, SpecBody b, FiguresDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.PutSpec(
                            id,
                            figureId,
                            new(b.Name, b.Panel, b.Specified, b.Tolerance, b.Unit, b.Source, b.Page, b.PhotoId),
                            b.Version,
                            cancel
                        )
                    )
            )
            .WithName("putSpec");
        floor
            .MapPost(
                "/figures/{id:guid}/readings",
                async (Guid id, SpecReadBody b, FiguresDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.ReadSpec(id, b.Id, b.Value, b.Instrument, cancel))
            )
            .WithName("readSpec");
        floor
            .MapPost("/figures/{id:guid}/take-back", async (Guid id, FiguresDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.TakeBackSpec(id, cancel))
            )
            .WithName("takeBackSpec");
        floor
            .MapPost("/figures/{id:guid}/remove", async (Guid id, FiguresDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.RemoveSpec(id, cancel))
            )
            .WithName("removeSpec");
    }

    private static void MapSides(this RouteGroupBuilder api)
    {
        var floor = api.MapGroup("").RequireAuthorization(Policies.Floor);
        floor
            .MapPost(
                "/builds/{id:guid}/centres",
                async (Guid id, CentreBody b, FiguresDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.ReadCentre(
                            id,
                            b.Id,
                            new(b.What, b.Panel, b.Left, b.Right, b.Tolerance, b.Unit),
                            cancel
                        )
                    )
            )
            .WithName("readCentre");
        floor
            .MapPost("/centres/{id:guid}/take-back", async (Guid id, FiguresDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.TakeBackCentre(id, cancel))
            )
            .WithName("takeBackCentre");
        floor
            .MapPost(
                "/builds/{id:guid}/mirrors",
                async (Guid id, MirrorBody b, FiguresDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.AddMirror(
                            id,
                            b.Id,
                            new(b.Name, b.Panel, b.Sound, b.Asymmetry, b.Tolerance, b.Unit),
                            cancel
                        )
                    )
            )
            .WithName("addMirror");
        floor
            .MapPost(
                "/mirrors/{id:guid}/readings",
                async (Guid id, MirrorReadBody b, FiguresDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.ReadMirror(id, b.Id, b.Side, b.Value, cancel))
            )
            .WithName("readMirror");
        floor
            .MapPost("/mirrors/{id:guid}/take-back", async (Guid id, FiguresDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.TakeBackMirror(id, cancel))
            )
            .WithName("takeBackMirror");
        floor
            .MapPost("/mirrors/{id:guid}/remove", async (Guid id, FiguresDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.RemoveMirror(id, cancel))
            )
            .WithName("removeMirror");
    }

    private static void MapMounts(this RouteGroupBuilder api)
    {
        var floor = api.MapGroup("").RequireAuthorization(Policies.Floor);
        floor
            .MapPost(
                "/builds/{id:guid}/mounts",
                async (Guid id, MountBody b, FiguresDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.AddMount(id, b.Id, b.Name, b.Panels, cancel))
            )
            .WithName("addMount");
        floor
            .MapPost(
                "/mounts/{id:guid}/shim",
                async (Guid id, ShimBody b, FiguresDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Shim(id, b.Id, b.ShimMm, b.Version, cancel))
            )
            .WithName("shimMount");
        floor
            .MapPost("/mounts/{id:guid}/remove", async (Guid id, FiguresDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.RemoveMount(id, cancel))
            )
            .WithName("removeMount");
        floor
            .MapPost(
                "/builds/{id:guid}/bolts",
                async (Guid id, BoltsBody b, FiguresDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.AddBolts(
                            id,
                            b.Id,
                            b.Name,
                            b.Source,
                            [.. b.Bolts.Select(x => (x.Name, x.Torque))],
                            cancel
                        )
                    )
            )
            .WithName("addBolts");
        floor
            .MapPost(
                "/bolts/{id:guid}/tight",
                async (Guid id, TightBody b, FiguresDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Tighten(id, b.Number, b.Tight, cancel))
            )
            .WithName("tightenBolt");
        floor
            .MapPost("/bolts/{id:guid}/remove", async (Guid id, FiguresDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.RemoveBolts(id, cancel))
            )
            .WithName("removeBolts");
    }

    private static async Task<FiguresView> Look(Guid id, FiguresDesk desk, CancellationToken cancel)
    {
        var all = await desk.Look(id, cancel);
        return new(
            [
                .. all.Specs.Select(f => new SpecView(
                    f.Id,
                    f.Version,
                    f.Name,
                    f.Panel,
                    f.Specified,
                    f.Tolerance,
                    f.Unit,
                    f.Source,
                    f.Page,
                    f.PhotoId,
                    f.Readings,
                    f.Deviation(),
                    f.IsOut(),
                    f.Words()
                )),
            ],
            [.. all.Centres.Select(Of)],
            [.. all.Mirrors.Select(Of)],
            [.. all.Mounts.Select(m => new MountView(m.Id, m.Version, m.Name, m.Panels, m.ShimMm))],
            [.. all.Bolts.Select(b => new BoltsView(b.Id, b.Name, b.Source, b.Steps, b.Next()?.Number))]
        );
    }

    private static CentreView Of(CentreReading c)
    {
        var sum = c.Sum();
        return new(
            c.Id,
            c.What,
            c.Panel,
            c.Left,
            c.Right,
            c.Tolerance,
            c.Unit,
            c.By,
            c.At,
            sum.WidthMm,
            sum.MoveRightMm,
            sum.DeviationMm,
            sum.IsCentred
        );
    }

    private static BothSidesView Of(MirrorPlace m)
    {
        var sum = m.Targets();
        return new(
            m.Id,
            m.Name,
            m.Panel,
            m.Sound,
            m.Asymmetry,
            m.Tolerance,
            m.Unit,
            m.Of(m.Sound)?.Value,
            m.Of(m.Doubtful())?.Value,
            sum?.Targets[0].Mm,
            sum is { Off.Count: > 0 } ? sum.Off[0].Mm : null,
            sum is { Outside.Count: > 0 }
        );
    }
}

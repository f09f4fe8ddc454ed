using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Teardown;
using FirstCoat.Store.Teardown;

namespace FirstCoat.Server.Rooms;

/// <summary>The teardown room: sub-assemblies, taken apart step by step and put back in reverse.</summary>
public static class StepsEndpoints
{
    public sealed record BeginBody(
        Guid Id,
        AssemblyKind Kind,
        PanelSide Side,
        [property: StringLength(80)] string Name,
        Guid? BackWith
    );

    public sealed record StepBody(
        [property: StringLength(40)] string Key,
        [property: StringLength(80)] string Name,
        [property: StringLength(120)] string Says,
        [property: StringLength(80)] string Piece,
        int Pieces,
        BagFastener? Fastener,
        [property: StringLength(80)] string Tool,
        bool Blind,
        Core.Kernel.Hazard? Hazard,
        List<string> How,
        List<string> Photos,
        List<StepAfter> After,
        int Minutes
    );

    public sealed record AssemblyBody(
        [property: StringLength(80)] string Name,
        Guid? BackWith,
        List<StepBody> Steps,
        uint? Version
    );

    /// <param name="Acknowledged">The step's caution was read; asked for once on each build and kind of danger.</param>
    public sealed record StepClockBody(StepClock Clock, bool Acknowledged = false);

    public sealed record CloseStepBody(
        Guid BagId,
        bool InBag,
        List<BagPiece> Pieces,
        List<BagFastener> Fasteners,
        [property: StringLength(60)] string Place,
        Guid? PatternFor,
        Guid? PhotoId,
        bool NoPhoto,
        bool CountsDiffer,
        [property: StringLength(300)] string OutOfOrderWhy,
        [property: StringLength(300)] string Note,
        int? DoingSeconds,
        int? FindingSeconds
    );

    public sealed record PutBackBody(bool Back);

    /// <param name="Expected">Minutes.</param>
    /// <param name="First">What is not off and must be, by name.</param>
    /// <param name="Chain">Keys of the longest chain that frees it, itself last.</param>
    /// <param name="TwinBag">The other side's bag of this step.</param>
    public sealed record StepView(
        string Key,
        string Name,
        string Says,
        string Piece,
        int Pieces,
        BagFastener? Fastener,
        string Tool,
        bool Blind,
        Core.Kernel.Hazard? Hazard,
        string? Caution,
        List<string> How,
        List<string> Photos,
        List<StepAfter> After,
        int Minutes,
        double Expected,
        double? ExpectedHigh,
        string RestsOn,
        List<string> First,
        List<string> Chain,
        int DoingSeconds,
        int FindingSeconds,
        StepClock Clock,
        Instant? ClockSince,
        bool Off,
        Instant? OffAt,
        string OffBy,
        bool NoPhoto,
        string OutOfOrderWhy,
        string Note,
        Guid? PhotoId,
        Guid? BagId,
        string? Bag,
        string? TwinBag,
        int? TwinFasteners,
        int? TwinDoingSeconds,
        int? TwinFindingSeconds,
        bool Back
    );

    public sealed record AssemblyRow(
        Guid Id,
        AssemblyKind Kind,
        PanelSide Side,
        string Name,
        Guid? BackWith,
        int Off,
        double ExpectedMinutes,
        double SpentMinutes,
        double? TwinMinutes,
        List<StepView> Steps,
        uint Version
    );

    public sealed record LackView(
        string What,
        Missing How,
        string From,
        LocalDate? Here,
        LocalDate? HereLate,
        LocalDate? OrderBy,
        decimal Cost,
        int? DaysInHand,
        Guid? PartId,
        bool Late,
        int Order
    );

    public sealed record BackStepView(
        int Order,
        string Key,
        string Name,
        string Says,
        string Note,
        Guid? PhotoId,
        string? Bag,
        PanelSide Side,
        BagState? BagState,
        string BagPlace,
        LocalDate? Needed,
        bool Late,
        bool Back,
        List<LackView> Lacks
    );

    public sealed record BackView(
        Guid Id,
        string Name,
        int Done,
        decimal ToBuy,
        List<BackStepView> Steps,
        List<LackView> Lacks
    );

    public static void MapSteps(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/assemblies", async (Guid id, StepsDesk desk, CancellationToken cancel) =>
                (await desk.Look(id, cancel)).Select(Row).ToList()
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("listAssemblies");
        api.MapPost(
                "/builds/{id:guid}/assemblies",
                async (Guid id, BeginBody b, StepsDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Begin(id, b.Id, b.Kind, b.Side, b.Name, b.BackWith, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("beginAssembly");
        var one = api.MapGroup("/assemblies/{id:guid}");
        one.MapPut("", async (Guid id, AssemblyBody b, StepsDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.Change(
                        id,
                        b.Name,
                        b.BackWith,
                        b.Steps.Select(s => new TeardownStep(
                                s.Key,
                                s.Name,
                                s.Says,
                                s.Piece,
                                s.Pieces,
                                s.Fastener,
                                s.Tool,
                                s.Blind,
                                s.Hazard,
                                s.How,
                                s.Photos,
                                s.After,
                                s.Minutes
                            ))
                            .ToList(),
                        b.Version,
                        cancel
                    )
                )
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("changeAssembly");
        one.MapPost(
                "/steps/{step}/clock",
                async (Guid id, string step, StepClockBody b, StepsDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Count(id, step, b.Clock, cancel, b.Acknowledged))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("countStep");
        one.MapPost("/steps/{step}/close", Close).RequireAuthorization(Policies.Anyone).WithName("closeStep");
        one.MapPost(
                "/steps/{step}/back",
                async (Guid id, string step, PutBackBody b, StepsDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.PutBack(id, step, b.Back, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("putStepBack");
        one.MapGet("/back", Back).RequireAuthorization(Policies.Anyone).WithName("getReassembly");
    }

    private static async Task<Saved> Close(
        Guid id,
        string step,
        CloseStepBody b,
        StepsDesk desk,
        ShopDb db,
        CancellationToken cancel
    )
    {
        var one = await db.SubAssemblies.AsNoTracking().SingleOrDefaultAsync(a => a.Id == id, cancel)
            ?? throw Refusal.Missing("sub-assembly");
        var named = one.Steps.FirstOrDefault(s => s.Key == step) ?? throw Refusal.Missing("step");
        var bag = b.InBag
            ? new BagEntered(
                one.Side,
                Words.Shortened($"{named.Name}, {one.Name.ToLowerInvariant()}", Core.Teardown.Bag.WhatMost),
                one.Name,
                b.Pieces,
                b.Fasteners,
                b.Place,
                b.PatternFor,
                b.PhotoId,
                b.NoPhoto
            )
            : null;
        return Saved.From(
            await desk.Close(
                id,
                step,
                new(bag, b.BagId, b.CountsDiffer, b.OutOfOrderWhy, b.Note, b.DoingSeconds, b.FindingSeconds),
                cancel
            )
        );
    }

    private static async Task<BackView> Back(Guid id, StepsDesk desk, CurrentActor current, CancellationToken cancel)
    {
        var (of, list) = await desk.Back(id, cancel);
        var money = current.Actor.IsDesk;
        LackView Lack(BackStep s, Lacking l) =>
            new(
                l.What,
                l.How,
                l.From,
                l.Here,
                l.HereLate,
                l.OrderBy,
                money ? l.Cost : 0,
                s.Needed is { } day ? l.DaysInHand(day) : null,
                l.PartId,
                s.Late,
                s.Order
            );
        return new(
            of.Id,
            of.Name,
            list.Done,
            money ? list.ToBuy : 0,
            list.Steps.Select(s => new BackStepView(
                    s.Order,
                    s.Step.Key,
                    s.Step.Name,
                    s.Step.Says,
                    s.State.Note,
                    s.State.PhotoId,
                    s.Bag?.Label,
                    of.Side,
                    s.Bag?.State,
                    s.Bag?.Place ?? "",
                    s.Needed,
                    s.Late,
                    s.State.BackAt is not null,
                    s.Lacks.Select(l => Lack(s, l)).ToList()
                ))
                .ToList(),
            list.Lacks.Select(x => Lack(x.Step, x.What)).ToList()
        );
    }

    private static AssemblyRow Row(AssemblyView view)
    {
        var a = view.Assembly;
        var steps = a.Steps.Select(s => Step(view, s)).ToList();
        return new(
            a.Id,
            a.Kind,
            a.Side,
            a.Name,
            a.BackWith,
            steps.Count(s => s.Off),
            steps.Sum(s => s.Expected),
            a.States.Sum(s => s.Seconds) / 60.0,
            view.Twin is { } t && t.States.Any(s => s.IsOff) ? t.States.Sum(s => s.Seconds) / 60.0 : null,
            steps,
            a.Version
        );
    }

    private static StepView Step(AssemblyView view, TeardownStep s)
    {
        var (a, state, twin) = (view.Assembly, view.Assembly.State(s.Key), view.Twin?.State(s.Key));
        var expected = view.Expected[s.Key];
        Bag? Bag(Guid? id) => id is { } x ? view.Bags.GetValueOrDefault(x) : null;
        return new(
            s.Key,
            s.Name,
            s.Says,
            s.Piece,
            s.Pieces,
            s.Fastener,
            s.Tool,
            s.Blind,
            s.Hazard,
            s.Hazard is { } h ? Core.Kernel.Cautions.Text(h) : null,
            s.How,
            s.Photos,
            s.After,
            s.Minutes,
            expected.Likely,
            expected.High,
            expected.RestsOn,
            a.Before(s.Key).Select(x => x.Name).ToList(),
            a.Chain(s.Key).Select(x => x.Key).ToList(),
            state.DoingSeconds,
            state.FindingSeconds,
            state.Clock,
            state.ClockSince,
            state.IsOff,
            state.OffAt,
            state.OffBy,
            state.NoPhoto,
            state.OutOfOrderWhy,
            state.Note,
            state.PhotoId,
            state.BagId,
            Bag(state.BagId)?.Label,
            Bag(twin?.BagId)?.Label,
            Bag(twin?.BagId)?.FastenerCount,
            twin is { IsOff: true } ? twin.DoingSeconds : null,
            twin is { IsOff: true } ? twin.FindingSeconds : null,
            state.BackAt is not null
        );
    }
}

using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Plan;
using FirstCoat.Store.Readings;
using FirstCoat.Store.Sequence;

namespace FirstCoat.Server.Rooms;

/// <summary>The sequence room.</summary>
public static class SequenceEndpoints
{
    public sealed record OperationBody(
        [property: StringLength(120)] string Name,
        Stage Stage,
        OperationKind Kind,
        Trade? Trade,
        int BudgetMinutes,
        StationKind? Station,
        Guid? PersonId,
        List<string> Panels,
        Coat? Coat,
        Held? Held,
        bool WithoutStop,
        GateKind? Gate,
        Hazard? Hazard,
        int ClockMinutes,
        List<OperationLink> After,
        int? Position,
        uint? Version,
        OperationTerms? Terms = null,
        [property: StringLength(300)] string? DepartsWhy = null
    )
    {
        /// <summary>Writes it into an operation.</summary>
        internal void Into(Operation o)
        {
            (o.Name, o.Stage, o.Kind, o.Trade, o.BudgetMinutes) = (Name.Trim(), Stage, Kind, Trade, BudgetMinutes);
            (o.Station, o.PersonId, o.Panels, o.Coat, o.Held) = (Station, PersonId, Panels, Coat, Held);
            (o.WithoutStop, o.Gate, o.Hazard, o.ClockMinutes, o.After) = (
                WithoutStop,
                Gate,
                Hazard,
                ClockMinutes,
                After
            );
            o.Position = Position ?? o.Position;
            o.DepartsWhy = DepartsWhy?.Trim() ?? o.DepartsWhy;
            o.Terms = Terms is { } terms ? terms with { Replaced = o.Terms.Replaced } : o.Terms.At(Station);
        }
    }

    /// <param name="Starts">By the plan; null when done or the build is not open.</param>
    /// <param name="Place">The place in which the vehicle stands for it by the plan.</param>
    /// <param name="Assumes">On what its date rests, each beginning with "if".</param>
    /// <param name="Warning">What is usually not done in this order.</param>
    /// <param name="SlackDays">By how many days it can be later without moving the end of its build; null: it has no
    /// date.</param>
    /// <param name="Departs">What its template puts before it, and it does not wait for.</param>
    /// <param name="StartBy">The last start inside its windows: later, what they ask for is done first. Null: it has
    /// none.</param>
    public sealed record OperationView(
        Guid Id,
        int Position,
        Stage Stage,
        OperationKind Kind,
        string Name,
        Trade? Trade,
        int BudgetMinutes,
        decimal EarnedMinutes,
        int SpentMinutes,
        StationKind? Station,
        Guid? PersonId,
        List<string> Panels,
        Coat? Coat,
        Held? Held,
        bool WithoutStop,
        GateKind? Gate,
        bool CanOverride,
        Hazard? Hazard,
        string? Caution,
        int ClockMinutes,
        List<OperationLink> After,
        decimal? StatedShare,
        Instant? DoneAt,
        string? DoneBy,
        List<GateSignature> Signatures,
        Instant? Starts,
        Instant? Finishes,
        Guid? PlannedPersonId,
        List<Guid> PlannedPeople,
        bool MissesDeadline,
        Instant? StartBy,
        PlanReason? Reason,
        OperationTerms Terms,
        uint Version,
        string? Place,
        string? Assumes,
        string? Warning,
        decimal? SlackDays,
        List<string> Departs,
        string DepartsWhy
    );

    /// <param name="Anew">What was changed by hand becomes as the template has it.</param>
    public sealed record FromTemplateBody(
        [property: StringLength(60)] string Template,
        decimal Scale,
        TemplateChoices Choices,
        bool Anew = false
    )
    {
        internal Way Way => new(Template, Choices);
    }

    /// <param name="Id">Of the template.</param>
    public sealed record SaveTemplateBody(Guid Id, [property: StringLength(60)] string Name);

    /// <param name="Id">Of the second part.</param>
    /// <param name="Minutes">Of the likely minutes, for the second part.</param>
    /// <param name="Panels">That go with the second part; none: both are about all of them.</param>
    public sealed record SplitBody(
        Guid Id,
        [property: StringLength(120)] string Name,
        int Minutes,
        List<string> Panels,
        bool SideBySide,
        uint? Version
    )
    {
        internal PartOff Part => new(Id, Name, Minutes, Panels, SideBySide);
    }

    /// <param name="With">Goes: its hours, panels and links come to the first.</param>
    public sealed record MergeBody(Guid With, uint? Version);

    /// <param name="ChangeId">By which it is taken back; null: nothing was changed.</param>
    public sealed record KeptChange(Guid Id, uint Version, Guid? ChangeId)
    {
        internal static KeptChange Of(KeptOperation kept) =>
            new(kept.Operation.Id, kept.Operation.Version, kept.Change?.Id);
    }

    /// <param name="IsBack">Whether it has been taken back.</param>
    public sealed record SequenceChangeView(Guid Id, string What, string By, Instant At, bool IsBack);

    public sealed record ReasonBody([property: StringLength(500)] string Reason);

    /// <param name="On">The day on which it is to start; null, as the others: the plan settles it.</param>
    public sealed record PinBody(LocalDate? On, Guid? PersonId, Guid? PlaceId, uint? Version)
    {
        internal OperationPin Pin => new(On, PersonId, PlaceId);
    }

    /// <param name="Asks">What it asks for, met or not.</param>
    /// <param name="Others">Who did not do the work that it checks, and so can sign.</param>
    /// <param name="Sides">May be signed side by side.</param>
    public sealed record GateView(List<GateAsk> Asks, List<string> Others, bool Sides);

    /// <param name="Seen">What was missing when the signer looked; null: they were not shown it.</param>
    /// <param name="Side">The side that is signed by itself; null: all.</param>
    public sealed record SignBody([property: MaxLength(500)] List<string>? Seen, PanelSide? Side = null);

    public static void MapSequence(this RouteGroupBuilder api)
    {
        api.MapGet("/templates", async (TemplatesDesk desk, CancellationToken cancel) =>
                (await desk.All(cancel)).Offered
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("listTemplates");
        api.MapPost(
                "/builds/{id:guid}/template",
                async (Guid id, SaveTemplateBody b, TemplatesDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Save(b.Id, id, b.Name, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("saveTemplate");
        api.MapDelete("/templates/{id:guid}", async (Guid id, TemplatesDesk desk, CancellationToken cancel) =>
            {
                await desk.Drop(id, cancel);
                return Results.NoContent();
            })
            .RequireAuthorization(Policies.Manager)
            .WithName("dropTemplate");
        api.MapGet("/builds/{id:guid}/operations", Look)
            .RequireAuthorization(Policies.Anyone)
            .WithName("listOperations");
        api.MapPut(
                "/builds/{id:guid}/operations/{operationId:guid}",
                async (
                    Guid id,
                    Guid operationId,
                    OperationBody b,
                    SequenceChangesDesk desk,
                    CancellationToken cancel
                ) => KeptChange.Of(await desk.Put(id, operationId, b.Into, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("putOperation");
        api.MapPost(
                "/builds/{id:guid}/operations/{operationId:guid}/try",
                (
                    Guid id,
                    Guid operationId,
                    OperationBody b,
                    SequenceDesk desk,
                    Trials trials,
                    CancellationToken cancel
                ) => trials.Of(() => desk.Put(id, operationId, b.Into, b.Version, cancel), operationId, cancel)
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("tryOperation");
        api.MapPost(
                "/builds/{id:guid}/from-template",
                async (Guid id, FromTemplateBody b, SequenceDesk desk, CancellationToken cancel) =>
                {
                    await desk.FromTemplate(id, b.Way, b.Scale, b.Anew, cancel);
                    return Results.NoContent();
                }
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("planFromTemplate");
        api.MapGet(
                "/builds/{id:guid}/sequence-changes",
                async (Guid id, SequenceChangesDesk desk, CancellationToken cancel) =>
                    (await desk.Of(id, cancel))
                        .Select(c => new SequenceChangeView(c.Id, c.What, c.By, c.RecordedAt, c.IsBack))
                        .ToList()
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("listSequenceChanges");
        api.MapPost(
                "/sequence-changes/{id:guid}/undo",
                async (Guid id, SequenceChangesDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Undo(id, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("undoSequenceChange");
        api.MapPost(
                "/sequence-changes/{id:guid}/redo",
                async (Guid id, SequenceChangesDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Redo(id, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("redoSequenceChange");
        var operations = api.MapGroup("/operations/{id:guid}");
        operations
            .MapDelete("", async (Guid id, SequenceChangesDesk desk, CancellationToken cancel) =>
                KeptChange.Of(await desk.Remove(id, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("removeOperation");
        operations
            .MapPost("/try-removal", (Guid id, SequenceDesk desk, Trials trials, CancellationToken cancel) =>
                trials.Of(() => desk.Remove(id, cancel), id, cancel)
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("tryRemoval");
        operations
            .MapPost("/split", async (Guid id, SplitBody b, SequenceChangesDesk desk, CancellationToken cancel) =>
                KeptChange.Of(await desk.Split(id, b.Part, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("splitOperation");
        operations
            .MapPost("/split/try", (Guid id, SplitBody b, SequenceDesk desk, Trials trials, CancellationToken cancel) =>
                trials.Of(() => desk.Split(id, b.Part, b.Version, cancel), id, cancel)
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("trySplit");
        operations
            .MapPost("/merge", async (Guid id, MergeBody b, SequenceChangesDesk desk, CancellationToken cancel) =>
                KeptChange.Of(await desk.Merge(id, b.With, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("mergeOperations");
        operations
            .MapPost("/merge/try", (Guid id, MergeBody b, SequenceDesk desk, Trials trials, CancellationToken cancel) =>
                trials.Of(() => desk.Merge(id, b.With, b.Version, cancel), id, cancel)
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("tryMerge");
        operations
            .MapPost("/done", async (Guid id, string? why, SequenceDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Finish(id, why ?? "", cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("finishOperation");
        operations
            .MapPost("/reopen", async (Guid id, SequenceDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Reopen(id, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("reopenOperation");
        operations
            .MapPost("/sign", async (Guid id, SignBody b, SequenceDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Sign(id, cancel, b.Seen?.ToHashSet(), b.Side))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("signGate");
        operations
            .MapGet("/gate", async (Guid id, string? side, SequenceDesk desk, CancellationToken cancel) =>
            {
                Refusal.When(side is not (null or "left" or "right"), "side", "A side is left or right.");
                var one = side switch
                {
                    "left" => PanelSide.Left,
                    "right" => PanelSide.Right,
                    _ => (PanelSide?)null,
                };
                var sheet = await desk.GateOf(id, one, cancel);
                return new GateView([.. sheet.Asks], [.. sheet.Others.Select(p => p.Name)], sheet.BySide);
            })
            .RequireAuthorization(Policies.Anyone)
            .WithName("getGate");
        operations
            .MapPost("/pin", async (Guid id, PinBody b, SequenceDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Pin(id, b.Pin, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("pinOperation");
        operations
            .MapPost("/pin/try", (Guid id, PinBody b, SequenceDesk desk, Trials trials, CancellationToken cancel) =>
                trials.Of(() => desk.Pin(id, b.Pin, b.Version, cancel), id, cancel)
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("tryPin");
        operations
            .MapPost("/override", async (Guid id, ReasonBody b, SequenceDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Override(id, b.Reason, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("overrideGate");
    }

    private static async Task<List<OperationView>> Look(
        Guid id,
        ShopDb db,
        ShopClock clock,
        SequenceDesk desk,
        PlanDesk plan,
        CancellationToken cancel
    )
    {
        Refusal.When(!await db.Builds.AnyAsync(b => b.Id == id, cancel), "id", "There is no such build.");
        var all = await desk.Of(id, cancel);
        var spent = await db.SpentOn(db.Operations.Where(o => o.BuildId == id).Select(o => o.Id), clock.Now, cancel);
        var view = await plan.Look(cancel);
        var without = view.Without.ToDictionary(w => w.OperationId, w => w.Reason);
        var places = await db.Stations.AsNoTracking().ToDictionaryAsync(s => s.Id, s => s.Name, cancel);
        var hot = HotWork.AfterCoats(all);
        var departs = (await desk.Departs(id, all, cancel)).ToLookup(d => d.Work.Id, d => d.Before.Name);
        return all.Select(o =>
            {
                view.Operations.TryGetValue(o.Id, out var f);
                return new OperationView(
                    o.Id,
                    o.Position,
                    o.Stage,
                    o.Kind,
                    o.Name,
                    o.Trade,
                    o.BudgetMinutes,
                    o.EarnedMinutes,
                    spent.GetValueOrDefault(o.Id),
                    o.Station,
                    o.PersonId,
                    o.Panels,
                    o.Coat,
                    o.Held,
                    o.WithoutStop,
                    o.Gate,
                    o.Gate is { } g && Gates.CanOverride(g),
                    o.Hazard,
                    o.Hazard is { } h ? Cautions.Text(h) : null,
                    o.ClockMinutes,
                    o.After,
                    o.StatedShare,
                    o.DoneAt,
                    o.DoneBy,
                    o.Signatures,
                    f?.Start,
                    f?.Finish,
                    f?.PersonId,
                    [.. f?.People ?? []],
                    f?.MissesDeadline ?? false,
                    f?.StartBy,
                    f?.Reason ?? without.GetValueOrDefault(o.Id),
                    o.Terms,
                    o.Version,
                    f?.PlaceId is { } at ? places.GetValueOrDefault(at) : null,
                    f?.Assumes,
                    hot.GetValueOrDefault(o.Id),
                    view.SlackOf(o.Id),
                    [.. departs[o.Id]],
                    o.DepartsWhy
                );
            })
            .ToList();
    }
}

using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Plan;
using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Rooms;

/// <summary>Work of several builds that could be made ready for once: blast days, booth weeks, crossings.</summary>
public static class SetUpsEndpoints
{
    /// <param name="Before">Its planned start as it is.</param>
    /// <param name="After">Its planned start then; null: it would have no date.</param>
    /// <param name="On">The day to which it is pinned.</param>
    public sealed record SharingView(
        Guid OperationId,
        uint Version,
        int BuildNumber,
        string Name,
        Instant Before,
        Instant? After,
        LocalDate? On
    );

    /// <param name="What">The supplier, or the coat; nothing for blasting.</param>
    /// <param name="On">The first day of it, one after the other; null: it leaves together.</param>
    /// <param name="Batch">The name under which it leaves together.</param>
    /// <param name="SetUpsBefore">How often it is made ready for, or crosses, by the plan as it is.</param>
    /// <param name="ReadyMinutes">Saved of making ready, on top of the plan; 0: the shop has said no figure.</param>
    /// <param name="MoveMinutes">Saved of people who push vehicles; negative: more.</param>
    /// <param name="DaysLater">Weight x days late that it costs in all; negative: it gains them.</param>
    /// <param name="WithoutDate">Work that would have no date any more.</param>
    public sealed record SetUpView(
        SetUpKind Kind,
        string What,
        LocalDate? On,
        string Batch,
        List<SharingView> Works,
        int SetUpsBefore,
        int SetUpsAfter,
        int ReadyMinutes,
        long MoveMinutes,
        decimal DaysLater,
        List<LanesEndpoints.PlannedMove> Moves,
        List<string> WithoutDate
    );

    public sealed record ShareBody(
        [property: MaxLength(SetUpsDesk.Most)] List<ShareWork> Works,
        [property: StringLength(60)] string Batch
    );

    /// <param name="On">The day to which it is pinned; null: as it is.</param>
    /// <param name="Version">As it was seen.</param>
    public sealed record ShareWork(Guid OperationId, LocalDate? On, uint? Version);

    /// <param name="Changes">By which it is taken back.</param>
    public sealed record SharedView(List<Guid> Changes);

    public static void MapSetUps(this RouteGroupBuilder api)
    {
        api.MapGet("/plan/set-ups", Look).RequireAuthorization(Policies.Manager).WithName("findSetUps");
        api.MapPost("/plan/set-ups", async (ShareBody b, SetUpsDesk desk, CancellationToken cancel) =>
                Shared(
                    await desk.Share(
                        [.. b.Works.Select(w => new ToShare(w.OperationId, w.On, b.Batch, w.Version))],
                        cancel
                    )
                )
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("shareSetUp");
        api.MapPost("/plan/set-ups/part", async (SharedView b, SetUpsDesk desk, CancellationToken cancel) =>
            {
                await desk.Part(b.Changes, cancel);
                return Results.NoContent();
            })
            .RequireAuthorization(Policies.Manager)
            .WithName("partSetUp");
    }

    private static SharedView Shared(IEnumerable<Core.Sequence.SequenceChange> changes) =>
        new([.. changes.Select(c => c.Id)]);

    private static async Task<List<SetUpView>> Look(SetUpsDesk desk, ShopDb db, CancellationToken cancel)
    {
        var found = await desk.Find(cancel);
        var numbers = await db.Builds.AsNoTracking().ToDictionaryAsync(b => b.Id, b => b.Number, cancel);
        return
        [
            .. found.Select(s => new SetUpView(
                s.Kind,
                s.What,
                s.On,
                s.Batch,
                [
                    .. s.Works.Select(w => new SharingView(
                        w.Operation.Id,
                        w.Operation.Version,
                        numbers[w.Operation.BuildId],
                        w.Operation.Name,
                        LanesEndpoints.At(w.StartBefore),
                        w.StartAfter is { } after ? LanesEndpoints.At(after) : null,
                        w.On
                    )),
                ],
                s.SetUpsBefore,
                s.SetUpsAfter,
                s.ReadyMinutes,
                s.MoveMinutes,
                s.DaysLater,
                [.. LanesEndpoints.PlannedMove.Of(s.Comparison.Moves, numbers)],
                [.. s.WithoutDate]
            )),
        ];
    }
}

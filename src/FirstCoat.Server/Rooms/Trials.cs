using FirstCoat.Core.Plan;
using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Rooms;

/// <summary>What the plan would say after a change.</summary>
/// <param name="Moves">Builds whose planned finish moves, most first.</param>
/// <param name="Start">Of the operation that is changed; null: it would have no date.</param>
/// <param name="Reason">What keeps it from starting sooner then.</param>
/// <param name="WithoutDate">Operations that would have no date any more.</param>
public sealed record TrialView(
    List<LanesEndpoints.PlannedMove> Moves,
    Instant? Start,
    Instant? Finish,
    List<string> WithoutDate,
    string Reason
);

/// <summary>What the plan would say if a build went on or rested.</summary>
/// <param name="Moves">Other builds whose planned finish moves, most first.</param>
/// <param name="First">The work with which it would begin; null: none of it would have a date.</param>
/// <param name="Start">Of that work.</param>
/// <param name="Finish">Its planned finish.</param>
/// <param name="WithoutDate">Operations that would have no date any more.</param>
public sealed record BuildTrialView(
    List<LanesEndpoints.PlannedMove> Moves,
    string? First,
    Instant? Start,
    Instant? Finish,
    List<string> WithoutDate
);

/// <summary>Answers what a change would do to the plan, before it is made.</summary>
public sealed class Trials(TrialDesk desk, ShopDb db)
{
    /// <param name="operation">Whose dates are told.</param>
    public async Task<TrialView> Of(Func<Task> change, Guid operation, CancellationToken cancel)
    {
        var trial = await desk.Of(change, cancel);
        var then = trial.Then.Operations.GetValueOrDefault(operation.ToString());
        return new(
            await Moves(trial, cancel),
            then is null ? null : LanesEndpoints.At(then.Start),
            then is null ? null : LanesEndpoints.At(then.Finish),
            await WithoutDate(trial, cancel),
            then?.Reason is { Kind: not WaitKind.Nothing } why ? why.Text : ""
        );
    }

    /// <param name="build">The one that goes on or rests.</param>
    public async Task<BuildTrialView> OfBuild(Func<Task> change, Guid build, CancellationToken cancel)
    {
        var trial = await desk.Of(change, cancel);
        var planned = trial.Then.Builds.GetValueOrDefault(build.ToString());
        var first = planned?.First is { } id ? trial.Then.Operations.GetValueOrDefault(id) : null;
        var name = Guid.TryParse(first?.Id, out var known)
            ? await db
                .Operations.AsNoTracking()
                .Where(o => o.Id == known)
                .Select(o => o.Name)
                .SingleOrDefaultAsync(cancel)
            : null;
        return new(
            [.. (await Moves(trial, cancel)).Where(m => m.BuildId != build)],
            name,
            first is null ? null : LanesEndpoints.At(first.Start),
            first is null ? null : LanesEndpoints.At(planned!.Finish),
            await WithoutDate(trial, cancel)
        );
    }

    private async Task<List<LanesEndpoints.PlannedMove>> Moves(Trial trial, CancellationToken cancel) =>
        [
            .. LanesEndpoints.PlannedMove.Of(
                trial.Comparison.Moves,
                await db.Builds.AsNoTracking().ToDictionaryAsync(b => b.Id, b => b.Number, cancel)
            ),
        ];

    private Task<List<string>> WithoutDate(Trial trial, CancellationToken cancel) =>
        db
            .Operations.AsNoTracking()
            .Where(o => trial.WithoutDate.Contains(o.Id))
            .Select(o => o.Name)
            .ToListAsync(cancel);
}

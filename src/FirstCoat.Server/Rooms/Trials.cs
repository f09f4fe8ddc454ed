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

/// <summary>Answers what a change would do to the plan, before it is made.</summary>
public sealed class Trials(TrialDesk desk, ShopDb db)
{
    /// <param name="operation">Whose dates are told.</param>
    public async Task<TrialView> Of(Func<Task> change, Guid operation, CancellationToken cancel)
    {
        var trial = await desk.Of(change, cancel);
        var numbers = await db.Builds.AsNoTracking().ToDictionaryAsync(b => b.Id, b => b.Number, cancel);
        var names = await db
            .Operations.AsNoTracking()
            .Where(o => trial.WithoutDate.Contains(o.Id))
            .Select(o => o.Name)
            .ToListAsync(cancel);
        var then = trial.Then.Operations.GetValueOrDefault(operation.ToString());
        return new(
            [.. LanesEndpoints.PlannedMove.Of(trial.Comparison.Moves, numbers)],
            then is null ? null : LanesEndpoints.At(then.Start),
            then is null ? null : LanesEndpoints.At(then.Finish),
            names,
            then?.Reason is { Kind: not WaitKind.Nothing } why ? why.Text : ""
        );
    }
}

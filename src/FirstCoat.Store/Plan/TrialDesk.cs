using FirstCoat.Core.Plan;
using FirstCoat.Store.Access;

namespace FirstCoat.Store.Plan;

/// <summary>What the plan says of a change that is not kept.</summary>
/// <param name="WithoutDate">Operations that would have no date any more.</param>
public sealed record Trial(ShopPlan Now, ShopPlan Then, PlanComparison Comparison, IReadOnlyList<Guid> WithoutDate);

/// <summary>Tries changes: they are made as they would be for good, the shop is planned with them, and nothing of them
/// is kept. Whatever refuses a change refuses its trial.</summary>
public sealed class TrialDesk(ShopDb db, ShopClock clock, CurrentActor current, PlanDesk plan, IPlanner planner)
    : Desk(db, clock, current)
{
    /// <summary>Compares the plan as it stands with the plan after a change.</summary>
    /// <param name="change">Makes the change within the caller's unit of work.</param>
    public async Task<Trial> Of(Func<Task> change, CancellationToken cancel)
    {
        var now = planner.Plan(await plan.Present(cancel));
        await using var never = await Db.Database.BeginTransactionAsync(cancel);
        await change();
        var then = planner.Plan(await plan.Present(cancel));
        await never.RollbackAsync(cancel);
        return new(
            now,
            then,
            PlanComparison.Of(now, then),
            [
                .. then
                    .Unplanned.Select(w => w.Operation)
                    .Except(now.Unplanned.Select(w => w.Operation))
                    .Where(id => Guid.TryParse(id, out _))
                    .Select(Guid.Parse),
            ]
        );
    }
}

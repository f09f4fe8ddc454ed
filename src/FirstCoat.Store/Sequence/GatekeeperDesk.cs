using FirstCoat.Core;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using FirstCoat.Store.Readings;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Sequence;

/// <summary>Asks the gatekeeper for every desk: what stands against an operation, by all that is recorded of its
/// build.</summary>
public sealed class GatekeeperDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    /// <summary>The gatekeeper of a build as it stands, changes that are not saved yet counted in.</summary>
    public async Task<Gatekeeper> Of(Guid buildId, CancellationToken cancel)
    {
        var operations = AsChanged(
                await Db.Operations.AsNoTracking().Where(o => o.BuildId == buildId && !o.Removed).ToListAsync(cancel),
                Db.Operations.Local.Where(o => o.BuildId == buildId)
            )
            .Where(o => !o.Removed)
            .ToDictionary(o => o.Id);
        var questions = AsChanged(
                await Db
                    .Decisions.AsNoTracking()
                    .Where(d => d.BuildId == buildId && d.SettledAt == null)
                    .ToListAsync(cancel),
                Db.Decisions.Local.Where(d => d.BuildId == buildId)
            )
            .Where(d => d.IsOpen)
            .ToList();
        var dangers = (
            await Db.Arrivals.AsNoTracking().SingleOrDefaultAsync(a => a.BuildId == buildId, cancel)
        )?.Hazards
            ?? [];
        var metal = await Db.PanelEvents.AsNoTracking().Where(e => e.BuildId == buildId).OnMetal().ToListAsync(cancel);
        var away = await Db
            .OutsideJobs.AsNoTracking()
            .Where(j => j.BuildId == buildId && j.OperationId != null && j.SentOn != null && j.BackOn == null)
            .ToListAsync(cancel);
        return new(
            operations,
            questions,
            dangers,
            PanelStates.MetalIn(metal),
            away.GroupBy(j => j.OperationId!.Value).ToDictionary(g => g.Key, g => g.First().Title)
        );
    }

    /// <summary>Records as they are kept, those that are being changed as they will be.</summary>
    private static IEnumerable<T> AsChanged<T>(List<T> kept, IEnumerable<T> changing)
        where T : Entity => changing.Concat(kept).DistinctBy(e => e.Id);

    /// <summary>All that stands against a step of an operation.</summary>
    /// <param name="by">Who is about to do it: what they are at now they leave for it.</param>
    public async Task<IReadOnlyList<Obstacle>> Against(
        Operation operation,
        WorkStep step,
        CancellationToken cancel,
        Guid? by = null
    )
    {
        var against = (await Of(operation.BuildId, cancel)).Against(operation, step, Clock.Now, Actor.IsManager);
        return step is WorkStep.Begin ? [.. against, .. await Beside(operation, by, cancel)] : against;
    }

    /// <summary>What goes on now and must not go on beside it.</summary>
    private async Task<IEnumerable<Obstacle>> Beside(Operation operation, Guid? by, CancellationToken cancel)
    {
        if (!operation.Kinds.Any())
        {
            return [];
        }

        var shop = await Shop(cancel);
        var goingOn = await Db
            .Operations.AsNoTracking()
            .Where(o => Db.TimeEntries.Any(e => e.OperationId == o.Id && e.Stop == null && e.PersonId != by))
            .ToListAsync(cancel);
        var stations = await Db.Stations.AsNoTracking().ToListAsync(cancel);
        return WorkBeside.Against(operation, goingOn, shop.Plan.Clashes(), new(stations));
    }

    /// <summary>Refuses a step against which something stands.</summary>
    /// <param name="why">Why the order is another; what only asks is passed with it.</param>
    /// <exception cref="Refusal">In words, at the field; at the reason where one is asked for.</exception>
    /// <param name="by">Who is about to do it; null: nobody of the shop.</param>
    public async Task Refuse(
        Operation operation,
        WorkStep step,
        string field,
        string why,
        CancellationToken cancel,
        Guid? by = null
    )
    {
        var against = await Against(operation, step, cancel, by);
        if (against.FirstOrDefault(o => !o.Asks) is { } shut)
        {
            throw new Refusal(field, shut.Words);
        }

        Refusal.When(
            against.Count > 0 && string.IsNullOrWhiteSpace(why),
            "reason",
            against.Count > 0 ? against[0].Words : ""
        );
    }

    /// <summary>What was done although something stood against it is kept with this; null: nothing did.</summary>
    public async Task<AgainstRule?> Flag(Operation operation, WorkStep step, CancellationToken cancel) =>
        AgainstRule.Of(await Against(operation, step, cancel));
}

using FirstCoat.Core;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Sequence;

/// <summary>What rested on finished work that is another now, judged one by one.</summary>
public sealed class RippleDesk(ShopDb db, ShopClock clock, CurrentActor current, SequenceDesk sequence)
    : Desk(db, clock, current)
{
    /// <summary>All of a build, those that are not judged to their end first, then the latest.</summary>
    public async Task<IReadOnlyList<Ripple>> Of(Guid buildId, CancellationToken cancel) =>
        [
            .. (await Db.Ripples.AsNoTracking().Where(r => r.BuildId == buildId).ToListAsync(cancel))
                .OrderByDescending(r => r.IsOpen)
                .ThenByDescending(r => r.Seq),
        ];

    /// <summary>What would be listed if an operation were another now.</summary>
    public async Task<IReadOnlyList<Resting>> On(Guid operationId, CancellationToken cancel) =>
        await On(await Find<Operation>(operationId, "operation", cancel), cancel);

    private async Task<List<Resting>> On(Operation changed, CancellationToken cancel)
    {
        Refusal.When(
            !changed.IsDone || changed.Kind == OperationKind.Gate,
            "operationId",
            "What is not finished yet is changed in the sequence; nothing rests on it."
        );
        var worked = await Db
            .TimeEntries.AsNoTracking()
            .Where(e => e.BuildId == changed.BuildId && e.ReplacedBy == null && !e.Void)
            .Select(e => e.OperationId)
            .Distinct()
            .ToListAsync(cancel);
        var parts = await Db
            .Parts.AsNoTracking()
            .Where(p => p.BuildId == changed.BuildId && (p.OrderedOn != null || p.ReceivedOn != null))
            .OrderBy(p => p.Seq)
            .ToListAsync(cancel);
        return Ripples.On(
            changed,
            await InSequence(changed.BuildId, cancel),
            worked.ToHashSet(),
            parts.Select(p => new RestingPart(
                p.Id,
                p.Name,
                p.OperationId,
                p.MeasuredBy,
                p.FittedOn is not null ? "fitted"
                    : p.ReceivedOn is not null ? "here"
                    : "ordered"
            ))
        );
    }

    private Task<List<Operation>> InSequence(Guid buildId, CancellationToken cancel) =>
        Db.Operations.Where(o => o.BuildId == buildId && !o.Removed).ToListAsync(cancel);

    /// <summary>Says that finished work is another now, and lists what rested on it.</summary>
    public async Task<Ripple> Say(Guid id, Guid operationId, string what, CancellationToken cancel)
    {
        if (await Again<Ripple>(id, cancel) is { } there)
        {
            return there;
        }

        var changed = await Find<Operation>(operationId, "operation", cancel);
        var ripple = new Ripple
        {
            Id = id,
            BuildId = changed.BuildId,
            OperationId = operationId,
            What = what.Trim(),
            Rests = await On(changed, cancel),
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        ripple.Check();
        Db.Add(ripple);
        await Save(cancel);
        return ripple;
    }

    /// <summary>Judges one thing of the list, and opens the work that follows from it.</summary>
    /// <param name="minutes">How long a look at it takes.</param>
    /// <param name="version">Of the list as it was seen.</param>
    public async Task<Ripple> Judge(
        Guid id,
        Guid thing,
        RippleVerdict verdict,
        int minutes,
        uint? version,
        CancellationToken cancel
    )
    {
        await using var whole = await Whole(cancel);
        var ripple = await Find<Ripple>(id, "list", cancel);
        Expect(ripple, version);
        var judged = ripple.Judge(thing, verdict, Actor.Name, Clock.Now);
        if (judged.As != RestsAs.Part && verdict != RippleVerdict.StillGood)
        {
            var operation = await Find<Operation>(thing, "operation", cancel);
            Refusal.When(operation.Removed, "thing", $"{operation.Name} is not in the sequence any more.");
            if (verdict == RippleVerdict.Redo)
            {
                await Redo(operation, cancel);
            }
            else
            {
                await Look(ripple, operation, minutes, cancel);
            }
        }

        await Save(cancel);
        await whole.Commit(cancel);
        return ripple;
    }

    /// <summary>Open again, with all of its hours before it.</summary>
    private async Task Redo(Operation operation, CancellationToken cancel)
    {
        if (operation.Kind == OperationKind.Gate)
        {
            if (operation.IsDone)
            {
                operation.Shut();
            }

            return;
        }

        if (operation.IsDone)
        {
            await sequence.Reopen(operation.Id, cancel);
        }

        if (operation.Kind == OperationKind.Work)
        {
            operation.State(0, Clock.Now);
        }
    }

    /// <summary>A look is work of its own; what follows the thing and is not done comes after it.</summary>
    private async Task Look(Ripple ripple, Operation at, int minutes, CancellationToken cancel)
    {
        var all = await InSequence(ripple.BuildId, cancel);
        var changed = await Find<Operation>(ripple.OperationId, "operation", cancel);
        var look = Ripples.Look(
            Guid.CreateVersion7(),
            at,
            changed,
            minutes,
            all.Select(o => o.Position).DefaultIfEmpty(0).Max() + 1
        );
        look.Check();
        Db.Add(look);
        foreach (var next in all.Where(o => !o.IsDone && o.After.Exists(a => a.Operation == at.Id)))
        {
            next.After = [.. next.After, new(look.Id, 0)];
        }

        OperationOrder.Check([.. all, look]);
    }
}

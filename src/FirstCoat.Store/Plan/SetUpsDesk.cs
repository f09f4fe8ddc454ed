using FirstCoat.Core;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Access;
using FirstCoat.Store.Sequence;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>A piece of work that is to share a set-up.</summary>
/// <param name="On">The day to which it is pinned; null: as it is.</param>
/// <param name="Batch">Under which it leaves together; none: it is done here.</param>
/// <param name="Version">As it was seen.</param>
public sealed record ToShare(Guid Operation, LocalDate? On, string Batch, uint? Version);

/// <summary>Proposes work of several builds that could share a set-up, and puts it together.</summary>
public sealed class SetUpsDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    PlanReader reader,
    IPlanner planner,
    FutureCount futures,
    SequenceChangesDesk changes
) : Desk(db, clock, current)
{
    /// <summary>The most that is put together at once.</summary>
    public const int Most = 20;

    /// <summary>What the present plan could share.</summary>
    public async Task<IReadOnlyList<SharedSetUp>> Find(CancellationToken cancel) =>
        new SharedSetUps(await reader.Read(cancel), planner, futures.Threads).Find();

    /// <summary>Puts work together, all of it or none.</summary>
    /// <returns>The changes by which it is taken back.</returns>
    /// <exception cref="Refusal">Names the rule against it.</exception>
    public async Task<List<SequenceChange>> Share(IReadOnlyList<ToShare> works, CancellationToken cancel)
    {
        Refusal.When(works.Count is < 2 or > Most, "works", $"Between two and {Most} pieces of work are put together.");
        var today = await Today(cancel);
        return await changes.KeepEach(
            async () =>
            {
                var operations = new List<Operation>();
                foreach (var work in works)
                {
                    var o = await Find<Operation>(work.Operation, "operation", cancel);
                    Expect(o, work.Version);
                    Refusal.When(o.Removed, "works", $"“{o.Name}” is not in the sequence any more.");
                    var pin = OperationPin.Of(o);
                    (pin with { On = work.On ?? pin.On }).Put(o, today, null, null);
                    Refusal.When(
                        work.Batch.Length > 0 && o.Kind != OperationKind.Outside,
                        "batch",
                        "Only outside work leaves together."
                    );
                    o.Terms = o.Terms with { Batch = work.Batch.Trim() };
                    o.Check();
                    operations.Add(o);
                }

                await Save(cancel);
                return operations;
            },
            o => $"“{o.Name}” is done together with others",
            cancel
        );
    }

    /// <summary>Takes back what was put together, all of it or none.</summary>
    public Task Part(IReadOnlyCollection<Guid> taken, CancellationToken cancel)
    {
        Refusal.When(taken.Count > Most, "changes", $"At most {Most} changes are taken back at once.");
        return changes.UndoAll(taken, cancel);
    }
}

using System.Text.Json;
using FirstCoat.Core;
using FirstCoat.Core.Access;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;

namespace FirstCoat.Store.Sequence;

/// <summary>A changed operation, and the change that can be taken back.</summary>
/// <param name="Change">Null: nothing was changed, or the same was asked for before.</param>
public sealed record KeptOperation(Operation Operation, SequenceChange? Change);

/// <summary>Changes of the order of work by hand, each of which can be taken back and made again: all that it changed,
/// or nothing of it where somebody has changed the same since.</summary>
public sealed class SequenceChangesDesk(ShopDb db, ShopClock clock, CurrentActor current, SequenceDesk sequence)
    : Desk(db, clock, current)
{
    /// <summary>How many of a build's changes are told.</summary>
    public const int Told = 30;

    /// <summary>The last changes of a build, newest first.</summary>
    public async Task<IReadOnlyList<SequenceChange>> Of(Guid buildId, CancellationToken cancel)
    {
        await Build(buildId, cancel);
        return await Db
            .SequenceChanges.AsNoTracking()
            .Where(c => c.BuildId == buildId)
            .OrderByDescending(c => c.Seq)
            .Take(Told)
            .ToListAsync(cancel);
    }

    /// <summary>Adds an operation or changes one.</summary>
    public async Task<KeptOperation> Put(
        Guid buildId,
        Guid id,
        Action<Operation> change,
        uint? version,
        CancellationToken cancel
    )
    {
        var isNew = await Db.Operations.FindAsync([id], cancel) is null;
        return await Keep(
            () => sequence.Put(buildId, id, change, version, cancel),
            o => $"“{o.Name}” {(isNew ? "added" : "changed")}",
            cancel
        );
    }

    /// <summary>Takes a part off an operation, as an operation of its own.</summary>
    public async Task<KeptOperation> Split(Guid id, PartOff part, uint? version, CancellationToken cancel)
    {
        var whole = (await Find<Operation>(id, "operation", cancel)).Name;
        return await Keep(() => sequence.Split(id, part, version, cancel), _ => $"“{whole}” split", cancel);
    }

    /// <summary>Makes one operation of two.</summary>
    /// <param name="with">Goes: its hours, panels and links come to the first.</param>
    public async Task<KeptOperation> Merge(Guid id, Guid with, uint? version, CancellationToken cancel)
    {
        var second = (await Find<Operation>(with, "operation", cancel)).Name;
        return await Keep(
            () => sequence.Merge(id, with, version, cancel),
            first => $"“{second}” put into “{first.Name}”",
            cancel
        );
    }

    /// <summary>Takes an operation out; what came after it now comes after what was before it.</summary>
    public Task<KeptOperation> Remove(Guid id, CancellationToken cancel) =>
        Keep(
            async () =>
            {
                await sequence.Remove(id, cancel);
                return await Find<Operation>(id, "operation", cancel);
            },
            o => $"“{o.Name}” removed",
            cancel
        );

    private async Task<KeptOperation> Keep(
        Func<Task<Operation>> make,
        Func<Operation, string> words,
        CancellationToken cancel
    )
    {
        await using var whole = await Whole(cancel);
        var operation = await make();
        var change = Note(operation.BuildId, words(operation), _ => true);
        await Save(cancel);
        await whole.Commit(cancel);
        return new(operation, change);
    }

    /// <summary>Keeps changes of several operations, all or nothing, each of which can be taken back.</summary>
    internal async Task<List<SequenceChange>> KeepEach(
        Func<Task<List<Operation>>> make,
        Func<Operation, string> words,
        CancellationToken cancel
    )
    {
        await using var whole = await Whole(cancel);
        var changes = (await make())
            .Select(o => Note(o.BuildId, words(o), e => e.Of == o.Id))
            .OfType<SequenceChange>()
            .ToList();
        await Save(cancel);
        await whole.Commit(cancel);
        return changes;
    }

    /// <summary>What has just been changed, as one change; null: nothing was.</summary>
    private SequenceChange? Note(Guid buildId, string what, Func<AuditEntry, bool> ofIt)
    {
        var entries = Db
            .ChangeTracker.Entries<AuditEntry>()
            .Select(e => e.Entity)
            .Where(e => (e.What is nameof(Operation) or nameof(Provision)) && ofIt(e))
            .Select(e => e.Id)
            .Order()
            .ToList();
        if (entries.Count == 0)
        {
            return null;
        }

        var change = new SequenceChange
        {
            Id = Guid.CreateVersion7(),
            BuildId = buildId,
            What = what,
            By = Actor.Name,
            Entries = entries,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        Db.Add(change);
        return change;
    }

    /// <summary>Takes several changes back, all or none.</summary>
    /// <exception cref="Refusal">As <see cref="Undo"/>.</exception>
    internal async Task UndoAll(IReadOnlyCollection<Guid> ids, CancellationToken cancel)
    {
        await using var whole = await Whole(cancel);
        foreach (var id in ids.Order())
        {
            await Undo(id, cancel);
        }

        await whole.Commit(cancel);
    }

    /// <summary>Takes a change back.</summary>
    /// <exception cref="Refusal">Somebody has changed the same since, or it would break a rule now.</exception>
    public Task<SequenceChange> Undo(Guid id, CancellationToken cancel) => Put(id, true, cancel);

    /// <summary>Makes a change again that was taken back.</summary>
    /// <exception cref="Refusal">As <see cref="Undo"/>.</exception>
    public Task<SequenceChange> Redo(Guid id, CancellationToken cancel) => Put(id, false, cancel);

    private async Task<SequenceChange> Put(Guid id, bool back, CancellationToken cancel)
    {
        await using var whole = await Whole(cancel);
        var buildId = (await Find<SequenceChange>(id, "change", cancel)).BuildId;
        await LockBuild(buildId, cancel);
        var change = await Db.SequenceChanges.SingleAsync(c => c.Id == id, cancel);
        await Db.Entry(change).ReloadAsync(cancel);
        if (change.IsBack == back)
        {
            return change;
        }

        var entries = await Db.Audit.AsNoTracking().Where(a => change.Entries.Contains(a.Id)).ToListAsync(cancel);
        var values = entries
            .OrderBy(e => back ? -e.Id : e.Id)
            .Select(e => back ? new ToRestore(e.What, e.Of, e.After, e.Before) : new(e.What, e.Of, e.Before, e.After))
            .ToList();
        var departed = await sequence.Departs(buildId, await sequence.Of(buildId, cancel), cancel);
        var touched = await Restore(values, back, cancel);
        var all = (await sequence.Of(buildId, cancel)).Where(o => !o.Removed).Union(touched.Where(o => !o.Removed));
        await sequence.CheckAll([.. all], touched, cancel);
        Departures.CheckBack(departed, await sequence.Departs(buildId, [.. all], cancel));
        change.IsBack = back;
        await Save(cancel);
        await whole.Commit(cancel);
        return change;
    }

    /// <returns>The operations that were changed by it.</returns>
    private async Task<List<Operation>> Restore(List<ToRestore> values, bool back, CancellationToken cancel)
    {
        var touched = new List<Operation>();
        // Whether work comes or goes with it: then the hours of what stays are shared otherwise.
        var reshares = values.Exists(t => t.Comes || t.Goes);
        foreach (var one in values)
        {
            if (one.What == nameof(Provision))
            {
                var provision = await Find<Provision>(one.Of, "provision", cancel);
                one.Into(Db.Entry(provision), provision.Words, back);
                continue;
            }

            var operation = await Find<Operation>(one.Of, "operation", cancel);
            Refusal.When(
                reshares && operation.IsDone && one.Changes(nameof(Operation.BudgetMinutes)),
                "id",
                $"“{operation.Name}” is done: its hours stay as they are."
            );
            if (one.Goes)
            {
                operation.Remove(
                    await Db.TimeEntries.AnyAsync(
                        e => e.OperationId == operation.Id && e.ReplacedBy == null && !e.Void,
                        cancel
                    )
                );
            }
            else
            {
                var check = operation.CheckForGood;
                one.Into(Db.Entry(operation), $"“{operation.Name}”", back);
                operation.Keeps(check);
            }

            touched.Add(operation);
        }

        return touched;
    }
}

/// <summary>What one audit entry tells, read in either direction.</summary>
/// <param name="Now">As it must be still; null: it was not there.</param>
/// <param name="Then">As it becomes; null: it is not there.</param>
internal sealed record ToRestore(string What, Guid Of, string? Now, string? Then)
{
    private readonly Dictionary<string, JsonElement> _now = Read(Now);
    private readonly Dictionary<string, JsonElement> _then = Read(Then);

    /// <summary>Whether it leaves the sequence by this.</summary>
    public bool Goes => Then is null || Removed(_then) is true;

    /// <summary>Whether it comes into the sequence by this.</summary>
    public bool Comes => Now is null || Removed(_now) is true;

    public bool Changes(string property) => _then.ContainsKey(property);

    /// <summary>Gives a record its other values, if it still has the ones that it had.</summary>
    /// <param name="name">Of the record, as people know it.</param>
    /// <exception cref="Refusal">Somebody has changed the same since.</exception>
    public void Into(EntityEntry entry, string name, bool back)
    {
        if (Now is null)
        {
            // It was added, and has been out of the sequence since that was taken back.
            entry.Property(nameof(Operation.Removed)).CurrentValue = false;
            return;
        }

        foreach (var (property, was) in _now.Where(p => p.Key != nameof(Operation.Position)))
        {
            var value = JsonSerializer.SerializeToElement(entry.Property(property).CurrentValue, StoreJson.Options);
            Refusal.When(
                !JsonElement.DeepEquals(value, was),
                "id",
                $"{name} has been changed since, so this cannot be {(back ? "taken back" : "made again")}."
            );
        }

        foreach (var (property, value) in _then)
        {
            var there = entry.Property(property);
            there.CurrentValue = value.Deserialize(there.Metadata.ClrType, StoreJson.Options);
        }
    }

    private static bool? Removed(Dictionary<string, JsonElement> values) =>
        values.TryGetValue(nameof(Operation.Removed), out var removed) ? removed.GetBoolean() : null;

    private static Dictionary<string, JsonElement> Read(string? json) =>
        json is null ? [] : JsonSerializer.Deserialize<Dictionary<string, JsonElement>>(json, StoreJson.Options)!;
}

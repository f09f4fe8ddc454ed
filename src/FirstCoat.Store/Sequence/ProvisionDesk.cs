using FirstCoat.Core;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Sequence;

/// <summary>Work that is asked what it needs in the metal, and what was said of it.</summary>
/// <param name="Gate">The gate that asks; null: the build has none that does.</param>
public sealed record ProvisionSheet(Operation Of, Operation? Gate, IReadOnlyList<Provision> Said);

/// <summary>Holes, nuts, brackets and access that work after paint needs: said by whoever thinks of it, made before
/// paint.</summary>
public sealed class ProvisionDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    /// <summary>All work of a build that is asked or of which something was said, in the order of its list.</summary>
    public async Task<IReadOnlyList<ProvisionSheet>> Of(Guid buildId, CancellationToken cancel)
    {
        var operations = await Db
            .Operations.AsNoTracking()
            .Where(o => o.BuildId == buildId && !o.Removed)
            .ToDictionaryAsync(o => o.Id, cancel);
        var said = (
            await Db
                .Provisions.AsNoTracking()
                .Where(p => p.BuildId == buildId && !p.Removed)
                .OrderBy(p => p.Seq)
                .ToListAsync(cancel)
        ).ToLookup(p => p.OperationId);
        var asking = operations
            .Values.Where(o => Provisions.Asks(o, operations.Values))
            .SelectMany(g => Provisions.Behind(g, operations).Select(o => (Gate: g, o.Id)))
            .ToLookup(x => x.Id, x => x.Gate);
        return
        [
            .. operations
                .Values.Where(o => asking[o.Id].Any() || said[o.Id].Any())
                .OrderBy(o => o.Position)
                .Select(o => new ProvisionSheet(o, asking[o.Id].FirstOrDefault(), [.. said[o.Id]])),
        ];
    }

    /// <summary>Says what an operation needs.</summary>
    /// <param name="id">The new one's; the same words under it again change nothing.</param>
    public async Task<Provision> Say(
        Guid id,
        Guid operationId,
        ProvisionKind kind,
        string what,
        string where,
        CancellationToken cancel
    )
    {
        if (await Again<Provision>(id, cancel) is { } there)
        {
            return there;
        }

        var operation = await Find<Operation>(operationId, "operation", cancel);
        Refusal.When(operation.Removed, "operationId", "It is not in this sequence.");
        Refusal.When(operation.Kind == OperationKind.Gate, "operationId", "A gate is fixed to nothing.");
        var provision = new Provision
        {
            Id = id,
            BuildId = operation.BuildId,
            OperationId = operationId,
            Kind = kind,
            What = what.Trim(),
            Where = where.Trim(),
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        provision.Check();
        Db.Add(provision);
        await Save(cancel);
        return provision;
    }

    /// <summary>Ticks it off as made, or takes that back.</summary>
    public async Task<Provision> Made(Guid id, bool made, uint? version, CancellationToken cancel)
    {
        var provision = await Find<Provision>(id, "provision", cancel);
        Expect(provision, version);
        if (made)
        {
            provision.Make(Actor.Name, Clock.Now);
        }
        else
        {
            provision.Unmake();
        }

        await Save(cancel);
        return provision;
    }

    /// <summary>Takes it off the list.</summary>
    public async Task<Provision> Remove(Guid id, uint? version, CancellationToken cancel)
    {
        var provision = await Find<Provision>(id, "provision", cancel);
        Expect(provision, version);
        provision.Remove();
        await Save(cancel);
        return provision;
    }
}

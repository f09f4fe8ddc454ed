using System.Text.Json;
using FirstCoat.Core;
using FirstCoat.Core.Access;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using NodaTime;

namespace FirstCoat.Store.Access;

/// <summary>What a save changes, before and after, with who and when.</summary>
internal sealed class AuditTrail(Instant now, Guid by)
{
    /// <summary>One entry for each record and account that is added, changed or removed.</summary>
    public List<AuditEntry> Of(ChangeTracker tracker) =>
        [
            .. tracker
                .Entries<Entity>()
                .Where(e => e.State is EntityState.Added or EntityState.Modified or EntityState.Deleted)
                .Select(Of),
            .. tracker
                .Entries<Account>()
                .Where(e => e.State is EntityState.Added or EntityState.Modified)
                .Select(Of)
                .OfType<AuditEntry>(),
        ];

    private AuditEntry Of(EntityEntry<Entity> entry) =>
        Of(entry, entry.Entity.Id, Changed(entry).Where(p => p.Metadata.Name is not nameof(Entity.Version)));

    /// <summary>What the shop would want to know of an account's life; never what opens it.</summary>
    private AuditEntry? Of(EntityEntry<Account> entry)
    {
        var told = Changed(entry)
            .Where(p =>
                p.Metadata.Name
                    is nameof(Account.Name)
                        or nameof(Account.UserName)
                        or nameof(Account.PersonId)
                        or nameof(Account.ClosedAt)
                        or nameof(Account.WordUntil)
            )
            .ToList();
        return told.Count == 0 ? null : Of(entry, entry.Entity.Id, told);
    }

    private static IEnumerable<PropertyEntry> Changed(EntityEntry entry) =>
        entry.Properties.Where(p => entry.State != EntityState.Modified || p.IsModified);

    private AuditEntry Of(EntityEntry entry, Guid of, IEnumerable<PropertyEntry> told)
    {
        string Picked(Func<PropertyEntry, object?> value) =>
            JsonSerializer.Serialize(told.ToDictionary(p => p.Metadata.Name, value), StoreJson.Options);
        return new()
        {
            At = now,
            By = by,
            What = entry.Metadata.ClrType.Name,
            Of = of,
            Action = entry.State switch
            {
                EntityState.Added => "added",
                EntityState.Deleted => "removed",
                _ => "changed",
            },
            Before = entry.State == EntityState.Added ? null : Picked(p => p.OriginalValue),
            After = entry.State == EntityState.Deleted ? null : Picked(p => p.CurrentValue),
        };
    }
}

using FirstCoat.Core;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store;

/// <summary>Somebody changed it in between: the second writer gets both versions and decides.</summary>
public sealed class StaleVersion(object stored) : Exception("Somebody changed this in between. Look at the newer version, then save again.")
{
    public object Stored { get; } = stored;
}

/// <summary>What the desks of all rooms share: the database, the clock, who asks.</summary>
public abstract class Desk(ShopDb db, ShopClock clock, CurrentActor current)
{
    protected ShopDb Db { get; } = db;

    protected ShopClock Clock { get; } = clock;

    protected Actor Actor => current.Actor;

    /// <summary>The shop's settings.</summary>
    /// <exception cref="Refusal">The shop has not been set up.</exception>
    protected async Task<ShopSettings> Shop(CancellationToken cancel) =>
        await Db.Settings.SingleOrDefaultAsync(cancel) ?? throw new Refusal("shop", "The shop has not been set up yet.");

    protected async Task<DateTimeZone> Zone(CancellationToken cancel) => DateTimeZoneProviders.Tzdb[(await Shop(cancel)).TimeZone];

    protected async Task<LocalDate> Today(CancellationToken cancel) => Clock.Now.InZone(await Zone(cancel)).Date;

    /// <summary>Finds an entity or says that there is none.</summary>
    protected async Task<T> Find<T>(Guid id, string what, CancellationToken cancel)
        where T : Entity => await Db.Set<T>().FindAsync([id], cancel) ?? throw Refusal.Missing(what);

    protected Task<Build> Build(Guid id, CancellationToken cancel) => Find<Build>(id, "build", cancel);

    /// <summary>Makes the save fail when the entity has moved on since the version that the request names.</summary>
    protected void Expect(Entity entity, uint? version)
    {
        if (version is { } named)
        {
            if (named != entity.Version)
            {
                throw new StaleVersion(entity);
            }

            Db.Entry(entity).Property(e => e.Version).OriginalValue = named;
        }
    }

    /// <summary>Saves; a second writer in between becomes <see cref="StaleVersion"/>.</summary>
    protected async Task Save(CancellationToken cancel)
    {
        try
        {
            await Db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateConcurrencyException e)
        {
            await e.Entries[0].ReloadAsync(cancel);
            throw new StaleVersion(e.Entries[0].Entity);
        }
    }

    /// <summary>Waits for a turn at numbering something, until the transaction ends: one number after another, whoever asks at the same moment.</summary>
    protected Task Turn(long turn, CancellationToken cancel) => Db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({turn})", cancel);

    /// <summary>Refuses a date that is a slip of the finger.</summary>
    protected static void Plausible(LocalDate? date, string field) =>
        Refusal.When(date is { } d && (d.Year < 1990 || d.Year > 2100), field, "The date lies between 1990 and 2100.");

    /// <summary>Refuses an instant that is a slip of the finger.</summary>
    protected static void Plausible(Instant at, string field) =>
        Refusal.When(at < Instant.FromUtc(1990, 1, 1, 0, 0) || at > Instant.FromUtc(2100, 1, 1, 0, 0), field, "The time lies between 1990 and 2100.");
}

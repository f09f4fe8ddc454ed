using FirstCoat.Core;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;

namespace FirstCoat.Store;

/// <summary>Somebody changed it in between. What they wrote is asked for as anything else is, by the role that may see
/// it: it is never sent along.</summary>
public sealed class StaleVersion()
    : Exception("Somebody changed this in between. Look at the newer version, then save again.");

/// <summary>An id that was used before, for something else: nothing of this request was kept.</summary>
public sealed class UsedId()
    : Exception(
        "This was recorded before with other words or figures, and those stand. Nothing was kept now: load the page again, look, and enter it anew."
    );

/// <summary>A change that is kept whole or not at all.</summary>
/// <param name="own">Null: the caller's transaction decides.</param>
public sealed class Whole(IDbContextTransaction? own) : IAsyncDisposable
{
    public Task Commit(CancellationToken cancel) => own?.CommitAsync(cancel) ?? Task.CompletedTask;

    public ValueTask DisposeAsync() => own?.DisposeAsync() ?? ValueTask.CompletedTask;
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
        await Db.Settings.SingleOrDefaultAsync(cancel)
        ?? throw new Refusal("shop", "The shop has not been set up yet.");

    protected async Task<DateTimeZone> Zone(CancellationToken cancel) =>
        DateTimeZoneProviders.Tzdb[(await Shop(cancel)).TimeZone];

    protected async Task<LocalDate> Today(CancellationToken cancel) => Clock.Now.InZone(await Zone(cancel)).Date;

    /// <summary>Finds an entity or says that there is none.</summary>
    protected async Task<T> Find<T>(Guid id, string what, CancellationToken cancel)
        where T : Entity => await Db.Set<T>().FindAsync([id], cancel) ?? throw Refusal.Missing(what);

    /// <summary>What was recorded under this id before, when the same request comes again; null: it is new.</summary>
    /// <exception cref="UsedId">The id was used for something else.</exception>
    protected async Task<T?> Again<T>(Guid id, CancellationToken cancel)
        where T : Entity
    {
        var there = await Db.Set<T>().FindAsync([id], cancel);
        if (there is not null && await Db.IsAnother<T>(id, cancel))
        {
            throw new UsedId();
        }

        return there;
    }

    protected Task<Build> Build(Guid id, CancellationToken cancel) => Find<Build>(id, "build", cancel);

    /// <summary>Makes the save fail when the entity has moved on since the version that the request names.</summary>
    protected void Expect(Entity entity, uint? version)
    {
        if (version is { } named)
        {
            if (named != entity.Version)
            {
                throw new StaleVersion();
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
        catch (DbUpdateConcurrencyException)
        {
            throw new StaleVersion();
        }
    }

    /// <summary>All or nothing: a transaction of its own, or a part of the caller's.</summary>
    protected async Task<Whole> Whole(CancellationToken cancel) =>
        new(Db.Database.CurrentTransaction is null ? await Db.Database.BeginTransactionAsync(cancel) : null);

    /// <summary>Made once for a state of the shop, whoever asks; within a change that is not kept yet, for that
    /// alone.</summary>
    /// <param name="of">The record of which it is made; none: of the shop.</param>
    protected Task<T> Once<TDesk, T>(
        ShopCache cache,
        object state,
        Func<TDesk, Task<T>> make,
        CancellationToken cancel,
        Guid of = default
    )
        where TDesk : Desk
        where T : class =>
        IsWithinChange
            ? make((TDesk)this)
            : cache.Of(state, services => make(services.GetRequiredService<TDesk>()), of).WaitAsync(cancel);

    /// <summary>Whether what this desk reads may hold what nobody else sees yet.</summary>
    protected bool IsWithinChange => Db.Database.CurrentTransaction is not null;

    /// <summary>Nobody else changes what a build is, or starts on it, until the caller's transaction ends.</summary>
    protected Task LockBuild(Guid id, CancellationToken cancel) =>
        Db.Database.ExecuteSqlAsync($"select 1 from builds where id = {id} for update", cancel);

    /// <summary>Waits for a turn at numbering something, until the transaction ends: one number after another, whoever
    /// asks at the same moment.</summary>
    protected Task Turn(long turn, CancellationToken cancel) =>
        Db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({turn})", cancel);

    /// <summary>Refuses a date that is a slip of the finger.</summary>
    protected static void Plausible(LocalDate? date, string field) =>
        Refusal.When(
            date is { } d && (d.Year < 1990 || d.Year > 2100),
            field,
            "The date must be between 1990 and 2100."
        );

    /// <summary>Refuses an instant that is a slip of the finger.</summary>
    protected static void Plausible(Instant at, string field) =>
        Refusal.When(
            at < Instant.FromUtc(1990, 1, 1, 0, 0) || at > Instant.FromUtc(2100, 1, 1, 0, 0),
            field,
            "The time must be between 1990 and 2100."
        );
}

using FirstCoat.Core;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Labour;

/// <summary>Cautions of the work: who has read which, and who has still to read one. Each person reads the caution of a
/// kind of work once on each build.</summary>
public sealed class CautionDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    /// <summary>
    /// Asks for the caution before work begins. Whoever begins it says that it was read, and that is recorded with what
    /// comes next. Work that somebody else began for them, or that was kept on a phone without it, has begun all the
    /// same: then it stays to be read.
    /// </summary>
    /// <param name="work">The name of what begins.</param>
    /// <param name="hazard">The danger that it carries; null: none.</param>
    /// <param name="at">When work began.</param>
    /// <param name="late">It began on a phone without a connection.</param>
    /// <exception cref="Refusal">It was not read yet, at "acknowledged", with the caution.</exception>
    public async Task Ask(
        Guid buildId,
        string work,
        Guid personId,
        Hazard? hazard,
        bool acknowledged,
        Instant at,
        bool late,
        CancellationToken cancel
    )
    {
        if (await Owed(buildId, personId, hazard, cancel) is not { } caution || Actor.PersonId != personId)
        {
            return;
        }

        if (acknowledged)
        {
            Record(buildId, work, personId, hazard!.Value, caution, at);
            return;
        }

        Refusal.When(!late, "acknowledged", $"Read this before you start. {caution}");
    }

    /// <summary>Records that somebody has read the caution of what they are at; said again it changes
    /// nothing.</summary>
    public async Task Acknowledge(Guid operationId, Instant? at, CancellationToken cancel)
    {
        var operation = await Find<Operation>(operationId, "operation", cancel);
        var person = Actor.PersonId
            ?? throw new Refusal(
                "operationId",
                "This account belongs to no person of the shop: nobody reads it for others."
            );
        Refusal.When(operation.Hazard is null, "operationId", "This work carries no caution.");
        await using var whole = await Db.Database.BeginTransactionAsync(cancel);
        await Db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({PersonLock.Key(person)})", cancel);
        if (await Owed(operation.BuildId, person, operation.Hazard, cancel) is { } caution)
        {
            Record(
                operation.BuildId,
                operation.Name,
                person,
                operation.Hazard!.Value,
                caution,
                ClockTouch.Started(at, Clock.Now)
            );
            await Save(cancel);
        }

        await whole.CommitAsync(cancel);
    }

    /// <summary>What a person has still to read before a kind of work on a build; null: nothing.</summary>
    private async Task<string?> Owed(Guid buildId, Guid personId, Hazard? hazard, CancellationToken cancel) =>
        hazard is null
            ? null
            : Acknowledgement.Owed(
                hazard,
                await Db
                    .Acknowledgements.AsNoTracking()
                    .Where(a => a.PersonId == personId && a.BuildId == buildId)
                    .ToListAsync(cancel)
            );

    private void Record(Guid buildId, string work, Guid personId, Hazard hazard, string caution, Instant at) =>
        Db.Add(
            new Acknowledgement
            {
                Id = Guid.CreateVersion7(),
                BuildId = buildId,
                PersonId = personId,
                Hazard = hazard,
                Work = Words.Shortened(work, 200),
                Caution = caution,
                At = at,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            }
        );
}

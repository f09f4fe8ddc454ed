using FirstCoat.Core;
using FirstCoat.Core.Access;
using FirstCoat.Core.Plan;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Plan;

/// <summary>Private addresses under which calendar programs read what is planned.</summary>
public sealed class CalendarDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    /// <summary>Addresses that are open, those of the account's own person only where it is a technician's.</summary>
    public async Task<List<CalendarLink>> Links(CancellationToken cancel)
    {
        var own = Actor.PersonId;
        return await Db
            .CalendarLinks.AsNoTracking()
            .Where(l => l.RevokedAt == null && (Actor.IsManager || l.PersonId == own && own != null))
            .OrderBy(l => l.Seq)
            .ToListAsync(cancel);
    }

    /// <summary>Makes an address; its token is shown this once.</summary>
    /// <exception cref="Refusal">There is no such person or place, or it is not the account's own.</exception>
    public async Task<(CalendarLink Link, string Token)> Make(
        Guid id,
        Guid? personId,
        Guid? stationId,
        CancellationToken cancel
    )
    {
        Refusal.When((personId is null) == (stationId is null), "personId", "A calendar is a person's or a place's.");
        Refusal.When(
            personId is { } p && !await Db.People.AnyAsync(x => x.Id == p, cancel),
            "personId",
            "There is no such person."
        );
        Refusal.When(
            stationId is { } s && !await Db.Stations.AnyAsync(x => x.Id == s, cancel),
            "stationId",
            "There is no such station."
        );
        Allow(personId);
        Refusal.When(
            await Db.CalendarLinks.AnyAsync(l => l.Id == id, cancel),
            "id",
            "This address was made already and its token is shown once. Make a new one."
        );
        var token = PrivateLink.NewToken();
        var link = new CalendarLink
        {
            Id = id,
            PersonId = personId,
            StationId = stationId,
            TokenHash = PrivateLink.Hash(token),
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        Db.Add(link);
        await Save(cancel);
        return (link, token);
    }

    public async Task<CalendarLink> Revoke(Guid id, CancellationToken cancel)
    {
        var link = await Find<CalendarLink>(id, "calendar", cancel);
        Allow(link.PersonId);
        link.Revoke(Clock.Now);
        await Save(cancel);
        return link;
    }

    /// <summary>The address that a token opens; null: none.</summary>
    public async Task<CalendarLink?> Of(string token, CancellationToken cancel)
    {
        var hash = PrivateLink.Hash(token);
        return await Db
            .CalendarLinks.AsNoTracking()
            .SingleOrDefaultAsync(l => l.TokenHash == hash && l.RevokedAt == null, cancel);
    }

    private void Allow(Guid? personId) =>
        Refusal.When(
            !Actor.IsManager && (personId is null || personId != Actor.PersonId),
            "personId",
            "You can make and close a calendar of your own work."
        );
}

using FirstCoat.Core;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Survey;

/// <summary>Commands of the survey room: what a panel wears and how it is held, by hand with a name.</summary>
public sealed class SurveyDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    /// <summary>Records an event of a panel; asked again with the same id it returns what is there.</summary>
    public async Task<PanelEvent> Note(Guid buildId, Guid id, string panel, string? zone, PanelFact fact, Coat? coat, Held? held, string note, CancellationToken cancel)
    {
        if (await Again<PanelEvent>(id, cancel) is { } there)
        {
            return there;
        }

        var build = await Build(buildId, cancel);
        var known = Body.Unfold(build.Vehicle.Style, build.Vehicle.Dimensions).Panels.FirstOrDefault(p => p.Key == panel);
        Refusal.When(known is null, "panel", "This body has no such panel.");
        Refusal.When(zone is not null && !known!.Zones.ContainsKey(zone), "zone", "This panel has no such zone.");
        var made = new PanelEvent
        {
            Id = id,
            BuildId = buildId,
            Panel = panel,
            Zone = zone,
            Fact = fact,
            Coat = coat,
            Held = held,
            Note = note.Trim(),
            At = Clock.Now,
            By = Actor.Name,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        made.Check();
        Db.Add(made);
        await Save(cancel);
        return made;
    }

    /// <summary>How every panel of a build stands now.</summary>
    public async Task<(Body Body, IReadOnlyList<PanelState> Panels)> Look(Guid buildId, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        var body = Body.Unfold(build.Vehicle.Style, build.Vehicle.Dimensions);
        var events = await Db.PanelEvents.AsNoTracking().Where(e => e.BuildId == buildId).ToListAsync(cancel);
        return (body, PanelStates.Of(body.Panels.Select(p => p.Key), events));
    }
}

using FirstCoat.Core;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using FirstCoat.Store.Readings;
using FirstCoat.Store.Sequence;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Survey;

/// <summary>Commands of the survey room: what a panel wears and how it is held, by hand with a name.</summary>
public sealed class SurveyDesk(ShopDb db, ShopClock clock, CurrentActor current, GatekeeperDesk gatekeeper)
    : Desk(db, clock, current)
{
    /// <summary>Records an event of a panel; asked again with the same id it returns what is there.</summary>
    /// <remarks>What was done is never refused: where something stands against it, it is kept, flagged, and changes
    /// nothing until a manager has settled it.</remarks>
    /// <param name="outBy">Temporary metal: the stage by which it must be out.</param>
    public async Task<PanelEvent> Note(
        Guid buildId,
        Guid id,
        string panel,
        string? zone,
        PanelFact fact,
        Coat? coat,
        Held? held,
        string note,
        CancellationToken cancel,
        Stage? outBy = null,
        bool? blocksHanging = null
    )
    {
        if (await Again<PanelEvent>(id, cancel) is { } there)
        {
            return there;
        }

        var build = await Build(buildId, cancel);
        var known = Body.Unfold(build.Vehicle.Style, build.Vehicle.Dimensions)
            .Panels.FirstOrDefault(p => p.Key == panel);
        Refusal.When(known is null, "panel", "This body has no such panel.");
        Refusal.When(zone is not null && !known!.Zones.ContainsKey(zone), "zone", "This panel has no such zone.");
        Refusal.When(fact == PanelFact.TakenBack, "fact", "An event is taken back by opening its operation again.");
        var against = fact is PanelFact.Coat or PanelFact.Held
            ? (await gatekeeper.Of(buildId, cancel)).AgainstPanel(panel, coat, held, Clock.Now)
            : [];
        var made = new PanelEvent
        {
            OutBy = fact == PanelFact.TemporaryMetalIn ? outBy : null,
            BlocksHanging = fact == PanelFact.TemporaryMetalIn ? blocksHanging : null,
            Flag = AgainstRule.Of(against),
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
        if (fact == PanelFact.NewMetal)
        {
            // What was signed as good there was another metal.
            await Db.Shut(build, [panel], cancel);
        }

        await Save(cancel);
        return made;
    }

    /// <summary>The manager settles what was noted although something stood against it; from then on it
    /// counts.</summary>
    public async Task<PanelEvent> Settle(Guid id, string why, CancellationToken cancel)
    {
        var noted = await Find<PanelEvent>(id, "event", cancel);
        noted.Flag = (noted.Flag ?? throw new Refusal("id", "Nothing stood against this.")).Settle(
            why,
            Actor.Name,
            Clock.Now
        );
        await Save(cancel);
        return noted;
    }

    /// <summary>How every panel of a build stands now.</summary>
    public async Task<(Body Body, IReadOnlyList<PanelState> Panels, List<PanelEvent> Flagged)> Look(
        Guid buildId,
        CancellationToken cancel
    )
    {
        var build = await Build(buildId, cancel);
        var body = Body.Unfold(build.Vehicle.Style, build.Vehicle.Dimensions);
        var events = await Db.PanelEvents.AsNoTracking().Where(e => e.BuildId == buildId).ToListAsync(cancel);
        return (
            body,
            PanelStates.Of(body.Panels.Select(p => p.Key), events),
            [.. events.Where(e => !e.Counts).OrderBy(e => e.Seq)]
        );
    }
}

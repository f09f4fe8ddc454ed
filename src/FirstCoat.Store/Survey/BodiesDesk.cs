using FirstCoat.Core;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using FirstCoat.Store.Builds;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Survey;

/// <summary>Another body as entered.</summary>
public sealed record OtherBodyEntry(
    string Name,
    int? Year,
    LocalDate? SeenOn,
    LocalDate? HeldUntil,
    decimal Purchase,
    decimal Freight,
    List<OtherZone> Zones,
    List<YearSpan> Spans,
    string Identity
);

/// <summary>Commands of the survey room where there are two bodies: the same sums for both, and the question which to
/// save.</summary>
public sealed class BodiesDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    FindingsDesk findings,
    BuildsDesk builds
) : Desk(db, clock, current)
{
    /// <summary>Every other body of a build beside its own.</summary>
    public async Task<List<(OtherBody Body, TwoBodies Compared)>> Look(Guid buildId, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        var others = await Db
            .OtherBodies.AsNoTracking()
            .Where(b => b.BuildId == buildId)
            .OrderBy(b => b.Seq)
            .ToListAsync(cancel);
        var survey = await findings.Look(buildId, cancel);
        var terms = await findings.Terms(build, cancel);
        return others
            .Select(o =>
                (
                    o,
                    TwoBodies.Of(
                        survey.Sheet,
                        survey.Findings.Select(f => (f.Finding, f.Sums)).ToList(),
                        build.Vehicle.Year,
                        o,
                        terms
                    )
                )
            )
            .ToList();
    }

    /// <summary>Adds another body or changes one.</summary>
    public async Task<OtherBody> Put(Guid buildId, Guid id, OtherBodyEntry e, uint? version, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        Plausible(e.SeenOn, "seenOn");
        Plausible(e.HeldUntil, "heldUntil");
        var zones = SurveyPlaces.Of(build.Vehicle, []).Select(p => SurveyPlaces.Stem(p.Key)).ToHashSet();
        Refusal.When(e.Zones.Any(z => !zones.Contains(z.Zone)), "zones", "This vehicle has no such zone.");
        var body = await Db.OtherBodies.FindAsync([id], cancel);
        if (body is null)
        {
            body = new()
            {
                Id = id,
                BuildId = buildId,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            Db.Add(body);
        }

        Refusal.When(body.BuildId != buildId, "id", "This body belongs to another build.");
        Expect(body, version);
        (
            body.Name,
            body.Year,
            body.SeenOn,
            body.HeldUntil,
            body.Purchase,
            body.Freight,
            body.Zones,
            body.Spans,
            body.Identity
        ) = (e.Name, e.Year, e.SeenOn, e.HeldUntil, e.Purchase, e.Freight, e.Zones, e.Spans, e.Identity.Trim());
        body.Check();
        await Save(cancel);
        return body;
    }

    /// <summary>Asks which shell is saved; the work named does not begin before that is settled.</summary>
    public async Task<Decision> Ask(
        Guid id,
        Guid decisionId,
        List<Guid> holds,
        LocalDate dueOn,
        CancellationToken cancel
    )
    {
        var body = await Find<OtherBody>(id, "body", cancel);
        Refusal.When(
            body.DecisionId is { } there
                && await Db.Decisions.AnyAsync(d => d.Id == there && d.SettledAt == null, cancel)
                && body.DecisionId != decisionId,
            "id",
            "That is being asked already."
        );
        var build = await Build(body.BuildId, cancel);
        var compared = (await Look(body.BuildId, cancel)).Single(x => x.Body.Id == id).Compared;
        var detail = compared.OwnSaves is { } saves
            ? $"By the sums of both surveys {(saves >= 0 ? "keeping the own body" : $"taking “{body.Name}”")} is cheaper."
            : "Some zones have not been looked at yet: there is no total.";
        await using var all = await Db.Database.BeginTransactionAsync(cancel);
        var decision = await builds.Ask(
            build.Id,
            decisionId,
            new(
                $"Which body is saved: its own, or “{body.Name}”?",
                $"{detail} Which of them carries the legal identity is for local law.",
                DecisionFor.Manager,
                ["Keep its own", "Take the other"],
                holds,
                dueOn,
                null
            ),
            cancel
        );
        body.DecisionId = decision.Id;
        await Save(cancel);
        await all.CommitAsync(cancel);
        return decision;
    }
}

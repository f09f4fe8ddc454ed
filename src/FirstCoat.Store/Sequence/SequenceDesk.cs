using FirstCoat.Core;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using FirstCoat.Store.Fitup;
using FirstCoat.Store.Readings;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Sequence;

/// <summary>What a gate asks for, and by whom it is signed.</summary>
/// <param name="Makers">Who did the work that it checks.</param>
/// <param name="Others">Who did not, and so can sign.</param>
/// <param name="BySide">Each side may be signed by itself.</param>
public sealed record GateSheet(
    IReadOnlyList<GateAsk> Asks,
    IReadOnlySet<Guid> Makers,
    IReadOnlyList<Person> Others,
    bool BySide
);

/// <summary>A sequence as it is, to be made again from a template.</summary>
/// <param name="WithHours">Operations on which hours were booked.</param>
/// <param name="SpokenFor">Operations that a finding or a client's paper speaks of.</param>
internal sealed record Resequencing(
    Build Build,
    IReadOnlyList<Operation> All,
    HashSet<Guid> WithHours,
    HashSet<Guid> SpokenFor,
    TemplateShelf Templates
)
{
    /// <param name="anew">What was changed by hand becomes as the template has it.</param>
    public Resequenced From(Way way, decimal scale, bool anew) =>
        new Resequence(
            All,
            Made(way, scale),
            WithHours,
            SpokenFor,
            anew || !Templates.Knows(Build.Template)
                ? null
                : Made(new(Build.Template, Build.Terms.Choices), Build.Terms.Scale)
        ).Apply();

    private IReadOnlyList<Operation> Made(Way way, decimal scale) =>
        Templates.Make(way, Build.Id, Build.Vehicle, Build.Brief.Grade, scale, Guid.CreateVersion7);
}

/// <summary>Commands of the sequence room.</summary>
public sealed class SequenceDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    GatekeeperDesk gatekeeper,
    FitDesk fit,
    DatumDesk datum,
    OpeningsDesk openings,
    TemplatesDesk templates
) : Desk(db, clock, current)
{
    /// <summary>Operations of a build that are in its sequence, in order.</summary>
    public async Task<List<Operation>> Of(Guid buildId, CancellationToken cancel) =>
        await Db.Operations.Where(o => o.BuildId == buildId && !o.Removed).OrderBy(o => o.Position).ToListAsync(cancel);

    /// <summary>Adds an operation or changes one; the whole sequence is checked before anything is kept.</summary>
    public async Task<Operation> Put(
        Guid buildId,
        Guid id,
        Action<Operation> change,
        uint? version,
        CancellationToken cancel
    )
    {
        var build = await Build(buildId, cancel);
        var all = await Of(buildId, cancel);
        var operation = await Db.Operations.FindAsync([id], cancel);
        if (operation is null)
        {
            operation = new()
            {
                Id = id,
                BuildId = buildId,
                Name = "",
                Position = all.Select(o => o.Position).DefaultIfEmpty(0).Max() + 1,
            };
            Db.Add(operation);
            all.Add(operation);
        }

        Refusal.When(operation.BuildId != buildId, "id", "This operation belongs to another build.");
        Expect(operation, version);
        var check = operation.CheckForGood;
        var template = await FromItsTemplate(build, cancel);
        var (departed, said) = (template?.Of(all) ?? [], operation.DepartsWhy);
        change(operation);
        operation.Keeps(check);
        operation.Check();
        Refusal.When(operation.After.Count > 60 || operation.Panels.Count > 200, "after", "Too many links or panels.");
        var panels = Body.Unfold(build.Vehicle.Style, build.Vehicle.Dimensions).Panels.Select(p => p.Key).ToHashSet();
        Refusal.When(operation.Panels.Any(p => !panels.Contains(p)), "panels", "This body has no such panel.");
        Refusal.When(
            operation.PersonId is { } p && await Db.People.FindAsync([p], cancel) is null,
            "personId",
            "There is no such person."
        );
        await CheckTerms(operation, all, cancel);
        OperationOrder.Check(all);
        Departures.Check(operation, said, departed, template?.Of(all) ?? []);
        await Save(cancel);
        return operation;
    }

    /// <summary>Where a sequence departs from the template that it came from; null: it came from none that is
    /// known.</summary>
    private async Task<Departures?> FromItsTemplate(Build build, CancellationToken cancel)
    {
        var shelf = await templates.All(cancel);
        return shelf.Knows(build.Template)
            ? new(
                shelf.Make(
                    new(build.Template, build.Terms.Choices),
                    build.Id,
                    build.Vehicle,
                    build.Brief.Grade,
                    build.Terms.Scale,
                    Guid.CreateVersion7
                )
            )
            : null;
    }

    /// <summary>Where the build's sequence departs from its template now.</summary>
    public async Task<IReadOnlyList<Departure>> Departs(
        Guid buildId,
        IReadOnlyCollection<Operation> all,
        CancellationToken cancel
    ) => (await FromItsTemplate(await Build(buildId, cancel), cancel))?.Of(all) ?? [];

    /// <summary>Settles when, by whom and where an operation is done, or leaves that to the plan again.</summary>
    /// <param name="version">As whoever pins it has seen it.</param>
    /// <exception cref="Refusal">Names the rule against it.</exception>
    public async Task<Operation> Pin(Guid id, OperationPin pin, uint? version, CancellationToken cancel)
    {
        var operation = await Find<Operation>(id, "operation", cancel);
        Expect(operation, version);
        pin.Put(
            operation,
            await Today(cancel),
            pin.Person is { } person ? await Db.People.FindAsync([person], cancel) : null,
            pin.Place is { } place ? await Db.Stations.FindAsync([place], cancel) : null
        );
        await Save(cancel);
        return operation;
    }

    /// <summary>Takes a part off an operation, as an operation of its own.</summary>
    public async Task<Operation> Split(Guid id, PartOff part, uint? version, CancellationToken cancel)
    {
        if (await Again<Operation>(part.Id, cancel) is { } there)
        {
            return there;
        }

        var whole = await Find<Operation>(id, "operation", cancel);
        Expect(whole, version);
        var all = await Of(whole.BuildId, cancel);
        var second = OperationParts.Split(whole, part, all);
        Db.Add(second);
        await Whole([.. all, second], [whole, second], cancel);
        return second;
    }

    /// <summary>Makes one operation of two.</summary>
    /// <param name="with">Goes: its hours, panels and links come to the first.</param>
    public async Task<Operation> Merge(Guid id, Guid with, uint? version, CancellationToken cancel)
    {
        var (first, second) = (
            await Find<Operation>(id, "operation", cancel),
            await Find<Operation>(with, "operation", cancel)
        );
        Refusal.When(first.BuildId != second.BuildId || second.Removed, "with", "It is not in this sequence.");
        Expect(first, version);
        var all = await Of(first.BuildId, cancel);
        OperationParts.Merge(first, second, all);
        foreach (var p in await Db.Provisions.Where(p => p.OperationId == with).ToListAsync(cancel))
        {
            p.OperationId = id;
        }

        second.Remove(
            await Db.TimeEntries.AnyAsync(e => e.OperationId == with && e.ReplacedBy == null && !e.Void, cancel)
        );
        all.Remove(second);
        await Whole(all, [first], cancel);
        return first;
    }

    /// <summary>Keeps a changed sequence if it holds as a whole.</summary>
    private async Task Whole(List<Operation> all, List<Operation> changed, CancellationToken cancel)
    {
        changed.ForEach(o => o.Check());
        OperationOrder.Check(all);
        await Save(cancel);
    }

    /// <summary>Checks a sequence as a whole, and what of it was changed by itself.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    internal async Task CheckAll(List<Operation> all, IReadOnlyList<Operation> changed, CancellationToken cancel)
    {
        var there = all.Select(o => o.Id).ToHashSet();
        foreach (var gone in changed.Where(o => o.Removed))
        {
            var waits = all.Find(o =>
                o.After.Any(a => a.Operation == gone.Id)
                || o.Terms.Hold?.Until == gone.Id
                || o.Terms.ClosedUntil == gone.Id
            );
            Refusal.When(waits is not null, "id", $"“{waits?.Name}” waits for “{gone.Name}” by now, so that stays.");
        }

        foreach (var o in changed.Where(o => there.Contains(o.Id)))
        {
            o.Check();
            await CheckTerms(o, all, cancel);
        }

        OperationOrder.Check(all);
    }

    /// <summary>Refuses terms that name what is not there.</summary>
    private async Task CheckTerms(Operation operation, List<Operation> all, CancellationToken cancel)
    {
        var t = operation.Terms;
        Refusal.When(
            t.Hold is { } h && (h.Until == operation.Id || all.All(o => o.Id != h.Until)),
            "hold",
            "A place is held until the end of another operation of this sequence."
        );
        Refusal.When(
            t.ClosedUntil is { } c && (c == operation.Id || all.All(o => o.Id != c)),
            "closedUntil",
            "The sign-off of the other side is an operation of this sequence."
        );
        Refusal.When(
            t.SupplierId is { } s && await Db.Suppliers.FindAsync([s], cancel) is null,
            "supplierId",
            "There is no such supplier."
        );
        if (t.Preferred.Count > 0)
        {
            var known = await Db.People.Where(p => t.Preferred.Contains(p.Id)).CountAsync(cancel);
            Refusal.When(known != t.Preferred.Distinct().Count(), "preferred", "There is no such person.");
        }

        if (t.Uses.Count > 0)
        {
            var things = (await Shop(cancel)).Plan.Things.ToDictionary(x => x.Name, x => x.Count);
            foreach (var use in t.Uses)
            {
                Refusal.When(!things.TryGetValue(use.Name, out var have), "uses", $"The shop has no {use.Name}.");
                Refusal.When(use.Count > have, "uses", $"The shop has {have} of {use.Name}.");
            }
        }
    }

    /// <summary>Plans the build again from a template; what is done, begun, or was added stays.</summary>
    /// <param name="anew">What was changed by hand becomes as the template has it.</param>
    public async Task FromTemplate(Guid buildId, Way way, decimal scale, bool anew, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        var result = (await ToResequence(build, await Of(buildId, cancel), cancel)).From(way, scale, anew);
        Db.AddRange(result.Added);
        (build.Template, build.Terms) = (way.Template, build.Terms with { Choices = way.Choices, Scale = scale });
        await Save(cancel);
    }

    /// <summary>A sequence that can be made again, with what of it stays whatever its template says.</summary>
    /// <param name="all">Is changed.</param>
    internal async Task<Resequencing> ToResequence(Build build, IReadOnlyList<Operation> all, CancellationToken cancel)
    {
        var ids = all.Select(o => o.Id).ToList();
        var withHours = await Db
            .TimeEntries.Where(e => ids.Contains(e.OperationId) && e.ReplacedBy == null && !e.Void)
            .Select(e => e.OperationId)
            .Distinct()
            .ToListAsync(cancel);
        var found = await Db
            .Findings.AsNoTracking()
            .Where(f => f.BuildId == build.Id)
            .Select(f => f.Operations)
            .ToListAsync(cancel);
        var lines = await Db
            .Papers.AsNoTracking()
            .Where(p => p.BuildId == build.Id)
            .Select(p => p.Lines)
            .ToListAsync(cancel);
        return new(
            build,
            all,
            withHours.ToHashSet(),
            [.. found.SelectMany(o => o), .. lines.SelectMany(l => l).SelectMany(l => l.Operations)],
            await templates.All(cancel)
        );
    }

    /// <summary>Takes an operation out; what came after it now comes after what was before it.</summary>
    public async Task Remove(Guid id, CancellationToken cancel)
    {
        await RemoveTracked(id, cancel);
        await Save(cancel);
    }

    /// <summary>Takes an operation out within a larger change.</summary>
    internal async Task RemoveTracked(Guid id, CancellationToken cancel)
    {
        var operation = await Find<Operation>(id, "operation", cancel);
        if (operation.Removed)
        {
            return;
        }

        operation.Remove(
            await Db.TimeEntries.AnyAsync(e => e.OperationId == id && e.ReplacedBy == null && !e.Void, cancel)
        );
        foreach (var next in (await Of(operation.BuildId, cancel)).Where(o => o.After.Any(a => a.Operation == id)))
        {
            next.After =
            [
                .. next.After.Where(a => a.Operation != id).Concat(operation.After).DistinctBy(a => a.Operation),
            ];
        }

        foreach (
            var other in (await Of(operation.BuildId, cancel)).Where(o =>
                o.Terms.Hold?.Until == id || o.Terms.ClosedUntil == id
            )
        )
        {
            other.Terms = other.Terms with
            {
                Hold = other.Terms.Hold?.Until == id ? null : other.Terms.Hold,
                ClosedUntil = other.Terms.ClosedUntil == id ? null : other.Terms.ClosedUntil,
            };
        }
    }

    /// <summary>Takes out work that came of a finding and that nobody has begun.</summary>
    /// <param name="putBack">What a template had allowed for its place comes back.</param>
    internal async Task TakeOut(
        Guid buildId,
        Guid finding,
        IReadOnlyCollection<Guid> operations,
        bool putBack,
        CancellationToken cancel
    )
    {
        var all = await Of(buildId, cancel);
        // What stands in the place of the template's work turns into that again.
        var again = all.Where(o => putBack && o.Terms.Replaced.Any(r => r.Finding == finding && r.Name is not null))
            .Select(o => o.Id)
            .ToList();
        foreach (var gone in operations.Except(again))
        {
            await RemoveTracked(gone, cancel);
        }

        if (putBack)
        {
            all.ForEach(o => Allowance.PutBack(o, finding));
        }
    }

    /// <summary>Those of the operations that are in the sequence, not done, and without hours.</summary>
    internal async Task<List<Guid>> NotBegun(IReadOnlyCollection<Guid> operations, CancellationToken cancel)
    {
        var booked = await Db
            .TimeEntries.Where(e => operations.Contains(e.OperationId) && e.ReplacedBy == null && !e.Void)
            .Select(e => e.OperationId)
            .Distinct()
            .ToListAsync(cancel);
        return await Db
            .Operations.Where(o =>
                operations.Contains(o.Id) && !o.Removed && o.DoneAt == null && !booked.Contains(o.Id)
            )
            .Select(o => o.Id)
            .ToListAsync(cancel);
    }

    /// <summary>Takes out what nobody has begun of some work, within a larger change; a check that has no override
    /// stays.</summary>
    internal async Task TakeOutNotBegun(IReadOnlyCollection<Guid> operations, CancellationToken cancel)
    {
        foreach (var gone in await NotBegun(operations, cancel))
        {
            if (!(await Find<Operation>(gone, "operation", cancel)).IsForGood)
            {
                await RemoveTracked(gone, cancel);
            }
        }
    }

    /// <summary>Marks work, a cure or outside work as done; its panels take the coat and the hold that it
    /// gives.</summary>
    /// <param name="why">Why it is done before what comes before it; asked for where it is.</param>
    public async Task<Operation> Finish(Guid id, string why, CancellationToken cancel)
    {
        var operation = await Find<Operation>(id, "operation", cancel);
        if (operation.IsDone)
        {
            return operation;
        }

        Refusal.When(
            operation.Kind == OperationKind.Outside && !Actor.IsDesk,
            "id",
            "Outside work is done when its batch is counted in; the desk ends what had none."
        );
        await gatekeeper.Refuse(operation, WorkStep.End, "id", why, cancel);
        FinishTracked(operation, why);
        await Save(cancel);
        return operation;
    }

    /// <summary>Marks an operation done within a larger change.</summary>
    internal void FinishTracked(Operation operation, string outOfOrderWhy = "")
    {
        operation.Finish(Actor.Name, Clock.Now, outOfOrderWhy);
        foreach (var panel in operation.Panels)
        {
            if (operation.Coat is { } coat)
            {
                Db.Add(Event(operation, panel, PanelFact.Coat, coat, null));
            }

            if (operation.Held is { } held)
            {
                Db.Add(Event(operation, panel, PanelFact.Held, null, held));
            }
        }
    }

    /// <summary>Opens a finished operation again: its panels wear and are held as before it, and gates that had checked
    /// it are shut.</summary>
    public async Task<Operation> Reopen(Guid id, CancellationToken cancel)
    {
        var operation = await Find<Operation>(id, "operation", cancel);
        operation.Reopen();
        var events = await Db.PanelEvents.Where(e => e.OperationId == id || e.TakesBack != null).ToListAsync(cancel);
        var back = events.Select(e => e.TakesBack).OfType<Guid>().ToHashSet();
        foreach (
            var made in events.Where(e => e.OperationId == id && e.Fact != PanelFact.TakenBack && !back.Contains(e.Id))
        )
        {
            Db.Add(Event(operation, made.Panel, PanelFact.TakenBack, null, null, made.Id));
        }

        foreach (
            var gate in (await Of(operation.BuildId, cancel)).Where(o =>
                o.Kind == OperationKind.Gate && (o.IsDone || o.HasSides()) && o.After.Any(a => a.Operation == id)
            )
        )
        {
            gate.Shut();
        }

        await Save(cancel);
        return operation;
    }

    /// <summary>What a gate asks for, and who can sign it.</summary>
    /// <param name="side">The side that is to be signed by itself; null: all.</param>
    public async Task<GateSheet> GateOf(Guid id, PanelSide? side, CancellationToken cancel)
    {
        var gate = await Find<Operation>(id, "gate", cancel);
        Refusal.When(gate.Kind != OperationKind.Gate, "id", "This is no gate.");
        return await Gate(gate, side, cancel);
    }

    private async Task<GateSheet> Gate(Operation gate, PanelSide? signed, CancellationToken cancel)
    {
        // The second side finishes the gate, and so looks at all of it.
        var side = gate.HasSides() ? null : signed;
        var all = (await Of(gate.BuildId, cancel)).Where(o => !o.Removed).ToDictionary(o => o.Id);
        var entries = await Db
            .TimeEntries.AsNoTracking()
            .Where(e => e.BuildId == gate.BuildId && e.ReplacedBy == null && !e.Void)
            .Select(e => new
            {
                e.OperationId,
                e.PersonId,
                e.Stop,
                e.Flag,
            })
            .ToListAsync(cancel);
        var photos = await Db
            .Photos.AsNoTracking()
            .Where(p => p.BuildId == gate.BuildId && p.OperationId != null)
            .Select(p => p.OperationId!.Value)
            .Distinct()
            .ToListAsync(cancel);
        var findings = (
            await Db
                .Findings.AsNoTracking()
                .Where(f => f.BuildId == gate.BuildId)
                .OrderBy(f => f.Number)
                .ToListAsync(cancel)
        )
            .Where(f => f.Counts)
            .Select(f => new GateFinding(f.Number, f.Place, f.Choice is not null))
            .ToList();
        var record = new GateRecord(
            photos.ToHashSet(),
            entries.Where(e => e.Stop is null).Select(e => e.OperationId).ToHashSet(),
            entries.Where(e => e.Flag is { IsOpen: true }).Select(e => e.OperationId).ToHashSet(),
            findings,
            (
                await Db
                    .Provisions.AsNoTracking()
                    .Where(p => p.BuildId == gate.BuildId && !p.Removed)
                    .OrderBy(p => p.Seq)
                    .ToListAsync(cancel)
            ).ToLookup(p => p.OperationId),
            (await Db.Ripples.AsNoTracking().Where(r => r.BuildId == gate.BuildId).ToListAsync(cancel))
                .SelectMany(r => r.Rests.Where(x => x.Verdict is null).Select(x => (x.Id, r.What)))
                .ToLookup(x => x.Id, x => x.What)
        );
        var checkedWork = gate.After.Select(a => a.Operation).ToHashSet();
        var makers = entries.Where(e => checkedWork.Contains(e.OperationId)).Select(e => e.PersonId).ToHashSet();
        var others = await Db
            .People.AsNoTracking()
            .Where(p => p.Active && !makers.Contains(p.Id))
            .OrderBy(p => p.Name)
            .ToListAsync(cancel);
        var asks = GateAsks.Of(gate, all, (await gatekeeper.Of(gate.BuildId, cancel)).AgainstSigning(gate), record);
        return new(
            [
                .. side is { } one
                    ? FitGate.OfSide(one, [.. asks], all, (await Build(gate.BuildId, cancel)).Body())
                    : asks,
                .. await datum.Asks(gate, cancel),
                .. await fit.Asks(gate, all, side, cancel),
                .. await openings.Asks(gate, side, cancel),
            ],
            makers,
            others,
            gate.Gate == GateKind.FitUp
        );
    }

    /// <summary>Signs a gate in a person's name: the actor's own.</summary>
    /// <param name="seen">What was missing when they looked; null: they were not shown it.</param>
    /// <param name="side">The side that is signed by itself; null: all.</param>
    public async Task<Operation> Sign(
        Guid id,
        CancellationToken cancel,
        IReadOnlySet<string>? seen = null,
        PanelSide? side = null
    )
    {
        var gate = await Find<Operation>(id, "gate", cancel);
        Refusal.When(
            Actor.PersonId is null,
            "personId",
            "A gate is signed by a person of the shop: this account belongs to none."
        );
        var sheet = await Gate(gate, side, cancel);
        var must = sheet.Asks.Where(a => a is { Must: true, IsMet: false }).ToList();
        Refusal.When(
            must.Count > 0,
            must.Exists(a => a.Of is not null) ? "after" : "id",
            $"Before this gate is signed: {string.Join("; ", must.Select(a => a.Missing))}."
        );
        Refusal.When(
            seen is not null && !seen.SetEquals(sheet.Asks.Where(a => !a.IsMet).Select(a => a.Missing)),
            "seen",
            "What this gate asks for has changed in between. Look at it, then sign."
        );
        var (person, worked) = (Actor.PersonId!.Value, sheet.Makers.Contains(Actor.PersonId.Value));
        var (hasSecond, without) = (sheet.Others.Count > 0, GateAsks.Without(sheet.Asks));
        if (side is { } one)
        {
            gate.SignSide(one, person, Actor.Name, Clock.Now, worked, hasSecond, without);
        }
        else
        {
            gate.Sign(person, Actor.Name, Clock.Now, worked, hasSecond, without);
        }

        await Save(cancel);
        return gate;
    }

    /// <summary>Opens a gate with a written reason.</summary>
    public async Task<Operation> Override(Guid id, string reason, CancellationToken cancel)
    {
        var gate = await Find<Operation>(id, "gate", cancel);
        gate.Override(Actor.PersonId ?? Actor.AccountId, Actor.Name, Clock.Now, reason);
        await Save(cancel);
        return gate;
    }

    private PanelEvent Event(
        Operation operation,
        string panel,
        PanelFact fact,
        Coat? coat,
        Held? held,
        Guid? takesBack = null
    ) =>
        new()
        {
            TakesBack = takesBack,
            Id = Guid.CreateVersion7(),
            BuildId = operation.BuildId,
            Panel = panel,
            Fact = fact,
            Coat = coat,
            Held = held,
            At = Clock.Now,
            By = Actor.Name,
            OperationId = operation.Id,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
}

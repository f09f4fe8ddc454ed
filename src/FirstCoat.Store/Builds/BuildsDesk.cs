using FirstCoat.Core;
using FirstCoat.Core.Access;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using FirstCoat.Store.Sequence;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Builds;

/// <summary>Everything that opens a build.</summary>
public sealed record OpenBuild(
    int? Number,
    string ClientName,
    string ClientEmail,
    string ClientPhone,
    Vehicle Vehicle,
    Brief Brief,
    ContractTerms Contract,
    EstimateTotals Estimate,
    string Template,
    decimal Scale,
    int Priority,
    bool FillIn,
    Guid? StationId,
    Guid? ReturnOf = null,
    TemplateChoices? Choices = null,
    Guid? ClientId = null
);

/// <summary>A client of the shop, as offered while a name is typed.</summary>
public sealed record KnownClient(Guid Id, string Name, string Email, string Phone, List<KnownVehicle> Vehicles);

/// <summary>A vehicle that was here, or is.</summary>
public sealed record KnownVehicle(Guid BuildId, int Number, string Title, Vehicle Vehicle, BuildStatus Status);

/// <summary>A question for the manager or the client, as asked.</summary>
public sealed record AskDecision(
    string Question,
    string Detail,
    DecisionFor For,
    List<string> Options,
    List<Guid> Holds,
    LocalDate DueOn,
    Guid? PhotoId = null,
    List<string>? TakesOut = null
);

/// <summary>Commands of the builds room.</summary>
public sealed class BuildsDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    GatekeeperDesk gatekeeper,
    SequenceDesk sequence,
    TemplatesDesk templates
) : Desk(db, clock, current)
{
    /// <summary>One number after another, whoever opens a build at the same moment.</summary>
    private const long NumberTurn = 0x4643_4255_494C;

    /// <summary>One vehicle after another looks whether a place is free.</summary>
    private const long PlaceTurn = 0x4643_504C_4143;

    /// <summary>Opens a build from a template; asked again with the same id it returns what is there.</summary>
    public async Task<Build> Open(Guid id, OpenBuild ask, CancellationToken cancel)
    {
        if (await Again<Build>(id, cancel) is { } there)
        {
            return there;
        }

        Refusal.Each(
            () => Refusal.Text(ask.ClientName, "clientName", 100),
            () => EmailAddress.Checked(ask.ClientEmail, "clientEmail"),
            () => Short(ask.ClientPhone, "clientPhone"),
            ask.Vehicle.Check,
            ask.Brief.Check,
            ask.Contract.Check,
            ask.Estimate.Check,
            () => Plausible(ask.Brief.Promised, "promised"),
            () =>
                Refusal.When(
                    ask.Number is < 1 or > 999_999,
                    "number",
                    "A build's number must be between 1 and 999,999."
                ),
            () =>
                Refusal.When(
                    ask.Priority is < 0 or > 10_000,
                    "priority",
                    "The place in the queue must be between 0 and 10,000."
                )
        );
        Refusal.When(
            ask.StationId is { } s && await Db.Stations.FindAsync([s], cancel) is null,
            "stationId",
            "There is no such station."
        );
        var before = ask.ReturnOf is { } earlier ? await Find<Build>(earlier, "earlier build", cancel) : null;
        Refusal.When(
            before is not null && before.Status is not (BuildStatus.Closed or BuildStatus.Withdrawn),
            "returnOf",
            "That build has not ended: the vehicle is still here."
        );
        var (name, email, phone) = (
            Refusal.Text(ask.ClientName, "clientName", 100),
            EmailAddress.Checked(ask.ClientEmail, "clientEmail"),
            Short(ask.ClientPhone, "clientPhone")
        );
        await using var turn = await Whole(cancel);
        await Turn(NumberTurn, cancel);
        if (await Again<Build>(id, cancel) is { } meanwhile)
        {
            return meanwhile;
        }

        var taken = await Db.Builds.Select(b => b.Number).ToListAsync(cancel);
        Refusal.When(
            ask.Number is { } n && taken.Contains(n),
            "number",
            "A build with this number exists; numbers are never used again."
        );
        var client = new Client
        {
            Id = Guid.CreateVersion7(),
            Name = name,
            Email = email,
            Phone = phone,
        };
        var known = ask.ClientId is { } chosen
            ? await Find<Client>(chosen, "client", cancel)
            : await Db.Clients.FirstOrDefaultAsync(
                c => c.Name == name && (email != "" ? c.Email == email : c.Email == "" && c.Phone == phone),
                cancel
            );
        if (ask.ClientId is not null)
        {
            // What was corrected while the client was chosen holds from now on.
            (known!.Name, known.Email, known.Phone) = (name, email, phone);
        }

        if (known is null)
        {
            Db.Add(client);
        }

        var build = new Build
        {
            Id = id,
            Number = ask.Number ?? taken.DefaultIfEmpty(0).Max() + 1,
            ClientId = (known ?? client).Id,
            Vehicle = ask.Vehicle,
            Brief = ask.Brief,
            Contract = ask.Contract,
            Estimate = ask.Estimate,
            Template = ask.Template,
            Priority = ask.Priority,
            FillIn = ask.FillIn,
            OpenedOn = await Today(cancel),
            ReturnOf = before?.Id,
            History = before?.History ?? [],
            Terms = new() { Choices = ask.Choices ?? new(), Scale = ask.Scale },
        };
        build.Open();
        if (ask.StationId is { } station)
        {
            await RefuseTaken(station, id, cancel);
            build.Stand(station, "");
        }

        Db.Add(build);
        Db.AddRange(
            (await templates.All(cancel)).Make(
                new(ask.Template, ask.Choices ?? new()),
                id,
                ask.Vehicle,
                ask.Brief.Grade,
                ask.Scale,
                Guid.CreateVersion7
            )
        );
        await Save(cancel);
        await turn.Commit(cancel);
        return build;
    }

    /// <summary>Changes what was agreed or known about a build.</summary>
    public async Task<Build> Edit(
        Guid id,
        Vehicle vehicle,
        Brief brief,
        ContractTerms contract,
        EstimateTotals estimate,
        int priority,
        bool fillIn,
        uint? version,
        CancellationToken cancel
    )
    {
        var build = await Build(id, cancel);
        Expect(build, version);
        Refusal.Each(
            vehicle.Check,
            brief.Check,
            contract.Check,
            estimate.Check,
            () => Plausible(brief.Promised, "promised"),
            () =>
                Refusal.When(
                    build.AcceptedAt is not null && estimate != build.Estimate,
                    "estimate",
                    "The client has accepted the estimate: what changes it is a change order."
                ),
            () =>
                Refusal.When(
                    priority is < 0 or > 10_000,
                    "priority",
                    "The place in the queue must be between 0 and 10,000."
                )
        );
        build.Contracted(contract);
        (build.Vehicle, build.Brief, build.Estimate, build.Priority, build.FillIn) = (
            vehicle,
            brief,
            estimate,
            priority,
            fillIn
        );
        await Save(cancel);
        return build;
    }

    /// <summary>Sets what the plan keeps to for a build; the schools of its sequence stay as they are.</summary>
    public async Task<Build> SetTerms(Guid id, BuildTerms terms, uint? version, CancellationToken cancel)
    {
        var build = await Build(id, cancel);
        Expect(build, version);
        terms.Check();
        build.Terms = terms with { Choices = build.Terms.Choices, Scale = build.Terms.Scale };
        await Save(cancel);
        return build;
    }

    /// <summary>Pauses, opens again or ends a build.</summary>
    /// <param name="stillHolds">Of a paused build that goes on: where it was left and its first move both hold.</param>
    public async Task<Build> SetStatus(
        Guid id,
        BuildStatus status,
        string leftAt,
        string firstMove,
        CancellationToken cancel,
        bool? stillHolds = null
    )
    {
        await using var whole = await Whole(cancel);
        await LockBuild(id, cancel);
        var build = await Build(id, cancel);
        switch (status)
        {
            case BuildStatus.Open when build.Status == BuildStatus.Paused:
                build.GoOn(stillHolds, firstMove);
                break;
            case BuildStatus.Open:
                build.Open();
                break;
            case BuildStatus.Paused when build.Status == BuildStatus.Withdrawn:
                build.TakeBack(leftAt, firstMove);
                break;
            case BuildStatus.Paused:
                build.Pause(leftAt, firstMove);
                break;
            case BuildStatus.Closed or BuildStatus.Withdrawn:
                await RefuseWhileOnTheClock(build, cancel);
                build.End(status == BuildStatus.Withdrawn, await Today(cancel));
                break;
            default:
                throw new Refusal("status", "A build is opened, paused, closed or withdrawn.");
        }

        await Save(cancel);
        await whole.Commit(cancel);
        return build;
    }

    /// <summary>As if a build rested from now on, or went on as it was left: in a change that is only tried.</summary>
    public Task<Build> Suppose(Guid id, bool goesOn, CancellationToken cancel) =>
        SetStatus(
            id,
            goesOn ? BuildStatus.Open : BuildStatus.Paused,
            "as it is",
            "to be said",
            cancel,
            stillHolds: true
        );

    /// <summary>Notes the day on which the client was told that the work is complete, or takes the note back.</summary>
    public async Task<Build> Notice(Guid id, LocalDate? on, uint? version, CancellationToken cancel)
    {
        var build = await Build(id, cancel);
        Expect(build, version);
        Refusal.When(on > await Today(cancel), "on", "That day is still to come.");
        build.Notice(on);
        await Save(cancel);
        return build;
    }

    private async Task RefuseWhileOnTheClock(Build build, CancellationToken cancel)
    {
        var on = await Db
            .TimeEntries.Where(e => e.BuildId == build.Id && e.Stop == null)
            .Join(Db.People, e => e.PersonId, p => p.Id, (e, p) => p)
            .ToListAsync(cancel);
        Refusal.When(
            on.Count > 0,
            "status",
            $"On the clock here: {string.Join(", ", on.Select(p => p.ShortName).Order())}. Their clocks stop first."
        );
    }

    /// <summary>Moves the vehicle; a shell that is too tall for the station's door is the manager's to judge until
    /// heights are recorded.</summary>
    public async Task<Build> Stand(Guid id, Guid? station, string awayAt, CancellationToken cancel)
    {
        await using var turn = await Whole(cancel);
        var build = await Build(id, cancel);
        if (station is { } to)
        {
            await RefuseTaken(to, id, cancel);
            await RefuseUnready(build, (await Find<Station>(to, "station", cancel)).Kind, cancel);
        }

        build.Stand(station, awayAt);
        await Save(cancel);
        await turn.Commit(cancel);
        return build;
    }

    /// <summary>Refuses a place that others stand on, within the caller's transaction: two that ask at the same moment
    /// are asked one after the other.</summary>
    private async Task RefuseTaken(Guid station, Guid build, CancellationToken cancel)
    {
        await Turn(PlaceTurn, cancel);
        var place = await Find<Station>(station, "station", cancel);
        var others = await Db.Builds.CountAsync(
            b =>
                b.StationId == station
                && b.Id != build
                && (b.Status == BuildStatus.Open || b.Status == BuildStatus.Paused),
            cancel
        );
        Refusal.When(others >= place.Count, "stationId", $"{place.Name} is taken.");
    }

    /// <summary>Booth and blast room are entered for the next work that asks for them: what stands against it stands
    /// against the move.</summary>
    private async Task RefuseUnready(Build build, StationKind kind, CancellationToken cancel)
    {
        if (kind is not (StationKind.Booth or StationKind.Blast))
        {
            return;
        }

        var next = await Db
            .Operations.Where(o => o.BuildId == build.Id && !o.Removed && o.DoneAt == null && o.Station == kind)
            .OrderBy(o => o.Position)
            .FirstOrDefaultAsync(cancel);
        if (next is not null)
        {
            await gatekeeper.Refuse(next, WorkStep.Begin, "stationId", "", cancel);
        }
    }

    /// <summary>Corrects what is known of a build's client; it holds for all builds of the client.</summary>
    public async Task<Client> PutClient(
        Guid buildId,
        string name,
        string email,
        string phone,
        uint? version,
        CancellationToken cancel
    )
    {
        var client = await Find<Client>((await Build(buildId, cancel)).ClientId, "client", cancel);
        Expect(client, version);
        (client.Name, client.Email, client.Phone) = (
            Refusal.Text(name, "name", 100),
            EmailAddress.Checked(email, "email"),
            Short(phone, "phone")
        );
        await Save(cancel);
        return client;
    }

    /// <summary>Asks a question that may hold operations until it is settled.</summary>
    public async Task<Decision> Ask(Guid buildId, Guid id, AskDecision ask, CancellationToken cancel)
    {
        if (await Again<Decision>(id, cancel) is { } there)
        {
            return there;
        }

        await Build(buildId, cancel);
        Plausible(ask.DueOn, "dueOn");
        Refusal.When(ask.Detail.Length > 1000, "detail", "At most 1,000 characters.");
        Refusal.When(
            ask.Options.Count > 6 || ask.Options.Any(o => string.IsNullOrWhiteSpace(o) || o.Length > 60),
            "options",
            "At most six answers of up to 60 characters."
        );
        var takesOut = ask.TakesOut ?? [];
        Refusal.When(takesOut.Except(ask.Options).Any(), "takesOut", "That is not among the answers.");
        Refusal.When(
            takesOut.Count > 0 && ask.Holds.Count == 0,
            "takesOut",
            "Choose the work that such an answer takes out."
        );
        var own = await Db.Operations.Where(o => o.BuildId == buildId).Select(o => o.Id).ToListAsync(cancel);
        Refusal.When(ask.Holds.Except(own).Any(), "holds", "It can only hold operations of its own build.");
        Refusal.When(
            ask.PhotoId is { } photo && !await Db.Photos.AnyAsync(p => p.Id == photo && p.BuildId == buildId, cancel),
            "photoId",
            "There is no such photo of this build."
        );
        var decision = new Decision
        {
            Id = id,
            BuildId = buildId,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
            Question = Refusal.Text(ask.Question, "question", 200),
            Detail = ask.Detail.Trim(),
            For = ask.For,
            Options = ask.Options,
            Holds = ask.Holds,
            DueOn = ask.DueOn,
            TakesOut = takesOut,
            PhotoId = ask.PhotoId,
        };
        Db.Add(decision);
        await Save(cancel);
        return decision;
    }

    /// <summary>Takes a decision; an answer that leaves the work takes out what nobody has begun of it.</summary>
    public async Task<Decision> Settle(Guid id, string answer, CancellationToken cancel)
    {
        var decision = await Find<Decision>(id, "decision", cancel);
        Refusal.When(decision.PaperId is not null, "id", "This is answered on its change order.");
        decision.Settle(answer, Actor.Name, Clock.Now);
        await using var all = await Whole(cancel);
        await Save(cancel);
        if (decision.TakesOut.Contains(decision.Answer!))
        {
            await sequence.TakeOutNotBegun(decision.Holds, cancel);
            await Save(cancel);
        }

        await all.Commit(cancel);
        return decision;
    }

    /// <summary>Lets an operation go on although the question that holds it is open, for a reason that stays.</summary>
    public async Task<Decision> LetGoOn(Guid id, Guid operationId, string reason, CancellationToken cancel)
    {
        var decision = await Find<Decision>(id, "decision", cancel);
        decision.Let(operationId, reason, Actor.Name, Clock.Now);
        await Save(cancel);
        return decision;
    }

    /// <summary>Books money from the client.</summary>
    public async Task<Payment> Pay(
        Guid buildId,
        Guid id,
        LocalDate on,
        decimal amount,
        string note,
        CancellationToken cancel
    )
    {
        if (await Again<Payment>(id, cancel) is { } there)
        {
            return there;
        }

        await Build(buildId, cancel);
        Plausible(on, "on");
        Refusal.When(
            amount == 0 || !Cents.AreWhole(amount) || Math.Abs(amount) > 10_000_000,
            "amount",
            "The amount is in whole cents and not nothing; a refund is negative."
        );
        var payment = new Payment
        {
            Id = id,
            BuildId = buildId,
            On = on,
            Amount = amount,
            Note = Short(note, "note"),
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        Db.Add(payment);
        await Save(cancel);
        return payment;
    }

    /// <summary>Clients whose name, address or number begins so, or has a word that does, with their vehicles; at most
    /// eight.</summary>
    public async Task<List<KnownClient>> Clients(string typed, CancellationToken cancel)
    {
        var text = typed.Trim();
        if (text.Length < 2)
        {
            return [];
        }

        var pattern =
            $"%{text.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal)}%";
        var found = await Db
            .Clients.AsNoTracking()
            .Where(c =>
                EF.Functions.ILike(c.Name, pattern)
                || EF.Functions.ILike(c.Email, pattern)
                || EF.Functions.ILike(c.Phone, pattern)
            )
            .OrderBy(c => c.Name)
            .Take(8)
            .ToListAsync(cancel);
        var ids = found.Select(c => c.Id).ToList();
        var builds = (
            await Db
                .Builds.AsNoTracking()
                .Where(b => ids.Contains(b.ClientId))
                .OrderByDescending(b => b.Number)
                .ToListAsync(cancel)
        ).ToLookup(b => b.ClientId);
        return
        [
            .. found.Select(c => new KnownClient(
                c.Id,
                c.Name,
                c.Email,
                c.Phone,
                [.. builds[c.Id].Select(b => new KnownVehicle(b.Id, b.Number, b.Title, b.Vehicle, b.Status))]
            )),
        ];
    }

    private static string Short(string text, string field)
    {
        Refusal.When(text.Length > 200, field, "At most 200 characters.");
        return text.Trim();
    }
}

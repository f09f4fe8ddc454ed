using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Access;
using FirstCoat.Core.Builds;
using FirstCoat.Store.Builds;

namespace FirstCoat.Server.Rooms;

/// <summary>The builds room.</summary>
public static class BuildsEndpoints
{
    public sealed record OpenBody(
        Guid Id,
        int? Number,
        [property: StringLength(100)] string ClientName,
        [property: StringLength(EmailAddress.Most)] string ClientEmail,
        [property: StringLength(200)] string ClientPhone,
        Vehicle Vehicle,
        Brief Brief,
        ContractTerms Contract,
        EstimateTotals Estimate,
        [property: StringLength(60)] string Template,
        decimal Scale,
        int Priority,
        bool FillIn,
        Guid? StationId,
        Guid? ReturnOf = null,
        TemplateChoices? Choices = null,
        Guid? ClientId = null
    );

    public sealed record EditBody(
        Vehicle Vehicle,
        Brief Brief,
        ContractTerms Contract,
        EstimateTotals Estimate,
        int Priority,
        bool FillIn,
        uint? Version
    );

    public sealed record BuildTermsBody(BuildTerms Terms, uint? Version);

    public sealed record StatusBody(
        BuildStatus Status,
        [property: StringLength(500)] string LeftAt,
        [property: StringLength(500)] string FirstMove,
        bool? StillHolds = null
    );

    public sealed record PlaceBody(Guid? StationId, [property: StringLength(100)] string AwayAt);

    public sealed record DecisionBody(
        Guid Id,
        [property: StringLength(200)] string Question,
        [property: StringLength(1000)] string Detail,
        DecisionFor For,
        List<string> Options,
        List<Guid> Holds,
        LocalDate DueOn,
        Guid? PhotoId,
        List<string>? TakesOut = null
    );

    /// <param name="On">The day on which the client was told that the work is complete; null: takes the note
    /// back.</param>
    public sealed record NoticeBody(LocalDate? On, uint? Version);

    public sealed record AnswerBody([property: StringLength(300)] string Answer);

    public sealed record LetGoOnBody(Guid OperationId, [property: StringLength(300)] string Reason);

    public sealed record PaymentBody(Guid Id, LocalDate On, decimal Amount, [property: StringLength(200)] string Note);

    public sealed record ClientBody(
        [property: StringLength(100)] string Name,
        [property: StringLength(EmailAddress.Most)] string Email,
        [property: StringLength(200)] string Phone,
        uint? Version
    );

    public sealed record EndedBuild(
        Guid Id,
        int Number,
        BuildStatus Status,
        string Title,
        Vehicle Vehicle,
        FinishGrade Grade,
        OriginalityPolicy Originality,
        string ClientName,
        string ClientEmail,
        string ClientPhone
    );

    /// <param name="Contract">Money of the agreement; not for technicians.</param>
    public sealed record BuildView(
        Guid Id,
        int Number,
        BuildStatus Status,
        Vehicle Vehicle,
        FinishGrade Grade,
        OriginalityPolicy Originality,
        LocalDate? Promised,
        List<Milestone> Milestones,
        decimal? Budget,
        ContractTerms? Contract,
        EstimateTotals? Estimate,
        string Template,
        int Priority,
        bool FillIn,
        Guid? StationId,
        string AwayAt,
        LocalDate OpenedOn,
        string LeftAt,
        string FirstMove,
        string ClientName,
        string? ClientEmail,
        string? ClientPhone,
        List<DecisionView> Decisions,
        Instant? AcceptedAt,
        BuildTerms Terms,
        uint? ClientVersion,
        LocalDate? NoticeOn,
        LocalDate? LeftOn,
        Guid? ClientId,
        uint Version
    );

    public sealed record DecisionView(
        Guid Id,
        string Question,
        string Detail,
        DecisionFor For,
        List<string> Options,
        List<string> TakesOut,
        List<Guid> Holds,
        LocalDate DueOn,
        decimal? Adds,
        Guid? PaperId,
        List<LetGoOn> LetGo,
        string? Answer,
        string? SettledBy,
        Instant? SettledAt,
        uint Version
    );

    /// <param name="ReadsAsAlarm">It lies so near the one accent of the screens that a build in it would look like an
    /// alarm.</param>
    public sealed record PaintView(bool ReadsAsAlarm);

    public static void MapBuilds(this RouteGroupBuilder api)
    {
        api.MapGet("/paint", (string hex) =>
                Paint.IsHex(hex)
                    ? new PaintView(Paint.ReadsAsAlarm(hex))
                    : throw new Refusal("hex", "Give the colour as # and six digits, such as #1B6670.")
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("judgePaint");
        var builds = api.MapGroup("/builds");
        builds
            .MapGet("", (BuildCards cards, CancellationToken cancel) => cards.Look(cancel))
            .RequireAuthorization(Policies.Anyone)
            .WithName("listBuilds");
        builds
            .MapGet("/numbered/{number}", (int number, BuildCards cards, CancellationToken cancel) =>
                cards.One(number, cancel)
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("getCard");
        builds.MapGet("/{id:guid}", Look).RequireAuthorization(Policies.Anyone).WithName("getBuild");
        builds
            .MapPost("", async (OpenBody b, BuildsDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.Open(
                        b.Id,
                        new(
                            b.Number,
                            b.ClientName,
                            b.ClientEmail,
                            b.ClientPhone,
                            b.Vehicle,
                            b.Brief,
                            b.Contract,
                            b.Estimate,
                            b.Template,
                            b.Scale,
                            b.Priority,
                            b.FillIn,
                            b.StationId,
                            b.ReturnOf,
                            b.Choices,
                            b.ClientId
                        ),
                        cancel
                    )
                )
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("openBuild");
        builds.MapGet("/ended", Ended).RequireAuthorization(Policies.Desk).WithName("listEnded");
        builds
            .MapPut("/{id:guid}", async (Guid id, EditBody b, BuildsDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.Edit(
                        id,
                        b.Vehicle,
                        b.Brief,
                        b.Contract,
                        b.Estimate,
                        b.Priority,
                        b.FillIn,
                        b.Version,
                        cancel
                    )
                )
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("editBuild");
        builds
            .MapPut("/{id:guid}/terms", async (Guid id, BuildTermsBody b, BuildsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.SetTerms(id, b.Terms, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("setBuildTerms");
        builds
            .MapPut("/{id:guid}/client", async (Guid id, ClientBody b, BuildsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.PutClient(id, b.Name, b.Email, b.Phone, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("putClient");
        builds
            .MapPut("/{id:guid}/status", async (Guid id, StatusBody b, BuildsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.SetStatus(id, b.Status, b.LeftAt, b.FirstMove, cancel, b.StillHolds))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("setBuildStatus");
        builds
            .MapGet(
                "/{id:guid}/if-status",
                (Guid id, bool goesOn, BuildsDesk desk, Trials trials, CancellationToken cancel) =>
                    trials.OfBuild(() => desk.Suppose(id, goesOn, cancel), id, cancel)
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("tryBuildStatus");
        builds
            .MapPut("/{id:guid}/notice", async (Guid id, NoticeBody b, BuildsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Notice(id, b.On, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("noteCompletion");
        api.MapGet("/clients", async (string? typed, BuildsDesk desk, CancellationToken cancel) =>
                await desk.Clients(typed ?? "", cancel)
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("findClients");
        builds
            .MapPut("/{id:guid}/place", async (Guid id, PlaceBody b, BuildsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Stand(id, b.StationId, b.AwayAt, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("moveBuild");
        builds
            .MapPost(
                "/{id:guid}/decisions",
                async (Guid id, DecisionBody b, BuildsDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.Ask(
                            id,
                            b.Id,
                            new(b.Question, b.Detail, b.For, b.Options, b.Holds, b.DueOn, b.PhotoId, b.TakesOut),
                            cancel
                        )
                    )
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("askDecision");
        api.MapPost(
                "/decisions/{id:guid}/answer",
                async (Guid id, AnswerBody b, BuildsDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Settle(id, b.Answer, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("settleDecision");
        api.MapPost(
                "/decisions/{id:guid}/let-go-on",
                async (Guid id, LetGoOnBody b, BuildsDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.LetGoOn(id, b.OperationId, b.Reason, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("letGoOn");
        builds
            .MapPost("/{id:guid}/payments", async (Guid id, PaymentBody b, BuildsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Pay(id, b.Id, b.On, b.Amount, b.Note, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("addPayment");
    }

    /// <summary>Vehicles that were here and left: what a returning one starts from.</summary>
    private static async Task<List<EndedBuild>> Ended(ShopDb db, CancellationToken cancel) =>
        (
            await db
                .Builds.AsNoTracking()
                .Where(b => b.Status == BuildStatus.Closed || b.Status == BuildStatus.Withdrawn)
                .Join(db.Clients.AsNoTracking(), b => b.ClientId, c => c.Id, (b, c) => new { Build = b, Client = c })
                .ToListAsync(cancel)
        )
            .OrderByDescending(x => x.Build.Number)
            .Select(x => new EndedBuild(
                x.Build.Id,
                x.Build.Number,
                x.Build.Status,
                x.Build.Title,
                x.Build.Vehicle,
                x.Build.Brief.Grade,
                x.Build.Brief.Originality,
                x.Client.Name,
                x.Client.Email,
                x.Client.Phone
            ))
            .ToList();

    private static async Task<BuildView> Look(Guid id, ShopDb db, CurrentActor current, CancellationToken cancel)
    {
        var b = await db.Builds.AsNoTracking().SingleOrDefaultAsync(x => x.Id == id, cancel)
            ?? throw Refusal.Missing("build");
        var client = await db.Clients.AsNoTracking().SingleAsync(c => c.Id == b.ClientId, cancel);
        var decisions = await db
            .Decisions.AsNoTracking()
            .Where(d => d.BuildId == id)
            .OrderBy(d => d.Seq)
            .ToListAsync(cancel);
        var desk = current.Actor.IsDesk;
        return new(
            b.Id,
            b.Number,
            b.Status,
            b.Vehicle,
            b.Brief.Grade,
            b.Brief.Originality,
            b.Brief.Promised,
            b.Brief.Milestones,
            desk ? b.Brief.Budget : null,
            desk ? b.Contract : null,
            desk ? b.Estimate : null,
            b.Template,
            b.Priority,
            b.FillIn,
            b.StationId,
            b.AwayAt,
            b.OpenedOn,
            b.LeftAt,
            b.FirstMove,
            client.Name,
            desk ? client.Email : null,
            desk ? client.Phone : null,
            decisions
                .Select(d => new DecisionView(
                    d.Id,
                    d.Question,
                    d.Detail,
                    d.For,
                    d.Options,
                    d.TakesOut,
                    d.Holds,
                    d.DueOn,
                    desk ? d.Adds : null,
                    d.PaperId,
                    d.LetGo,
                    d.Answer,
                    d.SettledBy,
                    d.SettledAt,
                    d.Version
                ))
                .ToList(),
            b.AcceptedAt,
            desk ? b.Terms : b.Terms with { Spending = null },
            desk ? client.Version : null,
            b.NoticeOn,
            b.LeftOn,
            desk ? client.Id : null,
            b.Version
        );
    }
}

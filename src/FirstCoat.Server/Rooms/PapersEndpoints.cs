using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Access;
using FirstCoat.Core.Money;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Server.Reports;
using FirstCoat.Store.Money;
using FirstCoat.Store.Photos;

namespace FirstCoat.Server.Rooms;

/// <summary>The money room's papers: estimates and change orders, at the desk and behind the client's link.</summary>
public static class PapersEndpoints
{
    public sealed record NewEstimate(Guid Id);

    public sealed record NewChangeOrder(
        Guid Id,
        [property: StringLength(120)] string Title,
        [property: StringLength(1000)] string Reason
    );

    /// <param name="Work">What it becomes when it is taken; what it adds and its days follow from that.</param>
    public sealed record ChoiceBody(
        [property: StringLength(1)] string Letter,
        [property: StringLength(120)] string Text,
        AddedWork? Work
    );

    public sealed record PaperWordsBody(
        [property: StringLength(120)] string Title,
        [property: StringLength(1000)] string Reason,
        List<string> NotIncluded,
        List<string> Terms,
        List<ChoiceBody> Choices,
        List<PaperGoods> Goods,
        List<Guid> Photos,
        LocalDate AnswerBy,
        decimal? Deposit,
        uint? Version
    );

    /// <param name="Work">What it brings that is not in the sequence yet, and what it takes out.</param>
    /// <param name="Operations">Work in the sequence that waits for the answer.</param>
    public sealed record PaperLineBody(
        [property: StringLength(200)] string Text,
        AddedWork? Work,
        List<Guid> Operations,
        uint? Version
    );

    /// <param name="Seen">Tells the page that was looked at.</param>
    public sealed record SendPaperBody([property: StringLength(32, MinimumLength = 1)] string Seen, SentWay Way);

    public sealed record PaperAnswerBody(
        bool Yes,
        [property: StringLength(100)] string Name,
        List<string> Choices,
        [property: StringLength(200)] string Note
    );

    public sealed record WithdrawPaperBody([property: StringLength(300)] string Reason);

    public sealed record CodeAnswerBody(
        [property: StringLength(12)] string Code,
        bool Yes,
        [property: StringLength(100)] string Name,
        List<string> Choices
    );

    public sealed record CodeSent(string To);

    public sealed record PaperLineView(
        Guid Id,
        Guid? FindingId,
        string Text,
        int Minutes,
        decimal Labour,
        decimal Parts,
        decimal Outside,
        decimal Materials,
        decimal Net,
        List<Guid> Operations,
        AddedWork? Work
    );

    /// <param name="Days">By how many days its wait moves the likely finish.</param>
    /// <param name="PerWeek">What a week of waiting costs.</param>
    public sealed record PaperRow(
        Guid Id,
        PaperKind Kind,
        int Number,
        string Name,
        PaperState State,
        PaperWords Words,
        List<PaperLineView> Lines,
        decimal Net,
        Instant? SentAt,
        string? SentBy,
        SentWay? SentAs,
        PaperAnswer? Answer,
        string? WithdrawnWhy,
        decimal Days,
        decimal PerWeek,
        uint Version
    );

    /// <param name="AcceptedAt">When the estimate was accepted: from then on what is found is a change.</param>
    /// <param name="Agreed">Net, with what was chosen and the changes that are approved.</param>
    public sealed record PapersView(Instant? AcceptedAt, decimal Agreed, List<PaperRow> Papers);

    /// <summary>A paper as the client finds it in the list.</summary>
    public sealed record PrivatePaperRow(Guid Id, string Name, string Title, PaperState State, LocalDate AnswerBy);

    public sealed record PrivatePaper(PaperPage Page, PaperState State, PaperAnswer? Answer);

    public static void MapPapers(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/papers", Look).RequireAuthorization(Policies.Desk).WithName("listPapers");
        api.MapPost(
                "/builds/{id:guid}/estimates",
                async (Guid id, NewEstimate b, PapersDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.DraftEstimate(id, b.Id, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("draftEstimate");
        api.MapPost(
                "/builds/{id:guid}/change-orders",
                async (Guid id, NewChangeOrder b, PapersDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.DraftChange(id, b.Id, b.Title, b.Reason, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("draftChangeOrder");
        var papers = api.MapGroup("/papers/{id:guid}");
        papers
            .MapPut("", async (Guid id, PaperWordsBody b, PapersDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.Edit(
                        id,
                        new(
                            b.Title,
                            b.Reason,
                            b.NotIncluded,
                            b.Terms,
                            b.Choices.Select(c => new PaperChoice(c.Letter, c.Text, 0, 0)
                                {
                                    Work = c.Work ?? new(0, null, null, 0, 0, 0, 0, []),
                                })
                                .ToList(),
                            b.Goods,
                            b.Photos,
                            b.AnswerBy,
                            b.Deposit
                        ),
                        b.Version,
                        cancel
                    )
                )
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("editPaper");
        papers
            .MapPut(
                "/lines/{lineId:guid}",
                async (Guid id, Guid lineId, PaperLineBody b, PapersDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.PutLine(
                            id,
                            new(lineId, null, b.Text, 0, new(0, 0, 0, 0), b.Operations, []) { Work = b.Work },
                            b.Version,
                            cancel
                        )
                    )
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("putPaperLine");
        papers
            .MapGet("/page", async (Guid id, PapersDesk desk, CancellationToken cancel) => await desk.Page(id, cancel))
            .RequireAuthorization(Policies.Desk)
            .WithName("previewPaper");
        papers
            .MapGet(
                "/pdf",
                async (Guid id, string? paper, PapersDesk desk, PagePrinter printer, CancellationToken cancel) =>
                    await Pdf(await desk.Page(id, cancel), paper, printer, null, cancel)
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("printPaper");
        papers
            .MapPost("/send", async (Guid id, SendPaperBody b, PapersDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Send(id, b.Seen, b.Way, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("sendPaper");
        papers
            .MapPost("/answer", async (Guid id, PaperAnswerBody b, PapersDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.AnswerOnPaper(id, b.Yes, b.Name, b.Choices, b.Note, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("answerPaper");
        papers
            .MapPost("/withdraw", async (Guid id, WithdrawPaperBody b, PapersDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Withdraw(id, b.Reason, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("withdrawPaper");
        MapPrivate(api);
    }

    private static void MapPrivate(RouteGroupBuilder api)
    {
        var behind = api.MapGroup("/private/{token}/papers").AllowAnonymous().RequireRateLimiting(Policies.LinkLimit);
        behind
            .MapGet("", async (string token, ApprovalDesk desk, CancellationToken cancel) =>
                await desk.Behind(token, cancel) is { } all
                    ? Results.Ok(
                        all.Select(p => new PrivatePaperRow(p.Id, p.Name, p.Words.Title, p.State, p.Words.AnswerBy))
                            .ToList()
                    )
                    : ReportsEndpoints.Nothing()
            )
            .WithName("listPrivatePapers")
            .Produces<List<PrivatePaperRow>>();
        behind
            .MapGet("/{id:guid}", async (string token, Guid id, ApprovalDesk desk, CancellationToken cancel) =>
                await Pick(token, id, desk, cancel) is { } paper
                    ? Results.Ok(new PrivatePaper(PapersDesk.Read(paper.Page!), paper.State, paper.Answer))
                    : ReportsEndpoints.Nothing()
            )
            .WithName("openPrivatePaper")
            .Produces<PrivatePaper>();
        behind
            .MapGet(
                "/{id:guid}/pdf",
                async (
                    string token,
                    Guid id,
                    string? paper,
                    ApprovalDesk desk,
                    PagePrinter printer,
                    CancellationToken cancel
                ) =>
                    await Pick(token, id, desk, cancel) is { } found
                        ? await Pdf(PapersDesk.Read(found.Page!), paper, printer, PrivateLink.Hash(token), cancel)
                        : ReportsEndpoints.Nothing()
            )
            .WithName("printPrivatePaper");
        behind
            .MapPost("/{id:guid}/code", async (string token, Guid id, ApprovalDesk desk, CancellationToken cancel) =>
                await desk.SendCode(token, id, cancel) is { } to
                    ? Results.Ok(new CodeSent(to))
                    : ReportsEndpoints.Nothing()
            )
            .RequireRateLimiting(Policies.SignInLimit)
            .WithName("sendApprovalCode")
            .Produces<CodeSent>();
        behind
            .MapPost(
                "/{id:guid}/answer",
                async (string token, Guid id, CodeAnswerBody b, ApprovalDesk desk, CancellationToken cancel) =>
                    await desk.Answer(token, id, b.Code, b.Yes, b.Name, b.Choices, cancel) is { } paper
                        ? Results.Ok(Saved.From(paper))
                        : ReportsEndpoints.Nothing()
            )
            .WithName("answerWithCode")
            .Produces<Saved>();
        behind
            .MapGet(
                "/{id:guid}/photos/{hash}",
                async (
                    string token,
                    Guid id,
                    string hash,
                    ApprovalDesk desk,
                    PhotoFiles files,
                    HttpContext context,
                    CancellationToken cancel
                ) =>
                    await Pick(token, id, desk, cancel) is { } paper && PapersDesk.Read(paper.Page!).Shows(hash)
                        ? PhotosEndpoints.Send(files, hash, context)
                        : ReportsEndpoints.Nothing()
            )
            .WithName("getPrivatePaperPhoto");
        var print = api.MapGroup("/print/papers/{ticket}").AllowAnonymous().RequireRateLimiting(Policies.LinkLimit);
        print
            .MapGet("", (string ticket, PrintTickets tickets) =>
                tickets.Get<PaperPage>(ticket) is { } page ? Results.Ok(page) : ReportsEndpoints.Nothing()
            )
            .WithName("openPrintPaper")
            .Produces<PaperPage>();
        print
            .MapGet(
                "/photos/{hash}",
                (string ticket, string hash, PrintTickets tickets, PhotoFiles files, HttpContext context) =>
                    tickets.Get<PaperPage>(ticket)?.Shows(hash) == true
                        ? PhotosEndpoints.Send(files, hash, context)
                        : ReportsEndpoints.Nothing()
            )
            .WithName("getPrintPaperPhoto");
    }

    private static async Task<PapersView> Look(Guid id, PapersDesk desk, ShopDb db, CancellationToken cancel)
    {
        var all = await desk.Look(id, cancel);
        var build = await db.Builds.AsNoTracking().SingleAsync(b => b.Id == id, cancel);
        var papers = all.Select(w => w.Paper).ToList();
        var agreement = Agreement.Of(
            build,
            papers.Where(p => p.Kind == PaperKind.ChangeOrder).OrderBy(p => p.Number),
            papers.Find(p => p is { Kind: PaperKind.Estimate, State: PaperState.Accepted })
        );
        return new(build.AcceptedAt, agreement.Net, all.Select(Row).ToList());
    }

    private static PaperRow Row(WaitingPaper w)
    {
        var p = w.Paper;
        var net = p.Page is { } page ? PapersDesk.Read(page).Totals.Net : p.Adds.Total;
        return new(
            p.Id,
            p.Kind,
            p.Number,
            p.Name,
            p.State,
            p.Words,
            p.Lines.Select(l => new PaperLineView(
                    l.Id,
                    l.FindingId,
                    l.Text,
                    l.Minutes,
                    l.Adds.Labour,
                    l.Adds.Parts,
                    l.Adds.Outside,
                    l.Adds.Materials,
                    l.Adds.Total,
                    l.Operations,
                    l.Work
                ))
                .ToList(),
            net,
            p.SentAt,
            p.SentBy,
            p.SentAs,
            p.Answer,
            p.WithdrawnWhy,
            w.Days,
            w.PerWeek,
            p.Version
        );
    }

    private static async Task<ClientPaper?> Pick(string token, Guid id, ApprovalDesk desk, CancellationToken cancel) =>
        (await desk.Behind(token, cancel))?.SingleOrDefault(p => p.Id == id);

    private static async Task<IResult> Pdf(
        PaperPage page,
        string? paper,
        PagePrinter printer,
        string? link,
        CancellationToken cancel
    )
    {
        var size = (paper ?? "a4").ToLowerInvariant();
        Refusal.When(size is not ("a4" or "letter"), "paper", "The paper is a4 or letter.");
        var bytes = await printer.Print(
            page,
            "print/papers",
            size == "a4" ? Paper.A4 : Paper.Letter,
            PrintForm.Pdf,
            link,
            cancel
        );
        var name = page.Kind == PaperKind.Estimate ? "estimate" : "change-order";
        return bytes is null
            ? Results.Problem(
                "Printing needs Chromium, which is not installed here. Print the page from your browser instead.",
                statusCode: 503
            )
            : Results.File(bytes, "application/pdf", $"{name}-{page.BuildNumber}-{page.Number}.pdf");
    }
}

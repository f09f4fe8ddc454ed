using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Access;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Reports;
using FirstCoat.Server.Reports;
using FirstCoat.Store.Photos;
using FirstCoat.Store.Reports;

namespace FirstCoat.Server.Rooms;

/// <summary>The reports room at the desk, and the client's private page.</summary>
public static class ReportsEndpoints
{
    public sealed record NewReport(Guid Id);

    public sealed record TextBody(
        [property: StringLength(120)] string Title,
        [property: StringLength(2000)] string Lede,
        List<string> Done,
        List<string> Next,
        List<Guid> Photos,
        uint? Version
    );

    public sealed record PublishBody(uint? Version);

    public sealed record ReportRow(
        Guid Id,
        int Number,
        bool Draft,
        string Title,
        Instant? PublishedAt,
        string? PublishedBy,
        string SentTo,
        ReportText Text,
        uint Version
    );

    public sealed record LinkBody(Guid Id, int Days);

    /// <param name="Path">Shown once: only its hash is kept.</param>
    public sealed record NewLink(Guid Id, string Path, Instant ExpiresAt);

    public sealed record LinkRow(Guid Id, Instant MadeAt, Instant ExpiresAt, Instant? RevokedAt, bool Live);

    public sealed record PageView(ReportPage Page, SurveyEndpoints.BodyView Body);

    /// <param name="Others">Numbers and days of the other published reports.</param>
    public sealed record PrivateView(ReportPage Page, SurveyEndpoints.BodyView Body, List<PrivateRow> Others);

    public sealed record PrivateRow(int Number, LocalDate On, string Title);

    public static void MapReports(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/reports", async (Guid id, ShopDb db, CancellationToken cancel) =>
                (
                    await db
                        .Reports.AsNoTracking()
                        .Where(r => r.BuildId == id)
                        .OrderByDescending(r => r.Number)
                        .ToListAsync(cancel)
                )
                    .Select(r => new ReportRow(
                        r.Id,
                        r.Number,
                        r.IsDraft,
                        r.Text.Title,
                        r.PublishedAt,
                        r.PublishedBy,
                        r.SentTo,
                        r.Text,
                        r.Version
                    ))
                    .ToList()
            )
            .RequireAuthorization(Policies.Desk)
            .OfKnownBuild()
            .WithName("listReports");
        api.MapPost(
                "/builds/{id:guid}/reports",
                async (Guid id, NewReport b, ReportsDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Draft(id, b.Id, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("draftReport");
        api.MapPut("/reports/{id:guid}", async (Guid id, TextBody b, ReportsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Edit(id, new(b.Title, b.Lede, b.Done, b.Next, b.Photos), b.Version, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("editReport");
        api.MapGet("/reports/{id:guid}/page", async (Guid id, ReportsDesk desk, CancellationToken cancel) =>
                Show(await desk.Page(id, cancel))
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("previewReport");
        api.MapPost(
                "/reports/{id:guid}/publish",
                async (Guid id, PublishBody b, ReportsDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Publish(id, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("publishReport");
        api.MapGet(
                "/reports/{id:guid}/pdf",
                async (Guid id, string? paper, ReportsDesk desk, PagePrinter printer, CancellationToken cancel) =>
                    await Pdf(await desk.Page(id, cancel), paper, printer, null, cancel)
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("printReport");
        api.MapGet("/builds/{id:guid}/links", async (Guid id, ShopDb db, ShopClock clock, CancellationToken cancel) =>
                (
                    await db
                        .PrivateLinks.AsNoTracking()
                        .Where(l => l.BuildId == id)
                        .OrderByDescending(l => l.Seq)
                        .ToListAsync(cancel)
                )
                    .Select(l => new LinkRow(l.Id, l.RecordedAt, l.ExpiresAt, l.RevokedAt, l.IsLive(clock.Now)))
                    .ToList()
            )
            .RequireAuthorization(Policies.Desk)
            .OfKnownBuild()
            .WithName("listLinks");
        api.MapPost(
                "/builds/{id:guid}/links",
                async (Guid id, LinkBody b, ReportsDesk desk, CancellationToken cancel) =>
                {
                    var (link, token) = await desk.MakeLink(id, b.Id, b.Days, cancel);
                    return new NewLink(link.Id, $"/r/{token}", link.ExpiresAt);
                }
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("makeLink");
        api.MapPost("/links/{id:guid}/revoke", async (Guid id, ReportsDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Revoke(id, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("revokeLink");
    }

    public static void MapPrivatePages(this RouteGroupBuilder api)
    {
        var pages = api.MapGroup("/private/{token}").AllowAnonymous().RequireRateLimiting(Policies.LinkLimit);
        pages
            .MapGet("", async (string token, int? number, ReportsDesk desk, CancellationToken cancel) =>
            {
                var all = await desk.Behind(token, cancel);
                var page = Pick(all, number);
                return page is null
                    ? Nothing()
                    : Results.Ok(
                        new PrivateView(
                            page,
                            BodyOf(page),
                            all!
                                .Select(r => ReportsDesk.Read(r.Published!))
                                .Select(p => new PrivateRow(p.Number, p.On, p.Title))
                                .ToList()
                        )
                    );
            })
            .WithName("openPrivate")
            .Produces<PrivateView>();
        pages
            .MapGet(
                "/pdf",
                async (
                    string token,
                    int? number,
                    string? paper,
                    ReportsDesk desk,
                    PagePrinter printer,
                    CancellationToken cancel
                ) =>
                    Pick(await desk.Behind(token, cancel), number) is { } page
                        ? await Pdf(page, paper, printer, PrivateLink.Hash(token), cancel)
                        : Nothing()
            )
            .WithName("printPrivate");
        pages
            .MapGet(
                "/photos/{hash}",
                async (
                    string token,
                    string hash,
                    ReportsDesk desk,
                    PhotoFiles files,
                    HttpContext context,
                    CancellationToken cancel
                ) =>
                {
                    var all = await desk.Behind(token, cancel);
                    var shown = all?.Any(r => ReportsDesk.Read(r.Published!).Shows(hash)) == true;
                    return shown ? PhotosEndpoints.Send(files, hash, context) : Nothing();
                }
            )
            .WithName("getPrivatePhoto");
        var print = api.MapGroup("/print/{ticket}").AllowAnonymous().RequireRateLimiting(Policies.LinkLimit);
        print
            .MapGet("", (string ticket, PrintTickets tickets) =>
                tickets.Get<ReportPage>(ticket) is { } page ? Results.Ok(Show(page)) : Nothing()
            )
            .WithName("openPrint")
            .Produces<PageView>();
        print
            .MapGet(
                "/photos/{hash}",
                (string ticket, string hash, PrintTickets tickets, PhotoFiles files, HttpContext context) =>
                    tickets.Get<ReportPage>(ticket)?.Shows(hash) == true
                        ? PhotosEndpoints.Send(files, hash, context)
                        : Nothing()
            )
            .WithName("getPrintPhoto");
    }

    private static PageView Show(ReportPage page) => new(page, BodyOf(page));

    private static SurveyEndpoints.BodyView BodyOf(ReportPage page) =>
        SurveyEndpoints.View(Body.Unfold(page.Body.Style, page.Body.Dimensions));

    private static ReportPage? Pick(List<ClientReport>? all, int? number)
    {
        var report = number is { } n ? all?.SingleOrDefault(r => r.Number == n) : all?.FirstOrDefault();
        return report is null ? null : ReportsDesk.Read(report.Published!);
    }

    /// <summary>A guessed, expired or revoked link shows nothing, and all three look alike.</summary>
    internal static IResult Nothing() =>
        Results.Problem("This link opens nothing. Ask the shop for a new one.", statusCode: 404);

    private static async Task<IResult> Pdf(
        ReportPage page,
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
            "print",
            size == "a4" ? Paper.A4 : Paper.Letter,
            PrintForm.Pdf,
            link,
            cancel
        );
        return bytes is null
            ? Results.Problem(
                "Printing needs Chromium, which is not installed here. Print the page from your browser instead.",
                statusCode: 503
            )
            : Results.File(bytes, "application/pdf", $"report-{page.BuildNumber}-{page.Number}.pdf");
    }
}

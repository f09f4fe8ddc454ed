using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Teardown;
using FirstCoat.Server.Reports;
using FirstCoat.Store.Teardown;
using QRCoder;

namespace FirstCoat.Server.Rooms;

/// <summary>The teardown room: bags, their labels, where they are.</summary>
public static class TeardownEndpoints
{
    public sealed record BagBody(
        PanelSide Side,
        [property: StringLength(100)] string What,
        [property: StringLength(200)] string From,
        List<BagPiece> Pieces,
        List<BagFastener> Fasteners,
        [property: StringLength(60)] string Place,
        Guid? PatternFor,
        Guid? PhotoId,
        bool NoPhoto,
        uint? Version,
        [property: StringLength(200)] string PatternWhy = ""
    );

    public sealed record BagMoveBody(
        Guid Id,
        BagState State,
        [property: StringLength(60)] string Place,
        [property: StringLength(200)] string Note
    );

    public sealed record BagView(
        Guid Id,
        Guid BuildId,
        int Code,
        PanelSide Side,
        string Label,
        string What,
        string From,
        List<BagPiece> Pieces,
        List<BagFastener> Fasteners,
        List<string> FastenerWords,
        BagState State,
        string Place,
        Guid? PatternFor,
        string? Pattern,
        bool PatternOpen,
        Guid? PhotoId,
        bool NoPhoto,
        string OffBy,
        Instant OffAt,
        uint Version
    );

    public sealed record BagMoveView(Guid BagId, BagState State, string Place, string Note, string By, Instant At);

    public sealed record BagsView(List<BagView> Bags, List<BagMoveView> Moves, TeardownCounts Counts);

    /// <param name="Twin">The same thing on the other side, so that nobody takes the wrong one.</param>
    public sealed record FoundBag(BagView Bag, int BuildNumber, string ColourHex, string? Twin);

    public sealed record FindView(Reading Reading, bool Exact, List<FoundBag> Found);

    /// <summary>A label as it is printed.</summary>
    /// <param name="Modules">The square code, row by row, 1 is dark.</param>
    public sealed record LabelView(
        int Code,
        PanelSide Side,
        int BuildNumber,
        string ColourHex,
        string What,
        string From,
        string Holds,
        string Place,
        string? Pattern,
        string Off,
        string Scan,
        List<string> Modules
    );

    /// <param name="Roll">One label a page, one colour; else a sheet of A4, twins side by side.</param>
    public sealed record LabelSheet(string Build, int BuildNumber, string ColourHex, bool Roll, List<LabelView> Labels);

    public static void MapTeardown(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/bags", async (Guid id, TeardownDesk desk, CancellationToken cancel) =>
            {
                var (bags, moves, patterns) = await desk.Look(id, cancel);
                return new BagsView(
                    bags.Select(b => View(b, patterns)).ToList(),
                    moves.Select(m => new BagMoveView(m.BagId, m.State, m.Place, m.Note, m.By, m.At)).ToList(),
                    TeardownCounts.Of(bags)
                );
            })
            .RequireAuthorization(Policies.Anyone)
            .WithName("listBags");
        api.MapPut(
                "/builds/{id:guid}/bags/{bagId:guid}",
                async (Guid id, Guid bagId, BagBody b, TeardownDesk desk, CancellationToken cancel) =>
                    Saved.From(
                        await desk.Put(
                            id,
                            bagId,
                            new(
                                b.Side,
                                b.What,
                                b.From,
                                b.Pieces,
                                b.Fasteners,
                                b.Place,
                                b.PatternFor,
                                b.PhotoId,
                                b.NoPhoto,
                                b.PatternWhy
                            ),
                            b.Version,
                            cancel
                        )
                    )
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("putBag");
        api.MapPost(
                "/bags/{id:guid}/move",
                async (Guid id, BagMoveBody b, TeardownDesk desk, CancellationToken cancel) =>
                    Saved.From(await desk.Move(id, b.Id, b.State, b.Place, b.Note, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("moveBag");
        api.MapGet("/bags", Find).RequireAuthorization(Policies.Anyone).WithName("findBags");
        api.MapGet("/builds/{id:guid}/labels", Print).RequireAuthorization(Policies.Anyone).WithName("printLabels");
        api.MapGet("/print/labels/{ticket}", (string ticket, PrintTickets tickets) =>
                tickets.Get<LabelSheet>(ticket) is { } sheet
                    ? Results.Ok(sheet)
                    : Results.Problem("There is nothing to print here.", statusCode: 404)
            )
            .AllowAnonymous()
            .RequireRateLimiting(Policies.LinkLimit)
            .WithName("openLabels")
            .Produces<LabelSheet>();
    }

    private static async Task<FindView> Find(
        string q,
        Guid? buildId,
        TeardownDesk desk,
        ShopDb db,
        CancellationToken cancel
    )
    {
        Refusal.When(q.Length > 200, "q", "At most 200 characters.");
        var (found, bags, twins) = await desk.Find(q, buildId, cancel);
        var builds = bags.Select(b => b.BuildId).Distinct().ToList();
        var numbers = await db
            .Builds.AsNoTracking()
            .Where(b => builds.Contains(b.Id))
            .ToDictionaryAsync(b => b.Id, cancel);
        return new(
            found.Reading,
            found.Exact,
            bags.Select(b => new FoundBag(
                    View(b, []),
                    numbers[b.BuildId].Number,
                    numbers[b.BuildId].Vehicle.ColourHex,
                    twins.GetValueOrDefault(b.Id) is { } t
                        ? $"{t.Label}, {(t.Place.Length > 0 ? t.Place : "not on a shelf")}"
                        : null
                ))
                .ToList()
        );
    }

    private static async Task<IResult> Print(
        Guid id,
        string? codes,
        string? form,
        string? paper,
        TeardownDesk desk,
        ShopDb db,
        PagePrinter printer,
        CancellationToken cancel
    )
    {
        Refusal.When((paper ?? "a4") is not ("a4" or "letter" or "roll"), "paper", "The paper is a4, letter or roll.");
        Refusal.When((form ?? "pdf") is not ("pdf" or "png"), "form", "The form is pdf or png.");
        var (bags, _, patterns) = await desk.Look(id, cancel);
        var wanted = (codes ?? "")
            .Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .Select(c =>
                int.TryParse(c, out var n)
                    ? n
                    : throw new Refusal("codes", "The codes are numbers with commas between.")
            )
            .ToHashSet();
        var chosen = bags.Where(b => wanted.Count == 0 || wanted.Contains(b.Code)).ToList();
        Refusal.When(chosen.Count == 0, "codes", "No bag of this build has such a number.");
        Refusal.When(chosen.Count > 300, "codes", "At most 300 labels at a time.");
        var build = await db.Builds.AsNoTracking().SingleAsync(b => b.Id == id, cancel);
        var zone = DateTimeZoneProviders.Tzdb[(await db.Settings.AsNoTracking().SingleAsync(cancel)).TimeZone];
        var sheet = new LabelSheet(
            build.Title,
            build.Number,
            build.Vehicle.ColourHex,
            paper == "roll",
            chosen.Select(b => Label(b, build.Number, build.Vehicle.ColourHex, patterns, zone)).ToList()
        );
        var size = paper switch
        {
            "roll" => Paper.Roll,
            "letter" => Paper.Letter,
            _ => Paper.A4,
        };
        var bytes = await printer.Print(
            sheet,
            "print/labels",
            size,
            form == "png" ? PrintForm.Png : PrintForm.Pdf,
            null,
            cancel
        );
        return bytes is null
            ? Results.Problem(
                "Printing needs Chromium, which is not installed here. Write the number on the bag by hand.",
                statusCode: 503
            )
            : Results.File(
                bytes,
                form == "png" ? "image/png" : "application/pdf",
                $"labels-{build.Number}.{(form == "png" ? "png" : "pdf")}"
            );
    }

    private static BagView View(Bag b, Dictionary<Guid, Core.Sequence.Operation> patterns)
    {
        var pattern = b.PatternFor is { } p ? patterns.GetValueOrDefault(p) : null;
        return new(
            b.Id,
            b.BuildId,
            b.Code,
            b.Side,
            b.Label,
            b.What,
            b.From,
            b.Pieces,
            b.Fasteners,
            b.Fasteners.Select(f => f.Words).ToList(),
            b.State,
            b.Place,
            b.PatternFor,
            pattern?.Name,
            pattern is { IsDone: false },
            b.PhotoId,
            b.NoPhoto,
            b.OffBy,
            b.OffAt,
            b.Version
        );
    }

    private static LabelView Label(
        Bag b,
        int number,
        string hex,
        Dictionary<Guid, Core.Sequence.Operation> patterns,
        DateTimeZone zone
    )
    {
        // The second size has a mark of its own for alignment: with it a reader tells many codes on one sheet apart.
        using var made = QRCodeGenerator.GenerateQrCode(b.Scan, QRCodeGenerator.ECCLevel.H, requestedVersion: 2);
        // The library draws its own quiet edge of four modules; the label leaves its own.
        var modules = made
            .ModuleMatrix.Skip(4)
            .SkipLast(4)
            .Select(row => string.Concat(Enumerable.Range(4, row.Length - 8).Select(i => row[i] ? '1' : '0')))
            .ToList();
        var pieces = b.PieceCount > 0 ? $"{b.PieceCount} {(b.PieceCount == 1 ? "piece" : "pieces")}" : "";
        var holds = string.Join(
            ", ",
            new[] { pieces }.Concat(b.Fasteners.Select(f => f.Words)).Where(t => t.Length > 0)
        );
        var initials = string.Concat(b.OffBy.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(w => w[0]));
        return new(
            b.Code,
            b.Side,
            number,
            hex,
            b.What,
            b.From,
            holds,
            b.Place,
            b.PatternFor is { } p && patterns.TryGetValue(p, out var o) ? o.Name : null,
            $"{b.OffAt.InZone(zone).Date.ToString("d MMM", CultureInfo.InvariantCulture)} {initials}",
            b.Scan,
            modules
        );
    }
}

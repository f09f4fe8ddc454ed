using System.Net.Http.Headers;
using System.Net.Http.Json;
using SkiaSharp;

namespace FirstCoat.Server.Tests;

/// <summary>A shop with one of everything in it, made through the API; its figures and contacts are such that they are
/// known again wherever they appear.</summary>
public sealed class FilledShop
{
    /// <summary>Money that a technician may not see, as it would stand in an answer.</summary>
    public static readonly string[] Prices = ["7391.17", "6173.41", "5417.83", "8311.71", "9173.53", "4831.97"];

    public const string Email = "canary.client@example.org",
        Phone = "0999 777 333",
        AbsenceReason = "knee operation";

    private readonly Dictionary<string, Guid> _ids = [];
    private readonly ShopFixture _shop;

    private FilledShop(ShopFixture shop) => _shop = shop;

    /// <summary>The thing of that kind, by the word of its address or the name of a field; null: there is
    /// none.</summary>
    public Guid? IdOf(string word) => _ids.TryGetValue(word, out var id) ? id : null;

    public Guid this[string word] => _ids[word];

    public static async Task<FilledShop> Make(ShopFixture shop)
    {
        var filled = new FilledShop(shop);
        await filled.Fill();
        return filled;
    }

    private async Task<Guid> Put(
        string word,
        Func<Guid, string> path,
        object body,
        HttpClient? by = null,
        params string[] names
    )
    {
        var id = Guid.CreateVersion7();
        await (by ?? _shop.Manager).PutAsJsonAsync(path(id), body).Json();
        return Keep(id, [word, .. names]);
    }

    private async Task<Guid> Post(string word, string path, Func<Guid, object> body, params string[] names)
    {
        var id = Guid.CreateVersion7();
        await _shop.Manager.PostAsJsonAsync(path, body(id)).Json();
        return Keep(id, [word, .. names]);
    }

    private Guid Keep(Guid id, params string[] words)
    {
        foreach (var word in words)
        {
            _ids[word] = id;
        }

        return id;
    }

    private async Task Fill()
    {
        const string no = "";
        uint? version = null;
        Keep(_shop.TechnicianPerson, "people", "personId");
        var supplier = await Put(
            "suppliers",
            i => $"/api/shop/suppliers/{i}",
            new
            {
                name = "Harbour Steel",
                what = no,
                freightDays = Array.Empty<string>(),
                version,
            },
            null,
            "supplierId"
        );
        await Put(
            "stations",
            i => $"/api/shop/stations/{i}",
            new
            {
                name = "Bay A",
                kind = "bay",
                count = 1,
                xMm = 0,
                yMm = 0,
                widthMm = 3000,
                depthMm = 6000,
                doorHeightMm = 2400,
                walled = false,
                version,
            },
            null,
            "stationId"
        );
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/people/{_shop.TechnicianPerson}/absences",
                new
                {
                    absences = new[]
                    {
                        new
                        {
                            from = "2026-04-01T00:00:00",
                            to = "2026-04-03T00:00:00",
                            reason = AbsenceReason,
                        },
                    },
                }
            )
            .Json();

        var build = Guid.CreateVersion7();
        var body = System.Text.Json.Nodes.JsonNode.Parse(
            System.Text.Json.JsonSerializer.Serialize(
                TestBuild.OpenBody(build, "paint-then-assemble", client: "Canary Client", email: Email)
            )
        )!;
        (body["clientPhone"], body["estimate"]!["labour"]) = (Phone, 7391.17m);
        body["brief"]!["budget"] = 6173.41m;
        await _shop.Manager.PostAsJsonAsync("/api/builds", body).Json();
        Keep(build, "builds", "buildId");
        var open = new TestBuild(_shop, build);
        var work = Keep(
            (await open.Operations())
                .First(o => o.GetProperty("kind").GetString() == "work")
                .GetProperty("id")
                .GetGuid(),
            "operations",
            "operationId",
            "operation"
        );
        Keep(
            (await open.Hours(work, "2026-03-02T07:00:00Z", "2026-03-02T08:00:00Z")).GetProperty("id").GetGuid(),
            "hours"
        );

        using var upload = new MultipartFormDataContent { { Picture(), "file", "photo.jpg" } };
        var photo = Keep(Guid.CreateVersion7(), "photos", "photoId");
        await _shop.Technician.PostAsync($"/api/builds/{build}/photos/{photo}", upload).Json();
        await _shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{build}/arrival",
                new
                {
                    cameOn = "2026-03-01",
                    @as = "rollingShell",
                    onWhose = no,
                    serial = 1187,
                    breaks = Array.Empty<object>(),
                    odometer = 1,
                    keys = 1,
                    fluids = new[] { "fuel" },
                    battery = "starter",
                    storage = "shelf",
                    promised = new[]
                    {
                        new
                        {
                            id = Keep(Guid.CreateVersion7(), "pieces", "piece"),
                            what = "Lamps",
                            promised = 2,
                            came = 1,
                        },
                    },
                    cameUnasked = Array.Empty<string>(),
                    standIns = new[]
                    {
                        new
                        {
                            id = Keep(Guid.CreateVersion7(), "stand-ins", "standIn"),
                            what = "Core",
                            whose = "build 43",
                            returnBy = "2026-04-10",
                            returnedOn = (string?)null,
                        },
                    },
                    toUndo = Array.Empty<string>(),
                    hazards = Array.Empty<object>(),
                    heights = (object?)null,
                    version,
                }
            )
            .Json();
        object Way(string verdict, decimal part) =>
            new
            {
                verdict,
                hours = 3,
                trade = "metal",
                material = 8311.71m,
                sheetM2Price = 0,
                part,
                freight = 0,
                leadDays = 2,
                riskPercent = 10,
                notSold = false,
            };
        var finding = await Put(
            "findings",
            i => $"/api/builds/{build}/findings/{i}",
            new
            {
                place = "sillL",
                at = new { x = 130.5, y = 210.0 },
                area = Array.Empty<object>(),
                kind = "rustThrough",
                probe = "goesThrough",
                sizeMm = 200,
                structural = true,
                gaugeMm = 1.2m,
                note = "through",
                photoId = photo,
                behind = (Guid?)null,
                version,
            },
            _shop.Technician,
            "findingId"
        );
        await _shop
            .Office.PutAsJsonAsync(
                $"/api/findings/{finding}/options",
                new { options = new[] { Way("repair", 0), Way("replace", 5417.83m) }, version }
            )
            .Json();
        await Post("marks", $"/api/builds/{build}/survey/marks", id => new
        {
            id,
            place = "sillL",
            at = new { x = 130.5, y = 210.0 },
            result = "dents",
        });
        var bag = await Put(
            "bags",
            i => $"/api/builds/{build}/bags/{i}",
            new
            {
                side = "left",
                what = "Clips",
                from = "door",
                pieces = new[] { new { name = "clip", count = 4 } },
                fasteners = Array.Empty<object>(),
                place = "C3-7",
                patternFor = (Guid?)null,
                photoId = (Guid?)null,
                noPhoto = true,
                version,
            },
            _shop.Technician,
            "bagId"
        );
        await Put(
            "parts",
            i => $"/api/builds/{build}/parts/{i}",
            new
            {
                name = "Hinge",
                quantity = 2,
                unitCost = 9173.53m,
                unitPrice = 4831.97m,
                supplierId = supplier,
                clientSupplied = false,
                operationId = work,
                version,
            },
            null,
            "partId"
        );
        await _shop
            .Office.PostAsJsonAsync(
                $"/api/builds/{build}/materials",
                new
                {
                    id = Guid.CreateVersion7(),
                    operationId = work,
                    name = "Epoxy",
                    quantity = 1,
                    unit = "l",
                    unitCost = 7391.17m,
                    on = "2026-03-02",
                }
            )
            .Json();
        await Put(
            "outside",
            i => $"/api/builds/{build}/outside/{i}",
            new
            {
                title = "Chrome",
                supplierId = supplier,
                operationId = (Guid?)null,
                pieces = new object[]
                {
                    new
                    {
                        name = "rim",
                        count = 3,
                        bagId = (Guid?)null,
                    },
                },
                quotedDays = 10,
                quoted = 5417.83m,
                billed = 8311.71m,
                version,
            },
            _shop.Office,
            "jobId"
        );
        await _shop
            .Office.PostAsJsonAsync(
                $"/api/outside/{this["outside"]}/send",
                new { on = "2026-03-02", promised = "2026-03-12" }
            )
            .Json();
        await Post("assemblies", $"/api/builds/{build}/assemblies", id => new
        {
            id,
            kind = "door",
            side = "left",
            name = "left door",
            backWith = (Guid?)null,
        });
        await Put(
            "bodies",
            i => $"/api/builds/{build}/bodies/{i}",
            new
            {
                name = "Barn body",
                year = 1953,
                seenOn = "2026-02-25",
                heldUntil = "2026-03-20",
                purchase = 6173.41m,
                freight = 286,
                zones = Array.Empty<object>(),
                spans = Array.Empty<object>(),
                identity = no,
                version,
            },
            null,
            "bodyId"
        );
        await Post("decisions", $"/api/builds/{build}/decisions", id => new
        {
            id,
            question = "Heated seats?",
            detail = no,
            @for = "client",
            options = new[] { "yes", "no" },
            holds = Array.Empty<Guid>(),
            dueOn = "2026-03-20",
            adds = 7391.17m,
            photoId = (Guid?)null,
        });
        await Post("reports", $"/api/builds/{build}/reports", id => new { id });
        await Post("links", $"/api/builds/{build}/links", id => new { id, days = 30 });
        await _shop
            .Manager.PostAsJsonAsync(
                $"/api/builds/{build}/payments",
                new
                {
                    id = Guid.CreateVersion7(),
                    on = "2026-03-01",
                    amount = 9173.53m,
                    note = no,
                }
            )
            .Json();
        await Post("papers", $"/api/builds/{build}/estimates", id => new { id }, "paperId");
        await Put(
            "what-ifs",
            i => $"/api/plan/what-ifs/{i}",
            new
            {
                name = "Try",
                changes = new[]
                {
                    new
                    {
                        kind = "absence",
                        personId = _shop.TechnicianPerson,
                        from = "2026-03-03",
                        to = "2026-03-06",
                    },
                },
                version,
            }
        );
        Keep(bag, "pieceBag");
    }

    /// <summary>A small picture as a phone sends one.</summary>
    public static ByteArrayContent Picture(int width = 64, int height = 48)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(SKColors.SteelBlue);
        using var image = SKImage.FromBitmap(bitmap);
        var content = new ByteArrayContent(image.Encode(SKEncodedImageFormat.Jpeg, 90).ToArray());
        content.Headers.ContentType = new MediaTypeHeaderValue("image/jpeg");
        return content;
    }
}

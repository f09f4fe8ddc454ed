using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;
using SkiaSharp;

namespace FirstCoat.Server.Tests.Reports;

/// <summary>A published report never changes; what was corrected since shows in the next one.</summary>
public sealed class ReportTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static byte[] Picture(SKColor colour)
    {
        using var surface = SKSurface.Create(new SKImageInfo(64, 48));
        surface.Canvas.Clear(colour);
        using var image = surface.Snapshot();
        return image.Encode(SKEncodedImageFormat.Jpeg, 90).ToArray();
    }

    private async Task<Guid> Photo(TestBuild build, bool visible)
    {
        var id = Guid.CreateVersion7();
        using var form = new MultipartFormDataContent();
        var file = new ByteArrayContent(Picture(SKColors.SteelBlue));
        file.Headers.ContentType = new MediaTypeHeaderValue("image/jpeg");
        form.Add(file, "file", "../../etc/passwd.jpg");
        form.Add(new StringContent("metal"), "stage");
        await shop.Technician.PostAsync($"/api/builds/{build.Id}/photos/{id}", form).Json();
        await Describe(id, "Left wing, bare", visible);
        return id;
    }

    private Task<JsonElement> Describe(Guid id, string caption, bool visible) =>
        shop
            .Office.PutAsJsonAsync(
                $"/api/photos/{id}",
                new
                {
                    caption,
                    stage = "metal",
                    panel = "wingL",
                    operationId = (Guid?)null,
                    clientMaySee = visible,
                    version = (uint?)null,
                }
            )
            .Json();

    private async Task<Guid> Draft(TestBuild build)
    {
        var id = Guid.CreateVersion7();
        await shop.Manager.PostAsJsonAsync($"/api/builds/{build.Id}/reports", new { id }).Json();
        return id;
    }

    private Task<JsonElement> Publish(Guid id) =>
        shop.Manager.PostAsJsonAsync($"/api/reports/{id}/publish", new { version = (uint?)null }).Json();

    private async Task<string> Link(TestBuild build)
    {
        var made = await shop
            .Manager.PostAsJsonAsync($"/api/builds/{build.Id}/links", new { id = Guid.CreateVersion7(), days = 30 })
            .Json();
        return made.GetProperty("path").GetString()!["/r/".Length..];
    }

    [Fact]
    public async Task A_published_page_stays_as_it_was_and_the_next_report_shows_what_was_adjusted()
    {
        var build = await TestBuild.Open(shop);
        var operation = await build.Add(TestBuild.Work("Reported", 240));
        var entry = Guid.CreateVersion7();
        await build.Hours(operation, "2026-02-16T08:00:00Z", "2026-02-16T11:00:00Z", id: entry);
        var photo = await Photo(build, visible: true);
        var first = await Draft(build);
        await Publish(first);
        var token = await Link(build);
        var client = await shop.Anonymous();
        var before = (await client.GetAsync($"/api/private/{token}").Json()).GetRawText();
        before.ShouldContain("Left wing, bare");

        await shop
            .Manager.PostAsJsonAsync(
                $"/api/hours/{entry}/correct",
                new
                {
                    id = Guid.CreateVersion7(),
                    operationId = operation,
                    start = "2026-02-16T08:00:00Z",
                    stop = "2026-02-16T09:30:00Z",
                    kind = "billable",
                    @void = false,
                    reason = "two clocks ran",
                }
            )
            .Json();
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/people/{shop.TechnicianPerson}/rates",
                new
                {
                    from = "2026-02-15",
                    cost = 25,
                    billing = 66,
                }
            )
            .Json();
        await Describe(photo, "Something else", visible: false);
        (await client.GetAsync($"/api/private/{token}").Json()).GetRawText().ShouldBe(before);

        var second = await Draft(build);
        await Publish(second);
        var page = (await client.GetAsync($"/api/private/{token}").Json()).GetProperty("page");
        page.GetProperty("number").GetInt32().ShouldBe(2);
        var adjusted = page.GetProperty("adjusted")
            .EnumerateArray()
            .ToDictionary(a => a.GetProperty("what").GetString()!);
        // 3:00 became 1:30; 3 h at 60.00 became 1.5 h at 66.00.
        adjusted["hours"].GetProperty("minutes").GetInt32().ShouldBe(-90);
        adjusted["labour"].GetProperty("amount").GetDecimal().ShouldBe(99m - 180m);
        page.GetProperty("stages").EnumerateArray().Sum(s => s.GetProperty("sinceMinutes").GetInt32()).ShouldBe(0);
        (await client.GetAsync($"/api/private/{token}?number=1").Json())
            .GetProperty("page")
            .GetRawText()
            .ShouldBe(JsonDocument.Parse(before).RootElement.GetProperty("page").GetRawText());
    }

    [Fact]
    public async Task A_guessed_expired_or_revoked_link_shows_nothing_and_they_look_alike()
    {
        var build = await TestBuild.Open(shop);
        await Publish(await Draft(build));
        var token = await Link(build);
        var client = await shop.Anonymous();
        await client.GetAsync($"/api/private/{token}").Json();
        var guessed = (await client.GetAsync($"/api/private/{token[..^1]}x").Json(HttpStatusCode.NotFound))
            .GetProperty("detail")
            .GetString();
        var link = (await shop.Manager.GetAsync($"/api/builds/{build.Id}/links").Json())[0].GetProperty("id").GetGuid();
        var now = shop.Clock.GetUtcNow();
        shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now.AddDays(31)));
        (await client.GetAsync($"/api/private/{token}").Json(HttpStatusCode.NotFound))
            .GetProperty("detail")
            .GetString()
            .ShouldBe(guessed);
        shop.Clock.Set(NodaTime.Instant.FromDateTimeOffset(now));
        await client.GetAsync($"/api/private/{token}").Json();
        await shop.Manager.PostAsync($"/api/links/{link}/revoke", null).Json();
        (await client.GetAsync($"/api/private/{token}").Json(HttpStatusCode.NotFound))
            .GetProperty("detail")
            .GetString()
            .ShouldBe(guessed);
        await client.GetAsync($"/api/private/{token}/pdf").Json(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_link_shows_its_own_build_and_only_the_chosen_photos()
    {
        var (mine, other) = (await TestBuild.Open(shop), await TestBuild.Open(shop));
        await Photo(other, visible: true);
        await Publish(await Draft(mine));
        await Publish(await Draft(other));
        var client = await shop.Anonymous();
        var foreign = (await shop.Manager.GetAsync($"/api/builds/{other.Id}/photos").Json())[0]
            .GetProperty("hash")
            .GetString();
        var token = await Link(mine);
        await client.GetAsync($"/api/private/{token}/photos/{foreign}").Json(HttpStatusCode.NotFound);
        (await client.GetAsync($"/api/photos/file/{foreign}")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        var token2 = await Link(other);
        var shown = await client.GetAsync($"/api/private/{token2}/photos/{foreign}");
        shown.Content.Headers.ContentType!.MediaType.ShouldBe("image/webp");
    }

    [Fact]
    public async Task A_question_shows_its_photo_and_what_an_answer_now_is_worth()
    {
        shop.At(new(2026, 3, 2), 8, 0);
        var build = await TestBuild.Open(shop);
        var held = await build.Add(TestBuild.Work("Held by the client", 120));
        var (photo, hidden) = (await Photo(build, visible: true), await Photo(build, visible: false));
        Task<HttpResponseMessage> Ask(Guid? about) =>
            shop.Office.PostAsJsonAsync(
                $"/api/builds/{build.Id}/decisions",
                new
                {
                    id = Guid.CreateVersion7(),
                    question = "Cut it out?",
                    detail = "",
                    @for = "client",
                    options = new[] { "Yes", "No" },
                    holds = new[] { held },
                    dueOn = "2026-04-20",
                    adds = 250m,
                    photoId = about,
                }
            );
        await Ask(Guid.CreateVersion7()).Refused("photoId");
        await Ask(photo).Json();
        await Ask(hidden).Json();
        await Publish(await Draft(build));
        var token = await Link(build);
        var client = await shop.Anonymous();
        var page = (await client.GetAsync($"/api/private/{token}").Json()).GetProperty("page");
        var asked = page.GetProperty("decisions").EnumerateArray().ToList();
        asked
            .Select(d => d.GetProperty("photo").ValueKind)
            .ShouldBe([JsonValueKind.Object, JsonValueKind.Null], "a photo the client may not see stays in the shop");
        var hash = asked[0].GetProperty("photo").GetProperty("hash").GetString();
        (await client.GetAsync($"/api/private/{token}/photos/{hash}")).StatusCode.ShouldBe(HttpStatusCode.OK);
        // Two hours that may start on Tuesday 21 April when the question stays open; the other question still holds
        // them if one is answered.
        asked[0].GetProperty("likelyOpen").GetString().ShouldBe("2026-04-21");
        asked[0].GetProperty("likelyNow").GetString().ShouldBe("2026-04-21");
        var other = (await shop.Manager.GetAsync($"/api/builds/{build.Id}").Json())
            .GetProperty("decisions")[1]
            .GetProperty("id")
            .GetGuid();
        await shop.Office.PostAsJsonAsync($"/api/decisions/{other}/answer", new { answer = "No" }).Json();
        var preview = await shop.Manager.GetAsync($"/api/reports/{await Draft(build)}/page").Json();
        var only = preview.GetProperty("page").GetProperty("decisions").EnumerateArray().ShouldHaveSingleItem();
        string.CompareOrdinal(only.GetProperty("likelyNow").GetString(), "2026-04-21").ShouldBeLessThan(0);
    }

    [Fact]
    public async Task A_photo_that_the_client_may_not_see_cannot_be_put_in_a_report()
    {
        var build = await TestBuild.Open(shop);
        var hidden = await Photo(build, visible: false);
        var report = await Draft(build);
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/reports/{report}",
                new
                {
                    title = "T",
                    lede = "",
                    done = Array.Empty<string>(),
                    next = Array.Empty<string>(),
                    photos = new[] { hidden },
                    version = (uint?)null,
                }
            )
            .Refused("photos");
    }

    [Theory]
    [InlineData("not a picture at all")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>")]
    public async Task A_file_that_is_no_picture_is_refused(string text)
    {
        var build = await TestBuild.Open(shop);
        using var form = new MultipartFormDataContent
        {
            { new ByteArrayContent(System.Text.Encoding.UTF8.GetBytes(text)), "file", "photo.jpg" },
        };
        await shop.Technician.PostAsync($"/api/builds/{build.Id}/photos/{Guid.CreateVersion7()}", form).Refused("file");
    }

    [Fact]
    public async Task A_truncated_picture_is_refused()
    {
        var build = await TestBuild.Open(shop);
        var whole = Picture(SKColors.Brown);
        using var form = new MultipartFormDataContent
        {
            { new ByteArrayContent(whole[..(whole.Length / 2)]), "file", "photo.jpg" },
        };
        await shop.Technician.PostAsync($"/api/builds/{build.Id}/photos/{Guid.CreateVersion7()}", form).Refused("file");
    }
}

using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace FirstCoat.Server.Tests.Teardown;

/// <summary>Bags through the API: numbers, sides, places, patterns, the buying list, and finding them.</summary>
public sealed class TeardownTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static object Bag(
        string what = "Quarter window screws",
        string side = "left",
        string place = "C3-7",
        int destroyed = 0,
        Guid? pattern = null,
        bool noPhoto = true,
        uint? version = null
    ) =>
        new
        {
            side,
            what,
            from = "rear window, frame to body",
            pieces = new[] { new { name = "cup", count = 2 } },
            fasteners = new[]
            {
                new
                {
                    kind = "screw",
                    head = "oval",
                    thread = "M4 x 16",
                    finish = "chrome",
                    count = 8,
                    shows = true,
                    destroyed,
                },
            },
            place,
            patternFor = pattern,
            photoId = (Guid?)null,
            noPhoto,
            version,
        };

    private async Task<Guid> Put(TestBuild build, object bag, Guid? id = null)
    {
        var bagId = id ?? Guid.CreateVersion7();
        await shop.Technician.PutAsJsonAsync($"/api/builds/{build.Id}/bags/{bagId}", bag).Json();
        return bagId;
    }

    private Task<JsonElement> Bags(TestBuild build) => shop.Technician.GetAsync($"/api/builds/{build.Id}/bags").Json();

    private async Task<JsonElement> One(TestBuild build, Guid id) =>
        (await Bags(build)).GetProperty("bags").EnumerateArray().Single(b => b.GetProperty("id").GetGuid() == id);

    private Task<HttpResponseMessage> Move(
        Guid id,
        string state,
        string place = "",
        HttpClient? by = null,
        Guid? move = null
    ) =>
        (by ?? shop.Technician).PostAsJsonAsync(
            $"/api/bags/{id}/move",
            new
            {
                id = move ?? Guid.CreateVersion7(),
                state,
                place,
                note = "",
            }
        );

    [Fact]
    public async Task Numbers_run_through_the_shop_and_are_never_given_twice_even_at_the_same_moment()
    {
        var (one, two) = (await TestBuild.Open(shop), await TestBuild.Open(shop));
        var ids = await Task.WhenAll(Enumerable.Range(0, 12).Select(i => Put(i % 2 == 0 ? one : two, Bag($"Bag {i}"))));
        var codes = (await Bags(one))
            .GetProperty("bags")
            .EnumerateArray()
            .Concat((await Bags(two)).GetProperty("bags").EnumerateArray())
            .Select(b => b.GetProperty("code").GetInt32())
            .Order()
            .ToList();
        codes.ShouldBe(Enumerable.Range(codes[0], 12));
        await Put(one, Bag("Bag 0, again"), ids[0]);
        (await One(one, ids[0])).GetProperty("what").GetString().ShouldBe("Bag 0, again");
        (await Bags(one)).GetProperty("bags").GetArrayLength().ShouldBe(6);
    }

    [Fact]
    public async Task A_bag_is_closed_with_its_photo_or_by_saying_that_there_is_none_and_keeps_its_side()
    {
        var build = await TestBuild.Open(shop);
        await shop
            .Technician.PutAsJsonAsync($"/api/builds/{build.Id}/bags/{Guid.CreateVersion7()}", Bag(noPhoto: false))
            .Refused("photoId");
        await shop
            .Technician.PutAsJsonAsync($"/api/builds/{build.Id}/bags/{Guid.CreateVersion7()}", Bag(place: ""))
            .Refused("place");
        var id = await Put(build, Bag());
        await shop.Technician.PutAsJsonAsync($"/api/builds/{build.Id}/bags/{id}", Bag(side: "right")).Refused("side");
        var other = await TestBuild.Open(shop);
        await shop.Technician.PutAsJsonAsync($"/api/builds/{other.Id}/bags/{id}", Bag()).Refused("id");
    }

    [Fact]
    public async Task What_removal_destroys_is_on_the_buying_list_at_that_moment_and_once()
    {
        var build = await TestBuild.Open(shop);
        var id = await Put(build, Bag(destroyed: 3));
        await Put(build, Bag(destroyed: 3), id);
        var part = (await shop.Office.GetAsync($"/api/builds/{build.Id}/parts").Json())
            .GetProperty("parts")
            .EnumerateArray()
            .ShouldHaveSingleItem();
        part.GetProperty("quantity").GetDecimal().ShouldBe(3);
        part.GetProperty("name")
            .GetString()!
            .ShouldStartWith("3 screws, oval M4 x 16, chrome for Quarter window screws");
        part.GetProperty("state").GetString().ShouldBe("needed");
    }

    [Fact]
    public async Task A_pattern_is_kept_until_its_work_is_done()
    {
        var build = await TestBuild.Open(shop);
        var work = await build.Add(TestBuild.Work("Let in a new sill end"));
        var id = await Put(build, Bag("Sill end", pattern: work));
        (await Move(id, "scrapped", by: shop.Technician).Refused("state"))
            .GetProperty("detail")
            .GetString()!
            .ShouldContain("desk");
        (await Move(id, "scrapped", by: shop.Office).Refused("state"))
            .GetProperty("detail")
            .GetString()!
            .ShouldContain("Let in a new sill end");
        (await One(build, id)).GetProperty("patternOpen").GetBoolean().ShouldBeTrue();
        await shop.Manager.PostAsync($"/api/operations/{work}/done", null).Json();
        await Move(id, "scrapped", by: shop.Office).Json();
        (await Bags(build)).GetProperty("counts").GetProperty("pieces").GetProperty("scrapped").GetInt32().ShouldBe(2);
    }

    [Fact]
    public async Task A_move_is_recorded_once_with_who_made_it()
    {
        var build = await TestBuild.Open(shop);
        var id = await Put(build, Bag());
        var move = Guid.CreateVersion7();
        await Move(id, "atSupplier", "Corran Plating", move: move).Json();
        await Move(id, "atSupplier", "Corran Plating", move: move).Json();
        var view = await Bags(build);
        view.GetProperty("moves")
            .EnumerateArray()
            .Select(m => m.GetProperty("place").GetString())
            .ShouldBe(["C3-7", "Corran Plating"]);
        view.GetProperty("moves")[1].GetProperty("by").GetString().ShouldBe("Tove Technician");
        (await One(build, id)).GetProperty("state").GetString().ShouldBe("atSupplier");
    }

    [Fact]
    public async Task A_bag_is_found_by_words_with_its_twin_named_and_the_question_read_back()
    {
        var build = await TestBuild.Open(shop);
        var left = await Put(build, Bag("Headlamp rim screws"));
        var right = await Put(build, Bag("Headlamp rim screws", "right", "C2-3"));
        var found = await shop.Technician.GetAsync("/api/bags?q=left%20headlamp%20screws").Json();
        found.GetProperty("exact").GetBoolean().ShouldBeTrue();
        found.GetProperty("reading").GetProperty("side").GetString().ShouldBe("left");
        var first = found.GetProperty("found")[0];
        first.GetProperty("bag").GetProperty("id").GetGuid().ShouldBe(left);
        first
            .GetProperty("twin")
            .GetString()
            .ShouldBe($"{(await One(build, right)).GetProperty("label").GetString()}, C2-3");
        await shop.Technician.GetAsync("/api/bags?q=%20").Refused("q");
        (await shop.Technician.GetAsync($"/api/bags?q=headlamp&buildId={Guid.NewGuid()}").Json())
            .GetProperty("found")
            .GetArrayLength()
            .ShouldBe(0);
    }

    [Fact]
    public async Task Labels_are_asked_for_by_number_and_a_guessed_ticket_prints_nothing()
    {
        var build = await TestBuild.Open(shop);
        await Put(build, Bag());
        await shop.Technician.GetAsync($"/api/builds/{build.Id}/labels?codes=1").Refused("codes");
        await shop.Technician.GetAsync($"/api/builds/{build.Id}/labels?codes=abc").Refused("codes");
        await shop.Technician.GetAsync($"/api/builds/{build.Id}/labels?paper=a3").Refused("paper");
        await shop.Technician.GetAsync($"/api/builds/{build.Id}/labels?form=svg").Refused("form");
        (await (await shop.Anonymous()).GetAsync("/api/print/labels/guess")).StatusCode.ShouldBe(
            HttpStatusCode.NotFound
        );
    }

    [Fact]
    public async Task A_batch_of_bags_is_counted_out_and_comes_back_to_its_trays()
    {
        var build = await TestBuild.Open(shop);
        var (handles, latch) = (
            await Put(build, Bag("Handles", place: "B1-2")),
            await Put(build, Bag("Latch", place: "B1-3"))
        );
        var supplier = Guid.CreateVersion7();
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/suppliers/{supplier}",
                new
                {
                    name = $"Plater {supplier}",
                    what = "",
                    freightDays = Array.Empty<string>(),
                    version = (uint?)null,
                }
            )
            .Json();
        var job = Guid.CreateVersion7();
        object Body(params object[] pieces) =>
            new
            {
                title = "Chrome",
                supplierId = supplier,
                operationId = (Guid?)null,
                pieces,
                quotedDays = 10,
                quoted = 100,
                billed = (decimal?)null,
                version = (uint?)null,
            };
        object Piece(Guid bag) =>
            new
            {
                name = "",
                count = 1,
                bagId = bag,
            };
        await shop
            .Office.PutAsJsonAsync($"/api/builds/{build.Id}/outside/{job}", Body(Piece(handles), Piece(handles)))
            .Refused("pieces");
        await shop
            .Office.PutAsJsonAsync($"/api/builds/{build.Id}/outside/{job}", Body(Piece(Guid.CreateVersion7())))
            .Refused("pieces");
        await shop
            .Office.PutAsJsonAsync($"/api/builds/{build.Id}/outside/{job}", Body(Piece(handles), Piece(latch)))
            .Json();
        // Two cups and eight screws in each bag.
        var listed = (await shop.Office.GetAsync($"/api/builds/{build.Id}/outside").Json())[0];
        listed.GetProperty("sent").GetInt32().ShouldBe(20);
        await shop
            .Office.PostAsJsonAsync($"/api/outside/{job}/send", new { on = "2026-02-20", promised = "2026-03-06" })
            .Json();
        (await One(build, handles)).GetProperty("place").GetString().ShouldBe($"Plater {supplier}");
        await shop
            .Office.PutAsJsonAsync($"/api/builds/{build.Id}/outside/{Guid.CreateVersion7()}", Body(Piece(handles)))
            .Refused("pieces");
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/outside/{job}/count",
                new { on = "2026-03-01", counts = new[] { 10, 9 } }
            )
            .Json();
        (
            (await One(build, handles)).GetProperty("place").GetString(),
            (await One(build, latch)).GetProperty("state").GetString()
        ).ShouldBe(("B1-2", "atSupplier"), "what is not complete is not back");
        await shop
            .Technician.PostAsJsonAsync(
                $"/api/outside/{job}/count",
                new { on = "2026-03-02", counts = new[] { 10, 10 } }
            )
            .Json();
        (await One(build, latch)).GetProperty("place").GetString().ShouldBe("B1-3");
    }

    [Fact]
    public async Task What_more_was_destroyed_changes_the_line_nobody_has_ordered()
    {
        var build = await TestBuild.Open(shop);
        var id = await Put(build, Bag(destroyed: 2));
        await Put(build, Bag(destroyed: 5), id);
        var line = (await shop.Office.GetAsync($"/api/builds/{build.Id}/parts").Json())
            .GetProperty("parts")
            .EnumerateArray()
            .ShouldHaveSingleItem();
        line.GetProperty("quantity").GetDecimal().ShouldBe(5);
        line.GetProperty("name").GetString()!.ShouldStartWith("5 screws, oval M4 x 16");
    }
}

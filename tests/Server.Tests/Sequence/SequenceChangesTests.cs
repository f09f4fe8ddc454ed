using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using NodaTime;

namespace FirstCoat.Server.Tests.Sequence;

/// <summary>Changes of the order of work are taken back and made again, whole or not at all.</summary>
public sealed class SequenceChangesTests(ShopFixture shop) : IClassFixture<ShopFixture>, IAsyncLifetime
{
    private TestBuild _build = null!;
    private Guid _strip;
    private Guid _weld;
    private Guid _dress;

    public async ValueTask InitializeAsync()
    {
        shop.At(new LocalDate(2026, 3, 2), 8, 0);
        (_build, _) = await TestBuild.OpenPair(shop);
        _strip = await _build.Add(TestBuild.Work("Strip the floor", 480));
        _weld = await _build.Add(TestBuild.Work("Weld the floor", 960, after: [Link(_strip)]));
        _dress = await _build.Add(TestBuild.Work("Dress the floor", 240, after: [Link(_weld)]));
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private static object Link(Guid operation) => new { operation, lagMinutes = 0 };

    private async Task<JsonElement> Of(Guid operation) =>
        (await _build.Operations()).Single(o => o.GetProperty("id").GetGuid() == operation);

    /// <summary>The order of work as it reads: names, hours, and for what each waits.</summary>
    private async Task<List<string>> Order()
    {
        var all = await _build.Operations();
        var names = all.ToDictionary(o => o.GetProperty("id").GetGuid(), o => o.GetProperty("name").GetString());
        return
        [
            .. all.OrderBy(o => o.GetProperty("position").GetInt32())
                .Select(o =>
                {
                    var waits = o.GetProperty("after")
                        .EnumerateArray()
                        .Select(a => names[a.GetProperty("operation").GetGuid()]);
                    return $"{o.GetProperty("name")} {o.GetProperty("budgetMinutes")} < {string.Join(", ", waits)}";
                }),
        ];
    }

    private async Task<Guid> Change(Guid operation, Action<JsonObject> change)
    {
        var body = JsonNode.Parse((await Of(operation)).GetRawText())!.AsObject();
        change(body);
        return ChangeOf(
            await shop.Manager.PutAsJsonAsync($"/api/builds/{_build.Id}/operations/{operation}", body).Json()
        );
    }

    private static Guid ChangeOf(JsonElement kept) => kept.GetProperty("changeId").GetGuid();

    private async Task<Guid> Remove(Guid operation) =>
        ChangeOf(await shop.Manager.DeleteAsync($"/api/operations/{operation}").Json());

    private async Task<Guid> Merge(Guid first, Guid second) =>
        ChangeOf(
            await shop
                .Manager.PostAsJsonAsync($"/api/operations/{first}/merge", new { with = second, version = (uint?)null })
                .Json()
        );

    private async Task<(Guid Change, Guid Part)> Split(Guid operation, bool sideBySide = false)
    {
        var part = new
        {
            id = Guid.CreateVersion7(),
            name = "Second part",
            minutes = 360,
            panels = Array.Empty<string>(),
            sideBySide,
            version = (uint?)null,
        };
        return (
            ChangeOf(await shop.Manager.PostAsJsonAsync($"/api/operations/{operation}/split", part).Json()),
            part.id
        );
    }

    private Task<HttpResponseMessage> Undo(Guid change) =>
        shop.Manager.PostAsync($"/api/sequence-changes/{change}/undo", null);

    private async Task<string> Refused(Guid change, string field = "id") =>
        (await Undo(change).Refused(field)).GetProperty("detail").GetString()!;

    private Task<HttpResponseMessage> Redo(Guid change) =>
        shop.Manager.PostAsync($"/api/sequence-changes/{change}/redo", null);

    [Fact]
    public async Task All_kinds_of_change_go_back_one_by_one_and_come_again()
    {
        var orders = new List<List<string>> { await Order() };
        var changes = new List<Guid>();
        async Task Make(Func<Task<Guid>> change)
        {
            changes.Add(await change());
            orders.Add(await Order());
        }

        await Make(async () => (await Split(_weld)).Change);
        await Make(() => Change(_strip, o => (o["budgetMinutes"], o["name"]) = (600, "Strip it all")));
        await Make(() => Remove(_strip));
        await Make(() => Change(_dress, o => o["after"] = new JsonArray()));
        await Make(() => Merge(_weld, _dress));
        await Make(async () =>
        {
            var added = Guid.CreateVersion7();
            return ChangeOf(
                await shop
                    .Manager.PutAsJsonAsync(
                        $"/api/builds/{_build.Id}/operations/{added}",
                        TestBuild.Work("Seal the floor", 120, after: [Link(_weld)])
                    )
                    .Json()
            );
        });
        orders.Select(o => string.Join('\n', o)).Distinct().Count().ShouldBe(7, "each of them changes something");
        for (var i = changes.Count - 1; i >= 0; i--)
        {
            await Undo(changes[i]).Json();
            (await Order()).ShouldBe(orders[i]);
        }

        for (var i = 0; i < changes.Count; i++)
        {
            await Redo(changes[i]).Json();
            (await Order()).ShouldBe(orders[i + 1]);
        }

        var told = await shop.Technician.GetAsync($"/api/builds/{_build.Id}/sequence-changes").Json();
        told[0].GetProperty("what").GetString().ShouldBe("“Seal the floor” added");
        told[1].GetProperty("what").GetString().ShouldBe("“Dress the floor” put into “Weld the floor”");
        told[3].GetProperty("what").GetString().ShouldBe("“Strip it all” removed");
        told[5].GetProperty("what").GetString().ShouldBe("“Weld the floor” split");
    }

    [Fact]
    public async Task A_lost_answer_is_asked_for_again_without_harm()
    {
        var before = await Order();
        var change = await Remove(_weld);
        await Undo(change).Json();
        await Undo(change).Json();
        (await Order()).ShouldBe(before);
        // Removed again while it was out already: nothing was changed, so nothing is taken back.
        await Remove(_dress);
        (await shop.Manager.DeleteAsync($"/api/operations/{_dress}").Json())
            .GetProperty("changeId")
            .ValueKind.ShouldBe(JsonValueKind.Null);
    }

    [Fact]
    public async Task What_somebody_changed_since_stands_and_what_they_left_alone_goes_back()
    {
        var hours = await Change(_weld, o => o["budgetMinutes"] = 1200);
        await Change(_weld, o => o["name"] = "Weld and dress");
        await Undo(hours).Json();
        (await Order()).ShouldContain("Weld and dress 960 < Strip the floor");
        var more = await Change(_weld, o => o["budgetMinutes"] = 1300);
        await Change(_weld, o => o["budgetMinutes"] = 1400);
        (await Refused(more)).ShouldContain("“Weld and dress” has been changed since");
        (await Order()).ShouldContain("Weld and dress 1400 < Strip the floor");
    }

    [Fact]
    public async Task A_part_on_which_somebody_worked_is_not_taken_away()
    {
        var (change, part) = await Split(_weld);
        await _build.Hours(part, "2026-03-01T08:00:00Z", "2026-03-01T09:00:00Z");
        (await Refused(change)).ShouldContain("Hours are logged");
        (await Order()).Count.ShouldBe(4);
    }

    [Fact]
    public async Task Finished_work_keeps_its_hours()
    {
        var (change, _) = await Split(_weld);
        await shop.Manager.PostAsync($"/api/operations/{_strip}/done", null).Json();
        await shop.Manager.PostAsync($"/api/operations/{_weld}/done", null).Json();
        (await Refused(change)).ShouldContain("“Weld the floor” is done");
        // What only follows may be done: its link is all that goes back.
        var merged = await Merge(_dress, await _build.Add(TestBuild.Work("Dress it again", 60)));
        await Undo(merged).Json();
        (await Of(_dress)).GetProperty("budgetMinutes").GetInt32().ShouldBe(240);
    }

    [Fact]
    public async Task What_others_wait_for_stays()
    {
        var (change, part) = await Split(_weld);
        await _build.Add(TestBuild.Work("Seal the floor", 60, after: [Link(part)]));
        (await Refused(change)).ShouldContain("“Seal the floor” waits for “Second part” by now");
        (await Order()).Count.ShouldBe(5);
    }

    [Fact]
    public async Task What_is_gone_for_good_is_not_waited_for_again()
    {
        var relinked = await Change(_dress, o => o["after"] = new JsonArray());
        await Remove(_weld);
        (await Refused(relinked, "after")).ShouldContain("something that is not in this sequence");
    }

    [Fact]
    public async Task A_check_without_override_is_not_turned_into_another_by_taking_back()
    {
        var gate = await _build.Add(TestBuild.Work("Check", kind: "gate", gate: "fitUp"));
        var made = await Change(gate, o => o["gate"] = "tractionBattery");
        (await Refused(made, "gate")).ShouldContain("stays what it is");
        (await Of(gate)).GetProperty("gate").GetString().ShouldBe("tractionBattery");
    }

    [Fact]
    public async Task A_merge_gives_back_what_is_needed_before_paint()
    {
        await shop
            .Manager.PostAsJsonAsync(
                "/api/provisions",
                new
                {
                    id = Guid.CreateVersion7(),
                    operationId = _dress,
                    kind = "hole",
                    what = "the drain",
                    where = "",
                }
            )
            .Json();
        var change = await Merge(_weld, _dress);
        await Undo(change).Json();
        var said = await shop.Manager.GetAsync($"/api/builds/{_build.Id}/provisions").Json();
        said.EnumerateArray().Single().GetProperty("operationId").GetGuid().ShouldBe(_dress);
    }
}

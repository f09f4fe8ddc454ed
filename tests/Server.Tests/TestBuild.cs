using System.Net.Http.Json;
using System.Text.Json;
using FirstCoat.Core.Bodies;

namespace FirstCoat.Server.Tests;

/// <summary>Opens builds and adds work to them through the API, as the screens do.</summary>
public sealed class TestBuild(ShopFixture shop, Guid id)
{
    public Guid Id { get; } = id;

    public static object OpenBody(
        Guid id,
        string template = "small-work",
        int? priority = null,
        string client = "Petra Client",
        object? contract = null,
        int? number = null,
        string email = "",
        Guid? clientId = null
    ) =>
        new
        {
            id,
            number,
            clientName = client,
            clientEmail = email,
            clientPhone = "",
            vehicle = new
            {
                make = "Plover",
                model = "Eight",
                year = 1951,
                style = "coupe",
                construction = "unitary",
                identification = "P8",
                colourName = "Blue",
                colourHex = "#33557A",
                dimensions = BodyDimensions.Of(BodyStyleKey.Coupe),
            },
            brief = new
            {
                grade = "show",
                originality = "original",
                promised = "2026-06-01",
                budget = (decimal?)null,
                milestones = Array.Empty<object>(),
            },
            contract = contract
                ?? new
                {
                    kind = "timeAndMaterials",
                    price = (decimal?)null,
                    stages = (object?)null,
                    donePercent = 100,
                    retentionPercent = 0,
                    retentionReleased = false,
                },
            estimate = new
            {
                labour = 1000,
                parts = 500,
                outside = 0,
                materials = 100,
            },
            template,
            scale = 1,
            priority = priority ?? 1,
            fillIn = false,
            stationId = (Guid?)null,
            clientId,
        };

    public static async Task<TestBuild> Open(
        ShopFixture shop,
        string template = "small-work",
        int priority = 1,
        string email = "",
        string client = "Petra Client",
        object? contract = null,
        Guid? clientId = null
    )
    {
        var id = Guid.CreateVersion7();
        await shop
            .Manager.PostAsJsonAsync(
                "/api/builds",
                OpenBody(id, template, priority, client, contract, email: email, clientId: clientId)
            )
            .Json();
        return new(shop, id);
    }

    /// <summary>Closes whatever is open and opens two builds without any work, the first before the second in the
    /// queue.</summary>
    public static async Task<(TestBuild First, TestBuild Second)> OpenPair(ShopFixture shop)
    {
        foreach (var build in (await shop.Manager.GetAsync("/api/builds").Json()).EnumerateArray())
        {
            await shop
                .Manager.PutAsJsonAsync(
                    $"/api/builds/{build.GetProperty("id").GetGuid()}/status",
                    new
                    {
                        status = "closed",
                        leftAt = "",
                        firstMove = "",
                    }
                )
                .Json();
        }

        var (first, second) = (await Open(shop, priority: 1), await Open(shop, priority: 2));
        foreach (var operation in (await first.Operations()).Concat(await second.Operations()))
        {
            await shop.Manager.DeleteAsync($"/api/operations/{operation.GetProperty("id").GetGuid()}");
        }

        return (first, second);
    }

    public async Task<List<JsonElement>> Operations() =>
        [.. (await shop.Manager.GetAsync($"/api/builds/{Id}/operations").Json()).EnumerateArray()];

    public async Task<Guid> Operation(string start) =>
        (await Operations())
            .First(o => o.GetProperty("name").GetString()!.StartsWith(start, StringComparison.Ordinal))
            .GetProperty("id")
            .GetGuid();

    public static object Work(
        string name,
        int minutes = 60,
        string trade = "mechanic",
        object[]? after = null,
        string kind = "work",
        string? gate = null,
        string? coat = null,
        string[]? panels = null,
        string? hazard = null,
        string? station = null,
        string? held = null
    ) =>
        new
        {
            name,
            stage = "driveline",
            kind,
            trade = kind == "work" ? trade : null,
            budgetMinutes = kind == "work" ? minutes : 0,
            station,
            personId = (Guid?)null,
            panels = panels ?? [],
            coat,
            held,
            withoutStop = false,
            gate,
            hazard,
            clockMinutes = 0,
            after = after ?? [],
            position = (int?)null,
            version = (uint?)null,
        };

    /// <summary>How work is pinned; nothing given: it is let go.</summary>
    public static object Pinned(string? on = null, Guid? person = null, Guid? place = null, uint? version = null) =>
        new
        {
            on,
            personId = person,
            placeId = place,
            version,
        };

    public async Task<Guid> Add(object work)
    {
        var operation = Guid.CreateVersion7();
        await shop.Manager.PutAsJsonAsync($"/api/builds/{Id}/operations/{operation}", work).Json();
        return operation;
    }

    /// <summary>Does all that comes before an operation, and signs what stands before it.</summary>
    public async Task Reach(Guid operation)
    {
        var all = (await Operations()).ToDictionary(o => o.GetProperty("id").GetGuid());
        foreach (
            var before in all[operation]
                .GetProperty("after")
                .EnumerateArray()
                .Select(a => a.GetProperty("operation").GetGuid())
                .Where(all.ContainsKey)
        )
        {
            if (all[before].GetProperty("doneAt").ValueKind == JsonValueKind.Null)
            {
                await Reach(before);
                var isGate = all[before].GetProperty("kind").GetString() == "gate";
                if (all[before].GetProperty("gate").GetString() is "fitUp" or "uniformCoat" or "side")
                {
                    await LeaveGapsOut();
                }

                await (
                    isGate
                        ? shop.Manager.PostAsJsonAsync($"/api/operations/{before}/sign", new { seen = (string[]?)null })
                        : shop.Manager.PostAsync($"/api/operations/{before}/done", null)
                ).Json();
                all = (await Operations()).ToDictionary(o => o.GetProperty("id").GetGuid());
            }
        }
    }

    /// <summary>The fit of this vehicle is nobody's matter: none of its lines is read.</summary>
    public async Task LeaveGapsOut()
    {
        var fit = await shop.Manager.GetAsync($"/api/builds/{Id}/fit").Json();
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/builds/{Id}/fit/sheet",
                new
                {
                    painted = fit.GetProperty("painted"),
                    bright = fit.GetProperty("bright"),
                    filmUm = (double?)null,
                    lines = fit.GetProperty("lines")
                        .EnumerateArray()
                        .Select(l => new
                        {
                            line = l.GetProperty("key").GetString(),
                            isBright = false,
                            own = (object?)null,
                            leftOut = "not in this test",
                        }),
                    version = fit.GetProperty("sheetVersion"),
                }
            )
            .Json();
    }

    public Task<JsonElement> Hours(
        Guid operation,
        string start,
        string stop,
        string kind = "billable",
        Guid? id = null
    ) =>
        shop
            .Manager.PostAsJsonAsync(
                "/api/hours",
                new
                {
                    id = id ?? Guid.CreateVersion7(),
                    personId = shop.TechnicianPerson,
                    operationId = operation,
                    start,
                    stop,
                    kind,
                    note = "",
                }
            )
            .Json();

    public async Task<JsonElement> Card() =>
        (await shop.Manager.GetAsync("/api/builds").Json())
            .EnumerateArray()
            .Single(b => b.GetProperty("id").GetGuid() == Id);
}

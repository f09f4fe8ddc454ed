using System.Text.Json;
using System.Text.Json.Nodes;
using FirstCoat.Core.Bench;
using FirstCoat.Store.Bench;

namespace FirstCoat.Server.Rooms;

/// <summary>The bench: sums by typed figures, tries kept with a build, rests of sheet, the shop's wires; and each
/// calculation in its exchange form.</summary>
public static class BenchEndpoints
{
    /// <summary>What a sum comes to, or the figure that has no answer.</summary>
    /// <param name="Answer">Null: a figure is refused.</param>
    /// <param name="Field">The figure; empty: none is refused. A cell of a table as <c>pieces.2.width</c>.</param>
    /// <param name="Why">In words.</param>
    public sealed record SumView(BenchAnswer? Answer, string Field, string Why);

    /// <param name="Figures">As they were typed.</param>
    public sealed record TryView(
        Guid Id,
        string Sum,
        string Name,
        JsonNode Figures,
        string By,
        Instant At,
        BenchAnswer? Answer
    );

    public sealed record TryBody(Guid Id, string Sum, string Name, JsonElement Figures);

    public sealed record WorkView(string Sum, string Key, string Name, JsonObject Figures);

    /// <param name="UsedFor">Number of the build; null: none was named.</param>
    public sealed record OffcutView(
        Guid Id,
        uint Version,
        double WidthMm,
        double HeightMm,
        double GaugeMm,
        string Material,
        string Place,
        int? FromBuild,
        string KeptBy,
        Instant KeptAt,
        Instant? UsedAt,
        string UsedBy,
        int? UsedFor
    );

    public sealed record OffcutBody(
        Guid Id,
        double WidthMm,
        double HeightMm,
        double GaugeMm,
        string Material,
        string Place,
        Guid? BuildId
    );

    public sealed record OffcutUse(Guid? BuildId, uint? Version);

    /// <param name="IsOwn">The shop put it in; else they are low starting figures.</param>
    public sealed record WiresView(uint Version, List<WireSize> Wires, List<double> Fuses, bool IsOwn);

    public sealed record WiresBody(List<WireSize> Wires, List<double> Fuses, uint? Version);

    public static void MapBench(this RouteGroupBuilder api)
    {
        api.MapPost("/bench/{calc}", (string calc, JsonElement input) =>
            {
                using var question = JsonDocument.Parse(
                    new JsonObject { ["calc"] = calc, ["in"] = JsonNode.Parse(input.GetRawText()) }.ToJsonString()
                );
                return Results.Json(BenchCalculations.Answer(question.RootElement));
            })
            .RequireAuthorization(Policies.Anyone)
            .WithName("bench");
        api.MapPost("/bench/sums/{sum}", (string sum, JsonElement figures) => Work(sum, figures))
            .RequireAuthorization(Policies.Anyone)
            .WithName("sumOnBench");
        api.MapTries();
        api.MapStock();
    }

    private static SumView Work(string sum, JsonElement figures)
    {
        if (!BenchSums.Names.Contains(sum))
        {
            throw Refusal.Missing("sum");
        }

        try
        {
            return new(BenchSums.Answer(sum, figures), "", "");
        }
        catch (Refusal refusal)
        {
            return new(null, refusal.Field, refusal.Message);
        }
    }

    private static void MapTries(this RouteGroupBuilder api)
    {
        var tries = api.MapGroup("/builds/{id:guid}/bench");
        tries
            .MapGet("/tries", async (Guid id, BenchDesk desk, CancellationToken cancel) =>
                (await desk.Tries(id, cancel))
                    .Select(t =>
                    {
                        using var figures = JsonDocument.Parse(t.Figures);
                        return new TryView(
                            t.Id,
                            t.Sum,
                            t.Name,
                            JsonNode.Parse(t.Figures)!,
                            t.By,
                            t.At,
                            Work(t.Sum, figures.RootElement).Answer
                        );
                    })
                    .ToList()
            )
            .RequireAuthorization(Policies.Anyone)
            .OfKnownBuild()
            .WithName("listTries");
        tries
            .MapGet("/work", async (Guid id, WorkDesk desk, CancellationToken cancel) =>
                (await desk.Of(id, cancel)).Select(w => new WorkView(w.Sum, w.Key, w.Name, w.Figures)).ToList()
            )
            .RequireAuthorization(Policies.Anyone)
            .OfKnownBuild()
            .WithName("listWorkFigures");
        tries
            .MapPost("/tries", async (Guid id, TryBody b, BenchDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Keep(id, b.Id, b.Sum, b.Name, b.Figures, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("keepTry");
        api.MapPost("/bench-tries/{id:guid}/take-back", async (Guid id, BenchDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.TakeBack(id, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("takeBackTry");
    }

    private static void MapStock(this RouteGroupBuilder api)
    {
        api.MapGet("/offcuts", Offcuts).RequireAuthorization(Policies.Anyone).WithName("listOffcuts");
        api.MapPost("/offcuts", async (OffcutBody b, BenchDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.KeepOffcut(
                        b.Id,
                        new(b.WidthMm, b.HeightMm, b.GaugeMm, b.Material, b.Place, b.BuildId),
                        cancel
                    )
                )
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("keepOffcut");
        api.MapPost("/offcuts/{id:guid}/use", async (Guid id, OffcutUse b, BenchDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.UseOffcut(id, b.BuildId, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("useOffcut");
        api.MapPost("/offcuts/{id:guid}/put-back", async (Guid id, BenchDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.PutBackOffcut(id, cancel))
            )
            .RequireAuthorization(Policies.Floor)
            .WithName("putBackOffcut");
        api.MapGet("/wires", async (BenchDesk desk, CancellationToken cancel) =>
            {
                var (table, own) = await desk.Wires(cancel);
                return new WiresView(table.Version, table.Wires, table.Fuses, own);
            })
            .RequireAuthorization(Policies.Anyone)
            .WithName("getWires");
        api.MapPut("/wires", async (WiresBody b, BenchDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.PutWires(b.Wires, b.Fuses, b.Version, cancel))
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("putWires");
    }

    private static async Task<List<OffcutView>> Offcuts(
        double? gaugeMm,
        BenchDesk desk,
        ShopDb db,
        CancellationToken cancel
    )
    {
        var offcuts = await desk.Offcuts(gaugeMm, cancel);
        var ids = offcuts.SelectMany(o => new[] { o.FromBuild, o.UsedFor }).OfType<Guid>().Distinct().ToList();
        var numbers = await db
            .Builds.Where(b => ids.Contains(b.Id))
            .ToDictionaryAsync(b => b.Id, b => b.Number, cancel);
        int? NumberOf(Guid? build) => build is { } b && numbers.TryGetValue(b, out var number) ? number : null;
        return
        [
            .. offcuts.Select(o => new OffcutView(
                o.Id,
                o.Version,
                o.WidthMm,
                o.HeightMm,
                o.GaugeMm,
                o.Material,
                o.Place,
                NumberOf(o.FromBuild),
                o.KeptBy,
                o.KeptAt,
                o.UsedAt,
                o.UsedBy,
                NumberOf(o.UsedFor)
            )),
        ];
    }
}

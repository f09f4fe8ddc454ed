using System.Text.Json;
using System.Text.Json.Nodes;
using FirstCoat.Core.Bench;

namespace FirstCoat.Server.Rooms;

/// <summary>The bench: calculations one at a time.</summary>
public static class BenchEndpoints
{
    public static void MapBench(this RouteGroupBuilder api) =>
        api.MapPost("/bench/{calc}", (string calc, JsonElement input) =>
            {
                using var question = JsonDocument.Parse(
                    new JsonObject { ["calc"] = calc, ["in"] = JsonNode.Parse(input.GetRawText()) }.ToJsonString()
                );
                return Results.Json(BenchCalculations.Answer(question.RootElement));
            })
            .RequireAuthorization(Policies.Anyone)
            .WithName("bench");
}

using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace FirstCoat.Core.Bench;

/// <summary>
/// The calculations of the job as questions and answers in JSON. Names are camelCase with the unit last; money is
/// decimal text. An adapter: the sums themselves are in the rooms.
/// </summary>
public static class BenchCalculations
{
    private static readonly IReadOnlyDictionary<string, Func<Question, JsonNode>> Known = HoursAndMoney
        .All.Concat(TimeAndForecast.All)
        .Concat(SheetAndDoors.All)
        .Concat(FitAndFrame.All)
        .Concat(WheelsAndStock.All)
        .ToDictionary();

    /// <summary>Names of all calculations.</summary>
    public static IEnumerable<string> Names => Known.Keys;

    /// <summary>Answers one question.</summary>
    /// <param name="question"><c>{"calc": name, "in": {...}}</c></param>
    /// <returns><c>{"out": {...}}</c>, where a refusal is <c>{"refused": field, "why": sentence}</c>.</returns>
    public static JsonNode Answer(JsonElement question)
    {
        JsonNode result;
        try
        {
            var q = new Question(question);
            var name = q.Text("calc");
            Refusal.When(!Known.ContainsKey(name), "calc", $"There is no calculation called {name}.");
            result = Known[name](q.Object("in"));
        }
        catch (Refusal refusal)
        {
            result = new JsonObject { ["refused"] = refusal.Field, ["why"] = refusal.Message };
        }
        catch (OverflowException)
        {
            result = new JsonObject { ["refused"] = "in", ["why"] = "A figure is too large to compute with." };
        }

        return new JsonObject { ["out"] = result };
    }

    /// <summary>Answers a list of questions in order; one bad question never stops the others.</summary>
    public static JsonArray AnswerAll(JsonElement questions)
    {
        Refusal.When(questions.ValueKind != JsonValueKind.Array, "questions", "The questions must be a list.");
        return new(questions.EnumerateArray().Select(q => (JsonNode?)Answer(q)).ToArray());
    }

    internal static string Amount(decimal amount) => amount.ToString("0.00", CultureInfo.InvariantCulture);

    internal static JsonObject Map<T>(IEnumerable<T> items, Func<T, string> key, Func<T, JsonNode?> value) =>
        new(items.Select(i => KeyValuePair.Create(key(i), value(i))));

    internal static JsonArray Array<T>(IEnumerable<T> items, Func<T, JsonNode?> value) =>
        new(items.Select(value).ToArray());
}

using System.Globalization;
using System.Text.Json;
using FirstCoat.Core.Bench;

namespace FirstCoat.Core.Tests.Bench;

/// <summary>The bench answers the worked numbers of the arithmetic, refusals included.</summary>
public sealed class WorkedNumbersTests
{
    private static readonly JsonDocument Samples = JsonDocument.Parse(
        File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Bench", "worked-numbers.json"))
    );

    public static TheoryData<int, string> Cases()
    {
        var data = new TheoryData<int, string>();
        var i = 0;
        foreach (var sample in Samples.RootElement.EnumerateArray())
        {
            data.Add(i++, sample.GetProperty("calc").GetString()!);
        }

        return data;
    }

    [Theory, MemberData(nameof(Cases))]
    public void A_worked_number_comes_out(int index, string calc)
    {
        var sample = Samples.RootElement[index];
        var answer = BenchCalculations.Answer(sample)["out"]!;
        using var parsed = JsonDocument.Parse(answer.ToJsonString());
        var wanted = sample.GetProperty("out");
        if (wanted.TryGetProperty("refused", out var field))
        {
            parsed.RootElement.GetProperty("refused").GetString().ShouldBe(field.GetString(), calc);
            parsed.RootElement.GetProperty("why").GetString().ShouldNotBeNullOrWhiteSpace();
            return;
        }

        Same(parsed.RootElement, wanted, sample.GetProperty("tol").GetDouble(), calc);
    }

    [Fact]
    public void An_unknown_name_is_refused_and_does_not_stop_the_others()
    {
        using var questions = JsonDocument.Parse(
            """[{"calc":"labour.magic","in":{}},{"calc":"money.tooling","in":{"tooling":"1201","price":"95.00","unitCost":"45.00"}},7]"""
        );
        var answers = BenchCalculations.AnswerAll(questions.RootElement);
        answers[0]!["out"]!["refused"]!.GetValue<string>().ShouldBe("calc");
        answers[1]!["out"]!["sets"]!.GetValue<long>().ShouldBe(25);
        answers[2]!["out"]!["refused"]!.GetValue<string>().ShouldBe("calc");
    }

    [Theory]
    [InlineData(
        """{"calc":"labour.minutes","in":{"start":"2025-03-03T08:00:30+01:00","stop":"2025-03-03T09:00+01:00","rounding":"none"}}""",
        "start"
    )]
    [InlineData(
        """{"calc":"labour.minutes","in":{"start":"2025-03-03T08:00","stop":"2025-03-03T09:00+01:00","rounding":"none"}}""",
        "start"
    )]
    [InlineData(
        """{"calc":"labour.minutes","in":{"start":"2025-03-03T08:00+01:00","stop":"2025-03-04T08:01+01:00","rounding":"none"}}""",
        "stop"
    )]
    [InlineData(
        """{"calc":"labour.minutes","in":{"start":"2025-03-03T08:00+01:00","stop":"2025-03-03T09:00+01:00","rounding":"up"}}""",
        "rounding"
    )]
    [InlineData(
        """{"calc":"progress.earnedValue","in":{"stages":[{"name":"a","bac":"NaN","pv":"1","ev":"1","ac":"1"}]}}""",
        "bac"
    )]
    [InlineData(
        """{"calc":"calendar.add","in":{"calendar":{"week":{}},"from":"2025-03-07T15:00","minutes":10}}""",
        "week"
    )]
    [InlineData(
        """{"calc":"calendar.add","in":{"calendar":{"week":{"mon":[{"from":"08:00","to":"12:00"},{"from":"11:00","to":"15:00"}]}},"from":"2025-03-07T15:00","minutes":10}}""",
        "week"
    )]
    [InlineData(
        """{"calc":"calendar.add","in":{"calendar":{"week":{"mon":[{"from":"08:00","to":"12:00","breaks":[["12:00","12:30"]]}]}},"from":"2025-03-07T15:00","minutes":1.5}}""",
        "breaks"
    )]
    [InlineData(
        """{"calc":"money.tooling","in":{"tooling":"99999999999999999999999999999","price":"1","unitCost":"1"}}""",
        "tooling"
    )]
    [InlineData("""{"calc":"money.tooling","in":{"tooling":"ten","price":"1","unitCost":"1"}}""", "tooling")]
    public void A_bad_question_names_its_field(string question, string field)
    {
        using var q = JsonDocument.Parse(question);
        BenchCalculations.Answer(q.RootElement)["out"]!["refused"]!.GetValue<string>().ShouldBe(field);
    }

    private static void Same(JsonElement got, JsonElement wanted, double tolerance, string at)
    {
        switch (wanted.ValueKind)
        {
            case JsonValueKind.Object:
                got.EnumerateObject()
                    .Select(p => p.Name)
                    .Order()
                    .ShouldBe(wanted.EnumerateObject().Select(p => p.Name).Order(), at);
                foreach (var p in wanted.EnumerateObject())
                {
                    Same(got.GetProperty(p.Name), p.Value, tolerance, $"{at}.{p.Name}");
                }

                break;
            case JsonValueKind.Array:
                got.GetArrayLength().ShouldBe(wanted.GetArrayLength(), at);
                for (var i = 0; i < wanted.GetArrayLength(); i++)
                {
                    Same(got[i], wanted[i], tolerance, string.Create(CultureInfo.InvariantCulture, $"{at}[{i}]"));
                }

                break;
            case JsonValueKind.Number:
                got.GetDouble().ShouldBe(wanted.GetDouble(), Math.Max(tolerance, 1e-9), at);
                break;
            default:
                got.ToString().ShouldBe(wanted.ToString(), at);
                break;
        }
    }
}

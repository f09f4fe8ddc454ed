using System.Text;
using System.Text.Json;
using CsCheck;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Plan.Files;
using FirstCoat.Core.Plan.Plain;

namespace FirstCoat.Core.Tests.Plan.Files;

/// <summary>The files that the documentation describes.</summary>
public sealed class ShopFileTests
{
    private static readonly List<string> Examples = File.ReadAllText(
            Path.Combine(AppContext.BaseDirectory, "docs", "plan-format.md")
        )
        .Split("```json")
        .Skip(1)
        .Select(s => s.Split("```")[0])
        .ToList();

    private static PlanProblem Read(string json) => ShopFileReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(json)));

    [Fact]
    public void The_documented_shop_is_planned()
    {
        var problem = Read(Examples[0]);
        var answer = ShopFileAnswer.Of(problem, PlanImprovement.Search(problem, 0));
        answer.Unplanned.ShouldBeEmpty();
        // 240 minutes at a pace of 1.1 from Thursday 08:00, past the break; the primer follows within its window.
        answer.Operations["blast"].Finish.ShouldBe("2026-03-05T12:54");
        answer.Operations["prime"].Start.ShouldBe("2026-03-05T12:54");
        // Three days of a plater who works Tuesdays and Wednesdays: 10, 11 and 17 March.
        answer.Operations["plate"].Finish.ShouldBe("2026-03-18T00:00");
        answer.Operations["prime"].Reason.ShouldBe(new("operation", "comes after blast", "blast"));
    }

    [Fact]
    public void The_documented_plain_problem_is_read() =>
        PlainReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(Examples[1]))).Builds[0].Operations.Count.ShouldBe(6);

    [Fact]
    public void The_schema_names_every_field_of_the_documented_shop()
    {
        using var schema = JsonDocument.Parse(
            File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "docs", "plan-format.schema.json"))
        );
        using var example = JsonDocument.Parse(Examples[0]);
        Known(example.RootElement, schema.RootElement, "");

        static void Known(JsonElement value, JsonElement schema, string path)
        {
            if (value.ValueKind == JsonValueKind.Object)
            {
                foreach (var field in value.EnumerateObject())
                {
                    schema
                        .GetProperty("properties")
                        .TryGetProperty(field.Name, out var inner)
                        .ShouldBeTrue($"{path}.{field.Name}");
                    Known(field.Value, inner, $"{path}.{field.Name}");
                }
            }
            else if (value.ValueKind == JsonValueKind.Array)
            {
                value.EnumerateArray().ToList().ForEach(v => Known(v, schema.GetProperty("items"), path));
            }
        }
    }

    [Theory]
    [InlineData("\"now\": \"2026-03-05T08:00\"", "\"now\": \"soon\"", "now", "a wall time")]
    [InlineData("\"zone\": \"x\"", "", "", "")]
    [InlineData(
        "\"from\": \"08:00\", \"to\": \"16:30\"",
        "\"from\": \"25:00\", \"to\": \"16:30\"",
        "calendar.shifts[0].from",
        "a time such as"
    )]
    [InlineData(
        "\"supplier\": \"plater\"",
        "\"supplier\": \"nobody\"",
        "builds[0].operations[2].supplier",
        "no supplier \"nobody\""
    )]
    [InlineData("\"minutes\": 240", "\"minutes\": -1", "builds[0].operations[0].minutes", "a whole number")]
    [InlineData("\"id\": \"prime\"", "\"id\": \"blast\"", "builds", "stands here twice")]
    [InlineData("\"monday\", \"tuesday\"", "\"moonday\", \"tuesday\"", "calendar.shifts[0].days", "no day \"moonday\"")]
    public void A_bad_file_is_answered_with_the_place(string part, string bad, string path, string says)
    {
        if (path.Length == 0)
        {
            // Without a zone the times are the shop's wall times as they stand.
            Read(Examples[0]).Calendar.Local(Read(Examples[0]).Now).Hour.ShouldBe(8);
            return;
        }

        Examples[0].ShouldContain(part);
        var fault = Should.Throw<PlanFileFault>(() => Read(Examples[0].Replace(part, bad)));
        fault.Path.ShouldBe(path);
        fault.Message.ShouldContain(says);
    }

    [Fact]
    public void What_is_written_is_read_as_the_same_plan() =>
        AnyShop.Problems.Sample(
            problem =>
            {
                var (plan, again) = (
                    new Planner().Plan(problem),
                    new Planner().Plan(Read(ShopFileWriter.Write(problem).ToJsonString()))
                );
                again
                    .Operations.Values.Select(o => (o.Id, o.Start, o.Finish, o.Person, o.Reason.Text))
                    .ShouldBe(plan.Operations.Values.Select(o => (o.Id, o.Start, o.Finish, o.Person, o.Reason.Text)));
                again.Unplanned.ShouldBe(plan.Unplanned);
            },
            iter: 100
        );

    [Fact]
    public void The_documented_shop_survives_writing()
    {
        var written = ShopFileWriter.Write(Read(Examples[0])).ToJsonString();
        ShopFileWriter.Write(Read(written)).ToJsonString().ShouldBe(written);
        JsonSerializer
            .Serialize(ShopFileAnswer.Of(Read(written), PlanImprovement.Search(Read(written), 0)))
            .ShouldBe(
                JsonSerializer.Serialize(
                    ShopFileAnswer.Of(Read(Examples[0]), PlanImprovement.Search(Read(Examples[0]), 0))
                )
            );
    }

    [Fact]
    public void A_comparison_says_who_gains_and_who_loses()
    {
        var problem = Read(Examples[0]);
        var later = problem with { Now = problem.Now + 1440 };
        var compared = PlanComparison.Of(
            new Planner().Plan(problem),
            new Planner().Plan(
                later with
                {
                    Builds = [later.Builds[0] with { Operations = later.Builds[0].Operations.Take(2).ToList() }],
                }
            )
        );
        var move = compared.Moves.ShouldHaveSingleItem();
        // From Wednesday the 18th 00:00 to Friday the 6th 14:54.
        move.Days.ShouldBe(-11.4m);
        (compared.DaysSooner, compared.IsBetter).ShouldBe((11.4m, true));
        (compared with { WeightedBefore = 2, WeightedAfter = 2.2 }).IsBetter.ShouldBeFalse("later, though done sooner");
        (compared with { Moves = [move with { Before = move.After, After = move.Before }] }).IsBetter.ShouldBeFalse(
            "no less late, and done later"
        );
    }
}

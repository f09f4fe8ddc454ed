using CsCheck;
using FirstCoat.Core.Plan.Files;
using FirstCoat.Core.Plan.Plain;
using FirstCoat.Optimizer;

namespace FirstCoat.Core.Tests.Plan.Plain;

/// <summary>Plain problems from the file to the answer.</summary>
public sealed class PlainPlannerTests
{
    private const string TwoDoors = """
        { "name": "two doors",
          "people":   [ {"id": "p1", "trades": ["metal", "paint"]}, {"id": "p2", "trades": ["metal"]} ],
          "stations": [ {"id": "booth", "kind": "booth", "count": 1}, {"id": "bay", "kind": "bay", "count": 2} ],
          "builds":   [ {"id": "b1", "due": 50, "weight": 3, "notBefore": 0,
              "oneAtATime": [["b1.left", "b1.right"]],
              "operations": [
                {"id": "b1.left",  "duration": 16, "crew": [{"trade": "metal", "count": 1}], "station": "bay"},
                {"id": "b1.right", "duration": 16, "crew": [{"trade": "metal", "count": 1}], "station": "bay"},
                {"id": "b1.mask",  "duration": 4,  "crew": [{"trade": "paint", "count": 1}],
                 "after": [{"op": "b1.left", "minLag": 0}, {"op": "b1.right", "minLag": 0}],
                 "hold": {"station": "booth", "until": "b1.bake"}},
                {"id": "b1.spray", "duration": 6,  "crew": [{"trade": "paint", "count": 1}],
                 "after": [{"op": "b1.mask", "minLag": 0, "maxLag": 8}]},
                {"id": "b1.bake",  "duration": 12, "after": [{"op": "b1.spray", "minLag": 2}]},
                {"id": "b1.trim",  "duration": 40, "outside": true, "notBefore": 8} ] } ] }
        """;

    [Fact]
    public void Two_doors_one_side_at_a_time_end_six_quarters_late()
    {
        // 16 + 16 for the sides, 4 mask, 6 spray, 2 flash, 12 bake: 56, due 50, weight 3.
        var problem = PlainProblems.Read(TwoDoors);
        var answer = PlainPlanner.Plan(problem, 0);
        answer.Objective.ShouldBe(new(18, 56));
        answer.Operations["b1.mask"].Start.ShouldBe(32);
        answer.Operations["b1.mask"].Hold.ShouldBe("booth");
        answer.Operations["b1.bake"].Start.ShouldBe(44);
        answer.Operations["b1.trim"].Start.ShouldBe(8);
        PlainCheck.Breaches(problem, answer).ShouldBeEmpty();
    }

    [Fact]
    public void The_solver_proves_that_nothing_is_better()
    {
        var answer = PlainPlanner.Plan(PlainProblems.Read(TwoDoors), 10);
        answer.Bound.ShouldBe(new(18, 56));
    }

    /// <summary>Where people have several trades, the decoder would send others than the solver and lose what it
    /// found: 488 instead of the proven 440.</summary>
    [Fact]
    public void What_the_solver_finds_is_given_back_people_and_all()
    {
        var file = Path.Combine(AppContext.BaseDirectory, "Plan", "Plain", "several-trades.json");
        var problem = PlainProblems.Read(File.ReadAllText(file));
        var answer = PlainPlanner.Plan(problem, 60);
        answer.Objective.WeightedLateness.ShouldBe(440);
        answer.Bound.WeightedLateness.ShouldBe(440);
        PlainCheck.Breaches(problem, answer).ShouldBeEmpty();
    }

    [Fact]
    public void Stations_of_a_kind_are_named_one_by_one()
    {
        var problem = PlainProblems.Read(
            """
            { "people": [], "stations": [ {"id": "front", "kind": "bay"}, {"id": "back", "kind": "bay"} ],
              "builds": [ {"id": "b", "due": 9, "operations": [
                {"id": "x", "duration": 5, "station": "bay"}, {"id": "y", "duration": 3, "station": "bay"},
                {"id": "z", "duration": 2, "station": "bay", "after": [{"op": "y"}]} ] } ] }
            """
        );
        var answer = PlainPlanner.Plan(problem, 0);
        (answer.Operations["x"].Station == "front").ShouldBe(answer.Operations["y"].Station == "back");
        answer.Operations["z"].Station.ShouldBe(answer.Operations["y"].Station, "the other is still in use");
        PlainCheck.Breaches(problem, answer).ShouldBeEmpty();
    }

    [Fact]
    public void Whatever_the_problem_every_constraint_is_kept_and_the_same_problem_gives_the_same_plan() =>
        PlainProblems.Any.Sample(
            problem =>
            {
                var answer = PlainPlanner.Plan(problem, 0);
                PlainCheck.Breaches(problem, answer).ShouldBeEmpty();
                PlainPlanner
                    .Plan(problem, 0)
                    .Operations.ToDictionary(o => o.Key, o => o.Value.Start)
                    .ShouldBe(answer.Operations.ToDictionary(o => o.Key, o => o.Value.Start));
            },
            iter: 400
        );

    [Fact]
    public void Improving_never_makes_it_worse_and_never_breaks_a_constraint() =>
        PlainProblems.Any.Sample(
            problem =>
            {
                var (now, later) = (PlainPlanner.Plan(problem, 0), PlainPlanner.Plan(problem, 0.15));
                PlainCheck.Breaches(problem, later).ShouldBeEmpty();
                (later.Objective.WeightedLateness, later.Objective.Makespan)
                    .CompareTo((now.Objective.WeightedLateness, now.Objective.Makespan))
                    .ShouldBeLessThanOrEqualTo(0);
            },
            iter: 12
        );

    [Fact]
    public void The_check_itself_sees_what_is_wrong()
    {
        var problem = PlainProblems.Read(TwoDoors);
        var answer = PlainPlanner.Plan(problem, 0);
        Moved("b1.right", 4).ShouldContain(b => b.StartsWith("one at a time"));
        Moved("b1.spray", 45).ShouldContain(b => b.Contains("too late after b1.mask"));
        Moved("b1.trim", 7).ShouldContain(b => b.Contains("before it may"));
        Moved("b1.bake", 41).ShouldContain(b => b.Contains("too soon after b1.spray"));

        IReadOnlyList<string> Moved(string id, int start) =>
            PlainCheck.Breaches(
                problem,
                answer with
                {
                    Operations = answer.Operations.ToDictionary(
                        o => o.Key,
                        o => o.Key == id ? o.Value with { Start = start } : o.Value
                    ),
                }
            );
    }

    [Theory]
    [InlineData("{", "", "this is not JSON")]
    [InlineData("""{"people": [], "stations": []}""", "builds", "is missing")]
    [InlineData(
        """{"people": [], "stations": [], "builds": [{"id": "a", "due": "soon", "operations": []}]}""",
        "builds[0].due",
        "a whole number"
    )]
    [InlineData(
        """{"people": [], "stations": [], "builds": [{"id": "a", "due": 1, "operations": [{"id": "x", "duration": 1, "after": [{"op": "y"}]}]}]}""",
        "builds[0].operations[0].after[0].op",
        "no operation \"y\""
    )]
    [InlineData(
        """{"people": [], "stations": [], "builds": [{"id": "a", "due": 1, "operations": [{"id": "x", "duration": 1, "crew": [{"trade": "glass"}]}]}]}""",
        "builds[0].operations[0].crew[0].trade",
        "nobody has the trade \"glass\""
    )]
    [InlineData(
        """{"people": [], "stations": [], "builds": [{"id": "a", "due": 1, "operations": [{"id": "x", "duration": 1, "station": "booth"}]}]}""",
        "builds[0].operations[0].station",
        "no station \"booth\""
    )]
    public void A_bad_file_is_answered_with_the_place(string json, string path, string says)
    {
        var fault = Should.Throw<PlanFileFault>(() => PlainProblems.Read(json));
        fault.Path.ShouldBe(path);
        fault.Message.ShouldContain(says);
    }

    [Fact]
    public void Operations_that_wait_for_each_other_are_named()
    {
        var json =
            """{"people": [], "stations": [], "builds": [{"id": "a", "due": 1, "operations": [{"id": "x", "duration": 1, "after": [{"op": "z"}]}, {"id": "y", "duration": 1, "after": [{"op": "x"}]}, {"id": "z", "duration": 1, "after": [{"op": "y"}]}]}]}""";
        Should
            .Throw<PlanFileFault>(() => PlainPlanner.Plan(PlainProblems.Read(json), 0))
            .Message.ShouldContain("these wait for each other");
    }

    [Fact]
    public void A_window_that_a_chain_cannot_keep_is_named_with_the_chain()
    {
        var json = """
            {"people": [], "stations": [], "builds": [{"id": "a", "due": 1, "operations": [
              {"id": "blast", "duration": 4}, {"id": "repair", "duration": 10, "after": [{"op": "blast"}]}, {"id": "extra", "duration": 3},
              {"id": "prime", "duration": 2, "after": [{"op": "blast", "maxLag": 6}, {"op": "repair"}, {"op": "extra"}]}]}]}
            """;
        var message = Should.Throw<PlanFileFault>(() => PlainPlanner.Plan(PlainProblems.Read(json), 0)).Message;
        message.ShouldContain("prime starts at most 6 after blast");
        message.ShouldContain("prime starts at least 0 after repair");
        message.ShouldNotContain("extra");
    }

    [Fact]
    public void A_hold_that_keeps_what_its_own_build_needs_is_named()
    {
        var json = """
            {"people": [], "stations": [{"id": "booth"}], "builds": [{"id": "a", "due": 1, "operations": [
              {"id": "mask", "duration": 4, "hold": {"station": "booth", "until": "bake"}}, {"id": "spray", "duration": 10, "station": "booth", "after": [{"op": "mask"}]},
              {"id": "bake", "duration": 2, "after": [{"op": "spray"}]}]}]}
            """;
        var message = Should.Throw<PlanFileFault>(() => PlainPlanner.Plan(PlainProblems.Read(json), 0)).Message;
        message.ShouldContain("mask holds booth until bake");
        message.ShouldContain("spray takes booth");
    }

    [Fact]
    public void Turns_within_a_hold_are_found_even_where_the_first_do_not_go()
    {
        // Both follow the opener within its window, by the same person: only the short one first fits.
        var json = """
            {"people": [{"id": "p", "trades": ["paint"]}], "stations": [], "builds": [{"id": "a", "due": 1, "operations": [
              {"id": "mix", "duration": 1},
              {"id": "long", "duration": 10, "crew": [{"trade": "paint"}], "after": [{"op": "mix", "maxLag": 4}]},
              {"id": "short", "duration": 3, "crew": [{"trade": "paint"}], "after": [{"op": "mix", "maxLag": 4}]}]}]}
            """;
        var problem = PlainProblems.Read(json);
        var answer = PlainPlanner.Plan(problem, 0);
        PlainCheck.Breaches(problem, answer).ShouldBeEmpty();
        answer.Operations["short"].Start.ShouldBe(1);
    }
}

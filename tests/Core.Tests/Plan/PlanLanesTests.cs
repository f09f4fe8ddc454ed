using CsCheck;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>The plan in lanes, what follows what, and what another day costs.</summary>
public sealed class PlanLanesTests
{
    private const long Hour = 60;

    /// <summary>Monday at eight.</summary>
    private static readonly long Now = AnyShop.Calendar.Minute(new LocalDateTime(2026, 3, 2, 8, 0));

    private static readonly PlanPerson Ann = new("ann", "Ann", new HashSet<string> { "paint" }, Blocked.None);

    private static PlanOperation Op(string id, long hours, params PlanLink[] after) =>
        new()
        {
            Id = id,
            Name = $"{id}'s name",
            Minutes = hours * Hour,
            Trade = "paint",
            After = after,
        };

    private static PlanProblem Shop(params PlanOperation[] operations) =>
        new(Now, AnyShop.Calendar, [Ann], [], [new("one", "One", operations)]);

    private static PlanLanes Lanes(PlanProblem problem) => PlanLanes.Of(problem, new Planner().Plan(problem));

    [Fact]
    public void A_block_is_worked_by_the_day_with_its_break_left_in()
    {
        var block = Lanes(Shop(Op("a", 12))).Blocks.ShouldHaveSingleItem();
        block.Name.ShouldBe("a's name");
        block.People.ShouldBe(["ann"]);
        block.Hours.Count.ShouldBe(2);
        block.Hours[0].Start.ShouldBe(block.Start);
        block.Hours[^1].End.ShouldBe(block.Finish);
        // One stretch a day: a night lies between them.
        (block.Hours[1].Start - block.Hours[0].End).ShouldBeGreaterThan(8 * Hour);
    }

    [Fact]
    public void It_dries_as_long_as_the_longest_that_waits_for_it_by_the_clock()
    {
        var blocks = Lanes(
            Shop(
                Op("wet", 2),
                Op("sand", 1, new PlanLink("wet", 24 * Hour)),
                Op("tape", 1, new PlanLink("wet", 2 * Hour))
            )
        )
            .Blocks.ToDictionary(b => b.Operation);
        blocks["wet"].DryUntil.ShouldBe(blocks["wet"].Finish + 24 * Hour);
        blocks["sand"].DryUntil.ShouldBeNull();
        // What must pass in working hours, or from a start, is no drying.
        Lanes(Shop(Op("a", 2), Op("b", 1, new PlanLink("a", 4 * Hour) { Working = true })))
            .Blocks.ShouldAllBe(b => b.DryUntil == null);
        Lanes(Shop(Op("a", 2), Op("b", 1, new PlanLink("a", 4 * Hour) { FromStart = true })))
            .Blocks.ShouldAllBe(b => b.DryUntil == null);
    }

    [Fact]
    public void Only_an_open_question_makes_it_ask()
    {
        var asked = Op("a", 2) with { Waits = [new(WaitKind.Decision, Now + 1440, "Which red?", "d")] };
        Lanes(Shop(asked)).Blocks.ShouldHaveSingleItem().Asks.ShouldBeTrue();
        Lanes(Shop(asked with { Waits = [new(WaitKind.Part, Now + 1440, "grille", "p")] }))
            .Blocks.ShouldHaveSingleItem()
            .Asks.ShouldBeFalse();
    }

    [Fact]
    public void Work_beside_the_vehicle_lies_in_a_place_of_its_kind_that_is_free()
    {
        var two = new[] { Ann, Ann with { Id = "bea", Name = "Bea" } };
        PlanOperation Bench(string id) => Op(id, 4) with { Station = "bench" };
        var problem = Shop(Bench("a"), Bench("b")) with
        {
            People = two,
            Stations =
            [
                new("bench", 1) { Id = "b1", Name = "Bench 1" },
                new("bench", 1) { Id = "b2", Name = "Bench 2" },
            ],
        };
        var blocks = Lanes(problem).Blocks;
        blocks.Select(b => b.Start).Distinct().ShouldHaveSingleItem();
        blocks.Select(b => b.Place).Order().ShouldBe(["b1", "b2"]);
    }

    [Fact]
    public void What_follows_has_the_room_that_there_is()
    {
        var problem = Shop(
            Op("a", 4),
            Op("b", 2, new PlanLink("a", 0)),
            Op("late", 1, new PlanLink("a", 0)) with
            {
                Trade = null,
                Waits = [new(WaitKind.NotBefore, Now + 14 * 1440, "not before then")],
            }
        );
        var plan = new Planner().Plan(problem);
        var after = PlanLanes.After(problem, plan, "a");
        after.Select(f => f.Operation).ShouldBe(["b", "late"]);
        after[0].RoomDays.ShouldBe(0);
        after[1]
            .RoomDays.ShouldBe(
                InDays.Of(plan.Operations["late"].Start - plan.Operations["a"].Finish),
                "what waits for a day of its own has room until then"
            );
        PlanLanes.After(problem, plan, "b").ShouldBeEmpty();
        PlanLanes.After(problem, plan, "nothing").ShouldBeEmpty();
    }

    [Fact]
    public void What_shares_a_person_follows_too_and_says_over_whom()
    {
        var problem = Shop(Op("a", 4)) with
        {
            Builds = [new("one", "One", [Op("a", 4)]), new("two", "Two", [Op("z", 4)])],
        };
        var plan = new Planner().Plan(problem);
        var first = plan.Operations["a"].Start < plan.Operations["z"].Start ? "a" : "z";
        PlanLanes.After(problem, plan, first).ShouldHaveSingleItem().Over.ShouldBe("Ann");
    }

    [Fact]
    public void Another_day_costs_the_days_it_is_later_and_not_more()
    {
        var problem = Shop(Op("a", 8), Op("b", 8, new PlanLink("a", 0)));
        var then = StartedOn.Of(problem, new Planner(), "a", Now + 7 * 1440)!;
        then.Start.ShouldBe(Now + 7 * 1440);
        var move = then.Moves.ShouldHaveSingleItem();
        move.Build.ShouldBe("one");
        move.Days.ShouldBe(7);
        then.Sooner.ShouldBeFalse();
    }

    [Fact]
    public void Nothing_starts_sooner_than_it_can_or_in_the_past()
    {
        var problem = Shop(Op("a", 8), Op("b", 8, new PlanLink("a", 0)));
        var b = new Planner().Plan(problem).Operations["b"];
        var then = StartedOn.Of(problem, new Planner(), "b", Now)!;
        then.Sooner.ShouldBeTrue();
        then.Start.ShouldBe(b.Start);
        then.Moves.ShouldBeEmpty();
        var same = StartedOn.Of(problem, new Planner(), "b", b.Start)!;
        (same.Sooner, same.Moves.Count).ShouldBe((false, 0));
        Should.Throw<Refusal>(() => StartedOn.Of(problem, new Planner(), "b", Now - 1)).Field.ShouldBe("on");
        StartedOn.Of(problem, new Planner(), "nothing", Now).ShouldBeNull();
    }

    [Fact]
    public void A_day_that_was_said_before_gives_way_to_the_new_one()
    {
        var held = Op("a", 8) with { Waits = [new(WaitKind.NotBefore, Now + 14 * 1440, "not before")] };
        var problem = Shop(held, Op("b", 8, new PlanLink("a", 0)));
        new Planner().Plan(problem).Operations["a"].Start.ShouldBe(Now + 14 * 1440);
        var then = StartedOn.Of(problem, new Planner(), "a", Now + 7 * 1440)!;
        (then.Start, then.Sooner).ShouldBe((Now + 7 * 1440, false));
        then.Moves.ShouldHaveSingleItem().Days.ShouldBe(-7);
    }

    [Fact]
    public void Every_shop_lies_in_its_lanes_without_a_person_twice_at_once() =>
        ShopWithPlaces.Problems.Sample(
            problem =>
            {
                var plan = new Planner().Plan(problem);
                var lanes = PlanLanes.Of(problem, plan);
                lanes
                    .Blocks.Select(b => b.Operation)
                    .Order(StringComparer.Ordinal)
                    .ShouldBe(
                        plan.Operations.Values.Where(o =>
                                o.Finish > o.Start
                                && !problem.Builds.SelectMany(x => x.Operations).Any(x => x.Id == o.Id && x.UnderWay)
                            )
                            .Select(o => o.Id)
                            .Order(StringComparer.Ordinal)
                    );
                foreach (var block in lanes.Blocks)
                {
                    block.Hours.ShouldAllBe(h => h.Start >= block.Start && h.End <= block.Finish && h.End > h.Start);
                    plan.Operations[block.Operation].Place.ShouldBeOneOf(block.Place, null);
                    PlanLanes.After(problem, plan, block.Operation).ShouldAllBe(f => f.RoomDays >= 0);
                }

                foreach (var person in problem.People)
                {
                    var hours = lanes
                        .Blocks.Where(b => b.People.Contains(person.Id))
                        .SelectMany(b => b.Hours)
                        .OrderBy(h => h.Start)
                        .ToList();
                    hours.Zip(hours.Skip(1)).ShouldAllBe(p => p.First.End <= p.Second.Start);
                }

                lanes.Holds.ShouldAllBe(h => h.To == null || h.To > h.From);
            },
            iter: 40
        );
}

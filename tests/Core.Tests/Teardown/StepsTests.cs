using CsCheck;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Teardown;
using NodaTime;

namespace FirstCoat.Core.Tests.Teardown;

/// <summary>Taking apart step by step: order with reasons, times that are learned, and the way back.</summary>
public sealed class StepsTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 3, 2, 9, 0);
    private static readonly Guid Build = Guid.CreateVersion7();

    private static SubAssembly Door(
        PanelSide side = PanelSide.Left,
        Guid? build = null,
        AssemblyKind kind = AssemblyKind.Door
    )
    {
        var one = new SubAssembly
        {
            Id = Guid.CreateVersion7(),
            BuildId = build ?? Build,
            Kind = kind,
            Side = side,
            Name = side switch
            {
                PanelSide.Left => "Left door",
                PanelSide.Right => "Right door",
                _ => "Front end",
            },
        };
        one.Plan(Assemblies.Steps(kind));
        return one;
    }

    private static void Off(
        SubAssembly a,
        string step,
        int doing = 600,
        int finding = 0,
        Instant? at = null,
        Guid? bag = null
    ) => a.Close(step, bag, null, true, "", "", (doing, finding), "Nessa", at ?? Now);

    [Theory]
    [InlineData(AssemblyKind.Door)]
    [InlineData(AssemblyKind.FrontEnd)]
    public void The_shipped_steps_can_come_off_in_their_order(AssemblyKind kind)
    {
        var steps = Assemblies.Steps(kind);
        SubAssembly
            .Ordered(steps)!
            .Select(s => s.Key)
            .ShouldBe(steps.Select(s => s.Key), "the usual order keeps every reason");
        var one = Door(kind == AssemblyKind.FrontEnd ? PanelSide.Centre : PanelSide.Left, kind: kind);
        steps.ForEach(s => Off(one, s.Key));
        one.States.Count(s => s.IsOff).ShouldBe(steps.Count);
        steps.ShouldAllBe(s => s.After.All(a => a.Why.Length > 0) && s.Photos.Count > 0 && s.Minutes > 0);
    }

    [Fact]
    public void What_comes_first_is_named_with_its_reason_and_can_be_passed_with_one()
    {
        var door = Door();
        var refused = Should.Throw<Refusal>(() => Off(door, "regulator"));
        refused.Field.ShouldBe("outOfOrderWhy");
        refused.Message.ShouldContain("Door card, Rear glass channel");
        refused.Message.ShouldContain("it is reached through the card's opening");
        door.Close("regulator", null, null, true, "the skin is cut away", "", null, "Nessa", Now);
        door.State("regulator").OutOfOrderWhy.ShouldBe("the skin is cut away");
    }

    [Fact]
    public void The_chain_to_the_glass_is_the_longest_one()
    {
        // winder or rail, card, channel, regulator, glass.
        Door().Chain("glass").Select(s => s.Key).ShouldBe(["winder", "card", "channel", "regulator", "glass"]);
        var door = Door();
        Off(door, "winder");
        Off(door, "rail");
        door.Before("glass").Select(s => s.Key).ShouldBe(["regulator", "channel"]);
    }

    [Fact]
    public void A_step_is_closed_with_its_photo_or_by_saying_that_there_is_none()
    {
        var refused = Should.Throw<Refusal>(() => Door().Close("rail", null, null, false, "", "", null, "Nessa", Now));
        refused.Field.ShouldBe("photoId");
        refused.Message.ShouldContain("whole rail");
        var door = Door();
        var photo = Guid.CreateVersion7();
        door.Close("rail", null, photo, false, "", "", null, "Nessa", Now);
        door.State("rail").ShouldSatisfyAllConditions(s => s.PhotoId.ShouldBe(photo), s => s.NoPhoto.ShouldBeFalse());
        Should
            .Throw<Refusal>(() => door.Close("rail", null, photo, false, "", "", null, "Wil", Now))
            .Message.ShouldContain("Nessa has taken it off");
    }

    [Fact]
    public void The_clock_tells_doing_from_finding_out_and_only_one_runs()
    {
        var door = Door();
        door.Count("rail", StepClock.FindingOut, Now);
        door.Count("rail", StepClock.Doing, Now + Duration.FromSeconds(90));
        door.Count("winder", StepClock.Doing, Now + Duration.FromSeconds(300));
        door.State("rail")
            .ShouldSatisfyAllConditions(
                s => s.FindingSeconds.ShouldBe(90),
                s => s.DoingSeconds.ShouldBe(210),
                s => s.Clock.ShouldBe(StepClock.Stopped)
            );
        door.Close("winder", null, null, true, "", "", null, "Nessa", Now + Duration.FromSeconds(420));
        door.State("winder").DoingSeconds.ShouldBe(120);
        Should.Throw<Refusal>(() => door.Count("winder", StepClock.Doing, Now));
    }

    [Fact]
    public void The_second_door_is_expected_to_take_the_doing_of_the_first_by_the_shops_factor()
    {
        var (left, right) = (Door(), Door(PanelSide.Right));
        Off(left, "rail", doing: 1740, finding: 1020);
        // 29 minutes of doing, no pair on record: x 0.8 = 23.2; finding out is not done twice.
        var expected = new StepTimes([left, right]).Of(right, right.Steps.Single(s => s.Key == "rail"));
        (expected.Likely, expected.RestsOn).ShouldSatisfyAllConditions(
            x => x.Likely.ShouldBe(23.2, 1e-9),
            x => x.RestsOn.ShouldBe("the other side")
        );
        // One finished pair, 160 to 120: the factor is 0.7843 (arithmetic, by hand).
        var (l2, r2) = (Door(build: Guid.Empty), Door(PanelSide.Right, Guid.Empty));
        Off(l2, "rail", doing: 160 * 60);
        Off(r2, "rail", doing: 120 * 60, at: Now + Duration.FromHours(5));
        new StepTimes([left, right, l2, r2])
            .Of(right, right.Steps.Single(s => s.Key == "rail"))
            .Likely.ShouldBe(29 * 0.7843, 0.01);
    }

    [Fact]
    public void A_first_door_is_expected_to_take_what_others_took_or_else_the_rule_of_thumb()
    {
        var (first, other) = (Door(), Door(build: Guid.Empty));
        var card = first.Steps.Single(s => s.Key == "card");
        new StepTimes([first]).Of(first, card).ShouldBe(new StepTime(9, null, "rule of thumb"));
        Off(other, "winder");
        Off(other, "rail");
        Off(other, "card", doing: 900, finding: 300);
        new StepTimes([first, other]).Of(first, card).ShouldBe(new StepTime(20, null, "1 before"));
    }

    [Fact]
    public void Steps_that_wait_for_each_other_or_for_nothing_are_refused()
    {
        var list = new SubAssembly
        {
            Id = Guid.CreateVersion7(),
            BuildId = Build,
            Kind = AssemblyKind.List,
            Side = PanelSide.Centre,
            Name = "Dash",
        };
        TeardownStep Step(string key, params string[] after) =>
            new(
                key,
                key,
                "",
                key,
                1,
                null,
                "",
                false,
                null,
                [],
                [],
                [.. after.Select(a => new StepAfter(a, "it covers it"))],
                5
            );
        Should
            .Throw<Refusal>(() => list.Plan([Step("a", "b"), Step("b", "a")]))
            .Message.ShouldContain("wait for each other");
        Should.Throw<Refusal>(() => list.Plan([Step("a", "x")])).Field.ShouldBe("after");
        Should.Throw<Refusal>(() => list.Plan([Step("a"), Step("a")])).Field.ShouldBe("steps");
        list.Plan([Step("a"), Step("b", "a")]);
        list.Count("a", StepClock.Doing, Now);
        list.Count("a", StepClock.Stopped, Now + Duration.FromSeconds(5));
        Should.Throw<Refusal>(() => list.Plan([Step("b")])).Message.ShouldContain("was begun");
    }

    [Fact]
    public void Any_order_that_keeps_the_reasons_takes_everything_off_and_back_in_reverse() =>
        Gen.Int[0, 1_000_000]
            .Sample(
                seed =>
                {
                    var random = new Random(seed);
                    var door = Door();
                    var order = new List<string>();
                    while (order.Count < door.Steps.Count)
                    {
                        var free = door
                            .Steps.Where(s => !order.Contains(s.Key) && door.Before(s.Key).Count == 0)
                            .ToList();
                        var next = free[random.Next(free.Count)].Key;
                        Off(door, next, at: Now + Duration.FromMinutes(order.Count));
                        order.Add(next);
                    }

                    return Reassembly
                        .Of(Facts(door, [], []))
                        .Steps.Select(s => s.Step.Key)
                        .SequenceEqual(Enumerable.Reverse(order));
                },
                iter: 60
            );

    private static ReassemblyFacts Facts(
        SubAssembly of,
        List<Bag> bags,
        List<PartLine> parts,
        LocalDate? start = null,
        Dictionary<string, (LocalDate, LocalDate)>? away = null
    ) =>
        new(
            of,
            bags.ToDictionary(b => b.Id),
            parts,
            away ?? [],
            _ => new(14, 21, 8),
            _ => "Strand Trimmers",
            new StepTimes([of]),
            new(2026, 10, 14),
            start,
            8,
            d =>
                d.DayOfWeek is IsoDayOfWeek.Saturday ? d.PlusDays(-1)
                : d.DayOfWeek is IsoDayOfWeek.Sunday ? d.PlusDays(-2)
                : d,
            (d, n) => d.PlusDays(n)
        );

    private static Bag BagOf(string what, BagState state = BagState.OnShelf, string place = "C3-7")
    {
        var bag = new Bag
        {
            Id = Guid.CreateVersion7(),
            BuildId = Build,
            Code = 140,
            Side = PanelSide.Left,
            What = what,
            Pieces = [new("piece", 1)],
            OffBy = "Nessa",
            OffAt = Now,
        };
        bag.Move(state, place, null);
        return bag;
    }

    [Fact]
    public void What_was_destroyed_must_be_ordered_so_early_that_it_comes_eight_times_in_ten()
    {
        var door = Door();
        var bag = BagOf("Winder");
        Off(door, "winder", bag: bag.Id);
        var clips = new PartLine
        {
            Id = Guid.CreateVersion7(),
            BuildId = Build,
            BagId = bag.Id,
            Name = "clips",
            Quantity = 6,
            UnitCost = 1.30m,
        };
        // Needed Tuesday 24 November, three weeks at the eighth tenth: Tuesday 3 November. Likely here on 28 October,
        // late on 4 November.
        var list = Reassembly.Of(Facts(door, [bag], [clips], new(2026, 11, 24)));
        var lack = list.Steps.Single().Lacks.ShouldHaveSingleItem();
        (lack.How, lack.OrderBy, lack.Here, lack.HereLate, lack.Cost).ShouldBe(
            (Missing.ToBuy, new LocalDate(2026, 11, 3), new LocalDate(2026, 10, 28), new LocalDate(2026, 11, 4), 7.80m)
        );
        list.ToBuy.ShouldBe(7.80m);
        list.Steps[0].Late.ShouldBeFalse();
        // Needed on 2 November: ordered today it comes too late two times in ten.
        Reassembly.Of(Facts(door, [bag], [clips], new(2026, 11, 2))).Steps[0].Late.ShouldBeTrue();
    }

    [Fact]
    public void A_piece_at_a_supplier_is_missing_until_it_is_back_and_one_not_found_always()
    {
        var door = Door();
        var (handle, rail) = (BagOf("Winder", BagState.AtSupplier, "Corran Plating"), BagOf("Rail", BagState.NotFound));
        Off(door, "winder", bag: handle.Id);
        Off(door, "rail", at: Now + Duration.FromMinutes(9), bag: rail.Id);
        var list = Reassembly.Of(
            Facts(
                door,
                [handle, rail],
                [],
                new(2026, 11, 24),
                new() { ["Corran Plating"] = (new(2026, 11, 7), new(2026, 11, 27)) }
            )
        );
        list.Steps.Select(s => (s.Step.Key, s.Late)).ShouldBe([("rail", true), ("winder", true)]);
        list.Steps[1].Lacks[0].DaysInHand(new(2026, 11, 24)).ShouldBe(-3);
        door.PutBack("winder", true, Now);
        Reassembly
            .Of(Facts(door, [handle, rail], []))
            .ShouldSatisfyAllConditions(l => l.Done.ShouldBe(1), l => l.Steps[1].Lacks.ShouldBeEmpty());
    }

    [Fact]
    public void Lead_times_are_the_suppliers_own_when_there_are_enough_of_them()
    {
        LeadTimes.Of([], []).ShouldBe(new LeadTime(14, 21, 0));
        // 10 to 50 in steps of ten: the middle is 30, the eighth tenth lies at 42.
        LeadTimes.Of([10, 20, 30, 40, 50], [1]).ShouldBe(new LeadTime(30, 42, 5));
        LeadTimes.Of([100], [10, 20, 30, 40, 50]).Records.ShouldBe(5);
    }
}

using CsCheck;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Teardown;
using NodaTime;

namespace FirstCoat.Core.Tests.Teardown;

/// <summary>What came off: bags with a number and a side, where they are, and how they are found again.</summary>
public sealed class BagTests
{
    private static int _code = 200;

    private static Bag Bagged(
        string what,
        PanelSide side = PanelSide.Left,
        string from = "",
        List<BagPiece>? pieces = null,
        List<BagFastener>? fasteners = null,
        int? code = null
    )
    {
        var bag = new Bag
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Code = code ?? _code++,
            Side = side,
            What = what,
            From = from,
            Pieces = pieces ?? [new(what, 1)],
            Fasteners = fasteners ?? [],
            OffBy = "Nessa Kilbride",
            OffAt = Instant.FromUtc(2026, 3, 12, 9, 0),
        };
        bag.Move(BagState.OnShelf, "C3-7", null);
        return bag;
    }

    private static readonly BagFastener Screws = new("screw", "oval head", "M4 x 16", "chrome", 8, true, 0);

    [Fact]
    public void A_twin_is_the_same_thing_from_the_other_side_of_the_same_vehicle()
    {
        Bag One(PanelSide side, string what = "Door lock", Guid? build = null) =>
            new()
            {
                BuildId = build ?? Guid.Empty,
                Code = 101,
                Side = side,
                What = what,
                OffBy = "",
                OffAt = default,
            };
        One(PanelSide.Left).IsTwinOf(One(PanelSide.Right, "door lock")).ShouldBeTrue();
        One(PanelSide.Left).IsTwinOf(One(PanelSide.Left)).ShouldBeFalse();
        One(PanelSide.Left).IsTwinOf(One(PanelSide.Centre)).ShouldBeFalse();
        One(PanelSide.Left).IsTwinOf(One(PanelSide.Right, "Door seal")).ShouldBeFalse();
        One(PanelSide.Left).IsTwinOf(One(PanelSide.Right, build: Guid.CreateVersion7())).ShouldBeFalse();
    }

    [Fact]
    public void A_bag_is_called_by_its_number_and_side()
    {
        Bagged("Quarter window screws", code: 214)
            .ShouldSatisfyAllConditions(b => b.Label.ShouldBe("214 L"), b => b.Scan.ShouldBe("FC 214 L"));
        Bagged("Rear screen clips", PanelSide.Centre, code: 219).Label.ShouldBe("219");
        Screws.Words.ShouldBe("8 screws, oval head M4 x 16, chrome");
        new BagFastener("clip", "", "", "", 1, false, 1).Words.ShouldBe("1 clip");
    }

    [Theory]
    [InlineData(PanelSide.Left, "right catch", "pieces")]
    [InlineData(PanelSide.Left, "catch R", "pieces")]
    [InlineData(PanelSide.Right, "Left catch", "pieces")]
    [InlineData(PanelSide.Left, "left catch", null)]
    [InlineData(PanelSide.Left, "upright, bright trim", null)]
    [InlineData(PanelSide.Centre, "left and right hinge", null)]
    public void Left_and_right_cannot_share_a_bag(PanelSide side, string piece, string? refused)
    {
        var bag = Bagged("Window catch", side, pieces: [new(piece, 1)]);
        if (refused is null)
        {
            bag.Check();
        }
        else
        {
            Should.Throw<Refusal>(bag.Check).Field.ShouldBe(refused);
        }
    }

    [Fact]
    public void A_bag_holds_something_and_destroys_no_more_than_came_out()
    {
        Should.Throw<Refusal>(() => Bagged("x", pieces: []).Check()).Field.ShouldBe("pieces");
        Should.Throw<Refusal>(() => Bagged(" ").Check()).Field.ShouldBe("what");
        Should
            .Throw<Refusal>(() => Bagged("clips", fasteners: [Screws with { Destroyed = 9 }]).Check())
            .Field.ShouldBe("destroyed");
        Bagged("clips", pieces: [], fasteners: [Screws with { Destroyed = 8 }]).Check();
    }

    [Fact]
    public void A_place_is_an_address_or_words_and_only_what_lies_somewhere_has_one()
    {
        var bag = Bagged("Bumper irons");
        bag.Move(BagState.OnShelf, " b2-11 ", null);
        bag.Place.ShouldBe("B2-11");
        bag.Move(BagState.OnShelf, "yard container, left wall", null);
        bag.Place.ShouldBe("yard container, left wall");
        Should.Throw<Refusal>(() => bag.Move(BagState.OnShelf, " ", null)).Field.ShouldBe("place");
        bag.Move(BagState.OnCar, "", null);
        bag.Place.ShouldBe("");
    }

    [Fact]
    public void A_pattern_in_use_is_never_scrapped_nor_sold()
    {
        var bag = Bagged("Sill end, 40 cm");
        Should
            .Throw<Refusal>(() => bag.Move(BagState.Scrapped, "", "Left side: sill"))
            .Message.ShouldContain("Left side: sill");
        Should.Throw<Refusal>(() => bag.Move(BagState.Sold, "", "Left side: sill"));
        bag.Move(BagState.WithClient, "O. Brandvold", "Left side: sill");
        bag.Move(BagState.Scrapped, "", null);
        Should.Throw<Refusal>(() => bag.Move(BagState.OnShelf, "A1-1", null)).Field.ShouldBe("state");
    }

    [Fact]
    public void Every_piece_is_in_one_place_and_all_of_them_are_accounted_for() =>
        Gen.Select(Gen.Int[0, 12], Gen.Int[0, 9], Gen.Enum<BagState>())
            .List[0, 40]
            .Sample(
                drawn =>
                {
                    var bags = drawn
                        .Where(d => d.Item1 + d.Item2 > 0)
                        .Select(d =>
                        {
                            var bag = Bagged(
                                "part",
                                pieces: d.Item1 == 0 ? [] : [new("part", d.Item1)],
                                fasteners: d.Item2 == 0 ? [] : [Screws with { Count = d.Item2 }]
                            );
                            bag.Move(d.Item3, "somewhere", null);
                            return bag;
                        })
                        .ToList();
                    var counts = TeardownCounts.Of(bags);
                    counts.Pieces.Values.Sum().ShouldBe(counts.CameOff);
                    counts.Fasteners.ShouldBe(drawn.Sum(d => d.Item2));
                    counts.Bags.ShouldBe(bags.Count(b => b.State == BagState.OnShelf));
                },
                iter: 200
            );

    private static readonly List<Bag> Shelf =
    [
        Bagged("Quarter window screws", PanelSide.Left, "rear window frame to body", fasteners: [Screws], code: 314),
        Bagged("Quarter window screws", PanelSide.Right, "rear window frame to body", fasteners: [Screws], code: 344),
        Bagged("Quarter window frame", PanelSide.Left, "rear window", code: 312),
        Bagged(
            "Rear screen clips",
            PanelSide.Centre,
            "round the screen",
            [],
            [new("clip", "", "", "", 14, false, 1)],
            319
        ),
        Bagged(
            "Wing bolts",
            PanelSide.Right,
            "front wing to sill",
            [],
            [new("bolt", "hexagon", "M6 x 20", "zinc", 9, false, 0)],
            401
        ),
    ];

    private static List<int> Codes(string question) =>
        BagFinder
            .Find(question, Shelf.Select(BagEntry.Of).ToList())
            .Bags.Select(id => Shelf.Single(b => b.Id == id).Code)
            .ToList();

    [Theory]
    [InlineData("left rear window screws", new[] { 314 })]
    [InlineData("screws of the rear window, right", new[] { 344 })]
    [InlineData("FC 344 R", new[] { 344 })]
    [InlineData("314l", new[] { 314 })]
    [InlineData("319", new[] { 319 })]
    [InlineData("right fender bolts", new[] { 401 })]
    [InlineData("M6 x 20", new[] { 401 })]
    [InlineData("clip", new[] { 319 })]
    public void Anything_typed_or_scanned_finds_it(string question, int[] codes) => Codes(question).ShouldBe(codes);

    [Fact]
    public void What_nothing_answers_gives_the_nearest_and_says_so()
    {
        var found = BagFinder.Find("left rear window regulator", Shelf.Select(BagEntry.Of).ToList());
        found.Exact.ShouldBeFalse();
        found.Bags.Count.ShouldBe(3);
        Shelf.Single(b => b.Id == found.Bags[0]).Side.ShouldBe(PanelSide.Left);
        BagFinder.Find("carburettor", Shelf.Select(BagEntry.Of).ToList()).Bags.ShouldBeEmpty();
        Should.Throw<Refusal>(() => BagFinder.Find(" the of ", [])).Field.ShouldBe("q");
    }

    [Fact]
    public void A_question_is_read_into_number_side_and_words()
    {
        var reading = BagFinder.Read("Where is the left trunk lid's hinge bolts");
        (reading.Code, reading.Side, reading.Fasteners).ShouldBe((null, PanelSide.Left, true));
        reading.Words.ShouldContain("boot");
        BagFinder
            .Read("FC 214 L")
            .ShouldSatisfyAllConditions(
                r => r.Code.ShouldBe(214),
                r => r.Side.ShouldBe(PanelSide.Left),
                r => r.Words.ShouldBeEmpty()
            );
    }

    [Fact]
    public void Among_five_thousand_bags_the_exact_ones_are_found()
    {
        string[] what = ["door", "wing", "window", "lamp", "bumper", "seat", "dash", "screen", "hinge", "brake"];
        var bags = Enumerable
            .Range(0, 5000)
            .Select(i =>
                BagEntry.Of(
                    Bagged(
                        $"{what[i % 10]} {what[i / 10 % 10]} screws",
                        (PanelSide)(i % 3),
                        "rear, frame to body",
                        fasteners: [Screws],
                        code: 10_000 + i
                    )
                )
            )
            .ToList();
        BagFinder.Find("right window hinge screws", bags).Exact.ShouldBeTrue();
    }
}

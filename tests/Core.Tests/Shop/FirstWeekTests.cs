using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Tests.Shop;

/// <summary>What a shop enters in its first week: the list of first things, files, racks, walls, places that do not lie
/// on each other.</summary>
public sealed class FirstWeekTests
{
    private static ShopSettings Shop() =>
        new()
        {
            Name = "Tollan Wharf",
            Week = [.. Enumerable.Range(1, 5).Select(d => new DayShift((IsoDayOfWeek)d, new(8, 0), new(16, 30), []))],
        };

    private static Station Place(
        string name,
        StationKind kind = StationKind.Bay,
        int x = 0,
        int y = 0,
        int w = 4000,
        int d = 4000
    ) =>
        new()
        {
            Name = name,
            Kind = kind,
            XMm = x,
            YMm = y,
            WidthMm = w,
            DepthMm = d,
        };

    private static FirstFacts Facts(
        ShopSettings shop,
        List<Station>? stations = null,
        List<Person>? people = null,
        int suppliers = 0,
        int accounts = 1,
        int withPeople = 0,
        int builds = 0,
        params int[] lost
    ) => new(shop, stations ?? [], people ?? [], suppliers, accounts, withPeople, builds, lost);

    private static (FirstThingState State, string Says) Of(FirstThingKey key, FirstFacts facts) =>
        FirstThings.Of(facts).Where(t => t.Key == key).Select(t => (t.State, t.Says)).Single();

    [Fact]
    public void An_empty_shop_has_everything_before_it_but_its_week()
    {
        var things = FirstThings.Of(Facts(Shop()));
        things
            .Select(t => (t.Key, t.State))
            .ShouldBe([
                (FirstThingKey.Shop, FirstThingState.Begun),
                (FirstThingKey.Week, FirstThingState.Done),
                (FirstThingKey.Places, FirstThingState.Open),
                (FirstThingKey.People, FirstThingState.Open),
                (FirstThingKey.Suppliers, FirstThingState.Open),
                (FirstThingKey.Racks, FirstThingState.Open),
                (FirstThingKey.Accounts, FirstThingState.Open),
                (FirstThingKey.Build, FirstThingState.Open),
            ]);
        things.Single(t => t.Key == FirstThingKey.Week).Says.ShouldBe("Mon to Fri, 8 to 16:30");
    }

    [Fact]
    public void Each_says_what_is_there_and_what_is_missing()
    {
        var shop = Shop();
        Of(FirstThingKey.Places, Facts(shop, [Place("Office", StationKind.Office)]))
            .ShouldBe((FirstThingState.Begun, "1 drawn; none takes a vehicle"));
        Of(FirstThingKey.Places, Facts(shop, [Place("Bay 1"), Place("Office", StationKind.Office)]))
            .ShouldBe((FirstThingState.Done, "2 drawn"));
        var rated = new Person
        {
            Name = "Ewa Lund",
            Trades = [Trade.Metal],
            Rates = [new(new(2026, 1, 1), 20, 60)],
        };
        Of(FirstThingKey.People, Facts(shop, people: [rated, new() { Name = "Nils Bo" }]))
            .ShouldBe((FirstThingState.Begun, "2, 1 without a rate"));
        Of(FirstThingKey.People, Facts(shop, people: [rated, new() { Name = "Gone", Active = false }]))
            .ShouldBe((FirstThingState.Done, "Ewa Lund"));
        Of(FirstThingKey.People, Facts(shop, people: [rated]) with { Asked = [Trade.Hand, Trade.Metal, Trade.Strip] })
            .ShouldBe((FirstThingState.Begun, "Ewa Lund, nobody does: strip, helper"));
        Of(FirstThingKey.People, Facts(shop, people: [rated]) with { Asked = [Trade.Metal] })
            .State.ShouldBe(FirstThingState.Done);
        Of(FirstThingKey.Accounts, Facts(shop, people: [rated], withPeople: 1)).State.ShouldBe(FirstThingState.Done);
        Of(FirstThingKey.Accounts, Facts(shop, people: [rated, new() { Name = "Nils Bo" }], accounts: 2, withPeople: 1))
            .ShouldBe((FirstThingState.Begun, "2, 1 with a clock of their own"));
        Of(FirstThingKey.Standing, Facts(shop, builds: 2, lost: [41, 43]))
            .Says.ShouldBe("nobody has said where 41, 43 stand");
        shop.Racks = [new("Loft", 3, 8)];
        Of(FirstThingKey.Racks, Facts(shop)).ShouldBe((FirstThingState.Done, "Loft"));
        shop.Week =
        [
            new(IsoDayOfWeek.Monday, new(7, 30), new(16, 0), []),
            new(IsoDayOfWeek.Thursday, new(8, 0), new(12, 0), []),
        ];
        Of(FirstThingKey.Week, Facts(shop)).Says.ShouldBe("Mon, Thu, hours by day");
    }

    private static ImportedRow Row(params (string, string)[] fields) =>
        new(2, fields.ToDictionary(f => f.Item1, f => f.Item2));

    [Theory]
    [InlineData("62.50", 62.50)]
    [InlineData("62,50", 62.50)]
    [InlineData("1.240,50", 1240.50)]
    [InlineData("1,240.50", 1240.50)]
    [InlineData("1 240,50", 1240.50)]
    [InlineData("-3", -3)]
    public void An_amount_is_read_as_people_write_it(string text, double amount) =>
        Row(("cost", text)).Number("cost").ShouldBe((decimal)amount);

    [Fact]
    public void What_cannot_be_read_is_refused_with_its_words()
    {
        Row(("cost", "")).Number("cost").ShouldBeNull();
        Should.Throw<Refusal>(() => Row(("cost", "plenty")).Number("cost")).Message.ShouldBe("“plenty” is no number.");
        Row(("trades", "Metal / helper and electrician"))
            .Trades("trades")
            .ShouldBe([Trade.Metal, Trade.Hand, Trade.Electric]);
        Should.Throw<Refusal>(() => Row(("trades", "1")).Trades("trades"), "a number of the list is no name");
        Row(("days", "thu/Tuesday")).Days("days").ShouldBe([IsoDayOfWeek.Tuesday, IsoDayOfWeek.Thursday]);
        Should.Throw<Refusal>(() => Row(("days", "t")).Days("days")).Field.ShouldBe("days");
        Row(("from", "2026-03-31")).Date("from").ShouldBe(new LocalDate(2026, 3, 31));
        Should.Throw<Refusal>(() => Row(("from", "31.3.")).Date("from"));
        (Row(("own", "Yes")).Flag("own"), Row(("own", "")).Flag("own")).ShouldBe((true, false));
        Should.Throw<Refusal>(() => Row(("own", "perhaps")).Flag("own"));
    }

    [Fact]
    public void Places_may_touch_and_not_lie_on_each_other()
    {
        var bay = Place("Bay 1");
        bay.LiesOn(Place("Bay 2", x: 4000)).ShouldBeFalse();
        bay.LiesOn(Place("Bay 2", x: 3950)).ShouldBeFalse("a painted line is shared");
        bay.LiesOn(Place("Bay 2", x: 3800)).ShouldBeTrue();
        bay.LiesOn(Place("Bay 2", x: 3800, y: 4000)).ShouldBeFalse();
        bay.LiesOn(Place("Inside", x: 1000, y: 1000, w: 500, d: 500)).ShouldBeTrue();
    }

    [Fact]
    public void Walls_doors_and_racks_are_within_reason()
    {
        new ShopRack("C", 5, 12).Address(3, 7).ShouldBe("C3-7");
        new ShopRack("Loft", 5, 12).Address(3, 7).ShouldBe("Loft 3-7");
        Should.Throw<Refusal>(() => ShopRack.Check([new("C", 5, 12), new("c", 1, 1)])).Field.ShouldBe("racks");
        Should.Throw<Refusal>(() => ShopRack.Check([new("Row 4", 5, 12)]), "its address would be read as another's");
        Should
            .Throw<Refusal>(() => new ShopLayout { Walls = [new(0, 0, 26_000, 0)] }.Check(25_000, 20_000))
            .Field.ShouldBe("walls");
        Should
            .Throw<Refusal>(() => new ShopLayout { Doors = [new(100, 0, 100, true, 2000)] }.Check(25_000, 20_000))
            .Field.ShouldBe("doors");
        new ShopLayout { Walls = [new(0, 0, 5000, 0)], Doors = [new(2000, 0, 3400, true, 3000)] }.Check(25_000, 20_000);
    }
}

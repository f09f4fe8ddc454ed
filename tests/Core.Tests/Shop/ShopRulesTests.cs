using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Tests.Shop;

/// <summary>What a shop can be set up as, and what is refused with its field.</summary>
public sealed class ShopRulesTests
{
    private static ShopSettings Settings() =>
        new()
        {
            Id = ShopSettings.TheOne,
            Name = "Test shop",
            Week = [new(IsoDayOfWeek.Monday, new(8, 0), new(16, 30), [new(new(12, 0), new(12, 30))])],
        };

    public static TheoryData<string, Action<ShopSettings>> Wrong() =>
        new()
        {
            { "name", s => s.Name = " " },
            { "currency", s => s.Currency = "pounds" },
            { "timeZone", s => s.TimeZone = "Atlantis/Deep" },
            { "taxRates", s => s.TaxRates[TaxCategory.Parts] = 101 },
            { "planWidthMm", s => s.PlanWidthMm = 10 },
            { "planDepthMm", s => s.PlanDepthMm = 0 },
            { "outsideMarkup", s => s.OutsideMarkup = -1 },
            { "materialsMarkup", s => s.MaterialsMarkup = 1001 },
            { "consumablesPercent", s => s.ConsumablesPercent = 101 },
            { "consumablesCap", s => s.ConsumablesCap = -.01m },
            { "overtimeAfterHours", s => s.OvertimeAfterHours = 8.001m },
            { "overtimeMultiplier", s => s.OvertimeMultiplier = .9m },
            { "partTiers", s => s.PartTiers = [new(100, 10)] },
            { "partTiers", s => s.PartTiers = [new(100, 10), new(50, 5), new(null, 1)] },
            { "week", s => s.Week.Add(new(IsoDayOfWeek.Monday, new(16, 0), new(18, 0), [])) },
            {
                "breaks",
                s => s.Week = [new(IsoDayOfWeek.Monday, new(8, 0), new(12, 0), [new(new(12, 0), new(13, 0))])]
            },
        };

    [Theory, MemberData(nameof(Wrong))]
    public void A_setting_that_cannot_be_names_its_field(string field, Action<ShopSettings> spoil)
    {
        var settings = Settings();
        settings.Check();
        spoil(settings);
        Should.Throw<Refusal>(settings.Check).Field.ShouldBe(field);
    }

    [Fact]
    public void The_rate_of_a_day_is_the_last_that_began_on_or_before_it()
    {
        var person = new Person
        {
            Id = Guid.CreateVersion7(),
            Name = "Wil Aske",
            Rates = [new(new(2026, 1, 1), 20, 50), new(new(2026, 3, 1), 22, 55)],
        };
        person.RateOn(new(2025, 12, 31))!.Billing.ShouldBe(50, "before the first rate, the first");
        new Person { Id = Guid.CreateVersion7(), Name = "Nobody" }
            .RateOn(new(2026, 1, 1))
            .ShouldBeNull();
        person.RateOn(new(2026, 2, 28))!.Billing.ShouldBe(50);
        person.RateOn(new(2026, 3, 1))!.Billing.ShouldBe(55);
        person.ShortName.ShouldBe("Wil");
        person.Check();
    }

    [Fact]
    public void Two_rates_cannot_begin_on_one_day_nor_be_negative_and_an_absence_ends_after_it_starts()
    {
        Person Of(Action<Person> change)
        {
            var p = new Person { Id = Guid.CreateVersion7(), Name = "Wil" };
            change(p);
            return p;
        }

        Should
            .Throw<Refusal>(() => Of(p => p.Rates = [new(new(2026, 1, 1), 1, 1), new(new(2026, 1, 1), 2, 2)]).Check())
            .Field.ShouldBe("from");
        Should.Throw<Refusal>(() => Of(p => p.Rates = [new(new(2026, 1, 1), -1, 1)]).Check()).Field.ShouldBe("cost");
        Should.Throw<Refusal>(() => Of(p => p.Rates = [new(new(2026, 1, 1), 1, -1)]).Check()).Field.ShouldBe("billing");
        Should
            .Throw<Refusal>(() => Of(p => p.Absences = [new(new(2026, 1, 2, 0, 0), new(2026, 1, 1, 0, 0), "")]).Check())
            .Field.ShouldBe("absences");
    }

    [Theory]
    [InlineData("name", " ", 1, 0, 0, 1000, 1000, null)]
    [InlineData("count", "Bay", 0, 0, 0, 1000, 1000, null)]
    [InlineData("widthMm", "Bay", 1, 0, 0, 100, 1000, null)]
    [InlineData("depthMm", "Bay", 1, 0, 0, 1000, 100, null)]
    [InlineData("xMm", "Bay", 1, 24500, 0, 1000, 1000, null)]
    [InlineData("yMm", "Bay", 1, 0, -1, 1000, 1000, null)]
    [InlineData("doorHeightMm", "Bay", 1, 0, 0, 1000, 1000, 0)]
    public void A_station_lies_on_the_plan_and_has_a_size(
        string field,
        string name,
        int count,
        int x,
        int y,
        int w,
        int d,
        int? door
    )
    {
        var station = new Station
        {
            Id = Guid.CreateVersion7(),
            Name = name,
            Count = count,
            XMm = x,
            YMm = y,
            WidthMm = w,
            DepthMm = d,
            DoorHeightMm = door,
        };
        Should.Throw<Refusal>(() => station.Check(Settings())).Field.ShouldBe(field);
    }

    [Fact]
    public void Goods_are_here_on_the_first_freight_day_after_they_are_ready()
    {
        var island = new Supplier
        {
            Id = Guid.CreateVersion7(),
            Name = "Mainland",
            FreightDays = [IsoDayOfWeek.Tuesday, IsoDayOfWeek.Thursday],
        };
        island.HereOn(new(2026, 10, 13)).ShouldBe(new(2026, 10, 13), "a Tuesday");
        island.HereOn(new(2026, 10, 14)).ShouldBe(new(2026, 10, 15));
        island.HereOn(new(2026, 10, 16)).ShouldBe(new(2026, 10, 20));
        new Supplier { Id = Guid.CreateVersion7(), Name = "Next door" }
            .HereOn(new(2026, 10, 16))
            .ShouldBe(new(2026, 10, 16));
    }

    [Fact]
    public void The_next_freight_is_the_first_of_any_suppliers_days_from_today_on()
    {
        Supplier With(params List<IsoDayOfWeek> days) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                Name = "Carrier",
                FreightDays = days,
            };
        var both = new[] { With(IsoDayOfWeek.Thursday), With(IsoDayOfWeek.Tuesday), With() };
        Supplier.NextFreight(both, new(2026, 10, 13)).ShouldBe(new LocalDate(2026, 10, 13), "a Tuesday");
        Supplier.NextFreight(both, new(2026, 10, 14)).ShouldBe(new LocalDate(2026, 10, 15));
        Supplier.NextFreight(both, new(2026, 10, 16)).ShouldBe(new LocalDate(2026, 10, 20));
        Supplier.NextFreight([With()], new(2026, 10, 13)).ShouldBeNull();
    }

    [Fact]
    public void Breaks_within_a_stretch_are_those_that_lie_wholly_inside_it()
    {
        var calendar = new WorkCalendar(WorkWeek.From(Settings().Week));
        long At(int hour, int minute) => calendar.Minute(new(2026, 3, 2, hour, minute));
        calendar.BreaksWithin(At(9, 0), At(13, 0)).ShouldBe([new Core.Kernel.Span(At(12, 0), At(12, 30))]);
        calendar.BreaksWithin(At(9, 0), At(12, 0)).ShouldBeEmpty();
        calendar.BreaksWithin(At(9, 0), At(12, 15)).ShouldBeEmpty();
        calendar.BreaksWithin(At(12, 10), At(14, 0)).ShouldBeEmpty();
        calendar.BreaksWithin(At(13, 0), At(16, 0)).ShouldBeEmpty();
    }
}

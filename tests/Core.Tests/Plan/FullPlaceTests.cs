using FirstCoat.Core.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>Days on end on which no other vehicle finds room. It is Monday the 2nd of March 2026, 08:00; the shop is
/// closed on the 11th.</summary>
public sealed class FullPlaceTests
{
    private static long At(int day, int hour) => AnyShop.Calendar.Minute(new LocalDateTime(2026, 3, day, hour, 0));

    private static PlanProblem Shop(params string[] places) =>
        new(
            At(2, 8),
            AnyShop.Calendar,
            [],
            [.. places.Select(p => new PlanStation("Booth", 1) { Id = p, Name = p })],
            []
        );

    private static (LocalDate, LocalDate)? Full(PlanProblem shop, params LaneHold[] holds) =>
        FullPlace.Of(shop, holds, "Booth") is { } full ? (full.From, full.To) : null;

    private static LaneHold Held(string place, long from, long? to) => new("41", place, from, to);

    [Fact]
    public void Days_on_end_are_counted_over_a_weekend_and_from_one_vehicle_to_the_next()
    {
        // From Wednesday's opening to Monday's closing, with an hour between two vehicles.
        var full = Full(Shop("b"), Held("b", At(4, 8), At(5, 12)), Held("b", At(5, 13), At(9, 23)));
        full.ShouldBe((new(2026, 3, 4), new(2026, 3, 9)));
    }

    [Fact]
    public void Half_a_day_of_room_ends_them()
    {
        Full(Shop("b"), Held("b", At(3, 8), At(4, 23)), Held("b", At(5, 12), At(6, 23))).ShouldBeNull();
        Full(Shop("b"), Held("b", At(3, 8), At(6, 23))).ShouldBe((new(2026, 3, 3), new(2026, 3, 6)));
    }

    [Fact]
    public void The_longest_is_told_and_of_two_as_long_the_sooner()
    {
        var first = Held("b", At(3, 8), At(5, 23));
        Full(Shop("b"), first, Held("b", At(9, 8), At(13, 23))).ShouldBe((new(2026, 3, 9), new(2026, 3, 13)));
        Full(Shop("b"), first, Held("b", At(9, 8), At(10, 23))).ShouldBe((new(2026, 3, 3), new(2026, 3, 5)));
        Full(Shop("b"), first, Held("b", At(16, 8), At(18, 23))).ShouldBe((new(2026, 3, 3), new(2026, 3, 5)));
    }

    [Fact]
    public void A_second_place_that_is_free_is_room_and_one_that_nobody_leaves_is_none()
    {
        Full(Shop("b", "c"), Held("b", At(3, 8), null)).ShouldBeNull();
        Full(Shop("b", "c"), Held("b", At(3, 8), null), Held("c", At(4, 8), At(6, 23)))
            .ShouldBe((new(2026, 3, 4), new(2026, 3, 6)));
        Full(Shop(), Held("b", At(3, 8), null)).ShouldBeNull();
    }

    [Fact]
    public void What_is_left_of_today_says_nothing_where_it_is_less_than_two_hours()
    {
        // Monday 15:00, with an hour and a half to closing: an empty booth is not full, nor does it end what is.
        var late = Shop("b") with { Now = At(2, 15) };
        Full(late).ShouldBeNull();
        Full(late, Held("b", At(3, 8), At(5, 23))).ShouldBe((new(2026, 3, 3), new(2026, 3, 5)));
        Full(late, Held("b", At(3, 8), At(4, 23))).ShouldBeNull();
    }

    [Fact]
    public void A_place_for_two_is_full_with_two()
    {
        var two = Shop("b") with { Stations = [new("Booth", 2) { Id = "b", Name = "b" }] };
        var one = Held("b", At(3, 8), At(6, 23));
        Full(two, one).ShouldBeNull();
        Full(two, one, one with { Build = "42" }).ShouldBe((new(2026, 3, 3), new(2026, 3, 6)));
    }
}

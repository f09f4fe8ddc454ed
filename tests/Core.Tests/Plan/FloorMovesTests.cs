using FirstCoat.Core.Plan;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>Which place a vehicle takes next.</summary>
public sealed class FloorMovesTests
{
    private static Station At(string name, StationKind kind, int x) => new() { Id = Guid.CreateVersion7(), Name = name, Kind = kind, XMm = x, WidthMm = 6700, DepthMm = 4450 };

    private static readonly Station Prep = At("Prep", StationKind.Prep, 0), BayA = At("Bay A", StationKind.Bay, 14000), BayB = At("Bay B", StationKind.Bay, 7000), Yard = At("Yard", StationKind.Yard, 21000);

    private static readonly Station[] All = [Prep, BayA, BayB, Yard];

    private static List<(string Build, string To, bool Free)> Of(IEnumerable<(string Build, Station From, int Day, StationKind To)> wanted, params Station[] standing)
    {
        var names = wanted.ToDictionary(w => Guid.CreateVersion7(), w => w);
        var moves = FloorMoves.Of(names.Select(n => new WantedMove(n.Key, n.Value.From.Id, n.Value.To, new LocalDate(2026, 10, n.Value.Day))), All, standing.Select(s => s.Id).ToHashSet());
        return names.Where(n => moves.ContainsKey(n.Key)).OrderBy(n => n.Value.Day).Select(n => (n.Value.Build, All.Single(s => s.Id == moves[n.Key].Station).Name, moves[n.Key].Free)).ToList();
    }

    [Fact]
    public void The_nearest_empty_place_is_taken_and_the_soonest_move_goes_first() =>
        Of([("late", Prep, 21, StationKind.Bay), ("soon", Yard, 20, StationKind.Bay)], Prep, Yard).ShouldBe([("soon", "Bay A", true), ("late", "Bay B", true)]);

    [Fact]
    public void Of_two_for_one_place_the_later_has_none_that_is_free() =>
        Of([("late", Prep, 21, StationKind.Bay), ("soon", Prep, 20, StationKind.Bay)], Prep, BayA).ShouldBe([("soon", "Bay B", true), ("late", "Bay B", false)]);

    [Fact]
    public void Where_all_are_taken_the_nearest_is_named_as_not_free() =>
        Of([("a", Prep, 20, StationKind.Bay)], Prep, BayA, BayB).ShouldBe([("a", "Bay B", false)]);

    [Fact]
    public void A_kind_that_the_shop_does_not_have_is_no_move() => Of([("a", Prep, 20, StationKind.Booth)], Prep).ShouldBeEmpty();
}

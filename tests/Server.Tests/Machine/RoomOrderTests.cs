using System.Text.RegularExpressions;
using FirstCoat.Core;
using FirstCoat.Store;
using NetArchTest.Rules;

namespace FirstCoat.Server.Tests.Machine;

/// <summary>Rooms know each other in one direction only; the order stands in docs/architecture.md.</summary>
public sealed class RoomOrderTests
{
    /// <summary>A room of the core may know the ones before it.</summary>
    private static readonly string[] Core =
    [
        "Kernel",
        "Bodies",
        "Access",
        "Shop",
        "Builds",
        "Sequence",
        "Labour",
        "Parts",
        "Outside",
        "Photos",
        "Survey",
        "Fitup",
        "Teardown",
        "Plan",
        "Money",
        "Reports",
        "Overview",
        "Bench",
    ];

    /// <summary>Desks act on what other rooms hold, so that their order is not the core's.</summary>
    private static readonly string[] Store =
    [
        "Readings",
        "Access",
        "Photos",
        "Shop",
        "Fitup",
        "Sequence",
        "Builds",
        "Parts",
        "Labour",
        "Plan",
        "Teardown",
        "Outside",
        "Money",
        "Survey",
        "Reports",
        "Overview",
        "Bench",
    ];

    public static TheoryData<string, string> Rooms =>
        [.. Core.Select(r => ("FirstCoat.Core", r)), .. Store.Select(r => ("FirstCoat.Store", r))];

    [Theory]
    [MemberData(nameof(Rooms))]
    public void A_room_knows_only_the_rooms_before_it(string storey, string room)
    {
        var order = storey == "FirstCoat.Core" ? Core : Store;
        var later = order[(Array.IndexOf(order, room) + 1)..].Select(r => $"{storey}.{r}").ToArray();
        var assembly = storey == "FirstCoat.Core" ? typeof(Refusal).Assembly : typeof(ShopDb).Assembly;
        var result = Types
            .InAssembly(assembly)
            .That()
            .ResideInNamespaceMatching($@"^{Regex.Escape(storey)}\.{room}(\..+)?$")
            .ShouldNot()
            .HaveDependencyOnAny(later.Length == 0 ? ["nothing"] : later)
            .GetResult();
        (result.FailingTypeNames ?? []).ShouldBeEmpty($"{room} is before {string.Join(", ", later)}");
    }

    [Theory]
    [InlineData("FirstCoat.Core")]
    [InlineData("FirstCoat.Store")]
    public void Every_room_has_its_place_in_the_order(string storey)
    {
        var assembly = storey == "FirstCoat.Core" ? typeof(Refusal).Assembly : typeof(ShopDb).Assembly;
        var there = assembly
            .GetTypes()
            .Select(t => t.Namespace ?? "")
            .Where(n => n.StartsWith(storey + ".", StringComparison.Ordinal))
            .Select(n => n.Split('.')[2])
            .Where(r => r != "Migrations")
            .Distinct();
        there.Order().ShouldBe((storey == "FirstCoat.Core" ? Core : Store).Order());
    }
}

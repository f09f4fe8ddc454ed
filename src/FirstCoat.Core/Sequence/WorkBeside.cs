using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;

namespace FirstCoat.Core.Sequence;

/// <summary>Which air a kind of station shares: stations with the same word share theirs.</summary>
public sealed class AirSpaces(IEnumerable<Station> stations)
{
    private readonly Dictionary<StationKind, string> _named = stations
        .Where(s => s.Terms.AirSpace.Length > 0)
        .GroupBy(s => s.Kind)
        .ToDictionary(g => g.Key, g => g.First().Terms.AirSpace);

    /// <summary>The air of an operation; work that asks for no kind of station is in the air of its own
    /// vehicle.</summary>
    public string Of(Operation o) =>
        o.Station is { } kind ? _named.GetValueOrDefault(kind, kind.ToString()) : o.BuildId.ToString();
}

/// <summary>Work that must not go on beside other work: in one air space, or on one vehicle.</summary>
public static class WorkBeside
{
    /// <summary>What stands against beginning an operation while others go on; a sentence for each.</summary>
    /// <param name="goingOn">Operations on which somebody's clock runs.</param>
    public static IEnumerable<Obstacle> Against(
        Operation o,
        IEnumerable<Operation> goingOn,
        IEnumerable<AirClash> clashes,
        AirSpaces air
    ) =>
        from other in goingOn
        where other.Id != o.Id
        from clash in clashes
        where Differ(o, other, clash) && Meet(o, other, clash, air)
        select new Obstacle(
            ObstacleKind.Air,
            $"Not beside {other.Name}, which goes on now: {clash.Why}. Begin when that has stopped.",
            other.Id
        );

    private static bool Differ(Operation o, Operation other, AirClash clash) =>
        (o.Kinds.Contains(clash.One) && other.Kinds.Contains(clash.Other))
        || (o.Kinds.Contains(clash.Other) && other.Kinds.Contains(clash.One));

    private static bool Meet(Operation o, Operation other, AirClash clash, AirSpaces air) =>
        clash.OnOneVehicle
            ? o.BuildId == other.BuildId && o.Terms.Body != BodyUse.Beside && other.Terms.Body != BodyUse.Beside
            : air.Of(o) == air.Of(other);
}

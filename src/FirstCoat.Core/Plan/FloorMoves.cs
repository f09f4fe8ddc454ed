using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Plan;

/// <summary>A vehicle that goes to another kind of place next.</summary>
public sealed record WantedMove(Guid Build, Guid From, StationKind To, LocalDate On);

/// <summary>The place that a move goes to.</summary>
/// <param name="Free">It stands empty, and no sooner move takes it.</param>
public sealed record FloorMove(Guid Build, Guid Station, bool Free);

/// <summary>Where each vehicle goes next on the floor.</summary>
public static class FloorMoves
{
    /// <summary>
    /// Soonest first. The plan knows the kind of place; of several, a move takes the nearest empty one that no sooner move has
    /// taken, else the nearest. One that has no such place at all is left out.
    /// </summary>
    /// <param name="standing">Stations on which a vehicle stands.</param>
    public static IReadOnlyDictionary<Guid, FloorMove> Of(IEnumerable<WantedMove> wanted, IReadOnlyCollection<Station> stations, IReadOnlySet<Guid> standing)
    {
        var byId = stations.ToDictionary(s => s.Id);
        var taken = new HashSet<Guid>();
        var moves = new Dictionary<Guid, FloorMove>();
        foreach (var move in wanted.OrderBy(w => w.On))
        {
            if (!byId.TryGetValue(move.From, out var from))
            {
                continue;
            }

            var near = stations.Where(s => s.Kind == move.To && s.Id != from.Id).OrderBy(s => Apart(from, s)).ThenBy(s => s.Name, StringComparer.Ordinal).ToList();
            var empty = near.FirstOrDefault(s => !standing.Contains(s.Id) && !taken.Contains(s.Id));
            if ((empty ?? near.FirstOrDefault()) is { } to)
            {
                moves[move.Build] = new(move.Build, to.Id, empty is not null);
                taken.Add(to.Id);
            }
        }

        return moves;
    }

    /// <summary>From middle to middle, in millimetres.</summary>
    private static double Apart(Station a, Station b) =>
        Math.Sqrt(Math.Pow(a.XMm + a.WidthMm / 2.0 - b.XMm - b.WidthMm / 2.0, 2) + Math.Pow(a.YMm + a.DepthMm / 2.0 - b.YMm - b.DepthMm / 2.0, 2));
}

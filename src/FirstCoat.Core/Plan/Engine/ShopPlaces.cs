using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Plan.Engine;

/// <summary>A place before it is known whether vehicles stand in it.</summary>
internal sealed record NamedPlace(
    string Id,
    string Name,
    string Kind,
    int Takes,
    PlanDoor? Door,
    IReadOnlyList<PlanClosure> Closed
);

/// <summary>The shop's places, each with a name of its own.</summary>
internal sealed class ShopPlaces
{
    private readonly ILookup<string, NamedPlace> _byKind;

    public ShopPlaces(PlanProblem problem)
    {
        All = [.. problem.Stations.SelectMany(Of)];
        _byKind = All.ToLookup(p => p.Kind);
        var works = problem
            .Builds.SelectMany(b => b.Operations)
            .Where(o => o.Body == BodyUse.OnBody)
            .SelectMany(o => new[] { o.Station, o.Hold?.Station });
        ForVehicles = works
            .Concat(problem.Builds.Select(b => Standing(b)?.Kind))
            .OfType<string>()
            .Where(k => _byKind.Contains(k))
            .Append(PlanStation.YardKind)
            .ToHashSet();
        AreAsked = ForVehicles.Count > 1 || problem.Builds.Any(b => b.StandsAt is not null);
    }

    public IReadOnlyList<NamedPlace> All { get; }

    /// <summary>Kinds in which vehicles stand.</summary>
    public IReadOnlySet<string> ForVehicles { get; }

    /// <summary>Whether anything is said of where vehicles stand.</summary>
    public bool AreAsked { get; }

    public IEnumerable<NamedPlace> OfKind(string kind) => _byKind[kind];

    /// <summary>Where a build's vehicle stands; null: nobody knows.</summary>
    public NamedPlace? Standing(PlanBuild build) =>
        build.StandsAt is not { } at ? null : All.FirstOrDefault(p => p.Id == at) ?? _byKind[at].FirstOrDefault();

    /// <summary>The highest door to a kind of place, where all of them are behind one.</summary>
    public PlanDoor? DoorTo(string kind) =>
        _byKind[kind].All(p => p.Door is not null) ? _byKind[kind].MaxBy(p => p.Door!.HeightMm)?.Door : null;

    private static IEnumerable<NamedPlace> Of(PlanStation s)
    {
        if (s.Id is { } id)
        {
            yield return new(id, s.Name ?? id, s.Kind, s.Count, s.Door, s.Closed);
            yield break;
        }

        for (var i = 1; i <= s.Count; i++)
        {
            // Of places without names the last ones are those that are closed.
            var name = s.Count == 1 ? s.Kind : $"{s.Kind} {i}";
            yield return new(name, name, s.Kind, 1, s.Door, [.. s.Closed.Where(c => i > s.Count - c.Count)]);
        }
    }
}

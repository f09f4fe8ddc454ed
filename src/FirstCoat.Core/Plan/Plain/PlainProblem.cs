using System.Text.Json.Serialization;

namespace FirstCoat.Core.Plan.Plain;

/// <summary>A scheduling problem without calendars: whole quarter hours on an axis that runs round the clock.</summary>
public sealed record PlainProblem(
    string Name,
    IReadOnlyList<PlainPerson> People,
    IReadOnlyList<PlainStation> Stations,
    IReadOnlyList<PlainBuild> Builds
);

public sealed record PlainPerson(string Id, IReadOnlyList<string> Trades);

/// <summary>A kind of station that serves <paramref name="Count"/> at once.</summary>
public sealed record PlainStation(string Id, string? Kind, int Count);

/// <param name="OneAtATime">Groups of operations of which no two overlap.</param>
public sealed record PlainBuild(
    string Id,
    int Due,
    int Weight,
    int NotBefore,
    IReadOnlyList<IReadOnlyList<string>> OneAtATime,
    IReadOnlyList<PlainOperation> Operations
);

public sealed record PlainOperation(
    string Id,
    int Duration,
    IReadOnlyList<PlainCrew> Crew,
    string? Station,
    IReadOnlyList<PlainAfter> After,
    PlainHold? Hold,
    bool Outside,
    int NotBefore
);

/// <summary>So many different people who each have the trade.</summary>
public sealed record PlainCrew(string Trade, int Count);

/// <summary>Start at least <paramref name="MinLag"/> after the other's end, and at most <paramref name="MaxLag"/> where
/// given.</summary>
public sealed record PlainAfter(string Op, int MinLag, int? MaxLag);

/// <summary>A unit kept from this operation's start to the end of <paramref name="Until"/>.</summary>
public sealed record PlainHold(string Station, string Until);

/// <summary>What a plain problem came to.</summary>
/// <param name="Bound">What no schedule can be better than.</param>
public sealed record PlainAnswer(
    string Name,
    PlainObjective Objective,
    PlainBound Bound,
    IReadOnlyDictionary<string, PlainPlaced> Operations
);

/// <param name="WeightedLateness">Sum over builds of weight x max(0, last end - due).</param>
/// <param name="Makespan">The latest end of all.</param>
public sealed record PlainObjective(long WeightedLateness, int Makespan);

public sealed record PlainBound(long WeightedLateness, int Makespan);

/// <summary>When an operation runs, by whom and where.</summary>
public sealed record PlainPlaced(
    int Start,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<string>? People,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Station,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Hold
);

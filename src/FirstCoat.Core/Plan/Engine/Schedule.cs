namespace FirstCoat.Core.Plan.Engine;

/// <summary>When every operation of a model runs, and who was taken.</summary>
/// <param name="Crew">By <see cref="Model.CrewAt"/>.</param>
internal sealed record Schedule(int[] Start, int[] Finish, Taken[] Crew, long Weighted, int Makespan)
{
    /// <summary>Where operations that go on in pieces lie.</summary>
    public IReadOnlyDictionary<int, IReadOnlyList<(int From, int To)>> Pieces { get; init; } =
        new Dictionary<int, IReadOnlyList<(int From, int To)>>();

    /// <summary>Where each build's vehicle stands, one place after the other; none: nothing is said of
    /// places.</summary>
    public IReadOnlyList<Stay[]> Stays { get; init; } = [];

    /// <summary>Lateness first, then the latest end.</summary>
    public (long, int) Value => (Weighted, Makespan);

    public bool BetterThan(Schedule? other) => other is null || Value.CompareTo(other.Value) < 0;
}

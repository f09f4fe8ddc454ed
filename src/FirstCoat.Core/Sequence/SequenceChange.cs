namespace FirstCoat.Core.Sequence;

/// <summary>A change of a build's order of work, which can be taken back and made again.</summary>
public sealed class SequenceChange : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>As it is told: "“Weld the floor” split".</summary>
    public required string What { get; init; }

    public required string By { get; init; }

    /// <summary>The audit entries in which it stands.</summary>
    public required List<long> Entries { get; init; }

    /// <summary>Whether it has been taken back.</summary>
    public bool IsBack { get; set; }
}

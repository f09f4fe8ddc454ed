namespace FirstCoat.Core;

/// <summary>Something that is kept: an id made by whoever asked for it (UUID v7) and a version for meeting
/// edits.</summary>
public abstract class Entity
{
    /// <summary>UUID v7, made by the client, so that a repeated request is recognised.</summary>
    public Guid Id { get; init; }

    /// <summary>The store's row version; a change that names an older one is refused.</summary>
    public uint Version { get; private set; }
}

/// <summary>An entity whose order of entry matters, whatever date it carries.</summary>
public abstract class Recorded : Entity
{
    /// <summary>Given by the store, ascending in the order in which things were recorded.</summary>
    public long Seq { get; private set; }

    /// <summary>When it was recorded, as opposed to when it happened.</summary>
    public NodaTime.Instant RecordedAt { get; init; }

    /// <summary>The account that recorded it.</summary>
    public Guid RecordedBy { get; init; }
}

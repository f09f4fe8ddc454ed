namespace FirstCoat.Server.Rooms;

/// <summary>The answer to a change: what was saved, and its version for the next change.</summary>
public sealed record Saved(Guid Id, uint Version)
{
    public static Saved From(Entity entity) => new(entity.Id, entity.Version);
}

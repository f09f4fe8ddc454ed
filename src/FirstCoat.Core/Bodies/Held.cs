namespace FirstCoat.Core.Bodies;

/// <summary>How a panel is held now.</summary>
public enum Held
{
    Away,
    Loose,
    Clamped,
    Screwed,
    Bolted,
    Tacked,
    WeldedOut,
    Dressed,
}

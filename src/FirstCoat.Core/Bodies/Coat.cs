namespace FirstCoat.Core.Bodies;

/// <summary>What a panel wears, in no fixed order: the coating system says what goes on what.</summary>
public enum Coat
{
    AsFound,
    BareSteel,
    Blasted,
    Etch,
    Epoxy,
    Filler,
    HighBuild,
    Blocked,
    Sealer,
    Base,
    Clear,
    Polished,
    WeatheredAsh,
    NewAsh,
    Varnished,
}

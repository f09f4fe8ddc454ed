namespace FirstCoat.Core.Kernel;

/// <summary>What a person can do and an operation asks for.</summary>
public enum Trade
{
    Strip,
    Metal,
    Body,
    Paint,
    Mechanic,
    Electric,
    Trim,
    Wood,
    Hand,
}

/// <summary>What the trades are called in the shop.</summary>
public static class TradeNames
{
    /// <summary>As it stands in a sentence.</summary>
    public static string Name(this Trade trade) => trade == Trade.Hand ? "helper" : trade.ToString().ToLowerInvariant();
}

/// <summary>Kinds of place in the shop.</summary>
public enum StationKind
{
    Bay,
    Prep,
    Booth,
    Blast,
    Jig,
    Lift,
    Bench,
    Engine,
    Mix,
    Stores,
    Office,
    Yard,
}

/// <summary>Which places are for what.</summary>
public static class StationKinds
{
    /// <summary>Whether a whole vehicle is worked on there; parts alone go to a bench.</summary>
    public static bool IsForVehicles(this StationKind kind) =>
        kind
            is StationKind.Bay
                or StationKind.Prep
                or StationKind.Booth
                or StationKind.Blast
                or StationKind.Jig
                or StationKind.Lift;
}

/// <summary>How lengths are shown; they are always kept in millimetres.</summary>
public enum UnitSystem
{
    Metric,
    Us,
}

/// <summary>What a line of a bill is taxed as.</summary>
public enum TaxCategory
{
    Labour,
    Parts,
    Outside,
    Materials,
}

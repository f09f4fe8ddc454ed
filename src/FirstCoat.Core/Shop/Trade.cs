namespace FirstCoat.Core.Shop;

/// <summary>What a person can do and an operation asks for.</summary>
public enum Trade { Strip, Metal, Body, Paint, Mechanic, Electric, Trim, Wood, Hand }

/// <summary>Kinds of place in the shop.</summary>
public enum StationKind { Bay, Prep, Booth, Blast, Jig, Lift, Bench, Engine, Mix, Stores, Office, Yard }

/// <summary>How lengths are shown; they are always kept in millimetres.</summary>
public enum UnitSystem { Metric, Us }

/// <summary>What a line of a bill is taxed as.</summary>
public enum TaxCategory { Labour, Parts, Outside, Materials }

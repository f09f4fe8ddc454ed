namespace FirstCoat.Core.Kernel;

/// <summary>The stages of a build in the order in which their layers lie.</summary>
public enum Stage
{
    Teardown,
    Strip,
    Metal,
    Epoxy,
    Fill,
    Colour,
    Polish,
    Driveline,
    Trim,
    Assembly,
}

/// <summary>What an operation is: hands at work, a check to be signed, a wait on the clock, or work at a
/// supplier.</summary>
public enum OperationKind
{
    Work,
    Gate,
    Cure,
    Outside,
}

/// <summary>Checks that must be signed before what lies behind them may start.</summary>
public enum GateKind
{
    Datum,
    ShellSupport,
    FitUp,
    Provisions,
    UniformCoat,
    FilmAndCure,
    FirstDrive,
    TractionBattery,
    Asbestos,
    Handover,
    Side,
    Surface,
}

/// <summary>Dangers whose usual caution is shown where the work is.</summary>
public enum Hazard
{
    TwoPack,
    Blasting,
    Asbestos,
    Lead,
    Welding,
    Support,
    AirTools,
    Fuel,
    HighVoltage,
    Dust,
    Lifting,
    FirstDrive,
}

/// <summary>The usual caution, in a sentence. Local codes, product data sheets and licensed practice come
/// first.</summary>
public static class Cautions
{
    public const string Defer = "Local codes, product data sheets and licensed practice come first.";

    /// <summary>The caution as it is shown and acknowledged: what is usual, and what comes before it.</summary>
    public static string Text(Hazard hazard) => $"{For(hazard)} {Defer}";

    public static string For(Hazard hazard) =>
        hazard switch
        {
            Hazard.TwoPack => "Isocyanates: supplied-air respirator, booth extraction, cover skin and eyes.",
            Hazard.Blasting => "Air-fed hood, silica-free media, hearing; old lead or chromate coatings: test first.",
            Hazard.Asbestos =>
                "Old pads, gaskets and insulation may hold asbestos: stop, do not disturb, licensed removal.",
            Hazard.Lead => "Lead-loaded seams: no dry sanding, no open flame without extraction.",
            Hazard.Welding => "Fumes (zinc, cadmium), UV, fire watch; fuel tank and lines out, battery off.",
            Hazard.Support => "Rated points, stands, balance; never cut support under load.",
            Hazard.AirTools => "Guards on cut-off and wire wheels, eyes, hose rating.",
            Hazard.Fuel => "Fuel, refrigerant, brake fluid, airbags and tensioners: drain, vent, keep flame away.",
            Hazard.HighVoltage =>
                "Traction battery: only people qualified for high voltage; isolate, lock, prove dead.",
            Hazard.Dust => "Styrene, peroxide and sanding dust: extraction, mask, skin.",
            Hazard.Lifting => "Body, doors and engines: two people or a hoist.",
            Hazard.FirstDrive => "Brakes, steering and wheel torque checked by a second person before the first drive.",
            _ => Defer,
        };
}

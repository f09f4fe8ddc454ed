namespace FirstCoat.Core.Kernel;

/// <summary>What kind of work it is, where that matters for the air, for what goes on beside it and for who is given
/// it.</summary>
public enum WorkKind
{
    Grinding,
    Blasting,
    WetCoat,
    HotWork,
    OpenFuel,
    LiveBattery,
    Heavy,
    HighVoltage,
}

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

/// <summary>The kinds that follow from what is known of the work anyway, so that no path of making it forgets
/// them.</summary>
public static class WorkKinds
{
    /// <summary>Of a danger and a place.</summary>
    public static IEnumerable<WorkKind> Of(Hazard? hazard, StationKind? station, bool coats)
    {
        if (station == StationKind.Blast)
        {
            yield return WorkKind.Blasting;
        }

        switch (hazard)
        {
            case Hazard.AirTools or Hazard.Dust:
                yield return WorkKind.Grinding;
                break;
            case Hazard.TwoPack when coats:
                yield return WorkKind.WetCoat;
                break;
            case Hazard.Welding:
                yield return WorkKind.HotWork;
                break;
            case Hazard.Fuel:
                yield return WorkKind.OpenFuel;
                break;
            case Hazard.HighVoltage:
                yield return WorkKind.LiveBattery;
                yield return WorkKind.HighVoltage;
                break;
            case Hazard.Lifting or Hazard.Support:
                yield return WorkKind.Heavy;
                break;
        }
    }
}

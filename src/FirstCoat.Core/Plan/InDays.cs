namespace FirstCoat.Core.Plan;

/// <summary>Stretches of a plan as they are spoken of.</summary>
public static class InDays
{
    /// <summary>To a tenth.</summary>
    public static decimal Of(double days) => Math.Round((decimal)days, 1, MidpointRounding.AwayFromZero);

    /// <summary>Minutes as days on the clock, to a tenth.</summary>
    public static decimal Of(long minutes) => Math.Round(minutes / 1440m, 1, MidpointRounding.AwayFromZero);
}

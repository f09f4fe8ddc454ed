using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Plan;

/// <summary>What an open question costs while it stays open.</summary>
public static class WaitCost
{
    /// <summary>
    /// A week's cost: of the days until it is due, the share that moves the finish, times seven days at the shop's
    /// price of a day of waiting.
    /// </summary>
    /// <param name="daysLost">Days by which the finish moves if it stays open until it is due.</param>
    /// <param name="daysOpen">Days from now until then; nothing or less: it is due already, so every day
    /// counts.</param>
    /// <param name="delayPerDay">In the shop's currency.</param>
    public static decimal PerWeek(decimal daysLost, int daysOpen, decimal delayPerDay) =>
        daysLost <= 0 ? 0 : Cents.Round((daysOpen <= 0 ? 1 : Math.Min(1, daysLost / daysOpen)) * 7 * delayPerDay);
}

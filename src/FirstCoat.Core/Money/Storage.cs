using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Money;

/// <summary>What keeping a finished vehicle costs.</summary>
/// <param name="Days">That are charged.</param>
/// <param name="Amount">Net, rounded once.</param>
public sealed record StorageCharge(int Days, decimal Amount);

/// <summary>Storage after notice of completion. Source: arithmetic; the law on notice and liens is local.</summary>
public static class Storage
{
    /// <summary>Whole days from the notice to the end, less those that are free, at the daily rate.</summary>
    /// <param name="notice">The day on which the client was told that the work is complete.</param>
    /// <param name="until">The day on which the vehicle leaves, or today while it stands.</param>
    /// <exception cref="Refusal">The end lies before the notice; negative days or rate.</exception>
    public static StorageCharge Of(LocalDate notice, LocalDate until, int freeDays, decimal perDay)
    {
        Refusal.When(until < notice, "until", "The end lies before the notice.");
        Refusal.When(freeDays < 0, "freeDays", "Free days cannot be negative.");
        Refusal.When(perDay < 0, "perDay", "The daily rate cannot be negative.");
        var days = Math.Max(0, Period.DaysBetween(notice, until) - freeDays);
        return new(days, Cents.Round(days * perDay));
    }
}

using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Labour;

/// <summary>Minutes between two instants and their rounding. Source: arithmetic; the rounding is the shop's
/// rule.</summary>
public static class LabourMinutes
{
    /// <summary>An entry longer than this is a forgotten timer.</summary>
    public const int Longest = 24 * 60;

    /// <summary>Whole minutes on the time line, so that a change of the clocks neither adds nor loses pay.</summary>
    /// <exception cref="Refusal">Stop before start, or more than 24 hours.</exception>
    public static int Between(Instant start, Instant stop)
    {
        CheckStretch(start, stop);
        return (int)(stop - start).TotalMinutes;
    }

    /// <summary>Refuses a stretch that cannot have been worked.</summary>
    public static void CheckStretch(Instant start, Instant stop)
    {
        Refusal.When(stop < start, "stop", "The end must be later than the start.");
        Refusal.When(
            (stop - start).TotalMinutes > Longest,
            "stop",
            "More than 24 hours: a forgotten timer. Enter when work really stopped."
        );
    }

    /// <summary>Rounds whole minutes by the shop's rule; a tie of <see cref="MinuteRounding.Nearest6"/> goes up, 0
    /// stays 0.</summary>
    public static int Round(int minutes, MinuteRounding rounding) =>
        rounding switch
        {
            MinuteRounding.Nearest6 => 6 * ((minutes + 3) / 6),
            MinuteRounding.Up15 => 15 * ((minutes + 14) / 15),
            _ => minutes,
        };
}

using NodaTime;

namespace FirstCoat.Core.Plan;

/// <summary>Days on end on which every place of a kind has a vehicle in it, but for less than two hours.</summary>
/// <param name="From">The first, <paramref name="To"/> the last of them: both are days on which the shop
/// works.</param>
public sealed record FullPlace(string Kind, LocalDate From, LocalDate To)
{
    /// <summary>Fewer working days on end say little: the next job waits a day or two.</summary>
    private const int LeastDays = 3;

    /// <summary>In less than that nothing else is done there, in minutes. A day of which less is left says nothing
    /// either way.</summary>
    private const int Gap = 120;

    /// <summary>How far is looked, in days.</summary>
    private const int Ahead = 8 * 7;

    /// <summary>The longest run of the next eight weeks, of two as long the sooner; null: there is none of three days,
    /// or the shop has no such place.</summary>
    public static FullPlace? Of(PlanProblem problem, IReadOnlyList<LaneHold> holds, string kind)
    {
        var places = problem.Stations.Where(s => s.Kind == kind && s.Id is not null).ToList();
        if (places.Count == 0)
        {
            return null;
        }

        var today = problem.Calendar.Local(problem.Now).Date;
        (FullPlace? longest, FullPlace? run, var (most, days)) = (null, null, (LeastDays - 1, 0));
        foreach (var day in Enumerable.Range(0, Ahead).Select(today.PlusDays).Where(d => Left(d) >= Gap))
        {
            if (!places.TrueForAll(p => IsTaken(p, day)))
            {
                (run, days) = (null, 0);
                continue;
            }

            (run, days) = (run is null ? new(kind, day, day) : run with { To = day }, days + 1);
            if (days > most)
            {
                (longest, most) = (run, days);
            }
        }

        return longest;

        (long From, long To) Rest(LocalDate day) =>
            (
                Math.Max(problem.Now, problem.Calendar.Minute(day.AtMidnight())),
                problem.Calendar.Minute(day.PlusDays(1).AtMidnight())
            );

        int Left(LocalDate day) => problem.Calendar.Between(Rest(day).From, Rest(day).To);

        bool IsTaken(PlanStation place, LocalDate day)
        {
            var (from, to) = Rest(day);
            var taken = holds
                .Where(h => h.Place == place.Id)
                .Select(h => (From: Math.Max(from, h.From), To: Math.Min(to, h.To ?? to)))
                .Where(h => h.To > h.From)
                .Sum(h => problem.Calendar.Between(h.From, h.To));
            return (Left(day) * place.Count) - taken < Gap;
        }
    }
}

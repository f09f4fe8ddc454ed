using System.Diagnostics;
using FirstCoat.Core.Plan;

namespace FirstCoat.Server.Benches;

/// <summary>What planning is measured by.</summary>
internal static class PlanBenches
{
    /// <summary>A whole new plan with its reasons, in one thread.</summary>
    public static Action Replan(int operations, int builds, int people)
    {
        var problem = BenchShop.Of(operations, builds, people, 1);
        var planner = new Planner();
        return () => planner.Plan(problem);
    }

    /// <summary>A thousand futures on two cores.</summary>
    public static Action Futures()
    {
        var problem = BenchShop.Of(1500, 25, 9, 1);
        return () => Outlook.Of(problem, Beliefs.None);
    }

    private static readonly int[] Times = [1, 2, 4, 7, 10];

    /// <summary>Rounds in which each size has its turn.</summary>
    private const int Rounds = 15;

    /// <summary>Times of a whole new plan from 1,500 to 15,000 operations, and how many times the first the last
    /// is.</summary>
    /// <param name="samePeople">Nine people have it all to do; else the shop grows with its work.</param>
    /// <remarks>
    /// All sizes take turns, so that a machine that slows down for a while slows all of them; each plans as often as
    /// makes ten of the smallest, so that the clearing up of memory weighs on all alike. Of times and of growth in a
    /// round the middle one counts.
    /// </remarks>
    public static (IReadOnlyList<(int Operations, double Milliseconds)> Curve, double Growth) Grow(bool samePeople)
    {
        var plans = Times.Select(t => Replan(1500 * t, 25 * t, samePeople ? 9 : 9 * t)).ToList();
        var rounds = plans.Select(_ => new List<double>()).ToList();
        for (var round = -3; round < Rounds; round++)
        {
            for (var i = 0; i < plans.Count; i++)
            {
                var (from, often) = (Stopwatch.GetTimestamp(), Times[^1] / Times[i]);
                for (var k = 0; k < often; k++)
                {
                    plans[i]();
                }

                if (round >= 0)
                {
                    rounds[i].Add(Stopwatch.GetElapsedTime(from).TotalMilliseconds / often);
                }
            }
        }

        return (
            Times.Select((t, i) => (1500 * t, Middle(rounds[i]))).ToList(),
            Middle(rounds[^1].Zip(rounds[0], (last, first) => last / first))
        );
    }

    private static double Middle(IEnumerable<double> values) => values.Order().ElementAt(Rounds / 2);
}

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

    /// <summary>Times of a whole new plan from 1,500 to 15,000 operations, for the curve.</summary>
    public static IEnumerable<(int Operations, double Milliseconds)> Curve()
    {
        foreach (var times in new[] { 1, 2, 4, 7, 10 })
        {
            var plan = Replan(1500 * times, 25 * times, 9 * times);
            for (var i = 0; i < 80 / times; i++)
            {
                plan();
            }

            var rounds = Enumerable.Range(0, 9).Select(_ =>
            {
                var from = Stopwatch.GetTimestamp();
                plan();
                return Stopwatch.GetElapsedTime(from).TotalMilliseconds;
            }).Order().ToList();
            // The quickest round is the least disturbed.
            yield return (1500 * times, rounds[0]);
        }
    }
}

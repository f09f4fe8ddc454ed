using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan.Engine;
using NodaTime;

namespace FirstCoat.Core.Plan;

/// <summary>How much of somebody's or something's working time is used.</summary>
/// <param name="Share">Between 0 and 1; of a station's count times the shop's hours.</param>
/// <param name="FreeMinutes">What is left of that time.</param>
public sealed record Utilisation(string Id, string Name, bool IsPerson, double Share, long FreeMinutes);

/// <summary>What a plan costs and how full it keeps the shop.</summary>
/// <param name="Minutes">Worked by people, in all.</param>
/// <param name="Wages">At what an hour of each costs the shop; overtime on top.</param>
/// <param name="Overtime">The part of it that the overtime rate adds.</param>
/// <param name="DaysLate">Sum over builds, unweighted.</param>
public sealed record PlanFigures(
    long Minutes,
    decimal Wages,
    decimal Overtime,
    double DaysLate,
    IReadOnlyList<Utilisation> Used
)
{
    /// <summary>Reckons a plan of the shop at today's rates; a Saturday that the shop's week does not have is paid as
    /// overtime.</summary>
    public static PlanFigures Of(PlanFacts facts, PlanProblem problem, ShopPlan plan, int weeks)
    {
        var today = facts.Calendar.Local(facts.Now).Date;
        var usual = facts.Shop.Week.Any(d => d.Day == IsoDayOfWeek.Saturday);
        return Of(
            problem,
            plan,
            facts.People.ToDictionary(p => p.Id.ToString(), p => p.RateOn(today)?.Cost ?? 0),
            minute => !usual && facts.Calendar.Local(minute).DayOfWeek == IsoDayOfWeek.Saturday,
            facts.Shop.OvertimeMultiplier,
            weeks
        );
    }

    /// <summary>What the days late cost the shop at so much a day.</summary>
    public decimal LateCost(decimal perDay) => Cents.Round((decimal)DaysLate * perDay);

    /// <summary>Reckons a plan. Use is told for so many weeks ahead.</summary>
    /// <param name="costs">What an hour of each person costs the shop.</param>
    /// <param name="isOvertime">Whether what somebody works at a minute is paid as overtime.</param>
    /// <param name="multiplier">What an overtime minute costs against another.</param>
    public static PlanFigures Of(
        PlanProblem problem,
        ShopPlan plan,
        IReadOnlyDictionary<string, decimal> costs,
        Func<long, bool> isOvertime,
        decimal multiplier,
        int weeks
    )
    {
        var (hours, until) = (new ShopHours(problem), weeks * 7 * 1440);
        var (minutes, wages, overtime) = (0L, 0m, 0m);
        var worked = problem.People.ToDictionary(p => p.Id, _ => 0L);
        var stood = problem.Stations.Select(s => s.Kind).Distinct().ToDictionary(k => k, _ => 0L);
        foreach (var o in plan.Operations.Values)
        {
            foreach (var span in o.Worked)
            {
                var ahead = Math.Max(0, Math.Min(span.End, problem.Now + until) - span.Start);
                foreach (var person in o.People)
                {
                    var pay = costs.GetValueOrDefault(person) * (span.End - span.Start) / 60;
                    minutes += span.End - span.Start;
                    worked[person] += ahead;
                    wages += pay;
                    overtime += isOvertime(span.Start) ? pay * (multiplier - 1) : 0;
                }
            }

            if (o.Station is { } kind && stood.ContainsKey(kind))
            {
                stood[kind] += hours.Shop.Between(
                    (int)(o.Start - problem.Now),
                    (int)Math.Min(until, o.Finish - problem.Now)
                );
            }
        }

        static Utilisation Use(string id, string name, bool isPerson, long used, long there) =>
            new(id, name, isPerson, there <= 0 ? 0 : Math.Min(1, used / (double)there), Math.Max(0, there - used));
        var used = problem
            .People.Select((p, i) => Use(p.Id, p.Name, true, worked[p.Id], hours.Of(i).Between(0, until)))
            .Concat(
                problem
                    .Stations.GroupBy(s => s.Kind)
                    .Where(s => stood[s.Key] > 0)
                    .Select(s =>
                        Use(s.Key, s.Key, false, stood[s.Key], (long)s.Sum(x => x.Count) * hours.Shop.Between(0, until))
                    )
            );
        return new(
            minutes,
            Cents.Round(wages + overtime),
            Cents.Round(overtime),
            plan.Builds.Values.Sum(b => b.Late) / 1440.0,
            [.. used]
        );
    }
}

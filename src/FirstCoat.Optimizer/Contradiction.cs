using FirstCoat.Core.Plan.Engine;
using FirstCoat.Core.Plan.Files;
using FirstCoat.Core.Plan.Plain;

namespace FirstCoat.Optimizer;

/// <summary>Finds which constraints of a problem cannot all be kept.</summary>
internal static class Contradiction
{
    /// <summary>One thing that is asked for, and the problem without it.</summary>
    private sealed record Demand(
        string Text,
        Func<PlainOperation, PlainOperation> Drop,
        Func<PlainBuild, PlainBuild>? DropGroup = null
    );

    /// <summary>A smallest set of demands on some operations that contradict each other: without any one of them the
    /// rest could be kept.</summary>
    /// <remarks>Source: deletion filter, J. W. Chinneck, E. W. Dravnieks, ORSA Journal on Computing 3 (1991).</remarks>
    public static string Say(PlainProblem problem, HashSet<string> operations)
    {
        var part = problem with
        {
            Builds = problem
                .Builds.Select(b =>
                    b with
                    {
                        Operations = b
                            .Operations.Where(o => operations.Contains(o.Id))
                            .Select(o => o with { After = o.After.Where(a => operations.Contains(a.Op)).ToList() })
                            .ToList(),
                        OneAtATime = b
                            .OneAtATime.Select(g => (IReadOnlyList<string>)g.Where(operations.Contains).ToList())
                            .Where(g => g.Count > 1)
                            .ToList(),
                    }
                )
                .Where(b => b.Operations.Count > 0)
                .ToList(),
        };
        var needed = new List<string>();
        foreach (var demand in Demands(part))
        {
            var without = part with
            {
                Builds = part
                    .Builds.Select(b =>
                        (demand.DropGroup?.Invoke(b) ?? b) with
                        {
                            Operations = b.Operations.Select(demand.Drop).ToList(),
                        }
                    )
                    .ToList(),
            };
            if (CanBeKept(without))
            {
                needed.Add(demand.Text);
            }
            else
            {
                part = without;
            }
        }

        return $"these contradict each other: {string.Join("; ", needed)}";
    }

    private static IEnumerable<Demand> Demands(PlainProblem part)
    {
        foreach (var b in part.Builds)
        {
            foreach (var group in b.OneAtATime)
            {
                yield return new(
                    $"one at a time {string.Join(", ", group)}",
                    o => o,
                    x => x with { OneAtATime = x.OneAtATime.Where(g => !ReferenceEquals(g, group)).ToList() }
                );
            }
        }

        foreach (var o in part.Builds.SelectMany(b => b.Operations))
        {
            if (o.Station is not null)
            {
                yield return new($"{o.Id} takes {o.Station}", x => x.Id == o.Id ? x with { Station = null } : x);
            }

            if (o.Hold is not null)
            {
                yield return new($"{o.Id} holds {o.Hold.Station} until {o.Hold.Until}", x =>
                    x.Id == o.Id ? x with { Hold = null } : x
                );
            }

            foreach (var crew in o.Crew)
            {
                yield return new($"{o.Id} needs {crew.Count} x {crew.Trade}", x =>
                    x.Id == o.Id ? x with { Crew = x.Crew.Where(c => c != crew).ToList() } : x
                );
            }

            foreach (var a in o.After)
            {
                if (a.MaxLag is not null)
                {
                    yield return new($"{o.Id} starts at most {a.MaxLag} after {a.Op}", x =>
                        x.Id == o.Id
                            ? x with
                            {
                                After = x.After.Select(y => y.Op == a.Op ? y with { MaxLag = null } : y).ToList(),
                            }
                            : x
                    );
                }

                yield return new($"{o.Id} starts at least {a.MinLag} after {a.Op}", x =>
                    x.Id == o.Id ? x with { After = x.After.Where(y => y.Op != a.Op).ToList() } : x
                );
            }
        }
    }

    private static bool CanBeKept(PlainProblem part)
    {
        try
        {
            var model = new PlainModel(part).Model;
            return Inside.Settle(model, c => PlainPlanner.Alone(model, c)).Count == 0;
        }
        catch (PlanFileFault)
        {
            return false;
        }
    }
}

using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan.Engine;

namespace FirstCoat.Core.Plan;

/// <summary>
/// Plans all builds over people, stations and suppliers at once. Nothing in it is drawn by lot: the same problem gives
/// the same plan. What cannot be planned is named, and the rest stands.
/// </summary>
/// <remarks>Source: serial schedule generation, R. Kolisch 1996; see docs/planning.md.</remarks>
public sealed class Planner : IPlanner
{
    /// <inheritdoc />
    public ShopPlan Plan(PlanProblem problem) => new PlanRun(problem).Plan();
}

/// <summary>One problem made ready: windows that cannot be kept are known, and who goes first.</summary>
internal sealed class PlanRun
{
    /// <summary>Windows that are given up at most; with that many the problem is not worth more trying.</summary>
    private const int MostLapses = 30;

    /// <summary>Rounds in which what would miss a window that finished work opened is put first, or the window is given
    /// up.</summary>
    private const int MostRounds = 12;

    /// <summary>What has to begin within two days goes first whether or not it would be missed, so that one more hour
    /// elsewhere does not turn the shop over.</summary>
    private const int Soon = 2 * 1440;

    private readonly HashSet<(string, string)> _lapsed = [];
    private readonly string[]?[] _alone;

    public PlanRun(PlanProblem problem)
    {
        Problem = problem;
        _alone = new string[problem.People.Count][];
        Shop = Settled();
        var hurried =
            Problem.Turns.Count > 0 || Shop.Model.Until is not { } until
                ? []
                : Enumerable.Range(0, until.Length).Where(o => until[o] <= Soon).ToHashSet();
        Order = InTurn(hurried, []);
        for (var i = 0; i < MostRounds && Missed() is { Count: > 0 } missed; i++)
        {
            // What would come too late in the queue goes first; what comes too late even then has lost its window.
            if (i == MostRounds - 1 || missed.TrueForAll(hurried.Contains))
            {
                // In the last round all that are open are given up, so that an order comes out in any case.
                List<int> given = i == MostRounds - 1 ? [.. Enumerable.Range(0, Shop.Model.Count)] : missed;
                _lapsed.UnionWith(given.SelectMany(Shop.OpenWindows));
                hurried.ExceptWith(given);
                Shop = Settled();
            }

            hurried.UnionWith(missed.Where(o => Shop.Model.Until?[o] is not (null or Link.NoLimit)));
            Order = InTurn(hurried, []);
        }

        if (problem.Turns.Count == 0 && Shop.FinishBy is { } by && Late(by) is { Count: > 0 } late)
        {
            // Only those go first that are in time then.
            Order = InTurn(hurried, late);
            var still = Late(by);
            Order = still.Count == 0 ? Order : InTurn(hurried, [.. late.Except(still)]);
        }
    }

    /// <summary>What misses its own deadline in the order that there is.</summary>
    private List<int> Late(int[] by)
    {
        var finish = Decoded().Finish;
        return [.. Enumerable.Range(0, by.Length).Where(o => finish[o] > by[o] && finish[o] < Model.Parked)];
    }

    /// <summary>The shop without the windows that cannot be kept even with nothing else in the shop.</summary>
    private ShopModel Settled()
    {
        var shop = new ShopModel(Problem, _lapsed);
        for (var i = 0; i < MostLapses && Broken(shop) is { } windows; i++)
        {
            _lapsed.Add(
                windows.FirstOrDefault(
                    w => Broken(new(Problem, new HashSet<(string, string)>(_lapsed) { w })) is null,
                    windows[0]
                )
            );
            shop = new(Problem, _lapsed);
        }

        return shop;
    }

    /// <param name="hurried">Operations that go before all else, because a window that is open would be missed
    /// otherwise.</param>
    /// <param name="due">Operations that go before all but those, for their own deadlines.</param>
    private int[] InTurn(IReadOnlyCollection<int> hurried, IReadOnlyCollection<int> due)
    {
        var keys = ShopTurns.Keys(Shop, Problem.Turns, hurried, due);
        if (Problem.Turns.Count > 0)
        {
            Arrange(o => keys[o]);
        }

        return new Lists(Shop.Model).ByKey(keys);
    }

    /// <summary>What comes too late for a window that finished work opened, because of all the others; null: no window
    /// is open.</summary>
    private List<int>? Missed()
    {
        if (Shop.Model.Until is not { } until)
        {
            return null;
        }

        var start = Decoded().Start;
        return [.. Enumerable.Range(0, until.Length).Where(o => start[o] > until[o] && start[o] < Model.Parked)];
    }

    private Decoder Decoded()
    {
        var decoder = new Decoder(Shop.Model);
        decoder.Decode(Order);
        return decoder;
    }

    /// <summary>Takes the best of several orders, the first where they are equal, each with tied operations as they are
    /// and as they start.</summary>
    /// <returns>What it gives.</returns>
    public Schedule Settle(IReadOnlyList<int[]> orders, int[] start)
    {
        var (asIs, best) = (Shop.Model.Clusters.ToArray(), (Schedule?)null);
        Cluster[] chosen = asIs;
        foreach (var arranged in new[] { false, true })
        {
            if (arranged)
            {
                Arrange(o => start[o]);
            }

            var decoder = new Decoder(Shop.Model) { Strict = true };
            foreach (var order in orders)
            {
                if (decoder.Decode(order) && decoder.Schedule() is var schedule && schedule.BetterThan(best))
                {
                    (best, Order, chosen) = (schedule, order, Shop.Model.Clusters.ToArray());
                }
            }
        }

        chosen.CopyTo(Shop.Model.Clusters, 0);
        return best ?? Decoded().Schedule();
    }

    private void Arrange(Func<int, double> key)
    {
        var clusters = Shop.Model.Clusters;
        for (var c = 0; c < clusters.Length; c++)
        {
            if (clusters[c].Operations.Length > 2)
            {
                clusters[c] = Inside.ByKey(Shop.Model, clusters[c], key);
            }
        }
    }

    public PlanProblem Problem { get; }

    public ShopModel Shop { get; }

    public int[] Order { get; set; }

    /// <summary>The plan by the order that there is, in the words of the problem.</summary>
    public ShopPlan Plan()
    {
        var decoder = Decoded();
        var schedule = decoder.Schedule();
        var reasons = new ShopReasons(Problem, Shop, schedule);
        var causes = new Causes(Problem, Shop, decoder, schedule);
        var planned = new Dictionary<string, PlannedOperation>(Shop.Model.Count);
        var unplanned = new List<Unplanned>();
        var assumes = Assumptions(schedule);
        var byBuild = Problem.Builds.Select(b => new List<PlannedOperation>(b.Operations.Count)).ToArray();
        for (var o = 0; o < Shop.Model.Count; o++)
        {
            if (schedule.Start[o] >= Model.Parked)
            {
                unplanned.Add(new(Shop.IdOf(o), Shop.BuildOf(o).Id, reasons.NoDate(o)));
            }
            else
            {
                var placed = planned[Shop.IdOf(o)] = Placed(schedule, reasons, causes, assumes, o);
                byBuild[Shop.Model.Build[o]].Add(placed);
            }
        }

        var without = unplanned.ToLookup(u => u.Build);
        var builds = Problem.Builds.Select((b, i) => Build(b, byBuild[i], [.. without[b.Id]])).ToDictionary(b => b.Id);
        return new(planned, builds)
        {
            Inserted = Shop.Inserted,
            OutOfReach = Shop.OutOfReach,
            Unplanned = unplanned,
            Again = id =>
                [
                    .. (causes.PlacedAgain(Shop.IndexOf(id)) ?? []).Select(p => new PlannedOperation(
                        Shop.IdOf(p.Operation),
                        Shop.BuildOf(p.Operation).Id,
                        Problem.Now + p.Start,
                        Problem.Now + p.Finish,
                        p.People.Count == 0 ? null : Problem.People[p.People[0]].Id,
                        []
                    )
                    {
                        People = Names(p.People),
                        Station = Shop.Operations[p.Operation].Station,
                    }),
                ],
            Reasons = id => planned.ContainsKey(id) ? causes.Of(Shop.IndexOf(id)) : PlanWhy.None,
            Slacks = id => planned.ContainsKey(id) ? causes.SlackOf(Shop.IndexOf(id)) : null,
            Stays = [.. schedule.Stays.SelectMany((stays, b) => stays.Select(s => Stay(b, s)))],
            WeightedDaysLate = Problem.Builds.Sum(b => b.Weight * builds[b.Id].Late / 1440.0),
        };
    }

    /// <summary>The windows of a cluster that cannot be placed, where there is one; null: none.</summary>
    private static List<(string, string)>? Broken(ShopModel shop)
    {
        foreach (var c in Inside.Settle(shop.Model))
        {
            var windows = shop
                .Model.Clusters[c]
                .Operations.SelectMany(o =>
                    shop.Model.After[o]
                        .Where(l => l is { HasWindow: true, FromStart: false } or { HasWindow: true, Most: > 0 })
                        .Select(l => (shop.IdOf(o), shop.IdOf(l.Other)))
                )
                .ToList();
            if (windows.Count > 0)
            {
                return windows;
            }
        }

        return null;
    }

    /// <summary>What operations assume by themselves, by the first of each build that does: it is said once.</summary>
    private ILookup<int, string> Assumptions(Schedule schedule) =>
        Enumerable
            .Range(0, Shop.Model.Count)
            .Where(o => Shop.Operations[o].Assumes.Count > 0)
            .OrderBy(o => schedule.Start[o])
            .SelectMany(o =>
                Shop.Operations[o].Assumes.Select(text => (Operation: o, Build: Shop.Model.Build[o], Text: text))
            )
            .DistinctBy(x => (x.Build, x.Text))
            .ToLookup(x => x.Operation, x => x.Text);

    private PlannedOperation Placed(
        Schedule schedule,
        ShopReasons reasons,
        Causes causes,
        ILookup<int, string> assumes,
        int o
    )
    {
        var operation = Shop.Operations[o];
        var people = reasons.People(o);
        var (start, finish) = (Problem.Now + schedule.Start[o], Problem.Now + schedule.Finish[o]);
        IReadOnlyList<Span> worked =
            schedule.Pieces.TryGetValue(o, out var pieces)
                ? pieces.Select(p => new Span(Problem.Now + p.From, Problem.Now + p.To)).ToList()
            : start == finish ? []
            : people.Count == 0 || Shop.Model.Run[o] is Run.Nonstop or Run.ThroughBreaks ? [new(start, finish)]
            : reasons.HoursOf(people, o).Pieces(schedule.Start[o], schedule.Finish[o], Problem.Now);
        return new(
            operation.Id,
            Shop.BuildOf(o).Id,
            start,
            finish,
            people.Count == 0 ? null : Problem.People[people[0]].Id,
            worked
        )
        {
            Ask = () => causes.Of(o),
            People = Names(people),
            Station = operation.Station,
            Place = PlaceOf(schedule, o),
            Assumes = Assumed(assumes[o], operation, PlaceOf(schedule, o), finish),
            MissesDeadline = operation.Deadline < finish,
            StartBy = StartBy(schedule, o) is var by && by != Link.NoLimit ? Problem.Now + by : null,
        };
    }

    /// <summary>What it needs by itself, and what must be renewed for work in its place, or in every place of its kind,
    /// to go on so long.</summary>
    private string? Assumed(IEnumerable<string> own, PlanOperation o, string? place, long finish)
    {
        string[] all = Renewed(o, place, finish) is { } what ? [.. own, $"if renewed: {what}"] : [.. own];
        return all.Length == 0 ? null : string.Join("; ", all);
    }

    private string? Renewed(PlanOperation o, string? place, long finish)
    {
        var there = Problem
            .Stations.Where(s => place is null ? s.Kind == (o.Station ?? o.Hold?.Station) : s.Id == place)
            .ToList();
        return there.Count > 0 && there.TrueForAll(s => s.Inspection?.Until < finish)
            ? there.MaxBy(s => s.Inspection!.Until)!.Inspection!.What
            : null;
    }

    private string? PlaceOf(Schedule schedule, int o)
    {
        if (Shop.Model.Vehicles is not { } vehicles || vehicles.Body[o] != Sequence.BodyUse.OnBody)
        {
            return null;
        }

        var at = Array.FindLast(schedule.Stays[Shop.Model.Build[o]], s => s.From <= schedule.Start[o]).At;
        return at >= 0 ? vehicles.Places[at].Id : null;
    }

    private PlannedStay Stay(int build, Stay stay)
    {
        Span? moved =
            stay.Moved >= 0
                ? new Span(Problem.Now + stay.Moved, Problem.Now + stay.Moved + Problem.Moves.Minutes)
                : null;
        string[] by =
            stay.Moved < 0
                ? []
                : [.. new[] { stay.Mover, stay.SecondMover }.Where(p => p >= 0).Select(p => Problem.People[p].Id)];
        return new(
            Problem.Builds[build].Id,
            stay.At >= 0 ? Shop.Model.Vehicles!.Places[stay.At].Id : null,
            Problem.Now + Math.Max(0, stay.From),
            stay.Until >= Model.Parked ? null : Problem.Now + stay.Until,
            stay.For < 0 ? null : Shop.IdOf(stay.For),
            moved,
            by
        )
        {
            Gone = stay.At == Engine.Stay.Gone,
        };
    }

    private int StartBy(Schedule schedule, int o)
    {
        var by = Shop.Model.Until is { } until ? until[o] : Link.NoLimit;
        // Work that leaves together is tied to the minute, which is no window of its own.
        foreach (var link in Shop.Model.After[o].Where(l => l is { HasWindow: true, Most: > 0 }))
        {
            by = Math.Min(by, (link.FromStart ? schedule.Start : schedule.Finish)[link.Other] + link.Most);
        }

        return by;
    }

    /// <summary>Who they are; one person alone is one list, however much they do.</summary>
    private string[] Names(IReadOnlyList<int> people) =>
        people.Count switch
        {
            0 => [],
            1 => _alone[people[0]] ??= [Problem.People[people[0]].Id],
            _ => [.. people.Select(p => Problem.People[p].Id)],
        };

    private PlannedBuild Build(PlanBuild build, List<PlannedOperation> mine, List<Unplanned> without)
    {
        var first = mine.Where(o => o.Finish > o.Start).MinBy(o => o.Start) ?? mine.FirstOrDefault();
        var finish = mine.Count == 0 ? Problem.Now : mine.Max(o => o.Finish);
        var held = first is not null
            ? null
            : without.FirstOrDefault()?.Reason ?? new(WaitKind.Nothing, "nothing left to do");
        return new(build.Id, finish, first?.Id, held)
        {
            Ask = first is null ? null : () => first.Reason,
            Partly = without.Count > 0,
            Late = build.Due is { } due ? Math.Max(0, finish - due) : 0,
        };
    }

    /// <summary>Who goes first by the order that there is.</summary>
    public Dictionary<string, double> Turns()
    {
        var turns = new Dictionary<string, double>();
        for (var i = 0; i < Order.Length; i++)
        {
            var mine = Shop.Model.Clusters[Order[i]].Operations;
            for (var k = 0; k < mine.Length; k++)
            {
                turns[Shop.IdOf(mine[k])] = i + k / (2.0 * mine.Length);
            }
        }

        return turns;
    }
}

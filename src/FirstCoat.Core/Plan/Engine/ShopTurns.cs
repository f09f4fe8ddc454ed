namespace FirstCoat.Core.Plan.Engine;

/// <summary>Who goes first in a shop where nothing better has been found: whoever must start soonest to be in
/// time.</summary>
internal static class ShopTurns
{
    /// <summary>Minutes on the clock that a working minute takes: a week of 40 hours.</summary>
    internal const double ClockPerWork = 168 / 40.0;

    /// <summary>
    /// A place in the manager's order counts as two weeks: enough to decide between builds that are due about the same
    /// time, not so much that one that is nearly done waits for one that is due in half a year.
    /// </summary>
    private const double PerRank = 14 * 1440;

    /// <summary>The key of what goes on already.</summary>
    private const double First = -1e12;

    /// <summary>Keys about here are of what would miss its own deadline in the queue.</summary>
    private const double Soon = -1e11;

    /// <summary>Keys about here are of what finished work set a term to, as bare metal: it goes before any other
    /// work.</summary>
    private const double Now = 2 * Soon;

    /// <summary>Keys below are out of the queue.</summary>
    private const double Queued = Soon / 2;

    /// <summary>Builds without a promise count as promised so far ahead, and each a week after the one before
    /// it.</summary>
    private const int Unpromised = 60 * 1440;

    /// <summary>
    /// A key for each operation: the latest start that keeps its build's date, counted back over work and lags, each
    /// place in the manager's order two weeks later, or that keeps an operation's own deadline where that is sooner;
    /// where the turns were settled before, those, and an operation that came since goes where the one it follows does.
    /// </summary>
    /// <param name="hurried">Operations that go before all else, the one whose window ends soonest first, each with
    /// what it follows.</param>
    /// <param name="due">Operations that go before all but those, because they would miss their own deadline
    /// otherwise.</param>
    public static double[] Keys(
        ShopModel shop,
        IReadOnlyDictionary<string, double> turns,
        IReadOnlyCollection<int> hurried,
        IReadOnlyCollection<int> due
    )
    {
        var model = shop.Model;
        var keys = LatestStarts(shop);
        foreach (var o in due)
        {
            Raise(model, keys, o, Soon + shop.FinishBy![o]);
        }

        foreach (var o in hurried)
        {
            Raise(model, keys, o, Now + model.Until![o]);
        }

        foreach (var o in shop.UnderWay)
        {
            keys[o] = First;
        }

        if (turns.Count == 0)
        {
            return keys;
        }

        // By the rule first, so that what it follows is already settled.
        var order = Enumerable.Range(0, model.Count).OrderBy(o => keys[o]).ToList();
        var last = turns.Values.Max();
        var settled = new double[model.Count];
        foreach (var o in order)
        {
            if (keys[o] < Queued)
            {
                settled[o] = keys[o];
                continue;
            }

            if (turns.TryGetValue(shop.IdOf(o), out var turn))
            {
                settled[o] = turn;
                continue;
            }

            var after = model
                .After[o]
                .Where(l => turns.ContainsKey(shop.IdOf(l.Other)))
                .Select(l => turns[shop.IdOf(l.Other)])
                .DefaultIfEmpty(double.NaN)
                .Max();
            var before = model
                .Before[o]
                .Where(l => turns.ContainsKey(shop.IdOf(l.Other)))
                .Select(l => turns[shop.IdOf(l.Other)])
                .DefaultIfEmpty(double.NaN)
                .Min();
            settled[o] =
                !double.IsNaN(before) ? before - 0.5
                : !double.IsNaN(after) ? after + 0.5
                : last + 1 + keys[o] * 1e-9;
        }

        return settled;
    }

    private static double[] LatestStarts(ShopModel shop)
    {
        var model = shop.Model;
        var tail = new double[model.Count];
        var by = shop.FinishBy is { } finishBy ? Array.ConvertAll(finishBy, f => (double)f) : null;
        var waiting = model.Before.Select(b => b.Length).ToArray();
        // Build by build, which keeps what is looked at close together.
        var ready = new Stack<int>(Enumerable.Range(0, model.Count).Where(o => waiting[o] == 0));
        while (ready.TryPop(out var o))
        {
            var own = model.Work[o] * (model.Crew[o].Length > 0 ? ClockPerWork : 1);
            var longest = 0.0;
            foreach (var link in model.Before[o])
            {
                longest = Math.Max(longest, tail[link.Other] + link.Lag - (link.FromStart ? own : 0));
                if (by is not null)
                {
                    by[o] = Math.Min(by[o], by[link.Other] - link.Lag + (link.FromStart ? own : 0));
                }
            }

            tail[o] = own + longest;
            if (by is not null)
            {
                by[o] -= own;
            }

            foreach (var link in model.After[o])
            {
                if (--waiting[link.Other] == 0)
                {
                    ready.Push(link.Other);
                }
            }
        }

        var keys = new double[model.Count];
        for (var o = 0; o < keys.Length; o++)
        {
            var (build, number) = (shop.BuildOf(o), model.Build[o]);
            keys[o] =
                build.Rank * PerRank
                + (build.Due is null ? Unpromised + number * 7 * 1440 : model.Due[number])
                - tail[o];
            keys[o] = Math.Min(keys[o], by is null ? double.MaxValue : by[o]);
        }

        return keys;
    }

    private static void Raise(Model model, double[] keys, int operation, double key)
    {
        var open = new Stack<int>([operation]);
        while (open.TryPop(out var o))
        {
            if (keys[o] > key)
            {
                keys[o] = key;
                Array.ForEach(model.After[o], link => open.Push(link.Other));
            }
        }
    }
}

namespace FirstCoat.Core.Plan.Engine;

/// <summary>Finds which operations windows and holds tie together.</summary>
internal static class Tying
{
    /// <summary>
    /// Both ends of a link with a latest start belong together, and so does all that lies between the two ends of a
    /// hold. Groups that would wait for each other become one.
    /// </summary>
    public static (Cluster[] Clusters, int[] ClusterOf) Make(Model model, int[] order)
    {
        var group = Enumerable.Range(0, model.Count).ToArray();
        for (var o = 0; o < model.Count; o++)
        {
            foreach (var link in model.After[o])
            {
                if (link.HasWindow)
                {
                    Union(group, o, link.Other);
                }
            }
        }

        var (down, up) = (new Reach(model.Count), new Reach(model.Count));
        foreach (var hold in model.Holds)
        {
            up.From(hold.Close, o => model.After[o]);
            Union(group, hold.Open, hold.Close);
            foreach (var o in down.From(hold.Open, o => model.Before[o]))
            {
                if (up.Has(o))
                {
                    Union(group, hold.Open, o);
                }
            }
        }

        while (HasCircle(model, group) && Merge(model, group)) { }

        // Numbered by their first operation; members in the order that keeps every link.
        var clusterOf = new int[model.Count];
        var (number, size) = (new int[model.Count], new int[model.Count]);
        var count = 0;
        for (var o = 0; o < model.Count; o++)
        {
            var root = Root(group, o);
            number[root] = root == o ? count++ : number[root];
            clusterOf[o] = number[root];
            size[number[root]]++;
        }

        var members = new int[count][];
        var filled = new int[count];
        foreach (var o in order)
        {
            var c = clusterOf[o];
            (members[c] ??= new int[size[c]])[filled[c]++] = o;
        }

        var holds = model.Holds.ToLookup(h => clusterOf[h.Open]);
        var made = new Cluster[count];
        for (var c = 0; c < count; c++)
        {
            Hold[] mine = holds.Count == 0 || !holds.Contains(c) ? [] : [.. holds[c]];
            made[c] = new Cluster(members[c], mine) { Tied = members[c].Length > 1 || mine.Length > 0 };
        }

        return (made, clusterOf);
    }

    /// <summary>Whether groups wait for each other: then not all of them can be put in an order.</summary>
    private static bool HasCircle(Model model, int[] group)
    {
        var waiting = new int[model.Count];
        var left = 0;
        for (var o = 0; o < model.Count; o++)
        {
            left += Root(group, o) == o ? 1 : 0;
            foreach (var link in model.After[o])
            {
                waiting[Root(group, o)] += Root(group, link.Other) != Root(group, o) ? 1 : 0;
            }
        }

        if (left == model.Count)
        {
            return false;
        }

        var members = Enumerable.Range(0, model.Count).ToLookup(o => Root(group, o));
        var ready = new Stack<int>(members.Select(m => m.Key).Where(g => waiting[g] == 0));
        while (ready.TryPop(out var g))
        {
            left--;
            foreach (var link in members[g].SelectMany(o => model.Before[o]))
            {
                var next = Root(group, link.Other);
                if (next != g && --waiting[next] == 0)
                {
                    ready.Push(next);
                }
            }
        }

        return left > 0;
    }

    /// <summary>Joins the groups of one circle of waiting, if there is one.</summary>
    private static bool Merge(Model model, int[] group)
    {
        var next = new Dictionary<int, HashSet<int>>();
        for (var o = 0; o < model.Count; o++)
        {
            foreach (var link in model.After[o])
            {
                var (from, to) = (Root(group, link.Other), Root(group, o));
                if (from != to)
                {
                    (next.TryGetValue(from, out var set) ? set : next[from] = []).Add(to);
                }
            }
        }

        var state = new Dictionary<int, int>();
        foreach (var start in next.Keys)
        {
            var path = new List<int>();
            var open = new Stack<(int Group, IEnumerator<int> Ahead)>();
            if (state.ContainsKey(start))
            {
                continue;
            }

            Enter(start);
            while (open.TryPeek(out var top))
            {
                if (!top.Ahead.MoveNext())
                {
                    state[top.Group] = 2;
                    path.RemoveAt(path.Count - 1);
                    open.Pop();
                }
                else if (!state.TryGetValue(top.Ahead.Current, out var seen))
                {
                    Enter(top.Ahead.Current);
                }
                else if (seen == 1)
                {
                    path.Skip(path.IndexOf(top.Ahead.Current))
                        .ToList()
                        .ForEach(g => Union(group, g, top.Ahead.Current));
                    return true;
                }
            }

            void Enter(int g)
            {
                state[g] = 1;
                path.Add(g);
                open.Push((g, (next.TryGetValue(g, out var set) ? set : []).GetEnumerator()));
            }
        }

        return false;
    }

    private static int Root(int[] group, int o)
    {
        while (group[o] != o)
        {
            o = group[o] = group[group[o]];
        }

        return o;
    }

    private static void Union(int[] group, int a, int b)
    {
        var (x, y) = (Root(group, a), Root(group, b));
        group[Math.Max(x, y)] = Math.Min(x, y);
    }
}

namespace FirstCoat.Core.Plan.Engine;

/// <summary>Finds which operations windows and holds tie together.</summary>
internal static class Tying
{
    /// <summary>
    /// Both ends of a link with a latest start belong together, and so does all that lies between the two ends of a hold. Groups
    /// that would wait for each other become one.
    /// </summary>
    public static (Cluster[] Clusters, int[] ClusterOf) Make(Model model, int[] order)
    {
        var group = Enumerable.Range(0, model.Count).ToArray();
        for (var o = 0; o < model.Count; o++)
        {
            foreach (var link in model.After[o].Where(l => l.HasWindow))
            {
                Union(group, o, link.Other);
            }
        }

        foreach (var hold in model.Holds)
        {
            var down = Reach(model.Before, hold.Open);
            var up = Reach(model.After, hold.Close);
            Union(group, hold.Open, hold.Close);
            foreach (var o in down.Where(up.Contains))
            {
                Union(group, hold.Open, o);
            }
        }

        while (Merge(model, group))
        {
        }

        var place = new int[model.Count];
        for (var i = 0; i < order.Length; i++)
        {
            place[order[i]] = i;
        }

        var clusterOf = new int[model.Count];
        var made = Enumerable.Range(0, model.Count).GroupBy(o => Root(group, o)).Select((g, i) =>
        {
            var members = g.OrderBy(o => place[o]).ToArray();
            Array.ForEach(members, o => clusterOf[o] = i);
            return new Cluster(members, model.Holds.Where(h => Root(group, h.Open) == g.Key).ToArray()) { Tied = members.Length > 1 || model.Holds.Any(h => h.Open == members[0]) };
        }).ToArray();
        return (made, clusterOf);
    }

    private static HashSet<int> Reach(Link[][] links, int from)
    {
        var seen = new HashSet<int>();
        var open = new Stack<int>([from]);
        while (open.TryPop(out var o))
        {
            foreach (var link in links[o])
            {
                if (seen.Add(link.Other))
                {
                    open.Push(link.Other);
                }
            }
        }

        return seen;
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
                    path.Skip(path.IndexOf(top.Ahead.Current)).ToList().ForEach(g => Union(group, g, top.Ahead.Current));
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

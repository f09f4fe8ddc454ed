namespace FirstCoat.Core.Plan.Engine;

/// <summary>In which turns the operations of a tied cluster are placed.</summary>
internal static class Inside
{
    /// <summary>Lowest key first, among those whose predecessors within the cluster have come.</summary>
    public static Cluster ByKey(Model model, Cluster cluster, Func<int, double> key)
    {
        var left = cluster.Operations.ToList();
        var order = new int[left.Count];
        for (var i = 0; i < order.Length; i++)
        {
            var next = left.Where(o => model.After[o].All(l => !left.Contains(l.Other))).MinBy(key);
            order[i] = next;
            left.Remove(next);
        }

        return cluster with
        {
            Operations = order,
        };
    }

    /// <summary>Makes sure that every cluster can be placed in an empty shop, in other turns where its own do not
    /// go.</summary>
    /// <param name="solve">Finds starts for a cluster where trying turns did not; null where there are none.</param>
    /// <returns>Clusters that cannot be placed at all.</returns>
    public static List<int> Settle(Model model, Func<int, IReadOnlyDictionary<int, int>?>? solve = null)
    {
        var cannot = new List<int>();
        var decoder = new Decoder(model);
        for (var c = 0; c < model.Clusters.Length; c++)
        {
            // What is tied to nothing and finds no place is left out by the decoder itself.
            if ((model.Parks && !model.Clusters[c].Tied) || Goes(c, model.Clusters[c]))
            {
                continue;
            }

            var random = new Random(c);
            var found = false;
            for (var i = 0; i < 40 && !found && model.Clusters[c].Operations.Length > 1; i++)
            {
                var other = ByKey(model, model.Clusters[c], _ => random.NextDouble());
                found = Goes(c, other);
            }

            if (!found && solve?.Invoke(c) is { } start)
            {
                found = Goes(c, ByKey(model, model.Clusters[c], o => start[o]));
            }

            if (!found)
            {
                cannot.Add(c);
            }
        }

        return cannot;

        bool Goes(int c, Cluster cluster)
        {
            if (!decoder.GoesAlone(cluster))
            {
                return false;
            }

            model.Clusters[c] = cluster;
            return true;
        }
    }
}

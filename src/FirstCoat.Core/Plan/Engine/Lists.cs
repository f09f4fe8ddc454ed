namespace FirstCoat.Core.Plan.Engine;

/// <summary>Orders of clusters that keep every link.</summary>
internal sealed class Lists(Model model)
{
    /// <summary>More than any key: what only uses what is left comes last.</summary>
    private const double AfterAll = 1e15;

    private readonly int[] _waiting = new int[model.Clusters.Length];
    private readonly double[] _key = new double[model.Clusters.Length];
    private readonly PriorityQueue<int, (double, int)> _ready = new();

    /// <summary>Lowest key first, among those whose predecessors have come.</summary>
    /// <param name="key">Of each operation; a cluster has that of its first.</param>
    public int[] ByKey(ReadOnlySpan<double> key)
    {
        var order = new int[model.Clusters.Length];
        _ready.Clear();
        for (var c = 0; c < order.Length; c++)
        {
            _key[c] = Of(key, c);
            _waiting[c] = model.ClusterAfter[c].Length;
            if (_waiting[c] == 0)
            {
                _ready.Enqueue(c, (_key[c], c));
            }
        }

        var at = 0;
        while (_ready.TryDequeue(out var c, out _))
        {
            order[at++] = c;
            foreach (var next in model.ClusterBefore[c])
            {
                if (--_waiting[next] == 0)
                {
                    _ready.Enqueue(next, (_key[next], next));
                }
            }
        }

        return order;
    }

    /// <summary>In the order in which they start.</summary>
    public int[] ByStart(ReadOnlySpan<int> start)
    {
        var keys = new double[start.Length];
        for (var o = 0; o < keys.Length; o++)
        {
            keys[o] = start[o];
        }

        return ByKey(keys);
    }

    private double Of(ReadOnlySpan<double> key, int cluster)
    {
        var least = double.MaxValue;
        var last = model.IsFillIn(cluster) ? AfterAll : 0;
        foreach (var o in model.Clusters[cluster].Operations)
        {
            least = Math.Min(least, key[o]);
        }

        return least + last;
    }
}

namespace FirstCoat.Core.Plan.Engine;

/// <summary>What no schedule can be better than, found without searching.</summary>
internal static class LowerBound
{
    /// <summary>
    /// Every build by its longest way from the start; the end of all also by how much work there is for those who can
    /// do it.
    /// </summary>
    public static (long Weighted, int Makespan) Of(Model model)
    {
        var head = Rules.Heads(model);
        var end = new int[model.Builds];
        for (var o = 0; o < model.Count; o++)
        {
            end[model.Build[o]] = Math.Max(end[model.Build[o]], head[o] + model.Tail[o]);
        }

        var weighted = 0L;
        for (var b = 0; b < end.Length; b++)
        {
            weighted += model.Weight[b] * (long)Math.Max(0, end[b] - model.Due[b]);
        }

        return (weighted, Math.Max(end.DefaultIfEmpty(0).Max(), Load(model)));
    }

    /// <summary>For each set of people that some need may come out of: all work that only they can do, shared between
    /// them.</summary>
    private static int Load(Model model)
    {
        if (!model.RoundTheClock)
        {
            return 0;
        }

        var most = 0L;
        foreach (
            var set in model.Crew.SelectMany(c => c).Select(n => n.Classes).DistinctBy(c => string.Join(',', c.Order()))
        )
        {
            var (work, first) = (0L, int.MaxValue);
            for (var o = 0; o < model.Count; o++)
            {
                var count = model.Crew[o].Where(n => n.Classes.All(set.Contains)).Sum(n => n.Count);
                if (count > 0)
                {
                    work += (long)count * model.Work[o];
                    first = Math.Min(first, model.Release[o]);
                }
            }

            var people = set.Sum(c => model.Capacity[c]);
            most = Math.Max(most, first + (work + people - 1) / Math.Max(1, people));
        }

        return (int)Math.Min(int.MaxValue, most);
    }
}

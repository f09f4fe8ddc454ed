namespace FirstCoat.Core.Sequence;

/// <summary>Work that does not wait any more for what its template puts before it.</summary>
public sealed record Departure(Operation Work, Operation Before);

/// <summary>Where a sequence departs from its template's order; more order than the template asks for does
/// not.</summary>
public sealed class Departures
{
    private readonly Dictionary<string, Operation> _made;
    private readonly Dictionary<Guid, Operation> _madeById;

    /// <param name="made">The template's, with ids of their own.</param>
    public Departures(IReadOnlyList<Operation> made) =>
        (_made, _madeById) = (made.ToDictionary(m => m.TemplateKey), made.ToDictionary(m => m.Id));

    /// <summary>Open work of a sequence that does not wait, directly or through other work, for open work that its
    /// template puts directly before it. What is done needs no order any more.</summary>
    public IReadOnlyList<Departure> Of(IReadOnlyCollection<Operation> all)
    {
        var byKey = all.Where(o => o.TemplateKey.Length > 0)
            .GroupBy(o => o.TemplateKey)
            .ToDictionary(g => g.Key, g => g.First());
        var byId = all.ToDictionary(o => o.Id);
        return
        [
            .. byKey
                .Values.Where(o => !o.IsDone && _made.ContainsKey(o.TemplateKey))
                .OrderBy(o => o.Position)
                .SelectMany(o =>
                {
                    var behind = Behind(o, byId);
                    return Asked(_made[o.TemplateKey], byKey)
                        .Distinct()
                        .Where(b => !b.IsDone && !behind.Contains(b.Id))
                        .Select(b => new Departure(o, b));
                }),
        ];
    }

    /// <summary>What departs by a change needs a written reason, which stays with that work until it waits
    /// again.</summary>
    /// <param name="changed">Brings the reason.</param>
    /// <param name="said">What was said of it before: that is no reason for more.</param>
    /// <exception cref="Refusal">Names the first departure that has none.</exception>
    public static void Check(
        Operation changed,
        string said,
        IReadOnlyList<Departure> before,
        IReadOnlyList<Departure> now
    )
    {
        var (why, fresh) = (changed.DepartsWhy, now.Except(before).ToList());
        if (fresh.Count > 0)
        {
            var (work, first) = (fresh[0].Work.Name, fresh[0].Before.Name);
            Refusal.When(
                why.Length == 0 || why == said,
                "departsWhy",
                $"By its template “{work}” comes after “{first}”. Say why here it does not."
            );
            // It may have been said of other work than the one that was changed.
            changed.DepartsWhy = now.Any(d => d.Work == changed) ? why : said;
            fresh.ForEach(d => d.Work.DepartsWhy = why);
        }

        Forget(before, now);
    }

    /// <summary>What is taken back, or made again, brings its own reasons; it makes nothing depart that has
    /// none.</summary>
    /// <exception cref="Refusal">Names the first departure that has none.</exception>
    public static void CheckBack(IReadOnlyList<Departure> before, IReadOnlyList<Departure> now)
    {
        if (now.Except(before).FirstOrDefault(d => d.Work.DepartsWhy.Length == 0) is { } bare)
        {
            throw new Refusal(
                "id",
                $"“{bare.Work.Name}” would no longer wait for “{bare.Before.Name}”, as its template has it, and nobody "
                    + "says why. Change its links instead."
            );
        }

        Forget(before, now);
    }

    /// <summary>Work that waits again needs no reason.</summary>
    private static void Forget(IReadOnlyList<Departure> before, IReadOnlyList<Departure> now)
    {
        foreach (var again in before.Select(d => d.Work).Except(now.Select(d => d.Work)))
        {
            again.DepartsWhy = "";
        }
    }

    /// <summary>What the template puts before: where that was taken out, what it came after.</summary>
    private IEnumerable<Operation> Asked(Operation made, Dictionary<string, Operation> present) =>
        made
            .After.Select(a => _madeById[a.Operation])
            .SelectMany(m => present.TryGetValue(m.TemplateKey, out var there) ? [there] : Asked(m, present));

    private static HashSet<Guid> Behind(Operation o, Dictionary<Guid, Operation> all)
    {
        var (seen, open) = (new HashSet<Guid>(), new Stack<Operation>([o]));
        while (open.TryPop(out var at))
        {
            foreach (var before in at.After.Where(a => seen.Add(a.Operation)))
            {
                if (all.TryGetValue(before.Operation, out var next))
                {
                    open.Push(next);
                }
            }
        }

        return seen;
    }
}

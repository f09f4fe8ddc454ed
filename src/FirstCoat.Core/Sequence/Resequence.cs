using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;

namespace FirstCoat.Core.Sequence;

/// <summary>What a template made anew does to a sequence.</summary>
/// <param name="Kept">Done, begun, replaced in part by findings, changed by hand where the templates agree, or added
/// besides the template: as they were.</param>
/// <param name="Changed">Not begun, and not as they were: as the template now has them.</param>
public sealed record Resequenced(
    IReadOnlyList<Operation> Kept,
    IReadOnlyList<Operation> Changed,
    IReadOnlyList<Operation> Added,
    IReadOnlyList<Operation> TakenOut
);

/// <summary>Plans a build again from a template without losing what was done, begun or added.</summary>
public sealed class Resequence
{
    private readonly List<Operation> _present;
    private readonly IReadOnlyList<Operation> _made;
    private readonly Func<Operation, bool> _begun;
    private readonly IReadOnlySet<Guid> _spokenFor;
    private readonly Dictionary<Guid, Operation> _match = [];
    private readonly Dictionary<Guid, Guid> _id = [];
    private readonly HashSet<Guid> _same = [];
    private readonly HashSet<Guid> _takenOutByHand = [];
    private readonly Dictionary<Guid, Operation> _madeById;

    /// <param name="present">The sequence as it is; its operations are changed.</param>
    /// <param name="made">The template's, with ids of their own.</param>
    /// <param name="withHours">Operations on which hours were booked.</param>
    /// <param name="spokenFor">Operations that a finding or a client's paper speaks of: their hours stay, and so do
    /// they.</param>
    /// <param name="was">What the sequence came from: where the two templates agree, it stays as it was left by hand.
    /// Null: all of it becomes as the template has it.</param>
    public Resequence(
        IReadOnlyList<Operation> present,
        IReadOnlyList<Operation> made,
        IReadOnlySet<Guid> withHours,
        IReadOnlySet<Guid> spokenFor,
        IReadOnlyList<Operation>? was = null
    )
    {
        (_present, _spokenFor) = ([.. present.OrderBy(o => o.Position)], spokenFor);
        _madeById = made.ToDictionary(m => m.Id);
        _begun = o => o.IsDone || o.StatedShare is not null || o.Signatures.Count > 0 || withHours.Contains(o.Id);
        foreach (var m in made)
        {
            // Sequences of an earlier day do not know their template's keys: there the name says it.
            if (
                _present.FirstOrDefault(o =>
                    o.TemplateKey == m.TemplateKey
                    || (o.TemplateKey.Length == 0 && o.Name == m.Name && o.Stage == m.Stage)
                ) is
                { } same
            )
            {
                _match[m.Id] = same;
                _id[m.Id] = same.Id;
            }
        }

        foreach (var id in Unchanged(was ?? [], made))
        {
            // What the sequence had from its template and has no more was taken out by hand.
            (_match.ContainsKey(id) ? _same : _takenOutByHand).Add(id);
        }

        _made = [.. made.Where(m => !_takenOutByHand.Contains(m.Id))];
    }

    /// <summary>Those of a template that another has as well, just as they are.</summary>
    private static IEnumerable<Guid> Unchanged(IReadOnlyList<Operation> was, IReadOnlyList<Operation> made)
    {
        var keys = was.Concat(made).ToDictionary(o => o.Id, o => o.TemplateKey);
        var before = was.ToDictionary(o => o.TemplateKey, o => Looks(o, id => keys[id]));
        return made.Where(m => before.TryGetValue(m.TemplateKey, out var b) && b == Looks(m, id => keys[id]))
            .Select(m => m.Id);
    }

    /// <summary>Changes the sequence.</summary>
    /// <exception cref="Refusal">The links would close a circle.</exception>
    public Resequenced Apply()
    {
        var matched = _match.Values.ToHashSet();
        var gone = _present
            .Where(o => !matched.Contains(o) && o.TemplateKey.Length > 0 && !_begun(o) && !_spokenFor.Contains(o.Id))
            .ToList();
        // A check without override goes only with all the work that stands behind it.
        gone.RemoveAll(g =>
            g.IsForGood && _present.Any(o => o.After.Any(a => a.Operation == g.Id) && !gone.Contains(o))
        );
        gone.RemoveAll(g => g.IsForGood && _present.All(o => o.After.All(a => a.Operation != g.Id)));
        var extra = _present.Except(matched).Except(gone).ToList();
        var (kept, changed, added) = (extra.ToList(), new List<Operation>(), new List<Operation>());
        foreach (var o in extra)
        {
            o.After = [.. o.After.SelectMany(a => Past(a, gone)).DistinctBy(a => a.Operation)];
        }

        foreach (var m in _made)
        {
            if (!_match.TryGetValue(m.Id, out var there))
            {
                (m.After, m.Terms) = (Links(m), Terms(m.Terms));
                added.Add(m);
                continue;
            }

            var ofExtras = there.After.Where(a => extra.Any(e => e.Id == a.Operation)).ToList();
            there.TemplateKey = m.TemplateKey;
            if (_begun(there) || there.Terms.Replaced.Count > 0)
            {
                kept.Add(there);
                there.After = there.IsDone
                    ? [.. there.After.SelectMany(a => Past(a, gone)).DistinctBy(a => a.Operation)]
                    : [.. Links(m), .. ofExtras];
                continue;
            }

            if (_same.Contains(m.Id))
            {
                if (Looks(there, Itself) != Looks(m, id => Itself(Mapped(id))))
                {
                    kept.Add(there);
                }

                there.After = [.. there.After.SelectMany(a => Past(a, gone)).DistinctBy(a => a.Operation)];
                continue;
            }

            var was = Looks(there, Itself);
            Take(there, m);
            there.After = [.. Links(m), .. ofExtras];
            if (Looks(there, Itself) != was)
            {
                changed.Add(there);
            }
        }

        gone.ForEach(o => o.RemoveWithItsWork());
        var all = extra.Concat(_made.Select(m => _match.GetValueOrDefault(m.Id, m))).ToList();
        Uncircle(all, extra);
        Place(extra);
        OperationOrder.Check(all);
        return new([.. kept.OrderBy(o => o.Position)], changed, added, gone);
    }

    private List<OperationLink> Links(Operation m) => [.. m.After.SelectMany(Led).DistinctBy(a => a.Operation)];

    /// <summary>A link, or where it leads to what was taken out by hand, what that came after.</summary>
    private IEnumerable<OperationLink> Led(OperationLink link) =>
        _takenOutByHand.Contains(link.Operation)
            ? _madeById[link.Operation].After.SelectMany(a => Led(new(a.Operation, 0)))
            : [link with { Operation = Mapped(link.Operation) }];

    private Guid Mapped(Guid made) => _id.GetValueOrDefault(made, made);

    private OperationTerms Terms(OperationTerms t) =>
        t with
        {
            Hold = t.Hold is { } h && IsThere(h.Until) ? h with { Until = Mapped(h.Until) } : null,
            ClosedUntil = t.ClosedUntil is { } c && IsThere(c) ? Mapped(c) : null,
        };

    private bool IsThere(Guid made) => !_takenOutByHand.Contains(made);

    private static string Itself(Guid id) => id.ToString();

    /// <summary>What a reader of the sequence would see change.</summary>
    /// <param name="known">What an operation is called by which others refer to it.</param>
    private static (
        string,
        Stage,
        Trade?,
        int,
        StationKind?,
        int,
        string,
        (StationKind?, string?, SupportState?, string?, string),
        (string, Coat?, Held?, GateKind?, Hazard?)
    ) Looks(Operation o, Func<Guid, string> known) =>
        (
            o.Name,
            o.Stage,
            o.Trade,
            o.BudgetMinutes,
            o.Station,
            o.ClockMinutes,
            string.Join(
                ' ',
                o.After.OrderBy(a => known(a.Operation), StringComparer.Ordinal)
                    .Select(a => $"{known(a.Operation)} {a with { Operation = Guid.Empty }}")
            ),
            (
                o.Terms.Hold?.Station,
                o.Terms.Hold is { } h ? known(h.Until) : null,
                o.Terms.Sets,
                o.Terms.ClosedUntil is { } c ? known(c) : null,
                o.Terms.OneAtATime
            ),
            (string.Join(' ', o.Panels), o.Coat, o.Held, o.Gate, o.Hazard)
        );

    /// <summary>What the template says now; who does it, its dates and what a finding gave it stay.</summary>
    private void Take(Operation there, Operation m)
    {
        (there.Name, there.Stage, there.Kind, there.Trade, there.Station) = (
            m.Name,
            m.Stage,
            m.Kind,
            m.Trade,
            m.Station
        );
        (there.Panels, there.Coat, there.Held, there.Gate, there.Hazard, there.ClockMinutes) = (
            m.Panels,
            m.Coat,
            m.Held,
            m.Gate,
            m.Hazard,
            m.ClockMinutes
        );
        if (!_spokenFor.Contains(there.Id))
        {
            (there.BudgetMinutes, there.WithoutStop) = (m.BudgetMinutes, m.WithoutStop);
        }

        there.Terms = Terms(m.Terms) with
        {
            Preferred = there.Terms.Preferred,
            NotBefore = there.Terms.NotBefore,
            PinnedOn = there.Terms.PinnedOn,
            PinnedAt = m.Station == there.Station ? there.Terms.PinnedAt : null,
            Deadline = there.Terms.Deadline,
            SupplierId = m.Kind == OperationKind.Outside ? there.Terms.SupplierId : null,
        };
    }

    /// <summary>A link, or where it led to something that is taken out, what that came after.</summary>
    private static IEnumerable<OperationLink> Past(OperationLink link, List<Operation> gone) =>
        gone.FirstOrDefault(g => g.Id == link.Operation) is { } taken
            ? taken.After.SelectMany(a => Past(new(a.Operation, 0), gone))
            : [link];

    /// <summary>What was added besides the template follows it; where the template now puts that later, it no longer
    /// waits for the addition.</summary>
    private static void Uncircle(List<Operation> all, List<Operation> extra)
    {
        var byId = all.ToDictionary(o => o.Id);
        var extras = extra.Select(e => e.Id).ToHashSet();
        while (OperationOrder.FindCycle(byId) is { Count: > 0 } circle)
        {
            var waits = circle
                .Zip(circle.Skip(1))
                .FirstOrDefault(x => !extras.Contains(x.First.Id) && extras.Contains(x.Second.Id));
            if (waits.First is null)
            {
                return;
            }

            waits.First.After = [.. waits.First.After.Where(a => a.Operation != waits.Second.Id)];
        }
    }

    /// <summary>The template's order; an addition stands where it stood, behind its neighbour.</summary>
    private void Place(List<Operation> extra)
    {
        var order = _made.Select(m => _match.GetValueOrDefault(m.Id, m)).ToList();
        foreach (var e in extra)
        {
            var before = _present.TakeWhile(o => o != e).LastOrDefault(order.Contains);
            order.Insert(before is null ? 0 : order.IndexOf(before) + 1, e);
        }

        for (var i = 0; i < order.Count; i++)
        {
            order[i].Position = i + 1;
        }
    }
}

using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Sequence;

/// <summary>One thing that a gate asks for before it is signed.</summary>
/// <param name="Words">What it is.</param>
/// <param name="Missing">What is not there; empty: it is met.</param>
/// <param name="Must">Nobody signs without it; anything else can be signed without, and that stands with the name for
/// good.</param>
/// <param name="Of">The operation that it is about; null: no single one.</param>
public sealed record GateAsk(string Words, string Missing, bool Must, Guid? Of = null)
{
    public bool IsMet => Missing.Length == 0;
}

/// <summary>A finding as a gate looks at it.</summary>
/// <param name="Judged">It has a verdict, or was left with a reason.</param>
public sealed record GateFinding(int Number, string Place, bool Judged);

/// <summary>What is on record of the work that a gate checks.</summary>
/// <param name="Photographed">Operations with a photo.</param>
/// <param name="Running">Operations on which somebody's clock runs.</param>
/// <param name="Flagged">Operations with hours that something stood against and that nobody has settled.</param>
/// <param name="Provisions">What work needs in the metal, by the work.</param>
/// <param name="Unjudged">By work that rested on something: what of that is another now, where nobody has judged it
/// since.</param>
public sealed record GateRecord(
    IReadOnlySet<Guid> Photographed,
    IReadOnlySet<Guid> Running,
    IReadOnlySet<Guid> Flagged,
    IReadOnlyList<GateFinding> Findings,
    ILookup<Guid, Provision> Provisions,
    ILookup<Guid, string> Unjudged
);

/// <summary>What a gate asks for, from what is on record: the work before it, what has to be out, what later work needs
/// in the metal, findings, photos, hours.</summary>
public static class GateAsks
{
    /// <param name="operations">Of the build, those that are in its sequence.</param>
    /// <param name="against">What stands against signing besides the work.</param>
    public static IReadOnlyList<GateAsk> Of(
        Operation gate,
        IReadOnlyDictionary<Guid, Operation> operations,
        IReadOnlyList<Obstacle> against,
        GateRecord record
    )
    {
        var before = gate.After.Select(a => operations.GetValueOrDefault(a.Operation)).OfType<Operation>().ToList();
        var work = Checked(gate, operations);
        var panels = gate.Panels.Concat(work.SelectMany(o => o.Panels)).ToHashSet();
        return
        [
            .. before.Select(o => new GateAsk(o.Name, o.IsDone ? "" : Open(o), true, o.Id)),
            .. against.Select(o => new GateAsk("Out of the way", o.Words, true, o.Of)),
            .. work.Where(o => record.Running.Contains(o.Id))
                .Select(o => new GateAsk($"Nobody at {o.Name}", $"somebody’s clock runs on {o.Name}", false, o.Id)),
            .. work.Where(o => record.Flagged.Contains(o.Id))
                .Select(o => new GateAsk(
                    $"Hours of {o.Name} settled",
                    $"hours on {o.Name} were worked against a rule and are not settled",
                    false,
                    o.Id
                )),
            .. work.SelectMany(o =>
                record
                    .Unjudged[o.Id]
                    .Select(what => new GateAsk(
                        $"{o.Name} judged since “{what}”",
                        $"{o.Name} is not judged since “{what}”",
                        false,
                        o.Id
                    ))
            ),
            .. Provisions.Asks(gate, operations, record.Provisions),
            .. Photos(gate, work, record),
            .. Findings(panels, record),
        ];
    }

    /// <summary>What is missing that nobody must wait for, in a sentence for the signature; empty: nothing
    /// is.</summary>
    public static string Without(IEnumerable<GateAsk> asks) =>
        Words.Shortened(string.Join("; ", asks.Where(a => !a.Must && !a.IsMet).Select(a => a.Missing)), 500);

    /// <summary>The work since the last gates: what this one checks, directly or through what came before it.</summary>
    private static List<Operation> Checked(Operation gate, IReadOnlyDictionary<Guid, Operation> operations)
    {
        var (open, seen) = (new Stack<Operation>([gate]), new HashSet<Guid>());
        while (open.TryPop(out var o))
        {
            foreach (var link in o.After)
            {
                if (
                    operations.TryGetValue(link.Operation, out var before)
                    && before.Kind != OperationKind.Gate
                    && seen.Add(before.Id)
                )
                {
                    open.Push(before);
                }
            }
        }

        return [.. seen.Select(id => operations[id]).Where(o => o.Kind == OperationKind.Work).OrderBy(o => o.Position)];
    }

    private static string Open(Operation o) =>
        o.Kind == OperationKind.Gate ? $"{o.Name} is not signed" : $"{o.Name} is not done";

    private static IEnumerable<GateAsk> Photos(Operation gate, List<Operation> work, GateRecord record)
    {
        var done = work.Where(o => o.IsDone).ToList();
        var without = done.Where(o => !record.Photographed.Contains(o.Id)).Select(o => o.Name).ToList();
        if (done.Count > 0)
        {
            yield return new(
                done.Count == 1 ? "A photo of the work that is done" : $"A photo of each of {done.Count} that are done",
                without.Count == 0 ? "" : $"no photo of {string.Join(", ", without)}",
                false,
                gate.Id
            );
        }
    }

    private static IEnumerable<GateAsk> Findings(HashSet<string> panels, GateRecord record)
    {
        var mine = record.Findings.Where(f => panels.Count == 0 || panels.Contains(f.Place)).ToList();
        var open = mine.Where(f => !f.Judged).Select(f => $"{f.Number}").ToList();
        if (mine.Count > 0)
        {
            yield return new(
                $"A verdict on each of {mine.Count} findings there",
                open.Count == 0 ? "" : $"no verdict on finding {string.Join(", ", open)}",
                false
            );
        }
    }
}

using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Sequence;

/// <summary>What later work needs in the metal.</summary>
public enum ProvisionKind
{
    Hole,
    Nut,
    Bracket,

    /// <summary>Room for a hand or a tool at a fastener.</summary>
    Access,

    /// <summary>Somebody has looked: it needs nothing that is not there.</summary>
    Nothing,
}

/// <summary>A hole, nut, bracket or access that work after paint rests on, so that it is made before paint.</summary>
public sealed class Provision : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>The later work that needs it.</summary>
    public required Guid OperationId { get; set; }

    public required ProvisionKind Kind { get; init; }

    /// <summary>What is fixed there; with <see cref="ProvisionKind.Nothing"/>, why nothing is needed.</summary>
    public required string What { get; set; }

    /// <summary>Where on the vehicle, as it is measured or said.</summary>
    public required string Where { get; set; }

    /// <summary>When it was made; null: it is not yet.</summary>
    public Instant? MadeAt { get; private set; }

    public string MadeBy { get; private set; } = "";

    /// <summary>It was not needed after all, or said twice.</summary>
    public bool Removed { get; private set; }

    public bool IsOpen => !Removed && Kind != ProvisionKind.Nothing && MadeAt is null;

    /// <summary>As it is said everywhere: "hole for the handbrake cable, left sill"; "nothing: the clips stay".</summary>
    public string Words =>
        Kind == ProvisionKind.Nothing
            ? $"nothing: {What}"
            : $"{Core.Words.Of(Kind)} for {What}{(Where.Length == 0 ? "" : $", {Where}")}";

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.Text(What, "what", 120),
            () => Refusal.When(Where.Length > 160, "where", "Up to 160 characters.")
        );

    /// <summary>It is there.</summary>
    public void Make(string by, Instant at)
    {
        Refusal.When(Kind == ProvisionKind.Nothing, "made", "Nothing is needed here, so nothing is made.");
        Refusal.When(Removed, "made", "It was taken off the list.");
        (MadeAt, MadeBy) = MadeAt is null ? (at, by) : (MadeAt, MadeBy);
    }

    /// <summary>It is not there after all.</summary>
    public void Unmake() => (MadeAt, MadeBy) = (null, "");

    public void Remove() => Removed = true;
}

/// <summary>Which later work is asked what it needs in the metal, and which gate asks.</summary>
/// <remarks>Source: the rule of the trade that nothing is left to drill, weld or reach once it is painted; which work
/// that is follows from stage and trade.</remarks>
public static class Provisions
{
    /// <summary>Whether an operation bolts, wires, pipes or clips something to the vehicle.</summary>
    public static bool IsAsked(Operation o) =>
        o.Kind == OperationKind.Work
        && (
            o.Stage is Stage.Driveline or Stage.Trim
            || (o.Stage == Stage.Assembly && o.Trade is Trade.Metal or Trade.Electric or Trade.Trim)
        );

    /// <summary>Whether a gate asks for them: the gate of the provisions, and where a build has none, the last look
    /// before paint.</summary>
    /// <param name="operations">Of the build, those that are in its sequence.</param>
    public static bool Asks(Operation gate, IEnumerable<Operation> operations) =>
        gate is { Kind: OperationKind.Gate, Gate: GateKind.Provisions }
        || (
            gate is { Kind: OperationKind.Gate, Gate: GateKind.UniformCoat }
            && !operations.Any(o => o is { Kind: OperationKind.Gate, Gate: GateKind.Provisions })
        );

    /// <summary>The work behind a gate that is asked, in the order of the list: what is done already has found what it
    /// needed.</summary>
    public static IReadOnlyList<Operation> Behind(Operation gate, IReadOnlyDictionary<Guid, Operation> operations) =>
        [
            .. OperationOrder
                .Behind(gate.Id, operations.Values)
                .Select(id => operations[id])
                .Where(o => IsAsked(o) && !o.IsDone)
                .OrderBy(o => o.Position),
        ];

    /// <summary>What a gate asks of each work behind it: that somebody has said what it needs, and that it is
    /// there.</summary>
    public static IEnumerable<GateAsk> Asks(
        Operation gate,
        IReadOnlyDictionary<Guid, Operation> operations,
        ILookup<Guid, Provision> provisions
    ) =>
        !Asks(gate, operations.Values)
            ? []
            : Behind(gate, operations)
                .Select(o => new GateAsk(
                    $"What {o.Name} is fixed to",
                    Missing(o, [.. provisions[o.Id].Where(p => !p.Removed)]),
                    false,
                    o.Id
                ));

    private static string Missing(Operation o, IReadOnlyList<Provision> said) =>
        said.Count == 0
            ? $"nobody has said what {o.Name} needs"
            : string.Join("; ", said.Where(p => p.IsOpen).Select(p => $"{o.Name}: no {p.Words}"));
}

using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Sequence;

/// <summary>Rules of gates.</summary>
public static class Gates
{
    /// <summary>Four gates have no override: a manager cannot open them with a reason.</summary>
    public static bool CanOverride(GateKind gate) =>
        gate is not (GateKind.FirstDrive or GateKind.TractionBattery or GateKind.Asbestos or GateKind.ShellSupport);

    /// <summary>How many different people must sign.</summary>
    public static int Signatures(GateKind gate) => gate == GateKind.FirstDrive ? 2 : 1;

    /// <summary>Gates that can be signed now: all that stands before them is done.</summary>
    /// <param name="operations">All of a build's sequence; what a gate comes after and is not among them counts as
    /// done.</param>
    public static IEnumerable<Operation> Ready(IReadOnlyCollection<Operation> operations)
    {
        var left = operations.Where(o => !o.IsDone).Select(o => o.Id).ToHashSet();
        return operations.Where(o =>
            o.Kind == OperationKind.Gate && !o.IsDone && o.After.All(a => !left.Contains(a.Operation))
        );
    }
}

using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Fitup;

/// <summary>What the gates of the fit ask of the sheets: nothing of it is ticked.</summary>
public static class FitGate
{
    /// <summary>Whether a gate looks at gaps: the dry build's, one side's, and the uniform coat's, as the build's
    /// school says.</summary>
    public static bool Asks(Operation gate, GapSchool school) =>
        gate.Kind == OperationKind.Gate
        && gate.Gate switch
        {
            GateKind.FitUp => school != GapSchool.AfterUniformCoat,
            GateKind.Side => school != GapSchool.AfterUniformCoat,
            GateKind.UniformCoat => school != GapSchool.BeforeFinish,
            _ => false,
        };

    /// <summary>The lines that a gate looks at: those beside the panels of the work it checks; where that names none,
    /// all of the vehicle.</summary>
    /// <param name="operations">Of the build, those that are in its sequence.</param>
    public static IReadOnlyList<LineState> LinesOf(
        Operation gate,
        IReadOnlyDictionary<Guid, Operation> operations,
        IReadOnlyList<LineState> lines
    )
    {
        var panels = gate
            .Panels.Concat(
                gate.After.SelectMany(a =>
                    operations.GetValueOrDefault(a.Operation)?.Panels ?? Enumerable.Empty<string>()
                )
            )
            .ToHashSet();
        return panels.Count == 0 ? lines : [.. lines.Where(l => l.Line.Between.Any(panels.Contains))];
    }

    /// <summary>What it asks for: each line read, in its limits or accepted by name, and read again where something has
    /// changed.</summary>
    /// <param name="metal">Temporary metal that is in.</param>
    /// <param name="side">The side that is signed by itself; null: all.</param>
    public static IReadOnlyList<GateAsk> Asks(
        Operation gate,
        GapSchool school,
        IReadOnlyDictionary<Guid, Operation> operations,
        IReadOnlyList<LineState> lines,
        IReadOnlyList<TemporaryMetal> metal,
        PanelSide? side = null
    )
    {
        if (!Asks(gate, school))
        {
            return [];
        }

        var mine = LinesOf(gate, operations, lines)
            .Where(l => l.Verdict != LineVerdict.LeftOut && (side is null || l.Line.Side == side))
            .ToList();
        var unread = mine.Where(l => l.Verdict is LineVerdict.NotRead or LineVerdict.PartlyRead).ToList();
        var again = mine.Where(l => l.Verdict == LineVerdict.ReadAgain).ToList();
        var off = mine.Where(l => l.Verdict == LineVerdict.Out).ToList();
        var panels = mine.SelectMany(l => l.Line.Between).ToHashSet();
        var braced = metal.Where(m => panels.Contains(m.Panel)).ToList();
        return mine.Count == 0
            ? []
            :
            [
                new(
                    $"All {mine.Count} shut lines read",
                    unread.Count == 0 ? "" : $"not read to the end: {Letters(unread)}",
                    true
                ),
                new(
                    "Each line in its limits, or accepted by a name",
                    off.Count == 0 ? "" : $"out of limits: {Letters(off)}",
                    true
                ),
                .. again.Count == 0
                    ? Array.Empty<GateAsk>()
                    : [new("Read again since it was changed", $"changed since it was read: {Letters(again)}", true)],
                .. braced.Count == 0
                    ? Array.Empty<GateAsk>()
                    :
                    [
                        new(
                            "No temporary metal in the openings",
                            $"temporary metal is in: {string.Join(", ", braced.Select(m => m.What))}",
                            false
                        ),
                    ],
            ];
    }

    /// <summary>What a gate asks of one side: nothing of work that lies on the other alone.</summary>
    public static IReadOnlyList<GateAsk> OfSide(
        PanelSide side,
        IReadOnlyList<GateAsk> asks,
        IReadOnlyDictionary<Guid, Operation> operations,
        Body body
    )
    {
        var sides = body.Panels.ToDictionary(p => p.Key, p => p.Side);
        bool IsOther(string panel) =>
            sides.TryGetValue(panel, out var s) && s != side && s is PanelSide.Left or PanelSide.Right;
        return
        [
            .. asks.Where(a =>
                a.Of is not { } of
                || operations.GetValueOrDefault(of) is not { Panels.Count: > 0 } o
                || !o.Panels.All(IsOther)
            ),
        ];
    }

    private static string Letters(IEnumerable<LineState> lines) =>
        string.Join(", ", lines.Select(l => $"{l.Line.Letter} {l.Line.Name}"));
}

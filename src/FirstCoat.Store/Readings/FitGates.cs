using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Fitup;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Readings;

/// <summary>Gates of the fit that are shut again because something beside their lines has changed.</summary>
internal static class FitGates
{
    public static Body Body(this Build build) => Core.Bodies.Body.Unfold(build.Vehicle.Style, build.Vehicle.Dimensions);

    /// <summary>Takes back what was proposed for lines that read something else now: it was said of other figures. The
    /// caller saves.</summary>
    public static async Task DropProposals(
        this ShopDb db,
        Guid buildId,
        IEnumerable<string> lines,
        CancellationToken cancel
    )
    {
        var keys = lines.ToHashSet();
        foreach (
            var proposal in await db
                .FitAcceptances.Where(a =>
                    a.BuildId == buildId && a.AcceptedAt == null && !a.TakenBack && keys.Contains(a.Line)
                )
                .ToListAsync(cancel)
        )
        {
            proposal.TakeBack();
        }
    }

    /// <summary>Shuts those that were signed and look at a line of these panels, whose lines are read again; the caller
    /// saves.</summary>
    public static async Task Shut(
        this ShopDb db,
        Build build,
        IReadOnlyCollection<string> panels,
        CancellationToken cancel
    )
    {
        var operations = await db
            .Operations.Where(o => o.BuildId == build.Id && !o.Removed)
            .ToDictionaryAsync(o => o.Id, cancel);
        var lines = GapSheet.Of(GapLine.Of(build.Body()), new() { Id = Guid.Empty, BuildId = build.Id }, [], [], []);
        foreach (
            var gate in operations.Values.Where(o =>
                (o.IsDone || o.HasSides()) && FitGate.Asks(o, build.Terms.Choices.Gaps)
            )
        )
        {
            var touched = FitGate
                .LinesOf(gate, operations, lines)
                .Where(l => l.Line.Between.Any(panels.Contains))
                .Select(l => l.Line.Side)
                .ToHashSet();
            if (touched.Count > 0)
            {
                gate.ShutSides(touched);
            }
        }
    }
}

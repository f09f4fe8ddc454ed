using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Plan;

/// <summary>An operation as it was planned when the client said yes.</summary>
public sealed record BaselineRow(Guid Operation, Stage Stage, int BudgetMinutes, Instant? Start, Instant? Finish);

/// <summary>The plan of a build as it stood when an estimate or a change was accepted. Older ones are kept.</summary>
public sealed class Baseline : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>What was accepted.</summary>
    public required string Why { get; init; }

    public required Instant Finish { get; init; }
    public required List<BaselineRow> Rows { get; init; }

    /// <summary>Planned value: minutes that should have been earned by an instant, each operation's spread evenly from
    /// its start to its finish.</summary>
    /// <remarks>Source: earned value management, any textbook. What had no date counts from the planned finish
    /// on.</remarks>
    public decimal PlannedMinutes(Instant at, Stage? stage = null) =>
        Rows.Where(r => stage is null || r.Stage == stage).Sum(r => r.BudgetMinutes * ShareAt(r, at));

    private decimal ShareAt(BaselineRow row, Instant at)
    {
        var (start, finish) = (row.Start ?? Finish, row.Finish ?? Finish);
        return at >= finish ? 1
            : at <= start ? 0
            : (decimal)((at - start) / (finish - start));
    }
}

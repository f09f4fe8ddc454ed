using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Labour;

/// <summary>A stage's budgeted, earned and spent minutes; rework is part of spent.</summary>
public sealed record StageProgress(
    Stage Stage,
    int BudgetMinutes,
    decimal EarnedMinutes,
    int SpentMinutes,
    int ReworkMinutes
)
{
    /// <summary>Minutes spent beyond what was earned; negative: in hand.</summary>
    public decimal OverMinutes => SpentMinutes - EarnedMinutes;
}

/// <summary>Progress of a build, from its operations and what was logged on them; nothing of it is typed.</summary>
public static class Progress
{
    /// <summary>All ten stages in order.</summary>
    /// <param name="now">Up to when running timers count.</param>
    public static IReadOnlyList<StageProgress> ByStage(
        IEnumerable<Operation> operations,
        IEnumerable<TimeEntry> entries,
        Instant now
    )
    {
        var ops = operations.Where(o => !o.Removed).ToList();
        var logged = entries.ToList();
        var spent = SpentByOperation(logged, now);
        var rework = SpentByOperation(logged.Where(e => e.Kind == LabourKind.Rework), now);
        return Enum.GetValues<Stage>()
            .Select(stage =>
            {
                var mine = ops.Where(o => o.Stage == stage).ToList();
                return new StageProgress(
                    stage,
                    mine.Sum(o => o.BudgetMinutes),
                    mine.Sum(o => o.EarnedMinutes),
                    mine.Sum(o => spent.GetValueOrDefault(o.Id)),
                    mine.Sum(o => rework.GetValueOrDefault(o.Id))
                );
            })
            .ToList();
    }

    /// <summary>Minutes that count, by the operation they were logged on; an operation without any is not in
    /// it.</summary>
    /// <param name="now">Up to when running timers count.</param>
    public static Dictionary<Guid, int> SpentByOperation(IEnumerable<TimeEntry> entries, Instant now) =>
        entries
            .Where(e => e.Counts)
            .GroupBy(e => e.OperationId)
            .ToDictionary(g => g.Key, g => g.Sum(e => e.Minutes(now)));

    /// <summary>Earned over budget, between 0 and 1; 0 without a budget.</summary>
    public static decimal Share(IReadOnlyList<StageProgress> stages)
    {
        var budget = stages.Sum(s => s.BudgetMinutes);
        return budget == 0 ? 0 : stages.Sum(s => s.EarnedMinutes) / budget;
    }
}

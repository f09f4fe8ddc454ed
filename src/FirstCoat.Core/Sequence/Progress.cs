using FirstCoat.Core.Labour;
using NodaTime;

namespace FirstCoat.Core.Sequence;

/// <summary>A stage's budgeted, earned and spent minutes; rework is part of spent.</summary>
public sealed record StageProgress(Stage Stage, int BudgetMinutes, decimal EarnedMinutes, int SpentMinutes, int ReworkMinutes)
{
    /// <summary>Minutes spent beyond what was earned; negative: in hand.</summary>
    public decimal OverMinutes => SpentMinutes - EarnedMinutes;
}

/// <summary>Progress of a build, from its operations and what was logged on them; nothing of it is typed.</summary>
public static class Progress
{
    /// <summary>All ten stages in order.</summary>
    /// <param name="now">Up to when running timers count.</param>
    public static IReadOnlyList<StageProgress> ByStage(IEnumerable<Operation> operations, IEnumerable<TimeEntry> entries, Instant now)
    {
        var ops = operations.Where(o => !o.Removed).ToList();
        var spent = entries.Where(e => e.Counts).GroupBy(e => e.OperationId)
            .ToDictionary(g => g.Key, g => (All: g.Sum(e => e.Minutes(now)), Rework: g.Where(e => e.Kind == LabourKind.Rework).Sum(e => e.Minutes(now))));
        return Enum.GetValues<Stage>().Select(stage =>
        {
            var mine = ops.Where(o => o.Stage == stage).ToList();
            var hours = mine.Select(o => spent.GetValueOrDefault(o.Id)).ToList();
            return new StageProgress(stage, mine.Sum(o => o.BudgetMinutes), mine.Sum(o => o.EarnedMinutes), hours.Sum(h => h.All), hours.Sum(h => h.Rework));
        }).ToList();
    }

    /// <summary>Earned over budget, between 0 and 1; 0 without a budget.</summary>
    public static decimal Share(IReadOnlyList<StageProgress> stages)
    {
        var budget = stages.Sum(s => s.BudgetMinutes);
        return budget == 0 ? 0 : stages.Sum(s => s.EarnedMinutes) / budget;
    }
}

using System.Linq.Expressions;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Sequence;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Readings;

/// <summary>Where a build's work stands, and when somebody last worked on it.</summary>
/// <param name="Last">The end of the last hours, or now while somebody is on it; null: nobody was.</param>
public sealed record BuildStands(IReadOnlyList<StageProgress> Stages, Instant? Last);

/// <summary>Sums of hours, taken where they lie: a shop of some years has more entries than a page should
/// read.</summary>
public static class LabourReading
{
    /// <summary>Minutes that an operation has earned, as <see cref="Operation.EarnedMinutes"/> has them: what is stated is
    /// never more than its most.</summary>
    public static readonly Expression<Func<Operation, decimal>> Earned = o =>
        o.BudgetMinutes * (o.DoneAt != null ? 1 : o.StatedShare ?? 0);

    /// <summary>Entries that count: not replaced, not void.</summary>
    private static IQueryable<TimeEntry> Counting(ShopDb db) =>
        db.TimeEntries.AsNoTracking().Where(e => e.ReplacedBy == null && !e.Void);

    /// <summary>Whole minutes on an operation, as <see cref="Progress.SpentByOperation"/> counts them; one without any
    /// is not in it.</summary>
    /// <param name="now">Up to when running timers count.</param>
    public static async Task<Dictionary<Guid, int>> SpentOn(
        this ShopDb db,
        IQueryable<Guid> operations,
        Instant now,
        CancellationToken cancel
    )
    {
        var minute = TimeEntry.WholeMinute(now);
        var rows = await Counting(db)
            .Where(e => operations.Contains(e.OperationId))
            .GroupBy(e => e.OperationId)
            .Select(g => new { g.Key, Spent = EF.Functions.Sum(g.Select(e => (e.Stop ?? minute) - e.Start)) })
            .ToListAsync(cancel);
        return rows.ToDictionary(r => r.Key, r => (int)(r.Spent?.TotalMinutes ?? 0));
    }

    /// <summary>Where each of some builds stands, as <see cref="Progress.ByStage"/> has it.</summary>
    /// <param name="now">Up to when running timers count.</param>
    public static async Task<Dictionary<Guid, BuildStands>> StandsOf(
        this ShopDb db,
        IReadOnlyCollection<Guid> builds,
        Instant now,
        CancellationToken cancel
    )
    {
        var minute = TimeEntry.WholeMinute(now);
        var work = (
            await db
                .Operations.Where(o => builds.Contains(o.BuildId) && !o.Removed)
                .GroupBy(o => new { o.BuildId, o.Stage })
                .Select(g => new
                {
                    g.Key.BuildId,
                    g.Key.Stage,
                    Budget = g.Sum(o => o.BudgetMinutes),
                    Earned = g.AsQueryable().Sum(Earned),
                })
                .ToListAsync(cancel)
        ).ToLookup(x => x.BuildId);
        var hours = (
            await Counting(db)
                .Where(e => builds.Contains(e.BuildId))
                .Join(
                    db.Operations.Where(o => !o.Removed),
                    e => e.OperationId,
                    o => o.Id,
                    (e, o) =>
                        new
                        {
                            o.BuildId,
                            o.Stage,
                            Rework = e.Kind == LabourKind.Rework,
                            Minutes = (e.Stop ?? minute) - e.Start,
                        }
                )
                .GroupBy(x => new
                {
                    x.BuildId,
                    x.Stage,
                    x.Rework,
                })
                .Select(g => new { g.Key, Minutes = EF.Functions.Sum(g.Select(x => x.Minutes)) })
                .ToListAsync(cancel)
        ).ToLookup(x => x.Key.BuildId, x => (x.Key.Stage, x.Key.Rework, Minutes: (int)(x.Minutes?.TotalMinutes ?? 0)));
        var last = await Counting(db)
            .Where(e => builds.Contains(e.BuildId))
            .GroupBy(e => e.BuildId)
            .Select(g => new { g.Key, At = g.Max(e => e.Stop ?? now) })
            .ToDictionaryAsync(x => x.Key, x => (Instant?)x.At, cancel);
        return builds.ToDictionary(
            b => b,
            b => new BuildStands(
                [
                    .. Enum.GetValues<Stage>()
                        .Select(s =>
                        {
                            var (mine, spent) = (
                                work[b].FirstOrDefault(w => w.Stage == s),
                                hours[b].Where(h => h.Stage == s).ToList()
                            );
                            return new StageProgress(
                                s,
                                mine?.Budget ?? 0,
                                mine?.Earned ?? 0,
                                spent.Sum(h => h.Minutes),
                                spent.Where(h => h.Rework).Sum(h => h.Minutes)
                            );
                        }),
                ],
                last.GetValueOrDefault(b)
            )
        );
    }
}

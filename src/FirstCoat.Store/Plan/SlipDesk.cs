using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>One night's forecast, by how much it moved since the night before, and what was recorded in
/// between.</summary>
/// <param name="Days">Of the likely finish; null: the first night. Negative: sooner.</param>
/// <param name="Changed">Kinds of records that changed since, most first; empty where it did not move.</param>
public sealed record NightMove(ForecastNight Night, int? Days, List<string> Changed);

/// <summary>A stage against what was planned when the client said yes, in hours.</summary>
public sealed record StageAgainst(Stage Stage, decimal Budget, decimal Planned, decimal Earned, decimal Spent);

/// <summary>Progress against the last baseline.</summary>
public sealed record AgainstBaseline(
    string Why,
    Instant At,
    LocalDate Finish,
    int Kept,
    List<StageAgainst> Stages,
    EarnedIndices Indices
);

/// <summary>How a build's finish moved over time, and how it stands against what was agreed.</summary>
public sealed class SlipDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    private static readonly Dictionary<string, string> Words = new()
    {
        ["Operation"] = "operations",
        ["TimeEntry"] = "hours booked",
        ["PartLine"] = "parts",
        ["OutsideJob"] = "outside work",
        ["Decision"] = "questions",
        ["Build"] = "the build itself",
        ["Finding"] = "findings",
        ["Person"] = "people and absences",
        ["Station"] = "stations",
        ["Supplier"] = "suppliers",
        ["ShopSettings"] = "the shop's week or rules",
        ["ClosedDay"] = "closed days",
        ["AcceptedTurns"] = "who goes first",
    };

    private static readonly string[] OfShop =
    [
        "Person",
        "Station",
        "Supplier",
        "ShopSettings",
        "ClosedDay",
        "AcceptedTurns",
    ];

    /// <summary>So many nights are looked back on.</summary>
    private const int MostNights = 60;

    /// <summary>The last nights, oldest first.</summary>
    public async Task<List<NightMove>> Nights(Guid buildId, CancellationToken cancel)
    {
        var nights = await Db
            .ForecastNights.AsNoTracking()
            .Where(n => n.BuildId == buildId)
            .OrderByDescending(n => n.On)
            .Take(MostNights)
            .ToListAsync(cancel);
        nights.Reverse();
        var zone = DateTimeZoneProviders.Tzdb[(await Shop(cancel)).TimeZone];
        var moves = nights
            .Zip(nights.Skip(1), (before, night) =>
                (Night: night, Days: Period.DaysBetween(before.P50, night.P50), Since: before.On)
            )
            .ToList();
        var changes = await Changes(
            buildId,
            [.. moves.Where(m => m.Days != 0).Select(m => Stretch(m.Since, m.Night.On, zone))],
            cancel
        );
        return
        [
            .. nights.Take(1).Select(n => new NightMove(n, null, [])),
            .. moves.Select(m => new NightMove(
                m.Night,
                m.Days,
                m.Days == 0 ? [] : Told(changes, Stretch(m.Since, m.Night.On, zone))
            )),
        ];
    }

    /// <summary>From the beginning of one day to the end of another.</summary>
    private static DayBounds Stretch(LocalDate from, LocalDate to, DateTimeZone zone) =>
        new(DayBounds.Of(from, zone).Start, DayBounds.Of(to, zone).End);

    /// <summary>What was recorded that bears on a build, from the first of some stretches to the last.</summary>
    private async Task<List<(Instant At, string What)>> Changes(
        Guid buildId,
        List<DayBounds> stretches,
        CancellationToken cancel
    )
    {
        if (stretches.Count == 0)
        {
            return [];
        }

        var (from, to) = (stretches.Min(s => s.Start), stretches.Max(s => s.End));
        var mine = Db
            .Operations.Where(o => o.BuildId == buildId)
            .Select(o => o.Id)
            .Concat(Db.TimeEntries.Where(e => e.BuildId == buildId).Select(e => e.Id))
            .Concat(Db.Parts.Where(p => p.BuildId == buildId).Select(p => p.Id))
            .Concat(Db.OutsideJobs.Where(j => j.BuildId == buildId).Select(j => j.Id))
            .Concat(Db.Decisions.Where(d => d.BuildId == buildId).Select(d => d.Id))
            .Concat(Db.Findings.Where(f => f.BuildId == buildId).Select(f => f.Id));
        var told = Words.Keys.ToList();
        var rows = await Db
            .Audit.Where(a => a.At >= from && a.At < to && told.Contains(a.What))
            .Where(a => a.Of == buildId || OfShop.Contains(a.What) || mine.Contains(a.Of))
            .Select(a => new { a.At, a.What })
            .ToListAsync(cancel);
        return [.. rows.Select(r => (r.At, r.What))];
    }

    /// <summary>What was recorded most in a stretch, in words.</summary>
    private static List<string> Told(List<(Instant At, string What)> changes, DayBounds stretch) =>
        [
            .. changes
                .Where(c => stretch.Has(c.At))
                .GroupBy(c => c.What)
                .OrderByDescending(g => g.Count())
                .ThenBy(g => g.Key, StringComparer.Ordinal)
                .Take(4)
                .Select(g => Words[g.Key]),
        ];

    /// <summary>Stage by stage against the last baseline; null: nothing was accepted yet.</summary>
    public async Task<AgainstBaseline?> Against(Guid buildId, CancellationToken cancel)
    {
        var all = await Db
            .Baselines.AsNoTracking()
            .Where(b => b.BuildId == buildId)
            .OrderBy(b => b.Seq)
            .ToListAsync(cancel);
        if (all.LastOrDefault() is not { } last)
        {
            return null;
        }

        var zone = DateTimeZoneProviders.Tzdb[(await Shop(cancel)).TimeZone];
        var operations = await Db
            .Operations.AsNoTracking()
            .Where(o => o.BuildId == buildId && !o.Removed)
            .ToListAsync(cancel);
        var entries = await Db
            .TimeEntries.AsNoTracking()
            .Where(e => e.BuildId == buildId && e.ReplacedBy == null && !e.Void)
            .ToListAsync(cancel);
        var stages = Progress
            .ByStage(operations, entries, Clock.Now)
            .Select(s => new StageAgainst(
                s.Stage,
                Hours(s.BudgetMinutes),
                Hours(last.PlannedMinutes(Clock.Now, s.Stage)),
                Hours(s.EarnedMinutes),
                Hours(s.SpentMinutes)
            ))
            .Where(s => s.Budget > 0 || s.Spent > 0)
            .ToList();
        var sum = EarnedValue
            .Total([
                .. stages.Select(s => new StageValue(
                    s.Stage.ToString(),
                    (double)s.Budget,
                    (double)s.Planned,
                    (double)s.Earned,
                    (double)s.Spent
                )),
            ])
            .Indices;
        return new(last.Why, last.RecordedAt, last.Finish.InZone(zone).Date, all.Count, stages, sum);
    }

    private static decimal Hours(decimal minutes) => Math.Round(minutes / 60, 2, MidpointRounding.AwayFromZero);
}

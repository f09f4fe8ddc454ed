using FirstCoat.Core;
using FirstCoat.Core.Access;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Plan;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;

namespace FirstCoat.Store.Builds;

/// <summary>
/// A build that has ended is kept to be read. What is under way when it ends still comes to its end: a clock is
/// stopped, forgotten hours are entered, money is paid, pieces come back from outside, ordered parts arrive, links end.
/// Everything else waits until a withdrawal is taken back.
/// </summary>
internal static class EndedBuilds
{
    private const string OfBuild = nameof(TimeEntry.BuildId);

    private static readonly HashSet<Type> StillRecorded =
    [
        typeof(TimeEntry),
        typeof(Payment),
        typeof(ApprovalCode),
        typeof(WrongAnswer),
        typeof(ForecastNight),
    ];

    /// <summary>Refuses changes to what belongs to a build that had ended before this request.</summary>
    public static async Task Refuse(ShopDb db, CancellationToken cancel)
    {
        var changed = db
            .ChangeTracker.Entries<Entity>()
            .Where(e => e.State is EntityState.Added or EntityState.Modified or EntityState.Deleted)
            .ToList();
        var builds = changed.Select(Touched).OfType<Guid>().ToHashSet();
        if (builds.Count == 0)
        {
            return;
        }

        var ended = await db
            .Builds.AsNoTracking()
            .Where(b => builds.Contains(b.Id) && (b.Status == BuildStatus.Closed || b.Status == BuildStatus.Withdrawn))
            .Select(b => new { b.Number, b.Status })
            .FirstOrDefaultAsync(cancel);
        Refusal.When(
            ended is not null,
            "build",
            $"Build {ended?.Number} has ended: it is kept to be read."
                + (ended?.Status == BuildStatus.Withdrawn ? " The manager can take the withdrawal back." : "")
        );
    }

    /// <summary>The build that a change belongs to; null: none, or a change that an ended build still takes.</summary>
    private static Guid? Touched(EntityEntry<Entity> entry) =>
        entry.Entity switch
        {
            Build when entry.State == EntityState.Added || entry.Property(nameof(Build.Status)).IsModified => null,
            Build build => build.Id,
            var e
                when StillRecorded.Contains(e.GetType())
                    || (entry.State == EntityState.Modified && IsUnderWay(entry)) => null,
            _ => entry.Metadata.FindProperty(OfBuild) is null ? null : (Guid?)entry.Property(OfBuild).CurrentValue,
        };

    /// <summary>Whether it had left the shop, or was on its way to it, before this request.</summary>
    private static bool IsUnderWay(EntityEntry<Entity> entry) =>
        entry.Entity switch
        {
            OutsideJob => entry.Property(nameof(OutsideJob.SentOn)).OriginalValue is not null,
            PartLine => entry.Property(nameof(PartLine.State)).OriginalValue is PartState.Ordered or PartState.Expected,
            PrivateLink => true,
            _ => false,
        };
}

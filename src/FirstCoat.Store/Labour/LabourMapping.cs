using FirstCoat.Core.Labour;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Labour;

internal sealed class TimeEntryMapping() : TableOf<TimeEntry>("labour_entries")
{
    public override void Configure(EntityTypeBuilder<TimeEntry> e)
    {
        e.Ignore(t => t.Counts);
        e.Ignore(t => t.IsRunning);
        e.Property(t => t.Flag).IsJson();
        e.HasIndex(t => new { t.PersonId, t.Start });
        e.HasIndex(t => t.Start, "hours_of_a_day").HasDatabaseName("hours_of_a_day");
        e.HasIndex(t => t.BuildId, "hours_against_a_rule")
            .HasFilter("flag is not null")
            .HasDatabaseName("hours_against_a_rule");
        e.HasIndex(t => t.Replaces).IsUnique();
        // Nobody has two timers: the database itself holds the rule.
        e.HasIndex(t => t.PersonId).IsUnique().HasFilter("stop is null").HasDatabaseName("one_running_timer");
        e.HasOne<Person>().WithMany().HasForeignKey(t => t.PersonId).OnDelete(DeleteBehavior.Restrict);
        e.HasOne<Operation>().WithMany().HasForeignKey(t => t.OperationId).OnDelete(DeleteBehavior.Restrict);
        e.BelongsToBuild();
    }
}

internal sealed class AcknowledgementMapping() : TableOf<Acknowledgement>("labour_acknowledgements")
{
    public override void Configure(EntityTypeBuilder<Acknowledgement> e)
    {
        e.Property(a => a.Caution).HasMaxLength(500);
        e.Property(a => a.Work).HasMaxLength(200);
        e.HasIndex(a => new { a.PersonId, a.BuildId });
        e.HasOne<Person>().WithMany().HasForeignKey(a => a.PersonId).OnDelete(DeleteBehavior.Restrict);
        e.BelongsToBuild();
    }
}

internal sealed class ShopTimeMapping() : TableOf<ShopTime>("labour_shop_time")
{
    public override void Configure(EntityTypeBuilder<ShopTime> e)
    {
        e.Ignore(t => t.Counts);
        e.Ignore(t => t.IsRunning);
        e.Property(t => t.Job).HasMaxLength(ShopSettings.JobMost);
        e.HasIndex(t => new { t.PersonId, t.Start });
        e.HasIndex(t => t.PersonId).IsUnique().HasFilter("stop is null").HasDatabaseName("one_running_shop_time");
        e.HasOne<Person>().WithMany().HasForeignKey(t => t.PersonId).OnDelete(DeleteBehavior.Restrict);
    }
}

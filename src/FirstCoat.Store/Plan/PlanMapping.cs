using FirstCoat.Core.Builds;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Shop;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Plan;

internal sealed class AcceptedTurnsMapping() : TableOf<AcceptedTurns>("plan_turns")
{
    public override void Configure(EntityTypeBuilder<AcceptedTurns> e)
    {
        e.Property(t => t.Turns).IsJson();
        e.Property(t => t.AcceptedBy).HasMaxLength(100);
    }
}

internal sealed class BaselineMapping() : TableOf<Baseline>("plan_baselines")
{
    public override void Configure(EntityTypeBuilder<Baseline> e)
    {
        e.Property(b => b.Rows).IsJson();
        e.Property(b => b.Why).HasMaxLength(100);
        e.BelongsToBuild();
    }
}

internal sealed class WhatIfMapping() : TableOf<WhatIf>("plan_what_ifs")
{
    public override void Configure(EntityTypeBuilder<WhatIf> e)
    {
        e.Ignore(w => w.IsOpen);
        e.Property(w => w.Changes).IsJson();
    }
}

internal sealed class SettledContentionMapping() : TableOf<SettledContention>("plan_contentions");

internal sealed class ForecastNightMapping() : TableOf<ForecastNight>("plan_forecast_nights")
{
    public override void Configure(EntityTypeBuilder<ForecastNight> e)
    {
        e.HasOne<Build>().WithMany().HasForeignKey(n => n.BuildId).OnDelete(DeleteBehavior.Cascade);
        e.HasIndex(n => new { n.BuildId, n.On }).IsUnique();
        e.Property(n => n.Kept).HasPrecision(4, 3);
        e.Property(n => n.Holds).HasMaxLength(200);
    }
}

internal sealed class CommittedWeekMapping() : TableOf<CommittedWeek>("plan_weeks")
{
    public override void Configure(EntityTypeBuilder<CommittedWeek> e)
    {
        e.Ignore(w => w.IsCounted);
        e.Property(w => w.Promises).IsJson();
        e.Property(w => w.CommittedBy).HasMaxLength(100);
        e.Property(w => w.CountedBy).HasMaxLength(100);
        e.HasIndex(w => w.Monday).IsUnique();
    }
}

internal sealed class CalendarLinkMapping() : TableOf<CalendarLink>("plan_calendar_links")
{
    public override void Configure(EntityTypeBuilder<CalendarLink> e)
    {
        e.Property(l => l.TokenHash).HasMaxLength(64);
        e.HasIndex(l => l.TokenHash).IsUnique();
        e.HasOne<Person>().WithMany().HasForeignKey(l => l.PersonId).OnDelete(DeleteBehavior.Cascade);
        e.HasOne<Station>().WithMany().HasForeignKey(l => l.StationId).OnDelete(DeleteBehavior.Cascade);
    }
}

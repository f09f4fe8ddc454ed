using FirstCoat.Core.Fitup;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Fitup;

internal sealed class FitSheetMapping() : TableOf<FitSheet>("fitup_sheets")
{
    public override void Configure(EntityTypeBuilder<FitSheet> e)
    {
        e.Property(s => s.Painted).IsJson();
        e.Property(s => s.Bright).IsJson();
        e.Property(s => s.Lines).IsJson();
        e.Property(s => s.Doors).IsJson();
        e.BelongsToBuild();
        e.HasIndex(s => s.BuildId).IsUnique();
    }
}

internal sealed class FitReadingMapping() : TableOf<FitReading>("fitup_readings")
{
    public override void Configure(EntityTypeBuilder<FitReading> e)
    {
        e.Ignore(r => r.Mm);
        e.Property(r => r.Line).HasMaxLength(60);
        e.Property(r => r.Instrument).HasMaxLength(60);
        // As typed: nothing of it is rounded.
        e.Property(r => r.Value).HasColumnType("numeric");
        e.BelongsToBuild();
    }
}

internal sealed class FitAcceptanceMapping() : TableOf<FitAcceptance>("fitup_acceptances")
{
    public override void Configure(EntityTypeBuilder<FitAcceptance> e)
    {
        e.Property(a => a.Line).HasMaxLength(60);
        e.Property(a => a.Why).HasMaxLength(300);
        e.Property(a => a.What).HasMaxLength(500);
        e.BelongsToBuild();
    }
}

internal sealed class FitChangeMapping() : TableOf<FitChange>("fitup_changes")
{
    public override void Configure(EntityTypeBuilder<FitChange> e)
    {
        e.Property(c => c.Panels).IsJson();
        e.Property(c => c.Move).IsJson();
        e.Property(c => c.What).HasMaxLength(300);
        e.Property(c => c.Result).HasMaxLength(300);
        e.BelongsToBuild();
    }
}

internal sealed class OpeningReadingMapping() : TableOf<OpeningReading>("fitup_openings")
{
    public override void Configure(EntityTypeBuilder<OpeningReading> e)
    {
        e.Property(r => r.Of).HasMaxLength(40);
        e.Property(r => r.When).HasMaxLength(120);
        foreach (
            var length in new[]
            {
                nameof(OpeningReading.Diagonal1),
                nameof(OpeningReading.Diagonal2),
                nameof(OpeningReading.Width),
                nameof(OpeningReading.Side),
            }
        )
        {
            e.Property(length).HasColumnType("numeric");
        }

        e.BelongsToBuild();
    }
}

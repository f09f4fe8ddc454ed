using FirstCoat.Core.Fitup;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Fitup;

internal sealed class DatumSheetMapping() : TableOf<DatumSheet>("fitup_datum_sheets")
{
    public override void Configure(EntityTypeBuilder<DatumSheet> e)
    {
        e.Property(s => s.Drawing).HasMaxLength(80);
        e.Property(s => s.Revision).HasMaxLength(40);
        e.Property(s => s.Page).HasMaxLength(40);
        e.Property(s => s.Points).IsJson();
        e.Property(s => s.Before).IsJson();
        e.Property(s => s.After).IsJson();
        e.BelongsToBuild();
        e.HasIndex(s => s.BuildId).IsUnique();
    }
}

internal sealed class DatumReadingMapping() : TableOf<DatumReading>("fitup_datum_readings")
{
    public override void Configure(EntityTypeBuilder<DatumReading> e)
    {
        e.Property(r => r.Point).HasMaxLength(20);
        e.Property(r => r.Instrument).HasMaxLength(60);
        e.Property(r => r.At).IsJson();
        e.BelongsToBuild();
    }
}

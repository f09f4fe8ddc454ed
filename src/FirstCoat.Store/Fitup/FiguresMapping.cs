using FirstCoat.Core.Fitup;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Fitup;

internal sealed class SpecFigureMapping() : TableOf<SpecFigure>("fitup_specs")
{
    public override void Configure(EntityTypeBuilder<SpecFigure> e)
    {
        e.Property(f => f.Name).HasMaxLength(120);
        e.Property(f => f.Panel).HasMaxLength(40);
        e.Property(f => f.Unit).HasMaxLength(10);
        e.Property(f => f.Source).HasMaxLength(120);
        e.Property(f => f.Page).HasMaxLength(40);
        e.Property(f => f.Specified).HasPrecision(14, 5);
        e.Property(f => f.Tolerance).HasPrecision(14, 5);
        e.Property(f => f.Readings).IsJson();
        e.BelongsToBuild();
    }
}

internal sealed class CentreReadingMapping() : TableOf<CentreReading>("fitup_centres")
{
    public override void Configure(EntityTypeBuilder<CentreReading> e)
    {
        e.Property(r => r.What).HasMaxLength(120);
        e.Property(r => r.Panel).HasMaxLength(40);
        e.Property(r => r.Left).HasPrecision(12, 4);
        e.Property(r => r.Right).HasPrecision(12, 4);
        e.Property(r => r.Tolerance).HasPrecision(12, 4);
        e.BelongsToBuild();
    }
}

internal sealed class MirrorPlaceMapping() : TableOf<MirrorPlace>("fitup_mirrors")
{
    public override void Configure(EntityTypeBuilder<MirrorPlace> e)
    {
        e.Property(p => p.Name).HasMaxLength(120);
        e.Property(p => p.Panel).HasMaxLength(40);
        e.Property(p => p.Asymmetry).HasPrecision(12, 4);
        e.Property(p => p.Tolerance).HasPrecision(12, 4);
        e.Property(p => p.Readings).IsJson();
        e.BelongsToBuild();
    }
}

internal sealed class BodyMountMapping() : TableOf<BodyMount>("fitup_mounts")
{
    public override void Configure(EntityTypeBuilder<BodyMount> e)
    {
        e.Property(m => m.Name).HasMaxLength(60);
        e.Property(m => m.ShimMm).HasPrecision(8, 3);
        e.Property(m => m.Panels).IsJson();
        e.BelongsToBuild();
    }
}

internal sealed class BoltSetMapping() : TableOf<BoltSet>("fitup_bolts")
{
    public override void Configure(EntityTypeBuilder<BoltSet> e)
    {
        e.Property(s => s.Name).HasMaxLength(80);
        e.Property(s => s.Source).HasMaxLength(120);
        e.Property(s => s.Steps).IsJson();
        e.BelongsToBuild();
    }
}

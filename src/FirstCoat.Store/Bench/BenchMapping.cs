using FirstCoat.Core.Bench;
using FirstCoat.Core.Builds;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Bench;

internal sealed class BenchTryMapping() : TableOf<BenchTry>("bench_tries")
{
    public override void Configure(EntityTypeBuilder<BenchTry> e)
    {
        e.Property(t => t.Sum).HasMaxLength(20);
        e.Property(t => t.Name).HasMaxLength(80);
        e.Property(t => t.Figures).HasMaxLength(20_000);
        e.BelongsToBuild();
    }
}

internal sealed class SheetOffcutMapping() : TableOf<SheetOffcut>("bench_offcuts")
{
    public override void Configure(EntityTypeBuilder<SheetOffcut> e)
    {
        e.Property(o => o.Material).HasMaxLength(60);
        e.Property(o => o.Place).HasMaxLength(60);
        e.HasOne<Build>().WithMany().HasForeignKey(o => o.FromBuild).OnDelete(DeleteBehavior.Restrict);
        e.HasOne<Build>().WithMany().HasForeignKey(o => o.UsedFor).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class WireTableMapping() : TableOf<WireTable>("bench_wires")
{
    public override void Configure(EntityTypeBuilder<WireTable> e)
    {
        e.Property(t => t.Wires).IsJson();
        e.Property(t => t.Fuses).IsJson();
    }
}

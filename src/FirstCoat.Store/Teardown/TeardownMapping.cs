using FirstCoat.Core.Teardown;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Teardown;

internal sealed class BagMapping() : TableOf<Bag>("teardown_bags")
{
    public override void Configure(EntityTypeBuilder<Bag> e)
    {
        e.Ignore(b => b.Label);
        e.Ignore(b => b.Scan);
        e.Ignore(b => b.PieceCount);
        e.Ignore(b => b.FastenerCount);
        e.Property(b => b.Pieces).IsJson();
        e.Property(b => b.Fasteners).IsJson();
        e.HasIndex(b => b.Code).IsUnique();
        e.BelongsToBuild();
    }
}

internal sealed class SubAssemblyMapping() : TableOf<SubAssembly>("teardown_assemblies")
{
    public override void Configure(EntityTypeBuilder<SubAssembly> e)
    {
        e.Property(a => a.Steps).IsJson();
        e.Property(a => a.States).IsJson();
        e.BelongsToBuild();
    }
}

internal sealed class BagMoveMapping() : TableOf<BagMove>("teardown_moves")
{
    public override void Configure(EntityTypeBuilder<BagMove> e)
    {
        e.HasOne<Bag>().WithMany().HasForeignKey(m => m.BagId).OnDelete(DeleteBehavior.Restrict);
        e.BelongsToBuild();
    }
}

using FirstCoat.Core.Parts;
using FirstCoat.Core.Shop;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Parts;

internal sealed class PartLineMapping() : TableOf<PartLine>("parts_lines")
{
    public override void Configure(EntityTypeBuilder<PartLine> e)
    {
        e.Ignore(p => p.IsAwaited);
        e.HasOne<Supplier>().WithMany().HasForeignKey(p => p.SupplierId).OnDelete(DeleteBehavior.Restrict);
        e.BelongsToBuild();
    }
}

internal sealed class MaterialBookingMapping() : TableOf<MaterialBooking>("parts_materials")
{
    public override void Configure(EntityTypeBuilder<MaterialBooking> e)
    {
        e.BelongsToBuild();
    }
}

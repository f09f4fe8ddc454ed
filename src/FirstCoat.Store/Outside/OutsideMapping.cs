using FirstCoat.Core.Outside;
using FirstCoat.Core.Shop;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Outside;

internal sealed class OutsideJobMapping() : TableOf<OutsideJob>("outside_jobs")
{
    public override void Configure(EntityTypeBuilder<OutsideJob> e)
    {
        e.Ignore(o => o.IsAway);
        e.Ignore(o => o.Sent);
        e.Ignore(o => o.CountedIn);
        e.Ignore(o => o.MissingPieces);
        e.Property(o => o.Pieces).IsJson();
        e.HasOne<Supplier>().WithMany().HasForeignKey(o => o.SupplierId).OnDelete(DeleteBehavior.Restrict);
        e.BelongsToBuild();
    }
}

using FirstCoat.Core.Photos;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Photos;

internal sealed class PhotoMapping() : TableOf<Photo>("photos")
{
    public override void Configure(EntityTypeBuilder<Photo> e)
    {
        e.BelongsToBuild();
    }
}

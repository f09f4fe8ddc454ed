using FirstCoat.Core.Reports;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Reports;

internal sealed class ClientReportMapping() : TableOf<ClientReport>("reports")
{
    public override void Configure(EntityTypeBuilder<ClientReport> e)
    {
        e.Ignore(r => r.IsDraft);
        e.Property(r => r.Text).IsJson();
        e.HasIndex(r => new { r.BuildId, r.Number }).IsUnique();
        e.BelongsToBuild();
    }
}

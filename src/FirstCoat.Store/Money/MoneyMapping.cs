using FirstCoat.Core.Money.Papers;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Money;

internal sealed class ClientPaperMapping() : TableOf<ClientPaper>("money_papers")
{
    public override void Configure(EntityTypeBuilder<ClientPaper> e)
    {
        e.Ignore(p => p.State);
        e.Ignore(p => p.IsOpen);
        e.Ignore(p => p.Name);
        e.Ignore(p => p.Adds);
        e.Ignore(p => p.Operations);
        e.Ignore(p => p.Change);
        e.Ignore(p => p.Taken);
        e.Property(p => p.Words).IsJson();
        e.Property(p => p.Lines).IsJson();
        e.Property(p => p.Answer).IsJson();
        e.HasIndex(p => new
            {
                p.BuildId,
                p.Kind,
                p.Number,
            })
            .IsUnique();
        e.BelongsToBuild();
    }
}

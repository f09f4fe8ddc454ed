using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Overview;

internal sealed class FindRowMapping() : TableOf<FindRow>("overview_finds")
{
    public override void Configure(EntityTypeBuilder<FindRow> e)
    {
        e.HasKey(r => r.Id);
        e.Property(r => r.Id).ValueGeneratedNever();
        e.Property(r => r.Kind).HasConversion<string>().HasMaxLength(20);
        e.Property(r => r.Label).HasMaxLength(200);
        e.Property(r => r.Detail).HasMaxLength(200);
        e.Property(r => r.Text).HasMaxLength(Core.Overview.Findable.TextMost);
        // For words that are in it and words that are like one of it.
        e.HasIndex(r => r.Text).HasMethod("gin").HasOperators("gin_trgm_ops");
        e.HasIndex(r => r.BuildId);
        e.HasIndex(r => r.Kind);
    }
}

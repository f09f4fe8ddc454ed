using FirstCoat.Core.Sequence;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Sequence;

internal sealed class OperationMapping() : TableOf<Operation>("sequence_operations")
{
    public override void Configure(EntityTypeBuilder<Operation> e)
    {
        e.Ignore(o => o.IsDone);
        e.Ignore(o => o.EarnedMinutes);
        e.Ignore(o => o.LetsPass);
        e.Ignore(o => o.Kinds);
        e.Property(o => o.Panels).IsJson();
        e.Property(o => o.After).IsJson();
        e.Property(o => o.Terms).IsJson();
        e.Property(o => o.Signatures).IsJson();
        e.Property(o => o.EarlierSignatures).IsJson();
        e.Ignore(o => o.IsForGood);
        e.Ignore(o => o.CheckForGood);
        e.Property(o => o.OutOfOrderWhy).HasMaxLength(300);
        e.Property(o => o.DepartsWhy).HasMaxLength(300);
        e.BelongsToBuild();
    }
}

internal sealed class ProvisionMapping() : TableOf<Provision>("sequence_provisions")
{
    public override void Configure(EntityTypeBuilder<Provision> e)
    {
        e.Ignore(p => p.IsOpen);
        e.Ignore(p => p.Words);
        e.Property(p => p.What).HasMaxLength(120);
        e.Property(p => p.Where).HasMaxLength(160);
        e.HasOne<Operation>().WithMany().HasForeignKey(p => p.OperationId).OnDelete(DeleteBehavior.Restrict);
        e.BelongsToBuild();
    }
}

internal sealed class ShopTemplateMapping() : TableOf<ShopTemplate>("sequence_templates")
{
    public override void Configure(EntityTypeBuilder<ShopTemplate> e)
    {
        e.Ignore(t => t.Key);
        e.Property(t => t.Name).HasMaxLength(60);
        e.Property(t => t.Works).IsJson();
    }
}

internal sealed class SequenceChangeMapping() : TableOf<SequenceChange>("sequence_changes")
{
    public override void Configure(EntityTypeBuilder<SequenceChange> e)
    {
        e.Property(c => c.What).HasMaxLength(300);
        e.Property(c => c.Entries).IsJson();
        e.BelongsToBuild();
    }
}

internal sealed class RippleMapping() : TableOf<Ripple>("sequence_ripples")
{
    public override void Configure(EntityTypeBuilder<Ripple> e)
    {
        e.Ignore(r => r.IsOpen);
        e.Property(r => r.What).HasMaxLength(200);
        e.Property(r => r.Rests).IsJson();
        e.HasOne<Operation>().WithMany().HasForeignKey(r => r.OperationId).OnDelete(DeleteBehavior.Restrict);
        e.BelongsToBuild();
    }
}

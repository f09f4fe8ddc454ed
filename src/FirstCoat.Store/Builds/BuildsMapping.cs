using FirstCoat.Core.Builds;
using FirstCoat.Core.Shop;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Builds;

internal sealed class ClientMapping() : TableOf<Client>("builds_clients");

internal sealed class BuildMapping() : TableOf<Build>("builds")
{
    public override void Configure(EntityTypeBuilder<Build> e)
    {
        e.Ignore(b => b.Title);
        e.Ignore(b => b.IsPlanned);
        e.HasIndex(b => b.Number).IsUnique();
        e.HasOne<Client>().WithMany().HasForeignKey(b => b.ClientId).OnDelete(DeleteBehavior.Restrict);
        e.HasOne<Station>().WithMany().HasForeignKey(b => b.StationId).OnDelete(DeleteBehavior.Restrict);
        e.Property(b => b.Vehicle).IsJson();
        e.Property(b => b.Brief).IsJson();
        e.Property(b => b.Contract).IsJson();
        e.Property(b => b.Estimate).IsJson();
        e.Property(b => b.History).IsJson();
        e.Property(b => b.Terms).IsJson();
    }
}

internal sealed class ArrivalMapping() : TableOf<Arrival>("builds_arrivals")
{
    public override void Configure(EntityTypeBuilder<Arrival> e)
    {
        e.Ignore(a => a.PiecesPromised);
        e.Ignore(a => a.PiecesCame);
        e.Property(a => a.Breaks).IsJson();
        e.Property(a => a.Fluids).IsJson();
        e.Property(a => a.Promised).IsJson();
        e.Property(a => a.CameUnasked).IsJson();
        e.Property(a => a.StandIns).IsJson();
        e.Property(a => a.ToUndo).IsJson();
        e.Property(a => a.Hazards).IsJson();
        e.Property(a => a.Heights).IsJson();
        e.Property(a => a.Round).IsJson();
        e.BelongsToBuild();
        e.HasIndex(a => a.BuildId).IsUnique();
    }
}

internal sealed class DecisionMapping() : TableOf<Decision>("builds_decisions")
{
    public override void Configure(EntityTypeBuilder<Decision> e)
    {
        e.Ignore(d => d.IsOpen);
        e.Property(d => d.Options).IsJson();
        e.Property(d => d.TakesOut).IsJson();
        e.Property(d => d.Holds).IsJson();
        e.Property(d => d.LetGo).IsJson();
        e.BelongsToBuild();
    }
}

internal sealed class PaymentMapping() : TableOf<Payment>("builds_payments")
{
    public override void Configure(EntityTypeBuilder<Payment> e)
    {
        e.BelongsToBuild();
    }
}

using FirstCoat.Core.Shop;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace FirstCoat.Store.Shop;

internal sealed class ShopSettingsMapping() : TableOf<ShopSettings>("shop_settings")
{
    public override void Configure(EntityTypeBuilder<ShopSettings> e)
    {
        e.Property(s => s.TaxRates).IsJson();
        e.Property(s => s.PartTiers).IsJson();
        e.Property(s => s.Sheets).IsJson();
        e.Property(s => s.Week).IsJson();
        e.Property(s => s.Plan).IsJson();
        e.Property(s => s.Layout).IsJson();
        e.Property(s => s.Racks).IsJson();
        e.Property(s => s.Jobs).IsJson();
    }
}

internal sealed class PersonMapping() : TableOf<Person>("shop_people")
{
    public override void Configure(EntityTypeBuilder<Person> e)
    {
        e.Ignore(p => p.ShortName);
        e.Property(p => p.Trades).IsJson();
        e.Property(p => p.Rates).IsJson();
        e.Property(p => p.Absences).IsJson();
        e.Property(p => p.Terms).IsJson();
    }
}

internal sealed class StationMapping() : TableOf<Station>("shop_stations")
{
    public override void Configure(EntityTypeBuilder<Station> e)
    {
        e.Property(s => s.Terms).IsJson();
    }
}

internal sealed class SupplierMapping() : TableOf<Supplier>("shop_suppliers")
{
    public override void Configure(EntityTypeBuilder<Supplier> e)
    {
        e.Property(s => s.FreightDays).IsJson();
        e.Property(s => s.WorkDays).IsJson();
        e.Property(s => s.Terms).IsJson();
    }
}

internal sealed class ClosedDayMapping() : TableOf<ClosedDay>("shop_closed_days")
{
    public override void Configure(EntityTypeBuilder<ClosedDay> e)
    {
        e.HasIndex(d => d.Date).IsUnique();
    }
}

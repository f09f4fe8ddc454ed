using FirstCoat.Core.Kernel;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Money;

/// <summary>What was ordered or sent out and will be billed to the client once it is here, tax included.</summary>
/// <param name="On">When it is expected; what nobody has dated, when it was ordered.</param>
public sealed record Commitment(LocalDate On, decimal Gross)
{
    /// <summary>Of parts that are on order and work that is away, each at its price to the client, rounded once for its
    /// net and once for its tax.</summary>
    public static IReadOnlyList<Commitment> Of(
        IEnumerable<PartLine> parts,
        IEnumerable<OutsideJob> jobs,
        ShopSettings shop
    ) =>
        [
            .. parts
                .Where(p => p is { OrderedOn: not null, IsAwaited: true, ClientSupplied: false })
                .Select(p => new Commitment(
                    p.ExpectedOn ?? p.OrderedOn!.Value,
                    Taxed(PriceOf(p, shop), TaxCategory.Parts, shop)
                )),
            .. jobs.Where(j => j.IsAway)
                .Select(j => new Commitment(
                    j.PromisedOn ?? j.SentOn!.Value,
                    Taxed(j.ToClient(shop.OutsideMarkup), TaxCategory.Outside, shop)
                )),
        ];

    private static decimal PriceOf(PartLine p, ShopSettings shop) =>
        Cents.Round(
            p.UnitPrice is { } price
                ? p.Quantity * price
                : p.Quantity * p.UnitCost * (1 + PartTier.PercentFor(p.UnitCost, shop.PartTiers) / 100)
        );

    private static decimal Taxed(decimal net, TaxCategory category, ShopSettings shop) =>
        net + Cents.Round(net * shop.TaxRates.GetValueOrDefault(category) / 100);
}

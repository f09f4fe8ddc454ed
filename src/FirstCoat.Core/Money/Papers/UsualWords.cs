using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;

namespace FirstCoat.Core.Money.Papers;

/// <summary>What an estimate says where nobody has written anything else; the desk changes all of it.</summary>
public static class UsualWords
{
    /// <summary>Before any quote is in: how far goods stray from what was first thought.</summary>
    /// <remarks>A rule of thumb, to be replaced by quotes.</remarks>
    private const decimal LowShare = 0.93m,
        HighShare = 1.15m;

    /// <summary>Words of an estimate; the day by which an answer is needed is the caller's. What kind of price it is
    /// stands on the page by itself.</summary>
    public static PaperWords Estimate(string vehicle, List<PaperGoods> goods, ShopSettings shop) =>
        new(
            FirstCoat.Core.Words.Shortened($"Your {vehicle}", 120),
            "",
            [
                "What comes to light once coverings and paint are off: each find comes as a change, with photos, to approve first",
                "Licensing, inspection and insurance",
                shop.StoragePerDay > 0
                    ? FormattableString.Invariant(
                        $"Storage after notice of completion: {shop.StoragePerDay:0.00} a day before tax, the first {shop.StorageFreeDays} days free"
                    )
                    : "Storage after notice of completion",
            ],
            [
                "Nothing is added without your agreement",
                "A report with hours, cost and photos as the work goes on",
                "An answer later than its date can move the finish",
                "Old parts are kept until you have seen the new ones",
                "Your vehicle may leave at any time against what was done",
            ],
            [],
            goods,
            [],
            default,
            null
        );

    /// <summary>Rows of goods from what was entered at the opening and what is priced, quoted or booked since: the
    /// larger of the two is likely.</summary>
    /// <param name="known">Net to the client.</param>
    public static List<PaperGoods> Goods(EstimateTotals first, EstimateTotals known, EstimateScope scope)
    {
        var rows = new List<PaperGoods>();
        void Row(CostKind kind, string text, decimal likely, string restsOn)
        {
            if (likely > 0)
            {
                rows.Add(
                    new(kind, text, Cents.Round(likely * LowShare), likely, Cents.Round(likely * HighShare), restsOn)
                );
            }
        }

        Row(CostKind.Parts, "Parts", Math.Max(first.Parts, known.Parts), scope.PartsRestOn);
        Row(CostKind.Outside, "Work sent out", Math.Max(first.Outside, known.Outside), scope.OutsideRestsOn);
        Row(
            CostKind.Materials,
            "Paint, materials and consumables",
            Math.Max(first.Materials, known.Materials),
            first.Materials >= known.Materials ? "our first thought" : "booked, and by the hours"
        );
        return rows;
    }
}

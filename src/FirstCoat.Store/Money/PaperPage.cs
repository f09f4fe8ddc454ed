using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Money;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Photos;
using NodaTime;

namespace FirstCoat.Store.Money;

/// <summary>An estimate or change order as the client sees it. Stored whole when it is sent; what was sent never
/// changes.</summary>
/// <param name="Figures">Of an estimate.</param>
/// <param name="Lines">Of a change order.</param>
/// <param name="AgreedBefore">What was agreed before a change order, net.</param>
/// <param name="Days">By how many days a change order moves the likely finish.</param>
public sealed record PaperPage(
    Guid Id,
    PaperKind Kind,
    int Number,
    string Shop,
    string Place,
    string Phone,
    string Currency,
    string From,
    string For,
    LocalDate On,
    LocalDate AnswerBy,
    int BuildNumber,
    string Vehicle,
    string ColourHex,
    string Title,
    string Reason,
    PaperFigures? Figures,
    IReadOnlyList<PaperPageLine> Lines,
    PaperTotals Totals,
    decimal? AgreedBefore,
    LocalDate? Likely,
    decimal? Days,
    decimal? Deposit,
    IReadOnlyList<string> NotIncluded,
    IReadOnlyList<PaperPageChoice> Choices,
    IReadOnlyList<string> Terms,
    IReadOnlyList<PagePhoto> Photos
)
{
    /// <summary>The day by which it is ready eight times in ten; null on pages of before it was told.</summary>
    public LocalDate? InTenBy { get; init; }

    /// <summary>What kind of price it is; null on pages of before it was told.</summary>
    public PaperPrice? Price { get; init; }

    /// <summary>Tells the page that was looked at from another; null once it is sent.</summary>
    public string? Seen { get; init; }

    /// <summary>Whether a picture of this hash, whole or small, is on the page.</summary>
    public bool Shows(string hash) => Photos.Any(p => p.Hash == hash || p.ThumbHash == hash);
}

/// <summary>What kind of price was agreed, or is offered.</summary>
/// <param name="Amount">Price or cap, net, with what was approved before; null: by time and materials.</param>
/// <param name="Stages">Of a price that is paid stage by stage.</param>
public sealed record PaperPrice(
    ContractKind Kind,
    decimal? Amount,
    IReadOnlyList<PaperStage> Stages,
    decimal RetentionPercent
)
{
    /// <summary>On a change order under a cap: the most that is paid when it is approved, net.</summary>
    public decimal? CapAfter { get; init; }
}

/// <summary>A stage's share of the price, in percent.</summary>
public sealed record PaperStage(string Name, decimal Percent);

/// <summary>Something to choose, with what it adds, net, and by how many days it moves the finish; null: nobody can say
/// yet.</summary>
public sealed record PaperPageChoice(string Letter, string Text, decimal Adds, int? Days);

/// <summary>The figures of an estimate on its page.</summary>
public sealed record PaperFigures(
    IReadOnlyList<EstimateRow> Rows,
    IReadOnlyList<PaperGoods> Goods,
    decimal Low,
    decimal High,
    decimal Hours
)
{
    /// <summary>Labour that was done before the estimate, net, and its hours; it is in the totals.</summary>
    public decimal Done { get; init; }

    public decimal DoneHours { get; init; }

    /// <summary>What all work and goods are likely to come to, net, whatever is paid for them; null on pages of before
    /// it was told.</summary>
    public decimal? Work { get; init; }

    /// <summary>How much of it lies above the cap, so that the client does not pay it.</summary>
    public decimal Above { get; init; }
}

/// <summary>A line of a change order on its page, net.</summary>
public sealed record PaperPageLine(string Text, int? Finding, int Minutes, decimal Labour, decimal Goods, decimal Net);

/// <summary>Net, tax by kind of cost, and both.</summary>
public sealed record PaperTotals(decimal Net, IReadOnlyList<PaperTax> Tax, decimal Gross)
{
    private static readonly (CostKind Kind, TaxCategory Category)[] Kinds =
    [
        (CostKind.Labour, TaxCategory.Labour),
        (CostKind.Parts, TaxCategory.Parts),
        (CostKind.Outside, TaxCategory.Outside),
        (CostKind.Materials, TaxCategory.Materials),
    ];

    /// <summary>Of a statement: each line's tax is rounded once.</summary>
    public static PaperTotals Of(StatementResult statement, ShopSettings shop) =>
        Of(shop, statement.Net, category =>
            statement.Lines.Where(l => l.Category == category).Select(l => (l.Net, l.Tax)).ToList()
        );

    /// <summary>Of amounts by kind of cost; each kind's tax is rounded once.</summary>
    public static PaperTotals Of(EstimateTotals adds, ShopSettings shop)
    {
        var by = new Dictionary<string, decimal>
        {
            [TaxKeys.Labour] = adds.Labour,
            [TaxKeys.Parts] = adds.Parts,
            [TaxKeys.Outside] = adds.Outside,
            [TaxKeys.Materials] = adds.Materials,
        };
        var rates = TaxKeys.Of(shop.TaxRates);
        return Of(shop, adds.Total, category => [(by[category], Cents.Round(by[category] * rates[category] / 100))]);
    }

    private static PaperTotals Of(ShopSettings shop, decimal net, Func<string, List<(decimal Net, decimal Tax)>> lines)
    {
        var tax = Kinds
            .Select(k =>
                (
                    k.Kind,
                    Percent: shop.TaxRates.GetValueOrDefault(k.Category),
                    Lines: lines(k.Category.ToString().ToLowerInvariant())
                )
            )
            .Select(k => new PaperTax(k.Kind, k.Lines.Sum(l => l.Net), k.Percent, k.Lines.Sum(l => l.Tax)))
            .Where(t => t.Net != 0)
            .ToList();
        return new(net, tax, net + tax.Sum(t => t.Tax));
    }
}

/// <summary>Tax on the net of one kind of cost.</summary>
public sealed record PaperTax(CostKind Kind, decimal Net, decimal Percent, decimal Tax);

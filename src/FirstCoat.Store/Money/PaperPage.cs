using FirstCoat.Core.Money.Papers;
using FirstCoat.Store.Reports;
using NodaTime;

namespace FirstCoat.Store.Money;

/// <summary>An estimate or change order as the client sees it. Stored whole when it is sent; what was sent never changes.</summary>
/// <param name="Figures">Of an estimate.</param>
/// <param name="Lines">Of a change order.</param>
/// <param name="AgreedBefore">What was agreed before a change order, net.</param>
/// <param name="Days">By how many days a change order moves the likely finish.</param>
public sealed record PaperPage(
    Guid Id, PaperKind Kind, int Number, string Shop, string Place, string Phone, string Currency, string From, string For, LocalDate On, LocalDate AnswerBy,
    int BuildNumber, string Vehicle, string ColourHex, string Title, string Reason, PaperFigures? Figures, IReadOnlyList<PaperPageLine> Lines, PaperTotals Totals,
    decimal? AgreedBefore, LocalDate? Likely, decimal? Days, decimal? Deposit, IReadOnlyList<string> NotIncluded, IReadOnlyList<PaperChoice> Choices, IReadOnlyList<string> Terms, IReadOnlyList<PagePhoto> Photos)
{
    /// <summary>The day by which it is ready eight times in ten; null on pages of before it was told.</summary>
    public LocalDate? InTenBy { get; init; }

    /// <summary>Whether a picture of this hash, whole or small, is on the page.</summary>
    public bool Shows(string hash) => Photos.Any(p => p.Hash == hash || p.ThumbHash == hash);
}

/// <summary>The figures of an estimate on its page.</summary>
public sealed record PaperFigures(IReadOnlyList<EstimateRow> Rows, IReadOnlyList<PaperGoods> Goods, decimal Low, decimal High, decimal Hours);

/// <summary>A line of a change order on its page, net.</summary>
public sealed record PaperPageLine(string Text, int? Finding, int Minutes, decimal Labour, decimal Goods, decimal Net);

/// <summary>Net, tax rounded once per kind of cost, and both.</summary>
public sealed record PaperTotals(decimal Net, IReadOnlyList<PaperTax> Tax, decimal Gross);

/// <summary>Tax on the net of one kind of cost.</summary>
public sealed record PaperTax(CostKind Kind, decimal Net, decimal Percent, decimal Tax);

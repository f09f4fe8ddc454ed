using System.Text.RegularExpressions;
using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Money.Papers;

/// <summary>What an estimate's goods rest on, and what of the sequence has no price yet: nothing stands in the sequence
/// and nowhere in the estimate.</summary>
/// <param name="Unquoted">Names of outside work without a quote.</param>
/// <param name="Unpriced">Names of parts without a price.</param>
/// <param name="FromClient">Names of parts that the client brings.</param>
/// <param name="Priced">What the parts with a price come to, net to the client.</param>
/// <param name="Quoted">What the work with a quote comes to, net to the client.</param>
public sealed partial record EstimateScope(
    string PartsRestOn,
    string OutsideRestsOn,
    IReadOnlyList<string> Unquoted,
    IReadOnlyList<string> Unpriced,
    IReadOnlyList<string> FromClient,
    decimal Priced,
    decimal Quoted
)
{
    private const string NoQuote = "no quote yet";
    private const int Named = 6;

    /// <summary>Of what is recorded about a build.</summary>
    public static EstimateScope Of(BillFacts facts)
    {
        var parts = facts.Parts.Where(p => !p.ClientSupplied).ToList();
        var unpriced = parts.Where(p => p.UnitCost == 0 && p.UnitPrice is null or 0).ToList();
        var quoted = facts.Jobs.Where(j => j.Quoted > 0 || j.Billed > 0).ToList();
        var unquoted = facts
            .Jobs.Where(j => j.Quoted == 0 && j.Billed is null or 0)
            .Select(j => j.Title)
            .Concat(
                facts
                    .Operations.Values.Where(o =>
                        o is { Kind: OperationKind.Outside, Removed: false, IsDone: false }
                        && facts.Jobs.All(j => j.OperationId != o.Id)
                    )
                    .OrderBy(o => o.Position)
                    .Select(o => o.Name)
            )
            .ToList();
        return new(
            parts.Count == 0 ? NoQuote : $"{parts.Count - unpriced.Count} of {parts.Count} priced",
            quoted.Count + unquoted.Count == 0 ? NoQuote : $"{quoted.Count} of {quoted.Count + unquoted.Count} quoted",
            unquoted,
            [.. unpriced.Select(p => p.Name)],
            [.. facts.Parts.Where(p => p.ClientSupplied).Select(p => p.Name)],
            parts.Sum(p => Cents.Round(Statement.PartNet(p.ToItem(), facts.Shop.PartTiers))),
            facts.Jobs.Sum(j => j.ToClient(facts.Shop.OutsideMarkup))
        );
    }

    /// <summary>Rows of goods that rest on what is quoted now; what the desk wrote by hand stays.</summary>
    public List<PaperGoods> Told(IReadOnlyList<PaperGoods> goods) =>
        [
            .. goods.Select(g =>
                !Counted().IsMatch(g.RestsOn)
                    ? g
                    : g.Kind switch
                    {
                        CostKind.Parts => g with { RestsOn = PartsRestOn },
                        CostKind.Outside => g with { RestsOn = OutsideRestsOn },
                        _ => g,
                    }
            ),
        ];

    /// <summary>Lines for "not in it": what has no price, unless the rows allow for more than what is priced.</summary>
    /// <param name="entered">The rows of goods that the desk entered.</param>
    public List<string> NotIncluded(IReadOnlyList<PaperGoods> entered)
    {
        bool Allows(CostKind kind, decimal known) => entered.Where(g => g.Kind == kind).Sum(g => g.Likely) > known;
        var lines = new List<string>();
        void Add(string what, IReadOnlyList<string> names)
        {
            if (names.Count > 0)
            {
                lines.Add(
                    Words.Shortened(
                        $"{what}: {string.Join(", ", names.Take(Named))}{(names.Count > Named ? $" and {names.Count - Named} more" : "")}",
                        200
                    )
                );
            }
        }

        if (!Allows(CostKind.Outside, Quoted))
        {
            Add("Work sent out that nobody has quoted yet", Unquoted);
        }

        if (!Allows(CostKind.Parts, Priced))
        {
            Add("Parts without a price yet", Unpriced);
        }

        Add("Parts that you bring", FromClient);
        return lines;
    }

    [GeneratedRegex(@"^(no quote yet|\d+ of \d+ (priced|quoted))$")]
    private static partial Regex Counted();
}

using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;

namespace FirstCoat.Core.Money;

/// <summary>Labour on a statement: minutes at one rate.</summary>
public sealed record LabourItem(
    string Id,
    int Minutes,
    decimal Rate,
    LabourKind Kind = LabourKind.Billable,
    string? Change = null,
    string Category = "labour"
);

/// <summary>A part on a statement; a negative quantity is a credit; client-supplied parts come to nothing.</summary>
public sealed record PartItem(
    string Id,
    decimal Quantity,
    decimal UnitCost,
    bool ClientSupplied = false,
    string? Change = null,
    string Category = "parts",
    decimal? UnitPrice = null
);

/// <summary>A bill for outside work, or booked material, before mark-up.</summary>
public sealed record CostItem(string Id, decimal Cost, string? Change = null, string Category = "outside");

/// <summary>An amount that is net to the client already: no mark-up comes on top.</summary>
public sealed record NetItem(string Id, decimal Net, string Category);

/// <summary>How a change to the agreement stands.</summary>
public enum ChangeStatus
{
    Pending,
    Approved,
    Declined,
}

/// <summary>A change to the agreement, net; a negative amount takes work out.</summary>
public sealed record ChangeItem(
    string Id,
    decimal Amount,
    ChangeStatus Status,
    decimal DonePercent = 100,
    string Category = "labour"
);

/// <summary>What is settled when the client takes the vehicle away.</summary>
/// <param name="Committed">Purchases that can no longer be cancelled, billed at their amount.</param>
/// <param name="Fee">Comes on top of every limit.</param>
public sealed record Withdrawal(IReadOnlyList<CostItem> Committed, decimal Fee, string FeeCategory = "labour");

/// <summary>All that a statement is made of. Amounts in the shop's currency, percentages in percent.</summary>
public sealed record StatementInput
{
    public required ContractTerms Contract { get; init; }

    /// <summary>Percent by category name.</summary>
    public required IReadOnlyDictionary<string, decimal> TaxRates { get; init; }

    public IReadOnlyList<PartTier> PartTiers { get; init; } = [new(null, 0)];
    public decimal OutsideMarkup { get; init; }
    public decimal MaterialsMarkup { get; init; }
    public IReadOnlyList<LabourItem> Labour { get; init; } = [];
    public IReadOnlyList<PartItem> Parts { get; init; } = [];
    public IReadOnlyList<CostItem> Outside { get; init; } = [];
    public IReadOnlyList<CostItem> Materials { get; init; } = [];

    /// <summary>What is allowed for beside the other lines, such as goods that nobody has priced yet.</summary>
    public IReadOnlyList<NetItem> Allowed { get; init; } = [];

    /// <summary>Comes on top of every limit and whatever the contract: storage after notice of completion.</summary>
    public IReadOnlyList<NetItem> Besides { get; init; } = [];

    public decimal? ConsumablesPercent { get; init; }
    public decimal? ConsumablesCap { get; init; }
    public string ConsumablesCategory { get; init; } = "consumables";
    public string ContractCategory { get; init; } = "labour";
    public IReadOnlyList<ChangeItem> Changes { get; init; } = [];
    public Withdrawal? Withdrawal { get; init; }
    public IReadOnlyList<decimal> Payments { get; init; } = [];
}

/// <summary>A line of the bill.</summary>
public sealed record StatementLine(string Id, decimal Net, decimal Tax, string Category);

/// <summary>A statement whose figures add up: gross = net + tax, balance = gross - retention - paid.</summary>
public sealed record StatementResult(
    IReadOnlyList<StatementLine> Lines,
    IReadOnlyList<(string Id, string Why)> NotBilled,
    decimal Retention,
    decimal Paid,
    decimal ChangesApproved,
    decimal ChangesPending,
    decimal? Limit
)
{
    public decimal Net => Lines.Sum(l => l.Net);
    public decimal Tax => Lines.Sum(l => l.Tax);
    public decimal Gross => Net + Tax;

    /// <summary>What the client still owes; negative: owed to the client.</summary>
    public decimal Balance => Gross - Retention - Paid;

    public IReadOnlyDictionary<string, decimal> TaxByCategory =>
        Lines.GroupBy(l => l.Category).ToDictionary(g => g.Key, g => g.Sum(l => l.Tax));
}

/// <summary>
/// The bill of a build. Each line's net is rounded once to the cent, its tax once from the rounded net; all else is
/// sums. Source: rules of thumb of the trade; contract and local tax law come first.
/// </summary>
public static class Statement
{
    /// <summary>The line of an agreed price.</summary>
    public const string ContractLine = "contract price";

    /// <summary>Begins the line that takes off what is above a limit; the tax category follows.</summary>
    public const string WriteDown = "write-down ";

    /// <summary>Computes the statement.</summary>
    /// <exception cref="Refusal">Names the field that cannot be billed.</exception>
    public static StatementResult Of(StatementInput input)
    {
        Check(input);
        var changes = input.Changes.ToDictionary(c => c.Id);
        var notBilled = new List<(string, string)>();
        var nets = new List<(string Id, decimal Net, string Category)>();

        string? Stopped(string? change) =>
            change is null
                ? null
                : changes[change].Status switch
                {
                    ChangeStatus.Approved => null,
                    ChangeStatus.Declined => "declined",
                    _ => "pending",
                };

        string? WhyNot(LabourItem l) =>
            l.Kind != LabourKind.Billable ? l.Kind.ToString().ToLowerInvariant() : Stopped(l.Change);

        void Bill(string id, string? why, Func<decimal> net, string category)
        {
            if (why is not null)
            {
                notBilled.Add((id, why));
            }
            else
            {
                nets.Add((id, Cents.Round(net()), category));
            }
        }

        var byLines = input.Contract.Kind is ContractKind.TimeAndMaterials or ContractKind.Capped;
        if (byLines)
        {
            foreach (var l in input.Labour)
            {
                Bill(l.Id, WhyNot(l), () => l.Minutes * l.Rate / 60, l.Category);
            }

            var labour = nets.Sum(n => n.Net);
            foreach (var p in input.Parts)
            {
                Bill(p.Id, Stopped(p.Change), () => PartNet(p, input.PartTiers), p.Category);
            }

            foreach (var o in input.Outside)
            {
                Bill(o.Id, Stopped(o.Change), () => Markup.On(o.Cost, input.OutsideMarkup), o.Category);
            }

            foreach (var m in input.Materials)
            {
                Bill(m.Id, Stopped(m.Change), () => m.Cost * (1 + input.MaterialsMarkup / 100), m.Category);
            }

            nets.AddRange(input.Allowed.Select(a => (a.Id, Cents.Round(a.Net), a.Category)));
            if (input.ConsumablesPercent is { } percent)
            {
                var amount = Cents.Round(labour * percent / 100);
                nets.Add(("consumables", Math.Min(amount, input.ConsumablesCap ?? amount), input.ConsumablesCategory));
            }
        }
        else
        {
            // Lines do not count; what stands outside the agreement is said all the same.
            notBilled.AddRange(
                input
                    .Labour.Select(l => (l.Id, Why: WhyNot(l)))
                    .Concat(input.Parts.Select(p => (p.Id, Why: Stopped(p.Change))))
                    .Concat(input.Outside.Concat(input.Materials).Select(o => (o.Id, Why: Stopped(o.Change))))
                    .Where(x => x.Why is not null)
                    .Select(x => (x.Id, x.Why!))
            );
            Agreed(input, nets);
        }

        foreach (var c in input.Withdrawal?.Committed ?? [])
        {
            nets.Add((c.Id, Cents.Round(c.Cost), c.Category));
        }

        var approved = input.Changes.Where(c => c.Status == ChangeStatus.Approved).Sum(c => c.Amount);
        var limit = Limit(input, approved);
        if (limit is { } most && (input.Contract.Kind == ContractKind.Capped || input.Withdrawal is not null))
        {
            TakeOff(nets, nets.Sum(n => n.Net) - most);
        }

        if (input.Withdrawal is { Fee: not 0 } leaving)
        {
            nets.Add(("withdrawal fee", Cents.Round(leaving.Fee), leaving.FeeCategory));
        }

        nets.AddRange(input.Besides.Select(b => (b.Id, Cents.Round(b.Net), b.Category)));
        var lines = nets.Select(n => new StatementLine(
                n.Id,
                n.Net,
                Cents.Round(n.Net * input.TaxRates[n.Category] / 100),
                n.Category
            ))
            .ToList();
        var held =
            input.Withdrawal is not null || input.Contract.RetentionReleased
                ? 0
                : Cents.Round(lines.Sum(l => l.Net) * input.Contract.RetentionPercent / 100);
        return new(
            lines,
            notBilled,
            held,
            input.Payments.Sum(),
            approved,
            input.Changes.Where(c => c.Status == ChangeStatus.Pending).Sum(c => c.Amount),
            limit
        );
    }

    /// <summary>What one part line comes to before rounding: an agreed unit price, or cost with its tier's
    /// mark-up.</summary>
    public static decimal PartNet(PartItem part, IReadOnlyList<PartTier> tiers) =>
        part.ClientSupplied ? 0
        : part.UnitPrice is { } price ? part.Quantity * price
        : part.Quantity * part.UnitCost * (1 + PartTier.PercentFor(part.UnitCost, tiers) / 100);

    private static void Agreed(StatementInput input, List<(string, decimal, string)> nets)
    {
        var contract = input.Contract;
        var price = contract.Price!.Value;
        if (contract.Kind == ContractKind.Progress)
        {
            var values = Cents.Split(price, contract.Stages!.Select(s => s.SharePercent).ToList());
            for (var i = 0; i < values.Count; i++)
            {
                nets.Add(
                    (
                        contract.Stages![i].Name,
                        Cents.Round(values[i] * contract.Stages[i].DonePercent / 100),
                        input.ContractCategory
                    )
                );
            }
        }
        else
        {
            var share = input.Withdrawal is null ? 100 : contract.DonePercent;
            nets.Add((ContractLine, Cents.Round(price * share / 100), input.ContractCategory));
        }

        foreach (var c in input.Changes.Where(c => c.Status == ChangeStatus.Approved))
        {
            nets.Add((c.Id, Cents.Round(c.Amount * c.DonePercent / 100), c.Category));
        }
    }

    private static decimal? Limit(StatementInput input, decimal approved) =>
        input.Contract.Kind switch
        {
            ContractKind.Capped => Math.Max(0, input.Contract.Price!.Value + approved),
            ContractKind.Fixed or ContractKind.Progress when input.Withdrawal is not null => Math.Max(
                0,
                input.Contract.Price!.Value + approved
            ),
            _ => null,
        };

    /// <summary>One negative line per category, in proportion to the category's net; a negative category takes
    /// none.</summary>
    private static void TakeOff(List<(string Id, decimal Net, string Category)> nets, decimal excess)
    {
        if (excess <= 0)
        {
            return;
        }

        var categories = nets.GroupBy(n => n.Category)
            .Select(g => (Category: g.Key, Net: Math.Max(0, g.Sum(n => n.Net))))
            .ToList();
        var shares = Cents.Split(excess, categories.Select(c => c.Net).ToList());
        for (var i = 0; i < categories.Count; i++)
        {
            if (shares[i] != 0)
            {
                nets.Add((WriteDown + categories[i].Category, -shares[i], categories[i].Category));
            }
        }
    }

    private static void Check(StatementInput input)
    {
        input.Contract.Check();
        PartTier.Check(input.PartTiers);
        ContractTerms.Percent(input.Contract.RetentionPercent, "retention");
        Refusal.When(input.OutsideMarkup < 0, "outsideMarkup", "A mark-up cannot be negative.");
        Refusal.When(input.MaterialsMarkup < 0, "materialsMarkup", "A mark-up cannot be negative.");
        Refusal.When(input.ConsumablesPercent < 0, "consumables", "The percentage for consumables cannot be negative.");
        Refusal.When(input.ConsumablesCap < 0, "consumables", "The cap on consumables cannot be negative.");
        Refusal.When(input.TaxRates.Values.Any(r => r < 0), "taxRates", "A tax rate cannot be negative.");
        Refusal.When(input.Labour.Any(l => l.Minutes < 0), "minutes", "Minutes cannot be negative.");
        Refusal.When(input.Labour.Any(l => l.Rate < 0), "rate", "A rate cannot be negative.");
        Refusal.When(
            input.Parts.Any(p => p.UnitCost < 0),
            "unitCost",
            "A unit cost cannot be negative; a credit is a negative quantity."
        );
        Refusal.When(input.Outside.Concat(input.Materials).Any(o => o.Cost < 0), "cost", "A cost cannot be negative.");
        Refusal.When(
            input.Allowed.Concat(input.Besides).Any(a => a.Net < 0),
            "allowed",
            "An allowance cannot be negative."
        );
        Refusal.When(input.Payments.Any(p => !Cents.AreWhole(p)), "payments", "Payments are in whole cents.");
        foreach (var change in input.Changes)
        {
            Refusal.When(!Cents.AreWhole(change.Amount), "amount", "The amount of a change is in whole cents.");
            ContractTerms.Percent(change.DonePercent, "done");
        }

        Refusal.When(
            input.Changes.GroupBy(c => c.Id).Any(g => g.Count() > 1),
            "changes",
            "Two changes carry the same name."
        );
        var known = input.Changes.Select(c => c.Id).ToHashSet();
        var named = input
            .Labour.Select(l => l.Change)
            .Concat(input.Parts.Select(p => p.Change))
            .Concat(input.Outside.Select(o => o.Change))
            .Concat(input.Materials.Select(m => m.Change));
        Refusal.When(
            named.Any(n => n is not null && !known.Contains(n)),
            "change",
            "A line belongs to a change that is not listed."
        );
        if (input.Withdrawal is { } leaving)
        {
            Refusal.When(
                leaving.Fee < 0 || !Cents.AreWhole(leaving.Fee),
                "fee",
                "The fee is an amount of whole cents, not negative."
            );
            Refusal.When(
                leaving.Committed.Any(c => c.Cost < 0 || !Cents.AreWhole(c.Cost)),
                "committed",
                "Committed purchases are in whole cents, not negative."
            );
        }

        foreach (var category in Categories(input))
        {
            Refusal.When(!input.TaxRates.ContainsKey(category), "taxRates", $"There is no tax rate for {category}.");
        }
    }

    private static IEnumerable<string> Categories(StatementInput input)
    {
        var byLines = input.Contract.Kind is ContractKind.TimeAndMaterials or ContractKind.Capped;
        IEnumerable<string> lines = byLines
            ? input
                .Labour.Select(l => l.Category)
                .Concat(input.Parts.Select(p => p.Category))
                .Concat(input.Outside.Select(o => o.Category))
                .Concat(input.Materials.Select(m => m.Category))
                .Concat(input.ConsumablesPercent is null ? [] : [input.ConsumablesCategory])
                .Concat(input.Allowed.Select(a => a.Category))
            : input.Changes.Select(c => c.Category).Append(input.ContractCategory);
        return lines
            .Concat(input.Besides.Select(b => b.Category))
            .Concat(input.Withdrawal is { } w ? w.Committed.Select(c => c.Category).Append(w.FeeCategory) : [])
            .Distinct();
    }
}

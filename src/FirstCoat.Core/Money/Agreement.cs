using FirstCoat.Core.Builds;
using FirstCoat.Core.Money.Papers;

namespace FirstCoat.Core.Money;

/// <summary>What client and shop have agreed on, net: price or cap, what was chosen with the estimate, and approved
/// changes.</summary>
/// <param name="ByKind">By kind of cost; adds up to <paramref name="Net"/>.</param>
/// <param name="Limit">The most that may be billed; null: there is no limit.</param>
/// <param name="Approved">Approved changes and what was chosen.</param>
/// <param name="Pending">Changes that wait for an answer.</param>
public sealed record Agreement(
    ContractKind Kind,
    decimal Net,
    EstimateTotals ByKind,
    decimal? Limit,
    decimal Approved,
    decimal Pending
)
{
    /// <summary>The most that may be billed once a change of so much, net, is approved; null: there is no
    /// limit.</summary>
    public decimal? LimitWith(decimal change) => Limit is { } limit ? Math.Max(0, limit + change) : null;

    /// <summary>The agreement as the statement counts it: changes in order of their number, then what was
    /// chosen.</summary>
    public static List<ChangeItem> Changes(IEnumerable<ClientPaper> changes, ClientPaper? estimate) =>
        [
            .. changes.Select(c => new ChangeItem(c.Id.ToString(), c.Adds.Total, c.Change)),
            .. (estimate?.Taken ?? []).Select(c => new ChangeItem(ChoiceId(c), c.Adds, ChangeStatus.Approved)),
        ];

    /// <summary>Name of a choice on a statement.</summary>
    public static string ChoiceId(PaperChoice choice) => $"choice {choice.Letter}";

    /// <summary>Of a build with its change orders and the estimate that was accepted.</summary>
    public static Agreement Of(Build build, IEnumerable<ClientPaper> changes, ClientPaper? estimate)
    {
        var items = Changes(changes, estimate);
        decimal Sum(ChangeStatus status) => items.Where(i => i.Status == status).Sum(i => i.Amount);
        var (approved, pending) = (Sum(ChangeStatus.Approved), Sum(ChangeStatus.Pending));
        var price = build.Contract.Price is { } p ? Math.Max(0, p + approved) : (decimal?)null;
        var net = build.Contract.Kind switch
        {
            ContractKind.TimeAndMaterials => build.Estimate.Total,
            ContractKind.Capped => Math.Min(build.Estimate.Total, price!.Value),
            _ => price!.Value,
        };
        return new(
            build.Contract.Kind,
            net,
            build.Estimate.ScaledTo(net),
            build.Contract.Kind == ContractKind.TimeAndMaterials ? null : price,
            approved,
            pending
        );
    }
}

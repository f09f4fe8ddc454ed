using FirstCoat.Core.Money;
using FirstCoat.Store.Money;

namespace FirstCoat.Server.Rooms;

/// <summary>The money room.</summary>
public static class MoneyEndpoints
{
    public sealed record TotalsView(decimal Estimate, int NotBilledMinutes, decimal Net, decimal Tax, decimal Gross, decimal Retention, decimal Paid, decimal Balance, decimal? Limit, decimal ChangesApproved, decimal ChangesPending, IReadOnlyDictionary<string, decimal> TaxByCategory);

    public sealed record PaymentView(Guid Id, LocalDate On, decimal Amount, string Note);

    public sealed record CoverView(decimal Now, LocalDate? RunsOut, decimal TopUpNeeded);

    /// <param name="Margin">Only for the manager.</param>
    public sealed record BuildMoneyView(
        IReadOnlyList<MoneyKind> Kinds, IReadOnlyList<MoneyLine> Lines, IReadOnlyList<MoneyEntry> NotBilled, TotalsView Totals, List<PaymentView> Payments, CoverView Cover, MarginView? Margin);

    public static void MapMoney(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/money", async (Guid id, MoneyDesk desk, CurrentActor current, CancellationToken cancel) =>
        {
            var m = await desk.Look(id, cancel);
            var s = m.Statement;
            return new BuildMoneyView(m.Kinds, m.Lines, m.NotBilled, new(m.Estimate, m.NotBilledMinutes, s.Net, s.Tax, s.Gross, s.Retention, s.Paid, s.Balance, s.Limit, s.ChangesApproved, s.ChangesPending, s.TaxByCategory),
                m.Payments.Select(p => new PaymentView(p.Id, p.On, p.Amount, p.Note)).ToList(), new(s.Paid - s.Gross, m.Cover.RunsOut, m.Cover.TopUpNeeded), current.Actor.IsManager ? m.Margin : null);
        }).RequireAuthorization(Policies.Desk).WithName("getMoney");
    }
}

using FirstCoat.Core.Builds;
using FirstCoat.Core.Money;
using FirstCoat.Store.Money;

namespace FirstCoat.Server.Rooms;

/// <summary>The money room.</summary>
public static class MoneyEndpoints
{
    /// <param name="Estimate">What was agreed, net.</param>
    /// <param name="AtEnd">What the bill will likely come to, net, and with tax.</param>
    /// <param name="NotBillable">What of the work at the end the contract does not bill, net.</param>
    /// <param name="AboveEstimate">How far the bill at the end lies above the estimate, net.</param>
    /// <param name="WorkAtEnd">What work and goods will likely come to, net, whatever the contract bills for
    /// them.</param>
    public sealed record TotalsView(
        ContractKind Contract,
        bool Accepted,
        decimal Estimate,
        decimal AtEnd,
        decimal AtEndGross,
        decimal WorkAtEnd,
        int NotBilledMinutes,
        decimal Net,
        decimal Tax,
        decimal Gross,
        decimal Retention,
        decimal Paid,
        decimal Balance,
        decimal? Limit,
        decimal ChangesApproved,
        decimal ChangesPending,
        IReadOnlyDictionary<string, decimal> TaxByCategory,
        decimal NotBillable,
        decimal AboveEstimate
    );

    public sealed record PaymentView(Guid Id, LocalDate On, decimal Amount, string Note);

    /// <param name="Now">Paid, less what the work so far comes to, tax included.</param>
    /// <param name="RunsOut">Null: it reaches to the end, or the plan has no days for the build.</param>
    public sealed record CoverView(decimal Now, LocalDate? RunsOut, decimal TopUpNeeded);

    /// <param name="Margin">Only for the manager.</param>
    public sealed record BuildMoneyView(
        IReadOnlyList<MoneyKind> Kinds,
        IReadOnlyList<MoneyLine> Lines,
        IReadOnlyList<MoneyEntry> NotBilled,
        TotalsView Totals,
        List<PaymentView> Payments,
        CoverView Cover,
        MarginView? Margin
    );

    public static void MapMoney(this RouteGroupBuilder api)
    {
        api.MapGet(
                "/builds/{id:guid}/money",
                async (Guid id, MoneyDesk desk, CurrentActor current, CancellationToken cancel) =>
                {
                    var m = await desk.Look(id, cancel);
                    var s = m.Statement;
                    var (outlook, cover) = (m.Outlook, m.Outlook.Cover);
                    return new BuildMoneyView(
                        m.Kinds,
                        m.Lines,
                        m.Bill.NotBilled,
                        new(
                            m.Agreement.Kind,
                            m.Accepted,
                            m.Agreement.Net,
                            outlook.AtEnd.Net,
                            outlook.AtEnd.Gross,
                            outlook.Uncapped,
                            m.NotBilledMinutes,
                            s.Net,
                            s.Tax,
                            s.Gross,
                            s.Retention,
                            s.Paid,
                            s.Balance,
                            m.Agreement.Limit,
                            m.Agreement.Approved,
                            m.Agreement.Pending,
                            s.TaxByCategory,
                            outlook.NotBillable,
                            Math.Max(0, outlook.AtEnd.Net - m.Agreement.Net)
                        ),
                        m.Payments.Select(p => new PaymentView(p.Id, p.On, p.Amount, p.Note)).ToList(),
                        new(outlook.Ahead, m.Dated ? cover.RunsOut : null, cover.TopUpNeeded),
                        current.Actor.IsManager ? m.Margin : null
                    );
                }
            )
            .RequireAuthorization(Policies.Desk)
            .WithName("getMoney");
    }
}

using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Labour;

/// <summary>Reads what the shop's finished work says about its estimates.</summary>
public sealed class HistoryDesk(ShopDb db, ShopClock clock, CurrentActor current, ShopCache cache, ShopChanges changes)
    : Desk(db, clock, current)
{
    /// <summary>All finished work with hours on it, in the order in which it was finished.</summary>
    public Task<TradeHistory> Look(CancellationToken cancel) =>
        Once<HistoryDesk, TradeHistory>(cache, changes.ForPlan, d => d.Read(), cancel);

    private async Task<TradeHistory> Read()
    {
        var done = await Db
            .Database.SqlQuery<DoneWork>(
                $"""
                select o.build_id, o.name, o.stage, o.trade, e.spent::int, o.budget_minutes
                from sequence_operations o
                join (
                    select operation_id, floor(extract(epoch from sum(stop - start)) / 60) as spent
                    from labour_entries
                    where replaced_by is null and not void and stop is not null
                    group by operation_id
                ) e on e.operation_id = o.id
                where o.kind = 'Work' and o.done_at is not null and o.trade is not null and o.budget_minutes > 0
                    and e.spent > 0
                order by o.done_at, o.id
                """
            )
            .ToListAsync();
        return new(
            done.Select(d => new WorkRecord(
                    d.BuildId,
                    d.Name,
                    Enum.Parse<Stage>(d.Stage),
                    Enum.Parse<Trade>(d.Trade),
                    d.Spent,
                    d.BudgetMinutes
                ))
                .ToList()
        );
    }

    /// <summary>Summed where it lies: five years of a shop are a hundred thousand entries.</summary>
    private sealed record DoneWork(Guid BuildId, string Name, string Stage, string Trade, int Spent, int BudgetMinutes);
}

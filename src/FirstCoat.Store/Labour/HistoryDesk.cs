using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Labour;

/// <summary>Reads what the shop's finished work says about its estimates.</summary>
public sealed class HistoryDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    /// <summary>All finished work with hours on it, in the order in which it was finished.</summary>
    public async Task<TradeHistory> Look(CancellationToken cancel)
    {
        var done = await Db
            .Operations.AsNoTracking()
            .Where(o => o.Kind == OperationKind.Work && o.DoneAt != null && o.Trade != null && o.BudgetMinutes > 0)
            .OrderBy(o => o.DoneAt)
            .ThenBy(o => o.Id)
            .ToListAsync(cancel);
        var entries = await Db
            .TimeEntries.AsNoTracking()
            .Where(e => e.ReplacedBy == null && !e.Void && e.Stop != null)
            .Select(e => new
            {
                e.OperationId,
                e.Start,
                Stop = e.Stop!.Value,
            })
            .ToListAsync(cancel);
        var spent = entries
            .GroupBy(e => e.OperationId)
            .ToDictionary(g => g.Key, g => (int)g.Sum(e => (e.Stop - e.Start).TotalMinutes));
        return new(
            done.Where(o => spent.GetValueOrDefault(o.Id) > 0)
                .Select(o => new WorkRecord(o.BuildId, o.Name, o.Stage, o.Trade!.Value, spent[o.Id], o.BudgetMinutes))
                .ToList()
        );
    }
}

using FirstCoat.Core.Labour;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Access;

namespace FirstCoat.Store.Labour;

/// <summary>Reads what the shop's finished work says about its estimates.</summary>
public sealed class HistoryDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    ShopCache cache,
    ShopChanges changes,
    DoneWorkShelf shelf
) : Desk(db, clock, current)
{
    /// <summary>All finished work with hours on it, in the order in which it was finished.</summary>
    public Task<TradeHistory> Look(CancellationToken cancel) =>
        Once<HistoryDesk, TradeHistory>(cache, changes.Of(nameof(Operation), nameof(TimeEntry)), d => d.Read(), cancel);

    private async Task<TradeHistory> Read()
    {
        // What a change in hand has written is for its own eyes: it is read whole, and kept nowhere.
        var done = IsWithinChange ? await DoneWorkShelf.Read(Db) : await shelf.Take(Db);
        return new(done.OrderBy(d => d.DoneAt).ThenBy(d => d.Id).Select(d => d.Record).ToList());
    }
}

using System.Collections.Concurrent;
using FirstCoat.Core;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Readings;

/// <summary>Keeps records that are read again and again as they were read last: only what has another version since is
/// read anew. Whoever takes them changes nothing of them.</summary>
public sealed class Shelf<T>
    where T : Entity
{
    /// <summary>So many more than were asked for last are kept at most.</summary>
    private const int Spare = 5_000;

    private readonly ConcurrentDictionary<Guid, T> _kept = [];

    /// <summary>The records of a query, in its order.</summary>
    public async Task<List<T>> Take(ShopDb db, IQueryable<T> which, CancellationToken cancel)
    {
        var heads = await which.AsNoTracking().Select(e => new { e.Id, e.Version }).ToListAsync(cancel);
        var old = heads
            .Where(h => !_kept.TryGetValue(h.Id, out var kept) || kept.Version != h.Version)
            .Select(h => h.Id)
            .ToList();
        if (old.Count > 0)
        {
            if (_kept.Count > heads.Count + Spare)
            {
                _kept.Clear();
                old = [.. heads.Select(h => h.Id)];
            }

            foreach (var e in await db.Set<T>().AsNoTracking().Where(e => old.Contains(e.Id)).ToListAsync(cancel))
            {
                _kept[e.Id] = e;
            }
        }

        // What was removed in between is not there any more; what another has cleared away is read by itself.
        var found = heads.Select(h => _kept.GetValueOrDefault(h.Id)).OfType<T>().ToList();
        return found.Count == heads.Count ? found : await which.AsNoTracking().ToListAsync(cancel);
    }
}

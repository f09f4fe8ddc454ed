using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Sequence;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Labour;

/// <summary>A finished operation with hours on it.</summary>
public sealed record DoneWork(Guid Id, Instant DoneAt, WorkRecord Record);

/// <summary>Keeps the shop's finished work as it was read: only operations of which the audit tells something since are
/// read anew. A start of a clock would else read five years.</summary>
public sealed class DoneWorkShelf(TimeProvider time) : IDisposable
{
    /// <summary>No change takes longer than this to be kept. An audit entry gets its number before it is seen, so what
    /// is younger is looked at again.</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(10);

    /// <summary>So many entries before the first read are looked at again: of changes that ran beside it.</summary>
    private const int Spare = 200;

    private readonly SemaphoreSlim _turn = new(1);
    private readonly Queue<(long At, long Audit)> _marks = [];
    private Dictionary<Guid, DoneWork>? _kept;

    /// <summary>The audit entry up to which all that was changed has been read.</summary>
    private long _read;

    /// <summary>All of it as it stands now, in no order.</summary>
    public async Task<IReadOnlyList<DoneWork>> Take(ShopDb db)
    {
        await _turn.WaitAsync();
        try
        {
            // Numbered before it is read: what is kept in between is read now and looked at once more.
            var newest = await db.Audit.MaxAsync(a => (long?)a.Id) ?? 0;
            if (_kept is null)
            {
                _kept = (await Read(db)).ToDictionary(d => d.Id);
                _read = newest - Spare;
            }
            else if (await Touched(db) is { Length: > 0 } touched)
            {
                foreach (var id in touched)
                {
                    _kept.Remove(id);
                }

                foreach (var one in await Read(db, touched))
                {
                    _kept[one.Id] = one;
                }
            }

            Mark(newest);
            return [.. _kept.Values];
        }
        finally
        {
            _turn.Release();
        }
    }

    public void Dispose() => _turn.Dispose();

    /// <summary>Summed where it lies: five years of a shop are a hundred thousand entries.</summary>
    /// <param name="only">These operations; none: all.</param>
    public static async Task<List<DoneWork>> Read(ShopDb db, params Guid[] only)
    {
        var rows = await db
            .Database.SqlQuery<DoneRow>(
                $"""
                select o.id, o.done_at, o.build_id, o.name, o.stage, o.trade, e.spent::int, o.budget_minutes
                from sequence_operations o
                join (
                    select operation_id, floor(extract(epoch from sum(stop - start)) / 60) as spent
                    from labour_entries
                    where replaced_by is null and not void and stop is not null
                        and (cardinality({only}) = 0 or operation_id = any({only}))
                    group by operation_id
                ) e on e.operation_id = o.id
                where o.kind = 'Work' and o.done_at is not null and o.trade is not null and o.budget_minutes > 0
                    and e.spent > 0
                """
            )
            .ToListAsync();
        return rows.ConvertAll(r => new DoneWork(
            r.Id,
            r.DoneAt,
            new(r.BuildId, r.Name, Enum.Parse<Stage>(r.Stage), Enum.Parse<Trade>(r.Trade), r.Spent, r.BudgetMinutes)
        ));
    }

    private async Task<Guid[]> Touched(ShopDb db)
    {
        var told = db.Audit.AsNoTracking().Where(a => a.Id > _read);
        var operations = await told.Where(a => a.What == nameof(Operation)).Select(a => a.Of).ToListAsync();
        var booked = await told.Where(a => a.What == nameof(TimeEntry))
            .Join(db.TimeEntries.AsNoTracking(), a => a.Of, e => e.Id, (_, e) => e.OperationId)
            .ToListAsync();
        return [.. operations.Concat(booked).Distinct()];
    }

    /// <summary>Moves on to what was the newest when the longest change that may still run began.</summary>
    private void Mark(long newest)
    {
        var now = time.GetTimestamp();
        _marks.Enqueue((now, newest));
        while (_marks.TryPeek(out var mark) && time.GetElapsedTime(mark.At, now) > Longest)
        {
            _read = Math.Max(_read, mark.Audit);
            _marks.Dequeue();
        }
    }

    private sealed record DoneRow(
        Guid Id,
        Instant DoneAt,
        Guid BuildId,
        string Name,
        string Stage,
        string Trade,
        int Spent,
        int BudgetMinutes
    );
}

using FirstCoat.Core.Builds;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Shop;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Readings;

/// <summary>Reads what bears on a bill.</summary>
internal static class BillReading
{
    /// <summary>What a build has ordered or sent out that is still to come.</summary>
    public static async Task<IReadOnlyList<Commitment>> Committed(
        this ShopDb db,
        Guid build,
        ShopSettings shop,
        CancellationToken cancel
    ) =>
        Commitment.Of(
            await db
                .Parts.AsNoTracking()
                .Where(p => p.BuildId == build && p.OrderedOn != null && p.State < PartState.Received)
                .ToListAsync(cancel),
            await db
                .OutsideJobs.AsNoTracking()
                .Where(j => j.BuildId == build && j.SentOn != null && j.BackOn == null)
                .ToListAsync(cancel),
            shop
        );

    /// <summary>What is recorded about a build that bears on its bill.</summary>
    /// <param name="today">The shop's day.</param>
    public static async Task<BillFacts> BillFactsOf(
        this ShopDb db,
        Build build,
        ShopSettings shop,
        LocalDate today,
        CancellationToken cancel
    )
    {
        var id = build.Id;
        var papers = await db.Papers.AsNoTracking().Where(p => p.BuildId == id).ToListAsync(cancel);
        return new(
            build,
            shop,
            await db
                .TimeEntries.AsNoTracking()
                .Where(e => e.BuildId == id && e.ReplacedBy == null && !e.Void && e.Stop != null)
                .OrderBy(e => e.Start)
                .ToListAsync(cancel),
            await db.Operations.AsNoTracking().Where(o => o.BuildId == id).ToDictionaryAsync(o => o.Id, cancel),
            await db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, cancel),
            await db.Parts.AsNoTracking().Where(p => p.BuildId == id).OrderBy(p => p.Seq).ToListAsync(cancel),
            await db.OutsideJobs.AsNoTracking().Where(j => j.BuildId == id).OrderBy(j => j.Seq).ToListAsync(cancel),
            await db.Materials.AsNoTracking().Where(m => m.BuildId == id).OrderBy(m => m.Seq).ToListAsync(cancel),
            await db
                .Payments.AsNoTracking()
                .Where(p => p.BuildId == id)
                .OrderBy(p => p.On)
                .ThenBy(p => p.Seq)
                .ToListAsync(cancel),
            papers.Where(p => p.Kind == PaperKind.ChangeOrder).OrderBy(p => p.Number).ToList()
        )
        {
            Today = today,
            Accepted = papers.FirstOrDefault(p => p is { Kind: PaperKind.Estimate, State: PaperState.Accepted }),
        };
    }

    /// <summary>A build's money to the end.</summary>
    /// <param name="ends">The day on which the plan ends an operation.</param>
    /// <param name="goods">Rows of an estimate that is being written; null: as agreed or entered.</param>
    public static async Task<MoneyOutlook> OutlookOf(
        this ShopDb db,
        BillFacts facts,
        TradeHistory history,
        IReadOnlyDictionary<Guid, LocalDate> ends,
        IReadOnlyList<PaperGoods>? goods,
        CancellationToken cancel
    )
    {
        // Until an estimate is accepted, what its last version allows for counts.
        var drafted = goods
            ?? (
                facts.Accepted is not null || facts.Build.AcceptedAt is not null
                    ? null
                    : (
                        await db
                            .Papers.AsNoTracking()
                            .Where(p =>
                                p.BuildId == facts.Build.Id
                                && p.Kind == PaperKind.Estimate
                                && p.WithdrawnWhy == null
                                && p.Answer == null
                            )
                            .OrderByDescending(p => p.Number)
                            .FirstOrDefaultAsync(cancel)
                    )
                        ?.Words
                        .Goods
            );
        return MoneyOutlook.Of(facts, new(history, TradeRates.On(facts.Today, facts.People.Values), ends, drafted));
    }
}

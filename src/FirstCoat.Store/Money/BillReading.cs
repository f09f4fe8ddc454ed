using FirstCoat.Core.Builds;
using FirstCoat.Core.Money;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Shop;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Money;

/// <summary>Reads what bears on a bill.</summary>
internal static class BillReading
{
    /// <summary>What a build has ordered or sent out that is still to come.</summary>
    public static async Task<IReadOnlyList<Commitment>> Committed(this ShopDb db, Guid build, ShopSettings shop, CancellationToken cancel) => Commitment.Of(
        await db.Parts.AsNoTracking().Where(p => p.BuildId == build && p.OrderedOn != null && p.State < PartState.Received).ToListAsync(cancel),
        await db.OutsideJobs.AsNoTracking().Where(j => j.BuildId == build && j.SentOn != null && j.BackOn == null).ToListAsync(cancel), shop);

    /// <summary>What is recorded about a build that bears on its bill.</summary>
    public static async Task<BillFacts> BillFactsOf(this ShopDb db, Build build, ShopSettings shop, CancellationToken cancel)
    {
        var id = build.Id;
        return new(
            build, shop,
            await db.TimeEntries.AsNoTracking().Where(e => e.BuildId == id && e.ReplacedBy == null && !e.Void && e.Stop != null).OrderBy(e => e.Start).ToListAsync(cancel),
            await db.Operations.AsNoTracking().Where(o => o.BuildId == id).ToDictionaryAsync(o => o.Id, cancel),
            await db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, cancel),
            await db.Parts.AsNoTracking().Where(p => p.BuildId == id && p.State >= PartState.Received).OrderBy(p => p.Seq).ToListAsync(cancel),
            await db.OutsideJobs.AsNoTracking().Where(j => j.BuildId == id).OrderBy(j => j.Seq).ToListAsync(cancel),
            await db.Materials.AsNoTracking().Where(m => m.BuildId == id).OrderBy(m => m.Seq).ToListAsync(cancel),
            await db.Payments.AsNoTracking().Where(p => p.BuildId == id).OrderBy(p => p.On).ThenBy(p => p.Seq).ToListAsync(cancel),
            await db.Papers.AsNoTracking().Where(p => p.BuildId == id && p.Kind == PaperKind.ChangeOrder).OrderBy(p => p.Number).ToListAsync(cancel));
    }
}

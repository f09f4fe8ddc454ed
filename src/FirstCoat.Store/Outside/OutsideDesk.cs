using FirstCoat.Core;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Teardown;
using FirstCoat.Store.Access;
using FirstCoat.Store.Sequence;
using FirstCoat.Store.Teardown;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Outside;

/// <summary>Outside work as entered.</summary>
public sealed record OutsideEntry(
    string Title,
    Guid SupplierId,
    Guid? OperationId,
    List<OutsidePiece> Pieces,
    int QuotedDays,
    decimal Quoted,
    decimal? Billed
);

/// <summary>Commands of the outside room.</summary>
public sealed class OutsideDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    SequenceDesk sequence,
    TeardownDesk bags,
    GatekeeperDesk gatekeeper
) : Desk(db, clock, current)
{
    /// <summary>Adds a job or changes one; what was counted in stays.</summary>
    public async Task<OutsideJob> Put(
        Guid buildId,
        Guid id,
        OutsideEntry entry,
        uint? version,
        CancellationToken cancel
    )
    {
        await Build(buildId, cancel);
        await Find<Supplier>(entry.SupplierId, "supplier", cancel);
        if (entry.OperationId is { } operationId)
        {
            var operation = await Find<Operation>(operationId, "operation", cancel);
            Refusal.When(operation.BuildId != buildId, "operationId", "This operation belongs to another build.");
        }

        var job = await Db.OutsideJobs.FindAsync([id], cancel);
        if (job is null)
        {
            job = new()
            {
                Id = id,
                BuildId = buildId,
                SupplierId = entry.SupplierId,
                Title = "",
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            Db.Add(job);
        }

        Refusal.When(job.BuildId != buildId, "id", "This job belongs to another build.");
        Refusal.When(
            job.SentOn is not null
                && !job.Pieces.Select(Listed).Order().SequenceEqual(entry.Pieces.Select(Listed).Order()),
            "pieces",
            "The batch has left: its list of pieces is settled."
        );
        Expect(job, version);
        (job.Title, job.SupplierId, job.OperationId, job.QuotedDays, job.Quoted, job.Billed) = (
            Refusal.Text(entry.Title, "title"),
            entry.SupplierId,
            entry.OperationId,
            entry.QuotedDays,
            entry.Quoted,
            entry.Billed
        );
        if (job.SentOn is null)
        {
            job.Pieces = await Known(buildId, entry.Pieces, cancel);
        }

        job.Check();
        await Save(cancel);
        return job;
    }

    /// <summary>The batch leaves.</summary>
    /// <param name="why">Why it leaves before what comes before it, where that is asked.</param>
    public async Task<OutsideJob> Send(
        Guid id,
        LocalDate? on,
        LocalDate promised,
        CancellationToken cancel,
        string why = ""
    )
    {
        var job = await Find<OutsideJob>(id, "job", cancel);
        Plausible(on, "on");
        Plausible(promised, "promisedOn");
        if (job.OperationId is { } of && await Db.Operations.FindAsync([of], cancel) is { IsDone: false } operation)
        {
            await gatekeeper.Refuse(operation, WorkStep.Leave, "id", why, cancel);
        }

        job.Send(on ?? await Today(cancel), promised);
        await using var all = await Db.Database.BeginTransactionAsync(cancel);
        var supplier = await Find<Supplier>(job.SupplierId, "supplier", cancel);
        foreach (var bag in job.Pieces.Select(p => p.BagId).OfType<Guid>())
        {
            await bags.Move(
                bag,
                Guid.CreateVersion7(),
                BagState.AtSupplier,
                Words.Shortened(supplier.Name, Bag.PlaceMost),
                job.Title,
                cancel
            );
        }

        await Save(cancel);
        await all.CommitAsync(cancel);
        return job;
    }

    /// <summary>The supplier names another day.</summary>
    public async Task<OutsideJob> Promise(Guid id, LocalDate promised, CancellationToken cancel)
    {
        var job = await Find<OutsideJob>(id, "job", cancel);
        Plausible(promised, "promisedOn");
        job.Promise(promised);
        await Save(cancel);
        return job;
    }

    /// <summary>The batch is counted in; when nothing is missing its operation is done.</summary>
    public async Task<OutsideJob> CountIn(Guid id, LocalDate? on, IReadOnlyList<int> counts, CancellationToken cancel)
    {
        var job = await Find<OutsideJob>(id, "job", cancel);
        Plausible(on, "on");
        job.CountIn(on ?? await Today(cancel), counts);
        if (
            job.MissingPieces == 0
            && job.OperationId is { } operationId
            && await Db.Operations.FindAsync([operationId], cancel)
                is { IsDone: false, Kind: OperationKind.Outside } operation
            && (await gatekeeper.Against(operation, WorkStep.End, cancel)).All(o =>
                o.Asks || o.Kind == ObstacleKind.Away
            )
        )
        {
            sequence.FinishTracked(operation);
        }

        await using var all = await Db.Database.BeginTransactionAsync(cancel);
        foreach (var piece in job.Pieces.Where(p => p is { BagId: not null, AllIn: true }))
        {
            // A bag that is complete again goes back to where it lay before it left.
            if (await Db.Bags.FindAsync([piece.BagId!.Value], cancel) is { State: BagState.AtSupplier } bag)
            {
                var shelf = await Db
                    .BagMoves.Where(m => m.BagId == bag.Id && m.State == BagState.OnShelf)
                    .OrderByDescending(m => m.Seq)
                    .Select(m => m.Place)
                    .FirstOrDefaultAsync(cancel);
                await bags.Move(
                    bag.Id,
                    Guid.CreateVersion7(),
                    BagState.OnShelf,
                    shelf ?? "counted in",
                    job.Title,
                    cancel
                );
            }
        }

        await Save(cancel);
        await all.CommitAsync(cancel);
        return job;
    }

    /// <summary>What makes a piece of a list that one; a bag is itself, whatever it is called.</summary>
    private static string Listed(OutsidePiece p) => p.BagId is { } bag ? $"bag {bag}" : $"{p.Count} {p.Name}";

    /// <summary>Pieces as entered; one that is a bag is named and counted by it.</summary>
    private async Task<List<OutsidePiece>> Known(Guid buildId, List<OutsidePiece> entered, CancellationToken cancel)
    {
        var ids = entered.Select(p => p.BagId).OfType<Guid>().ToList();
        var known = await Db
            .Bags.AsNoTracking()
            .Where(b => ids.Contains(b.Id) && b.BuildId == buildId)
            .ToDictionaryAsync(b => b.Id, cancel);
        Refusal.When(ids.Any(i => !known.ContainsKey(i)), "pieces", "There is no such bag of this build.");
        var gone = known.Values.FirstOrDefault(b => b.State is not (BagState.OnShelf or BagState.OnCar));
        Refusal.When(gone is not null, "pieces", $"{gone?.Label} is not here: {gone?.What}.");
        return entered
            .Select(p =>
                p.BagId is { } id
                    ? new OutsidePiece(
                        $"{Words.Shortened(known[id].What, OutsidePiece.NameMost - 3 - known[id].Label.Length)} ({known[id].Label})",
                        Math.Max(1, known[id].PieceCount + known[id].FastenerCount),
                        0,
                        id
                    )
                    : p with
                    {
                        CountedIn = 0,
                    }
            )
            .ToList();
    }
}

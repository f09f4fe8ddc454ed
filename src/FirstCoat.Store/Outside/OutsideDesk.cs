using FirstCoat.Core;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using FirstCoat.Store.Sequence;
using NodaTime;

namespace FirstCoat.Store.Outside;

/// <summary>Outside work as entered.</summary>
public sealed record OutsideEntry(string Title, Guid SupplierId, Guid? OperationId, List<OutsidePiece> Pieces, int QuotedDays, decimal Quoted, decimal? Billed);

/// <summary>Commands of the outside room.</summary>
public sealed class OutsideDesk(ShopDb db, ShopClock clock, CurrentActor current, SequenceDesk sequence) : Desk(db, clock, current)
{
    /// <summary>Adds a job or changes one; what was counted in stays.</summary>
    public async Task<OutsideJob> Put(Guid buildId, Guid id, OutsideEntry entry, uint? version, CancellationToken cancel)
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
            job = new() { Id = id, BuildId = buildId, SupplierId = entry.SupplierId, Title = "", RecordedAt = Clock.Now, RecordedBy = Actor.AccountId };
            Db.Add(job);
        }

        Refusal.When(job.BuildId != buildId, "id", "This job belongs to another build.");
        Refusal.When(job.SentOn is not null && !job.Pieces.Select(p => (p.Name, p.Count)).SequenceEqual(entry.Pieces.Select(p => (p.Name, p.Count))), "pieces", "The batch has left: its list of pieces is settled.");
        Expect(job, version);
        (job.Title, job.SupplierId, job.OperationId, job.QuotedDays, job.Quoted, job.Billed) = (Refusal.Text(entry.Title, "title"), entry.SupplierId, entry.OperationId, entry.QuotedDays, entry.Quoted, entry.Billed);
        if (job.SentOn is null)
        {
            job.Pieces = entry.Pieces.Select(p => p with { CountedIn = 0 }).ToList();
        }

        job.Check();
        await Save(cancel);
        return job;
    }

    /// <summary>The batch leaves.</summary>
    public async Task<OutsideJob> Send(Guid id, LocalDate? on, LocalDate promised, CancellationToken cancel)
    {
        var job = await Find<OutsideJob>(id, "job", cancel);
        Plausible(on, "on");
        Plausible(promised, "promisedOn");
        job.Send(on ?? await Today(cancel), promised);
        await Save(cancel);
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
        if (job.MissingPieces == 0 && job.OperationId is { } operationId && await Db.Operations.FindAsync([operationId], cancel) is { IsDone: false, Kind: OperationKind.Outside } operation)
        {
            sequence.FinishTracked(operation);
        }

        await Save(cancel);
        return job;
    }
}

using FirstCoat.Core;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Teardown;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Teardown;

/// <summary>A bag as entered.</summary>
public sealed record BagEntered(
    PanelSide Side,
    string What,
    string From,
    List<BagPiece> Pieces,
    List<BagFastener> Fasteners,
    string Place,
    Guid? PatternFor,
    Guid? PhotoId,
    bool NoPhoto,
    string PatternWhy = ""
);

/// <summary>Commands of the teardown room: bags, where they are, and how they are found.</summary>
public sealed class TeardownDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    /// <summary>One number after another for the whole shop, whoever asks at the same moment.</summary>
    private const long CodeLock = 0x4643_4241_4753;

    /// <summary>Bags something and gives it the shop's next number; what its removal destroyed goes on the buying list.
    /// Asked again with the same id it changes what is there.</summary>
    public async Task<Bag> Put(Guid buildId, Guid id, BagEntered e, uint? version, CancellationToken cancel)
    {
        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        var bag = await PutWithin(buildId, id, e, version, cancel);
        await turn.CommitAsync(cancel);
        return bag;
    }

    /// <summary>Bags something within a larger change; the caller holds the transaction.</summary>
    internal async Task<Bag> PutWithin(Guid buildId, Guid id, BagEntered e, uint? version, CancellationToken cancel)
    {
        await Build(buildId, cancel);
        Refusal.When(!Enum.IsDefined(e.Side), "side", "Say which side it came off.");
        Refusal.When(
            e.PatternFor is { } pattern
                && !await Db.Operations.AnyAsync(o => o.Id == pattern && o.BuildId == buildId && !o.Removed, cancel),
            "patternFor",
            "There is no such operation on this build."
        );
        Refusal.When(
            e.PhotoId is { } photo && !await Db.Photos.AnyAsync(p => p.Id == photo && p.BuildId == buildId, cancel),
            "photoId",
            "There is no such photo of this build."
        );
        await Turn(CodeLock, cancel);
        var bag = await Db.Bags.FindAsync([id], cancel);
        var destroyed = bag?.Fasteners.Sum(f => f.Destroyed) ?? 0;
        if (bag is null)
        {
            Refusal.When(
                e.PhotoId is null && !e.NoPhoto,
                "photoId",
                "Take a photo before it is closed, or say that there is none."
            );
            var code = (await Db.Bags.MaxAsync(b => (int?)b.Code, cancel) ?? 100) + 1;
            bag = new()
            {
                Id = id,
                BuildId = buildId,
                Code = code,
                Side = e.Side,
                OffBy = Actor.Name,
                OffAt = Clock.Now,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            Db.Add(bag);
            bag.Move(BagState.OnShelf, e.Place, null);
            Db.Add(MoveOf(bag, ""));
        }

        Refusal.When(bag.BuildId != buildId, "id", "This bag belongs to another build.");
        Refusal.When(bag.Side != e.Side, "side", "The side belongs to the number: bag the other side by itself.");
        Expect(bag, version);
        if (
            bag.PatternFor is { } bound
            && bound != e.PatternFor
            && await Db.Operations.FindAsync([bound], cancel) is { IsDone: false, Removed: false } uses
        )
        {
            // Old parts are kept as patterns until the new work is signed off: who lets go of one says why, and it
            // stays with the bag.
            Refusal.When(
                string.IsNullOrWhiteSpace(e.PatternWhy),
                "patternWhy",
                $"It is the pattern for “{uses.Name}”, which is not done. Say why it is no longer needed."
            );
            Db.Add(MoveOf(bag, Words.Shortened($"no longer the pattern for {uses.Name}: {e.PatternWhy.Trim()}", 200)));
        }

        (bag.What, bag.From, bag.Pieces, bag.Fasteners, bag.PatternFor, bag.PhotoId, bag.NoPhoto) = (
            e.What,
            e.From.Trim(),
            e.Pieces,
            e.Fasteners,
            e.PatternFor,
            e.PhotoId,
            e.NoPhoto
        );
        bag.Check();
        if (bag.Fasteners.Sum(f => f.Destroyed) > destroyed)
        {
            await Replace(bag, cancel);
        }

        await Save(cancel);
        return bag;
    }

    /// <summary>Moves a bag; asked again with the same id it stays where that move put it.</summary>
    public async Task<Bag> Move(
        Guid id,
        Guid moveId,
        BagState state,
        string place,
        string note,
        CancellationToken cancel
    )
    {
        var bag = await Find<Bag>(id, "bag", cancel);
        if (await Db.BagMoves.AnyAsync(m => m.Id == moveId, cancel))
        {
            return bag;
        }

        Refusal.When(
            !Actor.IsDesk && state is (BagState.Scrapped or BagState.Sold),
            "state",
            "The desk scraps and sells; put it on a shelf and say so."
        );
        Refusal.When(note.Length > 200, "note", "At most 200 characters.");
        var pattern = bag.PatternFor is { } p ? await Db.Operations.FindAsync([p], cancel) : null;
        bag.Move(state, place, pattern is { IsDone: false, Removed: false } ? pattern.Name : null);
        Db.Add(MoveOf(bag, note, moveId));
        await Save(cancel);
        return bag;
    }

    /// <summary>All bags of a build with what moved them, and the operations that need patterns.</summary>
    public async Task<(List<Bag> Bags, List<BagMove> Moves, Dictionary<Guid, Operation> Patterns)> Look(
        Guid buildId,
        CancellationToken cancel
    )
    {
        await Build(buildId, cancel);
        var bags = await Db
            .Bags.AsNoTracking()
            .Where(b => b.BuildId == buildId)
            .OrderBy(b => b.Code)
            .ToListAsync(cancel);
        var moves = await Db
            .BagMoves.AsNoTracking()
            .Where(m => m.BuildId == buildId)
            .OrderBy(m => m.Seq)
            .ToListAsync(cancel);
        var needed = bags.Select(b => b.PatternFor).OfType<Guid>().ToList();
        return (
            bags,
            moves,
            await Db.Operations.AsNoTracking().Where(o => needed.Contains(o.Id)).ToDictionaryAsync(o => o.Id, cancel)
        );
    }

    /// <summary>Finds bags of all builds, those that have ended too, or of one, by number, side and words.</summary>
    /// <returns>What was found, best first, and the other side's bag of each that has one.</returns>
    public async Task<(BagsFound Found, List<Bag> Bags, Dictionary<Guid, Bag> Twins)> Find(
        string question,
        Guid? buildId,
        CancellationToken cancel
    )
    {
        var bags = await Db.Bags.AsNoTracking().Where(b => buildId == null || b.BuildId == buildId).ToListAsync(cancel);
        var found = BagFinder.Find(question, bags.Select(BagEntry.Of).ToList());
        var byId = bags.ToDictionary(b => b.Id);
        var answers = found.Bags.Select(b => byId[b]).ToList();
        return (
            found,
            answers,
            answers
                .Select(b => (b.Id, Twin: bags.FirstOrDefault(b.IsTwinOf)))
                .Where(x => x.Twin is not null)
                .ToDictionary(x => x.Id, x => x.Twin!)
        );
    }

    /// <summary>What removal destroyed goes on the buying list: a line for each kind, which follows the count while
    /// nobody has ordered it.</summary>
    private async Task Replace(Bag bag, CancellationToken cancel)
    {
        var lines = await Db.Parts.Where(p => p.BagId == bag.Id).ToListAsync(cancel);
        foreach (var f in bag.Fasteners.Where(f => f.Destroyed > 0))
        {
            var (words, ending) = ((f with { Count = f.Destroyed }).Words, $" for {bag.What} ({bag.Label})");
            var kind = $" {f.Kind}";
            var line = lines.FirstOrDefault(p =>
                p.Name.Contains(kind, StringComparison.Ordinal) && p.Name.Contains(f.Thread, StringComparison.Ordinal)
            );
            if (line is null)
            {
                line = new()
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = bag.BuildId,
                    BagId = bag.Id,
                    Name = "",
                    RecordedAt = Clock.Now,
                    RecordedBy = Actor.AccountId,
                };
                Db.Add(line);
                lines.Add(line);
            }

            if (line.State == PartState.Needed)
            {
                (line.Name, line.Quantity) = (Words.Shortened(words + ending, 200), f.Destroyed);
            }
        }
    }

    private BagMove MoveOf(Bag bag, string note, Guid? id = null) =>
        new()
        {
            Id = id ?? Guid.CreateVersion7(),
            BuildId = bag.BuildId,
            BagId = bag.Id,
            State = bag.State,
            Place = bag.Place,
            Note = note.Trim(),
            By = Actor.Name,
            At = Clock.Now,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
}

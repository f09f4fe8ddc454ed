using FirstCoat.Core;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Photos;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Access;

namespace FirstCoat.Store.Photos;

/// <summary>What is said about a photo.</summary>
public sealed record PhotoWords(string Caption, Stage? Stage, string? Panel, Guid? OperationId, bool ClientMaySee);

/// <summary>Commands of the photos room.</summary>
public sealed class PhotosDesk(ShopDb db, ShopClock clock, CurrentActor current, PhotoFiles files)
    : Desk(db, clock, current)
{
    /// <summary>Takes a photo in; the row is made when the file is safely on disk.</summary>
    public async Task<Photo> Add(
        Guid buildId,
        Guid id,
        Stream upload,
        long length,
        PhotoWords words,
        CancellationToken cancel
    )
    {
        if (await Again<Photo>(id, cancel) is { } there)
        {
            return there;
        }

        await Build(buildId, cancel);
        await Check(buildId, words, cancel);
        var safe = await files.Take(upload, length, cancel);
        var zone = await Zone(cancel);
        var taken = safe.TakenAt is { } t ? zone.AtLeniently(t).ToInstant() : Clock.Now;
        var photo = new Photo
        {
            Id = id,
            BuildId = buildId,
            Hash = safe.Hash,
            ThumbHash = safe.ThumbHash,
            Width = safe.Width,
            Height = safe.Height,
            TakenAt = taken > Clock.Now ? Clock.Now : taken,
            By = Actor.Name,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        Apply(photo, words);
        Db.Add(photo);
        await Save(cancel);
        return photo;
    }

    /// <summary>Changes what is said about a photo, and whether the client may see it.</summary>
    public async Task<Photo> Describe(Guid id, PhotoWords words, uint? version, CancellationToken cancel)
    {
        var photo = await Find<Photo>(id, "photo", cancel);
        Refusal.When(!Actor.IsDesk && photo.RecordedBy != Actor.AccountId, "id", "You describe your own photos.");
        Refusal.When(
            !Actor.IsDesk && words.ClientMaySee && !photo.ClientMaySee,
            "clientMaySee",
            "The desk chooses what the client sees."
        );
        Expect(photo, version);
        await Check(photo.BuildId, words, cancel);
        Apply(photo, words);
        await Save(cancel);
        return photo;
    }

    private static void Apply(Photo photo, PhotoWords words) =>
        (photo.Caption, photo.Stage, photo.Panel, photo.OperationId, photo.ClientMaySee) = (
            words.Caption.Trim(),
            words.Stage,
            words.Panel,
            words.OperationId,
            words.ClientMaySee
        );

    private async Task Check(Guid buildId, PhotoWords words, CancellationToken cancel)
    {
        Refusal.When(words.Caption.Length > 200, "caption", "The caption may have at most 200 characters.");
        Refusal.When(words.Panel is { Length: > 40 }, "panel", "There is no such panel.");
        if (words.OperationId is { } id)
        {
            var operation = await Find<Operation>(id, "operation", cancel);
            Refusal.When(operation.BuildId != buildId, "operationId", "This operation belongs to another build.");
        }
    }
}

using FirstCoat.Core.Photos;
using NodaTime;

namespace FirstCoat.Store.Photos;

public sealed record PagePhoto(
    Guid Id,
    string Hash,
    string ThumbHash,
    int Width,
    int Height,
    string Caption,
    string By,
    Instant TakenAt
)
{
    public static PagePhoto Of(Photo p) =>
        new(p.Id, p.Hash, p.ThumbHash, p.Width, p.Height, p.Caption, p.By, p.TakenAt);
}

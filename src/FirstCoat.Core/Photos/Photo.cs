using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Photos;

/// <summary>A picture that is safely on disk, named by the hash of its bytes.</summary>
public sealed class Photo : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>SHA-256 of the stored file and of its thumbnail, in lower-case hexadecimal.</summary>
    public required string Hash { get; init; }

    public required string ThumbHash { get; init; }
    public required int Width { get; init; }
    public required int Height { get; init; }

    /// <summary>When it was taken, by the camera or else when it was sent.</summary>
    public required Instant TakenAt { get; init; }

    public required string By { get; init; }
    public Guid? OperationId { get; set; }
    public string Caption { get; set; } = "";
    public Stage? Stage { get; set; }
    public string? Panel { get; set; }

    /// <summary>Whether it may be put before the client.</summary>
    public bool ClientMaySee { get; set; }
}

using System.Security.Cryptography;
using FirstCoat.Core;
using FirstCoat.Store.Access;
using NodaTime;
using SkiaSharp;

namespace FirstCoat.Store.Photos;

/// <summary>A picture made safe: decoded, turned upright, encoded anew without its metadata.</summary>
public sealed record SafePicture(string Hash, string ThumbHash, int Width, int Height, LocalDateTime? TakenAt);

/// <summary>The photo folder. A file is named by the SHA-256 of its bytes and is there before its row is. Only the
/// shop's account reads it.</summary>
public sealed class PhotoFiles : IDisposable
{
    /// <summary>Largest upload, in bytes.</summary>
    public const int MaxBytes = 30 * 1024 * 1024;

    private const int LongSide = 2400,
        ThumbSide = 480;
    private static readonly TimeSpan HalfAge = TimeSpan.FromHours(1);
    private readonly string _folder;
    private readonly PictureRoom _room = new();

    public PhotoFiles(string folder)
    {
        PrivateFolder.Make(_folder = folder);
        Sweep();
    }

    /// <summary>Takes an upload in. The type is decided from the bytes; position data does not survive.</summary>
    /// <param name="length">In bytes, as announced.</param>
    /// <exception cref="Refusal">Not a picture, truncated, or too large.</exception>
    public async Task<SafePicture> Take(Stream upload, long length, CancellationToken cancel)
    {
        Refusal.When(length == 0, "file", "The file is empty.");
        Refusal.When(length > MaxBytes, "file", "The file is larger than 30 MB.");
        // Bytes and pixels come into memory only when it is this picture's turn.
        using var turn = await _room.Turn(cancel);
        var bytes = new byte[length];
        await upload.ReadExactlyAsync(bytes, cancel);
        var picture = PictureBytes.Of(bytes);
        using var room = await _room.Room(picture.MemoryNeeded, cancel);
        var taken = picture.Taken;
        using var data = SKData.CreateCopy(picture.Decodable);
        bytes = null;
        picture = null;
        using var codec = SKCodec.Create(data);
        Refusal.When(codec is null, "file", "This is not a JPEG, PNG or WebP picture.");
        using var full = Decode(codec!);
        using var thumb = Shrink(full, ThumbSide);
        return new(await Write(full, 86, cancel), await Write(thumb, 78, cancel), full.Width, full.Height, taken);
    }

    /// <summary>Upright and no larger than is kept. A JPEG is made small while it is decoded.</summary>
    private static SKBitmap Decode(SKCodec codec)
    {
        var size =
            codec.EncodedFormat == SKEncodedImageFormat.Jpeg
                ? codec.GetScaledDimensions(
                    Math.Min(1f, (float)LongSide / Math.Max(codec.Info.Width, codec.Info.Height))
                )
                : codec.Info.Size;
        if (Math.Max(size.Width, size.Height) < Math.Min(LongSide, Math.Max(codec.Info.Width, codec.Info.Height)))
        {
            // The nearest step fell short: the next larger one, made small afterwards.
            size = codec.GetScaledDimensions(
                Math.Min(1f, (1.25f * LongSide / Math.Max(codec.Info.Width, codec.Info.Height)) + .125f)
            );
        }

        using var raw = new SKBitmap(
            new SKImageInfo(size.Width, size.Height, SKColorType.Rgba8888, SKAlphaType.Premul)
        );
        Refusal.When(
            codec.GetPixels(raw.Info, raw.GetPixels()) != SKCodecResult.Success,
            "file",
            "The picture is damaged or was cut off on its way. Send it again."
        );
        using var small = Shrink(raw, LongSide);
        return Turn(small, codec.EncodedOrigin);
    }

    /// <summary>Removes what a stopped server left half-written.</summary>
    private void Sweep()
    {
        foreach (
            var half in Directory
                .EnumerateFiles(_folder, "*.half", SearchOption.AllDirectories)
                .Where(f => File.GetLastWriteTimeUtc(f) < DateTime.UtcNow - HalfAge)
        )
        {
            File.Delete(half);
        }
    }

    public void Dispose() => _room.Dispose();

    /// <summary>Opens a stored file; null when there is none of that hash.</summary>
    public Stream? Open(string hash)
    {
        if (hash.Length != 64 || !hash.All(char.IsAsciiHexDigitLower))
        {
            return null;
        }

        var path = PathOf(hash);
        return File.Exists(path)
            ? new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 64 * 1024, useAsync: true)
            : null;
    }

    private string PathOf(string hash) => Path.Combine(_folder, hash[..2], hash + ".webp");

    private async Task<string> Write(SKBitmap bitmap, int quality, CancellationToken cancel)
    {
        using var image = SKImage.FromBitmap(bitmap);
        using var encoded = image.Encode(SKEncodedImageFormat.Webp, quality);
        var bytes = encoded.ToArray();
        var hash = Convert.ToHexStringLower(SHA256.HashData(bytes));
        var path = PathOf(hash);
        if (!File.Exists(path))
        {
            PrivateFolder.Make(Path.GetDirectoryName(path)!);
            var half = $"{path}.{Guid.NewGuid():N}.half";
            try
            {
                await using (var file = PrivateFolder.NewFile(half))
                {
                    await file.WriteAsync(bytes, cancel);
                    file.Flush(flushToDisk: true);
                }

                File.Move(half, path, overwrite: true);
            }
            finally
            {
                // Nothing is there after the move; after a fault the half goes, so that a full disk does not stay full
                // of halves.
                File.Delete(half);
            }
        }

        return hash;
    }

    private static SKBitmap Shrink(SKBitmap from, int longSide)
    {
        var by = Math.Min(1.0, (double)longSide / Math.Max(from.Width, from.Height));
        return from.Resize(
            new SKImageInfo(
                Math.Max(1, (int)Math.Round(from.Width * by)),
                Math.Max(1, (int)Math.Round(from.Height * by))
            ),
            new SKSamplingOptions(SKCubicResampler.Mitchell)
        );
    }

    private static SKBitmap Turn(SKBitmap raw, SKEncodedOrigin origin)
    {
        var swapped =
            origin
            is SKEncodedOrigin.LeftTop
                or SKEncodedOrigin.RightTop
                or SKEncodedOrigin.RightBottom
                or SKEncodedOrigin.LeftBottom;
        var (w, h) = swapped ? (raw.Height, raw.Width) : (raw.Width, raw.Height);
        var turned = new SKBitmap(w, h, raw.ColorType, raw.AlphaType);
        using var canvas = new SKCanvas(turned);
        var matrix = origin switch
        {
            SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, w, 0, 1, 0, 0, 0, 1),
            SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, w, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightTop => new SKMatrix(0, -1, w, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, w, -1, 0, h, 0, 0, 1),
            SKEncodedOrigin.LeftBottom => new SKMatrix(0, 1, 0, -1, 0, h, 0, 0, 1),
            _ => SKMatrix.Identity,
        };
        canvas.SetMatrix(matrix);
        canvas.DrawBitmap(raw, 0, 0);
        return turned;
    }
}

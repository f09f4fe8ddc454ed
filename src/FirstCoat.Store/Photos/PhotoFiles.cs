using System.Security.Cryptography;
using FirstCoat.Core;
using MetadataExtractor;
using MetadataExtractor.Formats.Exif;
using NodaTime;
using SkiaSharp;

namespace FirstCoat.Store.Photos;

/// <summary>A picture made safe: decoded, turned upright, encoded anew without its metadata.</summary>
public sealed record SafePicture(string Hash, string ThumbHash, int Width, int Height, LocalDateTime? TakenAt);

/// <summary>The photo folder. A file is named by the SHA-256 of its bytes and is there before its row is.</summary>
public sealed class PhotoFiles
{
    /// <summary>Largest upload, in bytes, and largest picture, in pixels.</summary>
    public const int MaxBytes = 30 * 1024 * 1024;

    public const long MaxPixels = 80_000_000;
    private const int LongSide = 2400, ThumbSide = 480;
    private readonly string _folder;

    public PhotoFiles(string folder) => System.IO.Directory.CreateDirectory(_folder = folder);

    /// <summary>Takes an upload in. The type is decided from the bytes; position data does not survive.</summary>
    /// <exception cref="Refusal">Not a picture, truncated, or too large.</exception>
    public async Task<SafePicture> Take(byte[] upload, CancellationToken cancel)
    {
        Refusal.When(upload.Length == 0, "file", "The file is empty.");
        Refusal.When(upload.Length > MaxBytes, "file", "The file is larger than 30 MB.");
        using var data = SKData.CreateCopy(upload);
        using var codec = SKCodec.Create(data);
        Refusal.When(codec is null || codec.EncodedFormat is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png or SKEncodedImageFormat.Webp), "file", "This is not a JPEG, PNG or WebP picture.");
        var info = codec!.Info;
        Refusal.When((long)info.Width * info.Height > MaxPixels, "file", "The picture has more than 80 million pixels.");
        Refusal.When(info.Width < 8 || info.Height < 8, "file", "The picture is too small to show anything.");
        using var raw = new SKBitmap(new SKImageInfo(info.Width, info.Height, SKColorType.Rgba8888, SKAlphaType.Premul));
        Refusal.When(codec.GetPixels(raw.Info, raw.GetPixels()) != SKCodecResult.Success, "file", "The picture is damaged or was cut off on its way. Send it again.");
        using var upright = Turn(raw, codec.EncodedOrigin);
        using var full = Shrink(upright, LongSide);
        using var thumb = Shrink(upright, ThumbSide);
        return new(await Write(full, 86, cancel), await Write(thumb, 78, cancel), full.Width, full.Height, Taken(upload));
    }

    /// <summary>Opens a stored file; null when there is none of that hash.</summary>
    public Stream? Open(string hash)
    {
        if (hash.Length != 64 || !hash.All(char.IsAsciiHexDigitLower))
        {
            return null;
        }

        var path = PathOf(hash);
        return File.Exists(path) ? new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 64 * 1024, useAsync: true) : null;
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
            System.IO.Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            var half = $"{path}.{Guid.NewGuid():N}";
            await using (var file = new FileStream(half, FileMode.CreateNew, FileAccess.Write, FileShare.None, 64 * 1024, FileOptions.Asynchronous))
            {
                await file.WriteAsync(bytes, cancel);
                file.Flush(flushToDisk: true);
            }

            File.Move(half, path, overwrite: true);
        }

        return hash;
    }

    private static SKBitmap Shrink(SKBitmap from, int longSide)
    {
        var by = Math.Min(1.0, (double)longSide / Math.Max(from.Width, from.Height));
        return from.Resize(new SKImageInfo(Math.Max(1, (int)Math.Round(from.Width * by)), Math.Max(1, (int)Math.Round(from.Height * by))), new SKSamplingOptions(SKCubicResampler.Mitchell));
    }

    private static SKBitmap Turn(SKBitmap raw, SKEncodedOrigin origin)
    {
        var swapped = origin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;
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

    private static LocalDateTime? Taken(byte[] upload)
    {
        try
        {
            var text = ImageMetadataReader.ReadMetadata(new MemoryStream(upload)).OfType<ExifSubIfdDirectory>().Select(d => d.GetString(ExifDirectoryBase.TagDateTimeOriginal)).FirstOrDefault(t => t is not null);
            var read = NodaTime.Text.LocalDateTimePattern.CreateWithInvariantCulture("uuuu:MM:dd HH:mm:ss").Parse(text ?? "");
            return read.Success ? read.Value : null;
        }
        catch (Exception e) when (e is ImageProcessingException or IOException)
        {
            return null;
        }
    }
}

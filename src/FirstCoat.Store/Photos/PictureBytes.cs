using System.Buffers.Binary;
using FirstCoat.Core;
using MetadataExtractor;
using MetadataExtractor.Formats.Exif;
using MetadataExtractor.Formats.Jpeg;
using NodaTime;

namespace FirstCoat.Store.Photos;

/// <summary>What the first bytes of an upload say about it, before anything is decoded: its kind, its size, and what
/// decoding will take.</summary>
public sealed class PictureBytes
{
    /// <summary>Largest picture, in pixels.</summary>
    public const long MaxPixels = 80_000_000;

    /// <summary>Least side, in pixels.</summary>
    private const int Least = 8;

    private const string Damaged = "The picture is damaged or was cut off on its way. Send it again.";
    private static readonly byte[] PngSign = [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A];

    private PictureBytes(byte[] decodable, int width, int height, long perPixel, LocalDateTime? taken)
    {
        Refusal.When((long)width * height > MaxPixels, "file", "The picture has more than 80 million pixels.");
        Refusal.When(width < Least || height < Least, "file", "The picture is too small to show anything.");
        (Decodable, Taken) = (decodable, taken);
        MemoryNeeded = (long)width * height * perPixel / 2 + decodable.Length;
        Refusal.When(
            MemoryNeeded > PictureRoom.Bytes,
            "file",
            "A picture with so many pixels can be opened only as an ordinary JPEG. Save it as one and send that."
        );
    }

    /// <summary>The picture without what is not needed to show it.</summary>
    public byte[] Decodable { get; }

    /// <summary>An upper bound of what decoding takes, in bytes.</summary>
    public long MemoryNeeded { get; }

    /// <summary>When it was taken by the camera's own word; null: it does not say.</summary>
    public LocalDateTime? Taken { get; }

    /// <exception cref="Refusal">Not a JPEG, PNG or WebP picture, damaged, or too large to be opened.</exception>
    public static PictureBytes Of(byte[] upload) =>
        upload.AsSpan().StartsWith(PngSign) ? Png(upload)
        : upload is [0xFF, 0xD8, ..] ? Jpeg(upload)
        : upload.Length > 30
        && upload.AsSpan(0, 4).SequenceEqual("RIFF"u8)
        && upload.AsSpan(8, 4).SequenceEqual("WEBP"u8)
            ? WebP(upload)
        : throw new Refusal("file", "This is not a JPEG, PNG or WebP picture.");

    /// <summary>Half bytes a pixel: 8 for the picture itself, as much again where the whole of it is held
    /// twice.</summary>
    private static PictureBytes Png(byte[] upload)
    {
        // Only what makes the picture is decoded: a text chunk of a few bytes can unfold to hundreds of megabytes.
        using var kept = new MemoryStream(upload.Length);
        kept.Write(PngSign);
        var (at, width, height, interlaced) = (PngSign.Length, 0, 0, false);
        while (at + 12 <= upload.Length)
        {
            var length = BinaryPrimitives.ReadUInt32BigEndian(upload.AsSpan(at));
            Refusal.When(length > upload.Length - at - 12, "file", Damaged);
            var kind = upload.AsSpan(at + 4, 4);
            if (kind.SequenceEqual("IHDR"u8) && length == 13)
            {
                (width, height, interlaced) = (Side(upload, at + 8), Side(upload, at + 12), upload[at + 20] != 0);
            }

            if (
                kind.SequenceEqual("IHDR"u8)
                || kind.SequenceEqual("PLTE"u8)
                || kind.SequenceEqual("IDAT"u8)
                || kind.SequenceEqual("IEND"u8)
                || kind.SequenceEqual("tRNS"u8)
            )
            {
                kept.Write(upload, at, (int)length + 12);
            }

            at += (int)length + 12;
            if (kind.SequenceEqual("IEND"u8))
            {
                break;
            }
        }

        return new(kept.ToArray(), width, height, interlaced ? 20 : 8, null);
    }

    private static PictureBytes Jpeg(byte[] upload)
    {
        var at = 2;
        while (at + 9 < upload.Length)
        {
            if (upload[at] != 0xFF)
            {
                break;
            }

            var mark = upload[at + 1];
            if (mark is 0xFF or 0x01 or (>= 0xD0 and <= 0xD8))
            {
                at += mark == 0xFF ? 1 : 2;
                continue;
            }

            // A frame's start: C0 to CF but for tables. From C2 on all coefficients of the picture are held at once.
            if (mark is >= 0xC0 and <= 0xCF and not (0xC4 or 0xC8 or 0xCC))
            {
                var (height, width) = (
                    BinaryPrimitives.ReadUInt16BigEndian(upload.AsSpan(at + 5)),
                    BinaryPrimitives.ReadUInt16BigEndian(upload.AsSpan(at + 7))
                );
                return new(upload, width, height, mark is 0xC0 or 0xC1 ? 1 : Coefficients(upload, at), TakenAt(upload));
            }

            at += 2 + BinaryPrimitives.ReadUInt16BigEndian(upload.AsSpan(at + 2));
        }

        throw new Refusal("file", Damaged);
    }

    /// <summary>Half bytes a pixel that a progressive JPEG's coefficients take: two bytes for each sample of each
    /// component.</summary>
    private static long Coefficients(byte[] upload, int frame)
    {
        var count = upload[frame + 9];
        Refusal.When(count is < 1 or > 4 || frame + 10 + (count * 3) > upload.Length, "file", Damaged);
        var parts = Enumerable
            .Range(0, count)
            .Select(i => upload[frame + 11 + (i * 3)])
            .Select(s => (H: s >> 4, V: s & 15))
            .ToList();
        Refusal.When(parts.Any(p => p.H is < 1 or > 4 || p.V is < 1 or > 4), "file", Damaged);
        var most = parts.Max(p => p.H) * parts.Max(p => p.V);
        return 1 + (long)Math.Ceiling(parts.Sum(p => 4.0 * p.H * p.V / most));
    }

    private static PictureBytes WebP(byte[] upload)
    {
        var kind = upload.AsSpan(12, 4);
        var (width, height) =
            kind.SequenceEqual("VP8X"u8) ? (1 + Three(upload, 24), 1 + Three(upload, 27))
            : kind.SequenceEqual("VP8L"u8)
                ? (
                    1 + ((upload[21] | (upload[22] << 8)) & 0x3FFF),
                    1 + (((upload[22] >> 6) | (upload[23] << 2) | (upload[24] << 10)) & 0x3FFF)
                )
            : kind.SequenceEqual("VP8 "u8)
                ? ((upload[26] | (upload[27] << 8)) & 0x3FFF, (upload[28] | (upload[29] << 8)) & 0x3FFF)
            : throw new Refusal("file", Damaged);
        return new(upload, width, height, 20, null);
    }

    private static int Three(byte[] b, int at) => b[at] | (b[at + 1] << 8) | (b[at + 2] << 16);

    private static int Side(byte[] b, int at) =>
        (int)Math.Min(int.MaxValue, BinaryPrimitives.ReadUInt32BigEndian(b.AsSpan(at)));

    private static LocalDateTime? TakenAt(byte[] jpeg)
    {
        try
        {
            var text = JpegMetadataReader
                .ReadMetadata(new MemoryStream(jpeg), [new ExifReader()])
                .OfType<ExifSubIfdDirectory>()
                .Select(d => d.GetString(ExifDirectoryBase.TagDateTimeOriginal))
                .FirstOrDefault(t => t is not null);
            var read = NodaTime
                .Text.LocalDateTimePattern.CreateWithInvariantCulture("uuuu:MM:dd HH:mm:ss")
                .Parse(text ?? "");
            return read.Success && read.Value.Year is >= 1990 and <= 2100 ? read.Value : null;
        }
        catch (Exception e) when (e is ImageProcessingException or IOException)
        {
            return null;
        }
    }
}

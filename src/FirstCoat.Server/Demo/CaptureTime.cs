using System.Buffers.Binary;
using System.Text;

namespace FirstCoat.Server.Demo;

/// <summary>Capture data of a camera, for pictures that were drawn.</summary>
internal static class CaptureTime
{
    /// <summary>Puts an APP1 segment with DateTimeOriginal behind the start of the file (Exif 2.3,
    /// big-endian).</summary>
    public static byte[] Into(byte[] jpeg, LocalDateTime taken)
    {
        var text = Encoding.ASCII.GetBytes(
            taken.ToString("uuuu':'MM':'dd' 'HH':'mm':'ss", CultureInfo.InvariantCulture) + "\0"
        );
        var tiff = new byte[8 + 2 + 12 + 4 + 2 + 12 + 4 + text.Length];
        var span = tiff.AsSpan();
        "MM"u8.CopyTo(span);
        BinaryPrimitives.WriteUInt16BigEndian(span[2..], 42);
        BinaryPrimitives.WriteUInt32BigEndian(span[4..], 8);
        Entry(span[8..], 0x8769, 4, 1, 26);
        Entry(span[26..], 0x9003, 2, (uint)text.Length, 44);
        text.CopyTo(span[44..]);
        var segment = new byte[4 + 6 + tiff.Length];
        segment[0] = 0xFF;
        segment[1] = 0xE1;
        BinaryPrimitives.WriteUInt16BigEndian(segment.AsSpan(2), (ushort)(segment.Length - 2));
        "Exif\0\0"u8.CopyTo(segment.AsSpan(4));
        tiff.CopyTo(segment, 10);
        return [.. jpeg[..2], .. segment, .. jpeg[2..]];
    }

    private static void Entry(Span<byte> at, ushort tag, ushort type, uint count, uint value)
    {
        BinaryPrimitives.WriteUInt16BigEndian(at, 1);
        BinaryPrimitives.WriteUInt16BigEndian(at[2..], tag);
        BinaryPrimitives.WriteUInt16BigEndian(at[4..], type);
        BinaryPrimitives.WriteUInt32BigEndian(at[6..], count);
        BinaryPrimitives.WriteUInt32BigEndian(at[10..], value);
    }
}

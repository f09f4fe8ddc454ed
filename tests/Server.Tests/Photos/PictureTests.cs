using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;
using FirstCoat.Core;
using FirstCoat.Store.Photos;
using SkiaSharp;

namespace FirstCoat.Server.Tests.Photos;

/// <summary>Pictures come in within a measure of memory, whatever they claim or hide.</summary>
public sealed class PictureTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static byte[] Png(int width, int height)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(SKColors.SteelBlue);
        using var image = SKImage.FromBitmap(bitmap);
        return image.Encode(SKEncodedImageFormat.Png, 100).ToArray();
    }

    /// <summary>A chunk before the picture's end; its check sum does not matter to who skips it.</summary>
    private static byte[] WithChunk(byte[] png, string kind, byte[] data)
    {
        var chunk = new byte[12 + data.Length];
        BinaryPrimitives.WriteUInt32BigEndian(chunk, (uint)data.Length);
        Encoding.ASCII.GetBytes(kind).CopyTo(chunk, 4);
        data.CopyTo(chunk, 8);
        return [.. png[..^12], .. chunk, .. png[^12..]];
    }

    private static byte[] Bomb(long unfolded)
    {
        using var folded = new MemoryStream();
        folded.Write("Comment\0\0"u8);
        using (var zip = new ZLibStream(folded, CompressionLevel.SmallestSize, leaveOpen: true))
        {
            var zeros = new byte[1024 * 1024];
            for (long i = 0; i < unfolded; i += zeros.Length)
            {
                zip.Write(zeros);
            }
        }

        return folded.ToArray();
    }

    /// <summary>The frame of a JPEG of three components that all have every sample.</summary>
    private static byte[] JpegFrame(byte kind, ushort width, ushort height)
    {
        byte[] frame =
        [
            0xFF,
            0xD8,
            0xFF,
            kind,
            0,
            17,
            8,
            0,
            0,
            0,
            0,
            3,
            1,
            0x11,
            0,
            2,
            0x11,
            0,
            3,
            0x11,
            0,
            0xFF,
            0xD9,
        ];
        BinaryPrimitives.WriteUInt16BigEndian(frame.AsSpan(7), height);
        BinaryPrimitives.WriteUInt16BigEndian(frame.AsSpan(9), width);
        return frame;
    }

    [Theory]
    [InlineData("zTXt")]
    [InlineData("iTXt")]
    [InlineData("iCCP")]
    [InlineData("eXIf")]
    public void A_text_that_unfolds_to_hundreds_of_megabytes_is_never_unfolded(string kind)
    {
        var bomb = WithChunk(Png(64, 48), kind, Bomb(300_000_000));
        var before = GC.GetAllocatedBytesForCurrentThread();
        var read = PictureBytes.Of(bomb);
        (GC.GetAllocatedBytesForCurrentThread() - before).ShouldBeLessThan(4_000_000);
        Encoding.ASCII.GetString(read.Decodable).ShouldNotContain(kind);
        SKBitmap.Decode(read.Decodable).Width.ShouldBe(64);
    }

    [Fact]
    public async Task Such_a_picture_is_taken_without_what_it_hid_and_a_cut_one_is_refused()
    {
        var build = await TestBuild.Open(shop);
        Task<HttpResponseMessage> Send(byte[] bytes) =>
            shop.Technician.PostAsync(
                $"/api/builds/{build.Id}/photos/{Guid.CreateVersion7()}",
                new MultipartFormDataContent { { new ByteArrayContent(bytes), "file", "photo.png" } }
            );
        await Send(WithChunk(Png(64, 48), "zTXt", Bomb(50_000_000))).Json();
        await Send(Png(64, 48)[..60]).Refused("file");
        await Send([.. Png(64, 48)[..40], 0xFF, 0xFF, 0xFF, 0xFF]).Refused("file");
        await Send(JpegFrame(0xC0, 64, 64)).Refused("file");
        await Send([0xFF, 0xD8]).Refused("file");
    }

    [Theory]
    [InlineData(0xC0, 8944, 8944, null)]
    [InlineData(0xC2, 4000, 3000, null)]
    [InlineData(0xC0, 10000, 9000, "80 million")]
    [InlineData(0xC2, 8944, 8944, "ordinary JPEG")]
    [InlineData(0xC0, 4, 4000, "too small")]
    public void What_a_picture_will_take_is_known_before_it_is_opened(int kind, int width, int height, string? refused)
    {
        var bytes = JpegFrame((byte)kind, (ushort)width, (ushort)height);
        if (refused is null)
        {
            PictureBytes.Of(bytes).MemoryNeeded.ShouldBeLessThanOrEqualTo(PictureRoom.Bytes);
        }
        else
        {
            Should.Throw<Refusal>(() => PictureBytes.Of(bytes)).Message.ShouldContain(refused);
        }
    }

    [Fact]
    public async Task A_large_picture_comes_out_at_the_size_that_is_kept()
    {
        var folder = Directory.CreateTempSubdirectory("firstcoat-large");
        using var files = new PhotoFiles(folder.FullName);
        using var bitmap = new SKBitmap(6000, 4000);
        bitmap.Erase(SKColors.OliveDrab);
        using var image = SKImage.FromBitmap(bitmap);
        foreach (var form in new[] { SKEncodedImageFormat.Jpeg, SKEncodedImageFormat.Png, SKEncodedImageFormat.Webp })
        {
            using var bytes = new MemoryStream(image.Encode(form, 80).ToArray());
            var kept = await files.Take(bytes, bytes.Length, TestContext.Current.CancellationToken);
            (kept.Width, kept.Height).ShouldBe((2400, 1600), form.ToString());
        }

        folder.Delete(recursive: true);
    }

    [Fact]
    public async Task Two_pictures_are_taken_in_at_once_and_room_is_given_in_order()
    {
        using var room = new PictureRoom();
        var (one, two) = (await room.Turn(default), await room.Turn(default));
        var third = room.Turn(default);
        third.IsCompleted.ShouldBeFalse();
        one.Dispose();
        (await third).Dispose();
        two.Dispose();

        var large = await room.Room(PictureRoom.Bytes - 10, default);
        var waits = room.Room(PictureRoom.Bytes, default);
        var small = room.Room(5, default);
        using var gone = new CancellationTokenSource();
        var given = room.Room(5, gone.Token);
        await gone.CancelAsync();
        await Should.ThrowAsync<OperationCanceledException>(given);
        (waits.IsCompleted, small.IsCompleted).ShouldBe((false, false), "who came first is served first");
        large.Dispose();
        (await waits).Dispose();
        (await small).Dispose();
        (await room.Room(PictureRoom.Bytes, default)).Dispose();
    }

    [Fact]
    public void Halves_of_a_stopped_server_are_swept_and_those_being_written_stay()
    {
        var folder = Directory.CreateTempSubdirectory("firstcoat-halves");
        var (old, fresh) = (
            Path.Combine(folder.FullName, "ab", "a.webp.1.half"),
            Path.Combine(folder.FullName, "ab", "b.webp.2.half")
        );
        Directory.CreateDirectory(Path.GetDirectoryName(old)!);
        File.WriteAllText(old, "half");
        File.WriteAllText(fresh, "half");
        File.SetLastWriteTimeUtc(old, DateTime.UtcNow.AddHours(-2));
        using (new PhotoFiles(folder.FullName))
        {
            (File.Exists(old), File.Exists(fresh)).ShouldBe((false, true));
        }

        folder.Delete(recursive: true);
    }
}

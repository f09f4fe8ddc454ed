using FirstCoat.Server.Backups;
using Microsoft.Extensions.Configuration;
using NodaTime;
using Npgsql;

namespace FirstCoat.Server.Tests.Machine;

/// <summary>A backup brings everything back, says when it cannot, and is read by every later version.</summary>
public sealed class BackupTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 29, 8, 0);

    private async Task<(string File, BackupManifest Manifest)> Saved()
    {
        await shop.Filled();
        await using var scope = shop.Scope();
        var settings = scope.ServiceProvider.GetRequiredService<IConfiguration>();
        _ = scope.ServiceProvider.GetRequiredService<Store.Access.ShopSecrets>().Hashing;
        var file = Path.Combine(Directory.CreateTempSubdirectory("firstcoat-backup").FullName, "shop.tar");
        return (
            file,
            await BackupWriter.Write(
                file,
                settings["Shop:Connection"]!,
                settings,
                Now,
                TestContext.Current.CancellationToken
            )
        );
    }

    private static async Task<List<SavedTable>> Tables(string connection)
    {
        await using var database = new NpgsqlConnection(connection);
        await database.OpenAsync(TestContext.Current.CancellationToken);
        await using var moment = await database.BeginTransactionAsync(TestContext.Current.CancellationToken);
        return await ShopTables.Of(database, TestContext.Current.CancellationToken);
    }

    [Fact]
    public async Task A_shop_that_goes_on_is_saved_and_comes_back_row_by_row_and_file_by_file()
    {
        var (file, manifest) = await Saved();
        File.GetUnixFileMode(file).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
        manifest.Tables.Single(t => t.Name == "builds").Rows.ShouldBeGreaterThan(0);
        manifest.Files.Select(f => f.Path.Split('/')[0]).Distinct().ShouldBe(["database.dump", "photos", "keys"]);
        // What is recorded after the backup is not in it.
        await TestBuild.Open(shop);
        await using var place = await EmptyPlace.Make();
        await BackupReader.Restore(file, place.Connection, place.Settings, TestContext.Current.CancellationToken);
        (await Tables(place.Connection)).ShouldBe(manifest.Tables);
        foreach (var saved in manifest.Files.Where(f => f.Path != BackupManifest.Database))
        {
            var path = Path.Combine(place.Folder, saved.Path);
            Convert
                .ToHexStringLower(
                    System.Security.Cryptography.SHA256.HashData(
                        await File.ReadAllBytesAsync(path, TestContext.Current.CancellationToken)
                    )
                )
                .ShouldBe(saved.Sha256, saved.Path);
            File.GetUnixFileMode(path).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
        }

        Directory
            .EnumerateFiles(place.Folder, "*", SearchOption.AllDirectories)
            .Count()
            .ShouldBe(manifest.Files.Count - 1, "and nothing else");
        (
            await Should.ThrowAsync<BackupFault>(() =>
                BackupReader.Restore(file, place.Connection, place.Settings, TestContext.Current.CancellationToken)
            )
        ).Message.ShouldContain("not empty");
    }

    [Theory]
    [InlineData("photo", "damaged")]
    [InlineData("cut", "cannot be read")]
    [InlineData("nothing", "no whole backup")]
    public async Task A_backup_that_is_not_whole_is_refused_with_what_is_wrong(string how, string says)
    {
        var (file, manifest) = await Saved();
        var bytes = await File.ReadAllBytesAsync(file, TestContext.Current.CancellationToken);
        if (how == "photo")
        {
            var photo = System.Text.Encoding.ASCII.GetBytes("RIFF");
            var at = bytes.AsSpan().IndexOf(photo);
            bytes[at + 40] ^= 0xFF;
        }

        await File.WriteAllBytesAsync(
            file,
            how == "cut" ? bytes[..(bytes.Length / 2)]
                : how == "nothing" ? new byte[1024]
                : bytes,
            TestContext.Current.CancellationToken
        );
        await using var place = await EmptyPlace.Make();
        (
            await Should.ThrowAsync<BackupFault>(() =>
                BackupReader.Restore(file, place.Connection, place.Settings, TestContext.Current.CancellationToken)
            )
        ).Message.ShouldContain(says);
        (await Tables(place.Connection)).ShouldBeEmpty("nothing reached the database");
        manifest.Files.ShouldNotBeEmpty();
    }

    [Fact]
    public async Task A_backup_of_a_newer_version_is_refused_by_name()
    {
        var (_, manifest) = await Saved();
        Should
            .Throw<BackupFault>(() =>
                BackupManifest.Read((manifest with { Format = BackupManifest.Newest + 1 }).ToJson())
            )
            .Message.ShouldContain("newer");
    }

    /// <summary>This file was made on 29 November 2026 and is never made again: what it holds must be readable for
    /// ever.</summary>
    [Fact]
    public async Task The_backup_of_the_first_day_is_restored_brought_up_to_date_and_opened()
    {
        await using var place = await EmptyPlace.Make();
        var file = Path.Combine(AppContext.BaseDirectory, "Backups", "2026-11-29.tar");
        var manifest = await BackupReader.Restore(
            file,
            place.Connection,
            place.Settings,
            TestContext.Current.CancellationToken
        );
        manifest.Format.ShouldBe(1);
        await using var restored = new RestoredShop(place.Connection, place.Settings);
        var manager = await restored.SignIn("mara");
        var build = (await manager.GetAsync("/api/builds").Json()).EnumerateArray().ShouldHaveSingleItem();
        (await manager.GetAsync($"/api/builds/{build.GetProperty("id").GetGuid()}").Json())
            .GetProperty("clientEmail")
            .GetString()
            .ShouldBe(FilledShop.Email);
        var photo = (await manager.GetAsync($"/api/builds/{build.GetProperty("id").GetGuid()}/photos").Json())[0]
            .GetProperty("hash")
            .GetString();
        (await manager.GetByteArrayAsync($"/api/photos/file/{photo}")).Length.ShouldBe(
            (int)manifest.Files.Single(f => f.Path.Contains(photo!, StringComparison.Ordinal)).Bytes
        );
        (await manager.GetAsync($"/api/builds/{build.GetProperty("id").GetGuid()}/money").Json())
            .GetProperty("payments")
            .EnumerateArray()
            .Count()
            .ShouldBe(1);
    }
}

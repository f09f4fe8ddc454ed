using System.Formats.Tar;
using System.Reflection;
using System.Security.Cryptography;
using Npgsql;

namespace FirstCoat.Server.Backups;

/// <summary>
/// Writes all that a shop records into one tar file, while the shop goes on: the database as it stands at one moment,
/// then photos, letters and keys. A photo is on the disk before the database knows it, so that none can be missing.
/// </summary>
public static class BackupWriter
{
    /// <summary>Makes the backup.</summary>
    /// <returns>What is in it.</returns>
    /// <exception cref="BackupFault">Says why it cannot be made; no half of one is left.</exception>
    public static async Task<BackupManifest> Write(
        string file,
        string connection,
        IConfiguration settings,
        Instant now,
        CancellationToken cancel
    )
    {
        if (File.Exists(file))
        {
            throw new BackupFault($"{file} is there already; name another file.");
        }

        var (half, dump) = ($"{file}.half", $"{file}.database");
        try
        {
            await using var database = new NpgsqlConnection(connection);
            await database.OpenAsync(cancel);
            await using var moment = await database.BeginTransactionAsync(
                System.Data.IsolationLevel.RepeatableRead,
                cancel
            );
            await using (var export = new NpgsqlCommand("select pg_export_snapshot()", database))
            {
                // The dump, the counts and the prints are of one moment.
                var snapshot = (string)(await export.ExecuteScalarAsync(cancel))!;
                File.Delete(dump);
                PrivateFolder.NewFile(dump).Dispose();
                await ShopTables.Program(
                    "pg_dump",
                    connection,
                    ["--format=custom", "--no-owner", "--no-privileges", $"--snapshot={snapshot}", $"--file={dump}"],
                    cancel
                );
            }

            var (tables, migration) = (
                await ShopTables.Of(database, cancel),
                await ShopTables.LastMigration(database, cancel)
            );
            File.Delete(half);
            var files = new List<SavedFile>();
            await using (var to = PrivateFolder.NewFile(half))
            await using (var tar = new TarWriter(to, TarEntryFormat.Pax, leaveOpen: true))
            {
                files.Add(await Add(tar, BackupManifest.Database, dump, cancel));
                foreach (
                    var (folder, path) in BackupManifest
                        .Folders.Select(f => (f.Folder, settings[f.Setting]))
                        .Where(f => Directory.Exists(f.Item2))
                )
                {
                    foreach (
                        var one in Directory
                            .EnumerateFiles(path!, "*", SearchOption.AllDirectories)
                            .Where(f => !f.EndsWith(".half", StringComparison.Ordinal))
                            .Order(StringComparer.Ordinal)
                    )
                    {
                        files.Add(await Add(tar, $"{folder}/{Path.GetRelativePath(path!, one)}", one, cancel));
                    }
                }

                var manifest = new BackupManifest(
                    BackupManifest.Newest,
                    now,
                    Version(),
                    database.PostgreSqlVersion.ToString(),
                    migration,
                    tables,
                    files
                );
                await tar.WriteEntryAsync(
                    new PaxTarEntry(TarEntryType.RegularFile, BackupManifest.Name)
                    {
                        DataStream = new MemoryStream(manifest.ToJson()),
                        Mode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
                    },
                    cancel
                );
                to.Flush(flushToDisk: true);
                await tar.DisposeAsync();
                File.Move(half, file);
                return manifest;
            }
        }
        catch (IOException e)
        {
            throw new BackupFault($"The backup cannot be written: {e.Message}");
        }
        finally
        {
            File.Delete(half);
            File.Delete(dump);
        }
    }

    private static string Version() =>
        typeof(BackupWriter).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()?.InformationalVersion
        ?? "unknown";

    private static async Task<SavedFile> Add(TarWriter tar, string name, string path, CancellationToken cancel)
    {
        await using var from = new FileStream(
            path,
            FileMode.Open,
            FileAccess.Read,
            FileShare.Read,
            128 * 1024,
            FileOptions.Asynchronous | FileOptions.SequentialScan
        );
        var hash = Convert.ToHexStringLower(await SHA256.HashDataAsync(from, cancel));
        from.Position = 0;
        await tar.WriteEntryAsync(
            new PaxTarEntry(TarEntryType.RegularFile, name)
            {
                DataStream = from,
                Mode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
            },
            cancel
        );
        return new(name, from.Length, hash);
    }
}

using System.Formats.Tar;
using System.Security.Cryptography;
using FirstCoat.Store.Migrations;
using Npgsql;

namespace FirstCoat.Server.Backups;

/// <summary>Brings a backup back into an empty database and empty folders, and believes nothing that it has not
/// compared.</summary>
public static class BackupReader
{
    /// <summary>Restores; what a later version changed in the database's shape is made up for at the next
    /// start.</summary>
    /// <returns>What was brought back.</returns>
    /// <exception cref="BackupFault">Says what is wrong with the file or the place.</exception>
    public static async Task<BackupManifest> Restore(
        string file,
        string connection,
        IConfiguration settings,
        CancellationToken cancel
    )
    {
        foreach (var (folder, setting) in BackupManifest.Folders)
        {
            var path = settings[setting] ?? throw new BackupFault($"It is not said where {folder} go.");
            if (Directory.Exists(path) && Directory.EnumerateFileSystemEntries(path).Any())
            {
                throw new BackupFault($"{path} is not empty: a backup is restored into an empty place only.");
            }

            PrivateFolder.Make(path);
        }

        await using var database = new NpgsqlConnection(connection);
        await database.OpenAsync(cancel);
        await using (var begin = await database.BeginTransactionAsync(cancel))
        {
            if ((await ShopTables.Of(database, cancel)).Count > 0)
            {
                throw new BackupFault("The database is not empty: a backup is restored into an empty one only.");
            }
        }

        var dump = Path.Combine(settings["Shop:Keys"]!, BackupManifest.Database);
        try
        {
            var manifest = await Unpack(file, dump, settings, cancel);
            Known(manifest);
            await ShopTables.Program(
                "pg_restore",
                connection,
                ["--no-owner", "--no-privileges", "--exit-on-error", dump],
                cancel
            );
            await using var compare = await database.BeginTransactionAsync(cancel);
            var there = await ShopTables.Of(database, cancel);
            return manifest.Tables.SequenceEqual(there)
                ? manifest
                : throw new BackupFault(
                    $"What was restored differs from what was saved: {string.Join(", ", manifest.Tables.Except(there).Concat(there.Except(manifest.Tables)).Select(t => t.Name).Distinct())}."
                );
        }
        finally
        {
            File.Delete(dump);
        }
    }

    /// <summary>Puts each file in its place while its sum is taken, then holds all sums against the list at the
    /// end.</summary>
    private static async Task<BackupManifest> Unpack(
        string file,
        string dump,
        IConfiguration settings,
        CancellationToken cancel
    )
    {
        BackupManifest? manifest = null;
        var found = new List<SavedFile>();
        try
        {
            await using var from = new FileStream(
                file,
                FileMode.Open,
                FileAccess.Read,
                FileShare.Read,
                128 * 1024,
                FileOptions.Asynchronous | FileOptions.SequentialScan
            );
            await using var tar = new TarReader(from);
            while (await tar.GetNextEntryAsync(cancellationToken: cancel) is { } entry)
            {
                if (entry.Name == BackupManifest.Name)
                {
                    using var json = new MemoryStream();
                    await (entry.DataStream ?? Stream.Null).CopyToAsync(json, cancel);
                    manifest = BackupManifest.Read(json.ToArray());
                    continue;
                }

                found.Add(
                    await Place(
                        entry,
                        entry.Name == BackupManifest.Database ? dump : PlaceOf(entry.Name, settings),
                        cancel
                    )
                );
            }
        }
        catch (Exception e)
            when (e is IOException or InvalidDataException or FormatException or UnauthorizedAccessException)
        {
            throw new BackupFault($"The backup cannot be read: {e.Message}");
        }

        return manifest is null ? throw new BackupFault("This is no whole backup: its list of contents is missing.")
            : manifest.Files.Except(found).Concat(found.Except(manifest.Files)).Select(f => f.Path).Distinct().ToList()
                is { Count: > 0 } wrong
                ? throw new BackupFault(
                    $"The backup is damaged: {string.Join(", ", wrong.Take(5))} {(wrong.Count > 5 ? $"and {wrong.Count - 5} more are" : wrong.Count == 1 ? "is" : "are")} not what was saved."
                )
            : manifest;
    }

    private static async Task<SavedFile> Place(TarEntry entry, string path, CancellationToken cancel)
    {
        await using var to = PrivateFolder.NewFile(path);
        using var sum = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var (buffer, bytes) = (new byte[128 * 1024], 0L);
        while (entry.DataStream is { } data && await data.ReadAsync(buffer, cancel) is > 0 and var read)
        {
            sum.AppendData(buffer.AsSpan(0, read));
            await to.WriteAsync(buffer.AsMemory(0, read), cancel);
            bytes += read;
        }

        to.Flush(flushToDisk: true);
        return new(entry.Name, bytes, Convert.ToHexStringLower(sum.GetHashAndReset()));
    }

    /// <summary>Where a file of the backup goes; a name that leads anywhere else is refused.</summary>
    private static string PlaceOf(string name, IConfiguration settings)
    {
        var (first, rest) = name.Split('/', 2) is [var f, var r] ? (f, r) : (name, "");
        var root = BackupManifest
            .Folders.Where(x => x.Folder == first)
            .Select(x => settings[x.Setting])
            .FirstOrDefault()
            ?? throw new BackupFault($"The backup holds something that belongs nowhere: {name}.");
        var path = Path.GetFullPath(Path.Combine(root, rest));
        if (!path.StartsWith(Path.GetFullPath(root) + Path.DirectorySeparatorChar, StringComparison.Ordinal))
        {
            throw new BackupFault($"The backup holds something that belongs nowhere: {name}.");
        }

        PrivateFolder.Make(Path.GetDirectoryName(path)!);
        return path;
    }

    private static void Known(BackupManifest manifest)
    {
        using var db = new ShopDb(
            StoreSetup.Options("Host=127.0.0.1;Database=none"),
            new(TimeProvider.System),
            new(),
            new()
        );
        var known = EarlierShapes.Known.Concat(db.Database.GetMigrations());
        if (manifest.Migration.Length > 0 && !known.Contains(manifest.Migration))
        {
            throw new BackupFault(
                $"This backup was made by a newer version of First Coat ({manifest.Application}). Restore it with that one."
            );
        }
    }
}

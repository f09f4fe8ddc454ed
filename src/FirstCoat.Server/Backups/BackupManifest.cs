using System.Text.Json;

namespace FirstCoat.Server.Backups;

/// <summary>A table as it was saved.</summary>
/// <param name="Print">Sum over its rows of the first 60 bits of each row's MD5, so that the order of rows does not
/// matter.</param>
public sealed record SavedTable(string Name, long Rows, string Print);

/// <summary>A file as it was saved.</summary>
/// <param name="Path">Within the backup, such as photos/ab/abcd.webp.</param>
public sealed record SavedFile(string Path, long Bytes, string Sha256);

/// <summary>What a backup says of itself: its version, and all that it must bring back. It stands last in the
/// file.</summary>
/// <param name="Format">Every later version of the application reads every earlier format.</param>
/// <param name="Migration">The last change of the database's shape that it knows.</param>
public sealed record BackupManifest(
    int Format,
    Instant MadeAt,
    string Application,
    string Postgres,
    string Migration,
    List<SavedTable> Tables,
    List<SavedFile> Files
)
{
    public const int Newest = 1;

    /// <summary>Its name within the backup, and the database's.</summary>
    public const string Name = "manifest.json",
        Database = "database.dump";

    /// <summary>Folders of the shop that are saved, by the setting that names each.</summary>
    public static readonly IReadOnlyList<(string Folder, string Setting)> Folders =
    [
        ("photos", "Shop:Photos"),
        ("mail", "Shop:Mail"),
        ("keys", "Shop:Keys"),
    ];

    public byte[] ToJson() => JsonSerializer.SerializeToUtf8Bytes(this, StoreJson.Options);

    /// <exception cref="BackupFault">It cannot be read.</exception>
    public static BackupManifest Read(byte[] json)
    {
        try
        {
            var read = JsonSerializer.Deserialize<BackupManifest>(json, StoreJson.Options)
                ?? throw new BackupFault("The backup's list of contents is empty.");
            return read.Format is >= 1 and <= Newest
                ? read
                : throw new BackupFault(
                    $"This backup is of format {read.Format}; this version of First Coat knows 1 to {Newest}. Use a newer one."
                );
        }
        catch (JsonException)
        {
            throw new BackupFault("The backup's list of contents cannot be read.");
        }
    }
}

/// <summary>A backup cannot be made or restored; one sentence says why.</summary>
public sealed class BackupFault(string why) : Exception(why);

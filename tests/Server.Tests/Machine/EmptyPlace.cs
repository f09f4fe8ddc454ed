using FirstCoat.Server.Backups;
using Microsoft.Extensions.Configuration;

namespace FirstCoat.Server.Tests.Machine;

/// <summary>An empty database and an empty folder, for a backup to come back into.</summary>
internal sealed record EmptyPlace(string Connection, IConfiguration Settings, string Folder) : IAsyncDisposable
{
    public async ValueTask DisposeAsync()
    {
        await TemplateDatabase.Drop(Connection);
        Directory.Delete(Folder, recursive: true);
    }

    public static async Task<EmptyPlace> Make()
    {
        var (connection, folder) = (
            await TemplateDatabase.Blank(),
            Directory.CreateTempSubdirectory("firstcoat-restored").FullName
        );
        return new(
            connection,
            new ConfigurationBuilder()
                .AddInMemoryCollection(
                    BackupManifest.Folders.Select(f =>
                        KeyValuePair.Create(f.Setting, (string?)Path.Combine(folder, f.Folder))
                    )
                )
                .Build(),
            folder
        );
    }
}

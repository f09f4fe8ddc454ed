namespace FirstCoat.Server.Backups;

/// <summary>The script's commands "backup FILE" and "restore FILE"; where the shop lies comes from the environment, as
/// for the server.</summary>
public static class BackupCommand
{
    /// <returns>0 when all is well, else 1, with the reason on standard error.</returns>
    public static async Task<int> Run(string what, string file)
    {
        var settings = new ConfigurationBuilder().AddEnvironmentVariables().Build();
        var connection = settings["Shop:Connection"] ?? "";
        try
        {
            var manifest =
                what == "backup"
                    ? await BackupWriter.Write(
                        file,
                        connection,
                        settings,
                        SystemClock.Instance.GetCurrentInstant(),
                        CancellationToken.None
                    )
                    : await BackupReader.Restore(file, connection, settings, CancellationToken.None);
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{(what == "backup" ? "Saved and summed" : "Restored and compared")}: {manifest.Tables.Sum(t => t.Rows)} rows of {manifest.Tables.Count} tables, {manifest.Files.Count - 1} files, {manifest.Files.Sum(f => f.Bytes) / 1e6:0.0} MB."
                )
            );
            return 0;
        }
        catch (Exception e) when (e is BackupFault or Npgsql.NpgsqlException)
        {
            Console.Error.WriteLine(e.Message);
            return 1;
        }
    }
}

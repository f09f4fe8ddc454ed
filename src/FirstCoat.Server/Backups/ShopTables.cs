using Npgsql;

namespace FirstCoat.Server.Backups;

/// <summary>Counts and prints of the database's tables, and PostgreSQL's own programs for saving and restoring
/// them.</summary>
public static class ShopTables
{
    /// <summary>Tables whose content is the database's own bookkeeping.</summary>
    private const string Tables =
        "select table_name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE' order by table_name";

    /// <summary>Rows and print of each table, as the connection's transaction sees them.</summary>
    public static async Task<List<SavedTable>> Of(NpgsqlConnection connection, CancellationToken cancel)
    {
        // The same text of a row wherever it is read.
        await Run(
            connection,
            "set local timezone = 'UTC'; set local datestyle = 'ISO, YMD'; set local intervalstyle = 'postgres'; set local bytea_output = 'hex'; set local extra_float_digits = 1",
            cancel
        );
        var tables = new List<SavedTable>();
        foreach (var name in await Names(connection, cancel))
        {
            await using var command = new NpgsqlCommand(
                $"select count(*), coalesce(sum(('x' || substr(md5(t::text), 1, 15))::bit(60)::bigint), 0)::text from \"{name}\" t",
                connection
            )
            {
                CommandTimeout = 0,
            };
            await using var reader = await command.ExecuteReaderAsync(cancel);
            await reader.ReadAsync(cancel);
            tables.Add(new(name, reader.GetInt64(0), reader.GetString(1)));
        }

        return tables;
    }

    public static async Task<string> LastMigration(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            "select coalesce(max(migration_id), '') from \"__EFMigrationsHistory\"",
            connection
        );
        return (string)(await command.ExecuteScalarAsync(cancel))!;
    }

    public static async Task Run(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Runs one of PostgreSQL's programs on the database of a connection.</summary>
    /// <exception cref="BackupFault">It is missing or failed.</exception>
    public static async Task Program(
        string name,
        string connection,
        IEnumerable<string> arguments,
        CancellationToken cancel
    )
    {
        var to = new NpgsqlConnectionStringBuilder(connection);
        var start = new System.Diagnostics.ProcessStartInfo(Path.Combine(Folder(), name))
        {
            RedirectStandardError = true,
        };
        foreach (
            var argument in new[]
            {
                "--host",
                to.Host!,
                "--port",
                to.Port.ToString(CultureInfo.InvariantCulture),
                "--username",
                to.Username!,
                "--dbname",
                to.Database!,
            }.Concat(arguments)
        )
        {
            start.ArgumentList.Add(argument);
        }

        start.Environment["PGPASSWORD"] = to.Password ?? "";
        using var process = System.Diagnostics.Process.Start(start)!;
        var said = await process.StandardError.ReadToEndAsync(cancel);
        await process.WaitForExitAsync(cancel);
        if (process.ExitCode != 0)
        {
            throw new BackupFault($"{name} failed: {said.Trim()}");
        }
    }

    private static async Task<List<string>> Names(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(Tables, connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var names = new List<string>();
        while (await reader.ReadAsync(cancel))
        {
            names.Add(reader.GetString(0));
        }

        return names;
    }

    private static string Folder() =>
        Environment.GetEnvironmentVariable("FIRSTCOAT_PGBIN") is { Length: > 0 } said ? said
        : new DirectoryInfo("/usr/lib/postgresql") is { Exists: true } all
            ? all.GetDirectories()
                .OrderByDescending(d => int.TryParse(d.Name, out var n) ? n : 0)
                .Select(d => Path.Combine(d.FullName, "bin"))
                .FirstOrDefault(d => File.Exists(Path.Combine(d, "pg_dump")))
                ?? throw new BackupFault("PostgreSQL's programs are not installed.")
        : throw new BackupFault("PostgreSQL's programs are not installed.");
}

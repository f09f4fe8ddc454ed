using System.Reflection;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Microsoft.EntityFrameworkCore.Storage;
using Microsoft.Extensions.DependencyInjection;

namespace FirstCoat.Store.Migrations;

/// <summary>
/// The way on for a database of before all changes of shape became one: the statements of each change that came after
/// its last one, then the one change is written down as made. A new database never meets them.
/// </summary>
public static class EarlierShapes
{
    private const string First = "20261125022800_Start",
        One = "20261130000000_Start";

    private static readonly string[] Statements =
    [
        .. typeof(EarlierShapes)
            .Assembly.GetManifestResourceNames()
            .Where(n => n.EndsWith(".sql", StringComparison.Ordinal))
            .Order(StringComparer.Ordinal),
    ];

    /// <summary>The changes of shape that this version knows how to go on from, the one change not among them.</summary>
    public static IReadOnlyList<string> Known { get; } = [First, .. Statements.Select(NameOf)];

    /// <summary>Brings a database that stands at an earlier change to the one change; any other is left alone.</summary>
    public static async Task BringOn(ShopDb db, CancellationToken cancel)
    {
        var history = db.GetInfrastructure().GetRequiredService<IHistoryRepository>();
        if (!await history.ExistsAsync(cancel))
        {
            return;
        }

        var made = (await history.GetAppliedMigrationsAsync(cancel)).Select(r => r.MigrationId).ToHashSet();
        if (!made.Contains(First))
        {
            return;
        }

        await using var whole = await db.Database.BeginTransactionAsync(cancel);
        foreach (var name in Statements.Where(s => !made.Contains(NameOf(s))))
        {
            await Run(db, await Text(name, cancel), cancel);
        }

        await Run(db, string.Concat(made.Intersect(Known).Select(history.GetDeleteScript)), cancel);
        await Run(db, history.GetInsertScript(new(One, ProductInfo.GetVersion())), cancel);
        await whole.CommitAsync(cancel);
    }

    /// <summary>As it is written: braces in it are no places for values.</summary>
    private static async Task Run(ShopDb db, string statements, CancellationToken cancel)
    {
        await using var command = db.Database.GetDbConnection().CreateCommand();
        command.CommandText = statements;
        command.Transaction = db.Database.CurrentTransaction!.GetDbTransaction();
        await command.ExecuteNonQueryAsync(cancel);
    }

    private static async Task<string> Text(string name, CancellationToken cancel)
    {
        using var reader = new StreamReader(Assembly.GetExecutingAssembly().GetManifestResourceStream(name)!);
        return await reader.ReadToEndAsync(cancel);
    }

    private static string NameOf(string statements) => Path.GetFileNameWithoutExtension(statements);
}

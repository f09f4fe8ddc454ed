using Microsoft.EntityFrameworkCore.Metadata;
using Npgsql;

namespace FirstCoat.Server.Benches;

/// <summary>Writes many records as the store keeps them, without an audit trail: quicker than saving by a hundred
/// times.</summary>
internal static class BulkCopy
{
    /// <summary>Writes into the table of <typeparamref name="T"/>; what the database gives by itself is left to
    /// it.</summary>
    public static async Task Write<T>(ShopDb db, IEnumerable<T> records)
        where T : Entity
    {
        var entity = db.Model.FindEntityType(typeof(T))!;
        var columns = entity
            .GetProperties()
            .Where(p => p.PropertyInfo is not null && p.Name is not (nameof(Entity.Version) or nameof(Recorded.Seq)))
            .Select(p => new Column(p))
            .ToList();
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        if (connection.State != System.Data.ConnectionState.Open)
        {
            await connection.OpenAsync();
        }

        await using var copy = await connection.BeginBinaryImportAsync(
            $"copy {entity.GetTableName()} ({string.Join(", ", columns.Select(c => $"\"{c.Name}\""))}) from stdin (format binary)"
        );
        foreach (var record in records)
        {
            await copy.StartRowAsync();
            foreach (var column in columns)
            {
                if (column.Of(record) is { } value)
                {
                    await copy.WriteAsync(value, column.Type);
                }
                else
                {
                    await copy.WriteNullAsync();
                }
            }
        }

        await copy.CompleteAsync();
    }

    private sealed class Column(IProperty property)
    {
        private readonly Func<object?, object?>? _convert = property.GetTypeMapping().Converter?.ConvertToProvider;

        public string Name { get; } = property.GetColumnName();

        /// <summary>As the database names it, without its length.</summary>
        public string Type { get; } = property.GetColumnType().Split('(')[0];

        public object? Of(object record)
        {
            var value = property.PropertyInfo!.GetValue(record);
            return value is null || _convert is null ? value : _convert(value);
        }
    }
}

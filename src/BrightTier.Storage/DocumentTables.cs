using System.Data;
using System.Data.Common;
using System.Globalization;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;

namespace BrightTier.Storage;

/// <summary>
/// Every table of documents, releases and people as lines of JSON, one a row, and back; the same from either kind of database.
/// </summary>
public sealed class DocumentTables(IDbContextFactory<StorageContext> contexts)
{
    private sealed record Table(string Name, IReadOnlyList<(string Name, Type Type)> Columns, string Order, string? Counted);

    /// <summary>
    /// Writes all as it is at one moment, while others go on writing. The tables come in an order in which they can be read again.
    /// </summary>
    public async Task Dump(Func<string, Stream> open, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await context.Database.OpenConnectionAsync(cancel);
        var connection = context.Database.GetDbConnection();
        // A reader of SQLite must not ask for the writer's turn.
        await using var moment = connection is SqliteConnection sqlite
            ? sqlite.BeginTransaction(deferred: true)
            : await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel);
        foreach (var table in Tables(context))
        {
            await using var command = connection.CreateCommand();
            command.Transaction = moment;
            command.CommandText =
                $"SELECT {string.Join(", ", table.Columns.Select(column => $"\"{column.Name}\""))} FROM \"{table.Name}\" "
                + $"ORDER BY {table.Order}";
            await using var reader = await command.ExecuteReaderAsync(cancel);
            await using var stream = open(table.Name);
            while (await reader.ReadAsync(cancel))
            {
                await using (var line = new Utf8JsonWriter(stream))
                {
                    line.WriteStartObject();
                    for (var i = 0; i < table.Columns.Count; i++)
                    {
                        Write(line, table.Columns[i], reader, i);
                    }

                    line.WriteEndObject();
                }

                stream.WriteByte((byte)'\n');
            }
        }
    }

    /// <summary>Puts rows back into empty tables, all of them or none.</summary>
    /// <param name="open">The lines of a table; null where there are none.</param>
    public async Task Load(Func<string, Stream?> open, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await context.Database.OpenConnectionAsync(cancel);
        var connection = context.Database.GetDbConnection();
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        foreach (var table in Tables(context))
        {
            await using var stream = open(table.Name) ?? (EarlierNames.OfTable(table.Name) is { } earlier ? open(earlier) : null);
            if (stream is null)
            {
                continue;
            }

            await using var command = connection.CreateCommand();
            command.Transaction = transaction;
            command.CommandText =
                $"INSERT INTO \"{table.Name}\" ({string.Join(", ", table.Columns.Select(column => $"\"{column.Name}\""))}) "
                + $"VALUES ({string.Join(", ", table.Columns.Select((_, i) => $"@p{i.ToString(CultureInfo.InvariantCulture)}"))})";
            await foreach (var row in Lines.Of(stream, cancel))
            {
                command.Parameters.Clear();
                for (var i = 0; i < table.Columns.Count; i++)
                {
                    var parameter = command.CreateParameter();
                    parameter.ParameterName = $"p{i.ToString(CultureInfo.InvariantCulture)}";
                    parameter.Value = Read(table.Name, table.Columns[i], row) ?? DBNull.Value;
                    command.Parameters.Add(parameter);
                }

                await command.ExecuteNonQueryAsync(cancel);
            }

            // SQLite counts on from the highest by itself.
            if (table.Counted is { } counted && context is PostgresStorageContext)
            {
                command.Parameters.Clear();
                command.CommandText =
                    $"SELECT setval(pg_get_serial_sequence('\"{table.Name}\"', '{counted}'), greatest((SELECT "
                    + $"max(\"{counted}\") FROM \"{table.Name}\"), 1))";
                await command.ExecuteScalarAsync(cancel);
            }
        }

        await transaction.CommitAsync(cancel);
    }

    /// <summary>
    /// What the model says there is, but for what is true of running processes alone or made anew of the rest; tables that others refer
    /// to come first.
    /// </summary>
    private static IEnumerable<Table> Tables(StorageContext context)
    {
        var done = new HashSet<IEntityType>();
        var left = context
            .Model.GetEntityTypes()
            .Where(type => type.ClrType != typeof(PresenceRow) && type.ClrType != typeof(LeaseRow) && type.ClrType != typeof(LayoutHeadRow))
            .OrderBy(type => type.GetTableName(), StringComparer.Ordinal)
            .ToList();
        while (left.Count > 0)
        {
            var next = left.First(type =>
                type.GetForeignKeys().All(key => done.Contains(key.PrincipalEntityType) || key.PrincipalEntityType == type)
            );
            left.Remove(next);
            done.Add(next);
            var key = next.FindPrimaryKey()!.Properties;
            yield return new Table(
                next.GetTableName()!,
                [.. next.GetProperties().Select(property => (property.GetColumnName(), property.ClrType))],
                string.Join(", ", key.Select(property => $"\"{property.GetColumnName()}\"")),
                key is [{ ClrType: var type, ValueGenerated: ValueGenerated.OnAdd } one] && type == typeof(long)
                    ? one.GetColumnName()
                    : null
            );
        }
    }

    private static void Write(Utf8JsonWriter line, (string Name, Type Type) column, DbDataReader reader, int at)
    {
        if (reader.IsDBNull(at))
        {
            line.WriteNull(column.Name);
        }
        else if (column.Type == typeof(string))
        {
            line.WriteString(column.Name, reader.GetString(at));
        }
        else if (column.Type == typeof(bool))
        {
            line.WriteBoolean(column.Name, reader.GetBoolean(at));
        }
        else if (column.Type == typeof(byte[]))
        {
            line.WriteBase64String(column.Name, (byte[])reader.GetValue(at));
        }
        else
        {
            line.WriteNumber(column.Name, reader.GetInt64(at));
        }
    }

    private static object? Read(string table, (string Name, Type Type) column, JsonElement row) =>
        !Find(table, column.Name, row, out var value)
            // Of what could not be said before, nothing was so.
            ? column.Type == typeof(bool)
                ? false
                : column.Type == typeof(int)
                    ? 0
                    : column.Name == EarlierTerms.Column
                        ? EarlierTerms.OfEarlier(row)
                        : null
            : value.ValueKind switch
            {
                JsonValueKind.Null => null,
                JsonValueKind.String when column.Type == typeof(byte[]) => value.GetBytesFromBase64(),
                JsonValueKind.String => EarlierNames.Today(table, column.Name, value.GetString()!),
                JsonValueKind.True or JsonValueKind.False => value.GetBoolean(),
                _ => value.GetInt64(),
            };

    private static bool Find(string table, string column, JsonElement row, out JsonElement value) =>
        row.TryGetProperty(column, out value)
        || (EarlierNames.OfColumn(table, column) is { } earlier && row.TryGetProperty(earlier, out value));
}

/// <summary>JSON, a value a line.</summary>
public static class Lines
{
    public static async IAsyncEnumerable<JsonElement> Of(
        Stream stream,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        using var reader = new StreamReader(stream, leaveOpen: true);
        while (await reader.ReadLineAsync(cancel) is { } line)
        {
            using var json = JsonDocument.Parse(line);
            yield return json.RootElement;
        }
    }
}

using System.Data.Common;
using System.Text.Json;
using BrightTier.Core.Model;
using Dapper;

namespace BrightTier.Records;

/// <summary>
/// Records in ordinary tables. Names come only from entities and are quoted; values are always parameters. What databases do differently is
/// the dialect's.
/// </summary>
public sealed partial class SqlRecordStore(SqlDialect dialect) : IRecordStore
{
    private const string Stamps = "id, version, created_at, created_by, changed_at, changed_by";

    public async Task Define(Definitions definitions, IReadOnlySet<(string Entity, string Field)> sorted, CancellationToken cancel)
    {
        await using var writer = await dialect.Write(cancel);
        var connection = writer.Connection;
        await dialect.LockTables(connection);
        await connection.ExecuteAsync(
            $"""
            CREATE TABLE IF NOT EXISTS {SqlNames.History} (
                entity TEXT NOT NULL, record_id {dialect.Whole} NOT NULL, version {dialect.Whole} NOT NULL, action TEXT NOT NULL,
                at {dialect.Moment} NOT NULL, by TEXT NOT NULL, data TEXT NOT NULL,
                PRIMARY KEY (entity, record_id, version)){dialect.HistoryOptions}
            """
        );
        await connection.ExecuteAsync(AttachedKeys.Definition(dialect));
        // Every table before any column: a reference may point at one that comes later.
        foreach (var entity in Own(definitions))
        {
            await connection.ExecuteAsync(
                $"""
                CREATE TABLE IF NOT EXISTS {Table(entity)} (
                    id {dialect.Id}, version {dialect.Whole} NOT NULL,
                    created_at {dialect.Moment} NOT NULL, created_by TEXT NOT NULL,
                    changed_at {dialect.Moment} NOT NULL, changed_by TEXT NOT NULL)
                """
            );
        }

        var columns = await Columns(writer);
        if (columns[SqlNames.History].Contains("act", StringComparer.Ordinal))
        {
            // As it was called before.
            await connection.ExecuteAsync($"ALTER TABLE {SqlNames.History} RENAME COLUMN act TO action");
        }

        foreach (var entity in Own(definitions))
        {
            var present = columns[dialect.Fit(SqlNames.Table(entity.Key))].ToHashSet(StringComparer.OrdinalIgnoreCase);
            foreach (var field in entity.Fields)
            {
                if (present.Add(Name(field)))
                {
                    await connection.ExecuteAsync($"ALTER TABLE {Table(entity)} ADD COLUMN {Column(field)} {Type(field)}");
                }

                if (field.Unique || field.Type is FieldType.Reference)
                {
                    await connection.ExecuteAsync(
                        $"CREATE {(field.Unique ? "UNIQUE " : "")}INDEX IF NOT EXISTS "
                            + $"{SqlNames.Quote(Index(entity, field, field.Unique ? "unique" : "index"))} ON {Table(entity)} "
                            + $"({Column(field)})"
                    );
                }

                if (sorted.Contains((entity.Key, field.Key)))
                {
                    await connection.ExecuteAsync(
                        $"CREATE INDEX IF NOT EXISTS {SqlNames.Quote(Index(entity, field, "sorted"))} ON {Table(entity)} "
                            + $"({Sorted(new SortBy(field, false))}, id)"
                    );
                }
            }
        }

        await writer.Commit(cancel);

        // No constraint reaches into another database.
        string Type(Field field) =>
            field.Target is { } target && definitions.Entities.GetValueOrDefault(target)?.Attached is not null
                ? dialect.Whole
                : dialect.ColumnType(field);
    }

    /// <summary>The entities whose tables are ours.</summary>
    private static IEnumerable<Entity> Own(Definitions definitions) => definitions.Stored.Where(entity => entity.Attached is null);

    public async Task<bool> IsThere(CancellationToken cancel)
    {
        await using var writer = await dialect.Write(cancel);
        return (await Columns(writer)).Contains(SqlNames.History);
    }

    /// <summary>The columns of every table, asked for at once: a service that starts asks for nothing but this.</summary>
    private async Task<ILookup<string, string>> Columns(SqlWriter writer)
    {
        var found = new List<(string Table, string Column)>();
        await using var reader = await writer.Command(dialect.Columns).ExecuteReaderAsync();
        while (await reader.ReadAsync())
        {
            found.Add((reader.GetString(0), reader.GetString(1)));
        }

        return found.ToLookup(each => each.Table, each => each.Column, StringComparer.OrdinalIgnoreCase);
    }

    public Task<StoredRecord?> Find(Entity entity, long id, CancellationToken cancel) =>
        dialect.Read(connection => Find(connection, entity, id), cancel);

    public async Task<IReadOnlyList<StoredRecord>> FindMany(Entity entity, IReadOnlyCollection<long> ids, CancellationToken cancel)
    {
        if (ids.Count == 0)
        {
            return [];
        }

        var rows = await dialect.Read(
            connection => connection.QueryAsync($"{Select(entity)} WHERE {dialect.OneOf("id", "@ids")}", new { ids = ids.ToArray() }),
            cancel
        );
        return [.. rows.Select(row => Read(entity, (IDictionary<string, object?>)row))];
    }

    public async Task<IReadOnlyList<RecordState>> History(Entity entity, long id, CancellationToken cancel)
    {
        var rows = await dialect.Read(
            connection =>
                connection.QueryAsync(
                    $"SELECT version, action, at, by, data FROM {SqlNames.History} WHERE entity = @entity AND record_id = @id ORDER "
                        + $"BY version DESC LIMIT 200",
                    new { entity = entity.Key, id }
                ),
            cancel
        );
        return
        [
            .. rows.Cast<IDictionary<string, object?>>()
                .Select(row => new RecordState(
                    (long)row["version"]!,
                    (string)row["action"]!,
                    dialect.Stamp(row["at"]!),
                    (string)row["by"]!,
                    Remembered(entity, (string)row["data"]!)
                )),
        ];
    }

    /// <summary>Values as the history kept them, of the fields there are now.</summary>
    private static Dictionary<string, object?> Remembered(Entity entity, string text)
    {
        using var data = JsonDocument.Parse(text);
        return entity.Fields.ToDictionary(
            field => field.Key,
            field =>
                data.RootElement.TryGetProperty(field.Key, out var json) && FieldValues.Read(field, json, out var value) is null
                    ? value
                    : null
        );
    }

    private async Task<StoredRecord?> Find(DbConnection connection, Entity entity, long id) =>
        (IDictionary<string, object?>?)await connection.QueryFirstOrDefaultAsync($"{Select(entity)} WHERE id = @id", new { id }) is { } row
            ? Read(entity, row)
            : null;

    private StoredRecord Read(Entity entity, IDictionary<string, object?> row) =>
        new(
            (long)row["id"]!,
            (long)row["version"]!,
            entity.Fields.ToDictionary(field => field.Key, field => dialect.FromDatabase(field, row[Name(field)]), StringComparer.Ordinal),
            dialect.Stamp(row["created_at"]!),
            (string)row["created_by"]!,
            dialect.Stamp(row["changed_at"]!),
            (string)row["changed_by"]!
        );

    private string All(Entity entity) => $"{Stamps}{string.Concat(entity.Fields.Select(field => $", {Column(field)}"))}";

    private string Select(Entity entity) => $"SELECT {All(entity)} FROM {Table(entity)}";

    private string Table(Entity entity) => SqlNames.Quote(dialect.Fit(SqlNames.Table(entity.Key)));

    private string Column(Field field) => SqlNames.Quote(Name(field));

    private string Name(Field field) => dialect.Fit(SqlNames.Column(field));

    private string Index(Entity entity, Field field, string use) =>
        dialect.Fit($"{SqlNames.Table(entity.Key)}_{SqlNames.Column(field)}_{use}");
}

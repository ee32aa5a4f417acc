using System.Globalization;
using System.Text;
using System.Text.Json;
using BrightTier.Core.Entities;
using Dapper;
using Microsoft.Data.Sqlite;

namespace BrightTier.Records;

/// <summary>Records in SQLite. Names come only from entities and are quoted; values are always parameters.</summary>
public sealed class SqliteRecordStore(string file) : IRecordStore
{
    private const string Stamps = "id, version, created_at, created_by, changed_at, changed_by";

    private readonly string connectionString = new SqliteConnectionStringBuilder { DataSource = file, Pooling = true, DefaultTimeout = 30 }.ToString();

    public async Task Define(Definitions definitions, IReadOnlySet<(string Entity, string Field)> sorted, CancellationToken cancel)
    {
        await using var connection = await Open(cancel);
        await using var transaction = connection.BeginTransaction();
        await connection.ExecuteAsync($"""
            CREATE TABLE IF NOT EXISTS {SqlNames.History} (
                entity TEXT NOT NULL, record_id INTEGER NOT NULL, version INTEGER NOT NULL, act TEXT NOT NULL,
                at TIMESTAMP NOT NULL, by TEXT NOT NULL, data TEXT NOT NULL, PRIMARY KEY (entity, record_id, version)) WITHOUT ROWID
            """);
        foreach (var entity in definitions.Entities.Values)
        {
            await connection.ExecuteAsync($"""
                CREATE TABLE IF NOT EXISTS {Table(entity)} (
                    id INTEGER PRIMARY KEY AUTOINCREMENT, version INTEGER NOT NULL,
                    created_at TIMESTAMP NOT NULL, created_by TEXT NOT NULL, changed_at TIMESTAMP NOT NULL, changed_by TEXT NOT NULL)
                """);
            var present = (await connection.QueryAsync<string>($"SELECT name FROM pragma_table_info('{SqlNames.Table(entity.Key)}')")).ToHashSet(StringComparer.OrdinalIgnoreCase);
            foreach (var field in entity.Fields)
            {
                if (present.Add(SqlNames.Column(field)))
                {
                    await connection.ExecuteAsync($"ALTER TABLE {Table(entity)} ADD COLUMN {Column(field)} {SqliteDialect.ColumnType(field)}");
                }

                if (field.Unique || field.Type is FieldType.Reference)
                {
                    var index = SqlNames.Quote($"{SqlNames.Table(entity.Key)}_{SqlNames.Column(field)}_{(field.Unique ? "unique" : "index")}");
                    await connection.ExecuteAsync($"CREATE {(field.Unique ? "UNIQUE " : "")}INDEX IF NOT EXISTS {index} ON {Table(entity)} ({Column(field)})");
                }

                if (sorted.Contains((entity.Key, field.Key)))
                {
                    var index = SqlNames.Quote($"{SqlNames.Table(entity.Key)}_{SqlNames.Column(field)}_sorted");
                    await connection.ExecuteAsync($"CREATE INDEX IF NOT EXISTS {index} ON {Table(entity)} ({Sorted(new SortBy(field, false))}, id)");
                }
            }
        }

        await transaction.CommitAsync(cancel);
    }

    public async Task<StoredRecord?> Find(Entity entity, long id, CancellationToken cancel)
    {
        await using var connection = await Open(cancel);
        return await Find(connection, entity, id);
    }

    public async Task<IReadOnlyList<StoredRecord>> FindMany(Entity entity, IReadOnlyCollection<long> ids, CancellationToken cancel)
    {
        if (ids.Count == 0)
        {
            return [];
        }

        await using var connection = await Open(cancel);
        var rows = await connection.QueryAsync($"{Select(entity)} WHERE id IN @ids", new { ids });
        return [.. rows.Select(row => Read(entity, (IDictionary<string, object?>)row))];
    }

    public async Task<RecordRows> List(Entity entity, RecordQuery query, CancellationToken cancel)
    {
        await using var connection = await Open(cancel);
        var parameters = new DynamicParameters();
        var where = Searched(query, parameters);
        foreach (var filter in query.Filters)
        {
            where.Add(new SqliteConditions(entity, filter.Definitions, filter.Surroundings, parameters, where.Count).Where(filter.Condition));
        }

        var total = await connection.ExecuteScalarAsync<long>($"SELECT count(*) FROM (SELECT 1 FROM {Table(entity)}{Where(where)} LIMIT {RecordQuery.Counted + 1})", parameters);
        var last = query.After is { Length: > 0 } cursor ? SqliteCursor.Read(cursor, query.Sort.Count) : ((IReadOnlyList<object?> Values, long Id)?)null;
        var rows = new List<IDictionary<string, object?>>();
        // What has a value in the first field sorted by, then what has none: either is found by an index, both at once are not.
        foreach (var empty in query.Sort.Count == 0 ? new bool?[] { null } : [false, true])
        {
            if (rows.Count > query.Limit || (empty is false && last is { Values: [null, ..] }))
            {
                continue;
            }

            var only = new List<string>(where);
            var here = last is { } row && (empty is null || empty == row.Values[0] is null) ? row : ((IReadOnlyList<object?> Values, long Id)?)null;
            if (empty is { } none)
            {
                only.Add($"{Column(query.Sort[0].Field)} IS {(none ? "" : "NOT ")}NULL");
            }

            if (here is { } from)
            {
                only.AddRange(Beyond(query.Sort, from, parameters));
            }

            var levels = empty is true ? query.Sort.Skip(1) : query.Sort;
            var order = string.Concat(levels.Select((by, i) => $"{Sorted(by)} {(by.Descending ? "DESC" : "ASC")}{(i == 0 && empty is false ? "" : " NULLS LAST")}, "));
            parameters.Add("limit", query.Limit + 1 - rows.Count);
            rows.AddRange((await connection.QueryAsync($"{Select(entity)}{Where(only)} ORDER BY {order}id {(query.Sort is [.., { Descending: true }] ? "DESC" : "ASC")} LIMIT @limit", parameters)).Cast<IDictionary<string, object?>>());
        }

        var page = rows.Take(query.Limit).Select(row => Read(entity, row)).ToList();
        var next = rows.Count > query.Limit
            ? SqliteCursor.Write(query.Sort.Select(by => rows[query.Limit - 1][SqlNames.Column(by.Field)]), page[^1].Id)
            : null;
        return new RecordRows(page, next, total);
    }

    /// <summary>Each word of the search is in one of the fields.</summary>
    private static List<string> Searched(RecordQuery query, DynamicParameters parameters)
    {
        var where = new List<string>();
        foreach (var (word, i) in (query.Search ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Take(8).Select((word, i) => (word, i)))
        {
            var name = string.Create(CultureInfo.InvariantCulture, $"word{i}");
            parameters.Add(name, $"%{word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal)}%");
            where.Add(query.SearchIn.Count == 0 ? "0" : $"({string.Join(" OR ", query.SearchIn.Select(field => $"{Column(field)} LIKE @{name} ESCAPE '\\'"))})");
        }

        return where;
    }

    private static string Sorted(SortBy by) => Column(by.Field) + (by.Field.Type.IsShortText() ? " COLLATE NOCASE" : "");

    /// <summary>
    /// What comes behind a row in an order of several levels, in which what is empty comes last: it differs at one level, and is the same at those
    /// before. The first level is said once more by itself, so that an index leads straight to the row.
    /// </summary>
    private static IEnumerable<string> Beyond(IReadOnlyList<SortBy> sort, (IReadOnlyList<object?> Values, long Id) row, DynamicParameters parameters)
    {
        var cases = new List<string>();
        var same = "";
        for (var i = 0; i < sort.Count; i++)
        {
            var name = string.Create(CultureInfo.InvariantCulture, $"last{i}");
            parameters.Add(name, row.Values[i]);
            var column = Sorted(sort[i]);
            if (row.Values[i] is not null)
            {
                var beyond = $"{column} {(sort[i].Descending ? "<" : ">")} @{name}";
                cases.Add(i == 0 ? $"({beyond})" : $"({same}({beyond} OR {column} IS NULL))");
            }

            same += $"{column} IS @{name} AND ";
        }

        if (sort is [{ } first, ..] && row.Values[0] is not null)
        {
            yield return $"{Sorted(first)} {(first.Descending ? "<=" : ">=")} @last0";
        }

        parameters.Add("lastId", row.Id);
        cases.Add($"({same}id {(sort is [.., { Descending: true }] ? "<" : ">")} @lastId)");
        yield return $"({string.Join(" OR ", cases)})";
    }

    public async Task<SaveOutcome> Create(Entity entity, IReadOnlyDictionary<string, object?> values, Stamp stamp, CancellationToken cancel) =>
        (await Write([new RecordWrite.Create(entity, values)], stamp, cancel))[0];

    public async Task<SaveOutcome> Change(Entity entity, long id, long version, IReadOnlyDictionary<string, object?> values, Stamp stamp, CancellationToken cancel) =>
        (await Write([new RecordWrite.Change(entity, id, version, values)], stamp, cancel))[0];

    public async Task<SaveOutcome> Delete(Entity entity, long id, long version, Stamp stamp, CancellationToken cancel) =>
        (await Write([new RecordWrite.Delete(entity, id, version)], stamp, cancel))[0];

    public async Task<IReadOnlyList<SaveOutcome>> Write(IReadOnlyList<RecordWrite> writes, Stamp stamp, CancellationToken cancel)
    {
        await using var connection = await Open(cancel);
        // Immediate: a writer waits for its turn at the start instead of failing in the middle.
        await using var transaction = connection.BeginTransaction(deferred: false);
        var outcomes = new List<SaveOutcome>();
        foreach (var write in writes)
        {
            var first = outcomes is [SaveOutcome.Saved saved, ..] ? saved.Record.Id : 0;
            try
            {
                outcomes.Add(await Write(connection, write, first, stamp));
            }
            catch (SqliteException error) when (error.SqliteExtendedErrorCode is 2067 or 787)
            {
                outcomes.Add(await Refused(connection, write.Entity, write is RecordWrite.Create { Values: var made } ? made : (write as RecordWrite.Change)?.Values, error));
            }

            if (outcomes[^1] is not SaveOutcome.Saved)
            {
                await transaction.RollbackAsync(cancel);
                return outcomes;
            }
        }

        await transaction.CommitAsync(cancel);
        return outcomes;
    }

    private static async Task<SaveOutcome> Write(SqliteConnection connection, RecordWrite write, long first, Stamp stamp)
    {
        var entity = write.Entity;
        switch (write)
        {
            case RecordWrite.Create { Values: var values, Parent: var parent }:
                {
                    var all = parent is null ? values : new Dictionary<string, object?>(values) { [parent.Key] = first };
                    var fields = Given(entity, all);
                    var columns = string.Concat(fields.Select(field => $", {Column(field)}"));
                    var places = string.Concat(fields.Select((_, i) => $", @v{i}"));
                    var id = await connection.ExecuteScalarAsync<long>(
                        $"INSERT INTO {Table(entity)} (version, created_at, created_by, changed_at, changed_by{columns}) VALUES (1, @at, @by, @at, @by{places}) RETURNING id", Parameters(fields, all, stamp));
                    return await Remember(connection, entity, id, "create", stamp);
                }

            case RecordWrite.Change { Id: var id, Version: var version, Values: var values }:
                {
                    var fields = Given(entity, values);
                    var parameters = Parameters(fields, values, stamp);
                    parameters.Add("id", id);
                    parameters.Add("version", version);
                    var set = string.Concat(fields.Select((field, i) => $", {Column(field)} = @v{i}"));
                    var changed = await connection.ExecuteAsync(
                        $"UPDATE {Table(entity)} SET version = version + 1, changed_at = @at, changed_by = @by{set} WHERE id = @id AND version = @version", parameters);
                    return changed == 1 ? await Remember(connection, entity, id, "change", stamp) : await Current(connection, entity, id);
                }

            case RecordWrite.Delete { Id: var id, Version: var version }:
                {
                    if (await Find(connection, entity, id) is not { } record || record.Version != version)
                    {
                        return await Current(connection, entity, id);
                    }

                    await connection.ExecuteAsync($"DELETE FROM {Table(entity)} WHERE id = @id", new { id });
                    var last = record with { Version = version + 1 };
                    await Write(connection, entity, last, "delete", stamp);
                    return new SaveOutcome.Saved(last);
                }

            default:
                throw new ArgumentOutOfRangeException(nameof(write));
        }
    }

    public async Task<IReadOnlyList<RecordState>> History(Entity entity, long id, CancellationToken cancel)
    {
        await using var connection = await Open(cancel);
        var rows = await connection.QueryAsync($"SELECT version, act, at, by, data FROM {SqlNames.History} WHERE entity = @entity AND record_id = @id ORDER BY version DESC LIMIT 200", new { entity = entity.Key, id });
        return
        [
            .. rows.Cast<IDictionary<string, object?>>().Select(row => new RecordState(
                (long)row["version"]!, (string)row["act"]!, SqliteDialect.Moment((string)row["at"]!), (string)row["by"]!, Remembered(entity, (string)row["data"]!))),
        ];
    }

    /// <summary>Values as the history kept them, of the fields there are now.</summary>
    private static Dictionary<string, object?> Remembered(Entity entity, string text)
    {
        using var data = JsonDocument.Parse(text);
        return entity.Fields.ToDictionary(field => field.Key, field => data.RootElement.TryGetProperty(field.Key, out var json) && FieldValues.Read(field, json, out var value) is null ? value : null);
    }

    public async Task<SaveOutcome> Restore(Entity entity, long id, Stamp stamp, CancellationToken cancel)
    {
        await using var connection = await Open(cancel);
        await using var transaction = connection.BeginTransaction(deferred: false);
        if (await Find(connection, entity, id) is { } present)
        {
            return new SaveOutcome.Saved(present);
        }

        var row = (IDictionary<string, object?>?)await connection.QueryFirstOrDefaultAsync(
            $"SELECT version, data FROM {SqlNames.History} WHERE entity = @entity AND record_id = @id ORDER BY version DESC LIMIT 1", new { entity = entity.Key, id });
        if (row is null)
        {
            return new SaveOutcome.Missing();
        }

        var values = Remembered(entity, (string)row["data"]!);
        var fields = Given(entity, values);
        var parameters = Parameters(fields, values, stamp);
        parameters.Add("id", id);
        parameters.Add("version", (long)row["version"]! + 1);
        try
        {
            await connection.ExecuteAsync(
                $"INSERT INTO {Table(entity)} (id, version, created_at, created_by, changed_at, changed_by{string.Concat(fields.Select(field => $", {Column(field)}"))}) " +
                $"VALUES (@id, @version, @at, @by, @at, @by{string.Concat(fields.Select((_, i) => $", @v{i}"))})",
                parameters);
        }
        catch (SqliteException error) when (error.SqliteExtendedErrorCode is 2067 or 787)
        {
            return await Refused(connection, entity, values, error);
        }

        var outcome = await Remember(connection, entity, id, "restore", stamp);
        await transaction.CommitAsync(cancel);
        return outcome;
    }

    /// <summary>What a constraint of the database stood against: a unique value, or a reference.</summary>
    private static async Task<SaveOutcome> Refused(SqliteConnection connection, Entity entity, IReadOnlyDictionary<string, object?>? values, SqliteException error) => error.SqliteExtendedErrorCode is 2067
        ? new SaveOutcome.Taken(entity.Fields.First(field => field.Unique && error.Message.Contains($".{SqlNames.Column(field)}", StringComparison.Ordinal)))
        : await Broken(connection, entity, values);

    /// <summary>Which reference broke: one of the values given, or another entity's to the deleted record.</summary>
    private static async Task<SaveOutcome> Broken(SqliteConnection connection, Entity entity, IReadOnlyDictionary<string, object?>? values)
    {
        foreach (var field in entity.Fields.Where(field => field.Type is FieldType.Reference && values?.GetValueOrDefault(field.Key) is not null))
        {
            var there = await connection.ExecuteScalarAsync<long>($"SELECT count(*) FROM {SqlNames.Quote(SqlNames.Table(field.Target!))} WHERE id = @id", new { id = values![field.Key] });
            if (there == 0)
            {
                return new SaveOutcome.Dangling(field);
            }
        }

        return new SaveOutcome.Referred(await connection.ExecuteScalarAsync<string>(
            "SELECT m.name FROM sqlite_schema m, pragma_foreign_key_list(m.name) k WHERE m.type = 'table' AND k.\"table\" = @table LIMIT 1",
            new { table = SqlNames.Table(entity.Key) }) ?? entity.Key);
    }

    private static async Task<SaveOutcome> Remember(SqliteConnection connection, Entity entity, long id, string act, Stamp stamp)
    {
        var record = (await Find(connection, entity, id))!;
        await Write(connection, entity, record, act, stamp);
        return new SaveOutcome.Saved(record);
    }

    private static Task Write(SqliteConnection connection, Entity entity, StoredRecord record, string act, Stamp stamp)
    {
        var data = new System.Buffers.ArrayBufferWriter<byte>();
        using (var writer = new Utf8JsonWriter(data))
        {
            FieldValues.WriteAll(writer, record.Values);
        }

        return connection.ExecuteAsync(
            $"INSERT INTO {SqlNames.History} (entity, record_id, version, act, at, by, data) VALUES (@entity, @id, @version, @act, @at, @by, @data)",
            new { entity = entity.Key, id = record.Id, version = record.Version, act, at = SqliteDialect.Moment(stamp.At), by = stamp.By, data = Encoding.UTF8.GetString(data.WrittenSpan) });
    }

    private static async Task<SaveOutcome> Current(SqliteConnection connection, Entity entity, long id) =>
        await Find(connection, entity, id) is { } record ? new SaveOutcome.Outdated(record) : new SaveOutcome.Missing();

    private static async Task<StoredRecord?> Find(SqliteConnection connection, Entity entity, long id) =>
        (IDictionary<string, object?>?)await connection.QueryFirstOrDefaultAsync($"{Select(entity)} WHERE id = @id", new { id }) is { } row ? Read(entity, row) : null;

    private async Task<SqliteConnection> Open(CancellationToken cancel)
    {
        var connection = new SqliteConnection(connectionString);
        await connection.OpenAsync(cancel);
        await connection.ExecuteAsync("PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON");
        return connection;
    }

    private static StoredRecord Read(Entity entity, IDictionary<string, object?> row) => new(
        (long)row["id"]!,
        (long)row["version"]!,
        entity.Fields.ToDictionary(field => field.Key, field => SqliteDialect.FromDatabase(field, row[SqlNames.Column(field)]), StringComparer.Ordinal),
        SqliteDialect.Moment((string)row["created_at"]!),
        (string)row["created_by"]!,
        SqliteDialect.Moment((string)row["changed_at"]!),
        (string)row["changed_by"]!);

    private static List<Field> Given(Entity entity, IReadOnlyDictionary<string, object?> values) => [.. entity.Fields.Where(field => values.ContainsKey(field.Key))];

    private static DynamicParameters Parameters(List<Field> fields, IReadOnlyDictionary<string, object?> values, Stamp stamp)
    {
        var parameters = new DynamicParameters();
        parameters.Add("at", SqliteDialect.Moment(stamp.At));
        parameters.Add("by", stamp.By);
        for (var i = 0; i < fields.Count; i++)
        {
            parameters.Add(string.Create(CultureInfo.InvariantCulture, $"v{i}"), SqliteDialect.ToDatabase(fields[i], values[fields[i].Key]));
        }

        return parameters;
    }

    private static string Select(Entity entity) => $"SELECT {Stamps}{string.Concat(entity.Fields.Select(field => $", {Column(field)}"))} FROM {Table(entity)}";

    private static string Where(List<string> conditions) => conditions.Count == 0 ? "" : $" WHERE {string.Join(" AND ", conditions)}";

    private static string Table(Entity entity) => SqlNames.Quote(SqlNames.Table(entity.Key));

    private static string Column(Field field) => SqlNames.Quote(SqlNames.Column(field));
}

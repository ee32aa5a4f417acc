using System.Data.Common;
using System.Globalization;
using System.Text;
using System.Text.Json;
using BrightTier.Core.Entities;
using Dapper;

namespace BrightTier.Records;

/// <summary>Records in ordinary tables. Names come only from entities and are quoted; values are always parameters. What databases do differently is the dialect's.</summary>
public sealed partial class SqlRecordStore(SqlDialect dialect) : IRecordStore
{
    private const string Stamps = "id, version, created_at, created_by, changed_at, changed_by";

    public async Task Define(Definitions definitions, IReadOnlySet<(string Entity, string Field)> sorted, CancellationToken cancel)
    {
        await using var writer = await dialect.Write(cancel);
        var connection = writer.Connection;
        await dialect.TakeTurn(connection);
        await connection.ExecuteAsync($"""
            CREATE TABLE IF NOT EXISTS {SqlNames.History} (
                entity TEXT NOT NULL, record_id {dialect.Whole} NOT NULL, version {dialect.Whole} NOT NULL, act TEXT NOT NULL,
                at {dialect.Moment} NOT NULL, by TEXT NOT NULL, data TEXT NOT NULL, PRIMARY KEY (entity, record_id, version)){dialect.HistoryOptions}
            """);
        // Every table before any column: a reference may point at one that comes later.
        foreach (var entity in definitions.Entities.Values)
        {
            await connection.ExecuteAsync($"""
                CREATE TABLE IF NOT EXISTS {Table(entity)} (
                    id {dialect.Id}, version {dialect.Whole} NOT NULL,
                    created_at {dialect.Moment} NOT NULL, created_by TEXT NOT NULL, changed_at {dialect.Moment} NOT NULL, changed_by TEXT NOT NULL)
                """);
        }

        var columns = await Columns(writer);
        foreach (var entity in definitions.Entities.Values)
        {
            var present = columns[dialect.Fit(SqlNames.Table(entity.Key))].ToHashSet(StringComparer.OrdinalIgnoreCase);
            foreach (var field in entity.Fields)
            {
                if (present.Add(Name(field)))
                {
                    await connection.ExecuteAsync($"ALTER TABLE {Table(entity)} ADD COLUMN {Column(field)} {dialect.ColumnType(field)}");
                }

                if (field.Unique || field.Type is FieldType.Reference)
                {
                    await connection.ExecuteAsync($"CREATE {(field.Unique ? "UNIQUE " : "")}INDEX IF NOT EXISTS {SqlNames.Quote(Index(entity, field, field.Unique ? "unique" : "index"))} ON {Table(entity)} ({Column(field)})");
                }

                if (sorted.Contains((entity.Key, field.Key)))
                {
                    await connection.ExecuteAsync($"CREATE INDEX IF NOT EXISTS {SqlNames.Quote(Index(entity, field, "sorted"))} ON {Table(entity)} ({Sorted(new SortBy(field, false))}, id)");
                }
            }
        }

        await writer.Commit(cancel);
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

    public async Task<StoredRecord?> Find(Entity entity, long id, CancellationToken cancel)
    {
        await using var connection = await dialect.Open(cancel);
        return await Find(connection, entity, id);
    }

    public async Task<IReadOnlyList<StoredRecord>> FindMany(Entity entity, IReadOnlyCollection<long> ids, CancellationToken cancel)
    {
        if (ids.Count == 0)
        {
            return [];
        }

        await using var connection = await dialect.Open(cancel);
        var rows = await connection.QueryAsync($"{Select(entity)} WHERE {dialect.OneOf("id", "@ids")}", new { ids = ids.ToArray() });
        return [.. rows.Select(row => Read(entity, (IDictionary<string, object?>)row))];
    }

    public async Task<RecordRows> List(Entity entity, RecordQuery query, CancellationToken cancel)
    {
        await using var connection = await dialect.Open(cancel);
        var parameters = new DynamicParameters();
        var where = Searched(query, parameters);
        foreach (var filter in query.Filters)
        {
            where.Add(new SqlConditions(dialect, entity, filter.Definitions, filter.Surroundings, parameters, where.Count).Where(filter.Condition));
        }

        var total = await connection.ExecuteScalarAsync<long>($"SELECT count(*) FROM (SELECT 1 FROM {Table(entity)}{Where(where)} LIMIT {RecordQuery.Counted + 1}) AS counted", parameters);
        var last = query.After is { Length: > 0 } cursor ? RowCursor.Read(cursor, query.Sort) : ((IReadOnlyList<object?> Values, long Id)?)null;
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
            ? RowCursor.Write(query.Sort.Select(by => (by.Field, page[^1].Values.GetValueOrDefault(by.Field.Key))), page[^1].Id)
            : null;
        return new RecordRows(page, next, total);
    }

    /// <summary>Each word of the search is in one of the fields.</summary>
    private List<string> Searched(RecordQuery query, DynamicParameters parameters)
    {
        var where = new List<string>();
        foreach (var (word, i) in (query.Search ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Take(8).Select((word, i) => (word, i)))
        {
            var name = string.Create(CultureInfo.InvariantCulture, $"word{i}");
            parameters.Add(name, $"%{word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal)}%");
            where.Add(query.SearchIn.Count == 0 ? dialect.False : $"({string.Join(" OR ", query.SearchIn.Select(field => dialect.Like(Column(field), "@" + name)))})");
        }

        return where;
    }

    private string Sorted(SortBy by) => Sorted(by, Column(by.Field));

    /// <summary>A column, or a value of it, as the list is sorted by it.</summary>
    private string Sorted(SortBy by, string value) => by.Field.Type.IsShortText() ? dialect.Folded(value) : value;

    /// <summary>
    /// What comes behind a row in an order of several levels, in which what is empty comes last: it differs at one level, and is the same at those
    /// before. The first level is said once more by itself, so that an index leads straight to the row.
    /// </summary>
    private IEnumerable<string> Beyond(IReadOnlyList<SortBy> sort, (IReadOnlyList<object?> Values, long Id) row, DynamicParameters parameters)
    {
        var cases = new List<string>();
        var same = "";
        for (var i = 0; i < sort.Count; i++)
        {
            var name = string.Create(CultureInfo.InvariantCulture, $"last{i}");
            parameters.Add(name, dialect.ToDatabase(sort[i].Field, row.Values[i]));
            var (column, value) = (Sorted(sort[i]), Sorted(sort[i], "@" + name));
            if (row.Values[i] is not null)
            {
                var beyond = $"{column} {(sort[i].Descending ? "<" : ">")} {value}";
                cases.Add(i == 0 ? $"({beyond})" : $"({same}({beyond} OR {column} IS NULL))");
            }

            same += $"{(row.Values[i] is null ? $"{column} IS NULL" : dialect.Is(column, value))} AND ";
        }

        if (sort is [{ } first, ..] && row.Values[0] is not null)
        {
            yield return $"{Sorted(first)} {(first.Descending ? "<=" : ">=")} {Sorted(first, "@last0")}";
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
        await using var writer = await dialect.Write(cancel);
        var outcomes = new List<SaveOutcome>();
        foreach (var write in writes)
        {
            var first = outcomes is [SaveOutcome.Saved saved, ..] ? saved.Record.Id : 0;
            try
            {
                outcomes.Add(await Write(writer, write, first, stamp));
            }
            catch (DbException error) when (dialect.Read(error) is { } stood)
            {
                // What a constraint refused has ended the transaction: what it was is asked outside.
                await writer.Rollback(cancel);
                outcomes.Add(await Refused(writer.Connection, write.Entity, write is RecordWrite.Create { Values: var made } ? made : (write as RecordWrite.Change)?.Values, stood));
                return outcomes;
            }

            if (outcomes[^1] is not SaveOutcome.Saved)
            {
                await writer.Rollback(cancel);
                return outcomes;
            }
        }

        await writer.Commit(cancel);
        return outcomes;
    }

    private async Task<SaveOutcome> Write(SqlWriter writer, RecordWrite write, long first, Stamp stamp)
    {
        var (entity, connection) = (write.Entity, writer.Connection);
        switch (write)
        {
            case RecordWrite.Create { Values: var values, Parent: var parent }:
                {
                    var all = parent is null ? values : new Dictionary<string, object?>(values) { [parent.Key] = first };
                    var fields = Given(entity, all);
                    var columns = string.Concat(fields.Select(field => $", {Column(field)}"));
                    var places = string.Concat(fields.Select((_, i) => $", @v{i}"));
                    var insert = Command(
                        writer, $"INSERT INTO {Table(entity)} (version, created_at, created_by, changed_at, changed_by{columns}) VALUES (1, @at, @by, @at, @by{places}) RETURNING id", fields, all, stamp);
                    var id = (long)(await insert.ExecuteScalarAsync())!;
                    // What was written is known: having the database say it again costs as much as writing it.
                    var at = dialect.Stamp(dialect.Stamp(stamp.At));
                    var written = entity.Fields.ToDictionary(field => field.Key, field => all.TryGetValue(field.Key, out var value) ? dialect.FromDatabase(field, dialect.ToDatabase(field, value)) : null, StringComparer.Ordinal);
                    return await Remember(writer, entity, new StoredRecord(id, 1, written, at, stamp.By, at, stamp.By), "create", stamp);
                }

            case RecordWrite.Change { Id: var id, Version: var version, Values: var values }:
                {
                    var fields = Given(entity, values);
                    var set = string.Concat(fields.Select((field, i) => $", {Column(field)} = @v{i}"));
                    var record = await Changed(
                        writer, entity, $"UPDATE {Table(entity)} SET version = version + 1, changed_at = @at, changed_by = @by{set} WHERE id = @id AND version = @version RETURNING {All(entity)}", fields, values, stamp, ("id", id), ("version", version));
                    return record is not null ? await Remember(writer, entity, record, "change", stamp) : await Current(connection, entity, id);
                }

            case RecordWrite.Delete { Id: var id, Version: var version }:
                {
                    if (await Find(connection, entity, id) is not { } record || record.Version != version)
                    {
                        return await Current(connection, entity, id);
                    }

                    if (await connection.ExecuteAsync($"DELETE FROM {Table(entity)} WHERE id = @id AND version = @version", new { id, version }) == 0)
                    {
                        return await Current(connection, entity, id);
                    }

                    var last = record with { Version = version + 1 };
                    await Write(writer, entity, last, "delete", stamp);
                    return new SaveOutcome.Saved(last);
                }

            default:
                throw new ArgumentOutOfRangeException(nameof(write));
        }
    }

    public async Task<IReadOnlyList<RecordState>> History(Entity entity, long id, CancellationToken cancel)
    {
        await using var connection = await dialect.Open(cancel);
        var rows = await connection.QueryAsync($"SELECT version, act, at, by, data FROM {SqlNames.History} WHERE entity = @entity AND record_id = @id ORDER BY version DESC LIMIT 200", new { entity = entity.Key, id });
        return
        [
            .. rows.Cast<IDictionary<string, object?>>().Select(row => new RecordState(
                (long)row["version"]!, (string)row["act"]!, dialect.Stamp(row["at"]!), (string)row["by"]!, Remembered(entity, (string)row["data"]!))),
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
        await using var writer = await dialect.Write(cancel);
        var connection = writer.Connection;
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
        catch (DbException error) when (dialect.Read(error) is { } stood)
        {
            await writer.Rollback(cancel);
            return await Refused(connection, entity, values, stood);
        }

        var outcome = await Remember(writer, entity, (await Find(connection, entity, id))!, "restore", stamp);
        await writer.Commit(cancel);
        return outcome;
    }

    /// <summary>What a constraint of the database stood against: a unique value, or a reference.</summary>
    private async Task<SaveOutcome> Refused(DbConnection connection, Entity entity, IReadOnlyDictionary<string, object?>? values, Violation stood) => stood.OfUniqueness
        ? new SaveOutcome.Taken(entity.Fields.First(field => field.Unique && (stood.About == Index(entity, field, "unique") || stood.About.EndsWith($".{Name(field)}", StringComparison.Ordinal) || stood.About.Contains($".{Name(field)}'", StringComparison.Ordinal))))
        : await Broken(connection, entity, values);

    /// <summary>Which reference broke: one of the values given, or another entity's to the deleted record.</summary>
    private async Task<SaveOutcome> Broken(DbConnection connection, Entity entity, IReadOnlyDictionary<string, object?>? values)
    {
        foreach (var field in entity.Fields.Where(field => field.Type is FieldType.Reference && values?.GetValueOrDefault(field.Key) is not null))
        {
            var there = await connection.ExecuteScalarAsync<long>($"SELECT count(*) FROM {SqlNames.Quote(dialect.Fit(SqlNames.Table(field.Target!)))} WHERE id = @id", new { id = values![field.Key] });
            if (there == 0)
            {
                return new SaveOutcome.Dangling(field);
            }
        }

        return new SaveOutcome.Referred(await dialect.Referring(connection, dialect.Fit(SqlNames.Table(entity.Key))) ?? entity.Key);
    }

    private async Task<SaveOutcome> Remember(SqlWriter writer, Entity entity, StoredRecord record, string act, Stamp stamp)
    {
        await Write(writer, entity, record, act, stamp);
        return new SaveOutcome.Saved(record);
    }

    private async Task Write(SqlWriter writer, Entity entity, StoredRecord record, string act, Stamp stamp)
    {
        var data = new System.Buffers.ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(data))
        {
            FieldValues.WriteAll(json, record.Values);
        }

        var command = writer.Command($"INSERT INTO {SqlNames.History} (entity, record_id, version, act, at, by, data) VALUES (@entity, @id, @version, @act, @at, @by, @data)");
        Add(command, "entity", entity.Key);
        Add(command, "id", record.Id);
        Add(command, "version", record.Version);
        Add(command, "act", act);
        Add(command, "at", dialect.Stamp(stamp.At));
        Add(command, "by", stamp.By);
        Add(command, "data", Encoding.UTF8.GetString(data.WrittenSpan));
        await command.ExecuteNonQueryAsync();
    }

    /// <summary>Runs a statement that changes one record and returns it whole; null where it changed none. By hand, since every save passes here.</summary>
    private async Task<StoredRecord?> Changed(SqlWriter writer, Entity entity, string sql, List<Field> fields, IReadOnlyDictionary<string, object?> values, Stamp stamp, params (string Name, object Value)[] more)
    {
        var command = Command(writer, sql, fields, values, stamp);
        foreach (var (name, value) in more)
        {
            Add(command, name, value);
        }

        await using var reader = await command.ExecuteReaderAsync();
        if (!await reader.ReadAsync())
        {
            return null;
        }

        var record = new StoredRecord(
            reader.GetInt64(0), reader.GetInt64(1), entity.Fields.Select((field, i) => KeyValuePair.Create(field.Key, dialect.FromDatabase(field, reader.GetValue(6 + i)))).ToDictionary(StringComparer.Ordinal),
            dialect.Stamp(reader.GetValue(2)), reader.GetString(3), dialect.Stamp(reader.GetValue(4)), reader.GetString(5));
        // To its end: what the statement comes up against may show only there.
        while (await reader.ReadAsync())
        {
        }

        return record;
    }

    /// <summary>A statement that writes these fields as @v0, @v1 and so on, with who does it and when.</summary>
    private DbCommand Command(SqlWriter writer, string sql, List<Field> fields, IReadOnlyDictionary<string, object?> values, Stamp stamp)
    {
        var command = writer.Command(sql);
        Add(command, "at", dialect.Stamp(stamp.At));
        Add(command, "by", stamp.By);
        for (var i = 0; i < fields.Count; i++)
        {
            Add(command, string.Create(CultureInfo.InvariantCulture, $"v{i}"), dialect.ToDatabase(fields[i], values[fields[i].Key]));
        }

        return command;
    }

    private static void Add(DbCommand command, string name, object? value)
    {
        var parameter = command.CreateParameter();
        parameter.ParameterName = name;
        parameter.Value = value ?? DBNull.Value;
        command.Parameters.Add(parameter);
    }

    private async Task<SaveOutcome> Current(DbConnection connection, Entity entity, long id) =>
        await Find(connection, entity, id) is { } record ? new SaveOutcome.Outdated(record) : new SaveOutcome.Missing();

    private async Task<StoredRecord?> Find(DbConnection connection, Entity entity, long id) =>
        (IDictionary<string, object?>?)await connection.QueryFirstOrDefaultAsync($"{Select(entity)} WHERE id = @id", new { id }) is { } row ? Read(entity, row) : null;

    private StoredRecord Read(Entity entity, IDictionary<string, object?> row) => new(
        (long)row["id"]!,
        (long)row["version"]!,
        entity.Fields.ToDictionary(field => field.Key, field => dialect.FromDatabase(field, row[Name(field)]), StringComparer.Ordinal),
        dialect.Stamp(row["created_at"]!),
        (string)row["created_by"]!,
        dialect.Stamp(row["changed_at"]!),
        (string)row["changed_by"]!);

    private static List<Field> Given(Entity entity, IReadOnlyDictionary<string, object?> values) => [.. entity.Fields.Where(field => values.ContainsKey(field.Key))];

    private DynamicParameters Parameters(List<Field> fields, IReadOnlyDictionary<string, object?> values, Stamp stamp)
    {
        var parameters = new DynamicParameters();
        parameters.Add("at", dialect.Stamp(stamp.At));
        parameters.Add("by", stamp.By);
        for (var i = 0; i < fields.Count; i++)
        {
            parameters.Add(string.Create(CultureInfo.InvariantCulture, $"v{i}"), dialect.ToDatabase(fields[i], values[fields[i].Key]));
        }

        return parameters;
    }

    private string All(Entity entity) => $"{Stamps}{string.Concat(entity.Fields.Select(field => $", {Column(field)}"))}";

    private string Select(Entity entity) => $"SELECT {All(entity)} FROM {Table(entity)}";

    private static string Where(List<string> conditions) => conditions.Count == 0 ? "" : $" WHERE {string.Join(" AND ", conditions)}";

    private string Table(Entity entity) => SqlNames.Quote(dialect.Fit(SqlNames.Table(entity.Key)));

    private string Column(Field field) => SqlNames.Quote(Name(field));

    private string Name(Field field) => dialect.Fit(SqlNames.Column(field));

    private string Index(Entity entity, Field field, string use) => dialect.Fit($"{SqlNames.Table(entity.Key)}_{SqlNames.Column(field)}_{use}");
}

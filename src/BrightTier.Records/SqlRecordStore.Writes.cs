using System.Data.Common;
using System.Globalization;
using System.Text;
using System.Text.Json;
using BrightTier.Core.Model;
using Dapper;

namespace BrightTier.Records;

/// <summary>Making, changing, deleting and bringing back, each with its line of history, and what stood against it.</summary>
public sealed partial class SqlRecordStore
{
    /// <summary>How often a transaction that others stood in a circle with is done again.</summary>
    private const int Tries = 8;

    public async Task<IReadOnlyList<SaveOutcome>> Write(IReadOnlyList<RecordWrite> writes, Stamp stamp, CancellationToken cancel)
    {
        for (var attempt = 1; ; attempt++)
        {
            try
            {
                return await WriteOnce(writes, stamp, cancel);
            }
            catch (DbException error) when (attempt < Tries && dialect.IsTurnedAway(error))
            {
                // Two that wait for one another are told apart by the database, which undid this one whole.
                await Task.Delay(Random.Shared.Next(5, 25 * attempt), cancel);
            }
        }
    }

    private async Task<IReadOnlyList<SaveOutcome>> WriteOnce(IReadOnlyList<RecordWrite> writes, Stamp stamp, CancellationToken cancel)
    {
        await using var writer = await dialect.Write(cancel);
        await LockRows(writer, writes, cancel);
        var outcomes = new List<SaveOutcome>();
        foreach (var write in writes)
        {
            var first = outcomes is [SaveOutcome.Success saved, ..] ? saved.Record.Id : 0;
            try
            {
                outcomes.Add(await Write(writer, write, first, stamp));
            }
            catch (DbException error) when (dialect.Read(error) is { } stood)
            {
                // What a constraint refused has ended the transaction: what it was is asked outside.
                await writer.Rollback(cancel);
                outcomes.Add(
                    await Refused(
                        writer.Connection,
                        write.Entity,
                        write is RecordWrite.Create { Values: var made } ? made : (write as RecordWrite.Change)?.Values,
                        stood
                    )
                );
                return outcomes;
            }

            if (outcomes[^1] is not SaveOutcome.Success)
            {
                await writer.Rollback(cancel);
                return outcomes;
            }
        }

        await writer.Commit(cancel);
        return outcomes;
    }

    /// <summary>
    /// Takes the rows that several writes change before the first is written, so that nobody waits for somebody who waits for her.
    /// </summary>
    private async Task LockRows(SqlWriter writer, IReadOnlyList<RecordWrite> writes, CancellationToken cancel)
    {
        if (writes.Count < 2)
        {
            return;
        }

        var rows = writes.Select(write =>
            (
                Table: Table(write.Entity),
                Id: write switch
                {
                    RecordWrite.Change change => change.Id,
                    RecordWrite.Delete delete => delete.Id,
                    _ => 0,
                }
            )
        );
        foreach (
            var table in rows.Where(row => row.Id > 0)
                .GroupBy(row => row.Table, row => row.Id)
                .OrderBy(table => table.Key, StringComparer.Ordinal)
        )
        {
            await dialect.LockRows(writer, table.Key, [.. table.Distinct()], cancel);
        }
    }

    private async Task<SaveOutcome> Write(SqlWriter writer, RecordWrite write, long first, Stamp stamp)
    {
        var (entity, connection) = (write.Entity, writer.Connection);
        switch (write)
        {
            case RecordWrite.Create { Values: var values, Parent: var parent }:
                var all = parent is null ? values : new Dictionary<string, object?>(values) { [parent.Key] = first };
                return await Insert(writer, entity, all, stamp);

            case RecordWrite.Change { Id: var id, Version: var version, Values: var values }:
            {
                var fields = Given(entity, values);
                var set = string.Concat(fields.Select((field, i) => $", {Column(field)} = @v{i}"));
                var record = await Changed(
                    writer,
                    entity,
                    $"UPDATE {Table(entity)} SET version = version + 1, changed_at = @at, changed_by = @by{set} WHERE id = "
                        + $"@id AND version = @version RETURNING {All(entity)}",
                    fields,
                    values,
                    stamp,
                    ("id", id),
                    ("version", version)
                );
                return record is not null ? await Remember(writer, entity, record, "change", stamp) : await Current(connection, entity, id);
            }

            case RecordWrite.Delete { Id: var id, Version: var version }:
            {
                if (await Find(connection, entity, id) is not { } record || record.Version != version)
                {
                    return await Current(connection, entity, id);
                }

                if (
                    await connection.ExecuteAsync($"DELETE FROM {Table(entity)} WHERE id = @id AND version = @version", new { id, version })
                    == 0
                )
                {
                    return await Current(connection, entity, id);
                }

                var last = record with { Version = version + 1 };
                await Write(writer, entity, last, "delete", stamp);
                return new SaveOutcome.Success(last);
            }

            default:
                throw new ArgumentOutOfRangeException(nameof(write));
        }
    }

    private async Task<SaveOutcome> Insert(SqlWriter writer, Entity entity, IReadOnlyDictionary<string, object?> values, Stamp stamp)
    {
        var fields = Given(entity, values);
        var columns = string.Concat(fields.Select(field => $", {Column(field)}"));
        var places = string.Concat(fields.Select((_, i) => $", @v{i}"));
        var insert = Command(
            writer,
            $"INSERT INTO {Table(entity)} (version, created_at, created_by, changed_at, changed_by{columns}) VALUES "
                + $"(1, @at, @by, @at, @by{places}) RETURNING id",
            fields,
            values,
            stamp
        );
        var id = (long)(await insert.ExecuteScalarAsync())!;
        // What was written is known: having the database say it again costs as much as writing it.
        var at = dialect.Stamp(dialect.Stamp(stamp.At));
        var written = entity.Fields.ToDictionary(
            field => field.Key,
            field => values.TryGetValue(field.Key, out var value) ? dialect.FromDatabase(field, dialect.ToDatabase(field, value)) : null,
            StringComparer.Ordinal
        );
        return await Remember(writer, entity, new StoredRecord(id, 1, written, at, stamp.By, at, stamp.By), "create", stamp);
    }

    public async Task<SaveOutcome> Restore(Entity entity, long id, Stamp stamp, CancellationToken cancel)
    {
        await using var writer = await dialect.Write(cancel);
        var connection = writer.Connection;
        if (await Find(connection, entity, id) is { } present)
        {
            return new SaveOutcome.Success(present);
        }

        var row = (IDictionary<string, object?>?)
            await connection.QueryFirstOrDefaultAsync(
                $"SELECT version, data FROM {SqlNames.History} WHERE entity = @entity AND record_id = @id ORDER BY version DESC LIMIT 1",
                new { entity = entity.Key, id }
            );
        if (row is null)
        {
            return new SaveOutcome.NotFound();
        }

        var values = Remembered(entity, (string)row["data"]!);
        var fields = Given(entity, values);
        var parameters = Parameters(fields, values, stamp);
        parameters.Add("id", id);
        parameters.Add("version", (long)row["version"]! + 1);
        try
        {
            await connection.ExecuteAsync(
                $"INSERT INTO {Table(entity)} (id, version, created_at, created_by, changed_at, "
                    + $"changed_by{string.Concat(fields.Select(field => $", {Column(field)}"))}) "
                    + $"VALUES (@id, @version, @at, @by, @at, @by{string.Concat(fields.Select((_, i) => $", @v{i}"))})",
                parameters
            );
        }
        catch (DbException error) when (dialect.Read(error) is { } stood)
        {
            await writer.Rollback(cancel);
            // Somebody else may have brought it back at the same moment: then it is back.
            return await Find(connection, entity, id) is { } back
                ? new SaveOutcome.Success(back)
                : await Refused(connection, entity, values, stood);
        }

        var outcome = await Remember(writer, entity, (await Find(connection, entity, id))!, "restore", stamp);
        await writer.Commit(cancel);
        return outcome;
    }

    private async Task<SaveOutcome> Remember(SqlWriter writer, Entity entity, StoredRecord record, string action, Stamp stamp)
    {
        await Write(writer, entity, record, action, stamp);
        return new SaveOutcome.Success(record);
    }

    private async Task Write(SqlWriter writer, Entity entity, StoredRecord record, string action, Stamp stamp)
    {
        var data = new System.Buffers.ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(data))
        {
            FieldValues.WriteAll(json, record.Values);
        }

        var command = writer.Command(
            $"INSERT INTO {SqlNames.History} (entity, record_id, version, action, at, by, data) VALUES (@entity, @id, "
                + $"@version, @action, @at, @by, @data)"
        );
        Add(command, "entity", entity.Key);
        Add(command, "id", record.Id);
        Add(command, "version", record.Version);
        Add(command, "action", action);
        Add(command, "at", dialect.Stamp(stamp.At));
        Add(command, "by", stamp.By);
        Add(command, "data", Encoding.UTF8.GetString(data.WrittenSpan));
        await command.ExecuteNonQueryAsync();
    }

    /// <summary>
    /// Runs a statement that changes one record and returns it whole; null where it changed none. By hand, since every save passes here.
    /// </summary>
    private async Task<StoredRecord?> Changed(
        SqlWriter writer,
        Entity entity,
        string sql,
        List<Field> fields,
        IReadOnlyDictionary<string, object?> values,
        Stamp stamp,
        params (string Name, object Value)[] more
    )
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
            reader.GetInt64(0),
            reader.GetInt64(1),
            entity
                .Fields.Select((field, i) => KeyValuePair.Create(field.Key, dialect.FromDatabase(field, reader.GetValue(6 + i))))
                .ToDictionary(StringComparer.Ordinal),
            dialect.Stamp(reader.GetValue(2)),
            reader.GetString(3),
            dialect.Stamp(reader.GetValue(4)),
            reader.GetString(5)
        );
        // To its end: what the statement comes up against may show only there.
        while (await reader.ReadAsync()) { }

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

    private static List<Field> Given(Entity entity, IReadOnlyDictionary<string, object?> values) =>
        [.. entity.Fields.Where(field => values.ContainsKey(field.Key))];
}

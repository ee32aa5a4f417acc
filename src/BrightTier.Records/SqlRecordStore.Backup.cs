using System.Data.Common;
using System.Globalization;
using System.Text.Json;
using BrightTier.Core.Model;
using Dapper;

namespace BrightTier.Records;

/// <summary>All records out and in, for backups and for moving from one kind of database to the other.</summary>
public sealed partial class SqlRecordStore
{
    public async Task Dump(Definitions definitions, Func<string?, Stream> open, CancellationToken cancel)
    {
        await using var connection = await dialect.Open(cancel);
        await using var moment = await dialect.Look(connection, cancel);
        foreach (var entity in Own(definitions))
        {
            await Lines(connection, $"{Select(entity)} ORDER BY id", open(entity.Key), (line, row) =>
            {
                var record = Read(entity, row);
                line.WriteNumber("id", record.Id);
                line.WriteNumber("version", record.Version);
                line.WriteString("createdAt", record.CreatedAt!.Value);
                line.WriteString("createdBy", record.CreatedBy);
                line.WriteString("changedAt", record.ChangedAt!.Value);
                line.WriteString("changedBy", record.ChangedBy);
                line.WritePropertyName("values");
                FieldValues.WriteAll(line, record.Values);
            });
        }

        await Lines(
            connection,
            $"SELECT id, entity, hash, row_key FROM {AttachedKeys.Table} ORDER BY id",
            open(AttachedKeys.Table),
            (line, row) =>
            {
                line.WriteNumber("id", (long)row["id"]!);
                line.WriteString("entity", (string)row["entity"]!);
                line.WriteString("hash", (string)row["hash"]!);
                line.WriteString("key", (string)row["row_key"]!);
            }
        );
        await Lines(
            connection,
            $"SELECT entity, record_id, version, action, at, by, data FROM {SqlNames.History} ORDER BY entity, record_id, version",
            open(null),
            (line, row) =>
            {
                line.WriteString("entity", (string)row["entity"]!);
                line.WriteNumber("id", (long)row["record_id"]!);
                line.WriteNumber("version", (long)row["version"]!);
                line.WriteString("action", (string)row["action"]!);
                line.WriteString("at", dialect.Stamp(row["at"]!));
                line.WriteString("by", (string)row["by"]!);
                line.WriteString("data", (string)row["data"]!);
            }
        );
    }

    private static async Task Lines(
        DbConnection connection,
        string sql,
        Stream stream,
        Action<Utf8JsonWriter, IDictionary<string, object?>> write
    )
    {
        await using (stream)
        {
            // Not all rows at once: there may be more than fit.
            await foreach (var row in connection.QueryUnbufferedAsync(sql))
            {
                await using (var line = new Utf8JsonWriter(stream))
                {
                    line.WriteStartObject();
                    write(line, (IDictionary<string, object?>)row);
                    line.WriteEndObject();
                }

                stream.WriteByte((byte)'\n');
            }
        }
    }

    public async Task Load(Definitions definitions, Func<string?, Stream?> open, CancellationToken cancel)
    {
        await using var writer = await dialect.Write(cancel);
        var connection = writer.Connection;
        // No record is without a history: what is there was loaded before.
        if (await connection.ExecuteScalarAsync<long>($"SELECT count(*) FROM {SqlNames.History}") > 0)
        {
            return;
        }

        foreach (var entity in Own(definitions))
        {
            // What it refers to may come later.
            var fields = entity.Fields.Where(field => field.Type is not FieldType.Reference).ToList();
            var insert =
                $"INSERT INTO {Table(entity)} ({Stamps}{string.Concat(fields.Select(field => $", {Column(field)}"))}) VALUES "
                + $"(@id, @version, @createdAt, @createdBy, @changedAt, "
                + $"@changedBy{string.Concat(fields.Select((_, i) => $", @v{i.ToString(CultureInfo.InvariantCulture)}"))})";
            await Each(open(entity.Key), async row =>
            {
                var parameters = Values(fields, row);
                parameters.Add("version", row.GetProperty("version").GetInt64());
                parameters.Add("createdAt", dialect.Stamp(row.GetProperty("createdAt").GetDateTimeOffset()));
                parameters.Add("createdBy", row.GetProperty("createdBy").GetString());
                parameters.Add("changedAt", dialect.Stamp(row.GetProperty("changedAt").GetDateTimeOffset()));
                parameters.Add("changedBy", row.GetProperty("changedBy").GetString());
                await connection.ExecuteAsync(insert, parameters);
            });
        }

        foreach (var entity in Own(definitions))
        {
            var references = entity.Fields.Where(field => field.Type is FieldType.Reference).ToList();
            if (references.Count > 0)
            {
                var values = references.Select((field, i) => $"{Column(field)} = @v{i.ToString(CultureInfo.InvariantCulture)}");
                var update = $"UPDATE {Table(entity)} SET {string.Join(", ", values)} WHERE id = @id";
                await Each(open(entity.Key), row => connection.ExecuteAsync(update, Values(references, row)));
            }
        }

        await LoadHistory(connection, open(null));
        await LoadKeys(connection, open(AttachedKeys.Table));
        foreach (var entity in Own(definitions))
        {
            // Deleted records had numbers too, by which their history is known.
            var last = await connection.ExecuteScalarAsync<long?>(
                $"SELECT max(record_id) FROM {SqlNames.History} WHERE entity = @entity",
                new { entity = entity.Key }
            );
            var highest = await connection.ExecuteScalarAsync<long?>($"SELECT max(id) FROM {Table(entity)}");
            if (Math.Max(last ?? 0, highest ?? 0) is var from and > 0)
            {
                await dialect.CountOn(connection, dialect.Fit(SqlNames.Table(entity.Key)), from);
            }
        }

        await writer.Commit(cancel);
    }

    private Task LoadHistory(DbConnection connection, Stream? lines) => Each(lines, row => connection.ExecuteAsync(
                $"INSERT INTO {SqlNames.History} (entity, record_id, version, action, at, by, data) VALUES (@entity, @id, "
                    + $"@version, @action, @at, @by, @data)",
                new
                {
                    entity = row.GetProperty("entity").GetString(),
                    id = row.GetProperty("id").GetInt64(),
                    version = row.GetProperty("version").GetInt64(),
                    // "act" in a backup of before.
                    action = (row.TryGetProperty("action", out var action) ? action : row.GetProperty("act")).GetString(),
                    at = dialect.Stamp(row.GetProperty("at").GetDateTimeOffset()),
                    by = row.GetProperty("by").GetString(),
                    data = row.GetProperty("data").GetString(),
                }
            ));

    /// <summary>Numbers that rows of attached tables were given are theirs for good.</summary>
    private async Task LoadKeys(DbConnection connection, Stream? keys)
    {
        await Each(keys, row => connection.ExecuteAsync(
                $"INSERT INTO {AttachedKeys.Table} (id, entity, hash, row_key) VALUES (@id, @entity, @hash, @key)",
                new
                {
                    id = row.GetProperty("id").GetInt64(),
                    entity = row.GetProperty("entity").GetString(),
                    hash = row.GetProperty("hash").GetString(),
                    key = row.GetProperty("key").GetString(),
                }
            ));
        if (await connection.ExecuteScalarAsync<long?>($"SELECT max(id) FROM {AttachedKeys.Table}") is { } given)
        {
            await dialect.CountOn(connection, AttachedKeys.Table, given);
        }
    }

    private DynamicParameters Values(List<Field> fields, JsonElement row)
    {
        var parameters = new DynamicParameters();
        parameters.Add("id", row.GetProperty("id").GetInt64());
        var values = row.GetProperty("values");
        for (var i = 0; i < fields.Count; i++)
        {
            object? value = null;
            if (values.TryGetProperty(fields[i].Key, out var json) && FieldValues.Read(fields[i], json, out value) is { } problem)
            {
                throw new InvalidDataException($"The backup has a value that '{fields[i].Key}' does not take: {problem}");
            }

            parameters.Add($"v{i.ToString(CultureInfo.InvariantCulture)}", dialect.ToDatabase(fields[i], value));
        }

        return parameters;
    }

    private static async Task Each(Stream? stream, Func<JsonElement, Task> act)
    {
        if (stream is null)
        {
            return;
        }

        await using var lines = stream;
        using var reader = new StreamReader(stream);
        while (await reader.ReadLineAsync() is { } line)
        {
            using var json = JsonDocument.Parse(line);
            await act(json.RootElement);
        }
    }
}

using System.Data.Common;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Npgsql;

namespace Bare;

/// <summary>
/// P10's reference: a record of 20 fields and its line of history written by ADO.NET in one transaction, with the same durability, behind a
/// bare endpoint.
/// </summary>
internal static class RecordSave
{
    private const string Columns = "f1, f2, f3, f4, f5, f6, f7, f8, f9, f10, f11, f12, f13, f14, f15, f16, f17, f18, f19, f20";

    /// <param name="database">A connection string of PostgreSQL, or a file of SQLite; null for none.</param>
    public static void Map(WebApplication app, string? database)
    {
        if (database is null)
        {
            return;
        }

        var postgres = database.Contains("Host=", StringComparison.Ordinal);
        var source = postgres ? NpgsqlDataSource.Create(database) : null;
        Execute(
                "CREATE TABLE plain (id "
                    + (postgres ? "bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY" : "INTEGER PRIMARY KEY AUTOINCREMENT")
                    + ", version bigint, created_at text, created_by text, changed_at text, changed_by text, "
                    + string.Join(
                        ", ",
                        Columns
                            .Split(", ")
                            .Select((name, i) => $"{name} {(i % 2 == 0 ? "text" : postgres ? "numeric" : "REAL")}")
                    )
                    + ")"
            )
            .Wait();
        Execute("CREATE TABLE history (entity text, record_id bigint, version bigint, act text, at text, by text, data text)").Wait();
        // One writer at a time, as SQLite has it: waiting in a line is faster than being turned away.
        var turn = new SemaphoreSlim(postgres ? 64 : 1);
        app.MapPost("/save", async (HttpContext http) =>
        {
            using var json = await JsonDocument.ParseAsync(http.Request.Body);
            var values = json.RootElement.GetProperty("values");
            await turn.WaitAsync();
            try
            {
                await using var connection = await Open();
                var id = await Save(connection, values);
                http.Response.StatusCode = 201;
                await http.Response.WriteAsJsonAsync(new SaveAnswer(id, 1, values.Clone()), Wire.Default.SaveAnswer);
            }
            finally
            {
                turn.Release();
            }
        });

        async Task<DbConnection> Open()
        {
            if (source is not null)
            {
                return await source.OpenConnectionAsync();
            }

            var connection = new SqliteConnection($"Data Source={database};Pooling=True;Default Timeout=30");
            await connection.OpenAsync();
            await using var pragma = connection.CreateCommand();
            pragma.CommandText = "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;";
            await pragma.ExecuteNonQueryAsync();
            return connection;
        }

        async Task Execute(string sql)
        {
            await using var connection = await Open();
            await using var command = connection.CreateCommand();
            command.CommandText = sql;
            await command.ExecuteNonQueryAsync();
        }
    }

    private static async Task<long> Save(DbConnection connection, JsonElement values)
    {
        await using var transaction = await connection.BeginTransactionAsync();
        await using var insert = connection.CreateCommand();
        insert.Transaction = transaction;
        insert.CommandText =
            $"INSERT INTO plain (version, created_at, created_by, changed_at, changed_by, {Columns}) "
            + $"VALUES (1, @at, @by, @at, @by, {string.Join(", ", Columns.Split(", ").Select(name => "@" + name))}) RETURNING id";
        var at = DateTimeOffset.UtcNow.ToString("O");
        Add(insert, "at", at);
        Add(insert, "by", "ada");
        foreach (var value in values.EnumerateObject())
        {
            Add(insert, value.Name, value.Value.ValueKind == JsonValueKind.String ? value.Value.GetString()! : value.Value.GetDecimal());
        }

        var id = (long)(await insert.ExecuteScalarAsync())!;
        await using var history = connection.CreateCommand();
        history.Transaction = transaction;
        history.CommandText =
            "INSERT INTO history (entity, record_id, version, act, at, by, data) VALUES ('plain', @id, 1, 'create', " + "@at, @by, @data)";
        Add(history, "id", id);
        Add(history, "at", at);
        Add(history, "by", "ada");
        Add(history, "data", values.GetRawText());
        await history.ExecuteNonQueryAsync();
        await transaction.CommitAsync();
        return id;
    }

    private static void Add(DbCommand command, string name, object value)
    {
        var parameter = command.CreateParameter();
        parameter.ParameterName = name;
        parameter.Value = value;
        command.Parameters.Add(parameter);
    }
}

internal sealed record SaveAnswer(long Id, long Version, JsonElement Values);

[System.Text.Json.Serialization.JsonSerializable(typeof(SaveAnswer))]
internal sealed partial class Wire : System.Text.Json.Serialization.JsonSerializerContext;

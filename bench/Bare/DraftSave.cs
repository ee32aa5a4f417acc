using Microsoft.Data.Sqlite;

namespace Bare;

/// <summary>
/// P16's reference: a draft's text and the line of its history written in one transaction, with the same durability, behind a bare
/// endpoint.
/// </summary>
internal static class DraftSave
{
    /// <param name="database">A file of SQLite; null, or another database, for none.</param>
    public static void Map(WebApplication app, string? database)
    {
        if (database is null || database.Contains("Host=", StringComparison.Ordinal))
        {
            return;
        }

        using (var connection = Open())
        {
            Execute(connection, null, "CREATE TABLE draft (key text PRIMARY KEY, revision bigint, text text, at text, by text)");
            Execute(connection, null, "CREATE TABLE change (key text, revision bigint, edits text, at text, by text)");
            Execute(connection, null, "INSERT INTO draft VALUES ('form', 1, '', '', '')");
        }

        app.MapPost("/draft", async (HttpContext http) =>
        {
            using var reader = new StreamReader(http.Request.Body);
            var text = await reader.ReadToEndAsync();
            using var connection = Open();
            using var transaction = connection.BeginTransaction();
            var (at, edits) = (DateTimeOffset.UtcNow.ToString("O"), text[..Math.Min(text.Length, 200)]);
            Execute(
                connection,
                transaction,
                "UPDATE draft SET revision = revision + 1, text = $text, at = $at, by = 'ada' WHERE key = 'form'",
                ("$text", text),
                ("$at", at)
            );
            Execute(
                connection,
                transaction,
                "INSERT INTO change SELECT key, revision, $edits, $at, 'ada' FROM draft WHERE key = 'form'",
                ("$edits", edits),
                ("$at", at)
            );
            transaction.Commit();
            return "kept";
        });

        SqliteConnection Open()
        {
            var connection = new SqliteConnection($"Data Source={database}.drafts;Pooling=True;Default Timeout=30");
            connection.Open();
            Execute(connection, null, "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;");
            return connection;
        }
    }

    private static void Execute(SqliteConnection connection, SqliteTransaction? transaction, string sql, params (string, string)[] values)
    {
        using var command = connection.CreateCommand();
        command.Transaction = transaction;
        command.CommandText = sql;
        foreach (var (name, value) in values)
        {
            command.Parameters.AddWithValue(name, value);
        }

        command.ExecuteNonQuery();
    }
}

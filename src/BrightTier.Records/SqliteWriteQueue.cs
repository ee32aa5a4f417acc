using System.Data.Common;
using Microsoft.Data.Sqlite;

namespace BrightTier.Records;

/// <summary>
/// The one connection through which SQLite is written, for one writer after the other. Waiting in a line costs nothing, where being turned
/// away by the
/// database and trying again costs a sleep each time; and a connection that stays keeps its statements prepared, which for a wide table
/// takes as long
/// as running them.
/// </summary>
internal sealed class SqliteWriteQueue(Func<CancellationToken, Task<DbConnection>> open) : IDisposable
{
    /// <summary>Saves of one entity differ by the fields they give: some hundred statements are many.</summary>
    private const int Kept = 100;

    private readonly SemaphoreSlim line = new(1, 1);
    private readonly Dictionary<string, SqliteCommand> statements = new(StringComparer.Ordinal);
    private SqliteConnection? connection;

    public async Task<SqlWriter> Take(CancellationToken cancel)
    {
        await line.WaitAsync(cancel);
        try
        {
            connection ??= (SqliteConnection)await open(cancel);
            // Immediate: what others than this process write is waited for at the start instead of failing in the middle.
            return new Writer(this, connection, connection.BeginTransaction(deferred: false));
        }
        catch
        {
            Drop();
            line.Release();
            throw;
        }
    }

    public void Dispose()
    {
        Drop();
        line.Dispose();
    }

    private SqliteCommand Command(string sql, SqliteTransaction transaction)
    {
        if (!statements.TryGetValue(sql, out var command))
        {
            if (statements.Count == Kept)
            {
                Forget();
            }

            command = new SqliteCommand(sql, connection);
            statements.Add(sql, command);
        }

        command.Transaction = transaction;
        command.Parameters.Clear();
        return command;
    }

    private void Forget()
    {
        foreach (var command in statements.Values)
        {
            command.Dispose();
        }

        statements.Clear();
    }

    private void Drop()
    {
        Forget();
        connection?.Dispose();
        connection = null;
    }

    private sealed class Writer(SqliteWriteQueue writing, SqliteConnection connection, SqliteTransaction transaction)
        : SqlWriter(connection, transaction)
    {
        public override DbCommand Command(string sql) => writing.Command(sql, transaction);

        protected override ValueTask ReleaseConnection(bool whole)
        {
            if (!whole)
            {
                writing.Drop();
            }

            writing.line.Release();
            return ValueTask.CompletedTask;
        }
    }
}

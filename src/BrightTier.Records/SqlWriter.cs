using System.Data.Common;

namespace BrightTier.Records;

/// <summary>A connection in a transaction that writes. What is not committed when it is disposed is undone.</summary>
public class SqlWriter(DbConnection connection, DbTransaction transaction) : IAsyncDisposable
{
    public DbConnection Connection => connection;

    /// <summary>A statement in the transaction, without parameters. The writer's: it is not disposed by whoever runs it.</summary>
    public virtual DbCommand Command(string sql)
    {
        var command = connection.CreateCommand();
        command.CommandText = sql;
        command.Transaction = transaction;
        return command;
    }

    public Task Commit(CancellationToken cancel) => transaction.CommitAsync(cancel);

    /// <summary>Undoes what was written; the connection can be asked after it.</summary>
    public Task Rollback(CancellationToken cancel) => transaction.RollbackAsync(cancel);

    public async ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        var whole = false;
        try
        {
            await transaction.DisposeAsync();
            whole = true;
        }
        finally
        {
            await ReleaseConnection(whole);
        }
    }

    /// <summary>Gives the connection back; <paramref name="whole"/> where it can be used again.</summary>
    protected virtual ValueTask ReleaseConnection(bool whole) => connection.DisposeAsync();
}

using System.Data.Common;
using Npgsql;
using NpgsqlTypes;

namespace BrightTier.Records;

/// <summary>
/// A copy of the database that follows it (streaming replication) and answers reads. How far it has come is a position in the database's
/// log;
/// whoever wrote reads from it once it has come to where she wrote, and nobody while it is far behind or away.
/// </summary>
public sealed class ReadReplica(NpgsqlDataSource replica, NpgsqlDataSource primary, TimeProvider time) : IAsyncDisposable
{
    /// <summary>Further behind it answers nobody.</summary>
    public static readonly TimeSpan MostLag = TimeSpan.FromSeconds(5);

    /// <summary>Once it failed, nobody tries for so long.</summary>
    private static readonly TimeSpan Aside = TimeSpan.FromSeconds(2);

    private readonly AsyncLocal<bool> allowed = new();
    private readonly Lock gate = new();

    /// <summary>Where the database was when, as far as the replica has not come there.</summary>
    private readonly Queue<(DateTimeOffset At, ulong Position)> ahead = new();
    private DateTimeOffset asideUntil = DateTimeOffset.MinValue;
    private DateTimeOffset looked = DateTimeOffset.MinValue;
    private ulong reached;

    /// <summary>Whether what runs from here on may be read from it.</summary>
    public bool IsAllowed
    {
        get => allowed.Value && time.GetUtcNow() >= asideUntil;
        set => allowed.Value = value;
    }

    /// <summary>Whether it may be read from by somebody who is to see what was written up to a position.</summary>
    public bool HasCome(ulong position)
    {
        var now = time.GetUtcNow();
        lock (gate)
        {
            return now >= asideUntil
                && now - looked < MostLag
                && reached >= position
                && (ahead.Count == 0 || now - ahead.Peek().At < MostLag);
        }
    }

    /// <summary>Looks how far the database and the replica have come.</summary>
    public async Task Look(CancellationToken cancel)
    {
        var at = time.GetUtcNow();
        var position = await Written(cancel);
        await using var connection = await replica.OpenConnectionAsync(cancel);
        var come = await Position(connection, "SELECT pg_last_wal_replay_lsn()", cancel);
        lock (gate)
        {
            ahead.Enqueue((at, position));
            reached = come;
            looked = at;
            while (ahead.TryPeek(out var first) && first.Position <= reached)
            {
                ahead.Dequeue();
            }
        }
    }

    /// <summary>Where the database is now: what was committed before is before it.</summary>
    public async Task<ulong> Written(CancellationToken cancel)
    {
        await using var connection = await primary.OpenConnectionAsync(cancel);
        return await Position(connection, "SELECT pg_current_wal_insert_lsn()", cancel);
    }

    /// <summary>Reads from the replica; false where it could not, and nobody tries for a while.</summary>
    public async Task<(bool Read, T? Value)> Read<T>(Func<DbConnection, Task<T>> read, CancellationToken cancel)
    {
        try
        {
            await using var connection = await replica.OpenConnectionAsync(cancel);
            return (true, await read(connection));
        }
        // It is away, in the way of what it has to follow, or not yet where a column is that was added.
        catch (DbException)
        {
            asideUntil = time.GetUtcNow() + Aside;
            return (false, default);
        }
    }

    private static async Task<ulong> Position(NpgsqlConnection connection, string question, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(question, connection);
        return await command.ExecuteScalarAsync(cancel) is NpgsqlLogSequenceNumber position
            ? (ulong)position
            : throw new InvalidOperationException("It follows no other database.");
    }

    public ValueTask DisposeAsync() => replica.DisposeAsync();
}

using System.Data.Common;
using BrightTier.Core.Model;

namespace BrightTier.Records;

/// <summary>What stood against a change: a value that another record has, or a reference to nothing or from something.</summary>
/// <param name="About">The database's words, in which the column can be found.</param>
public sealed record Violation(bool OfUniqueness, string About);

/// <summary>All that two kinds of database do differently: types, values, and the few words of SQL that have no common form.</summary>
public abstract class SqlDialect
{
    /// <summary>Types of the columns every table has.</summary>
    public abstract string Id { get; }

    public abstract string Whole { get; }

    public abstract string Moment { get; }

    /// <summary>What stands behind the definition of the history's table.</summary>
    public virtual string HistoryOptions => "";

    public abstract string True { get; }

    public abstract string False { get; }

    /// <summary>The third truth value: of what cannot be decided.</summary>
    public abstract string Unknown { get; }

    public abstract string ColumnType(Field field);

    public abstract object? ToDatabase(Field field, object? value);

    public abstract object? FromDatabase(Field field, object? value);

    public abstract object Stamp(DateTimeOffset at);

    public abstract DateTimeOffset Stamp(object at);

    /// <summary>A name no longer than the database takes.</summary>
    public virtual string Fit(string name) => name;

    /// <summary>Whether two things are the same, nothing being the same as nothing: never <see cref="Unknown"/>.</summary>
    public abstract string Same(string one, string other);

    public abstract string Differs(string one, string other);

    /// <summary>Whether a column is a value that is something; an index leads to it.</summary>
    public abstract string Is(string column, string value);

    /// <summary>A text for the order of a list, where capitals are as small letters.</summary>
    public abstract string Folded(string text);

    /// <summary>Whether a text has a part that fits a pattern of LIKE, capitals as small letters.</summary>
    public abstract string Like(string column, string pattern);

    /// <summary>Whether several choices have one among them.</summary>
    public abstract string Holds(string choices, string one);

    /// <summary>Where in a text a part begins, from 1; 0 where it is not in it.</summary>
    public abstract string Position(string text, string part);

    /// <summary>Whether a number is one of those given as the parameter.</summary>
    public abstract string OneOf(string column, string parameter);

    public abstract Task<DbConnection> Open(CancellationToken cancel);

    /// <summary>Reads; from a copy of the database where there is one, and whoever asks may.</summary>
    public virtual async Task<T> Read<T>(Func<DbConnection, Task<T>> read, CancellationToken cancel)
    {
        await using var connection = await Open(cancel);
        return await read(connection);
    }

    /// <summary>A transaction for changes; where there is one writer at a time, when it is one's turn.</summary>
    public abstract Task<SqlWriter> Write(CancellationToken cancel);

    /// <summary>
    /// Waits until no other transaction changes these rows, which then are this one's until it ends. Whoever changes several takes them all
    /// first, in
    /// the order of tables and ids: taken one by one as they come, two that change the same rows in opposite order would wait for one
    /// another.
    /// </summary>
    public virtual Task LockRows(SqlWriter writer, string table, IReadOnlyCollection<long> ids, CancellationToken cancel) =>
        Task.CompletedTask;

    /// <summary>Waits until nobody else changes tables; to the end of the transaction.</summary>
    public virtual Task LockTables(DbConnection connection) => Task.CompletedTask;

    /// <summary>A transaction that reads everything as it is at one moment, and keeps nobody from writing.</summary>
    public abstract Task<DbTransaction> Look(DbConnection connection, CancellationToken cancel);

    /// <summary>Lets a table go on counting behind a number.</summary>
    public abstract Task CountOn(DbConnection connection, string table, long from);

    /// <summary>A statement that gives the name of every table there is with that of each of its columns.</summary>
    public abstract string Columns { get; }

    /// <summary>Whether the database gave up a transaction because of others, so that doing it again may succeed.</summary>
    public virtual bool IsTurnedAway(DbException error) => false;

    /// <summary>What constraint an error tells of; null where it is of another kind.</summary>
    public abstract Violation? Read(DbException error);
}

using System.Collections.Immutable;
using System.Data.Common;
using BrightTier.Core.Attachment;
using BrightTier.Core.Model;

namespace BrightTier.Records.Attachment;

/// <summary>What a database said against a change, and the column it is about, where it tells.</summary>
/// <param name="Columns">The columns of the constraint; empty where it is about none or does not say.</param>
public sealed record DatabaseRefusal(RefusalKind Kind, ImmutableArray<string> Columns, string Words);

/// <summary>What kind of rule of the database a change came up against.</summary>
public enum RefusalKind
{
    Unique,
    Reference,
    Empty,

    /// <summary>A check, a trigger, a right, a value the type does not take.</summary>
    Other,
}

/// <summary>
/// A database that is not ours: its catalogue is read, its rows are read and written through ordinary SQL with the rights of the
/// connection. No statement here changes its schema.
/// </summary>
public abstract class AttachedDatabase(string name) : IDisposable
{
    /// <summary>What the connection is called.</summary>
    public string Name => name;

    /// <summary>postgresql or sqlite.</summary>
    public abstract string Kind { get; }

    /// <summary>Where it is, without user and password.</summary>
    public abstract string Address { get; }

    /// <summary>Words of SQL for conditions and searches.</summary>
    internal abstract SqlDialect Words { get; }

    /// <summary>Its tables and views.</summary>
    /// <exception cref="DbException">It is not there, or does not let the connection in.</exception>
    public abstract Task<IReadOnlyList<DatabaseTable>> Tables(CancellationToken cancel);

    /// <summary>Why it does not answer, in its own words; null where it does.</summary>
    public async Task<string?> Problem(CancellationToken cancel)
    {
        try
        {
            await using var connection = await Open(cancel);
            await using var command = connection.Command(Probe);
            await command.ExecuteScalarAsync(cancel);
            return null;
        }
        catch (Exception error) when (error is DbException or TimeoutException or System.Net.Sockets.SocketException)
        {
            return error.Message;
        }
    }

    /// <summary>What only a database of its kind answers.</summary>
    protected abstract string Probe { get; }

    internal abstract Task<DbConnection> Open(CancellationToken cancel);

    /// <summary>A transaction that writes.</summary>
    internal abstract Task<DbTransaction> Begin(DbConnection connection, CancellationToken cancel);

    /// <summary>What stands behind a SELECT that takes its row until the transaction ends.</summary>
    internal abstract string Taken { get; }

    /// <summary>How a column is selected, so that reading it never fails.</summary>
    internal abstract string Selected(string column);

    /// <summary>A parameter as a value of a column's type.</summary>
    internal abstract string Placed(string parameter, string type);

    /// <summary>A column where it is compared with a parameter.</summary>
    internal virtual string Compared(string column, TypedColumn of) => column;

    /// <summary>What is given to the driver for part of a key, which was read as a text.</summary>
    internal abstract object KeyPart(string text, string type);

    /// <summary>A selected value as part of a key, or for telling whether a row is as it was.</summary>
    internal abstract string? Text(object? selected);

    /// <summary>A selected value as a field has it; null where it is empty or cannot be told as one.</summary>
    internal abstract object? Read(Field field, object? selected);

    /// <summary>A field's value as it is given to the driver.</summary>
    internal abstract object? Write(Field field, object? value);

    /// <summary>A value as conditions give it to be compared.</summary>
    internal abstract object? ToCompare(Field field, object? value);

    /// <summary>What stands between columns and values of a row that is given its own number.</summary>
    internal virtual string OwnNumber => "";

    /// <summary>What the database said against a change; null where the error is none of the change's.</summary>
    internal abstract Task<DatabaseRefusal?> Refusal(DbConnection connection, AttachedTable table, DbException error);

    /// <summary>Whether an error tells that the schema is another one: a table or a column is not there.</summary>
    internal abstract bool IsChanged(DbException error);

    internal static string Quote(string part) => SqlNames.Quote(part);

    internal static string Table(AttachedTable table) =>
        table.Schema is null ? Quote(table.Name) : $"{Quote(table.Schema)}.{Quote(table.Name)}";

    public void Dispose()
    {
        Dispose(true);
        GC.SuppressFinalize(this);
    }

    protected virtual void Dispose(bool disposing) { }
}

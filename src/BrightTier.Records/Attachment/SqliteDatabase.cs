using System.Collections.Immutable;
using System.Data.Common;
using System.Globalization;
using System.Text.RegularExpressions;
using BrightTier.Core.Attachment;
using BrightTier.Core.Model;
using Dapper;
using Microsoft.Data.Sqlite;

namespace BrightTier.Records.Attachment;

/// <summary>A file of SQLite that is not ours. It is never made, and nothing of how it is kept is changed.</summary>
public sealed partial class SqliteDatabase : AttachedDatabase
{
    private const string Moments = "yyyy-MM-dd HH:mm:ss";

    private readonly string connectionString;
    private readonly SqliteDialect words = new(":memory:");

    /// <param name="connectionString">As the driver has it: Data Source=/path/of.db.</param>
    /// <exception cref="ArgumentException">It is none.</exception>
    public SqliteDatabase(string name, string connectionString)
        : base(name)
    {
        var builder = new SqliteConnectionStringBuilder(connectionString);
        if (builder.Mode is SqliteOpenMode.ReadWriteCreate)
        {
            builder.Mode = SqliteOpenMode.ReadWrite;
        }

        // What a schema declares is held to, unless the connection says otherwise.
        builder.ForeignKeys ??= true;
        builder.Pooling = true;
        this.connectionString = builder.ToString();
        Address = builder.DataSource;
    }

    public override string Kind => "sqlite";

    public override string Address { get; }

    internal override SqlDialect Words => words;

    protected override string Probe => "SELECT count(*) FROM sqlite_schema";

    public override async Task<IReadOnlyList<DatabaseTable>> Tables(CancellationToken cancel)
    {
        await using var connection = await Open(cancel);
        return await SqliteCatalogue.Read(connection, cancel);
    }

    internal override async Task<DbConnection> Open(CancellationToken cancel)
    {
        var connection = new SqliteConnection(connectionString);
        try
        {
            await connection.OpenAsync(cancel);
            // Of the connection alone: nothing of it is kept in the file.
            await connection.ExecuteAsync("PRAGMA busy_timeout=10000");
            return connection;
        }
        catch
        {
            await connection.DisposeAsync();
            throw;
        }
    }

    internal override Task<DbTransaction> Begin(DbConnection connection, CancellationToken cancel) =>
        Task.FromResult<DbTransaction>(((SqliteConnection)connection).BeginTransaction(deferred: false));

    internal override string Taken => "";

    internal override string Selected(string column) => column;

    internal override string Placed(string parameter, string type) => parameter;

    internal override object KeyPart(string text, string type) =>
        new TypedColumn("", type).IsWhole
        && long.TryParse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var number)
            ? number
            : text;

    internal override string? Text(object? selected) =>
        selected switch
        {
            null or DBNull => null,
            byte[] bytes => Convert.ToHexString(bytes),
            double number => number.ToString("R", CultureInfo.InvariantCulture),
            _ => Convert.ToString(selected, CultureInfo.InvariantCulture),
        };

    internal override object? Read(Field field, object? selected) =>
        Text(selected) is { Length: > 0 } text ? AttachedValues.Read(field, text) : null;

    internal override object? Write(Field field, object? value) =>
        value switch
        {
            bool flag => flag ? 1L : 0L,
            decimal number when decimal.Truncate(number) == number && Math.Abs(number) < 1e15m => (long)number,
            decimal number => (double)number,
            DateOnly date => date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            TimeOnly time => time.ToString("HH:mm:ss", CultureInfo.InvariantCulture),
            DateTimeOffset moment => moment.UtcDateTime.ToString(Moments, CultureInfo.InvariantCulture),
            string choice when field.Type is FieldType.Choice => AttachedValues.WordOf(field, choice),
            _ => value,
        };

    internal override object? ToCompare(Field field, object? value) => Write(field, value);

    /// <summary>Extended result codes of SQLITE_CONSTRAINT: the message names the columns, as table.column.</summary>
    internal override Task<DatabaseRefusal?> Refusal(DbConnection connection, AttachedTable table, DbException error)
    {
        var refusal = error is not SqliteException sqlite
            ? null
            : sqlite.SqliteExtendedErrorCode switch
            {
                2067 or 1555 or 2579 => new DatabaseRefusal(RefusalKind.Unique, Columns(error.Message), Said(error.Message)),
                787 => new DatabaseRefusal(RefusalKind.Reference, [], Said(error.Message)),
                1299 => new DatabaseRefusal(RefusalKind.Empty, Columns(error.Message), Said(error.Message)),
                _ when sqlite.SqliteErrorCode is 19 or 8 or 20 or 1 => new DatabaseRefusal(RefusalKind.Other, [], Said(error.Message)),
                _ => null,
            };
        return Task.FromResult(refusal);
    }

    /// <summary>SQLITE_ERROR: the statement cannot be read by this schema.</summary>
    internal override bool IsChanged(DbException error) => error is SqliteException { SqliteErrorCode: 1 };

    private static ImmutableArray<string> Columns(string message) => [.. Column().Matches(message).Select(match => match.Value)];

    [GeneratedRegex(@"(?<=\.)\w+")]
    private static partial Regex Column();

    /// <summary>"SQLite Error 19: 'CHECK constraint failed: price'." without what is the driver's.</summary>
    private static string Said(string message) =>
        message.IndexOf('\'', StringComparison.Ordinal) is var from and > 0 && message.LastIndexOf('\'') is var to && to > from
            ? message[(from + 1)..to]
            : message;

    protected override void Dispose(bool disposing)
    {
        words.Dispose();
        base.Dispose(disposing);
    }
}

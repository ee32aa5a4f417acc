using System.Collections.Immutable;
using System.Data.Common;
using System.Globalization;
using System.Text.Json;
using BrightTier.Core.Model;
using Dapper;
using Microsoft.Data.Sqlite;

namespace BrightTier.Records;

/// <summary>
/// SQLite: decimals with numeric affinity (exact to 15 digits), money in minor units, moments as text of ISO 8601, several choices as a
/// JSON list.
/// </summary>
public sealed class SqliteDialect : SqlDialect, IDisposable
{
    private readonly string connectionString;
    private readonly SqliteWriteQueue writing;
    private volatile bool inLog;

    public SqliteDialect(string file)
    {
        connectionString = new SqliteConnectionStringBuilder
        {
            DataSource = file,
            Pooling = true,
            DefaultTimeout = 30,
        }.ToString();
        writing = new SqliteWriteQueue(Open);
    }

    public override string Id => "INTEGER PRIMARY KEY AUTOINCREMENT";

    public override string Whole => "INTEGER";

    public override string Moment => "TIMESTAMP";

    public override string HistoryOptions => " WITHOUT ROWID";

    public override string True => "1";

    public override string False => "0";

    public override string Unknown => "NULL";

    public override string ColumnType(Field field) =>
        field.Type switch
        {
            FieldType.Integer or FieldType.Rating or FieldType.Money => "INTEGER",
            FieldType.Decimal => string.Create(CultureInfo.InvariantCulture, $"DECIMAL(15,{field.Scale})"),
            FieldType.Boolean => "BOOLEAN",
            FieldType.Reference => $"INTEGER REFERENCES {SqlNames.Quote(SqlNames.Table(field.Target!))} (id)",
            FieldType.Choices => "TEXT",
            FieldType.Date => "DATE",
            FieldType.Time => "TIME",
            FieldType.DateTime => "TIMESTAMP",
            _ => "TEXT",
        };

    public override object? ToDatabase(Field field, object? value) =>
        value switch
        {
            decimal number when field.Type is FieldType.Money => (long)(number * 100m),
            decimal number => (double)number,
            bool flag => flag ? 1L : 0L,
            DateOnly date => date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            TimeOnly time => time.ToString("HH:mm:ss", CultureInfo.InvariantCulture),
            DateTimeOffset moment => Stamp(moment),
            ImmutableArray<string> chosen => JsonSerializer.Serialize(chosen.AsEnumerable()),
            _ => value,
        };

    public override object? FromDatabase(Field field, object? value) =>
        value is null or DBNull
            ? null
            : field.Type switch
            {
                FieldType.Money => Convert.ToInt64(value, CultureInfo.InvariantCulture) / 100m,
                FieldType.Decimal => decimal.Round(Convert.ToDecimal(value, CultureInfo.InvariantCulture), field.Scale),
                FieldType.Boolean => Convert.ToInt64(value, CultureInfo.InvariantCulture) != 0,
                FieldType.Integer or FieldType.Rating or FieldType.Reference => Convert.ToInt64(value, CultureInfo.InvariantCulture),
                FieldType.Date => DateOnly.Parse((string)value, CultureInfo.InvariantCulture),
                FieldType.Time => TimeOnly.Parse((string)value, CultureInfo.InvariantCulture),
                FieldType.DateTime => Stamp(value),
                FieldType.Choices => JsonSerializer.Deserialize<string[]>((string)value)!.ToImmutableArray(),
                _ => Convert.ToString(value, CultureInfo.InvariantCulture),
            };

    public override object Stamp(DateTimeOffset at) => at.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ss.fffZ", CultureInfo.InvariantCulture);

    public override DateTimeOffset Stamp(object at) =>
        DateTimeOffset.Parse((string)at, CultureInfo.InvariantCulture, DateTimeStyles.AdjustToUniversal);

    public override string Same(string one, string other) => $"({one} IS {other})";

    public override string Differs(string one, string other) => $"({one} IS NOT {other})";

    public override string Is(string column, string value) => $"({column} IS {value})";

    public override string Folded(string text) => $"{text} COLLATE NOCASE";

    public override string Like(string column, string pattern) => $"{column} LIKE {pattern} ESCAPE '\\'";

    public override string Holds(string choices, string one) =>
        $"EXISTS (SELECT 1 FROM json_each({choices}) AS each WHERE each.value = {one})";

    public override string Position(string text, string part) => $"instr({text}, {part})";

    public override string OneOf(string column, string parameter) => $"{column} IN {parameter}";

    public override async Task<DbConnection> Open(CancellationToken cancel)
    {
        var connection = new SqliteConnection(connectionString);
        await connection.OpenAsync(cancel);
        // The journal's mode is kept in the file; the others are the connection's. Others are waited for by the database, some milliseconds
        // at a time: the driver, turned away, sleeps for 150.
        await connection.ExecuteAsync(
            "PRAGMA busy_timeout=30000; " + (inLog ? "" : "PRAGMA journal_mode=WAL; ") + "PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON"
        );
        inLog = true;
        return connection;
    }

    public override Task<SqlWriter> Write(CancellationToken cancel) => writing.Take(cancel);

    public void Dispose() => writing.Dispose();

    public override Task<DbTransaction> Look(DbConnection connection, CancellationToken cancel) =>
        Task.FromResult<DbTransaction>(((SqliteConnection)connection).BeginTransaction(deferred: true));

    public override async Task CountOn(DbConnection connection, string table, long from)
    {
        await connection.ExecuteAsync("DELETE FROM sqlite_sequence WHERE name = @table", new { table });
        await connection.ExecuteAsync("INSERT INTO sqlite_sequence (name, seq) VALUES (@table, @from)", new { table, from });
    }

    public override string Columns => "SELECT m.name, c.name FROM sqlite_schema m, pragma_table_info(m.name) c WHERE m.type = 'table'";

    /// <summary>Extended result codes: SQLITE_CONSTRAINT_UNIQUE and SQLITE_CONSTRAINT_FOREIGNKEY.</summary>
    public override Violation? Read(DbException error) =>
        error is SqliteException { SqliteExtendedErrorCode: var code and (2067 or 787) }
            ? new Violation(code == 2067, error.Message)
            : null;
}

using System.Collections.Immutable;
using System.Data.Common;
using System.Globalization;
using System.Text.RegularExpressions;
using BrightTier.Core.Attachment;
using BrightTier.Core.Model;
using Dapper;
using Npgsql;

namespace BrightTier.Records.Attachment;

/// <summary>
/// A PostgreSQL that is not ours. Values travel as the texts the database makes of them and takes for them, so that there is no type that
/// cannot be read; moments are those of UTC.
/// </summary>
public sealed partial class PostgresDatabase : AttachedDatabase
{
    /// <summary>How the database writes days, spans and numbers, whatever it or its user was set to.</summary>
    private const string Writing = "SET DateStyle = 'ISO, YMD'; SET IntervalStyle = 'iso_8601'; SET extra_float_digits = 1";

    private readonly NpgsqlDataSource source;
    private readonly PostgresDialect words;

    /// <param name="connectionString">As the driver has it: Host=…;Database=…;Username=….</param>
    /// <exception cref="ArgumentException">It is none.</exception>
    public PostgresDatabase(string name, string connectionString)
        : base(name)
    {
        var builder = new NpgsqlConnectionStringBuilder(connectionString)
        {
            Timezone = "UTC",
            ApplicationName = "bright-tier",
            Timeout = 5,
            CommandTimeout = 30,
            // Nothing here leaves anything in a session but how values are written, which is said once for each.
            NoResetOnClose = true,
        };
        builder.MaxAutoPrepare = builder.MaxAutoPrepare == 0 ? 50 : builder.MaxAutoPrepare;
        Address = $"{builder.Host}:{builder.Port.ToString(CultureInfo.InvariantCulture)}/{builder.Database}";
        var sources = new NpgsqlDataSourceBuilder(builder.ConnectionString);
        sources.UsePhysicalConnectionInitializer(connection => connection.Execute(Writing), connection => connection.ExecuteAsync(Writing));
        source = sources.Build();
        words = new PostgresDialect(source);
    }

    public override string Kind => "postgresql";

    public override string Address { get; }

    internal override SqlDialect Words => words;

    protected override string Probe => "SELECT 1";

    public override async Task<IReadOnlyList<DatabaseTable>> Tables(CancellationToken cancel)
    {
        await using var connection = await Open(cancel);
        return await PostgresCatalogue.Read(connection, cancel);
    }

    internal override async Task<DbConnection> Open(CancellationToken cancel) => await source.OpenConnectionAsync(cancel);

    internal override async Task<DbTransaction> Begin(DbConnection connection, CancellationToken cancel) =>
        await connection.BeginTransactionAsync(cancel);

    internal override string Taken => " FOR NO KEY UPDATE";

    internal override string Selected(string column) => $"{column}::text";

    /// <summary>Without its length: a cast would cut what an assignment refuses.</summary>
    internal override string Placed(string parameter, string type) =>
        $"CAST({parameter} AS {Lengths().Replace(type, "") switch { "character" => "bpchar", "bit" => "bit varying", var bare => bare }})";

    [GeneratedRegex(@"\(\d+(,\d+)?\)")]
    private static partial Regex Lengths();

    internal override string Compared(string column, TypedColumn of) => Comparable(of.Type) ? column : $"({column})::text";

    /// <summary>Whether the driver's own values are compared with it as they are.</summary>
    private static bool Comparable(string type) =>
        type.Split('(', ' ')[0]
            is "smallint"
                or "integer"
                or "bigint"
                or "numeric"
                or "real"
                or "double"
                or "boolean"
                or "date"
                or "time"
                or "timestamp"
                or "text"
                or "character"
                or "citext";

    internal override object KeyPart(string text, string type) => text;

    internal override string? Text(object? selected) => selected as string;

    internal override object? Read(Field field, object? selected) =>
        Text(selected) is { Length: > 0 } text ? AttachedValues.Read(field, text) : null;

    internal override object? Write(Field field, object? value) =>
        value switch
        {
            bool flag => flag ? "true" : "false",
            DateOnly date => date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            TimeOnly time => time.ToString("HH:mm:ss.FFFFFF", CultureInfo.InvariantCulture),
            DateTimeOffset moment => moment.UtcDateTime.ToString("yyyy-MM-dd HH:mm:ss.FFFFFF", CultureInfo.InvariantCulture) + "+00",
            string choice when field.Type is FieldType.Choice => AttachedValues.WordOf(field, choice),
            null => null,
            _ => Convert.ToString(value, CultureInfo.InvariantCulture),
        };

    internal override object? ToCompare(Field field, object? value) =>
        value is string choice && field.Type is FieldType.Choice ? AttachedValues.WordOf(field, choice) : words.ToDatabase(field, value);

    /// <summary>Class 42: what is asked for is not there.</summary>
    internal override bool IsChanged(DbException error) => error is PostgresException { SqlState: ['4', '2', ..] };

    internal override string OwnNumber => " OVERRIDING SYSTEM VALUE";

    /// <summary>
    /// What can be the change's fault (PostgreSQL, appendix A): all but what is wrong with the connection (08), its rights to come in (28),
    /// the server (53, 57, 58, XX), and transactions that stood in one another's way (40).
    /// </summary>
    internal override async Task<DatabaseRefusal?> Refusal(DbConnection connection, AttachedTable table, DbException error)
    {
        if (error is not PostgresException stood || NoFaults.Contains(stood.SqlState[..2]))
        {
            return null;
        }

        var kind = stood.SqlState switch
        {
            PostgresErrorCodes.UniqueViolation => RefusalKind.Unique,
            PostgresErrorCodes.ForeignKeyViolation => RefusalKind.Reference,
            PostgresErrorCodes.NotNullViolation => RefusalKind.Empty,
            _ => RefusalKind.Other,
        };
        ImmutableArray<string> columns = stood.ColumnName is { Length: > 0 } column ? [column] : [];
        // The constraint may be another table's: somebody refers to what was to be deleted.
        if (columns.IsEmpty && stood is { ConstraintName: { Length: > 0 } constraint, TableName: var of } && of == table.Name)
        {
            columns =
            [
                .. await connection.QueryAsync<string>(
                    """
                    SELECT a.attname::text FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
                    JOIN LATERAL (
                        SELECT k.conkey AS keys FROM pg_constraint k WHERE k.conrelid = c.oid AND k.conname = @constraint
                        UNION ALL
                        SELECT x.indkey::int2[] FROM pg_index x JOIN pg_class i ON i.oid = x.indexrelid
                        WHERE x.indrelid = c.oid AND i.relname = @constraint LIMIT 1) found ON true
                    JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum = ANY (found.keys)
                    WHERE n.nspname = @schema AND c.relname = @table
                    """,
                    new
                    {
                        constraint,
                        schema = stood.SchemaName,
                        table = of,
                    }
                ),
            ];
        }

        return new DatabaseRefusal(kind, columns, stood.MessageText);
    }

    private static readonly HashSet<string> NoFaults = ["08", "28", "40", "53", "57", "58", "XX"];

    protected override void Dispose(bool disposing)
    {
        source.Dispose();
        base.Dispose(disposing);
    }
}

using System.Collections.Immutable;
using System.Data.Common;
using System.Globalization;
using System.Text.RegularExpressions;
using BrightTier.Core.Attachment;
using Dapper;

namespace BrightTier.Records.Attachment;

/// <summary>The catalogue of a PostgreSQL: tables and views that the connection may read, outside the system's schemas.</summary>
internal static partial class PostgresCatalogue
{
    private const string Relations = """
        SELECT c.oid::bigint AS Oid, n.nspname::text AS Schema, c.relname::text AS Name, c.relkind::text AS Kind,
            obj_description(c.oid, 'pg_class') AS Comment, greatest(c.reltuples, 0)::bigint AS Rows,
            has_table_privilege(c.oid, 'INSERT') AND has_table_privilege(c.oid, 'UPDATE') AS MayWrite
        FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
        WHERE c.relkind IN ('r', 'p', 'v', 'm', 'f') AND n.nspname NOT IN ('pg_catalog', 'information_schema')
            AND n.nspname NOT LIKE 'pg\_toast%' AND n.nspname NOT LIKE 'pg\_temp%' AND NOT c.relispartition
            AND has_table_privilege(c.oid, 'SELECT') AND has_schema_privilege(n.oid, 'USAGE')
            AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = c.oid AND d.classid = 'pg_class'::regclass AND d.deptype = 'e')
        ORDER BY n.nspname, c.relname
        """;

    /// <summary>Of a domain its base's type counts; what its checks say is read beside those of the table.</summary>
    private const string AllColumns = """
        SELECT a.attrelid::bigint AS Table_, a.attname::text AS Name, format_type(a.atttypid, a.atttypmod) AS Type,
            coalesce(b.typname, t.typname)::text AS Base, coalesce(b.typtype, t.typtype)::text AS TypType,
            coalesce(b.typcategory, t.typcategory)::text AS Category,
            a.attnotnull OR (t.typtype = 'd' AND t.typnotnull) AS NotNull,
            CASE WHEN a.atttypmod > 0 THEN a.atttypmod WHEN t.typtype = 'd' THEN t.typtypmod ELSE -1 END AS Modifier,
            pg_get_expr(d.adbin, d.adrelid) AS Default_, a.attidentity::text AS Identity, a.attgenerated::text AS Generated,
            col_description(a.attrelid, a.attnum) AS Comment,
            (SELECT array_agg(e.enumlabel::text ORDER BY e.enumsortorder) FROM pg_enum e
                WHERE e.enumtypid = coalesce(b.oid, t.oid)) AS Labels,
            (SELECT array_agg(pg_get_constraintdef(k.oid)) FROM pg_constraint k
                WHERE k.contypid = t.oid AND t.typtype = 'd') AS DomainChecks
        FROM pg_attribute a JOIN pg_type t ON t.oid = a.atttypid LEFT JOIN pg_type b ON b.oid = t.typbasetype AND t.typtype = 'd'
            LEFT JOIN pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum
        WHERE a.attrelid = ANY (@oids) AND a.attnum > 0 AND NOT a.attisdropped ORDER BY a.attrelid, a.attnum
        """;

    private const string Constraints = """
        SELECT k.conrelid::bigint AS Table_, k.contype::text AS Type, pg_get_constraintdef(k.oid) AS Text,
            (SELECT array_agg(a.attname::text ORDER BY o.n) FROM unnest(k.conkey) WITH ORDINALITY o(num, n)
                JOIN pg_attribute a ON a.attrelid = k.conrelid AND a.attnum = o.num) AS Columns,
            fn.nspname::text AS ToSchema, f.relname::text AS ToTable,
            (SELECT array_agg(a.attname::text ORDER BY o.n) FROM unnest(k.confkey) WITH ORDINALITY o(num, n)
                JOIN pg_attribute a ON a.attrelid = k.confrelid AND a.attnum = o.num) AS ToColumns
        FROM pg_constraint k LEFT JOIN pg_class f ON f.oid = k.confrelid LEFT JOIN pg_namespace fn ON fn.oid = f.relnamespace
        WHERE k.conrelid = ANY (@oids) AND k.contype IN ('p', 'u', 'f', 'c') AND k.conparentid = 0 ORDER BY k.conname
        """;

    private const string Indexes = """
        SELECT x.indrelid::bigint AS Table_, x.indisunique AND x.indpred IS NULL AND x.indexprs IS NULL AS IsUnique,
            (SELECT array_agg(a.attname::text ORDER BY o.n) FROM unnest(x.indkey::int2[]) WITH ORDINALITY o(num, n)
                JOIN pg_attribute a ON a.attrelid = x.indrelid AND a.attnum = o.num WHERE o.n <= x.indnkeyatts) AS Columns
        FROM pg_index x WHERE x.indrelid = ANY (@oids) AND x.indisvalid AND x.indpred IS NULL ORDER BY x.indexrelid
        """;

    private sealed class RelationRow
    {
        public long Oid { get; init; }

        public string Schema { get; init; } = "";

        public string Name { get; init; } = "";

        public string Kind { get; init; } = "";

        public string? Comment { get; init; }

        public long Rows { get; init; }

        public bool MayWrite { get; init; }
    }

    private sealed class ColumnRow
    {
        public long Table_ { get; init; }

        public string Name { get; init; } = "";

        public string Type { get; init; } = "";

        public string Base { get; init; } = "";

        public string TypType { get; init; } = "";

        public string Category { get; init; } = "";

        public bool NotNull { get; init; }

        public int Modifier { get; init; }

        public string? Default_ { get; init; }

        public string Identity { get; init; } = "";

        public string Generated { get; init; } = "";

        public string? Comment { get; init; }

        public string[]? Labels { get; init; }

        public string[]? DomainChecks { get; init; }
    }

    private sealed class ConstraintRow
    {
        public long Table_ { get; init; }

        public string Type { get; init; } = "";

        public string Text { get; init; } = "";

        public string[]? Columns { get; init; }

        public string? ToSchema { get; init; }

        public string? ToTable { get; init; }

        public string[]? ToColumns { get; init; }
    }

    private sealed class IndexRow
    {
        public long Table_ { get; init; }

        public bool IsUnique { get; init; }

        public string[]? Columns { get; init; }
    }

    public static async Task<IReadOnlyList<DatabaseTable>> Read(DbConnection connection, CancellationToken cancel)
    {
        var relations = (await connection.QueryAsync<RelationRow>(new CommandDefinition(Relations, cancellationToken: cancel))).ToArray();
        var oids = relations.Select(each => each.Oid).ToArray();
        var columns = (await Rows<ColumnRow>(AllColumns)).ToLookup(row => row.Table_);
        var constraints = (await Rows<ConstraintRow>(Constraints)).ToLookup(row => row.Table_);
        var indexes = (await Rows<IndexRow>(Indexes)).ToLookup(row => row.Table_);
        return [.. relations.Select(each => Table(each, [.. columns[each.Oid]], [.. constraints[each.Oid]], [.. indexes[each.Oid]]))];

        Task<IEnumerable<T>> Rows<T>(string sql) =>
            connection.QueryAsync<T>(new CommandDefinition(sql, new { oids }, cancellationToken: cancel));
    }

    private static DatabaseTable Table(RelationRow relation, ColumnRow[] columns, ConstraintRow[] constraints, IndexRow[] indexes)
    {
        var unique = indexes.Where(index => index.IsUnique).Select(index => index.Columns ?? []).Where(set => set.Length > 0).ToArray();
        var required = columns.Where(column => column.NotNull).Select(column => column.Name).ToHashSet();
        var key = constraints.FirstOrDefault(each => each.Type == "p")?.Columns
            ?? unique.FirstOrDefault(set => set.All(required.Contains))
            ?? [];
        var checks = constraints
            .Where(each => each.Type == "c" && each.Columns is [_])
            .ToLookup(each => each.Columns![0], each => each.Text);
        var isView = relation.Kind is "v" or "m";
        return new DatabaseTable(
            relation.Schema,
            relation.Name,
            isView,
            relation.Comment,
            [.. columns.Select(column => Column(column, [.. checks[column.Name], .. column.DomainChecks ?? []]))],
            isView ? [] : [.. key],
            [
                .. constraints
                    .Where(each => each is { Type: "f", Columns: not null, ToColumns: not null })
                    .Select(each => new DatabaseReference([.. each.Columns!], each.ToSchema, each.ToTable!, [.. each.ToColumns!])),
            ],
            [.. unique.Select(set => set.ToImmutableArray())],
            [.. indexes.Select(index => index.Columns ?? []).Where(set => set.Length > 0).Select(set => set[0]).Distinct()],
            relation.Rows,
            relation.MayWrite
        );
    }

    private static DatabaseColumn Column(ColumnRow row, string[] checks)
    {
        var kind = KindOf(row);
        var (min, max) = kind is ColumnKind.Whole or ColumnKind.Decimal ? Range(checks) : (null, null);
        return new DatabaseColumn(row.Name, row.Type, kind)
        {
            NotNull = row.NotNull,
            HasDefault = row.Default_ is not null || row.Identity.Length > 0,
            Default = Literal(row.Default_),
            IsFilled =
                row.Generated.Length > 0
                || row.Identity.Length > 0
                || row.Default_?.StartsWith("nextval(", StringComparison.Ordinal) == true,
            MaxLength = row.Base is "varchar" or "bpchar" && row.Modifier > 4 ? row.Modifier - 4 : null,
            // The lower half of a numeric's modifier, as the server keeps it (numeric.c).
            Scale =
                kind is not ColumnKind.Decimal ? null
                : row.Base == "numeric" && row.Modifier > 4 ? (row.Modifier - 4) & 0x7ff
                : 6,
            Min = min,
            Max = max,
            Choices = row.Labels is { Length: > 0 } labels ? [.. labels] : Listed(checks),
            Comment = row.Comment,
        };
    }

    private static ColumnKind KindOf(ColumnRow row) =>
        row.TypType == "e" ? ColumnKind.Text
        : row.Category == "A" ? ColumnKind.Other
        : row.Base switch
        {
            "int2" or "int4" or "int8" => ColumnKind.Whole,
            "numeric" or "float4" or "float8" => ColumnKind.Decimal,
            "bool" => ColumnKind.Boolean,
            "date" => ColumnKind.Date,
            "time" => ColumnKind.Time,
            "timestamp" or "timestamptz" => ColumnKind.DateTime,
            "varchar" or "bpchar" => row.Modifier - 4 > LongTexts.Length ? ColumnKind.LongText : ColumnKind.Text,
            "text" or "citext" => LongTexts.IsCalled(row.Name, "") ? ColumnKind.LongText : ColumnKind.Text,
            "uuid" or "name" or "inet" or "cidr" or "macaddr" or "macaddr8" => ColumnKind.Text,
            "bytea" => ColumnKind.Bytes,
            _ => ColumnKind.Other,
        };

    /// <summary>CHECK ((state = ANY (ARRAY['a'::text, 'b'::text]))), as the server writes it; VALUE in a domain.</summary>
    private static ImmutableArray<string> Listed(string[] checks)
    {
        foreach (var check in checks)
        {
            if (List().Match(check) is { Success: true } match)
            {
                return
                [
                    .. Strings()
                        .Matches(match.Groups[1].Value)
                        .Select(each => each.Groups[1].Value.Replace("''", "'", StringComparison.Ordinal)),
                ];
            }
        }

        return [];
    }

    private static (decimal?, decimal?) Range(string[] checks)
    {
        (decimal? min, decimal? max) = (null, null);
        foreach (var check in checks.Where(check => !check.Contains(" OR ", StringComparison.Ordinal)))
        {
            foreach (Match bound in Bound().Matches(check))
            {
                var number = AttachedValues.Number(bound.Groups[2].Value);
                (min, max) = bound.Groups[1].Value == ">=" ? (number, max) : (min, number);
            }
        }

        return (min, max);
    }

    private static string? Literal(string? given) =>
        given is null ? null
        : Value().Match(given) is { Success: true } text ? text.Groups[1].Value.Replace("''", "'", StringComparison.Ordinal)
        : decimal.TryParse(given, CultureInfo.InvariantCulture, out _) || given is "true" or "false" ? given
        : null;

    [GeneratedRegex(@"^CHECK \(\(*\(?\(?""?\w+""?\)?(?:::[\w ]+)?\)? = ANY \(+ARRAY\[(.*?)\]")]
    private static partial Regex List();

    [GeneratedRegex("'((?:[^']|'')*)'")]
    private static partial Regex Strings();

    [GeneratedRegex(@"(>=|<=) \(?'?(-?[\d.]+)")]
    private static partial Regex Bound();

    [GeneratedRegex(@"^'((?:[^']|'')*)'(?:::[\w ""]+(?:\(\d+\))?)?$")]
    private static partial Regex Value();
}

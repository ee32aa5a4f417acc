using System.Collections.Immutable;
using System.Data.Common;
using System.Globalization;
using System.Text.RegularExpressions;
using BrightTier.Core.Attachment;
using Dapper;

namespace BrightTier.Records.Attachment;

/// <summary>The catalogue of a file of SQLite: what its pragmas tell, and of checks what stands in the text a table was made by.</summary>
internal static partial class SqliteCatalogue
{
    /// <summary>So many rows are looked at to tell what a column holds whose type says nothing of it.</summary>
    private const int Looked = 500;

    public static async Task<IReadOnlyList<DatabaseTable>> Read(DbConnection connection, CancellationToken cancel)
    {
        var tables = new List<DatabaseTable>();
        var all = await connection.QueryAsync<(string Name, string Type, string? Sql)>(
            "SELECT name, type, sql FROM sqlite_schema WHERE type IN ('table', 'view') AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' "
                + "ORDER BY name"
        );
        foreach (var (name, type, sql) in all)
        {
            cancel.ThrowIfCancellationRequested();
            if (sql?.StartsWith("CREATE VIRTUAL", StringComparison.OrdinalIgnoreCase) == true)
            {
                continue;
            }

            tables.Add(await new TableReader(connection, name, type == "view", sql ?? "").Read());
        }

        return tables;
    }

    private sealed class ColumnRow
    {
        public string Name { get; init; } = "";

        public string? Type { get; init; }

        public long Required { get; init; }

        public string? Dflt_value { get; init; }

        public long Pk { get; init; }

        public long Hidden { get; init; }
    }

    private sealed class TableReader(DbConnection connection, string table, bool isView, string sql)
    {
        public async Task<DatabaseTable> Read()
        {
            // hidden: 2 and 3 are generated columns.
            var rows = (
                await connection.QueryAsync<ColumnRow>(
                    "SELECT name, type, \"notnull\" AS Required, dflt_value, pk, hidden FROM pragma_table_xinfo(@table) WHERE hidden <> 1",
                    new { table }
                )
            ).ToArray();
            var unique = await Indexes("WHERE \"unique\" = 1 AND partial = 0");
            var primary = rows.Where(row => row.Pk > 0).OrderBy(row => row.Pk).Select(row => row.Name).ToImmutableArray();
            var required = rows.Where(row => row.Required == 1).Select(row => row.Name).ToHashSet();
            var key = !primary.IsEmpty ? primary : unique.FirstOrDefault(set => set.All(required.Contains));
            var columns = new List<DatabaseColumn>();
            foreach (var row in rows)
            {
                columns.Add(await Column(row, primary));
            }

            return new DatabaseTable(
                null,
                table,
                isView,
                null,
                [.. columns],
                key.IsDefault || isView ? [] : key,
                await References(),
                [.. unique, .. primary.IsEmpty ? Array.Empty<ImmutableArray<string>>() : [primary]],
                [.. (await Indexes("")).Select(set => set[0]).Concat(primary.Take(1)).Distinct()],
                isView ? 0 : await Rows()
            );
        }

        private async Task<long> Rows() =>
            await connection.ExecuteScalarAsync<long>(
                $"SELECT count(*) FROM (SELECT 1 FROM {AttachedDatabase.Quote(table)} LIMIT 1000001)"
            );

        private async Task<ImmutableArray<ImmutableArray<string>>> Indexes(string which)
        {
            var found = ImmutableArray.CreateBuilder<ImmutableArray<string>>();
            foreach (var index in await connection.QueryAsync<string>($"SELECT name FROM pragma_index_list(@table) {which}", new { table }))
            {
                var columns = await connection.QueryAsync<string?>(
                    "SELECT name FROM pragma_index_info(@index) ORDER BY seqno",
                    new { index }
                );
                if (columns.All(column => column is not null) && columns.Any())
                {
                    found.Add([.. columns.Select(column => column!)]);
                }
            }

            return found.ToImmutable();
        }

        private async Task<ImmutableArray<DatabaseReference>> References()
        {
            var rows = await connection.QueryAsync<(long Id, long Seq, string Table, string From, string? To)>(
                "SELECT id, seq, \"table\", \"from\", \"to\" FROM pragma_foreign_key_list(@table) ORDER BY id, seq",
                new { table }
            );
            var found = ImmutableArray.CreateBuilder<DatabaseReference>();
            foreach (var key in rows.GroupBy(row => (row.Id, row.Table)))
            {
                // Without columns it points at the primary key.
                string[] to = key.All(row => row.To is null)
                    ?
                    [
                        .. await connection.QueryAsync<string>(
                            "SELECT name FROM pragma_table_info(@table) WHERE pk > 0 ORDER BY pk",
                            new { table = key.Key.Table }
                        ),
                    ]
                    : [.. key.Select(row => row.To!)];
                if (to.Length == key.Count())
                {
                    var target = await connection.ExecuteScalarAsync<string?>(
                        "SELECT name FROM sqlite_schema WHERE type = 'table' AND name = @name COLLATE NOCASE",
                        new { name = key.Key.Table }
                    );
                    found.Add(new DatabaseReference([.. key.Select(row => row.From)], null, target ?? key.Key.Table, [.. to]));
                }
            }

            return found.ToImmutable();
        }

        private async Task<DatabaseColumn> Column(ColumnRow row, ImmutableArray<string> primary)
        {
            var declared = row.Type ?? "";
            var type = declared.Length == 0 ? "" : declared.ToLowerInvariant();
            var numbers = Numbers().Match(type);
            var sight = await Look(row.Name);
            var kind = Kind(row.Name, type, sight);
            var (min, max) = kind is ColumnKind.Whole or ColumnKind.Decimal ? Range(row.Name) : (null, null);
            // An INTEGER PRIMARY KEY is the row's number.
            var isNumbered =
                primary is [var only]
                && only == row.Name
                && type == "integer"
                && !sql.Contains("WITHOUT ROWID", StringComparison.OrdinalIgnoreCase);
            return new DatabaseColumn(row.Name, type.Length == 0 ? "any" : type, kind)
            {
                NotNull = row.Required == 1 || (row.Pk > 0 && !isNumbered),
                HasDefault = row.Dflt_value is not null,
                Default = Literal(row.Dflt_value),
                IsFilled = row.Hidden is 2 or 3 || isNumbered,
                MaxLength =
                    kind is ColumnKind.Text or ColumnKind.LongText
                    && numbers.Success
                    && int.Parse(numbers.Groups[1].Value, CultureInfo.InvariantCulture) is var length and > 0
                    && length >= sight.Longest
                        ? length
                        : null,
                Scale =
                    kind is not ColumnKind.Decimal ? null
                    : numbers.Groups[2].Success ? int.Parse(numbers.Groups[2].Value, CultureInfo.InvariantCulture)
                    : 6,
                Min = min,
                Max = max,
                Choices = Listed(row.Name),
            };
        }

        /// <summary>What stands in a column: the storage classes, the longest text, whether days and moments are written as such.</summary>
        private sealed record Sight(
            bool OnlyWhole,
            bool OnlyNumbers,
            bool Bytes,
            long Longest,
            bool Days,
            bool Moments,
            bool Lines,
            bool Any
        );

        private async Task<Sight> Look(string column)
        {
            var quoted = AttachedDatabase.Quote(column);
            var some = (
                await connection.QueryAsync<(string Type, object? Value)>(
                    $"SELECT typeof({quoted}), {quoted} FROM (SELECT {quoted} FROM {AttachedDatabase.Quote(table)} LIMIT {Looked}) "
                        + $"WHERE {quoted} IS NOT NULL"
                )
            ).ToArray();
            var texts = some.Select(each => each.Value as string).OfType<string>().ToArray();
            return new Sight(
                some.All(each => each.Type == "integer"),
                some.All(each => each.Type is "integer" or "real"),
                some.Any(each => each.Type == "blob"),
                texts.Select(text => text.Length).DefaultIfEmpty(0).Max(),
                texts.Length == some.Length && texts.All(text => text.Length == 0 || Day().IsMatch(text)),
                texts.Length == some.Length && texts.All(text => text.Length == 0 || Moment().IsMatch(text)),
                texts.Any(text => text.Contains('\n')),
                some.Length > 0
            );
        }

        /// <summary>By the rules of affinity (sqlite.org/datatype3, 3.1), held against what stands in it.</summary>
        private static ColumnKind Kind(string name, string type, Sight sight)
        {
            if (sight.Bytes || type.StartsWith("blob", StringComparison.Ordinal))
            {
                return ColumnKind.Bytes;
            }

            if (type.Contains("bool", StringComparison.Ordinal))
            {
                return sight.OnlyWhole ? ColumnKind.Boolean : Text(name, type, sight);
            }

            if (type.Contains("int", StringComparison.Ordinal) && !type.Contains("point", StringComparison.Ordinal))
            {
                return sight.OnlyWhole ? ColumnKind.Whole : ColumnKind.Other;
            }

            if (type.StartsWith("datetime", StringComparison.Ordinal) || type.StartsWith("timestamp", StringComparison.Ordinal))
            {
                return sight.Moments ? ColumnKind.DateTime
                    : sight.Any && sight.OnlyWhole ? ColumnKind.Whole
                    : Text(name, type, sight);
            }

            if (type == "date")
            {
                return sight.Days ? ColumnKind.Date
                    : sight.Any && sight.OnlyWhole ? ColumnKind.Whole
                    : Text(name, type, sight);
            }

            if (type is "" || type.Contains("json", StringComparison.Ordinal))
            {
                return ColumnKind.Other;
            }

            if (Texts().IsMatch(type))
            {
                return Text(name, type, sight);
            }

            return sight.OnlyNumbers && Decimals().IsMatch(type) ? ColumnKind.Decimal : ColumnKind.Other;
        }

        private static ColumnKind Text(string name, string type, Sight sight) =>
            sight.Lines || sight.Longest > LongTexts.Length || LongTexts.IsCalled(name, type) ? ColumnKind.LongText : ColumnKind.Text;

        /// <summary>The values a check lists: CHECK (status IN ('a', 'b')).</summary>
        private ImmutableArray<string> Listed(string column)
        {
            var match = Regex.Match(
                sql,
                $"""CHECK\s*\(\s*["`\[]?{Regex.Escape(column)}["`\]]?\s+IN\s*\(([^)]*)\)\s*\)""",
                RegexOptions.IgnoreCase,
                TimeSpan.FromSeconds(1)
            );
            var values = match.Success
                ? Strings()
                    .Matches(match.Groups[1].Value)
                    .Select(each => each.Groups[1].Value.Replace("''", "'", StringComparison.Ordinal))
                    .ToImmutableArray()
                : [];
            return match.Success && Strings().Replace(match.Groups[1].Value, "").All(c => c is ',' or ' ' or '\n' or '\t') ? values : [];
        }

        private (decimal?, decimal?) Range(string column)
        {
            var name = $"""["`\[]?{Regex.Escape(column)}["`\]]?""";
            var match = Regex.Match(
                sql,
                $@"CHECK\s*\(\s*(?:{name}\s*>=\s*(?<min>-?[\d.]+)\s*(?:AND\s+{name}\s*<=\s*(?<max>-?[\d.]+)\s*)?"
                    + $@"|{name}\s*<=\s*(?<max>-?[\d.]+)\s*"
                    + $@"|{name}\s+BETWEEN\s+(?<min>-?[\d.]+)\s+AND\s+(?<max>-?[\d.]+)\s*)\)",
                RegexOptions.IgnoreCase,
                TimeSpan.FromSeconds(1)
            );
            return (AttachedValues.Number(match.Groups["min"].Value), AttachedValues.Number(match.Groups["max"].Value));
        }

        private static string? Literal(string? given) =>
            given is null ? null
            : Strings().Match(given) is { Success: true } text && text.Value == given
                ? text.Groups[1].Value.Replace("''", "'", StringComparison.Ordinal)
            : decimal.TryParse(given, CultureInfo.InvariantCulture, out _)
            || given.Equals("true", StringComparison.OrdinalIgnoreCase)
            || given.Equals("false", StringComparison.OrdinalIgnoreCase)
                ? given
            : null;
    }

    [GeneratedRegex(@"\((\d+)(?:\s*,\s*(\d+))?\)")]
    private static partial Regex Numbers();

    [GeneratedRegex("'((?:[^']|'')*)'")]
    private static partial Regex Strings();

    [GeneratedRegex(@"^\d{4}-\d\d-\d\d$")]
    private static partial Regex Day();

    [GeneratedRegex(@"^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d$")]
    private static partial Regex Moment();

    [GeneratedRegex("char|clob|text|string|uuid|name|varying")]
    private static partial Regex Texts();

    [GeneratedRegex("real|doub|floa|dec|num")]
    private static partial Regex Decimals();
}

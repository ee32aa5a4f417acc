using System.Globalization;
using System.Text.Json;
using BrightTier.Core.Model;
using Dapper;

namespace BrightTier.Records.Attachment;

// Pages of rows, each beginning behind the last row of the one before, so that an index leads there.
public sealed partial class AttachedRecords
{
    /// <exception cref="CursorException">The query's cursor is malformed, or of another order.</exception>
    /// <exception cref="NotForDatabaseException">A filter cannot be decided by the database.</exception>
    public Task<RecordRows> List(Entity entity, RecordQuery query, CancellationToken cancel) => With(entity, async (database, rows) =>
        {
            var page = await Page(database, rows, entity, query, cancel);
            await using var connection = await database.Open(cancel);
            var total = await connection.ExecuteScalarAsync<long>(
                new CommandDefinition(page.Count, page.Parameters, cancellationToken: cancel)
            );
            var found = new List<AttachedRow>();
            foreach (var part in page.Parts())
            {
                if (found.Count > query.Limit)
                {
                    break;
                }

                page.Parameters.Add("limit", query.Limit + 1 - found.Count);
                // By hand: rows are read by the places of their columns.
                await using var command = connection.Command(part);
                foreach (var name in page.Parameters.ParameterNames)
                {
                    command.Add(name, page.Parameters.Get<object?>(name));
                }

                found.AddRange(await rows.Read(command, cancel));
            }

            var shown = found.Take(query.Limit).ToList();
            var records = await Records(entity, rows, database, shown, cancel);
            return new RecordRows(records, found.Count > query.Limit ? page.Cursor(shown[^1]) : null, total);
        });

    /// <summary>A page's statements; written once more where they ask for keys of records.</summary>
    private async Task<AttachedPage> Page(
        AttachedDatabase database,
        AttachedRows rows,
        Entity entity,
        RecordQuery query,
        CancellationToken cancel
    )
    {
        var known = new Dictionary<(string Entity, long Id), RowKey?>();
        while (true)
        {
            var columns = new AttachedColumnsSql(database, entity, known);
            var page = new AttachedPage(database, rows, entity, query, columns);
            if (columns.Missing.Count == 0)
            {
                return page;
            }

            foreach (var (target, id) in columns.Missing)
            {
                known[(target, id)] = (await keys.Keys(target, isWhole: false, [id], cancel)).GetValueOrDefault(id);
            }
        }
    }

    /// <summary>One page as statements.</summary>
    private sealed class AttachedPage
    {
        private readonly AttachedDatabase database;
        private readonly AttachedRows rows;
        private readonly AttachedTable table;
        private readonly RecordQuery query;
        private readonly IReadOnlyList<(TypedColumn Column, bool Descending)> sort;
        private readonly List<string> where;
        private readonly IReadOnlyList<JsonElement>? last;
        private readonly string name;

        public AttachedPage(AttachedDatabase database, AttachedRows rows, Entity entity, RecordQuery query, AttachedColumnsSql columns)
        {
            (this.database, this.rows, this.query, table) = (database, rows, query, entity.Attached!);
            name = AttachedDatabase.Table(table);
            sort = [.. query.Sort.Select(by => (by.Field.Attached!.Columns[0], by.Descending))];
            where = SqlWords.Searched(database.Words, query, field => columns.Own(field)!, Parameters);
            foreach (var filter in query.Filters)
            {
                where.Add(
                    new SqlConditions(
                        database.Words,
                        entity,
                        filter.Definitions,
                        columns,
                        filter.Surroundings,
                        Parameters,
                        where.Count
                    ).Where(filter.Condition)
                );
            }

            last = query.After is { Length: > 0 } cursor ? Read(cursor) : null;
        }

        public DynamicParameters Parameters { get; } = new();

        /// <summary>Rows without a key have no order: their pages are counted.</summary>
        private bool IsCounted => table.ReadOnly is WriteBar.NoKey or WriteBar.View;

        private bool LastDescends => sort is [.., (_, true)];

        public string Count => $"SELECT count(*) FROM (SELECT 1 FROM {name}{Where(where)} LIMIT {RecordQuery.Counted + 1}) AS counted";

        /// <summary>What has a value in the first column sorted by, then what has none: an index leads to one, not to both.</summary>
        public IEnumerable<string> Parts()
        {
            if (IsCounted)
            {
                Parameters.Add("offset", Offset);
                yield return $"{rows.Select}{Where(where)}{Ordered(sort, firstIsThere: false, keyed: false)} LIMIT @limit OFFSET @offset";
                yield break;
            }

            if (sort.Count == 0)
            {
                yield return Part([.. where, .. Beyond(null)], [], firstIsThere: false);
                yield break;
            }

            var first = Quote(sort[0].Column);
            if (last is null || last[0].ValueKind is not JsonValueKind.Null)
            {
                yield return Part([.. where, $"{first} IS NOT NULL", .. Beyond(false)], sort, firstIsThere: true);
            }

            yield return Part([.. where, $"{first} IS NULL", .. Beyond(true)], [.. sort.Skip(1)], firstIsThere: false);
        }

        private string Part(List<string> conditions, IReadOnlyList<(TypedColumn, bool)> order, bool firstIsThere) =>
            $"{rows.Select}{Where(conditions)}{Ordered(order, firstIsThere, keyed: true)} LIMIT @limit";

        private string Ordered(IReadOnlyList<(TypedColumn Column, bool Descending)> order, bool firstIsThere, bool keyed)
        {
            var levels = order
                .Select((by, i) => $"{Quote(by.Column)}{(by.Descending ? " DESC" : "")}{(i == 0 && firstIsThere ? "" : " NULLS LAST")}")
                .Concat(keyed ? table.Key.Select(part => Quote(part) + (LastDescends ? " DESC" : "")) : [])
                .ToArray();
            return levels.Length == 0 ? "" : $" ORDER BY {string.Join(", ", levels)}";
        }

        /// <summary>
        /// What comes behind the last row: it differs at one level, and is the same at those before. The first level is said once more by
        /// itself, so that an index leads straight to the row.
        /// </summary>
        /// <param name="empty">Whether it is among those without a value in the first column; null where nothing is sorted by.</param>
        private IEnumerable<string> Beyond(bool? empty)
        {
            if (last is null || (empty is { } none && none != (last[0].ValueKind is JsonValueKind.Null)))
            {
                yield break;
            }

            var cases = new List<string>();
            var same = "";
            for (var i = 0; i < sort.Count; i++)
            {
                var column = Quote(sort[i].Column);
                if (last[i].ValueKind is JsonValueKind.Null)
                {
                    same += $"{column} IS NULL AND ";
                    continue;
                }

                var value = Place(string.Create(CultureInfo.InvariantCulture, $"last{i}"), last[i], sort[i].Column.Type);
                var beyond = $"{column} {(sort[i].Descending ? "<" : ">")} {value}";
                cases.Add(i == 0 ? $"({beyond})" : $"({same}({beyond} OR {column} IS NULL))");
                if (i == 0)
                {
                    yield return $"{column} {(sort[i].Descending ? "<=" : ">=")} {value}";
                }

                same += $"{column} = {value} AND ";
            }

            var parts = table.Key.Select(
                (part, i) => Place(string.Create(CultureInfo.InvariantCulture, $"key{i}"), last[sort.Count + i], part.Type)
            );
            var (keys, values) = (string.Join(", ", table.Key.Select(Quote)), string.Join(", ", parts));
            cases.Add($"({same}({keys}) {(LastDescends ? "<" : ">")} ({values}))");
            yield return $"({string.Join(" OR ", cases)})";
        }

        private string Place(string parameter, JsonElement value, string type)
        {
            Parameters.Add(
                parameter,
                value.ValueKind is JsonValueKind.Number
                    ? (value.TryGetInt64(out var whole) ? whole : value.GetDouble())
                    : (object?)value.GetString()
            );
            return database.Placed("@" + parameter, type);
        }

        private long Offset => last is [{ ValueKind: JsonValueKind.Number } from] ? from.GetInt64() : 0;

        /// <summary>Where the next page begins: behind what the last row is sorted by and its key.</summary>
        public string Cursor(AttachedRow row) =>
            Convert.ToBase64String(
                JsonSerializer.SerializeToUtf8Bytes(
                    IsCounted
                        ? [Offset + query.Limit]
                        : sort.Select(by => rows.Value(row, by.Column.Column))
                            .Concat(table.Key.Select(part => rows.Value(row, part.Column)))
                            .ToArray()
                )
            );

        /// <exception cref="CursorException">It was not written here, or for another order.</exception>
        private JsonElement[] Read(string cursor)
        {
            try
            {
                using var json = JsonDocument.Parse(Convert.FromBase64String(cursor));
                var parts = json.RootElement.EnumerateArray().Select(part => part.Clone()).ToArray();
                return
                    parts.All(part => part.ValueKind is JsonValueKind.Null or JsonValueKind.Number or JsonValueKind.String)
                    && parts.Length == (IsCounted ? 1 : sort.Count + table.Key.Length)
                    ? parts
                    : throw new CursorException();
            }
            catch (Exception error) when (error is FormatException or JsonException or InvalidOperationException)
            {
                throw new CursorException();
            }
        }

        /// <summary>With its table: by itself it would be what is selected, which is a text.</summary>
        private string Quote(TypedColumn column) => $"{name}.{AttachedDatabase.Quote(column.Column)}";

        private static string Where(List<string> conditions) => conditions.Count == 0 ? "" : $" WHERE {string.Join(" AND ", conditions)}";
    }
}

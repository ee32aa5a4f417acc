using System.Data.Common;
using System.Globalization;
using BrightTier.Core.Model;
using Dapper;

namespace BrightTier.Records;

/// <summary>Pages of records: searched, filtered, in an order of several levels.</summary>
public sealed partial class SqlRecordStore
{
    /// <summary>What our lists are sorted and filtered by has an index each.</summary>
    public Task<SlowQuery?> Foresee(Entity entity, RecordQuery query, CancellationToken cancel) => Task.FromResult<SlowQuery?>(null);

    public Task<RecordRows> List(Entity entity, RecordQuery query, CancellationToken cancel) =>
        dialect.Read(connection => List(connection, entity, query), cancel);

    private async Task<RecordRows> List(DbConnection connection, Entity entity, RecordQuery query)
    {
        var parameters = new DynamicParameters();
        var where = SqlWords.Searched(dialect, query, Column, parameters);
        where.AddRange(query.Filters.Select((filter, i) => Filtered(entity, filter, parameters, i)));
        var total = await connection.ExecuteScalarAsync<long>(
            $"SELECT count(*) FROM (SELECT 1 FROM {Table(entity)}{Where(where)} LIMIT {RecordQuery.Counted + 1}) AS counted",
            parameters
        );
        var last = query.After is { Length: > 0 } cursor
            ? RowCursor.Read(cursor, query.Sort)
            : ((IReadOnlyList<object?> Values, long Id)?)null;
        var rows = new List<IDictionary<string, object?>>();
        // What has a value in the first field sorted by, then what has none: either is found by an index, both at once are not.
        foreach (var empty in query.Sort.Count == 0 ? new bool?[] { null } : [false, true])
        {
            if (rows.Count > query.Limit || (empty is false && last is { Values: [null, ..] }))
            {
                continue;
            }

            var only = new List<string>(where);
            var here =
                last is { } row && (empty is null || empty == row.Values[0] is null)
                    ? row
                    : ((IReadOnlyList<object?> Values, long Id)?)null;
            if (empty is { } none)
            {
                only.Add($"{Column(query.Sort[0].Field)} IS {(none ? "" : "NOT ")}NULL");
            }

            if (here is { } from)
            {
                only.AddRange(Beyond(query.Sort, from, parameters));
            }

            var levels = empty is true ? query.Sort.Skip(1) : query.Sort;
            var order = string.Concat(
                levels.Select(
                    (by, i) => $"{Sorted(by)} {(by.Descending ? "DESC" : "ASC")}{(i == 0 && empty is false ? "" : " NULLS LAST")}, "
                )
            );
            parameters.Add("limit", query.Limit + 1 - rows.Count);
            rows.AddRange(
                (
                    await connection.QueryAsync(
                        $"{Select(entity)}{Where(only)} ORDER BY {order}id "
                            + $"{(query.Sort is [.., { Descending: true }] ? "DESC" : "ASC")} LIMIT @limit",
                        parameters
                    )
                ).Cast<IDictionary<string, object?>>()
            );
        }

        var page = rows.Take(query.Limit).Select(row => Read(entity, row)).ToList();
        var next =
            rows.Count > query.Limit
                ? RowCursor.Write(query.Sort.Select(by => (by.Field, page[^1].Values.GetValueOrDefault(by.Field.Key))), page[^1].Id)
                : null;
        return new RecordRows(page, next, total);
    }

    private string Filtered(Entity entity, RecordFilter filter, DynamicParameters parameters, int number) =>
        new SqlConditions(
            dialect,
            entity,
            filter.Definitions,
            new OwnColumns(dialect, entity),
            filter.Surroundings,
            parameters,
            number
        ).Where(filter.Condition);

    private string Sorted(SortBy by) => Sorted(by, Column(by.Field));

    /// <summary>A column, or a value of it, as the list is sorted by it.</summary>
    private string Sorted(SortBy by, string value) => by.Field.Type.IsShortText() ? dialect.Folded(value) : value;

    /// <summary>
    /// What comes behind a row in an order of several levels, in which what is empty comes last: it differs at one level, and is the same
    /// at those
    /// before. The first level is said once more by itself, so that an index leads straight to the row.
    /// </summary>
    private IEnumerable<string> Beyond(
        IReadOnlyList<SortBy> sort,
        (IReadOnlyList<object?> Values, long Id) row,
        DynamicParameters parameters
    )
    {
        var cases = new List<string>();
        var same = "";
        for (var i = 0; i < sort.Count; i++)
        {
            var name = string.Create(CultureInfo.InvariantCulture, $"last{i}");
            parameters.Add(name, dialect.ToDatabase(sort[i].Field, row.Values[i]));
            var (column, value) = (Sorted(sort[i]), Sorted(sort[i], "@" + name));
            if (row.Values[i] is not null)
            {
                var beyond = $"{column} {(sort[i].Descending ? "<" : ">")} {value}";
                cases.Add(i == 0 ? $"({beyond})" : $"({same}({beyond} OR {column} IS NULL))");
            }

            same += $"{(row.Values[i] is null ? $"{column} IS NULL" : dialect.Is(column, value))} AND ";
        }

        if (sort is [{ } first, ..] && row.Values[0] is not null)
        {
            yield return $"{Sorted(first)} {(first.Descending ? "<=" : ">=")} {Sorted(first, "@last0")}";
        }

        parameters.Add("lastId", row.Id);
        cases.Add($"({same}id {(sort is [.., { Descending: true }] ? "<" : ">")} @lastId)");
        yield return $"({string.Join(" OR ", cases)})";
    }

    private static string Where(List<string> conditions) => conditions.Count == 0 ? "" : $" WHERE {string.Join(" AND ", conditions)}";
}

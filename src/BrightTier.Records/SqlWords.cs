using System.Globalization;
using BrightTier.Core.Model;
using Dapper;

namespace BrightTier.Records;

/// <summary>A search for words as SQL.</summary>
internal static class SqlWords
{
    /// <summary>Each word of the search is in one of the fields.</summary>
    public static List<string> Searched(SqlDialect dialect, RecordQuery query, Func<Field, string> column, DynamicParameters parameters)
    {
        var where = new List<string>();
        foreach (
            var (word, i) in (query.Search ?? "")
                .Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                .Take(8)
                .Select((word, i) => (word, i))
        )
        {
            var name = string.Create(CultureInfo.InvariantCulture, $"word{i}");
            var literal = word.Replace("\\", "\\\\", StringComparison.Ordinal)
                .Replace("%", "\\%", StringComparison.Ordinal)
                .Replace("_", "\\_", StringComparison.Ordinal);
            parameters.Add(name, $"%{literal}%");
            where.Add(
                query.SearchIn.Count == 0
                    ? dialect.False
                    : $"({string.Join(" OR ", query.SearchIn.Select(field => dialect.Like(column(field), "@" + name)))})"
            );
        }

        return where;
    }
}

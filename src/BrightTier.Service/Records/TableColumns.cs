using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;

namespace BrightTier.Service.Records;

/// <summary>What the columns of a table are, as its first line or somebody says it.</summary>
internal static class TableColumns
{
    private const string Id = ColumnGuess.Id;

    internal static readonly Dictionary<string, DayOrder> Orders = new(StringComparer.Ordinal)
    {
        ["ymd"] = DayOrder.YearMonthDay,
        ["dmy"] = DayOrder.DayMonthYear,
        ["mdy"] = DayOrder.MonthDayYear,
    };

    /// <param name="least">How many records there must be: none where a table only says what there is to be.</param>
    internal static IReadOnlyList<(int Line, IReadOnlyList<string> Cells)> Lines(string text, int least = 1)
    {
        var (lines, problem) = CsvText.Read(text);
        if (problem is { } wrong)
        {
            throw Problems.Invalid($"Line {wrong.Line}: {wrong.Message}.", Problems.Part($"/{wrong.Line}", wrong.Message));
        }

        return lines.Count switch
        {
            var count when count < least + 1 => throw Problems.Invalid(
                $"There is nothing to import: the first line names fields, the others are records.",
                Problems.Part("", $"must have from 1 to {TableImport.Most} records")
            ),
            > TableImport.Most + 1 => throw Problems.Invalid(
                $"At most {TableImport.Most} records are imported at once; these are {lines.Count - 1}.",
                Problems.Part("", $"must have from 1 to {TableImport.Most} records")
            ),
            _ => lines,
        };
    }

    internal static Field[] Fields(Entity entity, Caller caller) =>
        [.. entity.Current.Where(field => field.MayWrite(caller.Roles) && field.MayRead(caller.Roles))];

    /// <summary>The fields the first line names, by key or by label; all must be known.</summary>
    internal static List<string?> Named(Entity entity, IReadOnlyList<string> names, Caller caller)
    {
        var fields = Fields(entity, caller);
        return Distinct([
            .. names.Select(
                (name, i) =>
                    name.Trim() is var bare && bare == Id
                        ? Id
                        : (
                            fields.FirstOrDefault(each => each.Key == bare)
                            ?? fields.FirstOrDefault(each => each.Label.ByLanguage.Values.Contains(bare, StringComparer.OrdinalIgnoreCase))
                        )?.Key
                            ?? throw Problems.Invalid(
                                Suggestion.Sentence(
                                    $"Line 1, cell {i + 1}: there is no field '{bare}' you may "
                                        + $"write{Suggestion.For(bare, [.. fields.Select(each => each.Key)])}"
                                ),
                                Problems.Part($"/1/{i + 1}", $"must name a field")
                            )
            ),
        ]);
    }

    internal static List<string?> Said(Entity entity, string said, int count, Caller caller)
    {
        var fields = Fields(entity, caller);
        var columns = said.Split(',').Select(each => each.Trim()).ToArray();
        if (columns.Length != count)
        {
            throw Problems.Invalid(
                $"'columns' says what {columns.Length} columns are; the table has {count}.",
                Problems.Part("columns", $"must have {count} parts with commas between")
            );
        }

        return Distinct([
            .. columns.Select(key =>
                key.Length == 0 ? null
                : key == Id || fields.Any(field => field.Key == key) ? key
                : throw Problems.NotFound($"field you may write", key, fields.Select(field => field.Key))
            ),
        ]);
    }

    internal static List<string?> Distinct(List<string?> columns)
    {
        var twice = columns.OfType<string>().GroupBy(key => key).FirstOrDefault(group => group.Count() > 1)?.Key;
        if (twice is not null)
        {
            var place = columns.LastIndexOf(twice) + 1;
            throw Problems.Invalid($"Line 1, cell {place}: '{twice}' is named twice.", Problems.Part($"/1/{place}", $"is named twice"));
        }

        return columns.Any(column => column is not null and not Id)
            ? columns
            : throw Problems.Invalid(
                $"No column goes to a field; there is nothing to import.",
                Problems.Part("columns", $"must name a field")
            );
    }

    internal static Field? Match(Entity entity, string? asked, List<string?> columns)
    {
        if (string.IsNullOrEmpty(asked))
        {
            return null;
        }

        var possible = columns.OfType<string>().Where(key => entity.Find(key)?.Unique == true).ToArray();
        return columns.Contains(Id)
                ? throw Problems.Invalid(
                    $"Lines name their records by id; leave 'match' out.",
                    Problems.Part("match", $"must be left out beside an id")
                )
            : possible.Contains(asked) ? entity.Find(asked)
            : throw Problems.Invalid(
                Suggestion.Sentence($"'match' must be a unique field that has a column{Suggestion.For(asked, possible)}"),
                Problems.Part("match", $"must be a unique field that has a column")
            );
    }

    internal static CsvFormat Format(TableParameters meaning, Application application)
    {
        var point =
            meaning.DecimalSeparator is null ? '.'
            : meaning.DecimalSeparator is "." or "," ? meaning.DecimalSeparator[0]
            : throw Problems.Invalid($"'decimalSeparator' must be '.' or ','.", Problems.Part("decimalSeparator", $"must be . or ,"));
        var days =
            meaning.DateOrder is null ? DayOrder.YearMonthDay
            : Orders.TryGetValue(meaning.DateOrder, out var order) ? order
            : throw Problems.Invalid($"'dateOrder' must be ymd, dmy or mdy.", Problems.Part("dateOrder", $"must be ymd, dmy or mdy"));
        return new CsvFormat(point, days, application.Zone);
    }
}

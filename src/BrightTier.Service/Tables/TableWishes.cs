using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Http;
using BrightTier.Service.Records;

namespace BrightTier.Service.Tables;

/// <summary>What somebody says of a table, read from a request.</summary>
internal static class TableWishes
{
    /// <param name="columns">How many columns the table has.</param>
    /// <exception cref="RefusedException">400: it is not said rightly, with every place.</exception>
    public static TableWish Of(TableRequest request, int columns, Definitions definitions)
    {
        var wrong = new List<ProblemPart>();
        if (request.Columns is { } said && said.Count != columns)
        {
            wrong.Add(Problems.Part("/columns", $"must have {columns} parts, one for each column"));
        }

        foreach (var (label, pointer) in new[] { (request.Label, "/label"), (request.Plural, "/plural") })
        {
            RequireLabel(label, pointer, wrong);
        }

        var days = request.DateOrder is { } order && TableColumns.Orders.TryGetValue(order, out var known) ? known : (DayOrder?)null;
        if (request.DateOrder is not null && days is null)
        {
            wrong.Add(Problems.Part("/dateOrder", $"must be ymd, dmy or mdy"));
        }

        if (request.DecimalSeparator is not (null or "." or ","))
        {
            wrong.Add(Problems.Part("/decimalSeparator", $"must be . or ,"));
        }

        var wishes = request
            .Columns?.Select((column, i) => Of(column, $"/columns/{i.ToString(CultureInfo.InvariantCulture)}", definitions, wrong))
            .ToArray();
        return wrong.Count == 0
            ? new TableWish(request.Label, request.Plural, request.Display, request.DecimalSeparator?[0], days, wishes)
            : throw Problems.Invalid(
                $"The table cannot be read so: {wrong[0].Pointer[1..]} {Message.Verbatim(wrong[0].Message)}.",
                [.. wrong]
            );
    }

    private static ColumnWish Of(TableColumnRequest column, string pointer, Definitions definitions, List<ProblemPart> wrong)
    {
        RequireLabel(column.Label, $"{pointer}/label", wrong);
        var type = column.Type is { } name && FieldTypes.TryParse(name, out var parsed) ? parsed : (FieldType?)null;
        if (column.Type is not null && type is null or FieldType.Image or FieldType.File)
        {
            wrong.Add(Problems.Part($"{pointer}/type", $"must be one of {string.Join(", ", FieldTypes.All.Except(["image", "file"]))}"));
        }

        if (type is FieldType.Reference && !definitions.Entities.ContainsKey(column.Target ?? ""))
        {
            wrong.Add(Problems.Part($"{pointer}/target", $"must be one of {string.Join(", ", definitions.Entities.Keys)}"));
        }

        return new ColumnWish(
            column.Left,
            column.Label,
            type,
            column.Required,
            column.Unique,
            column.Target,
            [.. (column.Choices ?? []).Select(choice => choice.Trim()).Where(choice => choice.Length > 0)]
        );
    }

    private static void RequireLabel(string? label, string pointer, List<ProblemPart> wrong)
    {
        if (label?.Length > Limits.LabelLength)
        {
            wrong.Add(Problems.Part(pointer, $"must have at most {Limits.LabelLength} characters"));
        }
    }
}

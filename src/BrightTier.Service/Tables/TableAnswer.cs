using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Records;

namespace BrightTier.Service.Tables;

/// <summary>A sketch as it travels.</summary>
internal static class TableAnswer
{
    /// <summary>Cells and choices that are shown at most; there may be a thousand.</summary>
    private const int Shown = 20;

    private const int Examples = 3;

    public static TableSketch Of(TableEntities.SketchedTable sketched, string language)
    {
        var (sketch, lines) = (sketched.Sketch, sketched.Lines);
        return new TableSketch(
            sketch.Entity.Key,
            sketch.Entity.Label.In(language),
            sketch.Entity.Plural.In(language),
            sketch.Entity.Display,
            lines.Count - 1,
            sketch.Format.Point.ToString(),
            TableColumns.Orders.First(order => order.Value == sketch.Format.Days).Key,
            sketch.Columns.Where(column => !column.Left).Sum(column => column.Doubts.Count),
            [.. sketch.Columns.Select((column, i) => Column(column, EntitySketch.Column(lines, i), language))]
        );
    }

    private static TableSketchColumn Column(ColumnSketch column, IReadOnlyList<(int Line, string Cell)> cells, string language) =>
        new(
            column.Heading,
            column.Left,
            column.Field.Key,
            column.Field.Label.In(language),
            column.Field.Type.Name(),
            column.Field.Required,
            column.Field.Unique,
            column.Field.Target,
            column.Field.Unit,
            [.. cells.Select(each => each.Cell.Trim()).Where(cell => cell.Length > 0).Distinct().Take(Examples)],
            [.. (column.Choices?.Choices ?? []).Select(choice => choice.Label.In(language)).Take(Shown)],
            column.Filled,
            column.Distinct,
            column.Reason.ToString(),
            [.. column.Doubts.Take(Shown).Select(doubt => new ImportProblem(doubt.Line, column.Field.Key, Said(doubt)))],
            column.Doubts.Count
        );

    /// <summary>What is wrong with a cell, as a sentence that repeats it.</summary>
    internal static string Said(DoubtfulCell doubt) =>
        Suggestion.Sentence(doubt.Cell.Length == 0 ? doubt.Message : $"'{Suggestion.Short(doubt.Cell)}' {doubt.Message}").ToString();
}

using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Records;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Tables;

/// <summary>Finds the columns of a table in which records of another entity are named.</summary>
internal sealed class TableReferences(TableImport import, CurrentRelease releases)
{
    /// <summary>Cells looked at to find out whether they name records.</summary>
    private const int Looked = 20;

    /// <summary>Of those, one in so many may name none.</summary>
    private const int Strangers = 5;

    /// <summary>Columns looked at; a table of a thousand is no register of names.</summary>
    private const int Most = 100;

    private int looked;

    /// <summary>A column as a reference where its cells name records, or somebody says so; otherwise as it is.</summary>
    /// <param name="said">The type somebody says it has.</param>
    public async Task<ColumnSketch> Look(
        ColumnSketch column,
        FieldType? said,
        IReadOnlyList<(int Line, string Cell)> cells,
        Caller caller,
        string language,
        CancellationToken cancel
    )
    {
        var distinct = cells.Select(each => each.Cell.Trim()).Where(cell => cell.Length > 0).Distinct().ToArray();
        if (said is null && column.Field is { Type: FieldType.Text or FieldType.Choice, Unique: false } && looked++ < Most)
        {
            var some = distinct.Where(cell => !long.TryParse(cell, out _)).Take(Looked).ToArray();
            foreach (var entity in some.Length == 0 ? [] : releases.Snapshot.Definitions.Entities.Values)
            {
                var means = await import.References(Reference(column, entity.Key), some, caller, language, cancel);
                if (means.Values.Count(each => each.Id is null) * Strangers <= some.Length)
                {
                    return await As(entity, $"{entity.Plural} are called so");
                }
            }

            return column;
        }

        return said is FieldType.Reference && column.Field.Target is { } target ? await As(releases.Entity(target), column.Reason) : column;

        async Task<ColumnSketch> As(Entity entity, Message reason)
        {
            var field = Reference(column, entity.Key);
            var means = await import.References(field, distinct, caller, language, cancel);
            return column with
            {
                Field = field,
                Choices = null,
                Reason = Suggestion.Sentence(reason),
                Doubts =
                [
                    .. column.Doubts.Where(doubt => doubt.Cell.Length == 0),
                    .. cells
                        .Select(each => (each.Line, Cell: each.Cell.Trim()))
                        .Where(each => means.GetValueOrDefault(each.Cell).Problem is not null)
                        .Select(each => new DoubtfulCell(each.Line, each.Cell, means[each.Cell].Problem!)),
                ],
            };
        }
    }

    private static Field Reference(ColumnSketch column, string target) =>
        column.Field with
        {
            Type = FieldType.Reference,
            Target = target,
            ChoiceList = null,
        };
}

using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Records;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Tables;

/// <summary>
/// Makes an entity of a table, with forms, list, card, menu entry and records. Everything that could stand against it is looked for before
/// anything is made.
/// </summary>
public sealed class TableEntities(
    DraftDocuments drafts,
    NewEntities entities,
    TableImport import,
    IRecordStore store,
    CurrentRelease releases,
    TimeProvider time
)
{
    /// <summary>What a table suggests, and its lines.</summary>
    public sealed record SketchedTable(EntitySketch Sketch, IReadOnlyList<(int Line, IReadOnlyList<string> Cells)> Lines);

    /// <exception cref="RefusedException">400: it is no table, or what is said of it is not right.</exception>
    public async Task<SketchedTable> Sketch(TableRequest request, Caller caller, string language, CancellationToken cancel)
    {
        var lines = TableColumns.Lines(request.Text, least: 0);
        var definitions = await drafts.Definitions(cancel);
        var wish = TableWishes.Of(request, lines[0].Cells.Count, releases.Snapshot.Definitions);
        var sketch = EntitySketch.Of(
            request.Name,
            lines,
            definitions,
            definitions.Application.Zone,
            CsvFormat.WritesMonthFirst(caller.Person.Language, caller.Person.Region),
            wish
        );
        var columns = sketch.Columns.ToArray();
        var references = new TableReferences(import, releases);
        for (var i = 0; i < columns.Length; i++)
        {
            if (!columns[i].Left)
            {
                columns[i] = await references.Look(
                    columns[i],
                    wish.Columns?[i].Type,
                    EntitySketch.Column(lines, i),
                    caller,
                    language,
                    cancel
                );
            }
        }

        var entity = sketch.Entity with { Fields = [.. columns.Where(column => !column.Left).Select(column => column.Field)] };
        return new SketchedTable(sketch with { Entity = entity, Columns = columns }, lines);
    }

    /// <exception cref="RefusedException">
    /// 400 or 422: it is no table, cells do not fit, or something stands against publishing; nothing was made.
    /// </exception>
    public async Task<TableOutcome> Make(TableRequest request, Caller caller, string language, CancellationToken cancel)
    {
        var sketched = await Sketch(request, caller, language, cancel);
        var entity = sketched.Sketch.Entity;
        RequireSound(sketched, request.EmptyDoubtful);
        if (request.Publish)
        {
            entities.RequireNoApproval(
                $"What is published needs a second person's approval here. Make drafts of the table, have them "
                    + $"approved and published, and import the records then."
            );
            caller.Author.Require(Permissions.WriteRecords, releases.Default.Definitions.Application, new Document.OfEntity(entity));
        }

        var made = await entities.Make(
            [
                new NewEntity(
                    entity,
                    [.. sketched.Sketch.Columns.Where(column => !column.Left).Select(column => column.Choices).OfType<ChoiceList>()]
                ),
            ],
            new EntityRelease("Made of a table", $"{entity.Plural}: {request.Name}", request.Publish),
            caller.Author,
            cancel
        );
        if (made.Release is not { } release)
        {
            return new TableOutcome(entity.Key, made.Layouts, 0, null);
        }

        return new TableOutcome(entity.Key, made.Layouts, await Import(sketched, caller, language, cancel), release);
    }

    /// <summary>Refuses cells that do not fit, unless they are to stay empty and may.</summary>
    private static void RequireSound(SketchedTable sketched, bool emptyDoubtful)
    {
        var fields = sketched.Sketch.Columns.Where(column => !column.Left).ToArray();
        if (fields.Length == 0)
        {
            throw Problems.Invalid($"No column becomes a field; there is nothing to make.", Problems.Part("/columns", $"leave all out"));
        }

        if (fields.FirstOrDefault(column => column is { Field.Type: FieldType.Choice or FieldType.Choices, Choices: null }) is { } empty)
        {
            throw Problems.Invalid(
                $"'{empty.Field.Label}' is a choice of nothing: say what it offers.",
                Problems.Part(
                    $"/columns/{sketched.Sketch.Columns.ToList().IndexOf(empty).ToString(CultureInfo.InvariantCulture)}/choices",
                    $"must have at least one choice"
                )
            );
        }

        var wrong = fields
            .SelectMany(column => column.Doubts.Where(doubt => !emptyDoubtful || column.Field.Required).Select(doubt => (column, doubt)))
            .OrderBy(each => each.doubt.Line)
            .ToArray();
        if (wrong.Length > 0)
        {
            throw new RefusedException(
                422,
                "import-refused",
                wrong.Length == 1
                    ? (Message)$"{wrong.Length} cell does not fit its column. Nothing was made."
                    : $"{wrong.Length} cells do not fit their columns. Nothing was made.",
                [
                    .. wrong
                        .Take(200)
                        .Select(each => new ProblemPart($"/{each.doubt.Line}/{each.column.Field.Key}", TableAnswer.Said(each.doubt))),
                ]
            );
        }
    }

    private async Task<int> Import(SketchedTable sketched, Caller caller, string language, CancellationToken cancel)
    {
        var (sketch, lines) = (sketched.Sketch, sketched.Lines);
        if (lines.Count == 1)
        {
            return 0;
        }

        var doubtful = sketch.Columns.SelectMany((column, i) => column.Doubts.Select(doubt => (doubt.Line, i))).ToHashSet();
        var text = string.Concat(
            lines.Select(line => CsvText.Line(line.Cells.Select((cell, i) => doubtful.Contains((line.Line, i)) ? "" : cell)))
        );
        var entity = releases.Entity(sketch.Entity.Key);
        var (writes, problems) = await import.Decide(
            entity,
            text,
            new TableParameters(
                string.Join(',', sketch.Columns.Select(column => column.Left ? "" : column.Field.Key)),
                null,
                sketch.Format.Point.ToString(),
                TableColumns.Orders.First(order => order.Value == sketch.Format.Days).Key
            ),
            caller,
            language,
            cancel
        );
        if (problems is [var first, ..])
        {
            throw new RefusedException(
                422,
                "import-refused",
                $"{entity.Plural} are there, published and empty: line {first.Line} stands against importing "
                    + $"the records. {Message.Verbatim(first.Message)}",
                [.. problems.Select(each => new ProblemPart($"/{each.Line}/{each.Field}", each.Message))]
            );
        }

        await store.Write([.. writes.Select(each => each.Write)], new Stamp(caller.Person.Id, time.GetUtcNow()), cancel);
        return writes.Count;
    }
}

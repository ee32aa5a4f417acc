using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Publication;
using BrightTier.Service.Records;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Tables;

/// <summary>
/// Makes an entity of a table, with forms, list, card, menu entry and records. Everything that could stand against it is looked for before
/// anything is made.
/// </summary>
public sealed class TableEntities(
    DraftDocuments drafts,
    ReleasePublisher publisher,
    TableImport import,
    IRecordStore store,
    CurrentRelease releases,
    TimeProvider time
)
{
    private static readonly string[] Kinds = ["full", "short", "list", "card"];

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
        var now = releases.Default.Definitions.Application;
        if (request.Publish && now.Approval)
        {
            throw new RefusedException(
                422,
                "approval-missing",
                $"What is published needs a second person's approval here. Make drafts of the table, have them "
                    + $"approved and published, and import the records then.",
                [Problems.Part("/publish", $"must be false here")]
            );
        }

        var catalogue = await drafts.Catalogue(cancel);
        var documents = Documents(sketched.Sketch, catalogue);
        if (request.Publish)
        {
            caller.Author.Require(Permissions.Publish, now, documents[0]);
            caller.Author.Require(Permissions.WriteRecords, now, documents[0]);
            RequirePublishable(documents);
        }

        var menu = await Menu(entity, catalogue, cancel);
        await drafts.SaveAll(
            [.. documents.Select(document => (document, 0L)), .. menu is { } changed ? [changed.Draft] : Array.Empty<(Document, long)>()],
            "Made of a table",
            caller.Author,
            cancel
        );
        var layouts = documents.OfType<Document.OfLayout>().Select(each => each.Key).ToArray();
        if (!request.Publish)
        {
            return new TableOutcome(entity.Key, layouts, 0, null);
        }

        var release = await publisher.Publish(
            new PublishRequest(
                [
                    .. documents.Select(document => new DraftReference(document.Kind.Name(), document.Key, 1)),
                    .. menu is { Goes: true, Draft: var (document, expected) }
                        ? [new DraftReference(document.Kind.Name(), document.Key, expected + 1)]
                        : Array.Empty<DraftReference>(),
                ],
                $"{entity.Plural}: {request.Name}"
            ),
            caller.Author,
            cancel
        );
        return new TableOutcome(entity.Key, layouts, await Import(sketched, caller, language, cancel), release.Number);
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

    /// <summary>The entity first, its choice lists, its layouts.</summary>
    private static List<Document> Documents(EntitySketch sketch, Catalogue catalogue)
    {
        var lists = sketch.Columns.Where(column => !column.Left).Select(column => column.Choices).OfType<ChoiceList>().ToArray();
        List<Document> documents = [new Document.OfEntity(sketch.Entity), .. lists.Select(list => new Document.OfChoiceList(list))];
        var definitions = documents.Aggregate(catalogue, (all, document) => all.With(document)).Definitions;
        foreach (var kind in Kinds)
        {
            var key = Keys.Fresh(kind == "full" ? sketch.Entity.Key : $"{sketch.Entity.Key}-{kind}", catalogue.IsTaken);
            var root = GeneratedLayout.Of(sketch.Entity, kind, definitions).Root.With("key", new Value.Word(key));
            documents.Add(new Document.OfLayout(Layout.Of(root)));
        }

        return documents;
    }

    /// <summary>The menu with an entry for the entity; none where everything is in the menu without one.</summary>
    /// <returns>Goes: whether it is published with the rest, which a menu somebody is at work on is not.</returns>
    private async Task<((Document Document, long Expected) Draft, bool Goes)?> Menu(
        Entity entity,
        Catalogue catalogue,
        CancellationToken cancel
    )
    {
        if (catalogue.Navigation.Entries.IsEmpty)
        {
            return null;
        }

        var draft = await drafts.Menu(catalogue.Navigation.WithEntry(entity), cancel);
        var row = draft.Expected == 0 ? null : await drafts.Row(DocumentKind.Navigation, draft.Document.Key, cancel);
        return (draft, row is null || row.Published == row.Revision);
    }

    /// <summary>Refuses what would not be published, before anything is made.</summary>
    private void RequirePublishable(List<Document> documents)
    {
        var next = documents.Aggregate(releases.Default.Catalogue, (all, document) => all.With(document));
        if (ReleaseCheck.Between(releases.Default.Definitions, next) is [var first, ..] found)
        {
            throw new RefusedException(
                422,
                "findings",
                $"The table makes no entity that can be published: {first.Message}",
                [.. found.Select(problem => Problems.Part(problem.At, problem.Message, problem.Code))]
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

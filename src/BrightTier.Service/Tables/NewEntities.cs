using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Tables;

/// <summary>An entity to be made, with the choice lists it needs.</summary>
/// <param name="MaySort">Whether its list may be in the order of a field; null where it may be of any.</param>
public sealed record NewEntity(Entity Entity, IReadOnlyList<ChoiceList> Lists, Func<Field, bool>? MaySort = null);

/// <summary>How entities are made: the words of the change, the note of the release, and whether there is one.</summary>
public sealed record EntityRelease(string Label, string Note, bool Publish);

/// <summary>
/// Makes entities that come whole, of a table or a database: with choice lists, forms, list, card and menu entries, published where that is
/// asked for. Everything that could stand against it is looked for before anything is made.
/// </summary>
public sealed class NewEntities(DraftDocuments drafts, ReleasePublisher publisher, CurrentRelease releases)
{
    private static readonly string[] Kinds = ["full", "short", "list", "card"];

    /// <exception cref="RefusedException">422: what is published needs a second person here.</exception>
    public void RequireNoApproval(Message instead)
    {
        if (releases.Default.Definitions.Application.Approval)
        {
            throw new RefusedException(422, "approval-missing", instead, [Problems.Part("/publish", $"must be false here")]);
        }
    }

    /// <returns>The layouts made, and the release they are in; null where they are drafts.</returns>
    /// <exception cref="RefusedException">403 or 422: something stands against it; nothing was made.</exception>
    public async Task<(IReadOnlyList<string> Layouts, long? Release)> Make(
        IReadOnlyList<NewEntity> entities,
        EntityRelease how,
        Author by,
        CancellationToken cancel
    )
    {
        var catalogue = await drafts.Catalogue(cancel);
        var documents = Documents(entities, catalogue);
        if (how.Publish)
        {
            by.Require(Permissions.Publish, releases.Default.Definitions.Application, documents[0]);
            RequirePublishable(documents);
        }

        var menu = await Menu(entities, catalogue, cancel);
        await drafts.SaveAll(
            [.. documents.Select(document => (document, 0L)), .. menu is { } changed ? [changed.Draft] : Array.Empty<(Document, long)>()],
            how.Label,
            by,
            cancel
        );
        var layouts = documents.OfType<Document.OfLayout>().Select(each => each.Key).ToArray();
        if (!how.Publish)
        {
            return (layouts, null);
        }

        var release = await publisher.Publish(
            new PublishRequest(
                [
                    .. documents.Select(document => new DraftReference(document.Kind.Name(), document.Key, 1)),
                    .. menu is { Goes: true, Draft: var (document, expected) }
                        ? [new DraftReference(document.Kind.Name(), document.Key, expected + 1)]
                        : Array.Empty<DraftReference>(),
                ],
                how.Note
            ),
            by,
            cancel
        );
        return (layouts, release!.Number);
    }

    /// <summary>The entities first, their choice lists, their layouts.</summary>
    private static List<Document> Documents(IReadOnlyList<NewEntity> entities, Catalogue catalogue)
    {
        List<Document> documents =
        [
            .. entities.Select(each => new Document.OfEntity(each.Entity)),
            .. entities.SelectMany(each => each.Lists).Select(list => new Document.OfChoiceList(list)),
        ];
        var definitions = documents.Aggregate(catalogue, (all, document) => all.With(document)).Definitions;
        var taken = new HashSet<string>(StringComparer.Ordinal);
        foreach (var (made, kind) in entities.SelectMany(each => Kinds.Select(kind => (each, kind))))
        {
            var entity = made.Entity;
            var key = Keys.Fresh(kind == "full" ? entity.Key : $"{entity.Key}-{kind}", each =>
                catalogue.IsTaken(each) || taken.Contains(each)
            );
            taken.Add(key);
            var root = GeneratedLayout.Of(entity, kind, definitions).Root.With("key", new Value.Word(key));
            var sorted = root.Words("sort").Select(each => entity.Find(each.TrimStart('-'))).OfType<Field>();
            root = made.MaySort is { } may && !sorted.All(may) ? root.With("sort", null) : root;
            documents.Add(new Document.OfLayout(Layout.Of(root)));
        }

        return documents;
    }

    /// <summary>The menu with an entry for each entity; none where everything is in the menu without one.</summary>
    /// <returns>Goes: whether it is published with the rest, which a menu somebody is at work on is not.</returns>
    private async Task<((Document Document, long Expected) Draft, bool Goes)?> Menu(
        IReadOnlyList<NewEntity> entities,
        Catalogue catalogue,
        CancellationToken cancel
    )
    {
        if (catalogue.Navigation.Entries.IsEmpty)
        {
            return null;
        }

        var menu = entities.Aggregate(catalogue.Navigation, (so, each) => so.WithEntry(each.Entity));
        var draft = await drafts.Menu(menu, cancel);
        var row = draft.Expected == 0 ? null : await drafts.Row(DocumentKind.Navigation, draft.Document.Key, cancel);
        return (draft, row is null || row.Published == row.Revision);
    }

    /// <summary>Refuses what would not be published, before anything is made.</summary>
    private void RequirePublishable(List<Document> documents)
    {
        var next = documents.Aggregate(releases.Default.Catalogue, (all, document) => all.With(document));
        if (ReleaseCheck.Between(releases.Default.Catalogue, next) is [var first, ..] found)
        {
            throw new RefusedException(
                422,
                "findings",
                $"The table makes no entity that can be published: {first.Message}",
                [.. found.Select(problem => Problems.Part(problem.At, problem.Message, problem.Code))]
            );
        }
    }
}

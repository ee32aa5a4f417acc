using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Storage;

namespace BrightTier.Service.Drafts;

// What of the drafts is not published yet, and whose work it is.
public sealed partial class DraftDocuments
{
    /// <summary>Who changed a draft since it was published, by their ids.</summary>
    public Task<IReadOnlyList<string>> ChangedBy(DraftRow row, CancellationToken cancel) =>
        store.AuthorsSince(row.Kind, row.Key, row.Published ?? 0, cancel);

    /// <summary>The unpublished drafts that some depend on, near and far, each with one of those that do.</summary>
    public async Task<IReadOnlyList<DependencyInfo>> Unpublished(
        IReadOnlyList<(DocumentKind Kind, string Key)> chosen,
        CancellationToken cancel
    )
    {
        var known = (await Known(null, cancel)).ToDictionary(draft => (draft.Row.Kind, draft.Row.Key));
        var unpublished = new List<DependencyInfo>();
        foreach (
            var each in DocumentDependencies.Along(chosen, (kind, key) =>
                known.GetValueOrDefault((kind.Name(), key)) is { } draft && draft.Row.Revision != draft.Row.Published
                    ? draft.Document
                    : null
            )
        )
        {
            var row = known[(each.Kind.Name(), each.Key)].Row;
            unpublished.Add(
                new DependencyInfo(
                    row.Kind,
                    row.Key,
                    row.Revision,
                    each.ForKind.Name(),
                    each.ForKey,
                    await store.AuthorsSince(row.Kind, row.Key, row.Published ?? 0, cancel)
                )
            );
        }

        return unpublished;
    }

    /// <summary>Whether there is a draft of that name.</summary>
    public async Task<bool> IsThere(string kind, string key, CancellationToken cancel) =>
        (await store.Heads(cancel)).Any(head => head.Kind == kind && head.Key == key);
}

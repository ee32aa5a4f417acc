using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Drafts;

// A draft that cannot be read, brought back from its history.
public partial class DraftDocuments
{
    /// <summary>
    /// Puts into a draft the last text of it that can be read: as its history leads to from what was published, or as it was published.
    /// </summary>
    /// <returns>The draft then, and where its text is from, as a word for people.</returns>
    /// <exception cref="RefusedException">409: it can be read, or there is no other text of it.</exception>
    public async Task<RecoveredDraft> Recover(DocumentKind kind, string key, Author by, CancellationToken cancel)
    {
        var row = await Row(kind, key, cancel);
        if (ParsedOrNull(row) is not null)
        {
            throw new RefusedException(
                409,
                "draft-sound",
                $"The draft of the {row.Kind} '{row.Key}' can be read; there is nothing to recover."
            );
        }

        var found = await releases.LastReadable(row.Kind, row.Key, long.MaxValue, cancel)
            ?? throw new RefusedException(
                409,
                "nothing-to-recover",
                $"The {row.Kind} '{row.Key}' was never published, so there is no earlier text to recover. Correct its text, or replace it."
            );
        var (document, revision) = await FollowHistory(found.Document, row, found.Release, cancel);
        var saved = await Save(document, row.Revision, by, cancel);
        return new RecoveredDraft(
            saved.Kind,
            saved.Key,
            saved.Revision,
            revision is null ? $"release {found.Release}" : $"revision {revision}"
        );
    }

    /// <summary>
    /// What a draft's history makes of a published text, as far as it leads; of a layout whose changes are all kept that is the draft as it
    /// was meant.
    /// </summary>
    private async Task<(Document Document, long? Revision)> FollowHistory(
        Document from,
        DraftRow row,
        long release,
        CancellationToken cancel
    )
    {
        if (
            from is not Document.OfLayout { Layout: var layout }
            || await released.HashIn(release, row.Kind, row.Key, cancel) is not { } hash
            || await store.ReleasedRevision(row.Kind, row.Key, hash, cancel) is not { } start
        )
        {
            return (from, null);
        }

        var (document, reached) = (from, (long?)null);
        foreach (var change in await store.ChangesAfter(row.Kind, row.Key, start, cancel))
        {
            using var json = JsonDocument.Parse(change.Edits);
            if (
                change.Revision != (reached ?? start) + 1
                || TreeJson.ReadEdits(json.RootElement, layout.Find) is not { Problems.Count: 0, Edits: var edits }
                || layout.Apply(edits).Layout is not { } next
            )
            {
                break;
            }

            layout = next;
            if (DocumentFile.WriteAndReadBack(new Document.OfLayout(layout)).Problems.Count > 0)
            {
                break;
            }

            (document, reached) = (new Document.OfLayout(layout), change.Revision);
        }

        return (document, reached);
    }
}

using System.Runtime.CompilerServices;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Drafts;

/// <summary>A change to a document, with what it held before and after; null where that is not kept.</summary>
public sealed record DocumentStep(ChangeRow Change, Document? Before, Document? After);

// What happened to a draft, step by step back from what it is now.
public partial class DraftDocuments
{
    /// <summary>What became of a document, newest first; of a change made before texts were kept only that it was made.</summary>
    /// <param name="before">The revision one looks on from; of the newest, null.</param>
    /// <param name="most">How many at most.</param>
    /// <returns>Those, and whether there are earlier ones.</returns>
    public async Task<(IReadOnlyList<DocumentStep> Steps, bool Earlier)> Steps(
        DraftRow row,
        long? before,
        int most,
        CancellationToken cancel
    )
    {
        var steps = new List<DocumentStep>();
        await foreach (var step in Back(row, cancel))
        {
            if (step.Change.Revision >= (before ?? long.MaxValue))
            {
                continue;
            }

            if (steps.Count == most)
            {
                return (steps, true);
            }

            steps.Add(step);
        }

        return (steps, false);
    }

    /// <summary>Makes a draft what it was at a revision, as one more change; what others did meanwhile is in its history.</summary>
    /// <exception cref="RefusedException">400: there is no such revision, or what it held is not kept.</exception>
    public async Task<SaveResult> Restore(DocumentKind kind, string key, long revision, Author by, CancellationToken cancel)
    {
        var row = await Row(kind, key, cancel);
        if (revision < 1 || revision > row.Revision)
        {
            throw Problems.Invalid(
                $"There is no revision '{revision}' of '{key}'; the newest is {row.Revision}.",
                Problems.Part("/revision", $"names no revision")
            );
        }

        if (revision == row.Revision)
        {
            return new SaveResult(row.Kind, row.Key, row.Revision, false);
        }

        await foreach (var (change, before, _) in Back(row, cancel))
        {
            if (change.Revision == revision + 1 && before is not null)
            {
                return await Save(before, row.Revision, by, cancel, $"Back to revision {revision}");
            }
        }

        throw Problems.Invalid(
            $"What '{key}' held at revision {revision} is not kept; what was published of it is in the releases.",
            Problems.Part("/revision", $"is not kept")
        );
    }

    /// <summary>From what a draft is now back, change by change.</summary>
    private async IAsyncEnumerable<DocumentStep> Back(DraftRow row, [EnumeratorCancellation] CancellationToken cancel)
    {
        var (text, after) = ((string?)row.Content, ParsedOrNull(row));
        foreach (var change in (await store.ChangesAfter(row.Kind, row.Key, 0, cancel)).Reverse())
        {
            Document? before;
            if (after is Document.OfLayout { Layout: var layout })
            {
                using var inverse = JsonDocument.Parse(change.Inverse);
                var undone = layout.Apply(TreeJson.ReadEdits(inverse.RootElement, layout.Find).Edits).Layout;
                before = undone is null || change.Revision == 1 ? null : new Document.OfLayout(undone);
            }
            else
            {
                text = text is null ? null : Textual(change)?.Undo(text);
                before = text is null ? null : DocumentFile.Read(text, row.Kind, row.Key).Document;
            }

            yield return new DocumentStep(change, before, after);
            after = before;
        }
    }

    private static TextChange? Textual(ChangeRow change) =>
        change.Edits.StartsWith('{') ? JsonSerializer.Deserialize<TextChange>(change.Edits) : null;
}

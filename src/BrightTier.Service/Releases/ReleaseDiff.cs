using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Releases;

/// <summary>Compares any two releases, or one with the drafts, document by document, in words.</summary>
public sealed class ReleaseDiff(ReleaseStore store, DraftDocuments drafts, CurrentRelease releases)
{
    /// <summary>One side: its documents, and of drafts their rows.</summary>
    private sealed record Side(
        string Name,
        IReadOnlyDictionary<(DocumentKind Kind, string Key), ComparedDocument> Documents,
        IReadOnlyDictionary<(DocumentKind Kind, string Key), DraftRow>? Rows
    );

    /// <param name="from">A release's number, <c>current</c> for what everyone has, or <c>drafts</c>.</param>
    /// <param name="to">The same.</param>
    public async Task<ReleaseComparison> Compare(string from, string to, CancellationToken cancel)
    {
        var (old, next) = (await Named(from, "from", cancel), await Named(to, "to", cancel));
        return new ReleaseComparison(
            old.Name,
            next.Name,
            [
                .. DocumentComparison
                    .Between(old.Documents, next.Documents)
                    .Select(change => new DocumentDifference(
                        change.Kind.Name(),
                        change.Key,
                        change.Change,
                        change.Summary.Texts(),
                        (next.Rows ?? old.Rows)?.GetValueOrDefault((change.Kind, change.Key)) is { } draft
                            ? new DraftState(draft.Revision, draft.ChangedBy, DateTimeOffset.FromUnixTimeMilliseconds(draft.ChangedAt))
                            : null
                    )),
            ]
        );
    }

    private async Task<Side> Named(string name, string parameter, CancellationToken cancel)
    {
        if (name == "drafts")
        {
            var rows = await drafts.List(cancel);
            return new Side(
                name,
                rows.ToDictionary(NameOf, row => new ComparedDocument(ReleaseStore.HashOf(row.Content), () => drafts.ParsedOrNull(row))),
                rows.ToDictionary(NameOf)
            );
        }

        var number =
            name == "current" ? releases.Default.Number
            : long.TryParse(name, NumberStyles.None, CultureInfo.InvariantCulture, out var given) ? given
            : 0;
        if (number == 0 || await store.Find(number, cancel) is null)
        {
            var newest = (await store.List(cancel)).Select(row => row.Number).DefaultIfEmpty().Max();
            throw Problems.Invalid(
                $"'{name}' is no release; name one by its number, 'current' for what everyone has, or 'drafts'. The newest is "
                    + $"{newest.ToString(CultureInfo.InvariantCulture)}.",
                Problems.Part(parameter, $"names no release")
            );
        }

        var texts = await store.Texts(number, cancel);
        return new Side(
            number.ToString(CultureInfo.InvariantCulture),
            texts.ToDictionary(
                text => (DocumentFile.KindNamed(text.Kind)!.Value, text.Key),
                text => new ComparedDocument(text.Hash, () => DocumentFile.Read(text.Text, text.Kind, text.Key).Document)
            ),
            null
        );

        static (DocumentKind Kind, string Key) NameOf(DraftRow row) => (DocumentFile.KindNamed(row.Kind)!.Value, row.Key);
    }
}

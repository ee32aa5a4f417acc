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
    /// <summary>One side: its texts by document, and of drafts their rows.</summary>
    private sealed record Side(
        string Name,
        IReadOnlyDictionary<(string Kind, string Key), (string Hash, Func<Document?> Document)> Documents,
        IReadOnlyDictionary<(string Kind, string Key), DraftRow>? Rows
    );

    /// <param name="from">A release's number, <c>current</c> for what everyone has, or <c>drafts</c>.</param>
    /// <param name="to">The same.</param>
    public async Task<ReleaseComparison> Compare(string from, string to, CancellationToken cancel)
    {
        var (old, next) = (await Named(from, "from", cancel), await Named(to, "to", cancel));
        var names = old
            .Documents.Keys.Union(next.Documents.Keys)
            .OrderBy(name => DocumentFile.KindNamed(name.Kind))
            .ThenBy(name => name.Key, StringComparer.Ordinal);
        var different = new List<DocumentDifference>();
        foreach (var name in names)
        {
            var (was, has) = (old.Documents.TryGetValue(name, out var before), next.Documents.TryGetValue(name, out var after));
            if (was && has && before.Hash == after.Hash)
            {
                continue;
            }

            if (!was && after.Document() is Document.OfLayout { Layout.IsArchived: true } or Document.OfEntity { Entity.Archived: true })
            {
                // Put away before anybody had it.
                continue;
            }

            var words = was && has ? Describe(before.Document(), after.Document()) : [];
            if (was && has && words.Count == 0)
            {
                // Written in another way, and the same.
                continue;
            }

            var draft = next.Rows?.GetValueOrDefault(name) ?? old.Rows?.GetValueOrDefault(name);
            different.Add(
                new DocumentDifference(
                    name.Kind,
                    name.Key,
                    !was ? "added"
                        : !has ? "removed"
                        : "changed",
                    words.Texts(),
                    draft is null
                        ? null
                        : new DraftState(draft.Revision, draft.ChangedBy, DateTimeOffset.FromUnixTimeMilliseconds(draft.ChangedAt))
                )
            );
        }

        return new ReleaseComparison(old.Name, next.Name, different);

        IReadOnlyList<Message> Describe(Document? one, Document? other) =>
            one is null ? [$"Cannot be read as it was."]
            : other is null ? [$"Cannot be read as it is."]
            : DocumentMerge.Describe(one, other, Label);

        Core.Model.Texts? Label(string entity, string field)
        {
            var name = (DocumentKind.Entity.Name(), entity);
            var defined =
                next.Documents.TryGetValue(name, out var found) || old.Documents.TryGetValue(name, out found) ? found.Document() : null;
            return (defined as Document.OfEntity)?.Entity.Find(field)?.Label;
        }
    }

    private async Task<Side> Named(string name, string parameter, CancellationToken cancel)
    {
        if (name == "drafts")
        {
            var rows = await drafts.List(cancel);
            return new Side(
                name,
                rows.ToDictionary(
                    row => (row.Kind, row.Key),
                    row => (ReleaseStore.HashOf(row.Content), (Func<Document?>)(() => drafts.ParsedOrNull(row)))
                ),
                rows.ToDictionary(row => (row.Kind, row.Key))
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
                text => (text.Kind, text.Key),
                text => (text.Hash, (Func<Document?>)(() => DocumentFile.Read(text.Text, text.Kind, text.Key).Document))
            ),
            null
        );
    }
}

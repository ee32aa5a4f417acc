using System.Collections.Immutable;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Storage;

namespace BrightTier.Service.Drafts;

// Every draft together, kept from one request to the next: what is read is what is another one since.
public sealed partial class DraftDocuments
{
    /// <summary>Every document as it is in drafts, over what is released: what drafts are checked against and resolved with.</summary>
    public async Task<Catalogue> Catalogue(CancellationToken cancel)
    {
        var state = await store.State(cancel);
        var release = releases.Default.Number;
        var known = latest;
        if (known is not null && known.Release == release && known.State == state)
        {
            return known.Catalogue;
        }

        // One catalogue for one state: what is compiled against it is compiled once. A draft that cannot be read counts as it is released.
        var heads = (await store.Heads(cancel)).ToImmutableDictionary(head => (head.Kind, head.Key), head => head.Revision);
        var tally = new DraftTally(heads.Count, heads.Values.Sum());
        if (known is not null && IsOver(known) && await Since(known, heads, cancel) is { } changed)
        {
            var next = changed.Aggregate(known.Catalogue, (all, document) => all.With(document));
            latest = new Latest(release, tally, heads, next, known.Whole);
            return next;
        }

        var documents = (await store.List(cancel)).SideBySide().Select(ParsedOrNull).ToArray();
        var catalogue = releases.Default.Catalogue.With(documents.OfType<Document>());
        latest = new Latest(release, tally, heads, catalogue, documents.All(document => document is not null));
        return catalogue;

        // Where every document has a draft that can be read, it is all the same what is released.
        bool IsOver(Latest before) =>
            before.Release == release || (before.Whole && releases.Default.Hashes.Keys.All(before.Heads.ContainsKey));
    }

    /// <summary>What is another one than it was; null where that cannot be told by itself.</summary>
    private async Task<IReadOnlyList<Document>?> Since(
        Latest known,
        ImmutableDictionary<(string Kind, string Key), long> heads,
        CancellationToken cancel
    )
    {
        var changed = heads.Where(head => known.Heads.GetValueOrDefault(head.Key) != head.Value).Select(head => head.Key).ToArray();
        if (known.Heads.Count > heads.Count)
        {
            return null;
        }

        var rows = await Rows(changed, cancel);
        var documents = changed.Select(name => rows.GetValueOrDefault(name) is { } row ? ParsedOrNull(row) : null).ToArray();
        return documents.Contains(null) ? null : [.. documents.OfType<Document>()];
    }

    /// <summary>What was changed here is known here: only what others do is looked up.</summary>
    private void Advance(DraftRow row, Document document)
    {
        if (latest is { } known && known.Heads.GetValueOrDefault((row.Kind, row.Key)) == row.Revision - 1 && row.Revision > 1)
        {
            latest = new Latest(
                known.Release,
                known.State with
                {
                    Revisions = known.State.Revisions + 1,
                },
                known.Heads.SetItem((row.Kind, row.Key), row.Revision),
                known.Catalogue.With(document),
                known.Whole
            );
        }
    }

    /// <param name="Whole">Whether each draft could be read.</param>
    private sealed record Latest(
        long Release,
        DraftTally State,
        ImmutableDictionary<(string Kind, string Key), long> Heads,
        Catalogue Catalogue,
        bool Whole
    );

    private volatile Latest? latest;
}

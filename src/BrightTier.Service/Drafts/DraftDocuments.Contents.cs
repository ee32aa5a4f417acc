using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Storage;

namespace BrightTier.Service.Drafts;

/// <summary>A draft with what it holds.</summary>
/// <param name="Document">Null where it cannot be read.</param>
/// <param name="Damage">Why it cannot be read, with the place; null where it can.</param>
public sealed record KnownDraft(DraftSummary Row, Document? Document, string? Damage);

// What drafts hold, as far as it was read already: a text is read from the store once for each revision.
public sealed partial class DraftDocuments
{
    /// <summary>So many are read faster one by one than all together.</summary>
    private const int Few = 200;

    /// <summary>Every draft, or those of a kind.</summary>
    /// <param name="after">The key after which they begin.</param>
    public async Task<IReadOnlyList<KnownDraft>> Known(
        DocumentKind? kind,
        CancellationToken cancel,
        string? after = null,
        int limit = int.MaxValue
    )
    {
        var rows = await store.Summaries(kind?.Name(), after, limit, cancel);
        await Rows([.. rows.Where(row => !IsKnown(row)).Select(row => (row.Kind, row.Key))], cancel);
        return
        [
            .. rows.Select(row =>
                parsed.TryGetValue((row.Kind, row.Key), out var known)
                    ? new KnownDraft(
                        row,
                        known.Document,
                        known is { Document: null, Problems: [var first, ..] } ? $"{first.At}: {first.Message}" : null
                    )
                    : new KnownDraft(row, null, null)
            ),
        ];
    }

    /// <summary>Some drafts by their names, fetched and read together; those that are not there are left out.</summary>
    public async Task<IReadOnlyDictionary<(string Kind, string Key), DraftRow>> Rows(
        IReadOnlyCollection<(string Kind, string Key)> names,
        CancellationToken cancel
    )
    {
        IReadOnlyList<DraftRow> rows =
            names.Count > Few
                ? await store.List(cancel)
                :
                [
                    .. (
                        await Task.WhenAll(
                            names
                                .GroupBy(name => name.Kind)
                                .Select(some => store.Find(some.Key, [.. some.Select(name => name.Key)], cancel))
                        )
                    ).SelectMany(some => some),
                ];
        rows.SideBySide().ForAll(row => Read(row));
        return rows.ToDictionary(row => (row.Kind, row.Key));
    }

    private bool IsKnown(DraftSummary row) => parsed.TryGetValue((row.Kind, row.Key), out var known) && known.Revision == row.Revision;
}

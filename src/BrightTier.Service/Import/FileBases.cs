using BrightTier.Core.Documents;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Storage;

namespace BrightTier.Service.Import;

/// <summary>
/// What files were made from, where whoever sends them does not say: what files brought last; of a document no file ever brought, the
/// revision of its draft that is most like the file. So a folder that came from anywhere is applied, again and again.
/// </summary>
public sealed class FileBases
{
    /// <summary>How many revisions back a draft is compared with a file.</summary>
    private const int Searched = 200;

    private readonly IReadOnlyDictionary<(string Kind, string Key), string> last;
    private readonly DraftDocuments drafts;
    private readonly HistoryStore histories;
    private readonly Author by;

    private FileBases(
        IReadOnlyDictionary<(string Kind, string Key), string> last,
        DraftDocuments drafts,
        HistoryStore histories,
        Author by
    ) => (this.last, this.drafts, this.histories, this.by) = (last, drafts, histories, by);

    /// <param name="by">Who sends the files.</param>
    public static async Task<FileBases> Load(DraftDocuments drafts, HistoryStore histories, Author by, CancellationToken cancel) =>
        new(await histories.LastFromFiles(cancel), drafts, histories, by);

    /// <summary>The documents that ever came from files.</summary>
    public IEnumerable<(string Kind, string Key)> Names => last.Keys;

    /// <summary>Whether the text is what files brought last.</summary>
    public bool IsLast(string kind, string key, string text) =>
        last.TryGetValue((kind, key), out var hash) && hash == ReleaseStore.HashOf(text);

    /// <summary>What a file was made from, and a sentence that says which text that is.</summary>
    /// <param name="sent">The file as it was sent.</param>
    /// <param name="row">The draft of the same document.</param>
    public async Task<(Document? From, Message Where)> Of(Document sent, DraftRow row, CancellationToken cancel)
    {
        if (last.TryGetValue((row.Kind, row.Key), out var hash))
        {
            var text = hash == ReleaseStore.HashOf(row.Content) ? row.Content : await histories.Text(hash, cancel);
            return (DocumentFile.Read(text).Document, $"Both come from what files brought last.");
        }

        var (nearest, revision) = (drafts.ParsedOrNull(row), row.Revision);
        var least = nearest is null ? int.MaxValue : Apart(nearest, sent);
        // What is as near to the draft as to one before it changed what was changed last: of somebody else's unpublished work that is told.
        var older = row.Published != row.Revision && row.ChangedBy != by.Id;
        foreach (var step in (await drafts.Steps(row, null, Searched, cancel)).Steps)
        {
            if (least > 0 && step.Before is { } before && Apart(before, sent) is var apart && (apart < least || (older && apart == least)))
            {
                (nearest, least, revision) = (before, apart, step.Change.Revision - 1);
            }
        }

        return (nearest, $"Both come from revision {revision} of the draft.");
    }

    private static int Apart(Document from, Document sent) => DocumentMerge.Describe(from, sent).Count;
}

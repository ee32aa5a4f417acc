using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>
/// What merging two sides of a document came to, with each conflict as a sentence; of those mine stands, or the side that was asked for.
/// </summary>
public sealed record MergedDocument(Document? Document, IReadOnlyList<Message> Conflicts, IReadOnlyList<FileProblem> Problems);

/// <summary>Compares and merges documents of every kind: layouts by their edits, all else place by place.</summary>
public static class DocumentMerge
{
    /// <summary>What was done to a document, in words; empty where both are alike.</summary>
    /// <param name="label">What a field of an entity is called; by its key where nothing is said.</param>
    public static IReadOnlyList<Message> Describe(Document old, Document next, Func<string, string, Texts?>? label = null) =>
        (old, next) switch
        {
            (Document.OfLayout { Layout: var one }, Document.OfLayout { Layout: var other }) =>
            [
                .. EditSummary.Describe(one, LayoutDiff.Edits(one, other), label is null ? null : field => label(other.Entity, field)),
            ],
            _ => [.. NodeMerge.Describe(DocumentFile.ToNode(old), DocumentFile.ToNode(next))],
        };

    /// <summary>Merges what two sides did to one document.</summary>
    /// <param name="from">What both began with; null where both made it.</param>
    /// <param name="take">Which side has its way in conflicts.</param>
    public static MergedDocument Merge(Document? from, Document mine, Document theirs, Side take)
    {
        if (mine is Document.OfLayout { Layout: var one } && theirs is Document.OfLayout { Layout: var other })
        {
            var start = from is Document.OfLayout { Layout: var begun } ? begun : Bare(one);
            var merged = LayoutMerge.Merge(start, one, other, _ => take);
            return new MergedDocument(new Document.OfLayout(merged.Layout), [.. merged.Conflicts.Select(conflict => conflict.Message)], []);
        }

        var conflicts = new List<Message>();
        var node = NodeMerge.Merge(
            from is null ? null : DocumentFile.ToNode(from),
            DocumentFile.ToNode(mine),
            DocumentFile.ToNode(theirs),
            at =>
            {
                conflicts.Add($"Both changed {at} of the {mine.Kind.Noun()} '{mine.Key}'.");
                return take is Side.Theirs;
            }
        );
        // What each side has right can be wrong together; it is read as any text is.
        var (document, problems) = node is null ? (null, []) : DocumentFile.Read(YamlText.Write(node));
        return new MergedDocument(document, conflicts, problems);
    }

    /// <summary>A layout with nothing in it, for two sides that began with none.</summary>
    private static Layout Bare(Layout layout) => Layout.Of(layout.Root with { Children = [] });
}

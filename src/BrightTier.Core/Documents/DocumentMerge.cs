using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>Where both sides did something to one place: a sentence, and what each did.</summary>
/// <param name="Code">Stable, as <see cref="Conflict.Code"/>; of documents without edits of their own set-twice.</param>
public sealed record DocumentConflict(string Code, Message Message, IReadOnlyList<Message> Mine, IReadOnlyList<Message> Theirs);

/// <summary>
/// What merging two sides of a document came to, with each conflict as a sentence; of those mine stands, or the side that was asked for.
/// </summary>
public sealed record MergedDocument(Document? Document, IReadOnlyList<DocumentConflict> Conflicts, IReadOnlyList<FileProblem> Problems);

/// <summary>Compares and merges documents of every kind: layouts by their edits, all else place by place.</summary>
public static class DocumentMerge
{
    /// <summary>What was done to a document, in words; empty where both are alike. What a file leaves out the ids of is paired.</summary>
    /// <param name="label">What a field of an entity is called; by its key where nothing is said.</param>
    public static IReadOnlyList<Message> Describe(Document old, Document next, Func<string, string, Texts?>? label = null) =>
        (old, next.CarriedFrom(old)) switch
        {
            (Document.OfLayout { Layout: var one }, Document.OfLayout { Layout: var other }) =>
            [
                .. EditSummary.Describe(one, LayoutDiff.Edits(one, other), label is null ? null : field => label(other.Entity, field)),
            ],
            var (one, other) => [.. NodeMerge.Describe(DocumentFile.ToNode(one), DocumentFile.ToNode(other))],
        };

    /// <summary>
    /// Merges two sides of a file: what none of the texts gives an id has none in what comes of it either, and is called as it is titled by
    /// then.
    /// </summary>
    public static MergedDocument MergeFiles(Document? from, Document mine, Document theirs, Side take)
    {
        var merged = Merge(from, mine, theirs, take);
        if (merged.Document is not Document.OfLayout { Layout: var layout })
        {
            return merged;
        }

        Document?[] sides = [from, mine.CarriedFrom(from), theirs.CarriedFrom(from ?? mine)];
        var written = sides
            .OfType<Document.OfLayout>()
            .SelectMany(side => side.Layout.Walk().Select(node => node.Id).Where(id => !side.Derived.Contains(id)))
            .ToHashSet();
        var derived = layout.Walk().Select(node => node.Id).Where(id => !written.Contains(id)).ToHashSet();
        return merged with { Document = new Document.OfLayout(DerivedIds.Anew(layout, derived)) };
    }

    /// <summary>Merges what two sides did to one document.</summary>
    /// <param name="from">What both began with; null where both made it.</param>
    /// <param name="take">Which side has its way in conflicts.</param>
    public static MergedDocument Merge(Document? from, Document mine, Document theirs, Side take)
    {
        mine = mine.CarriedFrom(from);
        theirs = theirs.CarriedFrom(from ?? mine);
        if (mine is Document.OfLayout { Layout: var one } && theirs is Document.OfLayout { Layout: var other })
        {
            var start = from is Document.OfLayout { Layout: var begun } ? begun : Bare(one);
            var merged = LayoutMerge.Merge(start, one, other, _ => take);
            return new MergedDocument(
                new Document.OfLayout(merged.Layout),
                [
                    .. merged.Conflicts.Select(conflict => new DocumentConflict(
                        conflict.Code,
                        conflict.Message,
                        Did(start, conflict.Mine),
                        Did(start, conflict.Theirs)
                    )),
                ],
                []
            );
        }

        var conflicts = new List<DocumentConflict>();
        var node = NodeMerge.Merge(
            from is null ? null : DocumentFile.ToNode(from),
            DocumentFile.ToNode(mine),
            DocumentFile.ToNode(theirs),
            (at, one, other) =>
            {
                conflicts.Add(
                    new DocumentConflict(
                        "set-twice",
                        $"Both changed {at} of the {mine.Kind.Noun()} '{mine.Key}'.",
                        [NodeMerge.Short(one)],
                        [NodeMerge.Short(other)]
                    )
                );
                return take is Side.Theirs;
            }
        );
        // What each side has right can be wrong together; it is read as any text is.
        var (document, problems) = node is null ? (null, []) : DocumentFile.Read(YamlText.Write(node));
        return new MergedDocument(document, conflicts, problems);
    }

    private static Message[] Did(Layout from, IReadOnlyList<Edit> edits) =>
        [.. edits.Select(edit => EditSummary.Describe(from, [edit]).Single())];

    /// <summary>A layout with nothing in it, for two sides that began with none.</summary>
    private static Layout Bare(Layout layout) => Layout.Of(layout.Root with { Children = [] });
}

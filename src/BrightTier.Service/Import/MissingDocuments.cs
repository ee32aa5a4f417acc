using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Http;

namespace BrightTier.Service.Import;

/// <summary>Documents that came from a folder once and are gone from it: what becomes of them here.</summary>
internal sealed class MissingDocuments
{
    /// <summary>How much of its text a document must share with a new one to have been renamed to it.</summary>
    private const double Alike = 0.6;

    private sealed record MissingName(DocumentKind Kind, string Key, string? Became, IReadOnlyList<Use> Uses, bool IsKept);

    private readonly List<MissingName> names = [];
    private readonly List<Document> archived = [];
    private readonly bool archives;

    /// <param name="gone">Those that are gone, as their drafts are.</param>
    /// <param name="made">Those that are new.</param>
    /// <param name="catalogue">All drafts, with what was sent.</param>
    /// <param name="archives">Whether they are to be archived.</param>
    public MissingDocuments(IReadOnlyList<Document> gone, IReadOnlyList<Document> made, Catalogue catalogue, bool archives)
    {
        this.archives = archives;
        var layouts = gone.OfType<Document.OfLayout>().Select(each => each.Layout).ToArray();
        var without = layouts.Aggregate(catalogue, (all, layout) => all.With(EntityArchive.WithArchived(layout, true)));
        foreach (var document in gone)
        {
            var uses = document switch
            {
                Document.OfLayout { Layout: { Kind: var kind } } => Impact.Of(kind == "piece" ? "piece" : "layout", document.Key, without),
                Document.OfEntity => EntityArchive.Uses(document.Key, without),
                _ => [],
            };
            var isKept = document is not (Document.OfLayout or Document.OfEntity);
            names.Add(new MissingName(document.Kind, document.Key, Became(document, made), uses, isKept));
            if (uses.Count == 0 && !isKept && archives)
            {
                IEnumerable<Document> go = document switch
                {
                    Document.OfEntity { Entity: var entity } => EntityArchive.Archive(entity, without),
                    Document.OfLayout { Layout: var layout } => [new Document.OfLayout(EntityArchive.WithArchived(layout, true))],
                    _ => [],
                };
                archived.AddRange(go);
                without = archived.Aggregate(without, (all, each) => all.With(each));
            }
        }
    }

    /// <summary>The drafts as they are with what is archived; none where it is not asked for.</summary>
    public IReadOnlyList<Document> Documents => archived;

    /// <summary>Of those the ones that are gone themselves: what only went with them is in the folder as it was.</summary>
    public IEnumerable<Document> Gone =>
        archived.Where(document => names.Any(each => (each.Kind, each.Key) == (document.Kind, document.Key)));

    /// <exception cref="RefusedException">409: something that is to be archived is named by something else.</exception>
    public void RequireUnused()
    {
        if (archives && names.FirstOrDefault(each => each.Uses.Count > 0) is { } used)
        {
            throw Problems.InUse("document-used", Texts.Of($"{used.Kind.Name()}/{used.Key}"), used.Uses);
        }
    }

    /// <param name="revision">The revision a draft is at by now.</param>
    /// <returns>What is told of it; null where nothing is gone.</returns>
    public IReadOnlyList<MissingDocument>? Answer(Func<DocumentKind, string, long> revision) =>
        names.Count == 0
            ? null
            :
            [
                .. names.Select(each => new MissingDocument(
                    each.Kind.Name(),
                    each.Key,
                    each.IsKept ? "kept"
                        : !archives ? "missing"
                        : each.Uses.Count > 0 ? "used"
                        : "archived",
                    each.Became,
                    each.Uses.Select(use => use.Message).Texts(),
                    revision(each.Kind, each.Key)
                )),
            ];

    /// <summary>The new document of its kind that has most of its lines.</summary>
    private static string? Became(Document gone, IReadOnlyList<Document> made)
    {
        var lines = Lines(gone);
        return made.Where(document => document.Kind == gone.Kind)
            .Select(document => (document.Key, Share: Share(lines, Lines(document))))
            .Where(pair => pair.Share >= Alike)
            .OrderByDescending(pair => pair.Share)
            .Select(pair => pair.Key)
            .FirstOrDefault();
    }

    private static HashSet<string> Lines(Document document) => [.. DocumentFile.Write(document).Split('\n').Where(line => line.Length > 0)];

    private static double Share(HashSet<string> one, HashSet<string> other) =>
        (double)one.Count(other.Contains) / Math.Max(one.Count, other.Count);
}

using System.Collections.Concurrent;
using System.Collections.Immutable;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Storage;

namespace BrightTier.Service.Snapshots;

/// <summary>A stored document that cannot be read.</summary>
/// <param name="Instead">The release whose text of it is served in its place; null where it is not served at all.</param>
public sealed record DamagedDocument(string Kind, string Key, IReadOnlyList<FileProblem> Problems, long? Instead)
{
    /// <summary>What is wrong with it, as a sentence.</summary>
    public Message Reason => Suggestion.Sentence($"{Problems[0].At}: {Problems[0].Message}");

    /// <summary>The same, with what people have in its place.</summary>
    public Message Told =>
        Instead is { } instead ? (Message)$"{Reason} People have it as it was in release {instead}." : $"{Reason} People do without it.";
}

/// <summary>
/// One release in memory, whole: its documents parsed, and the forms resolved from them so far. Never changes but for being filled. A
/// document
/// of it that cannot be read harms itself alone: the last text of it that can is served instead.
/// </summary>
public sealed class Snapshot
{
    private readonly ConcurrentDictionary<(string Key, string Kind), ComposedLayout> assembled = new();

    private Snapshot(
        long number,
        Catalogue catalogue,
        ImmutableDictionary<(string Kind, string Key), string> hashes,
        IReadOnlyList<DamagedDocument> damaged
    )
    {
        Damaged = damaged;
        Number = number;
        Name = number.ToString(System.Globalization.CultureInfo.InvariantCulture);
        Catalogue = catalogue;
        Hashes = hashes;
    }

    /// <summary>What everyone has before the first release.</summary>
    public static Snapshot None { get; } = new(0, Catalogue.Empty, ImmutableDictionary<(string Kind, string Key), string>.Empty, []);

    public long Number { get; }

    public Catalogue Catalogue { get; }

    /// <summary>The hash of each document's text.</summary>
    public ImmutableDictionary<(string Kind, string Key), string> Hashes { get; }

    /// <summary>The release made over this one by some documents: what it costs is what they do.</summary>
    public Snapshot With(long number, IReadOnlyCollection<(ReleasedText Text, Document Document)> changed) =>
        new(
            number,
            changed.Count == 1 ? Catalogue.With(changed.First().Document) : Catalogue.With(changed.Select(each => each.Document)),
            Hashes.SetItems(changed.Select(each => KeyValuePair.Create((each.Text.Kind, each.Text.Key), each.Text.Hash))),
            Damaged.Count == 0
                ? Damaged
                : [.. Damaged.Where(damaged => !changed.Any(each => (each.Text.Kind, each.Text.Key) == (damaged.Kind, damaged.Key)))]
        );

    /// <summary>Those of its documents that cannot be read.</summary>
    public IReadOnlyList<DamagedDocument> Damaged { get; }

    public Definitions Definitions => Catalogue.Definitions;

    private readonly ConcurrentDictionary<string, Definitions> readable = new(StringComparer.Ordinal);

    /// <summary>The definitions as somebody of these roles may know them.</summary>
    public Definitions ReadableBy(IReadOnlyList<string> roles) =>
        // As many as there are sets of roles that people have.
        readable.GetOrAdd(string.Join(' ', roles), static (_, given) => given.Definitions.ReadableBy(given.roles), (Definitions, roles));

    /// <summary>The number as the header Bright-Release has it.</summary>
    public string Name { get; }

    internal ConcurrentDictionary<FormKey, FormBytes> Forms { get; } = new();

    /// <summary>Answers by what was asked, to the letter, and by whom: the shortest way to the bytes.</summary>
    internal ConcurrentDictionary<(string Path, string Query, string Kind), FormBytes> Answers { get; } = new();

    /// <summary>The layout somebody gets by the routing rules, put together.</summary>
    public ComposedLayout LayoutFor(Entity entity, string kind, IReadOnlyCollection<string> roles, EvaluationContext surroundings)
    {
        var layout = LayoutSelector.LayoutFor(Catalogue, entity, kind, roles, surroundings);
        return assembled.GetOrAdd(
            (layout.Key, kind),
            static (_, given) => LayoutComposer.Assemble(given.layout, given.Catalogue),
            (layout, Catalogue)
        );
    }

    /// <summary>
    /// Parses texts of one release side by side, since a service that starts waits for this: of layouts those alone that this build has
    /// never
    /// read.
    /// </summary>
    /// <param name="instead">The last text of a document that can be read, with its release; null where there is none.</param>
    public static async Task<Snapshot> Of(
        long number,
        IEnumerable<ReleasedText> texts,
        KeptLayouts kept,
        Func<ReleasedText, Task<(Document Document, long Release)?>> instead
    )
    {
        var all = texts.ToArray();
        var (documents, damaged) = (new List<Document>(), new List<DamagedDocument>());
        foreach (var (text, (document, problems)) in all.AsParallel().AsOrdered().Select(text => (text, Read(text, kept))).ToArray())
        {
            if (document is not null)
            {
                documents.Add(document);
                continue;
            }

            var other = await instead(text);
            documents.AddRange(other is { } found ? [found.Document] : []);
            damaged.Add(new DamagedDocument(text.Kind, text.Key, problems, other?.Release));
        }

        return new Snapshot(
            number,
            DocumentFile.Of(documents),
            all.ToImmutableDictionary(text => (text.Kind, text.Key), text => text.Hash),
            damaged
        );
    }

    private static (Document? Document, IReadOnlyList<FileProblem> Problems) Read(ReleasedText text, KeptLayouts kept)
    {
        if (ReleaseStore.HashOf(text.Text) != text.Hash)
        {
            return (null, [new FileProblem(new Place(1, 1, ""), $"it is not the text that was released: its hash is another")]);
        }

        return text.Head is { } written && LayoutHeadJson.Read(written) is { } head && head.Key == text.Key
            ? (new Document.OfLayout(kept.Of(text.Text, head)), [])
            : kept.Read(text.Text, text.Kind, text.Key);
    }
}

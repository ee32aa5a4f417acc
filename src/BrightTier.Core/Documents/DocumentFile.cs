using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>What a document is. The name is the folder its files stand in and the word the wire uses.</summary>
public enum DocumentKind
{
    Application,
    ChoiceList,
    Pattern,
    Entity,
    Layout,
    Template,
    Routing,
    Navigation,
}

/// <summary>One document.</summary>
public abstract record Document(DocumentKind Kind, string Key)
{
    /// <summary>The entity it belongs to; null for what all entities share.</summary>
    public string? BelongsTo =>
        this switch
        {
            OfEntity entity => entity.Key,
            OfLayout { Layout: { Kind: not "piece", Entity: var entity } } => entity,
            _ => null,
        };

    /// <summary>
    /// The document with the ids its nodes had in what its text was made from, where the text leaves them out: what was retitled or moved
    /// by hand is the same node still.
    /// </summary>
    /// <param name="before">What it was made from; null where there is nothing.</param>
    public Document CarriedFrom(Document? before)
    {
        if (this is not OfLayout { Derived.Count: > 0 } read || before is not OfLayout { Layout: var known })
        {
            return this;
        }

        var (layout, names) = CarriedIds.Carry(known, read.Layout, read.Derived);
        return names.Count == 0
            ? this
            : new OfLayout(layout)
            {
                Places = read.Places.ToDictionary(pair => names.GetValueOrDefault(pair.Key, pair.Key), pair => pair.Value),
                Derived = read.Derived.Select(id => names.GetValueOrDefault(id, id)).ToHashSet(),
            };
    }

    public sealed record OfApplication(Application Application) : Document(DocumentKind.Application, "application");

    public sealed record OfChoiceList(ChoiceList ChoiceList) : Document(DocumentKind.ChoiceList, ChoiceList.Key);

    public sealed record OfPattern(Pattern Pattern) : Document(DocumentKind.Pattern, Pattern.Key);

    public sealed record OfEntity(Entity Entity) : Document(DocumentKind.Entity, Entity.Key);

    /// <summary>A layout of any kind, a piece included. <see cref="Places"/> tells where in the text each node stood.</summary>
    public sealed record OfLayout(Layout Layout) : Document(DocumentKind.Layout, Layout.Key)
    {
        public IReadOnlyDictionary<NodeId, Place> Places { get; init; } = ImmutableDictionary<NodeId, Place>.Empty;

        /// <summary>The ids that do not stand in the text but were derived in reading it.</summary>
        public IReadOnlySet<NodeId> Derived { get; init; } = ImmutableHashSet<NodeId>.Empty;
    }

    public sealed record OfTemplate(Template Template) : Document(DocumentKind.Template, Template.Key);

    public sealed record OfRouting(RoutingRules Routing) : Document(DocumentKind.Routing, "routing");

    public sealed record OfNavigation(Navigation Navigation) : Document(DocumentKind.Navigation, "navigation");
}

/// <summary>Documents to and from text.</summary>
public static class DocumentFile
{
    private static readonly (DocumentKind Kind, string Name)[] Names =
    [
        (DocumentKind.Application, "application"),
        (DocumentKind.ChoiceList, "choice-list"),
        (DocumentKind.Pattern, "pattern"),
        (DocumentKind.Entity, "entity"),
        (DocumentKind.Layout, "layout"),
        (DocumentKind.Template, "template"),
        (DocumentKind.Routing, "routing"),
        (DocumentKind.Navigation, "navigation"),
    ];

    /// <summary>Every word <c>kind</c> can have in a file.</summary>
    private static readonly string[] Words =
    [
        .. Names.Select(pair => pair.Name).Where(name => name != "layout"),
        .. Grammar.Roots.Select(rule => rule.Root!),
    ];

    /// <summary>The names of all kinds, in the order in which they rest on one another.</summary>
    public static IReadOnlyList<string> KindNames { get; } = [.. Names.Select(pair => pair.Name)];

    public static string Name(this DocumentKind kind) => Names.First(pair => pair.Kind == kind).Name;

    /// <summary>What people call a document of a kind, in messages.</summary>
    public static Message Noun(this DocumentKind kind) => Message.Term(kind.Name().Replace('-', ' '));

    public static DocumentKind? KindNamed(string name) =>
        Names.Where(pair => pair.Name == name).Select(pair => (DocumentKind?)pair.Kind).FirstOrDefault();

    /// <summary>Where a document's file stands in a folder, with '/' between its parts.</summary>
    public static string PathOf(DocumentKind kind, string key) =>
        kind switch
        {
            DocumentKind.Application or DocumentKind.Routing or DocumentKind.Navigation => $"{kind.Name()}.yaml",
            DocumentKind.Entity => $"entities/{key}.yaml",
            _ => $"{kind.Name()}s/{key}.yaml",
        };

    /// <summary>Reads YAML or JSON; <c>kind</c> says what it is.</summary>
    /// <returns>The document, or all that is wrong with the text.</returns>
    public static (Document? Document, IReadOnlyList<FileProblem> Problems) Read(string text)
    {
        var (node, problem) = YamlText.Read(text);
        return node is not null ? Read(node)
            : ConflictMarks.LineIn(text) is { } line
                ? (null, [new FileProblem(new Place(line, 1, ""), $"a merge left both sides here; choose one, and delete the marks")])
            : (null, [problem!]);
    }

    /// <summary>Reads a stored text, which must be of the kind and key it is stored under.</summary>
    public static (Document? Document, IReadOnlyList<FileProblem> Problems) Read(string text, string kind, string key)
    {
        var (document, problems) = Read(text);
        return document is null || (document.Kind.Name() == kind && document.Key == key)
            ? (document, problems)
            : (null, [new FileProblem(new Place(1, 1, ""), $"it is the {document.Kind.Noun()} '{document.Key}'")]);
    }

    public static (Document? Document, IReadOnlyList<FileProblem> Problems) Read(FileNode node)
    {
        var reading = new DocumentReader();
        Document? document = null;
        if (reading.Map(node, $"a document") is { } map)
        {
            var kind = map["kind"];
            document = (kind as FileNode.Scalar)?.Content switch
            {
                "application" => new Document.OfApplication(DefinitionFiles.ReadApplication(reading, map)),
                "choice-list" => new Document.OfChoiceList(DefinitionFiles.ReadChoiceList(reading, map)),
                "pattern" => new Document.OfPattern(DefinitionFiles.ReadPattern(reading, map)),
                "entity" => new Document.OfEntity(DefinitionFiles.ReadEntity(reading, map)),
                "template" => new Document.OfTemplate(RoutingFiles.ReadTemplate(reading, map)),
                "routing" => new Document.OfRouting(RoutingFiles.ReadRouting(reading, map)),
                "navigation" => new Document.OfNavigation(RoutingFiles.ReadNavigation(reading, map)),
                { } word when Grammar.Root(word) is not null => LayoutFile.Read(reading, map) is { } read
                    ? new Document.OfLayout(read.Layout) { Places = read.Places, Derived = read.Derived }
                    : null,
                var other => Unknown(other),
            };

            Document? Unknown(string? word)
            {
                reading.Problem(
                    kind?.At ?? map.At,
                    word is null
                        ? (Message)$"a document needs 'kind': {string.Join(", ", Words)}"
                        : $"there is no kind '{word}'{Suggestion.For(word, Words)}"
                );
                return null;
            }
        }

        return (reading.Problems.Count == 0 ? document : null, reading.Problems);
    }

    /// <summary>Canonical YAML.</summary>
    public static string Write(Document document) => YamlText.Write(ToNode(document));

    /// <summary>
    /// Canonical YAML, read back before anybody relies on it: what is stored is what can be read again as the same document.
    /// </summary>
    /// <param name="before">What it was made of, which can be read back: only what is another one since is read.</param>
    /// <returns>The text, and what keeps it from being read back the same; nothing where nothing does.</returns>
    public static (string Text, IReadOnlyList<FileProblem> Problems) WriteAndReadBack(Document document, Document? before = null)
    {
        var text = Write(document);
        if (
            document is Document.OfLayout { Layout: var now }
            && before is Document.OfLayout { Layout: var old }
            && new Document.OfLayout(Layout.Of(ChangedPart(now.Root, old.Root))) is var changed
            && Unlike(changed, Write(changed)).Count == 0
        )
        {
            return (text, []);
        }

        return (text, Unlike(document, text));
    }

    /// <summary>What keeps a text from being read back as the document it is of.</summary>
    private static IReadOnlyList<FileProblem> Unlike(Document document, string text)
    {
        var (read, problems) = Read(text);
        if (read is null)
        {
            return problems;
        }

        var differs = (document, read) is (Document.OfLayout { Layout: var given }, Document.OfLayout { Layout: var back })
            ? given
                .Root.Walk()
                .Zip(back.Root.Walk())
                .Where(pair => pair.First.Id != pair.Second.Id || !pair.First.Properties.Equals(pair.Second.Properties))
                .Select(pair => pair.First.Id.Name)
                .FirstOrDefault()
                ?? (given.Equals(back) ? null : "")
            : FileNode.Difference(ToNode(document), ToNode(read));
        return differs is null ? [] : [new FileProblem(new Place(0, 0, differs), $"would be read back as something else than it is")];
    }

    /// <summary>
    /// A layout without what it has from another: each node's text comes of what is in it alone, but for the ids that are left out, and
    /// those
    /// are found anew for the whole whenever it is written. Rows stay whole, since how a row is written depends on all its cells.
    /// </summary>
    private static Node ChangedPart(Node now, Node old)
    {
        if (now.Kind is NodeKind.Row or NodeKind.Variant or NodeKind.Change)
        {
            return now;
        }

        var before = old.Children.ToDictionary(child => child.Id);
        return now with
        {
            Children =
            [
                .. now
                    .Children.Select(child => (Child: child, Before: before.GetValueOrDefault(child.Id)))
                    .Where(pair => pair.Child.Kind is NodeKind.Body || !ReferenceEquals(pair.Child, pair.Before))
                    .Select(pair => pair.Before is null ? pair.Child : ChangedPart(pair.Child, pair.Before)),
            ],
        };
    }

    /// <summary>The same as JSON, which <see cref="Read(string)"/> reads too.</summary>
    public static void Write(System.Text.Json.Utf8JsonWriter writer, Document document) => ToNode(document).WriteTo(writer);

    public static FileNode ToNode(Document document) =>
        document switch
        {
            Document.OfApplication application => DefinitionFiles.Write(application.Application),
            Document.OfChoiceList list => DefinitionFiles.Write(list.ChoiceList),
            Document.OfPattern pattern => DefinitionFiles.Write(pattern.Pattern),
            Document.OfEntity entity => DefinitionFiles.Write(entity.Entity),
            Document.OfLayout layout => LayoutFile.Write(layout.Layout),
            Document.OfTemplate template => RoutingFiles.Write(template.Template),
            Document.OfRouting routing => RoutingFiles.Write(routing.Routing),
            Document.OfNavigation navigation => RoutingFiles.Write(navigation.Navigation),
            _ => throw new ArgumentOutOfRangeException(nameof(document)),
        };

    /// <summary>
    /// A catalogue with one document put in, in the place of the one of its kind and key; the same where it holds that very one.
    /// </summary>
    public static Catalogue With(this Catalogue catalogue, Document document)
    {
        var definitions = catalogue.Definitions;
        return document switch
        {
            _ when document.Kind is not DocumentKind.Layout && Content(catalogue.Find(document.Kind, document.Key)) == Content(document) =>
                catalogue,
            Document.OfApplication application => catalogue with
            {
                Definitions = definitions with { Application = application.Application },
            },
            Document.OfChoiceList list => catalogue with
            {
                Definitions = definitions with { ChoiceLists = definitions.ChoiceLists.SetItem(list.Key, list.ChoiceList) },
            },
            Document.OfPattern pattern => catalogue with
            {
                Definitions = definitions with { Patterns = definitions.Patterns.SetItem(pattern.Key, pattern.Pattern) },
            },
            Document.OfEntity entity => catalogue with { Definitions = definitions.With(entity.Entity) },
            Document.OfLayout layout => catalogue.With(layout.Layout),
            Document.OfTemplate template => catalogue with { Templates = catalogue.Templates.SetItem(template.Key, template.Template) },
            Document.OfRouting routing => catalogue with { Routing = routing.Routing },
            Document.OfNavigation navigation => catalogue with { Navigation = navigation.Navigation },
            _ => throw new ArgumentOutOfRangeException(nameof(document)),
        };
    }

    /// <summary>The very thing a definition's document is of.</summary>
    private static object? Content(Document? document) =>
        document switch
        {
            Document.OfApplication application => application.Application,
            Document.OfChoiceList list => list.ChoiceList,
            Document.OfPattern pattern => pattern.Pattern,
            Document.OfEntity entity => entity.Entity,
            Document.OfTemplate template => template.Template,
            Document.OfRouting routing => routing.Routing,
            Document.OfNavigation navigation => navigation.Navigation,
            _ => null,
        };

    /// <summary>The document of a kind and key that a catalogue holds; null where it holds none.</summary>
    public static Document? Find(this Catalogue catalogue, DocumentKind kind, string key) =>
        kind switch
        {
            DocumentKind.Application => new Document.OfApplication(catalogue.Definitions.Application),
            DocumentKind.ChoiceList => catalogue.Definitions.ChoiceLists.GetValueOrDefault(key) is { } list
                ? new Document.OfChoiceList(list)
                : null,
            DocumentKind.Pattern => catalogue.Definitions.Patterns.GetValueOrDefault(key) is { } pattern
                ? new Document.OfPattern(pattern)
                : null,
            DocumentKind.Entity => catalogue.Definitions.Stored.FirstOrDefault(each => each.Key == key) is { } entity
                ? new Document.OfEntity(entity)
                : null,
            DocumentKind.Layout => (catalogue.Layouts.GetValueOrDefault(key) ?? catalogue.Archived.GetValueOrDefault(key)) is { } layout
                ? new Document.OfLayout(layout)
                : null,
            DocumentKind.Template => catalogue.Templates.GetValueOrDefault(key) is { } template ? new Document.OfTemplate(template) : null,
            DocumentKind.Routing => new Document.OfRouting(catalogue.Routing),
            DocumentKind.Navigation => new Document.OfNavigation(catalogue.Navigation),
            _ => throw new ArgumentOutOfRangeException(nameof(kind)),
        };

    public static Catalogue Of(IEnumerable<Document> documents) => Catalogue.Empty.With(documents);

    /// <summary>A catalogue with documents put in, each in the place of the one of its kind and key.</summary>
    public static Catalogue With(this Catalogue catalogue, IEnumerable<Document> documents)
    {
        var all = documents.ToArray();
        return all.Where(document => document is not Document.OfLayout)
            .Aggregate(catalogue, With)
            .With(all.OfType<Document.OfLayout>().Select(document => document.Layout));
    }
}

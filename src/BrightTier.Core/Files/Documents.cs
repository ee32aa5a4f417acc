using System.Collections.Immutable;
using BrightTier.Core.Entities;
using BrightTier.Core.Layouts;

namespace BrightTier.Core.Files;

/// <summary>What a document is. The name is the folder its files stand in and the word the wire uses.</summary>
public enum DocumentKind
{
    Application,
    ChoiceList,
    Entity,
    Layout,
}

/// <summary>One document: the application, a choice list, an entity or a layout.</summary>
public abstract record Document(DocumentKind Kind, string Key)
{
    public sealed record OfApplication(Application Application) : Document(DocumentKind.Application, "application");

    public sealed record OfChoiceList(ChoiceList ChoiceList) : Document(DocumentKind.ChoiceList, ChoiceList.Key);

    public sealed record OfEntity(Entity Entity) : Document(DocumentKind.Entity, Entity.Key);

    /// <summary>A layout of any kind, a piece included. <see cref="Places"/> tells where in the text each node stood.</summary>
    public sealed record OfLayout(Layout Layout) : Document(DocumentKind.Layout, Layout.Key)
    {
        public IReadOnlyDictionary<NodeId, Place> Places { get; init; } = ImmutableDictionary<NodeId, Place>.Empty;
    }
}

/// <summary>Documents to and from text.</summary>
public static class Documents
{
    private static readonly (DocumentKind Kind, string Name)[] Names =
        [(DocumentKind.Application, "application"), (DocumentKind.ChoiceList, "choice-list"), (DocumentKind.Entity, "entity"), (DocumentKind.Layout, "layout")];

    /// <summary>Every word <c>kind</c> can have in a file.</summary>
    private static readonly string[] Words = ["application", "choice-list", "entity", .. Grammar.Roots.Select(rule => rule.Root!)];

    public static string Name(this DocumentKind kind) => Names.First(pair => pair.Kind == kind).Name;

    public static DocumentKind? KindNamed(string name) => Names.Where(pair => pair.Name == name).Select(pair => (DocumentKind?)pair.Kind).FirstOrDefault();

    /// <summary>Reads YAML or JSON; <c>kind</c> says what it is.</summary>
    /// <returns>The document, or all that is wrong with the text.</returns>
    public static (Document? Document, IReadOnlyList<FileProblem> Problems) Read(string text)
    {
        var (node, problem) = YamlText.Read(text);
        return node is null ? (null, [problem!]) : Read(node);
    }

    public static (Document? Document, IReadOnlyList<FileProblem> Problems) Read(FileNode node)
    {
        var reading = new Reading();
        Document? document = null;
        if (reading.Map(node, "a document") is { } map)
        {
            var kind = map["kind"];
            switch ((kind as FileNode.Scalar)?.Content)
            {
                case "application":
                    document = new Document.OfApplication(DefinitionFiles.ReadApplication(reading, map));
                    break;
                case "choice-list":
                    document = new Document.OfChoiceList(DefinitionFiles.ReadChoiceList(reading, map));
                    break;
                case "entity":
                    document = new Document.OfEntity(DefinitionFiles.ReadEntity(reading, map));
                    break;
                case { } word when Grammar.Root(word) is not null:
                    document = LayoutFile.Read(reading, map) is { } read ? new Document.OfLayout(read.Layout) { Places = read.Places } : null;
                    break;
                case var other:
                    reading.Problem(kind?.At ?? map.At, other is null
                        ? $"a document needs 'kind': {string.Join(", ", Words)}"
                        : $"there is no kind '{other}'{Suggestion.For(other, Words)}");
                    break;
            }
        }

        return (reading.Problems.Count == 0 ? document : null, reading.Problems);
    }

    /// <summary>Canonical YAML.</summary>
    public static string Write(Document document) => YamlText.Write(ToNode(document));

    public static FileNode ToNode(Document document) => document switch
    {
        Document.OfApplication application => DefinitionFiles.Write(application.Application),
        Document.OfChoiceList list => DefinitionFiles.Write(list.ChoiceList),
        Document.OfEntity entity => DefinitionFiles.Write(entity.Entity),
        Document.OfLayout layout => LayoutFile.Write(layout.Layout),
        _ => throw new ArgumentOutOfRangeException(nameof(document)),
    };
}

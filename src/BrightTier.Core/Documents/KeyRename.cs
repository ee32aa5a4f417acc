namespace BrightTier.Core.Documents;

/// <summary>Documents under other keys, with everything that names them: for taking them over from somewhere else.</summary>
public static class KeyRename
{
    /// <summary>Where documents of a kind are named in others; <c>key</c> of the document itself aside.</summary>
    private static readonly Dictionary<DocumentKind, string[]> Naming = new()
    {
        [DocumentKind.Entity] = ["entity", "target", "related", "begins"],
        [DocumentKind.ChoiceList] = ["choices"],
        [DocumentKind.Pattern] = ["uses"],
        [DocumentKind.Layout] = ["layout", "layouts", "extends", "piece"],
    };

    /// <summary>The kinds that can have other keys.</summary>
    public static IEnumerable<DocumentKind> Kinds => Naming.Keys;

    /// <summary>A document as it reads when some are called otherwise.</summary>
    /// <param name="names">For each document that is, its key from then on.</param>
    public static (Document? Document, IReadOnlyList<FileProblem> Problems) Apply(
        Document document,
        IReadOnlyDictionary<(DocumentKind Kind, string Key), string> names
    )
    {
        if (names.Count == 0)
        {
            return (document, []);
        }

        var node = Renamed(DocumentFile.ToNode(document), names);
        if (names.TryGetValue((document.Kind, document.Key), out var key) && node is FileNode.Map map)
        {
            node = map with
            {
                Entries = [.. map.Entries.Select(entry => entry.Key == "key" ? entry with { Value = FileNode.Word(key) } : entry)],
            };
        }

        return DocumentFile.Read(YamlText.Write(node));
    }

    private static FileNode Renamed(FileNode node, IReadOnlyDictionary<(DocumentKind Kind, string Key), string> names) =>
        node switch
        {
            FileNode.Map map => map with { Entries = [.. map.Entries.Select(entry => entry with { Value = Value(entry, names) })] },
            FileNode.List list => list with { Elements = [.. list.Elements.Select(element => Renamed(element, names))] },
            _ => node,
        };

    private static FileNode Value(FileNode.Entry entry, IReadOnlyDictionary<(DocumentKind Kind, string Key), string> names)
    {
        foreach (var (kind, words) in Naming)
        {
            if (words.Contains(entry.Key))
            {
                return entry.Value switch
                {
                    FileNode.Scalar word when names.TryGetValue((kind, word.Content), out var other) => FileNode.Word(other),
                    FileNode.List list => list with
                    {
                        Elements =
                        [
                            .. list.Elements.Select(element =>
                                element is FileNode.Scalar word && names.TryGetValue((kind, word.Content), out var other)
                                    ? FileNode.Word(other)
                                    : Renamed(element, names)
                            ),
                        ],
                    },
                    var value => Renamed(value, names),
                };
            }
        }

        return Renamed(entry.Value, names);
    }
}

using System.Collections.Immutable;
using System.Globalization;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>Reads the parts of a file, gathering problems instead of stopping at the first.</summary>
internal sealed class DocumentReader
{
    public List<FileProblem> Problems { get; } = [];

    public void Problem(Place at, Message message) => Problems.Add(new FileProblem(at, message));

    public FileNode.Map? Map(FileNode node, Message what)
    {
        if (node is FileNode.Map map)
        {
            return Single(map);
        }

        Problem(node.At, $"{what} must be a map; there is {node.Kind}");
        return null;
    }

    /// <summary>The map with each key once; YAML has no other, JSON may (RFC 8259, 4, leaves it open), and here it is a mistake.</summary>
    private FileNode.Map Single(FileNode.Map map)
    {
        if (map.Entries.Length < 2)
        {
            return map;
        }

        var keys = new HashSet<string>(map.Entries.Length, StringComparer.Ordinal);
        var twice = map.Entries.Where(entry => !keys.Add(entry.Key)).ToArray();
        foreach (var entry in twice)
        {
            Problem(entry.KeyAt, $"'{Suggestion.Short(entry.Key)}' is given twice");
        }

        return twice.Length == 0 ? map : map with { Entries = [.. map.Entries.DistinctBy(entry => entry.Key)] };
    }

    /// <summary>Every key that is none of these gets a message with a suggestion.</summary>
    public void Only(FileNode.Map map, Message what, params string[] keys)
    {
        foreach (var entry in map.Entries.Where(entry => !keys.Contains(entry.Key)))
        {
            Problem(entry.KeyAt, $"{what} has no '{Suggestion.Short(entry.Key)}'{Suggestion.For(entry.Key, keys)}");
        }
    }

    /// <summary>The same by the rule of an object; the file of a document has its kind besides, and may name its schema.</summary>
    public void Only(FileNode.Map map, Message what, ObjectRule rule) =>
        Only(map, what, rule.Kind is null ? rule.Keys : ["kind", "$schema", .. rule.Keys]);

    public IEnumerable<FileNode> List(FileNode? node, string what, int longest = Limits.ListLength)
    {
        switch (node)
        {
            case null:
                return [];
            case FileNode.List list:
                if (list.Elements.Length > longest)
                {
                    Problem(list.At, $"{what} has {list.Elements.Length} elements; at most {longest} are read");
                    return [];
                }

                return list.Elements;
            default:
                if (!node.IsNull)
                {
                    Problem(node.At, $"{what} must be a list; there is {node.Kind}");
                }

                return [];
        }
    }

    public string? Word(FileNode? node, string what)
    {
        switch (node)
        {
            case null:
                return null;
            case FileNode.Scalar scalar when !scalar.IsNull:
                return Sound(scalar, what) ? scalar.Content : null;
            default:
                Problem(node.At, $"{what} must be a word; there is {node.Kind}");
                return null;
        }
    }

    /// <summary>Whether a text can be kept: not longer than any may be, and of characters that read back the same.</summary>
    private bool Sound(FileNode.Scalar scalar, string what)
    {
        var problem =
            scalar.Content.Length > Limits.TextLength
                ? $"must be at most {Limits.TextLength} characters; it has {scalar.Content.Length}"
                : TextCharacters.Problem(scalar.Content);
        if (problem is not null)
        {
            Problem(scalar.At, $"{what} {problem}");
        }

        return problem is null;
    }

    public string Required(FileNode.Map map, string key, Message what)
    {
        if (map[key] is { } node)
        {
            return Word(node, $"'{key}'") ?? "";
        }

        Problem(map.At, $"{what} needs '{key}'");
        return "";
    }

    public ImmutableArray<string> Words(FileNode? node, string what) =>
        [.. List(node, what).Select(element => Word(element, $"each of {what}")).OfType<string>()];

    public bool Flag(FileNode? node, string what) => node is not null && FlagOrNull(node, what) is true;

    public bool? FlagOrNull(FileNode node, string what)
    {
        if (node is FileNode.Scalar { Quoted: false, Content: "true" or "false" } scalar)
        {
            return scalar.Content == "true";
        }

        Problem(node.At, $"{what} must be true or false; there is {node.Kind}");
        return null;
    }

    public decimal? Number(FileNode? node, string what)
    {
        if (node is null)
        {
            return null;
        }

        if (
            node is FileNode.Scalar { Quoted: false } scalar
            && decimal.TryParse(
                scalar.Content,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var number
            )
        )
        {
            return number;
        }

        Problem(node.At, $"{what} must be a number; there is {node.Kind}");
        return null;
    }

    public int? Whole(FileNode? node, string what)
    {
        var number = Number(node, what);
        if (number is { } given && (given != decimal.Truncate(given) || given is < int.MinValue or > int.MaxValue))
        {
            Problem(node!.At, $"{what} must be a whole number; there is {node.Kind}");
            return null;
        }

        return (int?)number;
    }

    public Texts? Texts(FileNode? node, string what)
    {
        switch (node)
        {
            case null:
                return null;
            case FileNode.Scalar scalar when !scalar.IsNull:
                return Sound(scalar, what) ? Model.Texts.Of(scalar.Content) : null;
            case FileNode.Map several when several.Entries.Length > 0:
                var map = Single(several);
                foreach (var entry in map.Entries.Where(entry => entry.Key.Length > 0 && !LanguageTags.IsTag(entry.Key)))
                {
                    Problem(entry.KeyAt, $"'{Suggestion.Short(entry.Key)}' is no language tag; write en, nl, ar or pt-BR");
                }

                return Model.Texts.Of(
                    map.Entries.Select(entry => KeyValuePair.Create(entry.Key, Word(entry.Value, $"{what} in '{entry.Key}'") ?? ""))
                );
            default:
                Problem(node.At, $"{what} must be a text, or a map from language to text; there is {node.Kind}");
                return null;
        }
    }

    public static FileNode? Write(Texts? texts) =>
        texts switch
        {
            null => null,
            { ByLanguage.Count: 1 } when texts.ByLanguage.TryGetValue(Model.Texts.AnyLanguage, out var any) => FileNode.Word(any),
            _ => FileNode.Of(texts.ByLanguage.Select(pair => (pair.Key, (FileNode?)FileNode.Word(pair.Value)))),
        };
}

using System.Globalization;

namespace BrightTier.Core.Documents;

/// <summary>What a place of a file is called so that it is found in another text of the same document.</summary>
/// <param name="Nodes">
/// The ids of the node it belongs to, with spaces between where several stand in one place; empty for the document.
/// </param>
/// <param name="Steps">The way from there, as a JSON pointer with the keys of elements in the place of their numbers.</param>
internal sealed record PlaceName(string Nodes, string Steps);

/// <summary>One place of a file, a key or an element.</summary>
/// <param name="Line">From 1.</param>
/// <param name="Column">From 1; of an element of a list that of its dash.</param>
/// <param name="LastLine">The last line on which something of it begins.</param>
internal sealed record FilePlace(int Line, int Column, int LastLine, PlaceName Name);

/// <summary>The places of one text, by their names.</summary>
internal sealed class FilePlaceNames
{
    private static readonly string[] Naming = ["key", "name"];

    private readonly string[] lines;
    private readonly ILookup<string, string> nodesAt;

    /// <summary>In the order of the text, what holds something before it.</summary>
    private readonly List<FilePlace> places = [];
    private readonly Dictionary<PlaceName, FilePlace> byName = [];
    private readonly Dictionary<string, PlaceName> byNode = new(StringComparer.Ordinal);
    private readonly HashSet<int> commented = [];

    private FilePlaceNames(string text, FileNode root, Document? document)
    {
        lines = text.Split('\n');
        nodesAt = document is Document.OfLayout { Layout: var layout, Places: var at }
            ? layout
                .Walk()
                .Where(node => at.ContainsKey(node.Id))
                .ToLookup(node => at[node.Id].Pointer ?? "", node => node.Id.Name, StringComparer.Ordinal)
            : Array.Empty<string>().ToLookup(each => each, StringComparer.Ordinal);
        Add(root, root.At, new PlaceName("", ""));
    }

    /// <param name="text">The text of a document.</param>
    /// <param name="known">Knows the ids that the text leaves out; null where reading the text finds them.</param>
    public static FilePlaceNames Of(string text, Document? known = null) =>
        new(text, YamlText.Read(text).Node!, DocumentFile.Read(text).Document?.CarriedFrom(known));

    /// <summary>What begins on a line, or last before it.</summary>
    public PlaceName On(int line) =>
        (places.Find(place => place.Line == line) ?? places.FindLast(place => place.Line < line) ?? places[0]).Name;

    /// <summary>What a comment on a line of its own is about: what comes next, unless it stands further in than that.</summary>
    public (CommentSide Side, PlaceName Name) Around(int line, int column)
    {
        var next = places.Find(place => place.Line > line);
        if (next is not null && next.Column >= column)
        {
            return (CommentSide.Above, next.Name);
        }

        var last = places.FindLast(place => place.Line < line && place.Column == column)?.Line;
        return last is not null ? (CommentSide.Below, places.Find(place => place.Line == last)!.Name)
            : next is not null ? (CommentSide.Above, next.Name)
            : (CommentSide.Below, places[0].Name);
    }

    /// <summary>
    /// The place of a name; where a property is not written any more that of what had it, and null where the node or the element is gone.
    /// </summary>
    public FilePlace? Find(PlaceName name)
    {
        foreach (var node in name.Nodes.Split(' '))
        {
            var start = node.Length == 0 ? new PlaceName("", "") : byNode.GetValueOrDefault(node);
            if (start is not null && byName.TryGetValue(start with { Steps = start.Steps + name.Steps }, out var place))
            {
                return place;
            }
        }

        var cut = name.Steps.LastIndexOf('/');
        return cut >= 0 && !name.Steps[cut..].StartsWith(Element, StringComparison.Ordinal)
            ? Find(name with { Steps = name.Steps[..cut] })
            : null;
    }

    /// <summary>Whether a comment stands behind a line.</summary>
    public bool IsCommented(int line) => commented.Contains(line);

    public void Comment(int line) => commented.Add(line);

    /// <summary>How a step to an element of a list begins.</summary>
    private const string Element = "/\u0001";

    private int Add(FileNode node, Place at, PlaceName name)
    {
        var nodes = nodesAt[at.Pointer ?? ""].ToArray();
        if (nodes.Length > 0 && name.Steps.Length > 0)
        {
            name = new PlaceName(string.Join(' ', nodes), "");
        }

        foreach (var each in nodes)
        {
            byNode.TryAdd(each, name);
        }

        var index = places.Count;
        places.Add(null!);
        var last = at.Line;
        switch (node)
        {
            case FileNode.Map map:
                foreach (var entry in map.Entries)
                {
                    last = Math.Max(last, Add(entry.Value, entry.KeyAt, Step(name, entry.Key)));
                }

                break;
            case FileNode.List list:
                var count = new Dictionary<string, int>(StringComparer.Ordinal);
                foreach (var element in list.Elements)
                {
                    var called = NameOf(element);
                    var number = count[called] = count.GetValueOrDefault(called) + 1;
                    called = number == 1 ? called : $"{called} {number.ToString(CultureInfo.InvariantCulture)}";
                    last = Math.Max(last, Add(element, element.At, Step(name, '\u0001' + called)));
                }

                break;
        }

        places[index] = new FilePlace(at.Line, DashBefore(at), last, name);
        byName.TryAdd(name, places[index]);
        return last;
    }

    private static PlaceName Step(PlaceName name, string step) => name with { Steps = new Place(0, 0, name.Steps).Under(step).Pointer };

    private static string NameOf(FileNode element) =>
        element switch
        {
            FileNode.Scalar scalar => scalar.Content,
            FileNode.Map map when Naming.Select(name => map[name]).OfType<FileNode.Scalar>().FirstOrDefault() is { } key => key.Content,
            _ => "",
        };

    /// <summary>The column of the dash before an element in block style, else its own.</summary>
    private int DashBefore(Place at)
    {
        var before = lines[at.Line - 1].AsSpan(0, Math.Min(at.Column - 1, lines[at.Line - 1].Length)).TrimEnd(' ');
        return before is [.., '-'] ? before.Length : at.Column;
    }
}

namespace BrightTier.Core.Model;

/// <summary>
/// Gives the nodes of a layout read from a text the ids they had before the text was changed, by what they hold: an id left out in a file
/// is derived
/// from a title or a first field, and retitling by hand must not strand what refers to the node.
/// </summary>
public static class CarriedIds
{
    /// <summary>The share of fields and items two nodes must have in common to be the same one.</summary>
    private const double Enough = 0.5;

    /// <param name="before">The layout the text was made from.</param>
    /// <param name="read">The layout as read.</param>
    /// <param name="derived">The ids that do not stand in the text but were derived in reading it.</param>
    public static Layout Carry(Layout before, Layout read, IReadOnlySet<NodeId> derived)
    {
        var lost = before.Walk().Where(node => !read.Contains(node.Id)).ToList();
        var named = Named(read.Root);
        var names = new Dictionary<NodeId, NodeId>();
        foreach (var node in read.Walk())
        {
            if (!derived.Contains(node.Id) || before.Contains(node.Id) || named.Contains(node.Id.Name))
            {
                continue;
            }

            if (Like(node) is { } old)
            {
                names[node.Id] = old.Id;
                lost.Remove(old);
            }
        }

        return names.Count == 0 ? read : Layout.Of(Renamed(read.Root, names));

        Node? Like(Node node)
        {
            var parent = read.ParentOf(node.Id) is { } at ? names.GetValueOrDefault(at, at) : default;
            var content = Content(node);
            return lost.Where(old => old.Kind == node.Kind)
                .Select(old => (old, near: before.ParentOf(old.Id) == parent, common: Common(content, Content(old))))
                // What holds nothing to tell it by is the same one where it is the only one of its kind that is missed there.
                .Where(pair =>
                    content.Count > 0
                        ? pair.common >= Enough
                        : pair.near && lost.Count(other => other.Kind == node.Kind && before.ParentOf(other.Id) == parent) == 1
                )
                .OrderByDescending(pair => pair.common)
                .ThenByDescending(pair => pair.near)
                .Select(pair => pair.old)
                .FirstOrDefault();
        }
    }

    /// <summary>What a node is known by: the fields and items it holds.</summary>
    private static HashSet<string> Content(Node node) =>
        [
            .. node.Walk()
                .Where(each => each.Kind is NodeKind.Field or NodeKind.Column or NodeKind.Related or NodeKind.Piece)
                .Select(each => $"{each.Kind} {each.Word(Grammar.Of(each.Kind).Main ?? "")}"),
        ];

    private static double Common(HashSet<string> one, HashSet<string> other)
    {
        var both = one.Count(other.Contains);
        return both == 0 ? 0 : (double)both / (one.Count + other.Count - both);
    }

    /// <summary>The nodes that changes of the layout's own name: the text means them by these names.</summary>
    internal static HashSet<string> Named(Node root) =>
        [
            .. root.Walk()
                .Where(node => node.Kind is NodeKind.Change)
                .SelectMany(change => new[] { change.Word("target"), change.Word("parent"), change.Word("sibling") })
                .OfType<string>(),
        ];

    private static Node Renamed(Node node, Dictionary<NodeId, NodeId> names) =>
        node with
        {
            Id = names.GetValueOrDefault(node.Id, node.Id),
            Children = [.. node.Children.Select(child => Renamed(child, names))],
        };
}

namespace BrightTier.Core.Model;

/// <summary>
/// Gives the nodes of a layout read from a text the ids they had before the text was changed, by what they hold: an id left out in a file
/// is derived from a title or a first field, and what was retitled, or has another of its name before it, is the same node still.
/// </summary>
public static class CarriedIds
{
    /// <param name="before">The layout the text was made from.</param>
    /// <param name="read">The layout as read.</param>
    /// <param name="derived">The ids that do not stand in the text but were derived in reading it.</param>
    /// <returns>The layout with the ids of before, and which of them those were.</returns>
    public static (Layout Layout, IReadOnlyDictionary<NodeId, NodeId> Carried) Carry(
        Layout before,
        Layout read,
        IReadOnlySet<NodeId> derived
    )
    {
        var named = Named(read.Root);
        var kept = read.Walk().Select(node => node.Id).Where(id => !derived.Contains(id) || named.Contains(id.Name)).ToHashSet();
        var pairs = NodePairs.Of(before, read, kept);
        var names = new Dictionary<NodeId, NodeId>();
        var given = pairs.Values.ToHashSet();
        var taken = new IdPool(before.Walk().Concat(read.Walk()).Select(node => node.Id), 0);
        foreach (var node in read.Walk())
        {
            if (kept.Contains(node.Id))
            {
                continue;
            }

            // What is new cannot be called as what is there already: it takes the next name.
            var id =
                pairs.TryGetValue(node.Id, out var old) ? old
                : given.Contains(node.Id) ? new NodeId(taken.Take(DerivedIds.Short(node.Id.Name)))
                : node.Id;
            if (id != node.Id)
            {
                names[node.Id] = id;
            }
        }

        return (names.Count == 0 ? read : Layout.Of(Renamed(read.Root, names)), names);
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

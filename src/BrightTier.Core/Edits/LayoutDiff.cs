using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>What happened between two layouts, as a short list of edits by id: applied to the old one it gives the new one.</summary>
public static class LayoutDiff
{
    /// <summary>
    /// The edits from one layout to another: what goes because it cannot be there together with what comes, then inserts and moves in
    /// reading
    /// order, removals, and settings. A node in both is never removed and inserted, save where its kind changed, or the kind of the part it
    /// is in.
    /// Takes time proportional to the nodes of both.
    /// </summary>
    public static IReadOnlyList<Edit> Edits(Layout old, Layout next)
    {
        if (ReferenceEquals(old.Root, next.Root))
        {
            return [];
        }

        var before = old.Standings;
        var after = next.Standings;
        var edits = new List<Edit>();
        var (topMost, gone, missing, differing) = Apart(before, after);
        // Only what extends another can do without a body: it is said before the body goes, and taken back once one has come.
        var extends = old.Extends is null && next.Extends is not null && next.Body is null;
        if (extends)
        {
            edits.Add(new Edit.Set(old.Root.Id, "extends", next.Root["extends"]));
        }

        edits.AddRange(topMost.Select(id => new Edit.Remove(id)));
        // What of the old layout still stands there under this id in the new one.
        Was was = id => before.TryGetValue(id, out var standing) && !gone.Contains(id) ? standing : null;
        Arrange(edits, next.Root, was, isNew: false);
        foreach (var (id, place) in missing)
        {
            if (!gone.Contains(id) && place.Parent is { } parent && after.ContainsKey(parent))
            {
                edits.Add(new Edit.Remove(id));
            }
        }

        foreach (var (id, place) in after)
        {
            if (differing.Contains(id) && was(id) is { } standing)
            {
                foreach (
                    var name in standing
                        .Node.Properties.DifferingFrom(place.Node.Properties)
                        .Where(name => !(extends && name == "extends" && id == old.Root.Id))
                )
                {
                    edits.Add(new Edit.Set(id, name, place.Node[name]));
                }
            }
        }

        return edits;
    }

    private delegate Layout.NodePosition? Was(NodeId id);

    /// <summary>
    /// Looks at every node of the old layout once. Nodes that keep their id but change their kind, and single parts that another takes the
    /// place of, go with
    /// all in them before anything comes; others are missing from the new one, or have other properties there.
    /// </summary>
    private static (
        List<NodeId> TopMost,
        HashSet<NodeId> Gone,
        List<(NodeId Id, Layout.NodePosition Place)> Missing,
        HashSet<NodeId> Differing
    ) Apart(Dictionary<NodeId, Layout.NodePosition> before, Dictionary<NodeId, Layout.NodePosition> after)
    {
        var (topMost, gone, missing, differing) = (
            new List<NodeId>(),
            new HashSet<NodeId>(),
            new List<(NodeId, Layout.NodePosition)>(),
            new HashSet<NodeId>()
        );
        foreach (var (id, standing) in before)
        {
            var node = standing.Node;
            var goes = false;
            if (after.TryGetValue(id, out var there))
            {
                goes =
                    (
                        there.Node.Kind != node.Kind
                        || InsertsAnother(node, there.Node)
                        || SaysNothingBetween(node, there.Node)
                        || IsWithinChange(standing, there)
                        || TradesNames(standing, there)
                    ) && standing.Parent is not null;
                if (!node.Properties.Equals(there.Node.Properties))
                {
                    differing.Add(id);
                }
            }
            else
            {
                missing.Add((id, standing));
                goes = GivesItsPlace(standing);
            }

            if (goes && !gone.Contains(id))
            {
                topMost.Add(id);
                gone.UnionWith(node.Walk().Select(each => each.Id));
            }
        }

        return (topMost, gone, missing, differing);

        // What it holds stays, or another takes the only place of its kind.
        bool GivesItsPlace(Layout.NodePosition one) =>
            (one.Node.Kind is NodeKind.Change && one.Node.Children.Any(child => after.ContainsKey(child.Id)))
            || one.Parent is { } parentId
                && NodeShape.OnlyOne(before[parentId].Node, one.Node) is { } place
                && after.TryGetValue(parentId, out var parent)
                && parent.Node.Children.Any(child => NodeShape.OnlyOne(parent.Node, child) == place);

        // A change is brought with what it inserts; nothing comes into it later.
        bool IsWithinChange(Layout.NodePosition one, Layout.NodePosition other) =>
            one.Parent != other.Parent && other.Parent is { } parent && after[parent].Node.Kind is NodeKind.Change;

        // A variant for a width that another one is for, before or after: neither can be set while the other has it.
        bool TradesNames(Layout.NodePosition one, Layout.NodePosition other) =>
            one.Node.Kind is NodeKind.Variant
            && one.Node.Word("variant") != other.Node.Word("variant")
            && (OthersNamed(before, one.Parent, other.Node) || OthersNamed(after, other.Parent, one.Node));
    }

    /// <summary>What a change inserts is never taken out of it: the change goes and comes as a whole.</summary>
    private static bool InsertsAnother(Node one, Node other) =>
        one.Kind is NodeKind.Change
        && (
            one.Children.Length != other.Children.Length
            || (one.Children is [var was] && other.Children is [var now] && (was.Id != now.Id || was.Kind != now.Kind))
        );

    /// <summary>
    /// What a change says it says whole: where it would stand for nothing as its properties become others one by one, another comes in its
    /// place.
    /// </summary>
    private static bool SaysNothingBetween(Node one, Node other)
    {
        if (one.Kind is not NodeKind.Change)
        {
            return false;
        }

        foreach (var name in one.Properties.DifferingFrom(other.Properties))
        {
            one = one.With(name, other[name]);
            if (ChangeShape.Problem(one) is not null)
            {
                return true;
            }
        }

        return false;
    }

    private static bool OthersNamed(Dictionary<NodeId, Layout.NodePosition> there, NodeId? parent, Node variant) =>
        parent is { } id
        && there.TryGetValue(id, out var standing)
        && standing.Node.Children.Any(child =>
            child.Kind is NodeKind.Variant && child.Id != variant.Id && child.Word("variant") == variant.Word("variant")
        );

    /// <summary>
    /// Brings the children of a node into their order, outermost first: by then the node itself and all around it stand where they belong,
    /// so no move can make a circle.
    /// </summary>
    private static void Arrange(List<Edit> edits, Node parent, Was was, bool isNew)
    {
        var stays = Staying(parent, was, isNew);
        for (var i = 0; i < parent.Children.Length; i++)
        {
            var child = parent.Children[i];
            var standing = was(child.Id);
            if (stays is not null && !stays.Contains(child.Id) && !(isNew && standing is null))
            {
                Anchor at = i == 0 ? new Anchor.First() : new Anchor.After(parent.Children[i - 1].Id);
                edits.Add(standing is null ? new Edit.Insert(Pruned(child, was), parent.Id, at) : new Edit.Move(child.Id, parent.Id, at));
            }

            if (standing is null || !ReferenceEquals(child, standing?.Node))
            {
                Arrange(edits, child, was, isNew: standing is null);
            }
        }
    }

    private static readonly HashSet<NodeId> None = [];

    /// <summary>The largest set of children that were here already in the order they are in now; null where that is all of them.</summary>
    private static HashSet<NodeId>? Staying(Node parent, Was was, bool isNew)
    {
        if (isNew)
        {
            return None;
        }

        // Most parents keep all their children in their order.
        var last = -1;
        var all = true;
        foreach (var child in parent.Children)
        {
            all = all && was(child.Id) is { } place && place.Parent == parent.Id && place.Index > last && (last = place.Index) >= 0;
        }

        if (all)
        {
            return null;
        }

        var candidates = parent.Children.Where(child => was(child.Id)?.Parent == parent.Id).Select(child => child.Id).ToArray();
        return [.. LongestRising(candidates, id => was(id)!.Value.Index)];
    }

    /// <summary>The longest subsequence with rising indexes; among several the one that patience sorting gives, always the same.</summary>
    internal static IEnumerable<NodeId> LongestRising(IReadOnlyList<NodeId> ids, Func<NodeId, int> index)
    {
        var piles = new List<int>();
        var previous = new int[ids.Count];
        for (var i = 0; i < ids.Count; i++)
        {
            var (low, high) = (0, piles.Count);
            while (low < high)
            {
                var middle = (low + high) / 2;
                if (index(ids[piles[middle]]) < index(ids[i]))
                {
                    low = middle + 1;
                }
                else
                {
                    high = middle;
                }
            }

            previous[i] = low == 0 ? -1 : piles[low - 1];
            if (low == piles.Count)
            {
                piles.Add(i);
            }
            else
            {
                piles[low] = i;
            }
        }

        for (var at = piles.Count == 0 ? -1 : piles[^1]; at >= 0; at = previous[at])
        {
            yield return ids[at];
        }
    }

    /// <summary>A node that comes, without those below it that were elsewhere: they are moved in.</summary>
    private static Node Pruned(Node node, Was was) =>
        node with
        {
            Children = [.. node.Children.Where(child => was(child.Id) is null).Select(child => Pruned(child, was))],
        };
}

using BrightTier.Core.Layouts;

namespace BrightTier.Core.Edits;

/// <summary>What happened between two layouts, as a short list of edits by id: applied to the old one it gives the new one.</summary>
public static class Comparing
{
    /// <summary>
    /// The edits from one layout to another: what goes because it cannot be there together with what comes, then inserts and moves in reading
    /// order, removals, and settings. A node in both is never removed and inserted, save where its kind changed, or the kind of the part it is in.
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
        var gone = FirstToGo(before, after);
        edits.AddRange(gone.TopMost.Select(id => new Edit.Remove(id)));
        Survives survives = id => before.ContainsKey(id) && !gone.All.Contains(id) && after.ContainsKey(id);
        Arrange(edits, next.Root, survives, before, isNew: false);
        foreach (var (id, place) in before)
        {
            if (!after.ContainsKey(id) && !gone.All.Contains(id) && place.Parent is { } parent && after.ContainsKey(parent))
            {
                edits.Add(new Edit.Remove(id));
            }
        }

        foreach (var (id, place) in after)
        {
            if (survives(id))
            {
                Properties(edits, before[id].Node, place.Node);
            }
        }

        return edits;
    }

    private delegate bool Survives(NodeId id);

    /// <summary>Nodes that keep their id but change their kind, and single parts that another takes the place of: they go, with all in them, before anything comes.</summary>
    private static (List<NodeId> TopMost, HashSet<NodeId> All) FirstToGo(IReadOnlyDictionary<NodeId, Layout.Standing> before, IReadOnlyDictionary<NodeId, Layout.Standing> after)
    {
        var topMost = new List<NodeId>();
        var all = new HashSet<NodeId>();
        foreach (var (id, standing) in before)
        {
            var node = standing.Node;
            if (all.Contains(id) || standing.Parent is not { } parentId)
            {
                continue;
            }

            var changed = after.TryGetValue(node.Id, out var there) && there.Node.Kind != node.Kind;
            var replaced = !after.ContainsKey(node.Id) && Grammar.Of(before[parentId].Node).HolderOf(node.Kind) is { Shape: ChildShape.One }
                && after.TryGetValue(parentId, out var parent) && parent.Node.Children.Any(child => child.Kind == node.Kind);
            if (changed || replaced)
            {
                topMost.Add(node.Id);
                all.UnionWith(node.Walk().Select(each => each.Id));
            }
        }

        return (topMost, all);
    }

    /// <summary>Brings the children of a node into their order, outermost first: by then the node itself and all around it stand where they belong, so no move can make a circle.</summary>
    private static void Arrange(List<Edit> edits, Node parent, Survives survives, IReadOnlyDictionary<NodeId, Layout.Standing> before, bool isNew)
    {
        var stays = Staying(parent, survives, before, isNew);
        for (var i = 0; i < parent.Children.Length; i++)
        {
            var child = parent.Children[i];
            if (stays is null)
            {
                if (!ReferenceEquals(child, before[child.Id].Node))
                {
                    Arrange(edits, child, survives, before, isNew: false);
                }

                continue;
            }

            Anchor at = i == 0 ? new Anchor.First() : new Anchor.After(parent.Children[i - 1].Id);
            var comes = !survives(child.Id);
            if (!stays.Contains(child.Id) && !(isNew && comes))
            {
                edits.Add(comes ? new Edit.Insert(Pruned(child, survives), parent.Id, at) : new Edit.Move(child.Id, parent.Id, at));
            }

            if (comes || !ReferenceEquals(child, before[child.Id].Node))
            {
                Arrange(edits, child, survives, before, comes);
            }
        }
    }

    private static readonly HashSet<NodeId> None = [];

    /// <summary>The largest set of children that were here already in the order they are in now; null where that is all of them.</summary>
    private static HashSet<NodeId>? Staying(Node parent, Survives survives, IReadOnlyDictionary<NodeId, Layout.Standing> before, bool isNew)
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
            all = all && survives(child.Id) && before[child.Id] is { } place && place.Parent == parent.Id && place.Index > last && (last = place.Index) >= 0;
        }

        if (all)
        {
            return null;
        }

        var candidates = parent.Children.Where(child => survives(child.Id) && before[child.Id].Parent == parent.Id).Select(child => child.Id).ToArray();
        return [.. LongestRising(candidates, id => before[id].Index)];
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
    private static Node Pruned(Node node, Survives survives) =>
        node with { Children = [.. node.Children.Where(child => !survives(child.Id)).Select(child => Pruned(child, survives))] };

    private static void Properties(List<Edit> edits, Node old, Node next)
    {
        if (old.Properties.Equals(next.Properties))
        {
            return;
        }

        foreach (var name in old.Properties.DifferingFrom(next.Properties))
        {
            edits.Add(new Edit.Set(old.Id, name, next[name]));
        }
    }
}

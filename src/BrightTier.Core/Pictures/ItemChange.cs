using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Pictures;

/// <summary>What became of an item between two layouts, as a picture marks it. What is moved and changed counts as changed.</summary>
public enum ItemChange
{
    None,
    Added,
    Removed,
    Moved,
    Changed,
}

/// <summary>
/// Which items of two layouts are marked: of the older one those that go, move or change, of the newer one those that come, move or change.
/// Rows and cells carry no mark of their own, since nobody sees them: what stands in them does. In what is new or gone as a whole
/// nothing is
/// marked again.
/// </summary>
public sealed record ItemChanges(IReadOnlyDictionary<NodeId, ItemChange> Before, IReadOnlyDictionary<NodeId, ItemChange> After)
{
    /// <param name="label">What stands at an item of the older layout.</param>
    /// <param name="nextLabel">What stands at one of the newer: fields are renamed in their entity, too.</param>
    public static ItemChanges Between(Layout old, Layout next, Func<Node, string?> label, Func<Node, string?> nextLabel)
    {
        var moved = LayoutDiff.Edits(old, next).OfType<Edit.Move>().Select(move => move.Node).ToHashSet();
        var both = next.Walk()
            .Where(node => IsSeen(node) && old.Find(node.Id) is { } was && was.Kind == node.Kind)
            .ToDictionary(node => node.Id, node => Of(old.Find(node.Id)!, node));
        return new ItemChanges(Marks(old, both, ItemChange.Removed), Marks(next, both, ItemChange.Added));

        ItemChange Of(Node was, Node has)
        {
            var hasMoved = Holders(next, has).Any(holder => moved.Contains(holder.Id));
            var differs =
                was.Properties.DifferingFrom(has.Properties).Any()
                || label(was) != nextLabel(has)
                || (!hasMoved && WidthOf(old, was) != WidthOf(next, has));
            return differs ? ItemChange.Changed
                : hasMoved ? ItemChange.Moved
                : ItemChange.None;
        }
    }

    /// <summary>The item with the cell and the row it stands in.</summary>
    private static IEnumerable<Node> Holders(Layout layout, Node item)
    {
        yield return item;
        for (
            var parent = layout.ParentOf(item.Id);
            parent is { } id && layout.Find(id) is { Kind: NodeKind.Row or NodeKind.Cell } holder;
            parent = layout.ParentOf(id)
        )
        {
            yield return holder;
        }
    }

    private static int? WidthOf(Layout layout, Node item) =>
        Holders(layout, item).FirstOrDefault(holder => holder.Kind is NodeKind.Cell)?.Number("span");

    private static Dictionary<NodeId, ItemChange> Marks(Layout layout, Dictionary<NodeId, ItemChange> both, ItemChange alone)
    {
        var marks = new Dictionary<NodeId, ItemChange>();
        Below(layout.Root);
        return marks;

        void Below(Node node)
        {
            if (!IsSeen(node))
            {
                Children(node.Children);
            }
            else if (both.TryGetValue(node.Id, out var change))
            {
                marks[node.Id] = change;
                Children(node.Children);
            }
            else
            {
                marks[node.Id] = alone;
                // What moved in or out of it is not new, or gone.
                Children([.. node.Children.SelectMany(child => child.Walk()).Where(each => both.ContainsKey(each.Id))]);
            }
        }

        void Children(ImmutableArray<Node> children)
        {
            foreach (var child in children)
            {
                Below(child);
            }
        }
    }

    private static bool IsSeen(Node node) =>
        node.Kind is not (NodeKind.Layout or NodeKind.Body or NodeKind.Row or NodeKind.Cell or NodeKind.Variant or NodeKind.Change);
}

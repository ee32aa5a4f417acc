using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>A change of a delta that found nothing to hold on to: the change's node, and why.</summary>
public sealed record OrphanedOverride(Node Change, Refusal Refusal);

/// <summary>
/// Lays deltas over what they are made for: the changes of a variant, of a layout that extends another, of a piece's use. A change whose
/// target is
/// gone is orphaned and told; the others hold.
/// </summary>
public static class OverrideApplier
{
    /// <summary>The layout with the changes laid over it, in order.</summary>
    public static (Layout Layout, IReadOnlyList<OrphanedOverride> Orphaned) ApplyOverrides(this Layout under, IEnumerable<Node> changes)
    {
        var orphaned = new List<OrphanedOverride>();
        foreach (var change in changes.Where(change => change.Kind is NodeKind.Change))
        {
            if (ToEdit(change, under) is not { } edit)
            {
                orphaned.Add(new OrphanedOverride(change, new Refusal("change-incomplete", $"The change does not say what it is to do.")));
                continue;
            }

            var applied = under.Apply(edit);
            if (applied.Refusal is { } refusal)
            {
                orphaned.Add(new OrphanedOverride(change, refusal));
            }
            else
            {
                under = applied.Layout!;
            }
        }

        return (under, orphaned);
    }

    /// <summary>A layout without what is laid over it.</summary>
    public static Layout Bare(this Layout layout) =>
        layout.Root.Children.Any(IsLaid)
            ? Layout.Of(layout.Root with { Children = [.. layout.Root.Children.Where(child => !IsLaid(child))] })
            : layout;

    internal static bool IsLaid(Node node) => node.Kind is NodeKind.Variant or NodeKind.Change;

    /// <summary>The edit a change node stands for, over a layout; null when it lacks what its operation needs.</summary>
    public static Edit? ToEdit(Node change, Layout over)
    {
        var target = change.Word("target") is { } named ? new NodeId(named) : default;
        var parent = change.Word("parent") is { } into ? new NodeId(into) : default;
        return change.Word("op") switch
        {
            "set" when target.Name is not null && change.Word("property") is { } property => new Edit.Set(
                Holder(over, target, property),
                property,
                change["value"]
            ),
            "remove" when target.Name is not null => new Edit.Remove(target),
            "move" when target.Name is not null && parent.Name is not null => new Edit.Move(target, parent, AnchorOf(change, over, parent)),
            "insert" when parent.Name is not null && change.Children is [var node] => new Edit.Insert(
                node,
                parent,
                AnchorOf(change, over, parent)
            ),
            _ => null,
        };
    }

    /// <summary>
    /// The node a change of a delta stands for an edit as; the opposite of <see cref="ToEdit"/>. Its id is made up when it is inserted.
    /// </summary>
    public static Node ToChange(Edit edit)
    {
        var change = Node.Of(NodeKind.Change, default);
        return edit switch
        {
            Edit.Set set => Op("set", set.Node).With("property", new Value.Word(set.Property)).With("value", set.Value),
            Edit.Remove remove => Op("remove", remove.Node),
            Edit.Move move => At(Op("move", move.Node), move.Parent, move.At),
            Edit.Insert insert => At(
                change.With("op", new Value.Word("insert")) with
                {
                    Children = [insert.Node],
                },
                insert.Parent,
                insert.At
            ),
            _ => throw new ArgumentOutOfRangeException(nameof(edit)),
        };

        Node Op(string op, NodeId target) => change.With("op", new Value.Word(op)).With("target", new Value.Word(target.Name));
    }

    private static Node At(Node change, NodeId parent, Anchor at)
    {
        var (word, sibling) = at switch
        {
            Anchor.First => ("first", (NodeId?)null),
            Anchor.Before before => ("before", before.Sibling),
            Anchor.After after => ("after", after.Sibling),
            _ => ("last", null),
        };
        return change
            .With("parent", new Value.Word(parent.Name))
            .With("at", word == "last" ? null : new Value.Word(word))
            .With("sibling", sibling is { } id ? new Value.Word(id.Name) : null);
    }

    /// <summary>Placement set on an item that stands alone in its cell means the cell.</summary>
    internal static NodeId Holder(Layout over, NodeId target, string property) =>
        over.Find(target) is { } node
        && Grammar.Of(node).Find(property) is null
        && Grammar.Of(NodeKind.Cell).Find(property) is not null
        && over.ParentOf(target) is { } parent
        && over.Find(parent) is { Kind: NodeKind.Cell, Children.Length: 1 }
            ? parent
            : target;

    /// <summary>A lost anchor gives way: the change still holds, at the end.</summary>
    private static Anchor AnchorOf(Node change, Layout over, NodeId parent)
    {
        var sibling = change.Word("sibling") is { } named ? new NodeId(named) : default;
        var there = sibling.Name is not null && over.ParentOf(sibling) == parent;
        return change.Word("at") switch
        {
            "first" => new Anchor.First(),
            "before" when there => new Anchor.Before(sibling),
            "after" when there => new Anchor.After(sibling),
            _ => new Anchor.Last(),
        };
    }
}

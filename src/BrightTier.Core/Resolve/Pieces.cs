using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Entities;
using BrightTier.Core.Layouts;
using BrightTier.Core.Routing;

namespace BrightTier.Core.Resolve;

/// <summary>One use of a piece: in which layout, at which node, and what its slots are bound to.</summary>
public sealed record PieceUse(string Layout, NodeId Node, IReadOnlyDictionary<string, string> Slots);

/// <summary>What one does with pieces beside using them: looking where they are used, copying, detaching, making one, offering bindings.</summary>
public static class Pieces
{
    /// <summary>Every use of a piece, by layout and in reading order.</summary>
    public static IEnumerable<PieceUse> Uses(string piece, Catalogue catalogue) =>
        from layout in catalogue.Layouts.Values
        from node in layout.Walk()
        where node.Kind is NodeKind.Piece && node.Word("piece") == piece
        select new PieceUse(layout.Key, node.Id, node.Pairs("slots"));

    /// <summary>The edits that put a copy of the piece in the place of a use: from then on its later changes do not reach it.</summary>
    public static IReadOnlyList<Edit> Detach(Layout layout, NodeId use, Catalogue catalogue)
    {
        if (layout.Find(use) is not { Kind: NodeKind.Piece } node || layout.ParentOf(use) is not { } parent)
        {
            return [];
        }

        var problems = new List<AssemblyProblem>();
        var alone = Layout.Of(Node.Of(NodeKind.Cell, new NodeId("alone"), node));
        var copy = Plain(new PieceExpansion(catalogue, problems).Expand(alone).Root.Children[0]);
        return problems.Count > 0 ? [] : [new Edit.Insert(DerivedIds.Fill(copy, layout.Walk().Select(each => each.Id)), parent, new Anchor.After(use)), new Edit.Remove(use)];
    }

    /// <summary>Ids inside a piece's use are no ids of a layout: they are made up anew.</summary>
    private static Node Plain(Node node) => node with { Id = default, Children = [.. node.Children.Select(Plain)] };

    /// <summary>
    /// A piece made of sections of a layout: a slot for every field in them, of the field's type. The other half, a use of it in their place, is
    /// <see cref="UseInPlace"/>.
    /// </summary>
    public static Layout Make(string key, Texts title, Layout layout, IReadOnlyList<NodeId> sections, Entity entity)
    {
        var taken = sections.Select(layout.Find).OfType<Node>().Where(node => node.Kind is NodeKind.Section).ToArray();
        var slots = taken.SelectMany(node => node.Walk()).Where(node => node.Kind is NodeKind.Field).Select(node => node.Word("field")!).Distinct()
            .Select(field => Node.Of(NodeKind.Slot, default)
                .With("slot", new Value.Word(field))
                .With("types", new Value.Words([(entity.Find(field)?.Type ?? FieldType.Text).Name()]))
                .With("label", entity.Find(field)?.Label is { } label ? new Value.Text(label) : null));
        var root = Node.Of(NodeKind.Layout, new NodeId("layout"), [.. slots, .. taken])
            .With("kind", new Value.Word("piece")).With("key", new Value.Word(key)).With("title", new Value.Text(title));
        return Layout.Of(DerivedIds.Fill(root, []));
    }

    /// <summary>The edits that put a use of a piece, each slot bound to the field of its name, in the place of the sections it was made of.</summary>
    public static IReadOnlyList<Edit> UseInPlace(Layout piece, Layout layout, IReadOnlyList<NodeId> sections)
    {
        if (sections.Count == 0 || layout.ParentOf(sections[0]) is not { } parent)
        {
            return [];
        }

        var slots = piece.Root.Children.Where(child => child.Kind is NodeKind.Slot).Select(slot => slot.Word("slot")!);
        var use = Node.Of(NodeKind.Piece, default).With("piece", new Value.Word(piece.Key)).With("slots", Value.Pairs.Of(slots.Select(slot => KeyValuePair.Create(slot, slot))));
        var section = Node.Of(NodeKind.Section, default, Node.Of(NodeKind.Row, default, Node.Of(NodeKind.Cell, default, use)));
        return [new Edit.Insert(section, parent, new Anchor.Before(sections[0])), .. sections.Select(id => new Edit.Remove(id))];
    }

    /// <summary>Fields of an entity that fit a slot, those named most like it first.</summary>
    public static ImmutableArray<Field> Fitting(Node slot, Entity entity) =>
    [
        .. entity.Current.Where(field => slot.Words("types").Contains(field.Type.Name()))
            .OrderBy(field => field.Key.EndsWith(slot.Word("slot")!, StringComparison.OrdinalIgnoreCase) ? 0 : Suggestion.Nearest(slot.Word("slot")!, [field.Key]) is null ? 2 : 1),
    ];
}

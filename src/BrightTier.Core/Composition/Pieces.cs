using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using BrightTier.Core.Conditions;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Composition;

/// <summary>One use of a piece: in which layout, at which node, and what its slots are bound to.</summary>
public sealed record PieceUse(string Layout, NodeId Node, IReadOnlyDictionary<string, string> Slots);

/// <summary>
/// What one does with pieces beside using them: looking where they are used, copying, detaching, making one, offering bindings.
/// </summary>
public static class Pieces
{
    /// <summary>Every use of a piece, by layout and in reading order.</summary>
    public static IEnumerable<PieceUse> Uses(string piece, Catalogue catalogue) =>
        from key in catalogue.Index.Naming(piece)
        let layout = catalogue.Layouts[key]
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
        return problems.Count > 0
            ? []
            : [new Edit.Insert(DerivedIds.FillFor(layout, copy), parent, new Anchor.After(use)), new Edit.Remove(use)];
    }

    /// <summary>Ids inside a piece's use are no ids of a layout: they are made up anew.</summary>
    internal static Node Plain(Node node) => node with { Id = default, Children = [.. node.Children.Select(Plain)] };

    /// <summary>What a layout shows: its entity, null where there is none; of a piece its slots.</summary>
    public static Entity? EntityOf(this Catalogue catalogue, Layout layout) =>
        layout.Kind == "piece" ? AsEntity(layout) : catalogue.Definitions.Entities.GetValueOrDefault(layout.Entity);

    /// <summary>
    /// A piece as an entity of its own, each slot a field of the first type that fits it: what its conditions are checked against and what
    /// its canvas shows.
    /// </summary>
    public static Entity AsEntity(Layout piece) => Entities.GetValue(piece, static key => new Entity
        {
            Key = key.Key,
            Label = key.Title ?? Texts.Of(key.Key),
            Plural = key.Title ?? Texts.Of(key.Key),
            Display = "",
            Fields =
            [
                .. Slots(key)
                    .DistinctBy(slot => slot.Word("slot"))
                    .Select(slot => new Field
                    {
                        Key = slot.Word("slot")!,
                        Label = slot.Text("label") ?? Texts.Of(slot.Word("slot")!),
                        Type = FieldTypes.TryParse(slot.Words("types").FirstOrDefault() ?? "", out var type) ? type : FieldType.Text,
                    }),
            ],
        });

    private static readonly ConditionalWeakTable<Layout, Entity> Entities = [];

    /// <summary>
    /// A piece as a form of its own, so that it can be looked at: its sections on one page. Any other layout stays what it is.
    /// </summary>
    public static Layout AsForm(Layout layout) =>
        layout.Kind != "piece"
            ? layout
            : Layout.Of(
                Node.Of(
                        NodeKind.Layout,
                        layout.Root.Id,
                        Node.Of(
                            NodeKind.Body,
                            new NodeId("piece/body"),
                            Node.Of(
                                NodeKind.Page,
                                new NodeId("piece/page"),
                                layout.Root.Children.Where(child => child.Kind is NodeKind.Section)
                            )
                        )
                    )
                    .With("kind", new Value.Word("full"))
                    .With("key", new Value.Word(layout.Key))
                    .With("entity", new Value.Word(layout.Key))
            );

    public static IEnumerable<Node> Slots(Layout piece) => piece.Root.Children.Where(child => child.Kind is NodeKind.Slot);

    /// <summary>
    /// A piece made of sections: a slot for every field they show, read or name, of the field's type. The other half, a use of it in their
    /// place, is
    /// <see cref="UseInPlace"/>.
    /// </summary>
    public static Layout Make(string key, Texts title, IEnumerable<Node> sections, Entity entity)
    {
        var taken = sections.ToArray();
        var slots = taken
            .SelectMany(node => node.Walk())
            .SelectMany(Named)
            .Distinct()
            .Where(field => entity.Find(field) is not null)
            .Select(field =>
                Node.Of(NodeKind.Slot, default)
                    .With("slot", new Value.Word(field))
                    .With("types", new Value.Words([entity.Find(field)!.Type.Name()]))
                    .With("label", new Value.Text(entity.Find(field)!.Label))
            );
        var root = Node.Of(NodeKind.Layout, new NodeId("layout"), [.. slots, .. taken])
            .With("kind", new Value.Word("piece"))
            .With("key", new Value.Word(key))
            .With("title", new Value.Text(title));
        return Layout.Of(DerivedIds.Fill(root, []));
    }

    /// <summary>The fields of the record a node shows, binds, names in a text or reads in a condition.</summary>
    internal static IEnumerable<string> Named(Node node)
    {
        var shown = node.Kind is NodeKind.Field ? [node.Word("field")!] : node.Pairs("slots").Values;
        var read = Grammar
            .Expressions(node)
            .SelectMany(each => Parser.Parse(each.Text).Expression?.OfRecord().Select(select => select.Field) ?? []);
        var named = node
            .Properties.Select(pair => pair.Value)
            .SelectMany(value =>
                value switch
                {
                    Value.Text text => text.Texts.ByLanguage.Values.SelectMany(Placeholders.In),
                    Value.Word word when word.Content.Contains('{', StringComparison.Ordinal) => Placeholders.In(word.Content),
                    _ => [],
                }
            );
        return shown.Concat(read).Concat(named);
    }

    /// <summary>
    /// The edits that put a use of a piece, each slot bound to the field of its name, in the place of the sections it was made of.
    /// </summary>
    public static IReadOnlyList<Edit> UseInPlace(Layout piece, Layout layout, IReadOnlyList<NodeId> sections)
    {
        if (sections.Count == 0 || layout.ParentOf(sections[0]) is not { } parent)
        {
            return [];
        }

        var slots = Slots(piece).Select(slot => slot.Word("slot")!);
        var use = Node.Of(NodeKind.Piece, default)
            .With("piece", new Value.Word(piece.Key))
            .With("slots", Value.Pairs.Of(slots.Select(slot => KeyValuePair.Create(slot, slot))));
        var section = Node.Of(NodeKind.Section, default, Node.Of(NodeKind.Row, default, Node.Of(NodeKind.Cell, default, use)));
        return [new Edit.Insert(section, parent, new Anchor.Before(sections[0])), .. sections.Select(id => new Edit.Remove(id))];
    }

    /// <summary>Fields of an entity that fit a slot, those named most like it first.</summary>
    public static ImmutableArray<Field> Fitting(Node slot, Entity entity) =>
        [
            .. entity
                .Current.Where(field => slot.Words("types").Contains(field.Type.Name()))
                .OrderBy(field =>
                    field.Key.EndsWith(slot.Word("slot")!, StringComparison.OrdinalIgnoreCase) ? 0
                    : Suggestion.Nearest(slot.Word("slot")!, [field.Key]) is null ? 2
                    : 1
                ),
        ];
}

using System.Collections.Immutable;
using BrightTier.Core.Conditions;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Composition;

/// <summary>What pasting comes to: the edits, the nodes that are new, and the fields that found no match and were left out.</summary>
public sealed record PasteOutcome(IReadOnlyList<Edit> Edits, IReadOnlyList<Node> Made, IReadOnlyList<string> Strays);

/// <summary>
/// Parts of a layout taken elsewhere: to another place, layout or entity, or as text. What is on the clipboard is a piece, so that there is
/// one
/// format for it, and its fields are slots that are bound anew where it is pasted.
/// </summary>
public static class Clipboard
{
    /// <summary>
    /// The selected nodes as sections. Sections stay what they are, and a page gives its own. Rows and items stand together in sections
    /// without a
    /// title; an item brings its row when all of that row is selected, and has one of its own otherwise.
    /// </summary>
    public static IReadOnlyList<Node> Sections(Layout layout, IReadOnlyCollection<NodeId> selected)
    {
        var sections = new List<Node>();
        var rows = new List<Node>();
        foreach (var node in Outermost(layout.Root, selected.ToHashSet()))
        {
            if (node.Kind is NodeKind.Section or NodeKind.Page)
            {
                Close();
                sections.AddRange(node.Kind is NodeKind.Page ? node.Children : [node]);
            }
            else if (RowOf(layout, node) is { } row && (node.Kind is NodeKind.Row || AllSelected(row, selected)))
            {
                if (rows.Count == 0 || rows[^1].Id != row.Id)
                {
                    rows.Add(row);
                }
            }
            else if (node.Kind is NodeKind.Cell)
            {
                rows.Add(Node.Of(NodeKind.Row, default, node));
            }
            else if (layout.ParentOf(node.Id) is { } parent && layout.Find(parent)!.Kind is NodeKind.Cell)
            {
                rows.Add(Node.Of(NodeKind.Row, default, Node.Of(NodeKind.Cell, default, node)));
            }
        }

        Close();
        return sections;

        void Close()
        {
            if (rows.Count > 0)
            {
                sections.Add(Node.Of(NodeKind.Section, default, [.. rows]));
                rows.Clear();
            }
        }
    }

    /// <summary>
    /// The edits that put a piece's sections behind a node, as nodes of the layout's own. A section without a word of its own gives its
    /// rows to the
    /// section pasted into.
    /// </summary>
    /// <param name="bound">From slot to field; a slot that is not in it is bound to the field of its name, or else of its label, if the
    /// type fits.</param>
    public static PasteOutcome Paste(Layout piece, IReadOnlyDictionary<string, string>? bound, Layout into, NodeId? at, Entity entity)
    {
        var slots = Pieces
            .Slots(piece)
            .DistinctBy(slot => slot.Word("slot"))
            .ToDictionary(
                slot => slot.Word("slot")!,
                slot => bound?.GetValueOrDefault(slot.Word("slot")!) ?? Match(slot, entity)?.Key,
                StringComparer.Ordinal
            );
        var sections = piece
            .Root.Children.Where(child => child.Kind is NodeKind.Section)
            .Select(section => Kept(section, slots, entity))
            .OfType<Node>()
            .Select(section => Pieces.Plain(PieceExpansion.Bound(section, slots, "")!))
            .ToArray();
        var taken = into.Walk().Select(node => node.Id).ToHashSet();
        var path = (at is { } id && into.Contains(id) ? into.Ancestors(id).Prepend(into.Find(id)!) : []).ToArray();
        var section = path.FirstOrDefault(node => node.Kind is NodeKind.Section)
            ?? (
                path.FirstOrDefault(node => node.Kind is NodeKind.Page)
                ?? into.Walk().LastOrDefault(node => node.Kind is NodeKind.Page)
                ?? into.Root
            ).Children.LastOrDefault(child => child.Kind is NodeKind.Section);
        var (edits, made) = (new List<Edit>(), new List<Node>());
        var row = path.TakeWhile(node => node.Kind is not NodeKind.Section).LastOrDefault(node => node.Kind is NodeKind.Row);
        Anchor rowAt = row is null ? new Anchor.Last() : new Anchor.After(row.Id);
        var home = section is null
            ? (
                path.FirstOrDefault(node => node.Kind is NodeKind.Page)
                ?? into.Walk().FirstOrDefault(node => node.Kind is NodeKind.Page)
                ?? into.Root
            ).Id
            : into.ParentOf(section.Id)!.Value;
        Anchor sectionAt = section is null ? new Anchor.Last() : new Anchor.After(section.Id);
        foreach (var each in sections)
        {
            if (section is not null && each.Properties.Count == 0)
            {
                foreach (var one in each.Children)
                {
                    rowAt = new Anchor.After(Insert(one, section.Id, rowAt));
                }
            }
            else
            {
                sectionAt = new Anchor.After(Insert(each, home, sectionAt));
            }
        }

        return new PasteOutcome(edits, made, [.. slots.Where(slot => slot.Value is null).Select(slot => slot.Key)]);

        NodeId Insert(Node node, NodeId parent, Anchor anchor)
        {
            var filled = DerivedIds.Fill(node, taken);
            taken.UnionWith(filled.Walk().Select(each => each.Id));
            edits.Add(new Edit.Insert(filled, parent, anchor));
            made.Add(filled);
            return filled.Id;
        }
    }

    private static Field? Match(Node slot, Entity entity)
    {
        var fitting = entity.Current.Where(field => slot.Words("types").Contains(field.Type.Name())).ToArray();
        return fitting.FirstOrDefault(field => field.Key == slot.Word("slot"))
            ?? fitting.FirstOrDefault(field =>
                slot.Text("label") is { } label
                && string.Equals(field.Label.ToString(), label.ToString(), StringComparison.OrdinalIgnoreCase)
            );
    }

    /// <summary>
    /// Without the fields of slots that are bound to nothing, the rows and cells that are left empty by it, and conditions that read what
    /// the entity has not.
    /// </summary>
    private static Node? Kept(Node node, Dictionary<string, string?> slots, Entity entity)
    {
        if (node.Kind is NodeKind.Field && slots.TryGetValue(node.Word("field")!, out var bound) && bound is null)
        {
            return null;
        }

        var children = node.Children.Select(child => Kept(child, slots, entity)).OfType<Node>().ToImmutableArray();
        if (children.IsEmpty && !node.Children.IsEmpty && node.Kind is NodeKind.Row or NodeKind.Cell or NodeKind.Section)
        {
            return null;
        }

        var properties = node.Properties;
        foreach (var (name, text, _) in Grammar.Expressions(node))
        {
            var missing = Parser
                .Parse(text)
                .Expression?.OfRecord()
                .Any(read =>
                    slots.TryGetValue(Expression.Own(read.Field), out var field)
                        ? field is null
                        : entity.Find(Expression.Own(read.Field)) is null
                );
            properties = missing == true ? properties.Remove(name) : properties;
        }

        return node with
        {
            Properties = properties,
            Children = children,
        };
    }

    private static IEnumerable<Node> Outermost(Node node, HashSet<NodeId> selected) =>
        selected.Contains(node.Id) ? [node] : node.Children.SelectMany(child => Outermost(child, selected));

    private static Node? RowOf(Layout layout, Node node) =>
        layout.Ancestors(node.Id).Prepend(node).FirstOrDefault(each => each.Kind is NodeKind.Row or NodeKind.Section)
            is { Kind: NodeKind.Row } row
            ? row
            : null;

    private static bool AllSelected(Node row, IReadOnlyCollection<NodeId> selected) =>
        row.Children.All(cell =>
            selected.Contains(cell.Id) || (!cell.Children.IsEmpty && cell.Children.All(item => selected.Contains(item.Id)))
        );
}

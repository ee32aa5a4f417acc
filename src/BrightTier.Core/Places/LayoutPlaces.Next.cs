using BrightTier.Core.Model;

namespace BrightTier.Core.Places;

/// <summary>Where something goes that was chosen and not pointed at a place.</summary>
public sealed partial class LayoutPlaces
{
    /// <summary>
    /// Where a subject goes at once: after what is selected, else at the end of what is in view; into the next empty cell where the section
    /// has columns. Null where there is no place for it.
    /// </summary>
    /// <param name="after">What it comes after; without it, it comes at the end of the page.</param>
    /// <param name="page">The page in view; without one, the first.</param>
    public Placement? Next(Subject subject, NodeId? after = null, NodeId? page = null)
    {
        if (KindOf(subject) is not { } kind)
        {
            return null;
        }

        Node[] path = after is { } id && layout.Find(id) is { } selected ? [selected, .. layout.Ancestors(id)] : [];
        Node? Above(NodeKind of) => path.FirstOrDefault(node => node.Kind == of);
        Placement? Put(Node? target, Edge edge) => target is null ? null : At(subject, target.Id, edge);
        var pages = layout.Walk().Where(node => node.Kind is NodeKind.Page).ToArray();
        var shown = Above(NodeKind.Page) ?? pages.FirstOrDefault(each => each.Id == page) ?? pages.FirstOrDefault();
        if (layout.Kind == "list")
        {
            var column = Above(NodeKind.Column) ?? layout.Root.Children.LastOrDefault(child => child.Kind is NodeKind.Column);
            return Put(column, Edge.Right) ?? Put(layout.Root, Edge.Inside);
        }

        if (kind is NodeKind.Page)
        {
            return Put(shown, Edge.Right) ?? Put(layout.Body, Edge.Inside);
        }

        if (kind is NodeKind.Section)
        {
            return Put(Above(NodeKind.Section), Edge.Below) ?? Put(shown, Edge.Inside);
        }

        if (!Grammar.IsItem(kind))
        {
            return Put(layout.Root, Edge.Inside);
        }

        if (BelongsInBand(kind) && path.FirstOrDefault(node => node.Kind is NodeKind.Top or NodeKind.Bottom) is { } bar)
        {
            return Put(bar, Edge.Inside);
        }

        var section = Above(NodeKind.Section) ?? shown?.Children.LastOrDefault(child => child.Kind is NodeKind.Section);
        return section is null
            ? Put(shown, Edge.Inside) ?? Put(layout.Root.Children.LastOrDefault(child => child.Kind is NodeKind.Row), Edge.Below)
            : InColumns(section, Above(NodeKind.Row), Put) ?? Put(Above(NodeKind.Row), Edge.Below) ?? Put(section, Edge.Inside);
    }

    /// <summary>
    /// The next empty cell of a section of columns, from a row on; or a column more in its last row, where that has fewer than the section.
    /// </summary>
    private static Placement? InColumns(Node section, Node? from, Func<Node?, Edge, Placement?> put)
    {
        var columns = section.Number("columns") ?? 1;
        if (columns < 2)
        {
            return null;
        }

        var rows = section.Children.Skip(from is null ? 0 : Math.Max(0, section.Children.IndexOf(from))).ToArray();
        var empty = rows.SelectMany(row => row.Children)
            .Where(cell => cell.Children.IsEmpty)
            .Select(cell => put(cell, Edge.Inside))
            .FirstOrDefault(place => place is { Full: false });
        var row = from ?? rows.LastOrDefault();
        return empty
            ?? (row?.Children.Length < columns && put(row.Children.LastOrDefault(), Edge.Right) is { Full: false } beside ? beside : null);
    }
}

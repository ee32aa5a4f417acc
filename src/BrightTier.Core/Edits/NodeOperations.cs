using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>
/// What a person does in one act and what is several edits: each gives the list of the four primitive ones, which together are one change and are
/// undone as one. Where something cannot be done the list is empty.
/// </summary>
public static class NodeOperations
{
    /// <summary>One property of several nodes; those that do not have it are left out.</summary>
    public static IReadOnlyList<Edit> SetOnAll(Layout layout, IEnumerable<NodeId> nodes, string property, Value? value) =>
    [
        .. nodes.Distinct().Select(layout.Find).OfType<Node>().Where(node => Grammar.Of(node).Find(property) is not null && node[property] != value).Select(node => new Edit.Set(node.Id, property, value)),
    ];

    /// <summary>Rows of one section, side by side or not, into a section of their own behind it; items bring their rows.</summary>
    public static IReadOnlyList<Edit> WrapInSection(Layout layout, IReadOnlyList<NodeId> nodes, NodeId id, Value? title = null)
    {
        var rows = nodes.Select(node => Row(layout, node)).OfType<NodeId>().Distinct().ToHashSet();
        if (rows.Count == 0 || layout.ParentOf(rows.First()) is not { } section || rows.Any(row => layout.ParentOf(row) != section) || layout.ParentOf(section) is not { } page)
        {
            return [];
        }

        var inOrder = layout.Find(section)!.Children.Select(row => row.Id).Where(rows.Contains).ToArray();
        return [new Edit.Insert(Node.Of(NodeKind.Section, id).With("title", title), page, new Anchor.After(section)), .. inOrder.Select(row => new Edit.Move(row, id, new Anchor.Last()))];
    }

    /// <summary>A section given up: its rows go to the end of the one before it, or to the beginning of the one behind.</summary>
    public static IReadOnlyList<Edit> Ungroup(Layout layout, NodeId section)
    {
        if (layout.Find(section) is not { Kind: NodeKind.Section } node || layout.ParentOf(section) is not { } parent)
        {
            return [];
        }

        var siblings = layout.Find(parent)!.Children;
        var at = Layout.IndexIn(layout.Find(parent)!, section);
        IEnumerable<Edit> moves = at > 0 ? node.Children.Select(row => new Edit.Move(row.Id, siblings[at - 1].Id, new Anchor.Last()))
            : siblings.Length > 1 ? node.Children.Reverse().Select(row => new Edit.Move(row.Id, siblings[1].Id, new Anchor.First()))
            : [];
        return siblings.Length == 1 ? [] : [.. moves, new Edit.Remove(section)];
    }

    /// <summary>One more cell in the row beside a cell, which gives up half of its units; the other cells keep theirs.</summary>
    public static IReadOnlyList<Edit> Split(Layout layout, NodeId cell, NodeId id, bool before = false)
    {
        if (layout.Find(cell) is not { Kind: NodeKind.Cell } node || layout.ParentOf(cell) is not { } row)
        {
            return [];
        }

        Anchor at = before ? new Anchor.Before(cell) : new Anchor.After(cell);
        if (node.Number("span") is not { } span)
        {
            return [new Edit.Insert(Node.Of(NodeKind.Cell, id), row, at)];
        }

        return span < 2 ? [] : [new Edit.Set(cell, "span", new Value.Number(span - (span / 2))), new Edit.Insert(Node.Of(NodeKind.Cell, id).With("span", new Value.Number(span / 2)), row, at)];
    }

    /// <summary>
    /// The items of a section in so many columns, in reading order: every row anew, cells of equal span, a last row filled with empty cells so that
    /// columns line up. Items that need all the width (several lines, panels, related records) get a row of their own.
    /// </summary>
    /// <param name="fresh">Makes an id that is not taken, from a stem.</param>
    public static IReadOnlyList<Edit> Flow(Layout layout, NodeId section, int columns, Func<string, NodeId> fresh)
    {
        if (layout.Find(section) is not { Kind: NodeKind.Section } node || columns is < 1 or > 4)
        {
            return [];
        }

        var edits = new List<Edit>();
        if ((node.Number("columns") ?? 1) != columns)
        {
            edits.Add(new Edit.Set(section, "columns", columns == 1 ? null : new Value.Number(columns)));
        }

        var items = node.Children.SelectMany(row => row.Children).SelectMany(cell => cell.Children).ToArray();
        var waiting = new List<Node>();
        foreach (var item in items)
        {
            if (NeedsWidth(item))
            {
                Close();
                edits.AddRange(Row(section, fresh, [item], null, 1));
            }
            else
            {
                waiting.Add(item);
                if (waiting.Count == columns)
                {
                    Close();
                }
            }
        }

        Close();
        edits.AddRange(node.Children.Select(row => new Edit.Remove(row.Id)));
        return edits;

        void Close()
        {
            if (waiting.Count > 0)
            {
                edits.AddRange(Row(section, fresh, waiting, columns == 1 ? null : Limits.Units / columns, columns));
                waiting.Clear();
            }
        }
    }

    private static bool NeedsWidth(Node item) => item.Number("lines") > 1 || item.Kind is NodeKind.Panel or NodeKind.Related or NodeKind.Heading or NodeKind.Text or NodeKind.Divider or NodeKind.Piece;

    private static IEnumerable<Edit> Row(NodeId section, Func<string, NodeId> fresh, IReadOnlyList<Node> items, int? span, int cells)
    {
        var row = fresh("row");
        var ids = Enumerable.Range(0, Math.Max(cells, items.Count)).Select(_ => fresh("cell")).ToArray();
        yield return new Edit.Insert(
            Node.Of(NodeKind.Row, row, ids.Select(id => Node.Of(NodeKind.Cell, id).With("span", span is { } units ? new Value.Number(units) : null))), section, new Anchor.Last());
        for (var i = 0; i < items.Count; i++)
        {
            yield return new Edit.Move(items[i].Id, ids[i], new Anchor.Last());
        }
    }

    /// <summary>The cells of each row of a section share it evenly; a row that is even already is left alone.</summary>
    public static IReadOnlyList<Edit> Balance(Layout layout, NodeId section)
    {
        if (layout.Find(section) is not { Kind: NodeKind.Section } node)
        {
            return [];
        }

        return [.. node.Children.Where(row => row.Children.Select(cell => cell.Number("span")).Distinct().Count() > 1).SelectMany(row => row.Children).Where(cell => cell["span"] is not null).Select(cell => new Edit.Set(cell.Id, "span", null))];
    }

    private static NodeId? Row(Layout layout, NodeId node)
    {
        for (NodeId? at = node; at is { } id; at = layout.ParentOf(id))
        {
            if (layout.Find(id) is { Kind: NodeKind.Row })
            {
                return id;
            }
        }

        return null;
    }
}

using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Places;

/// <summary>What goes with something that leaves. web/layout does the same (tests/vectors/places).</summary>
public static class Removal
{
    /// <summary>
    /// What is tidied up when an item leaves: a row that is left empty goes. An empty cell stays, with its units, where others would lose
    /// their column by its going: in a section of columns, and before others where spans are written. Cells that share share anew.
    /// </summary>
    /// <param name="goingTo">The cell it goes to.</param>
    public static IReadOnlyList<Edit> Leaving(Layout layout, NodeId item, NodeId? goingTo = null)
    {
        if (
            layout.ParentOf(item) is not { } parent
            || parent == goingTo
            || layout.Find(parent) is not { Kind: NodeKind.Cell, Children.Length: <= 1 } cell
        )
        {
            return [];
        }

        var row = layout.Find(layout.ParentOf(cell.Id)!.Value)!;
        if (row.Children.All(each => each.Id == cell.Id || (each.Children.IsEmpty && each.Id != goingTo)))
        {
            return [new Edit.Remove(row.Id)];
        }

        var columns = layout.ParentOf(row.Id) is { } section ? layout.Find(section)!.Number("columns") ?? 1 : 1;
        var holdsPlace = cell["span"] is not null && row.Children[^1].Id != cell.Id;
        return columns > 1 || holdsPlace ? [] : [new Edit.Remove(cell.Id)];
    }

    /// <summary>Takes a node off the layout, and what it leaves empty; nothing for the layout itself and its body.</summary>
    public static IReadOnlyList<Edit> Of(Layout layout, NodeId id) =>
        layout.Find(id) is not { Kind: not (NodeKind.Layout or NodeKind.Body) } node ? []
        : Grammar.IsItem(node.Kind) ? [new Edit.Remove(id), .. Leaving(layout, id)]
        : [new Edit.Remove(id)];
}

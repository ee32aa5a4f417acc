using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Places;

/// <summary>Rows: what joins one, what gets one of its own, and who gives way.</summary>
public sealed partial class LayoutPlaces
{
    /// <summary>Whether the subject is all that stands in a row, so that a place beside that row is where it is already.</summary>
    private static bool IsAlone(Subject subject, Node row) =>
        subject is Subject.OfNode { Id: var id } && row.Children is [{ Children: [{ Id: var only }] }] && only == id;

    private List<Edit> NewRow(Subject subject, NodeId section, Anchor at)
    {
        var stem = StemOf(subject);
        var cell = new NodeId(DerivedIds.Fresh(layout, stem + "Cell"));
        var row = Node.Of(NodeKind.Row, new NodeId(DerivedIds.Fresh(layout, stem + "Row")), Node.Of(NodeKind.Cell, cell));
        return [new Edit.Insert(row, section, at), .. Into(subject, cell, new Anchor.Last())];
    }

    /// <summary>A page without a section gets one.</summary>
    private List<Edit> NewSection(Subject subject, Node page)
    {
        var cell = new NodeId(DerivedIds.Fresh(layout, "cell"));
        var row = Node.Of(NodeKind.Row, new NodeId(DerivedIds.Fresh(layout, "row")), Node.Of(NodeKind.Cell, cell));
        var section = Node.Of(NodeKind.Section, new NodeId(DerivedIds.Fresh(layout, "section")), row);
        return [new Edit.Insert(section, page.Id, new Anchor.Last()), .. Into(subject, cell, new Anchor.Last())];
    }

    /// <summary>
    /// Beside a row that has no room for it: a row of its own, above what it was meant to stand left of, below what right of.
    /// </summary>
    private List<Edit>? BesideFullRow(Subject subject, Node row, Edge edge, ref bool full)
    {
        full = true;
        return IsAlone(subject, row)
            ? null
            : NewRow(subject, layout.ParentOf(row.Id)!.Value, Beside(row.Id, edge is Edge.Left or Edge.Above ? Edge.Left : Edge.Right));
    }

    /// <summary>A column beside a cell; a row of its own where the row has no room for it.</summary>
    private List<Edit>? NewColumn(Subject subject, Node cell, Edge edge, ref bool full)
    {
        var row = layout.Find(layout.ParentOf(cell.Id)!.Value)!;
        var index = row.Children.IndexOf(cell);
        var beside = row.Children.ElementAtOrDefault(edge is Edge.Left ? index - 1 : index + 1);
        if (OwnCell(subject) is { Children.Length: 1 } own)
        {
            if (own.Id == cell.Id || own.Id == beside?.Id)
            {
                return null;
            }

            if (layout.ParentOf(own.Id) == row.Id)
            {
                return [new Edit.Move(own.Id, row.Id, Beside(cell.Id, edge))];
            }
        }

        if (beside is { Children.IsEmpty: true })
        {
            return EmptyCell(subject, beside, ref full);
        }

        var place = edge is Edge.Left ? index : index + 1;
        if (RowRoom.Admit(SharingCells(row.Children), place, RoomOf(subject)) is not { } spans)
        {
            return BesideFullRow(subject, row, edge, ref full);
        }

        var id = new NodeId(DerivedIds.Fresh(layout, StemOf(subject) + "Cell"));
        var made = Node.Of(NodeKind.Cell, id).With("span", spans[place] is { } span ? new Value.Number(span) : null);
        return
        [
            .. Spanned(row.Children, spans.RemoveAt(place)),
            new Edit.Insert(made, row.Id, Beside(cell.Id, edge)),
            .. Into(subject, id, new Anchor.Last()),
        ];
    }

    /// <summary>
    /// Under or over an item in its column, which is made wide enough; a row of its own where the others cannot give way so far.
    /// </summary>
    private List<Edit>? SameColumn(Subject subject, Node cell, NodeId item, Edge edge, ref bool full)
    {
        var goes = cell.Children.TakeWhile(each => each.Id != item).Count() + (edge is Edge.Below ? 1 : 0);
        if (subject is Subject.OfNode { Id: var id } && cell.Children.Any(each => each.Id == id))
        {
            var stands = cell.Children.TakeWhile(each => each.Id != id).Count();
            return goes == stands || goes == stands + 1 ? null : Into(subject, cell.Id, Beside(item, edge));
        }

        return Widened(subject, cell) is { } widened
            ? [.. widened, .. Into(subject, cell.Id, Beside(item, edge))]
            : BesideFullRow(subject, layout.Find(layout.ParentOf(cell.Id)!.Value)!, edge, ref full);
    }

    /// <summary>Into an empty cell, which is made wide enough.</summary>
    private List<Edit>? EmptyCell(Subject subject, Node cell, ref bool full) =>
        Widened(subject, cell) is { } widened
            ? [.. widened, .. Into(subject, cell.Id, new Anchor.Last())]
            : BesideFullRow(subject, layout.Find(layout.ParentOf(cell.Id)!.Value)!, Edge.Right, ref full);

    /// <summary>
    /// What gives a cell the room a subject needs: nothing where it has that, edits of spans where the others can give way; else null.
    /// </summary>
    private List<Edit>? Widened(Subject subject, Node cell)
    {
        var row = layout.Find(layout.ParentOf(cell.Id)!.Value)!;
        var index = row.Children.IndexOf(cell);
        var now = Spans.Share([.. row.Children.Select(each => each.Number("span"))]);
        var needed = RoomOf(subject).Needed;
        if (now[index] >= needed)
        {
            return [];
        }

        // What shares beside it is given what it has, so that it can keep it.
        var others = SharingCells(row.Children).Select((each, i) => each with { Span = now[i] }).ToList();
        others.RemoveAt(index);
        return RowRoom.Admit(others, index, new Room(needed, needed)) is { } spans ? [.. Spanned(row.Children, spans)] : null;
    }

    private List<SharingCell> SharingCells(ImmutableArray<Node> cells) =>
        [.. cells.Select(cell => new SharingCell(cell.Number("span"), Rooms.OfCell(cell, fields)))];

    /// <summary>Edits that write spans where they are others than are written.</summary>
    private static IEnumerable<Edit> Spanned(ImmutableArray<Node> cells, ImmutableArray<int?> spans) =>
        cells
            .Zip(spans)
            .Where(pair => pair.Second is not null && pair.First.Number("span") != pair.Second)
            .Select(pair => new Edit.Set(pair.First.Id, "span", new Value.Number(pair.Second!.Value)));
}

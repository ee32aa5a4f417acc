using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Places;

/// <summary>A legal place, with the edits that put the subject there.</summary>
/// <param name="Full">There is no room left in the row it was meant for: it gets a row of its own.</param>
public sealed record Placement(NodeId Target, Edge Edge, ImmutableArray<Edit> Edits, bool Full = false);

/// <summary>
/// Where something that is dropped, moved or placed goes, as edits: nothing that is placed changes the row, the column or the order of
/// anything else, and nobody gets less room than they need. The browser's web/layout does the same; tests/vectors/places holds both to it.
/// </summary>
/// <param name="layout">The layout as it is seen: at a width, or over what it extends.</param>
/// <param name="fields">The fields of its entity, by key.</param>
public sealed partial class LayoutPlaces(Layout layout, Func<string, Field?> fields)
{
    /// <summary>Where a subject goes at a spot; null where it may not.</summary>
    public Placement? At(Subject subject, NodeId target, Edge edge)
    {
        if (KindOf(subject) is not { } kind || layout.Find(target) is not { } at || IsIn(subject, target) || IsLaidOver(at))
        {
            return null;
        }

        var full = false;
        var edits =
            layout.Kind == "list" ? Column(subject, kind, at, edge)
            : Grammar.IsItem(kind) ? Item(subject, at, edge, ref full)
            : Container(subject, kind, at, edge);
        return edits is { Count: > 0 } ? new Placement(target, edge, [.. edits], full) : null;
    }

    /// <summary>Whether a spot is the subject itself or something in it.</summary>
    private bool IsIn(Subject subject, NodeId target) =>
        subject is Subject.OfNode { Id: var id } && (target == id || layout.Ancestors(target).Any(node => node.Id == id));

    /// <summary>
    /// Whether a node is of what is laid over the form at a width, or over what it extends: that is no place on the form.
    /// </summary>
    private bool IsLaidOver(Node node) =>
        layout.Ancestors(node.Id).Prepend(node).Any(each => each.Kind is NodeKind.Variant or NodeKind.Change);

    /// <summary>Columns stand side by side in the list itself.</summary>
    private List<Edit>? Column(Subject subject, NodeKind kind, Node at, Edge edge)
    {
        if (kind is not NodeKind.Column)
        {
            return null;
        }

        if (at.Kind is NodeKind.Layout)
        {
            return edge is Edge.Inside ? Hung(subject, kind, at.Id, new Anchor.Last()) : null;
        }

        if (at.Kind is not NodeKind.Column || edge is not (Edge.Left or Edge.Right))
        {
            return null;
        }

        var columns = layout.Root.Children.Where(child => child.Kind is NodeKind.Column).Select(column => column.Id).ToArray();
        var beside = columns.ElementAtOrDefault(Array.IndexOf(columns, at.Id) + (edge is Edge.Left ? -1 : 1));
        return subject is Subject.OfNode { Id: var id } && beside == id ? null : Hung(subject, kind, layout.Root.Id, Beside(at.Id, edge));
    }

    private List<Edit>? Container(Subject subject, NodeKind kind, Node at, Edge edge)
    {
        if (IsAround(kind))
        {
            return at.Kind is NodeKind.Layout && edge is Edge.Inside && at.Children.All(child => child.Kind != kind)
                ? Hung(subject, kind, at.Id, new Anchor.Last())
                : null;
        }

        if (at.Kind == kind && edge is not Edge.Inside)
        {
            var sideways = kind is NodeKind.Page or NodeKind.Cell;
            return sideways == edge is Edge.Left or Edge.Right && layout.ParentOf(at.Id) is { } parent
                ? Hung(subject, kind, parent, Beside(at.Id, edge))
                : null;
        }

        NodeKind? holder = kind switch
        {
            NodeKind.Page => NodeKind.Body,
            NodeKind.Section => NodeKind.Page,
            NodeKind.Row => NodeKind.Section,
            NodeKind.Cell => NodeKind.Row,
            _ => null,
        };
        return at.Kind == holder && edge is Edge.Inside ? Hung(subject, kind, at.Id, new Anchor.Last()) : null;
    }

    private List<Edit>? Item(Subject subject, Node at, Edge edge, ref bool full)
    {
        switch (at.Kind)
        {
            case NodeKind.Page:
                return edge is not Edge.Inside ? null
                    : at.Children.LastOrDefault() is { } section ? Item(subject, section, Edge.Inside, ref full)
                    : NewSection(subject, at);
            case NodeKind.Section:
                return edge is not Edge.Inside || (at.Children.LastOrDefault() is { } last && IsAlone(subject, last))
                    ? null
                    : NewRow(subject, at.Id, new Anchor.Last());
            case NodeKind.Row:
                return edge is not (Edge.Above or Edge.Below) || IsAlone(subject, at)
                    ? null
                    : NewRow(subject, layout.ParentOf(at.Id)!.Value, Beside(at.Id, edge));
            case NodeKind.Cell:
                return edge is Edge.Inside
                    ? at.Children.IsEmpty
                        ? EmptyCell(subject, at, ref full)
                        : null
                    : edge is Edge.Left or Edge.Right
                        ? NewColumn(subject, at, edge, ref full)
                        : null;
            case NodeKind.Top or NodeKind.Bottom:
                return edge is Edge.Inside && BelongsInBand(KindOf(subject)!.Value) ? Into(subject, at.Id, new Anchor.Last()) : null;
            default:
                return Grammar.IsItem(at.Kind) && edge is not Edge.Inside ? BesideItem(subject, at, edge, ref full) : null;
        }
    }

    private List<Edit>? BesideItem(Subject subject, Node at, Edge edge, ref bool full)
    {
        var holder = layout.Find(layout.ParentOf(at.Id)!.Value)!;
        if (holder.Kind is NodeKind.Top or NodeKind.Bottom)
        {
            return BelongsInBand(KindOf(subject)!.Value) && edge is Edge.Left or Edge.Right
                ? Into(subject, holder.Id, Beside(at.Id, edge))
                : null;
        }

        if (edge is Edge.Left or Edge.Right)
        {
            return NewColumn(subject, holder, edge, ref full);
        }

        var row = layout.Find(layout.ParentOf(holder.Id)!.Value)!;
        // Alone in its row, above and below mean another row; beside others, the same column.
        return row.Children.Length == 1 && holder.Children.Length == 1
            ? Item(subject, row, edge, ref full)
            : SameColumn(subject, holder, at.Id, edge, ref full);
    }
}

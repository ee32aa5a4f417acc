using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Places;

/// <summary>What is placed: its kind, its room, how it is first made, and what it leaves behind.</summary>
public sealed partial class LayoutPlaces
{
    private NodeKind? KindOf(Subject subject) =>
        subject switch
        {
            Subject.OfField => layout.Kind == "list" ? NodeKind.Column : NodeKind.Field,
            Subject.OfPiece => NodeKind.Piece,
            Subject.OfPart part => part.Kind,
            Subject.OfNode node => layout.Find(node.Id)?.Kind,
            _ => null,
        };

    /// <summary>What the nodes made for a subject are called after.</summary>
    private static string StemOf(Subject subject) =>
        subject switch
        {
            Subject.OfField field => field.Key,
            Subject.OfPiece piece => piece.Key,
            Subject.OfPart part => Grammar.Of(part.Kind).Name,
            Subject.OfNode node => node.Id.Name,
            _ => "item",
        };

    private Room RoomOf(Subject subject) =>
        Rooms.Of(
            subject switch
            {
                Subject.OfField field => NewNodes.Field(field.Key),
                Subject.OfNode node => layout.Find(node.Id)!,
                _ => Node.Of(KindOf(subject)!.Value, default),
            },
            fields
        );

    private Node? OwnCell(Subject subject) =>
        subject is Subject.OfNode { Id: var id } && layout.ParentOf(id) is { } parent ? layout.Find(parent) : null;

    /// <summary>What stands around a form's body, once each.</summary>
    private static bool IsAround(NodeKind kind) => kind is NodeKind.Top or NodeKind.Bottom or NodeKind.Start or NodeKind.End;

    /// <summary>What a band can hold.</summary>
    private static bool BelongsInBand(NodeKind kind) => kind is NodeKind.Action or NodeKind.Link or NodeKind.Image;

    private static Anchor Beside(NodeId sibling, Edge edge) =>
        edge is Edge.Left or Edge.Above ? new Anchor.Before(sibling) : new Anchor.After(sibling);

    private List<Edit> Hung(Subject subject, NodeKind kind, NodeId parent, Anchor at) =>
        subject is Subject.OfNode node ? [new Edit.Move(node.Id, parent, at)] : [new Edit.Insert(NewNode(subject, kind), parent, at)];

    private List<Edit> Into(Subject subject, NodeId cell, Anchor at) =>
        subject is Subject.OfNode node
            ? [new Edit.Move(node.Id, cell, at), .. Removal.Leaving(layout, node.Id, cell)]
            : [new Edit.Insert(NewNode(subject, KindOf(subject)!.Value), cell, at)];

    /// <summary>A subject that is not on the layout yet, as it is first made.</summary>
    private Node NewNode(Subject subject, NodeKind kind)
    {
        // Called as it would be when it is inserted, so that what comes next can name it.
        if (subject is Subject.OfField { Key: var key })
        {
            return Node.Of(kind, new NodeId(DerivedIds.Fresh(layout, key))).With(Grammar.Of(kind).Name, new Value.Word(key));
        }

        if (subject is Subject.OfPiece { Key: var piece })
        {
            return Node.Of(kind, default).With("piece", new Value.Word(piece));
        }

        var title = (subject as Subject.OfPart)?.Title;
        var text = title is null ? null : new Value.Text(Texts.Of(title));
        var node = Node.Of(kind, default);
        return kind switch
        {
            NodeKind.Image => node.With("image", new Value.Word("/icon.svg")).With("alt", text),
            // It leads somewhere from the start; where to is said afterwards.
            NodeKind.Link => node.With("link", new Value.Word("/")).With("label", text),
            NodeKind.Action => node.With("action", new Value.Word("open")).With("address", new Value.Word("/")).With("label", text),
            NodeKind.Panel => Node.Of(
                    kind,
                    default,
                    Node.Of(NodeKind.Page, default, Node.Of(NodeKind.Section, default)).With("title", text)
                )
                .With("panel", new Value.Word("tabs")),
            NodeKind.Top or NodeKind.Bottom => node.With("text", new Value.Text(Texts.Of(title ?? ""))),
            NodeKind.Start or NodeKind.End => Node.Of(
                kind,
                default,
                Node.Of(
                    NodeKind.Section,
                    default,
                    Node.Of(
                        NodeKind.Row,
                        default,
                        NewNodes.CellOf(Node.Of(NodeKind.Text, default).With("text", new Value.Text(Texts.Of(title ?? "Text"))))
                    )
                )
            ),
            NodeKind.Heading => node.With("heading", new Value.Text(Texts.Of(title ?? "Heading"))),
            NodeKind.Text => node.With("text", new Value.Text(Texts.Of(title ?? "Text"))),
            NodeKind.Divider => node.With("divider", new Value.Word("thin")),
            NodeKind.Spacer => node.With("spacer", new Value.Word("medium")),
            NodeKind.Page or NodeKind.Section => node.With("title", text),
            _ => node,
        };
    }
}

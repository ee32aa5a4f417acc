namespace BrightTier.Core.Model;

/// <summary>Nodes as they are first made; their ids are given when they are inserted.</summary>
public static class NewNodes
{
    public static Node Field(string key) => Node.Of(NodeKind.Field, default).With("field", new Value.Word(key));

    public static Node CellOf(Node item, int? span = null) =>
        Node.Of(NodeKind.Cell, default, item).With("span", span is { } units ? new Value.Number(units) : null);

    public static Node RowOf(params IEnumerable<string> fields) => Node.Of(NodeKind.Row, default, fields.Select(key => CellOf(Field(key))));

    public static Node Titled(NodeKind kind, Texts title, params IEnumerable<Node> children) =>
        Node.Of(kind, default, children).With("title", new Value.Text(title));
}

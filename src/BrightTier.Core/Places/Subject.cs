using BrightTier.Core.Model;

namespace BrightTier.Core.Places;

/// <summary>What is being placed: a field or part that is not on the layout yet, or a node that is.</summary>
public abstract record Subject
{
    private Subject() { }

    /// <summary>A field of the entity, by key.</summary>
    public sealed record OfField(string Key) : Subject;

    /// <summary>A new part of a kind, with the text it begins with.</summary>
    public sealed record OfPart(NodeKind Kind, string? Title = null) : Subject;

    /// <summary>A piece, by key.</summary>
    public sealed record OfPiece(string Key) : Subject;

    /// <summary>What stands on the layout already.</summary>
    public sealed record OfNode(NodeId Id) : Subject;
}

/// <summary>Parts that are made of a kind and a text alone.</summary>
public static class NewParts
{
    public static IReadOnlyList<string> All { get; } =
    [
        .. new[]
        {
            NodeKind.Section,
            NodeKind.Page,
            NodeKind.Heading,
            NodeKind.Text,
            NodeKind.Divider,
            NodeKind.Spacer,
            NodeKind.Image,
            NodeKind.Link,
            NodeKind.Action,
            NodeKind.Panel,
            NodeKind.Top,
            NodeKind.Bottom,
            NodeKind.Start,
            NodeKind.End,
        }.Select(kind => Grammar.Of(kind).Name),
    ];
}

/// <summary>On which side of a node something goes; inside is at its end.</summary>
public enum Edge
{
    Above,
    Below,
    Left,
    Right,
    Inside,
}

/// <summary>Edges as the wire and the command line spell them.</summary>
public static class Edges
{
    public static IReadOnlyList<string> All { get; } = [.. Enum.GetValues<Edge>().Select(Name)];

    public static string Name(Edge edge) =>
        edge switch
        {
            Edge.Above => "above",
            Edge.Below => "below",
            Edge.Left => "left",
            Edge.Right => "right",
            _ => "inside",
        };

    public static Edge? Parse(string name) =>
        Enum.GetValues<Edge>().Where(edge => Name(edge) == name).Select(edge => (Edge?)edge).FirstOrDefault();
}

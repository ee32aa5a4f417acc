using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>What the grammar asks of a node beside its properties: which children it holds, and of which only one.</summary>
internal static class NodeShape
{
    /// <summary>
    /// What is wrong with a node and its children, as a sentence; null when it is right. What lies deeper is not looked at.
    /// </summary>
    public static Message? Problem(Node node)
    {
        foreach (var child in node.Children)
        {
            if (Stray(node, child) is { } stray)
            {
                return stray;
            }
        }

        return ChangeShape.Problem(node)
            ?? (
                node.Children.Length > 1
                && node
                    .Children.Select(child => OnlyOne(node, child))
                    .OfType<string>()
                    .GroupBy(place => place)
                    .FirstOrDefault(group => group.Count() > 1)
                    is { Key: var twice }
                    ? (Message)$"A {Grammar.Of(node).Noun} has only one {twice}."
                    : null
            );
    }

    /// <summary>What keeps a node from holding one more child, as a code and a sentence; null when nothing does.</summary>
    public static (string Code, Message Message)? Problem(Node parent, Node added)
    {
        if (Stray(parent, added) is { } stray)
        {
            return ("not-allowed-there", stray);
        }

        if (parent.Kind is NodeKind.Change && parent.Word("op") != "insert")
        {
            return ("not-allowed-there", $"Only a change that inserts holds a node.");
        }

        return OnlyOne(parent, added) is { } place && parent.Children.Any(child => OnlyOne(parent, child) == place)
            ? ("only-one", $"A {Grammar.Of(parent).Noun} has only one {place}.")
            : null;
    }

    /// <summary>Under which name a child must be alone among its siblings; null where it may have any company.</summary>
    public static string? OnlyOne(Node parent, Node child) =>
        child.Kind is NodeKind.Variant ? $"variant for '{child.Word("variant")}'"
        : parent.Kind is NodeKind.Change ? "node it inserts"
        : parent.Kind is NodeKind.Layout && Grammar.Of(parent).HolderOf(child.Kind) is { Shape: ChildShape.One }
            ? Grammar.Of(child.Kind).Name
        : null;

    private static Message? Stray(Node parent, Node child)
    {
        var rule = Grammar.Of(parent);
        return rule.Children.Contains(child.Kind) ? null
            : rule.Children.IsEmpty ? (Message)$"A {Grammar.Of(child.Kind).Noun} cannot stand in a {rule.Noun}; nothing can."
            : $"A {Grammar.Of(child.Kind).Noun} cannot stand in a {rule.Noun}; "
                + $"it holds {Message.Join(", ", rule.Children.Select(kind => Grammar.Of(kind).Noun))}.";
    }
}

using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>What the grammar asks of a node beside its properties: which children it holds, and of which only one.</summary>
internal static class NodeShape
{
    /// <summary>
    /// What is wrong with a node and its children, as a sentence; null when it is right. What lies deeper is not looked at.
    /// </summary>
    public static string? Problem(Node node)
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
                    ? $"A {Grammar.Of(node).Name} has only one {twice}."
                    : null
            );
    }

    /// <summary>What keeps a node from holding one more child, as a code and a sentence; null when nothing does.</summary>
    public static (string Code, string Message)? Problem(Node parent, Node added)
    {
        if (Stray(parent, added) is { } stray)
        {
            return ("not-allowed-there", stray);
        }

        if (parent.Kind is NodeKind.Change && parent.Word("op") != "insert")
        {
            return ("not-allowed-there", "Only a change that inserts holds a node.");
        }

        return OnlyOne(parent, added) is { } place && parent.Children.Any(child => OnlyOne(parent, child) == place)
            ? ("only-one", $"A {Grammar.Of(parent).Name} has only one {place}.")
            : null;
    }

    /// <summary>Under which name a child must be alone among its siblings; null where it may have any company.</summary>
    public static string? OnlyOne(Node parent, Node child) =>
        child.Kind is NodeKind.Variant ? $"variant for '{child.Word("variant")}'"
        : parent.Kind is NodeKind.Change ? "node it inserts"
        : parent.Kind is NodeKind.Layout && Grammar.Of(parent).HolderOf(child.Kind) is { Shape: ChildShape.One }
            ? Grammar.Of(child.Kind).Name
        : null;

    private static string? Stray(Node parent, Node child)
    {
        var rule = Grammar.Of(parent);
        return rule.Children.Contains(child.Kind)
            ? null
            : $"A {Grammar.Of(child.Kind).Name} cannot stand in a {rule.Name}; "
                + $"{(rule.Children.IsEmpty ? "nothing can" : $"it holds {string.Join(", ", rule.Children.Select(kind => Grammar.Of(kind).Name))}")}.";
    }
}

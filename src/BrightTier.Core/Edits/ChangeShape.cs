using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>What the node of a change must have, so that it stands for exactly one edit.</summary>
internal static class ChangeShape
{
    /// <summary>What is wrong with a change's node, as a sentence; null when it is right, or is no change.</summary>
    public static Message? Problem(Node change)
    {
        if (change.Kind is not NodeKind.Change)
        {
            return null;
        }

        var op = change.Word("op");
        var (needs, may) = op switch
        {
            "set" => (new[] { "target", "property" }, new[] { "value" }),
            "remove" => (["target"], []),
            "move" => (["target", "parent"], ["at", "sibling"]),
            _ => (["parent"], new[] { "at", "sibling" }),
        };
        if (needs.FirstOrDefault(name => change[name] is null) is { } absent)
        {
            return $"A change that is a {op} needs '{absent}'.";
        }

        if (
            change.Properties.Keys.FirstOrDefault(name => name is not ("op" or "note") && !needs.Contains(name) && !may.Contains(name)) is
            { } stray
        )
        {
            return $"A change that is a {op} has no '{stray}'.";
        }

        if (change["sibling"] is null == change.Word("at") is "before" or "after")
        {
            return $"A change names a sibling where it says before or after, and only there.";
        }

        if ((change.Children.Length == 1) != (op == "insert"))
        {
            return op == "insert"
                ? (Message)$"A change that inserts holds the one node it inserts."
                : $"Only a change that inserts holds a node.";
        }

        return change.Word("property") is not { } property ? null
            : Grammar.Property(property) is not { } rule ? $"No node has a property '{property}'."
            : change["value"] is { } value && Grammar.Problem(rule, value) is { } wrong ? (Message)$"'{property}' {wrong}."
            : null;
    }
}

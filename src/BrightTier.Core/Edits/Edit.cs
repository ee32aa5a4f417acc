using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>Where among a parent's children something goes. Siblings are named by id, never by index.</summary>
public abstract record Anchor
{
    private Anchor() { }

    public sealed record First : Anchor;

    public sealed record Last : Anchor;

    public sealed record Before(NodeId Sibling) : Anchor;

    public sealed record After(NodeId Sibling) : Anchor;
}

/// <summary>One invertible change to a layout. There are these four and no others; nothing else alters a layout.</summary>
public abstract record Edit
{
    private Edit() { }

    /// <summary>Puts a subtree under a parent. Nodes in it that have no id get one.</summary>
    public sealed record Insert(Node Node, NodeId Parent, Anchor At) : Edit;

    /// <summary>Takes a node and all below it away.</summary>
    public sealed record Remove(NodeId Node) : Edit;

    /// <summary>Hangs a node, with all below it, elsewhere.</summary>
    public sealed record Move(NodeId Node, NodeId Parent, Anchor At) : Edit;

    /// <summary>Gives one property of one node a value; null clears it.</summary>
    public sealed record Set(NodeId Node, string Property, Value? Value) : Edit;
}

/// <summary>
/// Why an edit or a change could not be applied: a stable code and a sentence, with the place in the change when it is one of several.
/// </summary>
public sealed record Refusal(string Code, Message Message, int Index = 0);

/// <summary>
/// What became of a change: the new layout with the edits as applied (ids filled in) and their inverse, or a refusal and nothing changed.
/// </summary>
public sealed record EditOutcome(Layout? Layout, IReadOnlyList<Edit> Edits, IReadOnlyList<Edit> Inverse, Refusal? Refusal);

using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>
/// A node's name: unique in its layout, stable for life. Letters, digits, <c>-</c> and <c>_</c>, beginning with a letter, at most 64.
/// </summary>
public readonly record struct NodeId(string Name)
{
    /// <summary>Worked out once: ids are looked up far more often than they are made.</summary>
    private readonly int hash = Name is null ? 0 : string.GetHashCode(Name, StringComparison.Ordinal);

    public bool Equals(NodeId other) =>
        ReferenceEquals(Name, other.Name) || (hash == other.hash && string.Equals(Name, other.Name, StringComparison.Ordinal));

    public override int GetHashCode() => hash;

    public static bool IsWellFormed(string name) =>
        name.Length is > 0 and <= Limits.IdLength
        && char.IsAsciiLetter(name[0])
        && name.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_');

    public override string ToString() => Name;
}

/// <summary>What a node is. The order is the order of levels, outermost first, and of a layout's parts in a file.</summary>
public enum NodeKind
{
    Layout,
    Slot,
    Top,
    Start,
    Body,
    End,
    Bottom,
    Page,
    Section,
    Row,
    Cell,
    Column,
    Field,
    Heading,
    Text,
    Divider,
    Spacer,
    Image,
    Link,
    Action,
    Related,
    Panel,
    Piece,
    Variant,
    Change,
}

/// <summary>One node of a layout's tree. Immutable: a changed node is a new node with the same id.</summary>
public sealed record Node(NodeId Id, NodeKind Kind, PropertyBag Properties, ImmutableArray<Node> Children)
{
    /// <summary>No properties, in the order every node keeps them.</summary>
    public static PropertyBag NoProperties => PropertyBag.Empty;

    public static Node Of(NodeKind kind, NodeId id, params IEnumerable<Node> children) => new(id, kind, NoProperties, [.. children]);

    public Node With(string property, Value? value) =>
        this with
        {
            Properties = value is null ? Properties.Remove(property) : Properties.SetItem(property, value),
        };

    public Value? this[string property] => Properties.GetValueOrDefault(property);

    public string? Word(string property) => (this[property] as Value.Word)?.Content;

    public Texts? Text(string property) => (this[property] as Value.Text)?.Texts;

    /// <summary>A whole number.</summary>
    public int? Number(string property) => (int?)(this[property] as Value.Number)?.Amount;

    public decimal? Amount(string property) => (this[property] as Value.Number)?.Amount;

    /// <summary>Several words; empty when there are none.</summary>
    public ImmutableArray<string> Words(string property) => (this[property] as Value.Words)?.Contents ?? [];

    public IReadOnlyDictionary<string, string> Pairs(string property) =>
        (this[property] as Value.Pairs)?.Entries ?? ImmutableSortedDictionary<string, string>.Empty;

    public bool Flag(string property) => this[property] is Value.Flag { On: true };

    /// <summary>This node and all below it, parents before children, in reading order.</summary>
    public IEnumerable<Node> Walk()
    {
        var waiting = new Stack<Node>();
        waiting.Push(this);
        while (waiting.TryPop(out var node))
        {
            yield return node;
            for (var i = node.Children.Length - 1; i >= 0; i--)
            {
                waiting.Push(node.Children[i]);
            }
        }
    }

    public bool Equals(Node? other) =>
        ReferenceEquals(this, other)
        || (
            other is not null
            && Id == other.Id
            && Kind == other.Kind
            && Properties.Equals(other.Properties)
            && Children.SequenceEqual(other.Children)
        );

    public override int GetHashCode() => HashCode.Combine(Id, Kind, Properties.Count, Children.Length);
}

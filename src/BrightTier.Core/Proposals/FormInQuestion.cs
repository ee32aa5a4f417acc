using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Proposals;

/// <summary>A form of which something is proposed, as rules look at it.</summary>
/// <param name="within">What may be touched, with all below it; null for everything.</param>
internal sealed class FormInQuestion(Layout layout, Entity entity, Definitions definitions, IReadOnlySet<NodeId>? within)
{
    /// <summary>An item of so many lines is tall.</summary>
    private const int TallLines = 3;

    /// <summary>What a width says of a node stays true only while the node is there.</summary>
    private readonly HashSet<string> named =
    [
        .. layout
            .Walk()
            .Where(node => node.Kind is NodeKind.Change)
            .SelectMany(change => change.Properties.Select(pair => pair.Value).OfType<Value.Word>().Select(word => word.Content)),
    ];

    public Layout Layout => layout;

    public Entity Entity => entity;

    public Definitions Definitions => definitions;

    public bool IsWhole => within is null;

    /// <summary>The sections of the body that are always shown as sections, in the form's order.</summary>
    public IEnumerable<Node> Sections => layout.Body?.Walk().Where(node => node.Kind is NodeKind.Section && !node.Flag("hidden")) ?? [];

    /// <summary>Whether a node may be touched.</summary>
    public bool Includes(NodeId id) => within is null || within.Contains(id) || layout.Ancestors(id).Any(node => within.Contains(node.Id));

    /// <summary>Whether a node can go: nothing is said of it elsewhere, and it says nothing itself.</summary>
    public bool MayGo(Node node) => !named.Contains(node.Id.Name) && node.Properties.Count == 0;

    /// <summary>Whether something decides who sees a node, and when, on it or around it.</summary>
    public bool IsForSome(NodeId id) =>
        layout
            .Ancestors(id)
            .Prepend(layout.Find(id)!)
            .Any(node => node.Properties.Any(pair => Grammar.Property(pair.Key)?.Group is PropertyGroup.Who) || node.Flag("hidden"));

    public Field? FieldOf(Node item) => item.Kind is NodeKind.Field ? entity.Find(item.Word("field") ?? "") : null;

    public Room RoomOf(Node cell) => Rooms.OfCell(cell, entity.Find);

    /// <summary>What an item is called.</summary>
    public Message Name(Node item) =>
        (item.Text("label") ?? item.Text("title") ?? FieldOf(item)?.Label) is { } label
            ? (Message)$"{label}"
            : Message.Verbatim(item.Id.Name);

    public Message Names(IEnumerable<Node> items) => Message.Join(", ", items.Select(Name));

    /// <summary>Whether a cell holds fields and nothing else.</summary>
    public bool HoldsFields(Node cell) => !cell.Children.IsEmpty && cell.Children.All(item => FieldOf(item) is not null);

    /// <summary>Whether a cell is several lines high.</summary>
    public bool IsTall(Node cell) =>
        cell.Children.Length > 1
        || cell.Children.Any(item =>
            FieldOf(item)?.Type is FieldType.LongText && item.Word("editor") != "line" || item.Number("lines") >= TallLines
        );

    /// <summary>How many screens it takes, at the narrow end of where the base is used.</summary>
    public double Screens => Length.Measure(layout, entity, definitions, Rooms.Form).Screens;
}

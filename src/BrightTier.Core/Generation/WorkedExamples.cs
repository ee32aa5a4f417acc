using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Generation;

/// <summary>
/// A layout that shows how one thing is done, to be opened and taken apart. It is made of whichever entity's fields are at hand.
/// </summary>
/// <param name="Make">The layout for an entity; null where the entity lacks what the example needs.</param>
public sealed record WorkedExample(string Key, string Title, Func<Entity, Definitions, Layout?> Make);

/// <summary>The worked examples that come along. Each says in notes, which no user sees, how what it shows is done.</summary>
public static class WorkedExamples
{
    public static IReadOnlyList<WorkedExample> All { get; } =
    [
        new("tall-beside-short", "A tall text beside short fields, stacked", TallBesideShort),
        new("tabs", "A tab for every subject", (entity, definitions) =>
            Pages(
                entity,
                definitions,
                "tabs",
                "Each section of the form has become a tab. The body's arrangement says so: tabs, steps, accordion or stack; "
                    + "nothing else has to change."
            )
        ),
        new("steps", "One step after another, each checked", (entity, definitions) =>
            Pages(
                entity,
                definitions,
                "steps",
                "The body's arrangement is steps, and they are guarded: the next opens when this one is right."
            )
        ),
        new("shown-when", "A section that appears when an answer asks for it", ShownWhen),
        new("narrow", "A form of its own for narrow screens", Narrow),
        new("columns", "A section flowing into two columns", Columns),
    ];

    public static WorkedExample? Find(string key) => All.FirstOrDefault(each => each.Key == key);

    private static Layout? TallBesideShort(Entity entity, Definitions definitions)
    {
        var tall = entity.Current.FirstOrDefault(field => field.Type is FieldType.LongText);
        var beside = entity
            .Current.Where(field =>
                field != tall && field.Type is not (FieldType.LongText or FieldType.Choices or FieldType.Image or FieldType.File)
            )
            .Take(3)
            .ToArray();
        if (tall is null || beside.Length < 3)
        {
            return null;
        }

        var stack = Node.Of(NodeKind.Cell, new NodeId("stack"), beside.Select(field => NewNodes.Field(field.Key)))
            .With("span", new Value.Number(5))
            .With("note", Note("A cell holds any number of items, one under the other: drag a field above or below another to stack it."));
        var text = NewNodes.CellOf(
            NewNodes
                .Field(tall.Key)
                .With("lines", new Value.Number(9))
                .With("note", Note("As high as the three fields beside it: drag its lower edge, or set Lines.")),
            7
        );
        var section = NewNodes.Titled(NodeKind.Section, entity.Label, Node.Of(NodeKind.Row, new NodeId("sideBySide"), stack, text));
        // No record could be made without these.
        var rest = entity
            .Current.Where(field => field.Required && field.Default is null && field != tall && !beside.Contains(field))
            .ToArray();
        var sections =
            rest.Length == 0
                ? [section]
                : new[]
                {
                    section,
                    NewNodes.Titled(NodeKind.Section, Texts.Of("Also required"), rest.Select(field => NewNodes.RowOf(field.Key))),
                };
        return Over(
            GeneratedLayout.Full(entity),
            sections,
            "A row of two cells: the left one takes 5 of the row's 12 units and holds three fields, the right one takes 7 and "
                + "holds the text."
        );
    }

    private static Layout? Pages(Entity entity, Definitions definitions, string arrangement, string note)
    {
        var sections = GeneratedLayout
            .Full(entity, definitions)
            .Root.Walk()
            .Where(node => node.Kind is NodeKind.Page)
            .SelectMany(page => page.Children.Select(section => (Title: section["title"] ?? page["title"], Section: section)))
            .ToArray();
        if (sections.Length < 2)
        {
            return null;
        }

        var pages = sections.Select(each => Node.Of(NodeKind.Page, default, each.Section.With("title", null)).With("title", each.Title));
        var body = Node.Of(NodeKind.Body, new NodeId("body"), pages)
            .With("arrangement", new Value.Word(arrangement))
            .With("guarded", arrangement == "steps" ? new Value.Flag(true) : null);
        return With(GeneratedLayout.Full(entity), body, note);
    }

    private static Layout? ShownWhen(Entity entity, Definitions definitions)
    {
        var asks = entity.Current.FirstOrDefault(field =>
            field.Type is FieldType.Boolean
            || (field.Type is FieldType.Choice && field.ChoiceList is { } list && definitions.ChoiceLists.ContainsKey(list))
        );
        var full = GeneratedLayout.Full(entity);
        var sections = Sections(full);
        if (asks is null || sections.Length < 2)
        {
            return null;
        }

        // The field that is asked stands first, so that it is never in what it makes appear.
        var holds =
            asks.Type is FieldType.Boolean
                ? $"record.{asks.Key} == true"
                : $"record.{asks.Key} == '{definitions.ChoiceLists[asks.ChoiceList!].Choices[0].Key}'";
        var first = NewNodes.Titled(NodeKind.Section, entity.Label, NewNodes.RowOf(asks.Key)) with { Id = new NodeId("asked") };
        var rest = sections.Select(section => Without(section, asks.Key)).OfType<Node>().ToArray();
        rest[^1] = rest[^1]
            .With("visible", new Value.Word(holds))
            .With(
                "note",
                Note("Shown only while its condition holds: see Who and when, Visible when. Try the form and change the first field.")
            );
        return Over(
            full,
            [first, .. rest],
            $"The last section is shown while {holds}. What is hidden is not required, and keeps what was stored."
        );
    }

    private static Layout? Narrow(Entity entity, Definitions definitions)
    {
        var full = GeneratedLayout.Full(entity);
        var hidden = full
            .Root.Walk()
            .Where(node =>
                node.Kind is NodeKind.Field
                && entity.Find(node.Word("field")!) is { Required: false } field
                && !entity.DisplayFields.Contains(field)
            )
            .ToArray();
        if (hidden.Length == 0)
        {
            return null;
        }

        var changes = hidden.Select(node =>
            Node.Of(NodeKind.Change, default)
                .With("op", new Value.Word("set"))
                .With("target", new Value.Word(node.Id.Name))
                .With("property", new Value.Word("hidden"))
                .With("value", new Value.Flag(true))
        );
        var variant = Node.Of(NodeKind.Variant, new NodeId("narrowForm"), changes)
            .With("variant", new Value.Word(definitions.Application.Widths[0].Name));
        var root = full.Root with { Children = [.. full.Root.Children, variant] };
        return Layout.Of(
            DerivedIds.Fill(
                root.With(
                    "note",
                    Note(
                        "Choose the narrow width over the sheet: there the form has only what must be filled in. Nothing is "
                            + "taken from the base; each difference is listed and can be taken back."
                    )
                ),
                []
            )
        );
    }

    private static Layout? Columns(Entity entity, Definitions definitions)
    {
        var full = GeneratedLayout.Full(entity);
        var fields = entity
            .Current.Where(field => field.Type is not (FieldType.LongText or FieldType.Choices or FieldType.Image or FieldType.File))
            .ToArray();
        if (fields.Length < 4)
        {
            return null;
        }

        var section = NewNodes
            .Titled(NodeKind.Section, entity.Label, fields.Chunk(2).Select(pair => NewNodes.RowOf(pair.Select(field => field.Key))))
            .With("columns", new Value.Number(2))
            .With(
                "note",
                Note("Two columns, filled in reading order. An emptied cell keeps its place, so that its neighbours stay where they are.")
            );
        return Over(full, [section], "A section says into how many columns its fields flow; long texts keep a row of their own.");
    }

    private static Value.Text Note(string text) => new(Texts.Of(text));

    private static ImmutableArray<Node> Sections(Layout layout) => [.. layout.Root.Walk().Where(node => node.Kind is NodeKind.Section)];

    /// <summary>A section without one field, and without the rows and cells that leaves empty; null where nothing is left.</summary>
    private static Node? Without(Node node, string field)
    {
        if (node.Kind is NodeKind.Field)
        {
            return node.Word("field") == field ? null : node;
        }

        var children = node.Children.Select(child => Without(child, field)).OfType<Node>().ToImmutableArray();
        return children.IsEmpty && node.Kind is NodeKind.Section or NodeKind.Row or NodeKind.Cell
            ? null
            : node with
            {
                Children = children,
            };
    }

    private static Layout Over(Layout full, IEnumerable<Node> sections, string note) =>
        With(full, Node.Of(NodeKind.Body, new NodeId("body"), Node.Of(NodeKind.Page, new NodeId("page"), sections)), note);

    private static Layout With(Layout full, Node body, string note) =>
        Layout.Of(
            DerivedIds.Fill(
                (full.Root with { Children = [.. full.Root.Children.Select(child => child.Kind is NodeKind.Body ? body : child)] }).With(
                    "note",
                    Note(note)
                ),
                []
            )
        );
}

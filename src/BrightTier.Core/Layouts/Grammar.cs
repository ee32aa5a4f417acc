using BrightTier.Core.Entities;
using System.Collections.Immutable;

namespace BrightTier.Core.Layouts;

/// <summary>What sort of value a property takes.</summary>
public enum PropertyType
{
    /// <summary>A text for people, one for all languages or a map from language tag to text.</summary>
    Text,

    /// <summary>One of the names in <see cref="PropertyRule.Words"/>.</summary>
    Word,

    /// <summary>A key: of the layout, an entity, a field.</summary>
    Key,

    /// <summary>A CEL expression of type bool.</summary>
    Condition,

    /// <summary>True, false or a CEL expression of type bool.</summary>
    FlagOrCondition,

    Flag,

    Number,
}

/// <summary>The groups in which a person meets properties.</summary>
public enum PropertyGroup
{
    Words,
    Place,
    Behaviour,
    Who,
}

/// <summary>One property a node can have: its type, limits, default (left out when writing), where it inherits from, and a line that explains it.</summary>
public sealed record PropertyRule(string Name, PropertyType Type, PropertyGroup Group, string Label, string About)
{
    public ImmutableArray<string> Words { get; init; } = [];

    public int Min { get; init; }

    public int Max { get; init; } = int.MaxValue;

    public Value? Default { get; init; }

    public bool Required { get; init; }

    /// <summary>Whether the value may span several lines.</summary>
    public bool Lines { get; init; }
}

/// <summary>One kind of node: its name, which kinds may stand under it and under which word in a file, and its properties.</summary>
public sealed record NodeRule(NodeKind Kind, string Name, string About, ImmutableArray<NodeKind> Children, string? ChildWord, ImmutableArray<PropertyRule> Properties)
{
    /// <summary>For items: the property that also says which kind it is, always written, and first.</summary>
    public string? Main { get; init; }

    public PropertyRule? Find(string property) => Properties.FirstOrDefault(rule => rule.Name == property);
}

/// <summary>
/// The one statement of what a layout is made of. Reading, checking edits, the JSON Schema, the properties panel and the reference in docs
/// are driven by it, so that adding a property is one change, here.
/// </summary>
public static class Grammar
{
    private static readonly PropertyRule Note = new("note", PropertyType.Text, PropertyGroup.Words, "Note", "A remark for whoever edits the layout; no user sees it.") { Lines = true };

    private static readonly PropertyRule Visible = new("visible", PropertyType.Condition, PropertyGroup.Who, "Visible when", "Shown only while this condition holds.");

    private static readonly PropertyRule Hidden = new("hidden", PropertyType.Flag, PropertyGroup.Who, "Never shown", "Kept in the layout, shown to nobody.") { Default = new Value.Flag(false) };

    private static readonly ImmutableArray<NodeKind> Items = [NodeKind.Field, NodeKind.Heading, NodeKind.Text, NodeKind.Divider, NodeKind.Spacer];

    private static PropertyRule Title(string label, string about) => new("title", PropertyType.Text, PropertyGroup.Words, label, about);

    private static PropertyRule Choice(string name, PropertyGroup group, string label, string about, params string[] words) =>
        new(name, PropertyType.Word, group, label, about) { Words = [.. words], Default = new Value.Word(words[0]) };

    private static ImmutableArray<PropertyRule> Band { get; } =
    [
        new("text", PropertyType.Text, PropertyGroup.Words, "Text", "Text with record values in braces: {name}, {registration}."),
        new("empty", PropertyType.Text, PropertyGroup.Words, "Text while empty", "Shown while the record has none of the values."),
        Choice("tone", PropertyGroup.Place, "Tone", "How strongly the band stands out.", "plain", "quiet", "strong"),
        Note,
    ];

    /// <summary>Every kind of node, outermost first.</summary>
    public static ImmutableArray<NodeRule> Rules { get; } =
    [
        new(NodeKind.Layout, "layout", "The document that arranges an entity's fields.", [NodeKind.Top, NodeKind.Body, NodeKind.Bottom], null,
        [
            Choice("kind", PropertyGroup.Behaviour, "Kind", "Which kind of layout this is.", "full") with { Required = true, Default = null },
            new("key", PropertyType.Key, PropertyGroup.Behaviour, "Key", "The layout's own name, unique in the application.") { Required = true },
            new("entity", PropertyType.Key, PropertyGroup.Behaviour, "Entity", "The entity whose fields it arranges.") { Required = true },
            Title("Title", "What configurators call the layout."),
            Choice("width", PropertyGroup.Place, "Form width", "Whether the form takes all the width there is or keeps to a readable measure, centred.", "full", "limited"),
            Note,
        ]),
        new(NodeKind.Top, "top", "The band over the body.", [], null, Band),
        new(NodeKind.Body, "body", "The panel that holds the form's pages.", [NodeKind.Page], "pages",
        [
            Choice("arrangement", PropertyGroup.Behaviour, "Arrangement", "How the pages are shown.", "stack", "tabs"),
            Note,
        ]),
        new(NodeKind.Bottom, "bottom", "The band under the body.", [], null, Band),
        new(NodeKind.Page, "page", "What a panel holds: a tab, or simply one after another.", [NodeKind.Section], "sections",
        [
            Title("Title", "The tab's name."), Visible, Hidden, Note,
        ]),
        new(NodeKind.Section, "section", "A group of rows under one title.", [NodeKind.Row], "rows",
        [
            Title("Title", "Stands over the section."),
            new("description", PropertyType.Text, PropertyGroup.Words, "Description", "A line or two under the title.") { Lines = true },
            Choice("frame", PropertyGroup.Place, "Frame", "What sets the section off from its surroundings.", "none", "rule", "outline"),
            new("columns", PropertyType.Number, PropertyGroup.Place, "Columns", "How many columns its fields flow into.") { Min = 1, Max = 4, Default = new Value.Number(1) },
            Choice("labels", PropertyGroup.Place, "Labels", "Where the labels of its fields stand.", "above", "beside"),
            new("collapsible", PropertyType.Flag, PropertyGroup.Behaviour, "Can be folded", "Whether users may fold it away.") { Default = new Value.Flag(false) },
            Visible, Hidden, Note,
        ]),
        new(NodeKind.Row, "row", "Cells side by side, sharing 12 units.", [NodeKind.Cell], "cells", [Note]),
        new(NodeKind.Cell, "cell", "Holds items, stacked.", Items, "items",
        [
            new("span", PropertyType.Number, PropertyGroup.Place, "Span", "Units of the row's 12; without one, what is left over is shared evenly.") { Min = 1, Max = Limits.Units },
            Note,
        ]),
        new(NodeKind.Field, "field", "A field of the record.", [], null,
        [
            new("field", PropertyType.Key, PropertyGroup.Behaviour, "Field", "The field's key.") { Required = true },
            new("label", PropertyType.Text, PropertyGroup.Words, "Label", "Instead of the entity's own label."),
            new("help", PropertyType.Text, PropertyGroup.Words, "Help", "Stands under the field.") { Lines = true },
            new("hint", PropertyType.Text, PropertyGroup.Words, "Hint", "Shown inside the field while it is empty."),
            new("lines", PropertyType.Number, PropertyGroup.Place, "Lines", "Height of a text in lines.") { Min = 1, Max = 40 },
            new("editor", PropertyType.Word, PropertyGroup.Behaviour, "Editor", "How values are entered.") { Words = [.. Editors.All] },
            new("required", PropertyType.FlagOrCondition, PropertyGroup.Behaviour, "Required", "Whether a value must be given, always or while a condition holds."),
            new("readOnly", PropertyType.FlagOrCondition, PropertyGroup.Behaviour, "Read-only", "Whether the value can only be read, always or while a condition holds."),
            new("emphasis", PropertyType.Flag, PropertyGroup.Words, "Emphasis", "Whether its value is set stronger than the others.") { Default = new Value.Flag(false) },
            Visible, Hidden, Note,
        ]) { Main = "field" },
        new(NodeKind.Heading, "heading", "A line that introduces what follows.", [], null,
        [
            new("heading", PropertyType.Text, PropertyGroup.Words, "Heading", "The words.") { Required = true }, Visible, Hidden, Note,
        ]) { Main = "heading" },
        new(NodeKind.Text, "text", "A note to the form's users.", [], null,
        [
            new("text", PropertyType.Text, PropertyGroup.Words, "Text", "The words.") { Required = true, Lines = true }, Visible, Hidden, Note,
        ]) { Main = "text" },
        new(NodeKind.Divider, "divider", "A line across the cell.", [], null,
        [
            Choice("divider", PropertyGroup.Place, "Line", "How strong the line is.", "thin", "strong") with { Required = true, Default = null }, Visible, Hidden, Note,
        ]) { Main = "divider" },
        new(NodeKind.Spacer, "spacer", "Empty room.", [], null,
        [
            Choice("spacer", PropertyGroup.Place, "Room", "How much room.", "small", "medium", "large") with { Required = true, Default = null }, Visible, Hidden, Note,
        ]) { Main = "spacer" },
    ];

    private static readonly ImmutableDictionary<NodeKind, NodeRule> ByKind = Rules.ToImmutableDictionary(rule => rule.Kind);

    private static readonly ImmutableDictionary<string, NodeRule> ByName = Rules.ToImmutableDictionary(rule => rule.Name);

    public static NodeRule Of(NodeKind kind) => ByKind[kind];

    public static NodeRule? Named(string name) => ByName.GetValueOrDefault(name);

    public static bool IsItem(NodeKind kind) => Items.Contains(kind);

    /// <summary>Names of properties every node has beside those of its kind.</summary>
    public const string Id = "id";

    /// <summary>What is wrong with a value for a property, in words that go behind the property's name; null when it is right.</summary>
    public static string? Problem(PropertyRule rule, Value value) => (rule.Type, value) switch
    {
        (PropertyType.Text, Value.Text text) => text.Texts.ByLanguage.Values.Any(each => each.Length > Limits.TextLength)
            ? $"must be at most {Limits.TextLength} characters" : null,
        (PropertyType.Text, _) => "must be a text, or a map from language to text",
        (PropertyType.Word, Value.Word word) => rule.Words.Contains(word.Content)
            ? null : $"has no value '{word.Content}'{Suggestion.For(word.Content, rule.Words)}",
        (PropertyType.Word, _) => $"must be one of {string.Join(", ", rule.Words)}",
        (PropertyType.Key, Value.Word word) => NodeId.IsWellFormed(word.Content)
            ? null : $"must begin with a letter and have only letters, digits, '-' and '_', at most {Limits.IdLength}; it is '{word.Content}'",
        (PropertyType.Key, _) => "must be a key",
        (PropertyType.Condition, Value.Word word) => ConditionProblem(word.Content),
        (PropertyType.Condition, _) => "must be a condition, such as record.propulsion == 'sail'",
        (PropertyType.FlagOrCondition, Value.Flag) => null,
        (PropertyType.FlagOrCondition, Value.Word word) => ConditionProblem(word.Content),
        (PropertyType.FlagOrCondition, _) => "must be true, false or a condition",
        (PropertyType.Flag, Value.Flag) => null,
        (PropertyType.Flag, _) => "must be true or false",
        (PropertyType.Number, Value.Number number) => number.Amount >= rule.Min && number.Amount <= rule.Max
            ? null : $"must be from {rule.Min} to {rule.Max}; it is {number.Amount}",
        (PropertyType.Number, _) => "must be a whole number",
        _ => throw new ArgumentOutOfRangeException(nameof(rule)),
    };

    private static string? ConditionProblem(string condition) => condition.Length switch
    {
        0 => "must not be an empty condition; leave it out instead",
        > Limits.ConditionLength => $"must be at most {Limits.ConditionLength} characters",
        _ => null,
    };
}

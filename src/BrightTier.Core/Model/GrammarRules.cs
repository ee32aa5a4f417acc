using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>The rules of every kind of node. Properties that several kinds have are stated once, at the top.</summary>
internal static class GrammarRules
{
    private static readonly PropertyRule Note = new(
        "note",
        PropertyType.Text,
        PropertyGroup.Words,
        "Note",
        "A remark for whoever edits the layout; no user sees it."
    )
    {
        Lines = true,
    };

    private static readonly PropertyRule Visible = new(
        "visible",
        PropertyType.Condition,
        PropertyGroup.Who,
        "Visible when",
        "Shown only while this condition holds."
    )
    {
        InVariants = false,
    };

    private static readonly PropertyRule Hidden = new(
        "hidden",
        PropertyType.Flag,
        PropertyGroup.Who,
        "Never shown",
        "Kept in the layout, shown to nobody."
    )
    {
        Default = new Value.Flag(false),
    };

    private static readonly PropertyRule InModes = new(
        "modes",
        PropertyType.Words,
        PropertyGroup.Who,
        "In modes",
        "Shown only in these modes; in all where none is named."
    )
    {
        Words = ["create", "edit", "view"],
        InVariants = false,
    };

    private static readonly ImmutableArray<PropertyRule> Shown = [Visible, Hidden, InModes, Note];

    private static readonly PropertyRule Style = new(
        "style",
        PropertyType.Key,
        PropertyGroup.Place,
        "Style",
        "One of the application's named styles."
    );

    private static readonly PropertyRule Icon = new(
        "icon",
        PropertyType.Key,
        PropertyGroup.Words,
        "Icon",
        "The name of a picture from the application's set."
    );

    private static readonly PropertyRule Label = new(
        "label",
        PropertyType.Text,
        PropertyGroup.Words,
        "Label",
        "Instead of the entity's own label."
    );

    /// <summary>What a form settles for its sections, and they for their fields.</summary>
    private static readonly ImmutableArray<PropertyRule> Labels =
    [
        Inherited(
            Choice(
                "labels",
                PropertyGroup.Place,
                "Labels",
                "Where labels stand: above their field, beside it, or inside it.",
                "above",
                "beside",
                "inside"
            )
        ),
        Inherited(
            Choice("labelAlign", PropertyGroup.Place, "Label alignment", "On which side of their room labels stand.", "start", "end")
        ),
        Inherited(
            new(
                "labelWidth",
                PropertyType.Number,
                PropertyGroup.Place,
                "Label width",
                "How wide labels beside fields are; without it as wide as the longest."
            )
            {
                Min = 4,
                Max = 40,
                Unit = "characters",
            }
        ),
        Inherited(Choice("punctuation", PropertyGroup.Place, "Behind labels", "What stands behind a label.", "none", "colon")),
        Inherited(
            Choice(
                "fieldWidth",
                PropertyGroup.Place,
                "Field width",
                "Whether fields are as wide as their type needs, or stretch over their cell.",
                "fit",
                "stretch"
            )
        ),
        Inherited(Choice("tabOrder", PropertyGroup.Behaviour, "Order of the Tab key", "Across rows, or down columns.", "rows", "columns")),
    ];

    private static readonly ImmutableArray<NodeKind> Items =
    [
        NodeKind.Field,
        NodeKind.Heading,
        NodeKind.Text,
        NodeKind.Divider,
        NodeKind.Spacer,
        NodeKind.Image,
        NodeKind.Link,
        NodeKind.Action,
        NodeKind.Related,
        NodeKind.Panel,
        NodeKind.Piece,
    ];

    private static readonly ChildRule Pages = new("pages", ChildShape.Many, [NodeKind.Page]);

    private static readonly ChildRule Sections = new("sections", ChildShape.Many, [NodeKind.Section]);

    private static readonly ChildRule Changes = new("changes", ChildShape.Many, [NodeKind.Change]);

    private static readonly ChildRule Variants = new("variants", ChildShape.Named, [NodeKind.Variant]);

    private static readonly ChildRule BandItems = new("items", ChildShape.Many, [NodeKind.Action, NodeKind.Link, NodeKind.Image]);

    private static readonly PropertyRule Guarded = new(
        "guarded",
        PropertyType.Flag,
        PropertyGroup.Behaviour,
        "Guarded steps",
        "Whether a step must be right before the next is opened."
    )
    {
        Default = new Value.Flag(false),
        InVariants = false,
    };

    private static readonly string[] Arrangements = ["stack", "tabs", "steps", "accordion"];

    private static PropertyRule Inherited(PropertyRule rule) => rule with { Inherits = true };

    private static PropertyRule Title(string label, string about) => new("title", PropertyType.Text, PropertyGroup.Words, label, about);

    private static PropertyRule Choice(string name, PropertyGroup group, string label, string about, params string[] words) =>
        new(name, PropertyType.Word, group, label, about) { Words = [.. words], Default = new Value.Word(words[0]) };

    /// <summary>A property that is inherited has its default at the root only: below, absence means "as around it".</summary>
    private static ImmutableArray<PropertyRule> Below(ImmutableArray<PropertyRule> rules) =>
        [.. rules.Select(rule => rule with { Default = null })];

    private static ChildRule One(NodeKind kind, string word) => new(word, ChildShape.One, [kind]);

    private static ImmutableArray<PropertyRule> Band { get; } =
    [
        new("text", PropertyType.Text, PropertyGroup.Words, "Text", "Text with record values in braces: {name}, {registration}."),
        new("empty", PropertyType.Text, PropertyGroup.Words, "Text while empty", "Shown while the record has none of the values."),
        Icon,
        new("picture", PropertyType.Key, PropertyGroup.Words, "Picture", "The field whose image is shown."),
        Choice("tone", PropertyGroup.Place, "Tone", "How strongly the band stands out.", "plain", "quiet", "strong"),
        Note,
    ];

    private static ImmutableArray<PropertyRule> Side { get; } =
    [
        new("share", PropertyType.Number, PropertyGroup.Place, "Width", "Units of the form's 12 it takes beside the body.")
        {
            Min = 2,
            Max = 5,
            Default = new Value.Number(3),
            Unit = "units",
        },
        Visible,
        Hidden,
        Note,
    ];

    private static NodeRule Root(string kind, string about, ImmutableArray<ChildRule> holds, params IEnumerable<PropertyRule> more) =>
        new(
            NodeKind.Layout,
            "layout",
            about,
            holds,
            [
                new("kind", PropertyType.Word, PropertyGroup.Behaviour, "Kind", "Which kind of layout this is.")
                {
                    Required = true,
                    Words = ["full", "short", "card", "list", "print", "piece"],
                    InVariants = false,
                },
                new("key", PropertyType.Key, PropertyGroup.Behaviour, "Key", "The layout's own name, unique in the application.")
                {
                    Required = true,
                    InVariants = false,
                },
                .. kind == "piece"
                    ? Array.Empty<PropertyRule>()
                    :
                    [
                        new PropertyRule(
                            "entity",
                            PropertyType.Key,
                            PropertyGroup.Behaviour,
                            "Entity",
                            "The entity whose fields it arranges."
                        )
                        {
                            Required = true,
                            InVariants = false,
                        },
                        new PropertyRule(
                            "extends",
                            PropertyType.Key,
                            PropertyGroup.Behaviour,
                            "Extends",
                            "The layout it is derived from, whose later changes it follows."
                        )
                        {
                            InVariants = false,
                        },
                    ],
                Title("Title", "What configurators call the layout."),
                .. more,
                Note,
            ]
        )
        {
            Root = kind,
        };

    private static ImmutableArray<PropertyRule> Form { get; } =
    [
        Choice(
            "width",
            PropertyGroup.Place,
            "Form width",
            "Whether the form takes all the width there is or keeps to a readable measure, centred.",
            "full",
            "limited"
        ),
        Choice("density", PropertyGroup.Place, "Density", "Roomy, or dense for those who see it all day.", "roomy", "dense"),
        Choice(
            "marks",
            PropertyGroup.Words,
            "Marks",
            "Whether required or optional fields are marked; by themselves, those that are fewer.",
            "fewer",
            "required",
            "optional",
            "none"
        ),
        .. Labels,
        Style,
    ];

    private static readonly ImmutableArray<ChildRule> FormParts =
    [
        One(NodeKind.Top, "top"),
        One(NodeKind.Start, "start"),
        One(NodeKind.Body, "body"),
        One(NodeKind.End, "end"),
        One(NodeKind.Bottom, "bottom"),
        Variants,
        Changes,
    ];

    public static ImmutableArray<NodeRule> Roots { get; } =
    [
        Root("full", "The document that arranges an entity's fields as a form.", FormParts, Form),
        Root("short", "A form with what is needed to make a record quickly.", [One(NodeKind.Body, "body"), Changes], Form),
        Root(
            "card",
            "One record as a card.",
            [new("lines", ChildShape.Many, [NodeKind.Row]), Changes],
            new PropertyRule("picture", PropertyType.Key, PropertyGroup.Words, "Picture", "The field whose image is shown.")
            {
                OfFields = true,
            },
            Style
        ),
        Root(
            "list",
            "Many records as a table.",
            [new("columns", ChildShape.Many, [NodeKind.Column]), Variants, Changes],
            new PropertyRule(
                "sort",
                PropertyType.Words,
                PropertyGroup.Behaviour,
                "Sorted by",
                "Fields, the first first; '-' before one sorts it downwards."
            )
            {
                OfFields = true,
            },
            new PropertyRule("filters", PropertyType.Words, PropertyGroup.Behaviour, "Filters", "Fields users can filter by.")
            {
                OfFields = true,
            },
            new PropertyRule(
                "filter",
                PropertyType.Condition,
                PropertyGroup.Who,
                "Only records where",
                "Records for which it does not hold are not in the list."
            )
            {
                InVariants = false,
            }
        ),
        Root("print", "A record on paper.", FormParts, Form),
        Root(
            "piece",
            "A reusable part of layouts, with slots bound to fields at each use.",
            [new("slots", ChildShape.Many, [NodeKind.Slot]), Sections]
        ),
    ];

    public static ImmutableArray<NodeRule> All { get; } =
    [
        Roots[0],
        new(
            NodeKind.Slot,
            "slot",
            "A place in a piece that a field is bound to at each use.",
            [],
            [
                new("slot", PropertyType.Key, PropertyGroup.Behaviour, "Slot", "What the piece calls the field.") { Required = true },
                new("types", PropertyType.Words, PropertyGroup.Behaviour, "Types", "Types of fields that fit.")
                {
                    Required = true,
                    Words = [.. FieldTypes.All],
                },
                Label,
                new(
                    "optional",
                    PropertyType.Flag,
                    PropertyGroup.Behaviour,
                    "Optional",
                    "Whether a use may leave it unbound; what shows it then goes."
                )
                {
                    Default = new Value.Flag(false),
                },
                Note,
            ]
        ),
        new(NodeKind.Top, "top", "The band over the body.", [BandItems], Band),
        new(NodeKind.Start, "start", "A column before the body, for instructions.", [Sections], Side),
        new(
            NodeKind.Body,
            "body",
            "The panel that holds the form's pages.",
            [Pages],
            [Choice("arrangement", PropertyGroup.Behaviour, "Arrangement", "How the pages are shown.", Arrangements), Guarded, Note]
        ),
        new(NodeKind.End, "end", "A column behind the body, for instructions.", [Sections], Side),
        new(NodeKind.Bottom, "bottom", "The band under the body.", [BandItems], Band),
        new(
            NodeKind.Page,
            "page",
            "What a panel holds: a tab, a step, a fold, or simply one after another.",
            [Sections],
            [Title("Title", "The page's name, on its tab, step or fold."), Icon, .. Shown]
        ),
        new(
            NodeKind.Section,
            "section",
            "A group of rows under one title.",
            [new("rows", ChildShape.Many, [NodeKind.Row])],
            [
                Title("Title", "Stands over the section."),
                new("description", PropertyType.Text, PropertyGroup.Words, "Description", "A line or two under the title.")
                {
                    Lines = true,
                },
                Choice(
                    "frame",
                    PropertyGroup.Place,
                    "Frame",
                    "What sets the section off from its surroundings.",
                    "none",
                    "rule",
                    "outline"
                ),
                Choice("tint", PropertyGroup.Place, "Tint", "The section's ground.", "none", "quiet", "warm", "cool", "alert"),
                Choice("gap", PropertyGroup.Place, "Gaps", "Room between its rows.", "normal", "tight", "wide"),
                Choice("above", PropertyGroup.Place, "Room above", "Room over the section.", "normal", "none", "wide"),
                new("columns", PropertyType.Number, PropertyGroup.Place, "Columns", "How many columns its fields flow into.")
                {
                    Min = 1,
                    Max = 4,
                    Default = new Value.Number(1),
                },
                .. Below(Labels),
                Style,
                new("collapsible", PropertyType.Flag, PropertyGroup.Behaviour, "Can be folded", "Whether users may fold it away.")
                {
                    Default = new Value.Flag(false),
                },
                new("collapsed", PropertyType.Flag, PropertyGroup.Behaviour, "Folded at first", "Whether it is folded when the form opens.")
                {
                    Default = new Value.Flag(false),
                },
                .. Shown,
            ]
        ),
        new(NodeKind.Row, "row", "Cells side by side, sharing 12 units.", [new("cells", ChildShape.Many, [NodeKind.Cell])], [Note]),
        new(
            NodeKind.Cell,
            "cell",
            "Holds items, stacked.",
            [new("items", ChildShape.Many, Items)],
            [
                new(
                    "span",
                    PropertyType.Number,
                    PropertyGroup.Place,
                    "Span",
                    "Units of the row's 12; without one, what is left over is shared evenly."
                )
                {
                    Min = 1,
                    Max = Limits.Units,
                    Unit = "of 12",
                },
                Choice(
                    "align",
                    PropertyGroup.Place,
                    "Alignment",
                    "Where items stand that are narrower than the cell.",
                    "start",
                    "center",
                    "end"
                ),
                Note,
            ]
        ),
        new(
            NodeKind.Column,
            "column",
            "A field as a column of a list.",
            [],
            [
                new("column", PropertyType.Key, PropertyGroup.Behaviour, "Field", "The field's key.")
                {
                    Required = true,
                    InVariants = false,
                },
                Label,
                new("units", PropertyType.Number, PropertyGroup.Place, "Width", "How wide against the other columns.")
                {
                    Min = 1,
                    Max = Limits.Units,
                    Unit = "of 12",
                },
                Choice("align", PropertyGroup.Place, "Alignment", "On which side values stand.", "start", "center", "end"),
                Hidden,
                Note,
            ]
        )
        {
            Main = "column",
        },
        new(
            NodeKind.Field,
            "field",
            "A field of the record.",
            [],
            [
                new("field", PropertyType.Key, PropertyGroup.Behaviour, "Field", "The field's key.")
                {
                    Required = true,
                    InVariants = false,
                },
                Label,
                new("help", PropertyType.Text, PropertyGroup.Words, "Help", "Stands under the field.") { Lines = true },
                new("hint", PropertyType.Text, PropertyGroup.Words, "Hint", "Shown inside the field while it is empty."),
                new(
                    "prefix",
                    PropertyType.Text,
                    PropertyGroup.Words,
                    "Prefix",
                    "Stands before the value, such as No. or a country's dialling code; it is no part of what is stored."
                ),
                new("lines", PropertyType.Number, PropertyGroup.Place, "Lines", "Height of a text in lines.")
                {
                    Min = 1,
                    Max = 40,
                    Unit = "lines",
                },
                .. Below(Labels).Where(rule => rule.Name != "tabOrder"),
                new(
                    "spellCheck",
                    PropertyType.Flag,
                    PropertyGroup.Behaviour,
                    "Spelling",
                    "Whether the browser checks the spelling of a text."
                ),
                new("editor", PropertyType.Word, PropertyGroup.Behaviour, "Editor", "How values are entered.") { Words = [.. Editors.All] },
                new("min", PropertyType.Decimal, PropertyGroup.Behaviour, "Smallest", "The smallest value that may be entered.")
                {
                    Min = int.MinValue,
                    InVariants = false,
                },
                new("max", PropertyType.Decimal, PropertyGroup.Behaviour, "Largest", "The largest value that may be entered.")
                {
                    Min = int.MinValue,
                    InVariants = false,
                },
                new(
                    "step",
                    PropertyType.Decimal,
                    PropertyGroup.Behaviour,
                    "Step",
                    "By how much a slider or the arrow keys change a number."
                ),
                new("maxLength", PropertyType.Number, PropertyGroup.Behaviour, "Longest", "Most characters a text may have.")
                {
                    Min = 1,
                    Unit = "characters",
                    InVariants = false,
                },
                new("pattern", PropertyType.Pattern, PropertyGroup.Behaviour, "Pattern", "What a text must match, whole (RE2 syntax).")
                {
                    InVariants = false,
                },
                new(
                    "passes",
                    PropertyType.Words,
                    PropertyGroup.Behaviour,
                    "Samples that must match",
                    "Texts kept with the pattern that it must take; checked again when the form is published."
                )
                {
                    InVariants = false,
                },
                new(
                    "fails",
                    PropertyType.Words,
                    PropertyGroup.Behaviour,
                    "Samples that must not match",
                    "Texts kept with the pattern that it must refuse; checked again when the form is published."
                )
                {
                    InVariants = false,
                },
                new(
                    "patternMessage",
                    PropertyType.Text,
                    PropertyGroup.Words,
                    "Message of the pattern",
                    "What a user is told whose text does not match."
                )
                {
                    InVariants = false,
                },
                new(
                    "required",
                    PropertyType.FlagOrCondition,
                    PropertyGroup.Behaviour,
                    "Required",
                    "Whether a value must be given, always or while a condition holds."
                )
                {
                    InVariants = false,
                },
                new(
                    "readOnly",
                    PropertyType.FlagOrCondition,
                    PropertyGroup.Behaviour,
                    "Read-only",
                    "Whether the value can only be read, always or while a condition holds."
                ),
                new("default", PropertyType.Text, PropertyGroup.Behaviour, "Starts with", "What a new record has here to begin with.")
                {
                    InVariants = false,
                },
                new(
                    "display",
                    PropertyType.Text,
                    PropertyGroup.Behaviour,
                    "Shown of the record",
                    "For references: a text composed from fields of the target, {code} on {pontoon}."
                ),
                new(
                    "filterBy",
                    PropertyType.Pairs,
                    PropertyGroup.Behaviour,
                    "Offers only where",
                    "For references: from a field of the target to the field of this record it must equal."
                )
                {
                    InVariants = false,
                },
                new(
                    "copies",
                    PropertyType.Pairs,
                    PropertyGroup.Behaviour,
                    "Copies",
                    "For references: from a field of this record to the field of the picked one whose value it takes."
                )
                {
                    InVariants = false,
                },
                new(
                    "creates",
                    PropertyType.Flag,
                    PropertyGroup.Behaviour,
                    "Makes new ones",
                    "For references: whether a missing record can be made without leaving the form."
                )
                {
                    Default = new Value.Flag(false),
                },
                new("emphasis", PropertyType.Flag, PropertyGroup.Words, "Emphasis", "Whether its value is set stronger than the others.")
                {
                    Default = new Value.Flag(false),
                },
                new("alsoIn", PropertyType.Words, PropertyGroup.Who, "Also in", "Other kinds of layout that are generated with it.")
                {
                    Words = ["card", "list", "filter", "short", "print"],
                    InVariants = false,
                },
                Style,
                .. Shown,
            ]
        )
        {
            Main = "field",
        },
        new(
            NodeKind.Heading,
            "heading",
            "A line that introduces what follows.",
            [],
            [new("heading", PropertyType.Text, PropertyGroup.Words, "Heading", "The words.") { Required = true }, Style, .. Shown]
        )
        {
            Main = "heading",
        },
        new(
            NodeKind.Text,
            "text",
            "A note to the form's users.",
            [],
            [
                new(
                    "text",
                    PropertyType.Text,
                    PropertyGroup.Words,
                    "Text",
                    "The words: paragraphs, lists, **strong**, *emphasis*, links; record values in braces."
                )
                {
                    Required = true,
                    Lines = true,
                },
                Style,
                .. Shown,
            ]
        )
        {
            Main = "text",
        },
        new(
            NodeKind.Divider,
            "divider",
            "A line across the cell.",
            [],
            [
                Choice("divider", PropertyGroup.Place, "Line", "How strong the line is.", "thin", "strong") with
                {
                    Required = true,
                    Default = null,
                },
                .. Shown,
            ]
        )
        {
            Main = "divider",
        },
        new(
            NodeKind.Spacer,
            "spacer",
            "Empty room.",
            [],
            [
                Choice("spacer", PropertyGroup.Place, "Room", "How much room.", "small", "medium", "large") with
                {
                    Required = true,
                    Default = null,
                },
                .. Shown,
            ]
        )
        {
            Main = "spacer",
        },
        new(
            NodeKind.Image,
            "image",
            "A fixed picture.",
            [],
            [
                new("image", PropertyType.Address, PropertyGroup.Words, "Picture", "Where it is: a stored file, or an address.")
                {
                    Required = true,
                },
                new("alt", PropertyType.Text, PropertyGroup.Words, "In words", "What the picture shows, for those who do not see it."),
                new("lines", PropertyType.Number, PropertyGroup.Place, "Lines", "Height in lines of text.")
                {
                    Min = 1,
                    Max = 40,
                    Unit = "lines",
                },
                .. Shown,
            ]
        )
        {
            Main = "image",
        },
        new(
            NodeKind.Link,
            "link",
            "A link to somewhere else.",
            [],
            [
                new("link", PropertyType.Address, PropertyGroup.Behaviour, "Address", "Where it leads, with record values in braces.")
                {
                    Required = true,
                    InVariants = false,
                },
                Label,
                .. Shown,
            ]
        )
        {
            Main = "link",
        },
        new(
            NodeKind.Action,
            "action",
            "Something a user can do.",
            [],
            [
                Choice(
                    "action",
                    PropertyGroup.Behaviour,
                    "Does",
                    "Opens an address, sets values, or begins a related record.",
                    "open",
                    "set",
                    "begin"
                ) with
                {
                    Required = true,
                    Default = null,
                    InVariants = false,
                },
                Label,
                Icon,
                new(
                    "address",
                    PropertyType.Address,
                    PropertyGroup.Behaviour,
                    "Address",
                    "For open: where it leads, with record values in braces."
                )
                {
                    InVariants = false,
                },
                new(
                    "values",
                    PropertyType.Pairs,
                    PropertyGroup.Behaviour,
                    "Values",
                    "For set and begin: from field to the expression whose value it gets."
                )
                {
                    InVariants = false,
                },
                new("begins", PropertyType.Key, PropertyGroup.Behaviour, "Begins", "For begin: the entity of the new record.")
                {
                    InVariants = false,
                },
                new("through", PropertyType.Key, PropertyGroup.Behaviour, "Through", "The reference of the other entity that points here.")
                {
                    InVariants = false,
                },
                Choice("side", PropertyGroup.Place, "Side", "On which side of a bar it stands.", "start", "end"),
                Choice("weight", PropertyGroup.Place, "Weight", "How much it calls for attention.", "normal", "main", "quiet"),
                .. Shown,
            ]
        )
        {
            Main = "action",
        },
        new(
            NodeKind.Related,
            "related",
            "Records of another entity that point at this one.",
            [],
            [
                new("related", PropertyType.Key, PropertyGroup.Behaviour, "Entity", "The entity of the related records.")
                {
                    Required = true,
                    InVariants = false,
                },
                new("through", PropertyType.Key, PropertyGroup.Behaviour, "Through", "The reference of the other entity that points here.")
                {
                    Required = true,
                    InVariants = false,
                },
                Label,
                new("shows", PropertyType.Words, PropertyGroup.Place, "Shows", "Fields of the related records, in order."),
                new("totals", PropertyType.Words, PropertyGroup.Place, "Totals", "Fields added up under the rows."),
                new(
                    "sort",
                    PropertyType.Words,
                    PropertyGroup.Behaviour,
                    "Sorted by",
                    "Fields, the first first; '-' before one sorts it downwards."
                ),
                new(
                    "order",
                    PropertyType.Key,
                    PropertyGroup.Behaviour,
                    "Order kept in",
                    "A whole number of the related records that keeps the order users give them; then rows can be moved."
                ),
                Choice("as", PropertyGroup.Place, "As", "A grid, or cards.", "grid", "cards"),
                new(
                    "readOnly",
                    PropertyType.FlagOrCondition,
                    PropertyGroup.Behaviour,
                    "Read-only",
                    "Whether the value can only be read, always or while a condition holds."
                ),
                .. Shown,
            ]
        )
        {
            Main = "related",
        },
        new(
            NodeKind.Panel,
            "panel",
            "Pages inside a cell.",
            [Pages],
            [
                Choice("panel", PropertyGroup.Behaviour, "Arrangement", "How the pages are shown.", Arrangements) with
                {
                    Required = true,
                    Default = null,
                },
                Guarded,
                .. Shown,
            ]
        )
        {
            Main = "panel",
        },
        new(
            NodeKind.Piece,
            "piece",
            "A piece used here; its later changes show here too.",
            [Changes],
            [
                new("piece", PropertyType.Key, PropertyGroup.Behaviour, "Piece", "The piece's key.")
                {
                    Required = true,
                    InVariants = false,
                },
                new("slots", PropertyType.Pairs, PropertyGroup.Behaviour, "Slots", "From slot to the field bound to it.")
                {
                    InVariants = false,
                },
                Label,
                .. Shown,
            ]
        )
        {
            Main = "piece",
        },
        new(
            NodeKind.Variant,
            "variant",
            "What is different in one range of widths.",
            [Changes],
            [
                new(
                    "variant",
                    PropertyType.Key,
                    PropertyGroup.Place,
                    "Width",
                    "A width of the application's scale, or a name of its own with a cut point."
                )
                {
                    Required = true,
                },
                new("below", PropertyType.Number, PropertyGroup.Place, "Below", "For a width of its own: the range ends here.")
                {
                    Min = 10,
                    Max = 400,
                    Unit = "rem",
                },
                Note,
            ]
        ),
        new(
            NodeKind.Change,
            "change",
            "One edit laid over what is below it.",
            [
                new(
                    "node",
                    ChildShape.One,
                    [
                        .. Items,
                        NodeKind.Page,
                        NodeKind.Section,
                        NodeKind.Row,
                        NodeKind.Cell,
                        NodeKind.Column,
                        NodeKind.Top,
                        NodeKind.Bottom,
                        NodeKind.Start,
                        NodeKind.End,
                    ]
                ),
            ],
            [
                Choice("op", PropertyGroup.Behaviour, "Edit", "Which edit.", "set", "move", "insert", "remove") with
                {
                    Required = true,
                    Default = null,
                },
                new("target", PropertyType.Target, PropertyGroup.Behaviour, "Node", "The node it concerns; none for an insert."),
                new("property", PropertyType.Key, PropertyGroup.Behaviour, "Property", "For set: which property."),
                new("value", PropertyType.Any, PropertyGroup.Behaviour, "Value", "For set: its value; none clears it."),
                new("parent", PropertyType.Target, PropertyGroup.Behaviour, "Into", "For insert and move: the node it goes into."),
                Choice(
                    "at",
                    PropertyGroup.Behaviour,
                    "Where",
                    "For insert and move: where among its siblings.",
                    "last",
                    "first",
                    "before",
                    "after"
                ),
                new("sibling", PropertyType.Target, PropertyGroup.Behaviour, "Sibling", "The node it goes before or after."),
                Note,
            ]
        ),
    ];
}

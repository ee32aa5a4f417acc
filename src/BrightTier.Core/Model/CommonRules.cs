using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>Properties and children that several kinds of nodes have.</summary>
internal static class CommonRules
{
    internal static readonly PropertyRule Note = new(
        "note",
        PropertyType.Text,
        PropertyGroup.Words,
        "Note",
        "A remark for whoever edits the layout; no user sees it."
    )
    {
        Lines = true,
    };

    internal static readonly PropertyRule Visible = new(
        "visible",
        PropertyType.Condition,
        PropertyGroup.Who,
        "Visible when",
        "Shown only while this condition holds."
    )
    {
        InVariants = false,
    };

    internal static readonly PropertyRule Hidden = new(
        "hidden",
        PropertyType.Flag,
        PropertyGroup.Who,
        "Never shown",
        "Kept in the layout, shown to nobody."
    )
    {
        Default = new Value.Flag(false),
    };

    internal static readonly PropertyRule InModes = new(
        "modes",
        PropertyType.Words,
        PropertyGroup.Who,
        "In modes",
        "Shown only in these modes; in all where none is named."
    )
    {
        Words = ["create", "edit", "view"],
        AllByDefault = true,
        InVariants = false,
    };

    internal static readonly ImmutableArray<PropertyRule> Shown = [Visible, Hidden, InModes, Note];

    internal static readonly PropertyRule Style = new(
        "style",
        PropertyType.Key,
        PropertyGroup.Place,
        "Style",
        "One of the application's named styles."
    );

    internal static readonly PropertyRule Icon = new(
        "icon",
        PropertyType.Key,
        PropertyGroup.Words,
        "Icon",
        "The name of a picture from the application's set."
    );

    internal static readonly PropertyRule Label = new(
        "label",
        PropertyType.Text,
        PropertyGroup.Words,
        "Label",
        "Instead of the entity's own label."
    );

    /// <summary>What a form settles for its sections, and they for their fields.</summary>
    internal static readonly ImmutableArray<PropertyRule> Labels =
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

    internal static readonly ImmutableArray<NodeKind> Items =
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

    internal static readonly ChildRule Pages = new("pages", ChildShape.Many, [NodeKind.Page]);

    internal static readonly ChildRule Sections = new("sections", ChildShape.Many, [NodeKind.Section]);

    internal static readonly ChildRule Changes = new("changes", ChildShape.Many, [NodeKind.Change]);

    internal static readonly ChildRule Variants = new("variants", ChildShape.Named, [NodeKind.Variant]);

    internal static readonly ChildRule BandItems = new("items", ChildShape.Many, [NodeKind.Action, NodeKind.Link, NodeKind.Image]);

    internal static readonly PropertyRule Guarded = new(
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

    internal static readonly string[] Arrangements = ["stack", "tabs", "steps", "accordion"];

    internal static PropertyRule Inherited(PropertyRule rule) => rule with { Inherits = true };

    internal static PropertyRule Title(string label, string about) => new("title", PropertyType.Text, PropertyGroup.Words, label, about);

    internal static PropertyRule Choice(string name, PropertyGroup group, string label, string about, params string[] words) =>
        new(name, PropertyType.Word, group, label, about) { Words = [.. words], Default = new Value.Word(words[0]) };

    /// <summary>A property that is inherited has its default at the root only: below, absence means "as around it".</summary>
    internal static ImmutableArray<PropertyRule> Below(ImmutableArray<PropertyRule> rules) =>
        [.. rules.Select(rule => rule with { Default = null })];

    internal static ChildRule One(NodeKind kind, string word) => new(word, ChildShape.One, [kind]);

    internal static ImmutableArray<PropertyRule> Band { get; } =
    [
        new("text", PropertyType.Text, PropertyGroup.Words, "Text", "Text with record values in braces: {name}, {registration}."),
        new("empty", PropertyType.Text, PropertyGroup.Words, "Text while empty", "Shown while the record has none of the values."),
        Icon,
        new("picture", PropertyType.Key, PropertyGroup.Words, "Picture", "The field whose image is shown."),
        Choice("tone", PropertyGroup.Place, "Tone", "How strongly the band stands out.", "plain", "quiet", "strong"),
        Note,
    ];

    internal static ImmutableArray<PropertyRule> Side { get; } =
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
}

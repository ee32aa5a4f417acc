using System.Collections.Frozen;
using System.Collections.Immutable;
using static BrightTier.Core.Model.CommonRules;

namespace BrightTier.Core.Model;

/// <summary>The rules of every kind of node. Properties that several kinds have are stated once, at the top.</summary>
internal static class GrammarRules
{
    /// <summary>What one sets first, by name: of each kind of node at most eight.</summary>
    internal static readonly FrozenSet<string> Often = FrozenSet.Create(
        StringComparer.Ordinal,
        "action",
        "address",
        "alt",
        "arrangement",
        "columns",
        "density",
        "description",
        "editor",
        "frame",
        "heading",
        "help",
        "image",
        "label",
        "link",
        "marks",
        "panel",
        "pattern",
        "readOnly",
        "related",
        "required",
        "shows",
        "slots",
        "sort",
        "span",
        "text",
        "through",
        "title",
        "types",
        "visible",
        "width"
    );

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
                new(
                    "archived",
                    PropertyType.Flag,
                    PropertyGroup.Behaviour,
                    "Archived",
                    "Put away: nobody gets it, and nothing may name it."
                )
                {
                    Default = new Value.Flag(false),
                    InVariants = false,
                },
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
        CommonRules.Style,
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
            CommonRules.Style
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
    [Roots[0], .. StructureRules.All, .. FieldRules.All, .. ItemRules.All, .. OverrideRules.All];
}

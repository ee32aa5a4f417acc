using System.Collections.Immutable;
using static BrightTier.Core.Model.CommonRules;

namespace BrightTier.Core.Model;

/// <summary>What is no field: words, lines, pictures, actions, related records, panels, pieces.</summary>
internal static class ItemRules
{
    internal static ImmutableArray<NodeRule> All { get; } =
    [
        new(
            NodeKind.Heading,
            "heading",
            "A line that introduces what follows.",
            [],
            [
                new("heading", PropertyType.Text, PropertyGroup.Words, "Heading", "The words.") { Required = true },
                CommonRules.Style,
                .. Shown,
            ]
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
                CommonRules.Style,
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
    ];
}

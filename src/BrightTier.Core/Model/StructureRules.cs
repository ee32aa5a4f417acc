using System.Collections.Immutable;
using static BrightTier.Core.Model.CommonRules;

namespace BrightTier.Core.Model;

/// <summary>What holds items: slots, bands, pages, sections, rows, cells, columns.</summary>
internal static class StructureRules
{
    internal static ImmutableArray<NodeRule> All { get; } =
    [
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
                CommonRules.Style,
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
    ];
}

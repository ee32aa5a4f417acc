using System.Collections.Immutable;
using static BrightTier.Core.Model.CommonRules;

namespace BrightTier.Core.Model;

/// <summary>What is laid over a form: the form at a width, and the edits it or a derived layout differs by.</summary>
internal static class OverrideRules
{
    internal static ImmutableArray<NodeRule> All { get; } =
    [
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

using System.Collections.Immutable;
using static BrightTier.Core.Model.CommonRules;

namespace BrightTier.Core.Model;

/// <summary>A field of the record, which has the most properties.</summary>
internal static class FieldRules
{
    /// <summary>The types of fields a property says anything of; of all where it is none of these.</summary>
    private static ImmutableArray<FieldType> TypesOf(string property) =>
        property switch
        {
            "lines" or "spellCheck" => [FieldType.Text, FieldType.LongText],
            "pattern" or "passes" or "fails" or "patternMessage" or "maxLength" =>
            [
                FieldType.Text,
                FieldType.LongText,
                FieldType.Email,
                FieldType.Phone,
                FieldType.Url,
            ],
            "hint" or "prefix" =>
            [
                FieldType.Text,
                FieldType.LongText,
                FieldType.Email,
                FieldType.Phone,
                FieldType.Url,
                FieldType.Integer,
                FieldType.Decimal,
                FieldType.Money,
            ],
            "min" or "max" or "step" => [FieldType.Integer, FieldType.Decimal, FieldType.Money],
            "display" or "filterBy" or "copies" or "creates" => [FieldType.Reference],
            _ => [],
        };

    private static readonly ImmutableArray<PropertyRule> Own =
    [
        new("field", PropertyType.Key, PropertyGroup.Behaviour, "Field", "The field's key.") { Required = true, InVariants = false },
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
        new("spellCheck", PropertyType.Flag, PropertyGroup.Behaviour, "Spelling", "Whether the browser checks the spelling of a text."),
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
        new("step", PropertyType.Decimal, PropertyGroup.Behaviour, "Step", "By how much a slider or the arrow keys change a number."),
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
            PropertyType.Samples,
            PropertyGroup.Behaviour,
            "Samples that must match",
            "Texts kept with the pattern that it must take; checked again when the form is published."
        )
        {
            InVariants = false,
        },
        new(
            "fails",
            PropertyType.Samples,
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
        CommonRules.Style,
    ];

    internal static ImmutableArray<NodeRule> All { get; } =
    [
        new(
            NodeKind.Field,
            "field",
            "A field of the record.",
            [],
            [.. Own.Select(rule => rule with { Types = TypesOf(rule.Name) }), .. Shown]
        )
        {
            Main = "field",
        },
    ];
}

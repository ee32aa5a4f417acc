using System.Collections.Immutable;
using BrightTier.Core.Checks.Rules;
using BrightTier.Core.Entities;
using BrightTier.Core.Layouts;

namespace BrightTier.Core.Checks;

/// <summary>Runs every rule over a layout.</summary>
public static class Checker
{
    public static ImmutableArray<IRule> Rules { get; } =
    [
        new FieldUnknown(), new FieldRetired(), new FieldTwice(), new FieldUnreadable(), new RequiredFieldMissing(), new RequirementLoosened(),
        new ReadOnlyWithoutValue(), new ConditionInvalid(), new ConditionConstant(), new HidingCycle(), new SpansOverflow(), new RowEmpty(),
        new RowCrowded(), new TitlePlaceholder(), new LabelTwice(), new EditorUnsuited(), new TextUnknownField(),
    ];

    /// <summary>All findings, gravest first, then in reading order. An entity that does not exist is the one finding of <c>entity-unknown</c>.</summary>
    public static IReadOnlyList<Finding> Check(Layout layout, Definitions definitions)
    {
        if (!definitions.Entities.TryGetValue(layout.Entity, out var entity))
        {
            return
            [
                new Finding("entity-unknown", Severity.Error, layout.Root.Id, "entity",
                    Suggestion.Sentence($"There is no entity '{layout.Entity}'{Suggestion.For(layout.Entity, [.. definitions.Entities.Keys])}")),
            ];
        }

        var subject = new Subject(layout, entity, definitions);
        var order = subject.Nodes.Select((node, index) => (node.Id, index)).ToDictionary(pair => pair.Id, pair => pair.index);
        return [.. Rules.SelectMany(rule => rule.Check(subject)).OrderByDescending(finding => finding.Severity).ThenBy(finding => order[finding.Node])];
    }
}

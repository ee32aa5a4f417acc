using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Validation.Rules;

namespace BrightTier.Core.Validation;

/// <summary>Runs every rule over a layout, and over the documents layouts rest on.</summary>
public static class Checker
{
    public static ImmutableArray<IRule> Rules { get; } =
    [
        new FieldUnknown(),
        new FieldRetired(),
        new FieldTwice(),
        new FieldUnreadable(),
        new FieldForNobody(),
        new RequiredFieldMissing(),
        new RequiredUnreachable(),
        new RequirementLoosened(),
        new ConstraintLoosened(),
        new ConstraintEmpty(),
        new DefaultInvalid(),
        new ReadOnlyWithoutValue(),
        new ConditionInvalid(),
        new ConditionConstant(),
        new ConditionMayErr(),
        new ItemUnreachable(),
        new ChoiceRetired(),
        new HidingCycle(),
        new ConditionUnanswered(),
        new ConditionLater(),
        new CompositionProblems(),
        new VariantForbidden(),
        new SpansOverflow(),
        new RowEmpty(),
        new RowCrowded(),
        new FieldNarrow(),
        new RowUnbalanced(),
        new NumberWide(),
        new PageEmpty(),
        new TabAlone(),
        new TabsMany(),
        new RequiredFolded(),
        new NestingDeep(),
        new TitlePlaceholder(),
        new TitleTwice(),
        new LabelTwice(),
        new LabelCut(),
        new NameMissing(),
        new TextUntranslated(),
        new TextUnknownField(),
        new TextTooWide(),
        new FormTooLong(),
        new ReadingOrder(),
        new EditorUnsuited(),
        new SliderUnbounded(),
        new StepLarge(),
        new LinkVague(),
        new ActionIncomplete(),
        new RelatedUnknown(),
        new ReferenceUnknown(),
        new ReferenceUnlike(),
        new StyleUnknown(),
        new ContrastLow(),
        new IconUnknown(),
        new PatternSample(),
    ];

    public static ImmutableArray<IDocumentRule> DocumentRules { get; } =
    [
        new DefinitionMissing(),
        new SampleWrong(),
        new RoutingUnknown(),
        new RoutingShadowed(),
        new RoutingUnreadable(),
        new NavigationUnknown(),
        new TemplateUnknown(),
    ];

    /// <summary>
    /// All findings, gravest first, then in reading order. An entity that does not exist is the one finding of <c>entity-unknown</c>.
    /// </summary>
    public static IReadOnlyList<Finding> Check(Layout layout, Catalogue catalogue)
    {
        var findings = Found(layout, catalogue);
        if (layout.Extends is { } key && catalogue.Layouts.GetValueOrDefault(key) is { } parent && parent.Key != layout.Key)
        {
            // What is wrong with the parent is said, and mended, there.
            var known = Found(parent, catalogue).Select(finding => (finding.Code, finding.Node, finding.Message)).ToHashSet();
            findings = [.. findings.Where(finding => !known.Contains((finding.Code, finding.Node, finding.Message)))];
        }

        var order = layout.Walk().Select((node, index) => (node.Id, index)).ToDictionary(pair => pair.Id, pair => pair.index);
        return
        [
            .. findings
                .Select(finding => At(finding, layout))
                .Distinct()
                .OrderByDescending(finding => finding.Severity)
                .ThenBy(finding => order[finding.Node]),
        ];
    }

    /// <summary>The same, kept for as long as the layout lives and what it rests on is what it was.</summary>
    public static IReadOnlyList<Finding> Known(Layout layout, Catalogue catalogue)
    {
        if (Kept.TryGetValue(layout, out var known) && known.Holds(layout, catalogue))
        {
            if (!ReferenceEquals(known.Definitions, catalogue.Definitions))
            {
                Kept.AddOrUpdate(layout, known with { Definitions = catalogue.Definitions });
            }

            return known.Findings;
        }

        var found = Check(layout, catalogue);
        if (Reached(layout, catalogue) is { } reached)
        {
            Kept.AddOrUpdate(layout, new KnownFindings(catalogue.Definitions, reached, found));
        }

        return found;
    }

    private static readonly ConditionalWeakTable<Layout, KnownFindings> Kept = [];

    private sealed record KnownFindings(Definitions Definitions, IReadOnlyList<Layout> Reached, IReadOnlyList<Finding> Findings)
    {
        public bool Holds(Layout layout, Catalogue catalogue) =>
            Reached.All(each => ReferenceEquals(catalogue.Layouts.GetValueOrDefault(each.Key), each))
            && (
                ReferenceEquals(catalogue.Definitions, Definitions)
                || !AffectedLayouts.RestsOn(Reached.Prepend(layout), AffectedLayouts.ChangedDefinitions(Definitions, catalogue.Definitions))
            );
    }

    /// <summary>The layouts and pieces one is made of, near and far; null where one of them is not there.</summary>
    private static List<Layout>? Reached(Layout layout, Catalogue catalogue)
    {
        var reached = new List<Layout>();
        var seen = new HashSet<string>(StringComparer.Ordinal);
        var waiting = new Queue<Layout>([layout]);
        while (waiting.TryDequeue(out var at))
        {
            foreach (var (kind, key) in DocumentDependencies.OfLayout(at))
            {
                if (kind is not DocumentKind.Layout || !seen.Add(key))
                {
                    continue;
                }

                if (catalogue.Layouts.GetValueOrDefault(key) is not { } named)
                {
                    return null;
                }

                reached.Add(named);
                waiting.Enqueue(named);
            }
        }

        return reached;
    }

    private static List<Finding> Found(Layout layout, Catalogue catalogue)
    {
        var entities = catalogue.Definitions.Entities;
        var entity = catalogue.EntityOf(layout);
        if (entity is null)
        {
            return
            [
                new Finding(
                    "entity-unknown",
                    Severity.Error,
                    layout.Root.Id,
                    "entity",
                    Suggestion.Sentence($"There is no entity '{layout.Entity}'{Suggestion.For(layout.Entity, [.. entities.Keys])}")
                ),
            ];
        }

        var subject = new CheckContext(LayoutComposer.Assemble(layout, catalogue), entity, catalogue);
        return [.. Rules.SelectMany(rule => rule.Check(subject))];
    }

    /// <summary>
    /// A finding at a node the layout itself has: inside a piece it is the use, in what is extended the layout. Fixes of others' nodes go.
    /// </summary>
    private static Finding At(Finding finding, Layout layout)
    {
        var node = finding.Node;
        if (!layout.Contains(node))
        {
            var use = new NodeId(node.Name.Split('/')[0]);
            node = layout.Contains(use) ? use : layout.Root.Id;
        }

        var foreign =
            finding.Fix?.Edits.Any(edit =>
                edit switch
                {
                    Edit.Set set => !layout.Contains(set.Node),
                    Edit.Remove remove => !layout.Contains(remove.Node),
                    Edit.Move move => !layout.Contains(move.Node) || !layout.Contains(move.Parent),
                    Edit.Insert insert => !layout.Contains(insert.Parent),
                    _ => true,
                }
            ) == true;
        return node == finding.Node && !foreign
            ? finding
            : finding with
            {
                Node = node,
                Property = node == finding.Node ? finding.Property : null,
                Fix = null,
            };
    }

    /// <summary>Findings in documents that are no layouts.</summary>
    public static IReadOnlyList<DocumentFinding> CheckDocuments(Catalogue catalogue) =>
        [
            .. DocumentRules
                .SelectMany(rule => rule.Check(catalogue))
                .OrderByDescending(finding => finding.Severity)
                .ThenBy(finding => finding.Kind)
                .ThenBy(finding => finding.Key, StringComparer.Ordinal),
        ];
}

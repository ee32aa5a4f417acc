using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Composition;

// What conditions and other expressions read.
public static partial class Impact
{
    /// <summary>The fields an expression reads, and whose they are: of the record itself, and one step through a reference.</summary>
    private static IEnumerable<(string Entity, Field Field)> FieldsRead(Expression expression, Entity entity, Catalogue catalogue)
    {
        foreach (var read in expression.Reads())
        {
            var own = Expression.Own(read);
            if (entity.Find(own) is not { } field)
            {
                continue;
            }

            yield return (entity.Key, field);
            if (
                own != read
                && field.Target is { } target
                && catalogue.Definitions.Entities.GetValueOrDefault(target)?.Find(read[(own.Length + 1)..]) is { } other
            )
            {
                yield return (target, other);
            }
        }
    }

    private static bool Mentions(Expression expression, string word) =>
        expression.Walk().Any(part => part is Expression.Literal { Value: string said } && said == word);

    /// <summary>
    /// Every expression there is that may hold a word, with its entity and the use it would be, given what it does.
    /// </summary>
    private static IEnumerable<(Expression Expression, Entity Entity, Func<string, Use> Use)> Expressions(Catalogue catalogue, string word)
    {
        var definitions = catalogue.Definitions;
        foreach (var layout in catalogue.Layouts.Values)
        {
            if (definitions.Entities.GetValueOrDefault(layout.Entity) is not { } entity || !layout.MayName(word))
            {
                continue;
            }

            foreach (var node in layout.Walk())
            {
                foreach (var (property, text, isCondition) in Grammar.Expressions(node))
                {
                    if (
                        (
                            isCondition ? Condition.Compile(text, entity, definitions) : Condition.CompileValue(text, entity, definitions)
                        ).Expression is
                        { } expression
                    )
                    {
                        yield return (expression, entity, does =>
                            InLayout(
                                layout.Key,
                                node.Id,
                                property,
                                $"The {(isCondition ? "condition" : "expression")} '{property}' of '{node.Id}' in '{layout.Key}' {does}."
                            )
                        );
                    }
                }
            }
        }

        foreach (var (rule, i) in catalogue.Routing.Rules.Select((rule, i) => (rule, i)))
        {
            if (
                rule.When is { } when
                && definitions.Entities.GetValueOrDefault(rule.Entity) is { } entity
                && Condition.Compile(when, entity, definitions).Expression is { } expression
            )
            {
                yield return (expression, entity, does => new Use(
                    DocumentKind.Routing,
                    "routing",
                    $"/rules/{i}/when",
                    "condition",
                    $"The condition of routing rule {i + 1} {does}."
                ));
            }
        }
    }
}

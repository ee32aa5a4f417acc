using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>
/// A routing rule that an earlier one always comes before; or two that fit the same person and record, so that only their order decides.
/// </summary>
public sealed class RoutingShadowed : IDocumentRule
{
    public string Code => "routing-shadowed";

    public string About =>
        "An earlier routing rule takes every person and record of a later one, which is never used; or two rules fit the "
        + "same, so that their order decides (advice, with evidence).";

    public IEnumerable<DocumentFinding> Check(Catalogue catalogue)
    {
        var rules = catalogue.Routing.Rules;
        for (var i = 0; i < rules.Length; i++)
        {
            if (
                catalogue.Definitions.Entities.GetValueOrDefault(rules[i].Entity) is not { } entity
                || When(rules[i], entity, catalogue.Definitions) is not { } later
            )
            {
                continue;
            }

            for (var j = 0; j < i; j++)
            {
                if (
                    rules[j].Entity != rules[i].Entity
                    || rules[j].Kind != rules[i].Kind
                    || rules[j].Layout == rules[i].Layout
                    || When(rules[j], entity, catalogue.Definitions) is not { } earlier
                )
                {
                    continue;
                }

                var apart = Analysis.Can(Outcome.Holds, CheckContext.And(later, CheckContext.Not(earlier)), entity, catalogue.Definitions);
                if (apart.Verdict is Verdict.No)
                {
                    yield return new DocumentFinding(
                        Code,
                        Severity.Warning,
                        DocumentKind.Routing,
                        "routing",
                        $"/rules/{i}",
                        $"This rule is never used: rule {j + 1} fits wherever it does and comes first."
                    );
                    break;
                }

                // A rule for everybody behind special ones is how routing is written; two special ones that meet may be an oversight.
                if (
                    (rules[i].When is not null || !rules[i].Roles.IsEmpty)
                    && Analysis.Together(earlier, later, entity, catalogue.Definitions) is { Verdict: Verdict.Yes } both
                )
                {
                    yield return new DocumentFinding(
                        Code,
                        Severity.Advice,
                        DocumentKind.Routing,
                        "routing",
                        $"/rules/{i}",
                        $"Rules {j + 1} and {i + 1} both fit some people and records; rule {j + 1} has its way."
                    )
                    {
                        Evidence = both.Witness!.Describe(entity),
                    };
                }
            }
        }
    }

    /// <summary>The rule as one condition on roles and record.</summary>
    private static Expression? When(RoutingRule rule, Entity entity, Definitions definitions)
    {
        Expression roles = new Expression.Literal(true, default);
        if (!rule.Roles.IsEmpty)
        {
            roles = rule
                .Roles.Select(role =>
                    (Expression)
                        new Expression.Binary(
                            "in",
                            new Expression.Literal(role, default),
                            new Expression.Select(new Expression.Name("user", default), "roles", default, default),
                            default,
                            default
                        )
                )
                .Aggregate(CheckContext.Or);
        }

        return rule.When is not { } when ? roles
            : Condition.Compile(when, entity, definitions).Expression is { } condition ? CheckContext.And(roles, condition)
            : null;
    }
}

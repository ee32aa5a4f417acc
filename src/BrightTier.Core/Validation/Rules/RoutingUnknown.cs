using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A routing rule that names what is not there, or whose condition is wrong.</summary>
public sealed class RoutingUnknown : IDocumentRule
{
    public string Code => "routing-unknown";

    public string About =>
        "A routing rule names an entity, layout or role that is not there, a layout of another entity or kind, or has an "
        + "ill-formed condition.";

    public IEnumerable<DocumentFinding> Check(Catalogue catalogue)
    {
        var definitions = catalogue.Definitions;
        var roles = definitions.Application.Roles.Select(role => role.Key).ToArray();
        for (var i = 0; i < catalogue.Routing.Rules.Length; i++)
        {
            var rule = catalogue.Routing.Rules[i];
            if (definitions.Entities.GetValueOrDefault(rule.Entity) is not { } entity)
            {
                yield return At(
                    i,
                    "entity",
                    $"There is no entity '{rule.Entity}'{Suggestion.For(rule.Entity, [.. definitions.Entities.Keys])}"
                );
                continue;
            }

            if (
                catalogue.Layouts.GetValueOrDefault(rule.Layout) is not { } layout
                || layout.Kind != rule.Kind
                || layout.Entity != rule.Entity
            )
            {
                var suggestion = catalogue.Suggest(rule.Layout, catalogue.For(rule.Entity, rule.Kind).Select(each => each.Key));
                yield return At(i, "layout", $"There is no {rule.Kind} layout '{rule.Layout}' of '{entity.Label}'{suggestion}");
            }

            foreach (var role in rule.Roles.Where(role => !roles.Contains(role)))
            {
                yield return At(i, "roles", $"There is no role '{role}'{Suggestion.For(role, roles)}");
            }

            foreach (var problem in rule.When is { } when ? Condition.Compile(when, entity, definitions).Problems : [])
            {
                yield return At(i, "when", $"At character {problem.At.Start + 1} of the condition: {problem.Message}");
            }
        }
    }

    private DocumentFinding At(int rule, string property, Message message) =>
        new(Code, Severity.Error, DocumentKind.Routing, "routing", $"/rules/{rule}/{property}", Suggestion.Sentence(message));
}

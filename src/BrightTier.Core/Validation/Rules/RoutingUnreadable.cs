using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>
/// A routing rule decides by a field that somebody it is for may not read: which form she gets would tell its value, so that for her it
/// counts as empty.
/// </summary>
public sealed class RoutingUnreadable : IDocumentRule
{
    public string Code => "routing-unreadable";

    public string About =>
        "A routing rule decides by a field that some role it is for may not read. For that role the field counts as empty, so "
        + "that the form gives nothing away.";

    public IEnumerable<DocumentFinding> Check(Catalogue catalogue)
    {
        var definitions = catalogue.Definitions;
        foreach (var (i, rule) in catalogue.Routing.Rules.Index())
        {
            if (rule.When is not { } when || definitions.Entities.GetValueOrDefault(rule.Entity) is not { } entity)
            {
                continue;
            }

            var roles = definitions
                .Application.Roles.Where(role =>
                    role.May.Contains(Permissions.ReadRecords) && (rule.Roles.IsEmpty || rule.Roles.Contains(role.Key))
                )
                .ToArray();
            foreach (var read in Condition.Compile(when, entity, definitions).Expression?.Reads() ?? [])
            {
                if (roles.FirstOrDefault(role => !entity.MayRead(read, definitions, [role.Key])) is { } role)
                {
                    yield return new DocumentFinding(
                        Code,
                        Severity.Error,
                        DocumentKind.Routing,
                        "routing",
                        $"/rules/{i}/when",
                        $"This rule decides by '{read}', which a {role.Label.ToString().ToLowerInvariant()} may not read; "
                            + $"which form is shown would give it away."
                    );
                }
            }
        }
    }
}

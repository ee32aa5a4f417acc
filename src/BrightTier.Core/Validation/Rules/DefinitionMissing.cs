using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A field that names an entity, choice list, pattern or role that is not there.</summary>
public sealed class DefinitionMissing : IDocumentRule
{
    public string Code => "definition-missing";

    public string About => "A field names an entity, choice list, pattern or role that is not there.";

    public IEnumerable<DocumentFinding> Check(Catalogue catalogue)
    {
        var definitions = catalogue.Definitions;
        var roles = definitions.Application.Roles.Select(role => role.Key).ToArray();
        // What a retired field points at may be archived.
        var stored = definitions.Stored.Select(each => each.Key).ToArray();
        foreach (var entity in definitions.Entities.Values)
        {
            for (var i = 0; i < entity.Fields.Length; i++)
            {
                var field = entity.Fields[i];
                foreach (
                    var (property, key, there) in new (string, string?, IReadOnlyCollection<string>)[]
                    {
                        ("target", field.Target, field.Retired ? stored : [.. definitions.Entities.Keys]),
                        ("choices", field.ChoiceList, [.. definitions.ChoiceLists.Keys]),
                        ("uses", field.Uses, [.. definitions.Patterns.Keys]),
                    }
                )
                {
                    if (key is not null && !there.Contains(key))
                    {
                        yield return new DocumentFinding(
                            Code,
                            Severity.Error,
                            DocumentKind.Entity,
                            entity.Key,
                            $"/fields/{i}/{property}",
                            Suggestion.Sentence($"'{field.Key}' names '{key}', which is not there{Suggestion.For(key, there)}")
                        );
                    }
                }

                foreach (
                    var (property, role) in (field.Read ?? [])
                        .Select(role => ("read", role))
                        .Concat((field.Write ?? []).Select(role => ("write", role)))
                )
                {
                    if (roles.Length > 0 && !roles.Contains(role))
                    {
                        yield return new DocumentFinding(
                            Code,
                            Severity.Error,
                            DocumentKind.Entity,
                            entity.Key,
                            $"/fields/{i}/{property}",
                            Suggestion.Sentence($"'{field.Key}' names the role '{role}', which is not there{Suggestion.For(role, roles)}")
                        );
                    }
                }
            }
        }
    }
}

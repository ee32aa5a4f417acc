using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A layout that calls optional what the entity requires: the entity's rule holds all the same.</summary>
public sealed class RequirementLoosened : IRule
{
    public string Code => "requirement-loosened";

    public string About => "A layout calls optional what the entity requires; the entity has its way.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Fields
        where subject.FieldOf(node) is { Required: true } && node["required"] is { } value && value != new Value.Flag(true)
        select new Finding(
            Code,
            Severity.Warning,
            node.Id,
            "required",
            $"'{subject.NameOf(node)}' is required by the {subject.Entity.Label.ToString().ToLowerInvariant()} itself; a "
                + $"layout cannot make it optional.",
            new Fix($"Remove this setting", [new Edit.Set(node.Id, "required", null)])
        );
}

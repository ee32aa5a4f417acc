using BrightTier.Core.Edits;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A layout that allows more than the entity does: the entity's limit holds all the same.</summary>
public sealed class ConstraintLoosened : IRule
{
    public string Code => "constraint-loosened";

    public string About => "A layout states a limit wider than the entity's own, which holds all the same.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        foreach (var node in subject.Fields)
        {
            if (subject.FieldOf(node) is not { } field)
            {
                continue;
            }

            foreach (
                var (property, wider) in new[]
                {
                    ("min", node.Amount("min") < field.Min),
                    ("max", node.Amount("max") > field.Max),
                    ("maxLength", node.Number("maxLength") > field.MaxLength),
                }
            )
            {
                if (wider)
                {
                    yield return new Finding(
                        Code,
                        Severity.Error,
                        node.Id,
                        property,
                        $"'{subject.NameOf(node)}' is limited more tightly by the "
                            + $"{subject.Entity.Label.ToString().ToLowerInvariant()} itself; this limit changes nothing.",
                        new Fix($"Remove this setting", [new Edit.Set(node.Id, property, null)])
                    );
                }
            }
        }
    }
}

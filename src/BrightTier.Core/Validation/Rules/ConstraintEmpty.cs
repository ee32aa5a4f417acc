namespace BrightTier.Core.Validation.Rules;

/// <summary>Limits that no value keeps.</summary>
public sealed class ConstraintEmpty : IRule
{
    public string Code => "constraint-empty";

    public string About => "A layout's limits contradict each other, or the entity's: no value keeps them, so nothing could be saved.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Fields
        where subject.FieldOf(node) is not null && (node.Amount("min") is not null || node.Amount("max") is not null)
        let range = StepLarge.RangeOf(node, subject.FieldOf(node)!)
        where range.Least > range.Most
        select new Finding(
            Code,
            Severity.Error,
            node.Id,
            node.Amount("min") is null ? "max" : "min",
            $"'{subject.NameOf(node)}' must be at least {range.Least} and at most {range.Most}; no value is both."
        );
}

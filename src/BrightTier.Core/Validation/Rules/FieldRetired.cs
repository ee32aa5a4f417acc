namespace BrightTier.Core.Validation.Rules;

/// <summary>A placed field that has been retired.</summary>
public sealed class FieldRetired : IRule
{
    public string Code => "field-retired";

    public string About => "A placed field has been retired; its values stay, but new ones should go elsewhere.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Fields
        where subject.FieldOf(node) is { Retired: true }
        select new Finding(
            Code,
            Severity.Warning,
            node.Id,
            "field",
            $"'{subject.NameOf(node)}' is retired; new values should go elsewhere."
        );
}

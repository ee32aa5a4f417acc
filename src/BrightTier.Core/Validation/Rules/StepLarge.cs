using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A step that is larger than what lies between the smallest and the largest value.</summary>
public sealed class StepLarge : IRule
{
    public string Code => "step-large";

    public string About => "A number's step is larger than the range it moves in, so that no step can be made.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Fields
        where subject.FieldOf(node) is not null && node.Amount("step") is not null
        let range = RangeOf(node, subject.FieldOf(node)!)
        where node.Amount("step") > range.Most - range.Least
        select new Finding(
            Code,
            Severity.Advice,
            node.Id,
            "step",
            $"The step of '{subject.NameOf(node)}' is {node.Amount("step")}; from {range.Least} to {range.Most} there is no room for one.",
            new Fix($"Remove this setting", [new Edit.Set(node.Id, "step", null)])
        );

    /// <summary>The ends of what may be entered: the narrower of the layout's and the entity's.</summary>
    internal static (decimal? Least, decimal? Most) RangeOf(Node node, Field field)
    {
        var (least, most) = field.Type is FieldType.Rating ? (field.Min ?? 1, field.Max ?? 5) : (field.Min, field.Max);
        return (Larger(node.Amount("min"), least), -Larger(-node.Amount("max"), -most));
    }

    private static decimal? Larger(decimal? one, decimal? other) =>
        one is null ? other
        : other is null ? one
        : Math.Max(one.Value, other.Value);
}

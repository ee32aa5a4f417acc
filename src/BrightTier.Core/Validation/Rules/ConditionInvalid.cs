using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A condition that does not parse or whose types do not fit.</summary>
public sealed class ConditionInvalid : IRule
{
    public string Code => "condition-invalid";

    public string About => "A condition is ill-formed, ill-typed, or names something that does not exist.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from condition in subject.Conditions
        from problem in condition.Problems
        select new Finding(
            Code,
            Severity.Error,
            condition.Node.Id,
            condition.Property,
            $"At character {problem.At.Start + 1} of the condition on '{subject.NameOf(condition.Node)}': {problem.Message}.",
            problem.Mended(condition.Text) is { } mended
                ? new Fix($"Write {problem.Right}", [new Edit.Set(condition.Node.Id, condition.Property, new Value.Word(mended))])
                : null
        );
}

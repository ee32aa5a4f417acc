using BrightTier.Core.Conditions;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A condition that ends in an error where a value is empty; then visible and required do not hold, and read-only does.</summary>
public sealed class ConditionMayErr : IRule
{
    public string Code => "condition-may-err";

    public string About =>
        "A condition comes to no answer where a value is empty. It is closed then: not visible, not required, read-only. "
        + "Guard it with has(…) or != null.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from condition in subject.Conditions
        where condition.Expression is not null
        let answer = condition.Can(Outcome.Errs, subject)
        where answer.Verdict is Verdict.Yes
        let name = subject.NameOf(condition.Node)
        select new Finding(
            Code,
            Severity.Advice,
            condition.Node.Id,
            condition.Property,
            condition.Property == "readOnly"
                ? (Message)$"The condition on '{name}' comes to no answer when a value is empty; it then counts as holding."
                : $"The condition on '{name}' comes to no answer when a value is empty; it then counts as not holding."
        )
        {
            Evidence = answer.Witness!.Describe(subject.Entity),
        };
}

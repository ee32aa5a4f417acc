using BrightTier.Core.Conditions;
using BrightTier.Core.Edits;

namespace BrightTier.Core.Checks.Rules;

/// <summary>A condition that comes out the same whatever the record, mode or viewer.</summary>
public sealed class ConditionConstant : IRule
{
    public string Code => "condition-constant";

    public IEnumerable<Finding> Check(Subject subject) =>
        from condition in subject.Conditions
        where condition.Expression is not null
        let outcome = Reducer.Reduce(condition.Expression!, Reducer.Nothing) as Expression.Literal
        let always = outcome?.Value as bool?
        where always is not null
        select new Finding(Code, Severity.Warning, condition.Node.Id, condition.Property,
            $"The condition on '{subject.NameOf(condition.Node)}' is {(always.Value ? "always" : "never")} true.",
            always.Value && condition.Property == "visible" ? new Fix("Take the condition away", [new Edit.Set(condition.Node.Id, condition.Property, null)]) : null);
}

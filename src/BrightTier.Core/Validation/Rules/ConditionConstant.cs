using BrightTier.Core.Conditions;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A condition that is the same for every record: it hides what nobody will see, or says nothing.</summary>
public sealed class ConditionConstant : IRule
{
    public string Code => "condition-constant";

    public string About => "A condition holds for every record there can be, or for none.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        foreach (var condition in subject.Conditions)
        {
            if (condition.Expression is null)
            {
                continue;
            }

            var name = subject.NameOf(condition.Node);
            if (condition.Can(Outcome.Holds, subject).Verdict is Verdict.No)
            {
                yield return new Finding(
                    Code,
                    Severity.Warning,
                    condition.Node.Id,
                    condition.Property,
                    condition.Property == "visible"
                        ? (Message)$"The condition on '{name}' can never hold; it is never shown."
                        : $"The condition on '{name}' can never hold; it is never {Words(condition.Property)}.",
                    Settable(condition)
                        ? new Fix($"Remove the condition", [new Edit.Set(condition.Node.Id, condition.Property, null)])
                        : null
                );
            }
            else if (
                condition.Can(Outcome.DoesNotHold, subject).Verdict is Verdict.No
                && condition.Can(Outcome.Errs, subject).Verdict is Verdict.No
            )
            {
                yield return new Finding(
                    Code,
                    Severity.Warning,
                    condition.Node.Id,
                    condition.Property,
                    $"The condition on '{name}' holds for every record; it changes nothing.",
                    new Fix(
                        condition.Property == "visible" ? (Message)$"Remove the condition" : $"Set to 'true'",
                        [
                            new Edit.Set(
                                condition.Node.Id,
                                condition.Property,
                                condition.Property is "visible" or "filter" ? null : new Value.Flag(true)
                            ),
                        ]
                    )
                );
            }
        }
    }

    private static bool Settable(PlacedCondition condition) => condition.Property is not "visible";

    private static Message Words(string property) => property == "readOnly" ? (Message)$"read-only" : Message.Verbatim(property);
}

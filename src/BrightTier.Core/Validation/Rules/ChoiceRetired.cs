using BrightTier.Core.Conditions;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A condition that asks for a choice no new record can have.</summary>
public sealed class ChoiceRetired : IRule
{
    public string Code => "choice-retired";

    public string About => "A condition asks for a choice that has been retired; only old records have it.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        var retired = subject.Definitions.ChoiceLists.Values.SelectMany(list => list.Choices).Where(choice => choice.Retired).ToList();
        foreach (var condition in subject.Conditions)
        {
            if (retired.Count == 0 || condition.Expression is null)
            {
                continue;
            }

            var words = condition
                .Expression?.Walk()
                .OfType<Expression.Literal>()
                .Select(literal => literal.Value)
                .OfType<string>()
                .ToHashSet()
                ?? [];
            foreach (var key in condition.Expression?.FieldsRead() ?? [])
            {
                if (
                    subject.Entity.Find(key) is { ChoiceList: { } list } field
                    && subject
                        .Definitions.ChoiceLists.GetValueOrDefault(list)
                        ?.Choices.FirstOrDefault(choice => choice.Retired && words.Contains(choice.Key))
                        is { } gone
                )
                {
                    yield return new Finding(
                        Code,
                        Severity.Warning,
                        condition.Node.Id,
                        condition.Property,
                        $"The condition on '{subject.NameOf(condition.Node)}' asks for '{gone.Label}' of '{field.Label}', "
                            + $"which is retired; no new record has it."
                    );
                }
            }
        }
    }
}

namespace BrightTier.Core.Validation.Rules;

/// <summary>A required field that appears by a field that is not on the form.</summary>
public sealed class ConditionUnanswered : IRule
{
    public string Code => "condition-unanswered";

    public string About =>
        "A required field is shown by a condition on a field that is not on the form; whoever fills in the form cannot bring it about.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        if (subject.Layout.Kind is not ("full" or "short"))
        {
            yield break;
        }

        var placed = subject.Fields.Select(node => node.Word("field")!).ToHashSet(StringComparer.Ordinal);
        foreach (var node in subject.Fields)
        {
            if (node["required"] is null && subject.FieldOf(node) is not { Required: true, Default: null })
            {
                continue;
            }

            foreach (
                var absent in subject
                    .Path(node)
                    .SelectMany(around => subject.ConditionOn(around, "visible")?.Expression?.FieldsRead() ?? [])
                    .Distinct(StringComparer.Ordinal)
                    .Where(field => !placed.Contains(field))
            )
            {
                yield return new Finding(
                    Code,
                    Severity.Warning,
                    node.Id,
                    "visible",
                    $"'{subject.NameOf(node)}' must be filled in and is shown by "
                        + $"'{subject.Entity.Find(absent)?.Label}', which is not on the form."
                );
            }
        }
    }
}

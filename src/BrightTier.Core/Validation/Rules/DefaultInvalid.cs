using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A value to start with that the field does not take.</summary>
public sealed class DefaultInvalid : IRule
{
    public string Code => "default-invalid";

    public string About => "What a new record starts with is no value of the field, or one its limits refuse.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Fields
        where subject.FieldOf(node) is not null
        from given in (node.Text("default")?.ByLanguage.Values ?? []).Distinct()
        let problem = Problem(node, subject.FieldOf(node)!, given, subject)
        where problem is not null
        select new Finding(
            Code,
            Severity.Error,
            node.Id,
            "default",
            $"'{subject.NameOf(node)}' cannot start with '{given}': it {problem}."
        );

    private static Message? Problem(Node node, Field field, string given, CheckContext subject)
    {
        var narrowed = field with
        {
            Min = StepLarge.RangeOf(node, field).Least,
            Max = StepLarge.RangeOf(node, field).Most,
            MaxLength = node.Number("maxLength") ?? field.MaxLength,
        };
        return FieldValues.ReadCell(narrowed, given, out var value) ?? FieldValues.Check(narrowed, value, subject.Definitions, "en");
    }
}

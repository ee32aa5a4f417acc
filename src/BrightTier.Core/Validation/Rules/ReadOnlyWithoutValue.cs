using BrightTier.Core.Conditions;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A field that must have a value while nobody can give it one.</summary>
public sealed class ReadOnlyWithoutValue : IRule
{
    public string Code => "read-only-without-value";

    public string About =>
        "A field is required and read-only at once: always and without default, or "
        + "for some record in which it is empty. Nobody could fill it.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        foreach (var node in subject.Fields)
        {
            if (subject.FieldOf(node) is not { } field || When(subject, node, "readOnly") is not { } readOnly)
            {
                continue;
            }

            if (field is { Default: null, Required: true } && readOnly is Expression.Literal { Value: true })
            {
                yield return Found(subject, node);
            }
            else if (
                When(subject, node, "required") is { } required
                && Analysis.Together(Empty(field, required), readOnly, subject.Entity, subject.Definitions) is { Verdict: Verdict.Yes } both
            )
            {
                yield return Found(subject, node) with
                {
                    Evidence = both.Witness!.Describe(subject.Entity),
                };
            }
        }
    }

    private Finding Found(CheckContext subject, Node node) =>
        new(
            Code,
            Severity.Error,
            node.Id,
            "readOnly",
            $"'{subject.NameOf(node)}' must have a value but is read-only, so that "
                + $"nobody could give it one; such a record could never be saved.",
            node["readOnly"] == new Value.Flag(true)
                ? new Fix(
                    $"Make it read-only except on new records",
                    [new Edit.Set(node.Id, "readOnly", new Value.Word("mode != 'create'"))]
                )
                : null
        );

    /// <summary>When a property holds; null where it never does, or cannot be told.</summary>
    private static Expression? When(CheckContext subject, Node node, string property) =>
        node[property] switch
        {
            Value.Flag { On: true } => new Expression.Literal(true, default),
            Value.Word => subject.ConditionOn(node, property)?.Expression,
            _ => null,
        };

    /// <summary>On a new record, with the field empty.</summary>
    private static Expression Empty(Field field, Expression required) =>
        CheckContext.And(
            required,
            new Expression.Binary(
                "==",
                new Expression.Select(new Expression.Name("record", default), field.Key, default, default),
                new Expression.Literal(null, default),
                default,
                default
            )
        );
}

using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A required field without default that the layout makes read-only: on a new record nobody could fill it.</summary>
public sealed class ReadOnlyWithoutValue : IRule
{
    public string Code => "read-only-without-value";

    public string About => "A required field without default is read-only; on a new record nobody could fill it.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Fields
        let field = subject.FieldOf(node)
        where
            field is { Default: null }
            && node["readOnly"] == new Value.Flag(true)
            && (field.Required || node["required"] == new Value.Flag(true))
        select new Finding(
            Code,
            Severity.Error,
            node.Id,
            "readOnly",
            $"'{subject.NameOf(node)}' must have a value but is read-only and has no default; a new record could never be saved.",
            new Fix($"Make it read-only except on new records", [new Edit.Set(node.Id, "readOnly", new Value.Word("mode != 'create'"))])
        );
}

using BrightTier.Core.Edits;
using BrightTier.Core.Entities;

namespace BrightTier.Core.Checks.Rules;

/// <summary>A placed field that the entity does not have.</summary>
public sealed class FieldUnknown : IRule
{
    public string Code => "field-unknown";

    public IEnumerable<Finding> Check(Subject subject) =>
        from node in subject.Fields
        where subject.FieldOf(node) is null
        let key = node.Word("field")!
        select new Finding(Code, Severity.Error, node.Id, "field",
            Suggestion.Sentence($"'{subject.Entity.Label}' has no field '{key}'{Suggestion.For(key, [.. subject.Entity.Current.Select(field => field.Key)])}"),
            new Fix("Take it off the layout", [new Edit.Remove(node.Id)]));
}

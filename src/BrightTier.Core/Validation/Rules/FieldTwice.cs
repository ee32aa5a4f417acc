using BrightTier.Core.Edits;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A field placed in two spots that can both be seen; two of which each hides under a condition may be meant.</summary>
public sealed class FieldTwice : IRule
{
    public string Code => "field-twice";

    public string About => "A field stands in two places that can both be seen; a change in one shows in the other.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from same in subject.Fields.GroupBy(node => node.Word("field"))
        from node in same.Skip(1)
        where node["visible"] is null
        select new Finding(
            Code,
            Severity.Warning,
            node.Id,
            "field",
            $"'{subject.NameOf(node)}' is on the layout {same.Count()} times; a change in one place shows in the others.",
            new Fix($"Remove this one, keep the first", [new Edit.Remove(node.Id)])
        );
}

using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A field that must be filled in, in a section that is folded when the form opens.</summary>
public sealed class RequiredFolded : IRule
{
    public string Code => "required-folded";

    public string About =>
        "A required field without default stands in a section that is folded at first; users learn of it when saving is refused.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Fields
        where node["required"] == new Value.Flag(true) || subject.FieldOf(node) is { Required: true, Default: null }
        let folded = subject.Path(node).FirstOrDefault(around => around.Kind is NodeKind.Section && around.Flag("collapsed"))
        where folded is not null
        select new Finding(
            Code,
            Severity.Advice,
            node.Id,
            null,
            $"'{subject.NameOf(node)}' must be filled in, but '{subject.NameOf(folded)}' is folded when the form opens.",
            new Fix($"Open the section at first", [new Edit.Set(folded.Id, "collapsed", null)])
        );
}

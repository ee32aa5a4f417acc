using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A row in which nothing stands.</summary>
public sealed class RowEmpty : IRule
{
    public string Code => "row-empty";

    public string About => "Nothing stands in a row.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from row in subject.Nodes
        where row.Kind is NodeKind.Row && !row.Walk().Any(node => Grammar.IsItem(node.Kind))
        select new Finding(
            Code,
            Severity.Advice,
            row.Id,
            null,
            $"This row is empty; users do not see it.",
            new Fix($"Remove the row", [new Edit.Remove(row.Id)])
        );
}

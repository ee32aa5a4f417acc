using BrightTier.Core.Edits;
using BrightTier.Core.Layouts;

namespace BrightTier.Core.Checks.Rules;

/// <summary>A row whose cells ask for more than 12 units, or leave none for a cell without a span.</summary>
public sealed class SpansOverflow : IRule
{
    public string Code => "spans-overflow";

    public IEnumerable<Finding> Check(Subject subject) =>
        from row in subject.Nodes
        where row.Kind is NodeKind.Row
        let asked = row.Children.Sum(cell => cell.Number("span") ?? 1)
        where asked > Limits.Units
        select new Finding(Code, Severity.Error, row.Id, null,
            $"The row with '{subject.NameOf(row.Walk().FirstOrDefault(node => Grammar.IsItem(node.Kind)) ?? row)}' asks for {asked} units; a row has {Limits.Units}.",
            row.Children.Length > Limits.Units ? null : new Fix("Share the row evenly", [.. row.Children.Where(cell => cell["span"] is not null).Select(cell => new Edit.Set(cell.Id, "span", null))]));
}

using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Validation.Rules;

/// <summary>Cells side by side of very different height: the lower ones leave a hole.</summary>
public sealed class RowUnbalanced : IRule
{
    private const double Much = 14;

    public string Code => "row-unbalanced";

    public string About => "Cells of very different height stand side by side and leave a hole.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from row in subject.Nodes
        where row.Kind is NodeKind.Row && row.Children.Length > 1
        let heights = row.Children.Where(cell => !cell.Children.IsEmpty).Select(cell => cell.Children.Sum(Length.OfItem)).ToArray()
        where heights.Length > 1 && heights.Max() - heights.Min() > Much
        select new Finding(
            Code,
            Severity.Advice,
            row.Id,
            null,
            $"The cells of this row are of very different height; stack short fields beside the tall one, or give it a row of its own."
        );
}

using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>More fields side by side than the eye takes in.</summary>
public sealed class RowCrowded : IRule
{
    private const int Many = 5;

    public string Code => "row-crowded";

    public string About => "More fields stand side by side than the eye takes in.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from row in subject.Nodes
        where row.Kind is NodeKind.Row && row.Children.Length >= Many
        select new Finding(
            Code,
            Severity.Advice,
            row.Id,
            null,
            $"{row.Children.Length} cells stand side by side here; up to four are easily read."
        );
}

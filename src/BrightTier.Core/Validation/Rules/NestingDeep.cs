using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>Panels within panels within panels: users lose where they are.</summary>
public sealed class NestingDeep : IRule
{
    private const int Deep = 2;

    public string Code => "nesting-deep";

    public string About => "Panels are nested more than two deep in the body; users lose where they are.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from panel in subject.Nodes
        where panel.Kind is NodeKind.Panel
        let depth = subject
            .Path(panel)
            .Count(node =>
                node.Kind is NodeKind.Panel && !node.Children.Any(page => page.Id.Name.EndsWith("/page", StringComparison.Ordinal))
            )
        where depth == Deep + 1
        select new Finding(Code, Severity.Advice, panel.Id, null, $"This panel stands {depth} panels deep; {Deep} are easily followed.");
}

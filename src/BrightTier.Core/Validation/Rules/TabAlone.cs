using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>One tab and no other.</summary>
public sealed class TabAlone : IRule
{
    public string Code => "tab-alone";

    public string About => "A panel shows its pages as tabs and has one alone, which is a heading that takes a click for nothing.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from panel in subject.Panels
        where CheckContext.ArrangementOf(panel.Panel) is "tabs" && panel.Pages.Length == 1
        let node = panel.Panel
        select new Finding(
            Code,
            Severity.Advice,
            node.Id,
            null,
            $"There is one tab alone here, '{subject.NameOf(panel.Pages[0])}'; without tabs the form is read at once.",
            new Fix(
                $"Show it without tabs",
                [new Edit.Set(node.Id, node.Kind is NodeKind.Body ? "arrangement" : "panel", new Value.Word("stack"))]
            )
        );
}

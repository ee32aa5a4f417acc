namespace BrightTier.Core.Validation.Rules;

/// <summary>More tabs than fit beside one another, or than one keeps in mind.</summary>
public sealed class TabsMany : IRule
{
    private const int Most = 8;

    public string Code => "tabs-many";

    public string About => "A panel has more than eight tabs; users look for what they need in one after another.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from panel in subject.Panels
        where CheckContext.ArrangementOf(panel.Panel) is "tabs" && panel.Pages.Length > Most
        select new Finding(
            Code,
            Severity.Advice,
            panel.Panel.Id,
            null,
            $"There are {panel.Pages.Length} tabs side by side; up to {Most} are easily found. Sections may do for some."
        );
}

using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A style whose ink does not stand out enough from its paper: less than 4.5 to 1 (WCAG 2.2, 1.4.3).</summary>
public sealed class ContrastLow : IRule
{
    private const double Least = 4.5;

    public string Code => "contrast-low";

    public string About => "A style's ink stands out less than 4.5 to 1 from its paper (WCAG 2.2, 1.4.3).";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        var low = subject.Definitions.Application.Styles.Where(style => Contrast(style) < Least).ToDictionary(style => style.Key);
        return from node in subject.Nodes
            where node.Word("style") is { } key && low.ContainsKey(key)
            let style = low[node.Word("style")!]
            select new Finding(
                Code,
                Severity.Error,
                node.Id,
                "style",
                $"The style '{style.Label}' has a contrast of {Contrast(style):0.0} to 1; text needs {Least} to be readable."
            );
    }

    /// <summary>The supplied ink and paper stand in for those a style does not name.</summary>
    public static double Contrast(Style style) => Model.Contrast.Of(style.Ink ?? "#1f1b16", style.Paper ?? "#fbf8f3");
}

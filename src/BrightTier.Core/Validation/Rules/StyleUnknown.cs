using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A style the application does not have.</summary>
public sealed class StyleUnknown : IRule
{
    public string Code => "style-unknown";

    public string About => "A style is named that the application does not have.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        var styles = subject.Definitions.Application.Styles.Select(style => style.Key).ToArray();
        return from node in subject.Nodes
            let style = node.Word("style")
            where style is not null && !styles.Contains(style)
            select new Finding(
                Code,
                Severity.Error,
                node.Id,
                "style",
                Suggestion.Sentence($"There is no style '{style}'{Suggestion.For(style, styles)}"),
                Correction.Of(node, "style", style, styles) ?? new Fix($"Remove the style", [new Edit.Set(node.Id, "style", null)])
            );
    }
}

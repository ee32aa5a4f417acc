using System.Text.RegularExpressions;
using BrightTier.Core.Layouts;

namespace BrightTier.Core.Checks.Rules;

/// <summary>A tab without a title, or a title nobody chose, such as "Section 3".</summary>
public sealed partial class TitlePlaceholder : IRule
{
    public string Code => "title-placeholder";

    public IEnumerable<Finding> Check(Subject subject)
    {
        var tabs = subject.Layout.Body?.Word("arrangement") == "tabs";
        foreach (var node in subject.Nodes.Where(node => node.Kind is NodeKind.Page or NodeKind.Section))
        {
            var title = node.Text("title")?.ToString();
            if (tabs && node.Kind is NodeKind.Page && string.IsNullOrWhiteSpace(title))
            {
                yield return new Finding(Code, Severity.Error, node.Id, "title", "This tab has no title; users could not tell it from the others.");
            }
            else if (title is not null && Nondescript().IsMatch(title.Trim()))
            {
                yield return new Finding(Code, Severity.Warning, node.Id, "title", $"'{title}' says nothing of what is inside; give it a name users know.");
            }
        }
    }

    // Nothing in it can match in two ways, so it needs no engine that guards against that.
    [GeneratedRegex(@"^(new |untitled )?(section|tab|page|group)? ?[0-9]*$", RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture)]
    private static partial Regex Nondescript();
}

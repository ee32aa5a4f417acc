using System.Text.RegularExpressions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A tab, step or fold without a title, or a title nobody chose, such as "Section 3".</summary>
public sealed partial class TitlePlaceholder : IRule
{
    public string Code => "title-placeholder";

    public string About => "A tab, step or fold has no title, or a title says nothing, such as \"Section 3\".";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        foreach (var node in subject.Nodes.Where(node => node.Kind is NodeKind.Page or NodeKind.Section))
        {
            var title = node.Text("title")?.ToString();
            var arrangement =
                node.Kind is NodeKind.Page && subject.Layout.ParentOf(node.Id) is { } holder && subject.Layout.Find(holder) is { } panel
                    ? panel.Word("arrangement") ?? panel.Word("panel")
                    : null;
            if (arrangement is "tabs" or "steps" or "accordion" && string.IsNullOrWhiteSpace(title))
            {
                var what = arrangement switch
                {
                    "tabs" => "tab",
                    "steps" => "step",
                    _ => "fold",
                };
                yield return new Finding(
                    Code,
                    Severity.Error,
                    node.Id,
                    "title",
                    $"This {what} has no title; users could not tell it from the others."
                );
            }
            else if (title is not null && Nondescript().IsMatch(title.Trim()))
            {
                yield return new Finding(
                    Code,
                    Severity.Warning,
                    node.Id,
                    "title",
                    $"'{title}' says nothing of what is inside; give it a name users know."
                );
            }
        }
    }

    // Nothing in it can match in two ways, so it needs no engine that guards against that.
    [GeneratedRegex(@"^(new |untitled )?(section|tab|page|group|step)? ?[0-9]*$", RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture)]
    private static partial Regex Nondescript();
}

using System.Text.RegularExpressions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A link that says "click here": it tells nothing to those who hear links read out, or look for one (WCAG 2.2, 2.4.4).</summary>
public sealed partial class LinkVague : IRule
{
    public string Code => "link-vague";

    public string About =>
        "A link or an action is called \"click here\" or the like, which tells nothing of where it leads (WCAG 2.2, 2.4.4).";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Nodes
        from words in Words(node)
        where Vague().IsMatch(words.Text.Trim())
        select new Finding(
            Code,
            Severity.Advice,
            node.Id,
            words.Property,
            $"'{words.Text}' tells nothing of where it leads; name what is there."
        );

    private static IEnumerable<(string Property, string Text)> Words(Node node) =>
        node.Kind switch
        {
            NodeKind.Link or NodeKind.Action => node.Text("label")?.ByLanguage.Values.Select(text => ("label", text)) ?? [],
            NodeKind.Text or NodeKind.Top or NodeKind.Bottom => node.Text("text")
                ?.ByLanguage.Values.SelectMany(text => Linked().Matches(text))
                .Select(link => ("text", link.Groups["words"].Value))
                ?? [],
            _ => [],
        };

    // Words written out, one way each: nothing to go back over.
    [GeneratedRegex(
        @"^((please )?click( here)?|here|read more|more|this link|link|klik( hier)?|hier|lees meer|meer|deze link"
            + @"|(انقر|اضغط)( هنا)?|هنا|المزيد)[.!…]?$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture
    )]
    private static partial Regex Vague();

    [GeneratedRegex(@"\[(?<words>[^\]\n]{1,80})\]\(", RegexOptions.ExplicitCapture)]
    private static partial Regex Linked();
}

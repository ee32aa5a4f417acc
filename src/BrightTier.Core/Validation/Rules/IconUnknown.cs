using BrightTier.Core.Icons;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A picture that is not there: nothing would be drawn in its place.</summary>
public sealed class IconUnknown : IRule
{
    public string Code => "icon-unknown";

    public string About => "A tab, a band or an action names a picture that is not there; nothing would be drawn in its place.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Nodes
        let name = node.Word("icon")
        where name is not null && !Icon.Exists(name)
        select new Finding(
            Code,
            Severity.Warning,
            node.Id,
            "icon",
            Suggestion.Sentence($"There is no icon '{name}'{Suggestion.For(name, [.. Icon.Names])}"),
            Correction.Of(node, "icon", name, Icon.Names)
        );
}

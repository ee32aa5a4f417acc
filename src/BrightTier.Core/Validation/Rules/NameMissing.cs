using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>Something one can use or should know of that has no name for those who do not see it (WCAG 2.2, 1.1.1 and 4.1.2).</summary>
public sealed class NameMissing : IRule
{
    public string Code => "name-missing";

    public string About =>
        "An action or link has no label, a picture no words: those who do not see it do not know what it is (WCAG 2.2, 1.1.1 and 4.1.2).";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Nodes
        let property = node.Kind switch
        {
            NodeKind.Action or NodeKind.Link => "label",
            NodeKind.Image => "alt",
            _ => null,
        }
        where property is not null && (node.Text(property)?.IsEmpty ?? true)
        select new Finding(
            Code,
            Severity.Error,
            node.Id,
            property,
            node.Kind is NodeKind.Image
                ? (Message)$"The picture has no words for those who do not see it; say what it shows."
                : $"The {Grammar.Of(node.Kind).Noun} has no label; nobody would know what it does."
        );
}

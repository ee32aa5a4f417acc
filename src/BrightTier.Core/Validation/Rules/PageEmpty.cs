using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A tab or a section in which there is nothing.</summary>
public sealed class PageEmpty : IRule
{
    public string Code => "page-empty";

    public string About => "A tab or a section shows nothing: users open it for nothing.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Nodes
        where node.Kind is NodeKind.Page or NodeKind.Section && !HasItems(node)
        // Of a page that is empty its sections need not be told too; of a section with rows its rows are.
        where
            node.Kind is NodeKind.Page
            || (node.Children.IsEmpty && (subject.Holder(node) is not { Kind: NodeKind.Page } page || HasItems(page)))
        select new Finding(
            Code,
            Severity.Advice,
            node.Id,
            null,
            $"'{subject.NameOf(node)}' is empty; put something into it, or remove it."
        );

    private static bool HasItems(Node node) => node.Walk().Any(each => Grammar.IsItem(each.Kind));
}

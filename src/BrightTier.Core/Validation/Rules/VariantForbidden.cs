using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>
/// A variant that reaches beyond place and presentation: which fields there are and which records are right is the same at every width.
/// </summary>
public sealed class VariantForbidden : IRule
{
    public string Code => "variant-forbidden";

    public string About =>
        "A variant removes something other than a row or a cell it left empty, inserts a field, or sets what decides which records "
        + "are right; it may hide, place, move, and change words and presentation.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from variant in subject.Assembled.Source.Variants
        from change in variant.Children
        let problem = Problem(change)
        where problem is not null && !RemovesWhatIsEmpty(subject.Layout, variant, change)
        select new Finding(
            Code,
            Severity.Error,
            change.Id,
            null,
            $"The variant '{variant.Word("variant")}' {problem}",
            new Fix($"Remove the change", [new Edit.Remove(change.Id)])
        );

    /// <summary>Whether a change takes away a row or a cell from which those before it have moved everything.</summary>
    private static bool RemovesWhatIsEmpty(Layout form, Node variant, Node change) =>
        change.Word("op") == "remove"
        && form.ApplyOverrides(variant.Children.TakeWhile(each => each.Id != change.Id))
            .Layout.Find(new NodeId(change.Word("target") ?? ""))
            is { Kind: NodeKind.Row or NodeKind.Cell } node
        && !node.Walk().Any(each => Grammar.IsItem(each.Kind));

    private static Message? Problem(Node change) =>
        change.Word("op") switch
        {
            "remove" => $"removes '{change.Word("target")}'; to leave it out at this width, hide it.",
            "insert"
                when change.Children.Any(node =>
                    node.Walk().Any(each => each.Kind is NodeKind.Field or NodeKind.Piece or NodeKind.Related)
                ) => $"inserts a field; fields are the same at every width.",
            "set" when change.Word("property") is { } property && Grammar.Property(property) is { InVariants: false } =>
                $"sets '{property}' of '{change.Word("target")}', which must be the same at every width.",
            _ => null,
        };
}

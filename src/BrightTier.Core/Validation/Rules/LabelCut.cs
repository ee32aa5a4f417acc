using BrightTier.Core.Composition;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A label with a word wider than its cell, in some language: it would be broken or cut.</summary>
public sealed class LabelCut : IRule
{
    public string Code => "label-cut";

    public string About =>
        "In some language a word of a label is wider than its cell, or a label inside its field longer than it; it would be broken or cut.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        var placed = subject.Nodes.Any(node => node["labels"] is not null);
        foreach (var row in subject.Nodes.Where(node => node.Kind is NodeKind.Row))
        {
            var spans = Spans.Share([.. row.Children.Select(cell => cell.Number("span"))]);
            foreach (
                var (item, span) in row.Children.SelectMany(
                    (cell, i) => cell.Children.Where(item => item.Kind is NodeKind.Field).Select(item => (item, spans[i]))
                )
            )
            {
                var inside = placed && (InheritedValues.Find(subject.Layout, item.Id, "labels").Value as Value.Word)?.Content == "inside";
                var texts = item.Text("label") ?? subject.FieldOf(item)?.Label;
                foreach (var language in subject.Definitions.Application.Languages)
                {
                    var label = texts?.In(language) ?? "";
                    var longest = inside ? label.Length : Rooms.LongestWord(label);
                    if (Rooms.OfWord(longest) > span)
                    {
                        yield return new Finding(
                            Code,
                            Severity.Advice,
                            item.Id,
                            "label",
                            $"The label '{label}' ({language}) is too long for {span} of 12 units; give the field more room "
                                + $"or a shorter label."
                        );
                        break;
                    }
                }
            }
        }
    }
}

using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A long text over the whole width of a form that takes all there is: its lines are too long to read (WCAG 2.2, 1.4.8).</summary>
public sealed class TextTooWide : IRule
{
    private const int Long = 240;

    public string Code => "text-too-wide";

    public string About =>
        "A long text runs over the whole width of a form of full width; lines of more than some 80 characters are hard to read.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        if (subject.Layout.Root.Word("width") == "limited")
        {
            yield break;
        }

        foreach (var row in subject.Nodes.Where(node => node.Kind is NodeKind.Row))
        {
            var spans = Spans.Share([.. row.Children.Select(cell => cell.Number("span"))]);
            foreach (
                var text in row.Children.SelectMany(
                    (cell, i) => spans[i] > 8 ? cell.Children.Where(item => item.Kind is NodeKind.Text) : []
                )
            )
            {
                if (text.Text("text")?.ToString().Length > Long)
                {
                    yield return new Finding(
                        Code,
                        Severity.Advice,
                        text.Id,
                        "text",
                        $"The lines of this text get too long to read on a wide screen; give it up to 8 of 12 units, or limit "
                            + $"the form's width."
                    );
                }
            }
        }
    }
}

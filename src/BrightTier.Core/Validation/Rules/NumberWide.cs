using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A number across the whole form.</summary>
public sealed class NumberWide : IRule
{
    public string Code => "number-wide";

    public string About => "A number is as wide as the form; a field's width tells how much belongs in it.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from section in subject.Nodes
        // A short form is narrow, and has one field a row.
        where subject.Layout.Kind is "full" && section.Kind is NodeKind.Section && (section.Number("columns") ?? 1) == 1
        where subject.Path(section).All(around => around.Kind is not (NodeKind.Start or NodeKind.End))
        from row in section.Children
        let units = Spans.Share([.. row.Children.Select(cell => cell.Number("span"))])
        from i in Enumerable.Range(0, row.Children.Length)
        where units[i] == Limits.Units
        from node in row.Children[i].Children
        where
            node.Kind is NodeKind.Field
            && subject.FieldOf(node) is { } field
            && field.Type.IsNumber()
            && node.Word("editor") is not "slider"
        let natural = Rooms.OfEditor(node.Word("editor"), subject.FieldOf(node)!).Natural
        select new Finding(
            Code,
            Severity.Advice,
            node.Id,
            null,
            $"'{subject.NameOf(node)}' is a number and as wide as the form; {natural} of 12 units are enough.",
            new Fix($"Give it {natural} units", [new Edit.Set(row.Children[i].Id, "span", new Value.Number(natural))])
        );
}

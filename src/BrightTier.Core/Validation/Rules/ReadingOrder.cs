using BrightTier.Core.Composition;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Validation.Rules;

/// <summary>The Tab key going down columns where rows have no common columns: it would jump about (WCAG 2.2, 2.4.3).</summary>
public sealed class ReadingOrder : IRule
{
    public string Code => "reading-order";

    public string About =>
        "The Tab key is to go down columns, but the rows are not divided alike, so it would jump about (WCAG 2.2, 2.4.3).";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from section in subject.Nodes
        where
            section.Kind is NodeKind.Section
            && (InheritedValues.Find(subject.Layout, section.Id, "tabOrder").Value as Value.Word)?.Content == "columns"
        let divisions = section
            .Children.Where(row => row.Children.Length > 1)
            .Select(row => string.Join(' ', Spans.Share([.. row.Children.Select(cell => cell.Number("span"))])))
            .Distinct()
            .Count()
        where divisions > 1
        select new Finding(
            Code,
            Severity.Warning,
            section.Id,
            "tabOrder",
            $"In '{subject.NameOf(section)}' the Tab key goes down columns, but its rows are divided differently; it would jump about.",
            new Edits.Edit.Set(section.Id, "tabOrder", new Value.Word("rows")) is var edit
                ? new Fix($"Set the tab order to rows", [edit])
                : null
        );
}

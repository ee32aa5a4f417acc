using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A row whose cells ask for more than 12 units, or leave none for a cell without a span, at the base or in a variant.</summary>
public sealed class SpansOverflow : IRule
{
    public string Code => "spans-overflow";

    public string About => "The cells of a row ask for more than its 12 units.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        var told = new HashSet<NodeId>();
        foreach (var (layout, where) in subject.Widths)
        {
            foreach (var row in layout.Walk().Where(node => node.Kind is NodeKind.Row))
            {
                var cells = row.Children.Where(cell => cell.Children.IsEmpty || cell.Children.Any(item => !item.Flag("hidden"))).ToArray();
                // A variant may let cells stand under one another by giving each all of the row: the others have lines of their own.
                var beside = where.Length > 0 ? cells.Where(cell => cell.Number("span") != Limits.Units) : cells;
                var asked = beside.Sum(cell => cell.Number("span") ?? 1);
                if (asked > Limits.Units && told.Add(row.Id))
                {
                    var named = row.Walk().FirstOrDefault(node => Grammar.IsItem(node.Kind)) ?? row;
                    yield return new Finding(
                        Code,
                        Severity.Error,
                        row.Id,
                        null,
                        $"The row with '{subject.NameOf(named)}' asks for {asked} units{where}; a row has {Limits.Units}.",
                        where.Length > 0 || row.Children.Length > Limits.Units
                            ? null
                            : new Fix(
                                $"Share the row evenly",
                                [
                                    .. row
                                        .Children.Where(cell => cell["span"] is not null)
                                        .Select(cell => new Edit.Set(cell.Id, "span", null)),
                                ]
                            )
                    );
                }
            }
        }
    }
}

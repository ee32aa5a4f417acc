using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A field in a cell that is too narrow for its editor.</summary>
public sealed class FieldNarrow : IRule
{
    public string Code => "field-narrow";

    public string About => "A field has fewer of its row's 12 units than its editor needs to be read and used.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        foreach (var row in subject.Nodes.Where(node => node.Kind is NodeKind.Row))
        {
            var units = Spans.Share([.. row.Children.Select(cell => cell.Number("span"))]);
            for (var i = 0; i < row.Children.Length; i++)
            {
                foreach (var item in row.Children[i].Children.Where(item => item.Kind is NodeKind.Field && !item.Flag("hidden")))
                {
                    if (
                        subject.FieldOf(item) is { } field
                        && Rooms.OfEditor(item.Word("editor"), field).Needed is var needed
                        && units[i] < needed
                    )
                    {
                        yield return new Finding(
                            Code,
                            Severity.Advice,
                            item.Id,
                            null,
                            $"'{subject.NameOf(item)}' has {units[i]} of 12 units; its editor needs {needed} to be read and used.",
                            Widened(subject, row, i, units, needed) ?? RowOfItsOwn(subject, item)
                        );
                    }
                }
            }
        }
    }

    /// <summary>Those beside it that have more than they need give way, where that is enough.</summary>
    private static Fix? Widened(CheckContext subject, Node row, int index, IReadOnlyList<int> units, int needed)
    {
        var others = row
            .Children.Select((cell, i) => new SharingCell(units[i], Rooms.OfCell(cell, subject.Entity.Find)))
            .Where((_, i) => i != index)
            .ToArray();
        ImmutableArray<int?>? spans = others.Length == 0 ? [needed] : RowRoom.Admit(others, index, new Room(needed, needed));
        if (spans is not { } given)
        {
            return null;
        }

        return new Fix(
            $"Give it {needed} units",
            [
                .. row
                    .Children.Zip(given)
                    .Where(pair => pair.First.Number("span") != pair.Second)
                    .Select(pair => new Edit.Set(pair.First.Id, "span", new Value.Number(pair.Second!.Value))),
            ]
        );
    }

    private static Fix? RowOfItsOwn(CheckContext subject, Node item)
    {
        var row = subject.Layout.Ancestors(item.Id).First(node => node.Kind is NodeKind.Row);
        var place = new LayoutPlaces(subject.Layout, subject.Entity.Find).At(new Subject.OfNode(item.Id), row.Id, Edge.Below);
        return place is null ? null : new Fix($"Give it a row of its own", place.Edits);
    }
}

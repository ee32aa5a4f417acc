using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Proposals;

/// <summary>Edits that break the cells of rows anew. Every cell stays itself, so that what is said of it elsewhere stays true.</summary>
internal static class RowEdits
{
    /// <summary>The cells of rows in fewer rows: the first of them take the cells, the others go.</summary>
    public static IEnumerable<Edit> Rearranged(ImmutableArray<Node> rows, ImmutableArray<BrokenRow> broken)
    {
        var stands = rows.Select(row => row.Children.Select(cell => cell.Id).ToList()).ToArray();
        var cells = rows.SelectMany(row => row.Children).ToArray();
        var at = 0;
        for (var i = 0; i < broken.Length; i++)
        {
            NodeId? before = null;
            for (var place = 0; place < broken[i].Count; place++, at++)
            {
                var cell = cells[at].Id;
                if (stands[i].ElementAtOrDefault(place) != cell)
                {
                    Array.ForEach(stands, row => row.Remove(cell));
                    stands[i].Insert(place, cell);
                    yield return new Edit.Move(cell, rows[i].Id, before is { } other ? new Anchor.After(other) : new Anchor.First());
                }

                before = cell;
            }
        }

        foreach (var edit in cells.Zip(broken.SelectMany(Written)).SelectMany(pair => Spanned(pair.First, pair.Second)))
        {
            yield return edit;
        }

        foreach (var row in rows.Skip(broken.Length))
        {
            yield return new Edit.Remove(row.Id);
        }
    }

    /// <summary>The spans of a row as they are written: none where one cell has all of it.</summary>
    public static IEnumerable<int?> Written(BrokenRow row) =>
        row.Spans.Select(span => row.Count == 1 && span == Limits.Units ? (int?)null : span);

    /// <summary>Gives a cell a span, where it has another.</summary>
    public static IEnumerable<Edit> Spanned(Node cell, int? span) =>
        cell.Number("span") == span ? [] : [new Edit.Set(cell.Id, "span", span is { } units ? new Value.Number(units) : null)];
}

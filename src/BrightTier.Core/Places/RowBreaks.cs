using System.Collections.Immutable;

namespace BrightTier.Core.Places;

/// <summary>What stands in a row beside others, as it is broken into rows.</summary>
/// <param name="Tall">Whether it is several lines high, so that what is beside it leaves a hole.</param>
/// <param name="Stays">Whether the next is about the same, and should be in the same row.</param>
public readonly record struct RowItem(Room Room, bool Tall = false, bool Stays = false);

/// <summary>A row: how many of the items stand in it, and their spans.</summary>
public sealed record BrokenRow(int Count, ImmutableArray<int> Spans);

/// <summary>
/// Breaks items into rows of 12 units as a paragraph is broken into lines: all at once, so that no row is left with a lone quarter because
/// the one before it was filled. Spans are of a few shapes, so that edges line up down the form; nobody gets less than they need.
/// </summary>
public static class RowBreaks
{
    /// <summary>What a row costs, one as high as four lines, and what is wrong with it; rows are dear, so that forms are short.</summary>
    private const int Row = 100;
    private const int TallRow = 170;
    private const int Hole = 100;
    private const int Apart = 60;
    private const int Alone = 40;
    private const int AlmostAlone = 20;
    private const int UnitTooFew = 6;
    private const int TallUnitTooFew = 9;
    private const int UnitTooMany = 3;
    private const int NewShape = 4;

    private static readonly (int[] Spans, int Oddness)[] Shapes =
    [
        ([3], Alone),
        ([4], Alone),
        ([6], AlmostAlone),
        ([8], AlmostAlone),
        ([12], 0),
        ([6, 6], 0),
        ([4, 8], 6),
        ([8, 4], 6),
        ([3, 9], 9),
        ([9, 3], 9),
        ([4, 4, 4], 0),
        ([3, 3, 6], 3),
        ([6, 3, 3], 3),
        ([3, 6, 3], 8),
        ([3, 3, 3, 3], 0),
        ([2, 4, 6], 9),
        ([5, 4, 3], 9),
        ([2, 2, 4, 4], 12),
        ([2, 3, 3, 4], 12),
    ];

    /// <summary>The rows of items, in their order.</summary>
    public static ImmutableArray<BrokenRow> Of(IReadOnlyList<RowItem> items)
    {
        // The cheapest way to have broken the first so many, by the shape it ends with.
        var best = new Step?[items.Count + 1, Shapes.Length];
        for (var end = 1; end <= items.Count; end++)
        {
            for (var shape = 0; shape < Shapes.Length; shape++)
            {
                var count = Shapes[shape].Spans.Length;
                var start = end - count;
                if (start < 0 || Cost(items, start, shape) is not { } cost)
                {
                    continue;
                }

                best[end, shape] = Before(best, start, shape) is var (total, from) ? new Step(total + cost, from) : null;
            }
        }

        var rows = ImmutableArray.CreateBuilder<BrokenRow>();
        var last = Cheapest(best, items.Count);
        for (var end = items.Count; end > 0; )
        {
            var spans = Shapes[last].Spans;
            rows.Add(new BrokenRow(spans.Length, [.. spans]));
            (end, last) = (end - spans.Length, best[end, last]!.Value.From);
        }

        rows.Reverse();
        return rows.ToImmutable();
    }

    private readonly record struct Step(int Total, int From);

    /// <summary>What it costs to have come to a place, if the next row is of a shape, and the shape of the row before.</summary>
    private static (int Total, int From)? Before(Step?[,] best, int end, int next)
    {
        if (end == 0)
        {
            return (0, next);
        }

        (int Total, int From)? found = null;
        for (var shape = 0; shape < Shapes.Length; shape++)
        {
            if (best[end, shape] is { } step)
            {
                var total = step.Total + (shape == next ? 0 : NewShape);
                found = found is { } other && other.Total <= total ? other : (total, shape);
            }
        }

        return found;
    }

    private static int Cheapest(Step?[,] best, int end) =>
        Enumerable
            .Range(0, Shapes.Length)
            .Where(shape => best[end, shape] is not null)
            .DefaultIfEmpty(-1)
            .MinBy(shape => shape < 0 ? 0 : best[end, shape]!.Value.Total);

    /// <summary>What is wrong with so many items from a place in a row of a shape; null where one would get less than it needs.</summary>
    private static int? Cost(IReadOnlyList<RowItem> items, int start, int shape)
    {
        var (spans, oddness) = Shapes[shape];
        var tall = 0;
        var cost = oddness;
        for (var i = 0; i < spans.Length; i++)
        {
            var item = items[start + i];
            if (spans[i] < Math.Min(Model.Limits.Units, item.Room.Needed))
            {
                return null;
            }

            tall += item.Tall ? 1 : 0;
            var few = Math.Max(0, item.Room.Natural - spans[i]);
            // Little less than it takes is nothing; much less is worse by far.
            cost += few * (item.Tall ? TallUnitTooFew : few * UnitTooFew);
            cost += Math.Max(0, spans[i] - item.Room.Natural - 1) * (spans.Length == 1 ? 4 : 1) * UnitTooMany;
        }

        // One that is all there is, is alone whatever its shape.
        cost -= spans.Length == 1 && items.Count == 1 ? oddness : 0;
        cost += items[start + spans.Length - 1].Stays ? Apart : 0;
        return cost + (tall > 0 ? TallRow + (tall < spans.Length ? Hole : 0) : Row);
    }
}

using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Places;

/// <summary>A cell of a row as sharing sees it: the span that is written, null where it shares, and the room it needs.</summary>
public readonly record struct SharingCell(int? Span, Room Room);

/// <summary>How a row makes room. web/layout does the same (tests/vectors/sharing).</summary>
public static class RowRoom
{
    /// <summary>
    /// The written spans of a row's cells once one more stands among them, each in its place; null where the row is full. Where cells share
    /// and sharing leaves each what it needs, the newcomer shares too. Else it takes free units, and where those are fewer than it needs
    /// the others give way: first what they have beyond what they take naturally, then what they have beyond what they need, in proportion.
    /// </summary>
    /// <param name="at">The newcomer's place among the cells.</param>
    public static ImmutableArray<int?>? Admit(IReadOnlyList<SharingCell> cells, int at, Room newcomer)
    {
        if (cells.Count >= Limits.Units)
        {
            return null;
        }

        ImmutableArray<int?> written = [.. cells.Select(cell => cell.Span)];
        var now = Spans.Share(written);
        if (cells.Count == 0 || written.Contains(null))
        {
            var together = written.Insert(at, null);
            var units = Spans.Share(together);
            var least = cells.Select((cell, i) => Math.Min(cell.Room.Needed, now[i])).ToList();
            least.Insert(at, newcomer.Needed);
            if (units.Sum() <= Limits.Units && units.Zip(least).All(pair => pair.First >= pair.Second))
            {
                return together;
            }
        }

        var free = Limits.Units - now.Sum();
        if (free >= newcomer.Needed)
        {
            return written.Insert(at, Math.Min(newcomer.Natural, free));
        }

        var easy = cells.Select((cell, i) => Math.Max(0, now[i] - cell.Room.Natural)).ToArray();
        var spare = cells.Select((cell, i) => Math.Max(0, now[i] - cell.Room.Needed)).ToArray();
        if (free + spare.Sum() < newcomer.Needed)
        {
            return null;
        }

        var taken = Math.Max(newcomer.Needed, Math.Min(newcomer.Natural, free + easy.Sum()));
        var giving = taken - free;
        var first = Portions(easy, Math.Min(giving, easy.Sum()));
        var rest = Portions([.. spare.Select((each, i) => each - first[i])], giving - first.Sum());
        return [.. now.Select((units, i) => (int?)(units - first[i] - rest[i])).ToImmutableArray().Insert(at, taken)];
    }

    /// <summary>
    /// A whole number taken from several in proportion to what each has; what does not divide comes from those with most.
    /// </summary>
    private static int[] Portions(int[] of, int total)
    {
        var all = of.Sum();
        var portions = of.Select(each => total <= 0 || all == 0 ? 0 : each * total / all).ToArray();
        var left = Math.Max(0, all == 0 ? 0 : total - portions.Sum());
        foreach (
            var i in Enumerable
                .Range(0, of.Length)
                .OrderByDescending(i => all == 0 ? 0 : of[i] * total % all)
                .ThenByDescending(i => of[i])
                .ThenBy(i => i)
                .Take(left)
        )
        {
            portions[i]++;
        }

        return portions;
    }
}

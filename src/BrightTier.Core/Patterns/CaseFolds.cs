using System.Collections.Concurrent;
using System.Globalization;

namespace BrightTier.Core.Patterns;

/// <summary>
/// Letters in either case, by simple case folding (Unicode Standard, 5.18), as RE2 folds: s is also the long s, k also the sign of kelvin.
/// Patterns carry what comes of it as ranges, so that whoever runs them knows nothing of letters.
/// </summary>
internal static partial class CaseFolds
{
    private static readonly Dictionary<int, int[]> Letters = Read();

    /// <summary>Every character that has another case, in order.</summary>
    private static readonly int[] Cased = [.. Letters.Keys.Order()];

    private static readonly ConcurrentDictionary<string, int[]> Classes = new(StringComparer.Ordinal);

    /// <summary>Pairs of first and last with the other cases of all that are in them; as they came where nothing is to be added.</summary>
    public static IReadOnlyList<int> Folded(IReadOnlyList<int> pairs)
    {
        var added = new List<int>();
        for (var i = 0; i + 1 < pairs.Count; i += 2)
        {
            var at = Array.BinarySearch(Cased, pairs[i]);
            for (at = at < 0 ? ~at : at; at < Cased.Length && Cased[at] <= pairs[i + 1]; at++)
            {
                added.AddRange(Letters[Cased[at]].Where(other => !IsIn(other, pairs)));
            }
        }

        return added.Count == 0 ? pairs : Merged([.. pairs, .. added.SelectMany(other => new[] { other, other })]);
    }

    /// <summary>All that is of a general category in any case, or with <paramref name="not"/> all the rest.</summary>
    public static IReadOnlyList<int> Class(string category, bool not)
    {
        var pairs = Classes.GetOrAdd(category, static name => [.. Folded(Of(name))]);
        return not ? Complement(pairs) : pairs;
    }

    /// <summary>What lies between the pairs, which are in order.</summary>
    public static IReadOnlyList<int> Complement(IReadOnlyList<int> pairs)
    {
        var between = new List<int>();
        var next = 0;
        for (var i = 0; i < pairs.Count; i += 2)
        {
            if (pairs[i] > next)
            {
                between.AddRange([next, pairs[i] - 1]);
            }

            next = pairs[i + 1] + 1;
        }

        between.AddRange([next, 0x10FFFF]);
        return between;
    }

    private static List<int> Of(string category)
    {
        var pairs = new List<int>();
        for (var code = 0; code <= 0x10FFFF; code++)
        {
            if (PatternParser.Categories[CharUnicodeInfo.GetUnicodeCategory(code)].StartsWith(category, StringComparison.Ordinal))
            {
                if (pairs.Count > 0 && pairs[^1] == code - 1)
                {
                    pairs[^1] = code;
                }
                else
                {
                    pairs.AddRange([code, code]);
                }
            }
        }

        return pairs;
    }

    private static bool IsIn(int code, IReadOnlyList<int> pairs)
    {
        for (var i = 0; i + 1 < pairs.Count; i += 2)
        {
            if (code >= pairs[i] && code <= pairs[i + 1])
            {
                return true;
            }
        }

        return false;
    }

    /// <summary>The same characters in as few pairs as there can be, in order.</summary>
    private static List<int> Merged(int[] pairs)
    {
        var merged = new List<int>();
        foreach (var (first, last) in pairs.Chunk(2).Select(pair => (pair[0], pair[1])).Order())
        {
            if (merged.Count > 0 && first <= merged[^1] + 1)
            {
                merged[^1] = Math.Max(merged[^1], last);
            }
            else
            {
                merged.AddRange([first, last]);
            }
        }

        return merged;
    }

    private static Dictionary<int, int[]> Read()
    {
        var letters = new Dictionary<int, int[]>();
        foreach (var run in Numbers(Pairs))
        {
            for (var low = run[0]; low <= run[1]; low += run[2])
            {
                letters.Add(low, [low + run[3]]);
                letters.Add(low + run[3], [low]);
            }
        }

        foreach (var forms in Numbers(Several))
        {
            foreach (var form in forms)
            {
                letters.Add(form, [.. forms.Where(other => other != form)]);
            }
        }

        return letters;

        static IEnumerable<int[]> Numbers(string table) =>
            table
                .Split((char[])[' ', '\n'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                .Select(entry =>
                    entry.Split('-').Select(each => int.Parse(each, NumberStyles.HexNumber, CultureInfo.InvariantCulture)).ToArray()
                );
    }
}

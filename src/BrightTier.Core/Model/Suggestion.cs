namespace BrightTier.Core.Model;

/// <summary>Finds what somebody probably meant. Used by every message about an unknown name, so that all of them read alike.</summary>
public static class Suggestion
{
    /// <summary>A longer word is nobody's slip of the finger, and comparing it would cost what it is long.</summary>
    private const int Longest = 80;

    /// <summary>A word as messages repeat it: cut where it is longer than any name can be.</summary>
    public static string Short(string word) =>
        word.Length <= Longest ? word : string.Concat(word.AsSpan(0, char.IsHighSurrogate(word[Longest - 1]) ? Longest - 1 : Longest), "…");

    /// <summary>The nearest candidate within a third of the word's length (edits counted, capitals ignored), or null.</summary>
    public static string? Nearest(string word, IEnumerable<string> candidates)
    {
        if (word.Length > Longest)
        {
            return null;
        }

        var reach = Math.Max(1, word.Length / 3);
        var best = candidates
            .Where(candidate => Math.Abs(candidate.Length - word.Length) <= reach)
            .Select(candidate => (candidate, distance: Distance(word.ToLowerInvariant(), candidate.ToLowerInvariant())))
            .OrderBy(pair => pair.distance)
            .ThenBy(pair => pair.candidate, StringComparer.Ordinal)
            .FirstOrDefault();
        return best.candidate is not null && best.distance <= reach ? best.candidate : Begun(word, candidates);
    }

    /// <summary>The one candidate that begins with the word, of three letters or more; null where there are several.</summary>
    private static string? Begun(string word, IEnumerable<string> candidates)
    {
        var begun =
            word.Length < 3
                ? []
                : candidates.Where(candidate => candidate.StartsWith(word, StringComparison.OrdinalIgnoreCase)).Take(2).ToArray();
        return begun is [var only] ? only : null;
    }

    /// <summary>"; did you mean 'x'?" or, when nothing is near, the first few candidates there are.</summary>
    public static Message For(string word, IReadOnlyCollection<string> candidates)
    {
        if (Nearest(word, candidates) is { } near)
        {
            return $"; did you mean '{near}'?";
        }

        return candidates.Count switch
        {
            0 => $"",
            <= 12 => $"; there are: {string.Join(", ", candidates)}",
            _ => $"; there are {candidates.Count}, {string.Join(", ", candidates.Take(8))} among them",
        };
    }

    /// <summary>A sentence that ends in a suggestion, closed once.</summary>
    public static Message Sentence(Message text) => text.English.EndsWith('?') ? text : (Message)$"{text}.";

    private static int Distance(string a, string b)
    {
        // Damerau's restricted distance: a swap of neighbours counts once.
        var rows = new int[a.Length + 1, b.Length + 1];
        for (var i = 0; i <= a.Length; i++)
        {
            rows[i, 0] = i;
        }

        for (var j = 0; j <= b.Length; j++)
        {
            rows[0, j] = j;
        }

        for (var i = 1; i <= a.Length; i++)
        {
            for (var j = 1; j <= b.Length; j++)
            {
                var cost = a[i - 1] == b[j - 1] ? 0 : 1;
                rows[i, j] = Math.Min(Math.Min(rows[i - 1, j] + 1, rows[i, j - 1] + 1), rows[i - 1, j - 1] + cost);
                if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
                {
                    rows[i, j] = Math.Min(rows[i, j], rows[i - 2, j - 2] + 1);
                }
            }
        }

        return rows[a.Length, b.Length];
    }
}

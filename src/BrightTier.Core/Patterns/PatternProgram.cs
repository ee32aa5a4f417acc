using System.Collections.Immutable;
using System.Text;

namespace BrightTier.Core.Patterns;

/// <summary>One step of a compiled pattern.</summary>
public abstract record PatternStep
{
    private PatternStep()
    {
    }

    /// <summary>
    /// Takes one character: one within a range (pairs of first and last code point) or of a Unicode general category (Lu, or !Lu for any but
    /// those); with <paramref name="Not"/> any other; with <paramref name="Fold"/> in either case.
    /// </summary>
    public sealed record Take(bool Not, bool Fold, ImmutableArray<int> Ranges, ImmutableArray<string> Categories) : PatternStep
    {
        public bool Accepts(Rune rune) => (Contains(rune) || (Fold && (Contains(Rune.ToLowerInvariant(rune)) || Contains(Rune.ToUpperInvariant(rune))))) != Not;

        private bool Contains(Rune rune)
        {
            for (var i = 0; i + 1 < Ranges.Length; i += 2)
            {
                if (rune.Value >= Ranges[i] && rune.Value <= Ranges[i + 1])
                {
                    return true;
                }
            }

            return Categories.Any(category => category[0] == '!' ? !IsOf(rune, category[1..]) : IsOf(rune, category));
        }

        private static bool IsOf(Rune rune, string category) => PatternParser.Categories[Rune.GetUnicodeCategory(rune)].StartsWith(category, StringComparison.Ordinal);
    }

    /// <summary>Goes on at both places.</summary>
    public sealed record Split(int First, int Second) : PatternStep;

    public sealed record Jump(int To) : PatternStep;

    /// <summary>Goes on only at such a place: start, end, line-start, line-end, word, not-word.</summary>
    public sealed record At(string Place) : PatternStep;

    public sealed record Match : PatternStep;
}

/// <summary>A compiled pattern: run over a text in time proportional to the text, whatever the pattern (all ways are followed at once, none twice).</summary>
public sealed record PatternProgram(string Pattern, ImmutableArray<PatternStep> Steps)
{
    /// <summary>Whether some part of the text matches.</summary>
    public bool IsMatch(string text)
    {
        var runes = text.EnumerateRunes().ToArray();
        var current = new Places(Steps.Length);
        var following = new Places(Steps.Length);
        for (var at = 0; at <= runes.Length; at++)
        {
            // A match may begin at any character.
            if (Follow(current, 0, runes, at))
            {
                return true;
            }

            if (at == runes.Length)
            {
                break;
            }

            following.Clear();
            for (var i = 0; i < current.Count; i++)
            {
                if (Steps[current[i]] is PatternStep.Take take && take.Accepts(runes[at]) && Follow(following, current[i] + 1, runes, at + 1))
                {
                    return true;
                }
            }

            (current, following) = (following, current);
        }

        return false;
    }

    /// <summary>Adds a step and all that is reached from it without taking a character; true when the end of the pattern is.</summary>
    private bool Follow(Places places, int start, Rune[] runes, int at)
    {
        var waiting = new Stack<int>();
        waiting.Push(start);
        while (waiting.TryPop(out var step))
        {
            if (!places.Add(step))
            {
                continue;
            }

            switch (Steps[step])
            {
                case PatternStep.Match:
                    return true;
                case PatternStep.Jump jump:
                    waiting.Push(jump.To);
                    break;
                case PatternStep.Split split:
                    waiting.Push(split.Second);
                    waiting.Push(split.First);
                    break;
                case PatternStep.At place when Holds(place.Place, runes, at):
                    waiting.Push(step + 1);
                    break;
            }
        }

        return false;
    }

    private static bool Holds(string place, Rune[] runes, int at) => place switch
    {
        "start" => at == 0,
        "end" => at == runes.Length,
        "line-start" => at == 0 || runes[at - 1].Value == '\n',
        "line-end" => at == runes.Length || runes[at].Value == '\n',
        "word" => IsWord(runes, at - 1) != IsWord(runes, at),
        _ => IsWord(runes, at - 1) == IsWord(runes, at),
    };

    private static bool IsWord(Rune[] runes, int at) => at >= 0 && at < runes.Length && (runes[at].Value == '_' || (runes[at].IsAscii && Rune.IsLetterOrDigit(runes[at])));

    public bool Equals(PatternProgram? other) => other is not null && Pattern == other.Pattern;

    public override int GetHashCode() => Pattern.GetHashCode(StringComparison.Ordinal);

    public override string ToString() => Pattern;

    /// <summary>A set of steps in the order they were reached.</summary>
    private sealed class Places(int size)
    {
        private readonly int[] order = new int[size];
        private readonly bool[] held = new bool[size];

        public int Count { get; private set; }

        public int this[int index] => order[index];

        public bool Add(int step)
        {
            if (held[step])
            {
                return false;
            }

            held[step] = true;
            order[Count++] = step;
            return true;
        }

        public void Clear()
        {
            Array.Clear(held);
            Count = 0;
        }
    }
}

using System.Collections.Immutable;
using System.Text;

namespace BrightTier.Core.Patterns;

/// <summary>One step of a compiled pattern.</summary>
public abstract record PatternStep
{
    private PatternStep() { }

    /// <summary>
    /// Takes one character: one within a range (pairs of first and last code point) or of a Unicode general category (Lu, or !Lu for any
    /// but those); with <paramref name="Not"/> any other.
    /// </summary>
    public sealed record Take(bool Not, ImmutableArray<int> Ranges, ImmutableArray<string> Categories) : PatternStep
    {
        public bool Accepts(Rune rune) => Contains(rune) != Not;

        private bool Contains(Rune rune)
        {
            for (var i = 0; i + 1 < Ranges.Length; i += 2)
            {
                if (rune.Value >= Ranges[i] && rune.Value <= Ranges[i + 1])
                {
                    return true;
                }
            }

            return !Categories.IsEmpty
                && Categories.Any(category => category[0] == '!' ? !IsOf(rune, category[1..]) : IsOf(rune, category));
        }

        private static bool IsOf(Rune rune, string category) =>
            PatternParser.Categories[Rune.GetUnicodeCategory(rune)].StartsWith(category, StringComparison.Ordinal);
    }

    /// <summary>Goes on at both places.</summary>
    public sealed record Split(int First, int Second) : PatternStep;

    public sealed record Jump(int To) : PatternStep;

    /// <summary>Goes on only at such a place: start, end, line-start, line-end, word, not-word.</summary>
    public sealed record At(string Place) : PatternStep;

    public sealed record Match : PatternStep;
}

/// <summary>
/// A compiled pattern: run over a text in time proportional to the text, whatever the pattern (all ways are followed at once, none twice).
/// </summary>
public sealed record PatternProgram(string Pattern, ImmutableArray<PatternStep> Steps)
{
    /// <summary>Whether some part of the text matches.</summary>
    public bool IsMatch(string text) => new PatternRun(Steps, [.. text.EnumerateRunes()]).Matches();

    public bool Equals(PatternProgram? other) => other is not null && Pattern == other.Pattern;

    public override int GetHashCode() => Pattern.GetHashCode(StringComparison.Ordinal);

    public override string ToString() => Pattern;
}

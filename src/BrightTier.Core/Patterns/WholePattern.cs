using System.Collections.Concurrent;

namespace BrightTier.Core.Patterns;

/// <summary>
/// Patterns that a field's text must match whole. Browser and service run the same compiled steps, so what passes there passes here.
/// </summary>
public static class WholePattern
{
    /// <summary>Programs remembered at most; beyond that all are forgotten, and made again as they are asked for.</summary>
    private const int Remembered = 1_000;

    private static readonly ConcurrentDictionary<string, PatternProgram?> Programs = new();

    /// <summary>The program of a pattern, or null when it is none.</summary>
    public static PatternProgram? Compile(string pattern)
    {
        if (Programs.Count > Remembered)
        {
            Programs.Clear();
        }

        return Programs.GetOrAdd(pattern, static text => PatternParser.Parse($@"\A(?:{text})\z").Program);
    }

    /// <summary>Whether the whole of a text matches. What is no pattern, nothing matches.</summary>
    public static bool Matches(string pattern, string text) => Compile(pattern)?.IsMatch(text) ?? false;

    /// <summary>What is wrong with a pattern, in words that go behind its name; null when it is right.</summary>
    public static Message? Problem(string pattern) =>
        PatternParser.Parse(pattern).Problem ?? PatternParser.Parse($@"\A(?:{pattern})\z").Problem;

    /// <summary>Which texts a pattern takes that is still being written, and so is not worth remembering.</summary>
    public static IReadOnlyList<bool> Try(string pattern, IEnumerable<string> texts) =>
        PatternParser.Parse($@"\A(?:{pattern})\z").Program is { } program ? [.. texts.Select(program.IsMatch)] : [];
}

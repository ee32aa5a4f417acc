namespace BrightTier.Core.Model;

/// <summary>The tags by which languages are named.</summary>
public static class LanguageTags
{
    /// <summary>What RFC 5646 (4.4.1) says a tag needs at most.</summary>
    private const int Longest = 35;

    /// <summary>Whether it has the shape of the RFC 5646 tags people use: a language of two or three letters, perhaps subtags.</summary>
    public static bool IsTag(string tag) =>
        tag.Length <= Longest
        && tag.Split('-') is [{ Length: 2 or 3 } language, .. var rest]
        && language.All(char.IsAsciiLetterLower)
        && rest.All(part => part.Length is > 1 and <= 8 && part.All(char.IsAsciiLetterOrDigit));
}

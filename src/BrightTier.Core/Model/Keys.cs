using System.Globalization;

namespace BrightTier.Core.Model;

/// <summary>Keys made from what people call things.</summary>
public static class Keys
{
    private const int Longest = 40;

    // What runs this does without the tables of cultures, which would know more of them.
    private const string Accented = "àáâãäåçèéêëìíîïñòóôõöøùúûüýÿÀÁÂÃÄÅÇÈÉÊËÌÍÎÏÑÒÓÔÕÖØÙÚÛÜÝ";
    private const string Plain = "aaaaaaceeeeiiiinoooooouuuuyyAAAAAACEEEEIIIINOOOOOOUUUUY";

    /// <summary>
    /// A label as a key: its words joined, the first small. Accents go, letters outside ASCII are left out; the label keeps them.
    /// </summary>
    /// <param name="otherwise">What the key begins with where the label gives nothing to begin with.</param>
    public static string Of(string label, string otherwise)
    {
        var plain = label
            .Select(letter => Accented.IndexOf(letter, StringComparison.Ordinal) is var at and >= 0 ? Plain[at] : letter)
            .Where(letter => letter < 128 || !char.IsLetter(letter));
        var words = new string([.. plain.Select(letter => char.IsAsciiLetterOrDigit(letter) ? letter : ' ')]).Split(
            ' ',
            StringSplitOptions.RemoveEmptyEntries
        );
        var key = string.Concat(
            words.Select((word, i) => i == 0 ? word.ToLowerInvariant() : char.ToUpperInvariant(word[0]) + word[1..].ToLowerInvariant())
        );
        key = key.Length > 0 && char.IsAsciiLetter(key[0]) ? key : otherwise + key;
        return key[..Math.Min(key.Length, Longest)];
    }

    /// <summary>The stem, or the stem with the first number that makes it new.</summary>
    public static string Fresh(string stem, Func<string, bool> isTaken) =>
        Enumerable
            .Range(1, int.MaxValue)
            .Select(number => number == 1 ? stem : stem + number.ToString(CultureInfo.InvariantCulture))
            .First(key => !isTaken(key));
}

using System.Collections.Frozen;
using System.Globalization;

namespace BrightTier.Core.Model;

/// <summary>Keys made from what people call things.</summary>
public static class Keys
{
    private const int Longest = 40;

    // What runs this does without the tables of cultures. Cyrillic as in ICAO Doc 9303, Greek as in ISO 843; keys.ts in the console has
    // the same, and both are held to tests/vectors/keys.json.
    private const string Spellings =
        "àáâãäåāăą=a çćĉċč=c ďđð=d èéêëēĕėęě=e ĝğġģ=g ĥħ=h ìíîïĩīĭįıİ=i ĵ=j ķ=k ĺļľŀł=l ñńņň=n òóôõöøōŏő=o ŕŗř=r śŝşšș=s ţťŧț=t "
        + "ùúûüũūŭůűų=u ŵ=w ýÿŷ=y źżž=z ß=ss æ=ae œ=oe þ=th "
        + "а=a б=b в=v гґ=g д=d еёэ=e є=ie ж=zh з=z ийії=i к=k л=l м=m н=n о=o п=p р=r с=s т=t уў=u ф=f х=kh ц=ts ч=ch ш=sh щ=shch ы=y "
        + "ю=iu я=ia ј=j љ=lj њ=nj ћ=c ђ=d џ=dz ъь= "
        + "αά=a β=v γ=g δ=d εέ=e ζ=z ηή=i θ=th ιίϊΐ=i κ=k λ=l μ=m ν=n ξ=x οό=o π=p ρ=r σς=s τ=t υύϋΰ=y φ=f χ=ch ψ=ps ωώ=o";

    private static readonly FrozenDictionary<char, string> Spelt = Spellings
        .Split(' ')
        .Select(entry => entry.Split('='))
        .SelectMany(entry => entry[0].Select(letter => KeyValuePair.Create(letter, entry[1])))
        .ToFrozenDictionary();

    /// <summary>
    /// A label as a key: its words joined, the first small. Accents go, Cyrillic and Greek are spelt in Latin letters, what is of any other
    /// script is left out; the label keeps all of it.
    /// </summary>
    /// <param name="otherwise">What the key begins with where the label gives nothing to begin with.</param>
    public static string Of(string label, string otherwise)
    {
        var plain = string.Concat(label.Select(Plain));
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

    /// <summary>A letter in those that keys have: as it is, as it is spelt, or nothing; what is no letter as it is.</summary>
    private static string Plain(char letter)
    {
        if (Spelt.GetValueOrDefault(char.ToLowerInvariant(letter)) is { } spelt)
        {
            return char.IsUpper(letter) && spelt.Length > 0 ? char.ToUpperInvariant(spelt[0]) + spelt[1..] : spelt;
        }

        // An accent written behind its letter goes with it.
        var isNothing =
            letter >= 128 && (char.IsLetter(letter) || CharUnicodeInfo.GetUnicodeCategory(letter) == UnicodeCategory.NonSpacingMark);
        return isNothing ? "" : letter.ToString();
    }

    /// <summary>The stem, or the stem with the first number that makes it new.</summary>
    public static string Fresh(string stem, Func<string, bool> isTaken) =>
        Enumerable
            .Range(1, int.MaxValue)
            .Select(number => number == 1 ? stem : stem + number.ToString(CultureInfo.InvariantCulture))
            .First(key => !isTaken(key));
}

using System.Collections.Frozen;
using BrightTier.Core.Model;

namespace BrightTier.Core.Generation;

/// <summary>The words of a field's key and label that can tell what it is about.</summary>
public static class FieldWords
{
    /// <summary>Characters that stand between what several fields are about and what each says of it: Hull cover: insurer.</summary>
    private static readonly string[] Separators = [": ", " – ", " — ", " - ", " / "];

    private const int Shortest = 3;

    /// <summary>Words that say what sort of value it is, or which of several, never of what.</summary>
    private static readonly FrozenSet<string> Empty = new[]
    {
        // English
        "about after agreed all amount and any approved at before begin begun by code comment confirmed count current date day "
            + "description detail due each end ended estimated expected extra final first for from given has hour id in kind "
            + "last least length level main max maximum mean min minimum minute month more most name new next no not note number "
            + "of off old on one only or other our own paid per planned price quantity rate reason received reference remark required "
            + "result score second sent set share since size start started state status sum text the time title to total type unit "
            + "until use used valid value week when who whole with year yes",
        // Dutch
        "aantal aard bedrag begin bij datum de dag einde eerste en het in is jaar laatste maand naam niet nummer of om omschrijving op "
            + "opmerking per prijs reden sinds soort start stand status tijd tot totaal uur van vanaf volgende voor wanneer week",
    }.SelectMany(words => words.Split(' ')).ToFrozenSet(StringComparer.Ordinal);

    /// <summary>The telling words, those of the key first, each once, in the singular of English.</summary>
    public static IReadOnlyList<string> Of(Field field) => [.. InKey(field.Key).Concat(InText(Label(field, "en"))).Distinct()];

    /// <summary>The first telling word of a key, where the key begins with one.</summary>
    public static string? First(Field field) => Words(field.Key).FirstOrDefault() is { } word && IsTelling(word) ? word : null;

    /// <summary>What stands before the separator of a label; null where it has none.</summary>
    public static string? Before(Field field, string language)
    {
        var label = Label(field, language);
        var at = Separators
            .Select(separator => label.IndexOf(separator, StringComparison.Ordinal))
            .Where(place => place > 1)
            .DefaultIfEmpty(-1)
            .Min();
        return at < 0 ? null : label[..at].Trim();
    }

    /// <summary>Whether two fields are about the same: what labels have before a colon decides, else a telling word they share.</summary>
    /// <param name="entity">Whose own name tells nothing.</param>
    public static bool AreAlike(Field one, Field other, Entity entity) =>
        Before(one, "en") is var before && (before is not null || Before(other, "en") is not null)
            ? before == Before(other, "en")
            : Of(one).Except(InText(entity.Label.In("en"))).Intersect(Of(other)).Any();

    public static string Label(Field field, string language) => field.Label.In(language);

    private static IEnumerable<string> InKey(string key) => Words(key).Where(IsTelling);

    public static IEnumerable<string> InText(string text) => Words(text).Where(IsTelling);

    private static bool IsTelling(string word) => word.Length >= Shortest && !Empty.Contains(word);

    /// <summary>Words of a text or of a name in camel case, small and in the singular.</summary>
    private static IEnumerable<string> Words(string text)
    {
        var start = 0;
        for (var i = 0; i <= text.Length; i++)
        {
            var ends = i == text.Length || !char.IsLetter(text[i]) || (char.IsUpper(text[i]) && i > 0 && char.IsLower(text[i - 1]));
            if (!ends)
            {
                continue;
            }

            if (i > start)
            {
                yield return Singular(text[start..i].ToLowerInvariant());
            }

            start = i < text.Length && char.IsLetter(text[i]) ? i : i + 1;
        }
    }

    private static string Singular(string word) =>
        word.Length <= Shortest || word.EndsWith("ss", StringComparison.Ordinal) || word.EndsWith("us", StringComparison.Ordinal) ? word
        : word.EndsWith("ies", StringComparison.Ordinal) ? word[..^3] + "y"
        : word.EndsWith('s') ? word[..^1]
        : word;
}

using BrightTier.Core.Model;

namespace BrightTier.Core.Generation;

/// <summary>What a topic is called, from the labels of its fields, in each language they have.</summary>
internal static class TopicTitle
{
    /// <summary>Words with which no title ends.</summary>
    private static readonly HashSet<string> Hanging =
    [
        "of",
        "for",
        "to",
        "by",
        "the",
        "and",
        "van",
        "voor",
        "tot",
        "op",
        "de",
        "het",
        "en",
    ];

    public static Texts Of(string word, IReadOnlyList<Field> fields)
    {
        var languages = fields.SelectMany(field => field.Label.ByLanguage.Keys).Distinct().ToArray();
        return Texts.Of(
            languages.Select(language => KeyValuePair.Create(language, InOne(fields, language) ?? Otherwise(word, fields, language)))
        );
    }

    private static string? InOne(IReadOnlyList<Field> fields, string language)
    {
        var before = fields.Select(field => FieldWords.Before(field, language)).Distinct().ToArray();
        if (before is [{ } one])
        {
            return one;
        }

        // What a neighbour is called that came in between does not count.
        var labels = fields.Select(field => FieldWords.Label(field, language).Split(' ', StringSplitOptions.RemoveEmptyEntries)).ToArray();
        var first = labels[0];
        var shared = first.TakeWhile((each, i) => labels.All(label => i < label.Length && Same(label[i], each))).ToList();
        while (shared.Count > 0 && Hanging.Contains(shared[^1].ToLowerInvariant()))
        {
            shared.RemoveAt(shared.Count - 1);
        }

        if (shared.Count > 0)
        {
            return Capital(string.Join(' ', shared));
        }

        var anywhere = first.FirstOrDefault(each =>
            FieldWords.InText(each).Any() && labels.All(label => label.Any(other => Same(other, each)))
        );
        return anywhere is null ? null : Capital(anywhere);
    }

    /// <summary>Where the labels have no word in common: the word of the keys, in English; elsewhere the label of the first.</summary>
    private static string Otherwise(string word, IReadOnlyList<Field> fields, string language) =>
        language is "en" or Texts.AnyLanguage ? Capital(word) : FieldWords.Label(fields[0], language);

    private static bool Same(string one, string other) =>
        one.Trim(',', ':', '.').Equals(other.Trim(',', ':', '.'), StringComparison.OrdinalIgnoreCase);

    private static string Capital(string text) =>
        text.Trim(',', ':', '.') is var bare && bare.Length > 0 ? char.ToUpperInvariant(bare[0]) + bare[1..] : text;
}

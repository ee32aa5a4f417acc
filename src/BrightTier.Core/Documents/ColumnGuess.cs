using System.Globalization;
using System.Text;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>Finds what the columns of somebody's table probably are, by their headings.</summary>
public static class ColumnGuess
{
    /// <summary>What heads the column of a record's number.</summary>
    public const string Id = "id";

    /// <summary>
    /// For each heading the key of a field, <see cref="Id"/>, or null where nothing is like it: first those that are called so, in any
    /// language,
    /// whatever their capitals, accents and signs; then, of what is left, what is spelled nearly so. Nothing is given twice.
    /// </summary>
    public static IReadOnlyList<string?> Of(IReadOnlyList<string> headings, IReadOnlyList<Field> fields)
    {
        var guesses = new string?[headings.Count];
        var plain = headings.Select(Plain).ToArray();
        Assign(
            (heading, free) =>
                heading == Id && free(Id) ? Id : fields.FirstOrDefault(field => free(field.Key) && Plain(field.Key) == heading)?.Key
        );
        Assign(
            (heading, free) =>
                fields.FirstOrDefault(field => free(field.Key) && field.Label.ByLanguage.Values.Any(label => Plain(label) == heading))?.Key
        );
        Assign(
            (heading, free) =>
            {
                // Everything is near a heading of two or three letters.
                if (heading.Length < 4)
                {
                    return null;
                }

                var names = fields
                    .Where(field => free(field.Key))
                    .SelectMany(field => field.Label.ByLanguage.Values.Append(field.Key).Select(name => (Name: Plain(name), field.Key)))
                    .DistinctBy(pair => pair.Name)
                    .ToDictionary(pair => pair.Name, pair => pair.Key);
                return Suggestion.Nearest(heading, names.Keys) is { } near ? names[near] : null;
            }
        );
        return guesses;

        void Assign(Func<string, Func<string, bool>, string?> find)
        {
            for (var i = 0; i < headings.Count; i++)
            {
                guesses[i] ??= plain[i].Length > 0 ? find(plain[i], key => !guesses.Contains(key)) : null;
            }
        }
    }

    private static string Plain(string text)
    {
        var plain = new StringBuilder();
        foreach (var each in text.Normalize(NormalizationForm.FormD))
        {
            if (char.IsLetterOrDigit(each) && CharUnicodeInfo.GetUnicodeCategory(each) != UnicodeCategory.NonSpacingMark)
            {
                plain.Append(char.ToLowerInvariant(each));
            }
        }

        return plain.ToString();
    }
}

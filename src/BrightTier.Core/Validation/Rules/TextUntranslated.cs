using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A text that lacks one of the application's languages.</summary>
public sealed class TextUntranslated : IRule
{
    public string Code => "text-untranslated";

    public string About => "A text is not there in all languages of the application; users of the others get it in another one.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        var languages = subject.Definitions.Application.Languages;
        foreach (var node in subject.Nodes)
        {
            foreach (var (name, value) in node.Properties)
            {
                if (
                    name is not ("note" or "default")
                    && value is Value.Text { Texts: var texts }
                    && languages.Where(language => !Has(texts, language)).ToArray() is { Length: > 0 } missing
                    && HasWords(texts)
                )
                {
                    yield return new Finding(
                        Code,
                        Severity.Warning,
                        node.Id,
                        name,
                        $"'{Short(texts.ToString())}' is not translated into {string.Join(", ", missing)}."
                    );
                }
            }
        }
    }

    private static bool Has(Texts texts, string language) =>
        texts.ByLanguage.ContainsKey(language)
        || texts.ByLanguage.ContainsKey(language.Split('-')[0])
        || (language == "en" && texts.ByLanguage.ContainsKey(Texts.AnyLanguage));

    /// <summary>Outside of braces there is something to translate.</summary>
    private static bool HasWords(Texts texts) => Placeholders.Fill(texts.ToString(), _ => "").Count(char.IsLetter) > 1;

    private static string Short(string text) => text.Length > 40 ? text[..39] + "…" : text;
}

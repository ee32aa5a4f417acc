using System.Text;

namespace BrightTier.Core.Model;

/// <summary>
/// A language for testing: any language tag with the private-use subtag <c>x-pseudo</c> (RFC 5646, 2.2.7), such as en-x-pseudo. Texts
/// become
/// longer by two fifths and get marks on their letters, so that what is cut off, or never translated, shows. Placeholders stay as they are.
/// </summary>
public static class PseudoLanguage
{
    private const string Suffix = "-x-pseudo";

    private const string Plain = "aceinosuyACEINOSUY";
    private const string Marked = "áçéíñöšüýÁÇÉÍÑÖŠÜÝ";

    /// <summary>The real language of a pseudo one; null for any other.</summary>
    public static string? Base(string language) => language.EndsWith(Suffix, StringComparison.Ordinal) ? language[..^Suffix.Length] : null;

    public static string Of(string text)
    {
        if (string.IsNullOrWhiteSpace(text))
        {
            return text;
        }

        var built = new StringBuilder("[");
        var depth = 0;
        foreach (var c in text)
        {
            depth += c == '{' ? 1 : 0;
            var at = depth == 0 ? Plain.IndexOf(c, StringComparison.Ordinal) : -1;
            built.Append(at < 0 ? c : Marked[at]);
            depth -= c == '}' ? 1 : 0;
        }

        return built.Append('~', Math.Max(1, text.Length * 2 / 5)).Append(']').ToString();
    }
}

using System.Buffers;
using System.Globalization;
using System.Text;

namespace BrightTier.Core.Model;

/// <summary>
/// Which characters a text can hold: those of XML 1.0 (W3C, section 2.2, Char), so that every text that is accepted can be kept in either
/// database and written as JSON, YAML, CSV and XLIFF, and reads back the same everywhere.
/// </summary>
public static class TextCharacters
{
    /// <summary>
    /// Control characters other than tab and ends of line, U+FFFE, U+FFFF, and every half of a surrogate pair, which is looked at again.
    /// </summary>
    private static readonly SearchValues<char> Suspicious = SearchValues.Create([
        .. Enumerable.Range(0, 0x20).Select(code => (char)code).Except(['\t', '\n', '\r']),
        '\uFFFE',
        '\uFFFF',
        .. Enumerable.Range(0xD800, 0x800).Select(code => (char)code),
    ]);

    /// <summary>What is wrong with a text's characters, in words that go behind what holds it; null when it can be kept.</summary>
    public static Message? Problem(string text)
    {
        for (var at = text.AsSpan().IndexOfAny(Suspicious); at >= 0; )
        {
            if (!char.IsHighSurrogate(text[at]) || at + 1 == text.Length || !char.IsLowSurrogate(text[at + 1]))
            {
                return char.IsSurrogate(text[at])
                    ? (Message)$"has half of a character (U+{(int)text[at]:X4}) at place {at + 1}; leave it out"
                    : $"has a character that no text can hold (U+{(int)text[at]:X4}) at place {at + 1}; leave it out";
            }

            var next = text.AsSpan(at + 2).IndexOfAny(Suspicious);
            at = next < 0 ? -1 : at + 2 + next;
        }

        return null;
    }

    /// <summary>
    /// Whether a character is seen where it stands: not one that controls, formats or ends a line, is private or not assigned. Joiners,
    /// which
    /// several scripts are written with, are taken as seen.
    /// </summary>
    public static bool IsVisible(Rune rune) =>
        rune.Value is 0x200C or 0x200D
        || Rune.GetUnicodeCategory(rune)
            is not (
                UnicodeCategory.Control
                or UnicodeCategory.Format
                or UnicodeCategory.LineSeparator
                or UnicodeCategory.ParagraphSeparator
                or UnicodeCategory.Surrogate
                or UnicodeCategory.PrivateUse
                or UnicodeCategory.OtherNotAssigned
            );
}

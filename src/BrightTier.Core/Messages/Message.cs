using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text;

namespace BrightTier.Core.Messages;

/// <summary>
/// A text for people, written in the code in English and read in the language of whoever reads it. Every interpolated string becomes one
/// where a message is asked for: its text with numbered places is the key by which message files hold its translations, and what stands
/// in the places is kept, messages among them, until it is read. A plain string is none, so that no text is written past the files.
/// </summary>
/// <param name="literalLength">How many characters stand outside the places; the compiler says.</param>
/// <param name="formattedCount">How many places there are; the compiler says.</param>
[InterpolatedStringHandler]
public sealed class Message(int literalLength, int formattedCount) : ITranslation, IEquatable<Message>
{
    private readonly List<Part>? parts = formattedCount == 0 ? null : new List<Part>(2 * formattedCount + 1);
    private readonly int length = literalLength + (3 * formattedCount);

    /// <summary>All there is where there are no places: most of these are made and never read.</summary>
    private string whole = "";
    private string? key;

    /// <summary>What message files know it by: There is no {0} '{1}'. A brace of the text itself stands twice.</summary>
    public string Key => key ??= Write();

    /// <summary>What stands in the numbered places, in order.</summary>
    public IReadOnlyList<object?> Values => parts is null ? [] : [.. parts.Where(part => part.Literal is null).Select(part => part.Value)];

    /// <summary>A text that is the same in every language: a name, a value, a text of somebody's own.</summary>
    public static Message Verbatim(string text) => $"{text}";

    /// <summary>A word of the trade that is English in the code and has a translation of its own: section, choice list.</summary>
    public static Message Term(string word) => new(word.Length, 0) { whole = word };

    /// <summary>Several, one after the other, with a text between that is the same in every language.</summary>
    public static Message Join(string between, IEnumerable<Message> messages)
    {
        var joined = new Message(0, 1);
        foreach (var message in messages)
        {
            if (joined.parts!.Count > 0)
            {
                joined.AppendFormatted(between);
            }

            joined.AppendFormatted(message);
        }

        return joined;
    }

    /// <summary>Part of the text; the compiler calls this.</summary>
    public void AppendLiteral(string text)
    {
        if (parts is null)
        {
            whole += text;
        }
        else
        {
            parts.Add(new Part(text, null));
        }
    }

    /// <summary>A value's place; the compiler calls this.</summary>
    public void AppendFormatted<T>(T value) => parts!.Add(new Part(null, value));

    /// <summary>A number's place, with its format; the compiler calls this.</summary>
    public void AppendFormatted<T>(T value, string format)
        where T : IFormattable => AppendFormatted(new WrittenNumber(value, format));

    /// <summary>In English, whoever reads it: for what is kept, and for programs.</summary>
    public string English => In(MessageTexts.English);

    /// <summary>In a language, and in English where it has no translation.</summary>
    /// <param name="language">A language of the message files, or any other.</param>
    public string In(string language) => MessageTexts.Write(this, language);

    /// <summary>In the language of the current request (<see cref="CultureInfo.CurrentUICulture"/>).</summary>
    public override string ToString() => In(CultureInfo.CurrentUICulture.Name);

    /// <summary>Whether they say the same.</summary>
    public bool Equals(Message? other) => other is not null && English == other.English;

    public override bool Equals(object? obj) => Equals(obj as Message);

    public override int GetHashCode() => English.GetHashCode(StringComparison.Ordinal);

    private string Write()
    {
        if (parts is null)
        {
            return Escaped(whole);
        }

        var written = new StringBuilder(length);
        var place = 0;
        foreach (var part in parts)
        {
            if (part.Literal is { } literal)
            {
                written.Append(Escaped(literal));
            }
            else
            {
                written.Append(CultureInfo.InvariantCulture, $"{{{place++}}}");
            }
        }

        return written.ToString();
    }

    private static string Escaped(string literal) =>
        literal.AsSpan().ContainsAny('{', '}')
            ? literal.Replace("{", "{{", StringComparison.Ordinal).Replace("}", "}}", StringComparison.Ordinal)
            : literal;

    private readonly record struct Part(string? Literal, object? Value);
}

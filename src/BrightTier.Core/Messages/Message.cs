using System.Buffers;
using System.Globalization;
using System.Runtime.CompilerServices;

namespace BrightTier.Core.Messages;

/// <summary>
/// A text for people, written in the code in English and read in the language of whoever reads it. Every interpolated string becomes one
/// where a message is asked for: its text with numbered places is the key by which message files hold its translations, and what stands
/// in the places is kept, messages among them, until it is read. A plain string is none, so that no text is written past the files.
/// </summary>
[InterpolatedStringHandler]
public sealed class Message : ILocalized, IEquatable<Message>
{
    private static readonly SearchValues<char> Braces = SearchValues.Create("{}");

    private readonly List<object?>? values;

    /// <summary>Begins a message; the compiler calls this.</summary>
    public Message(int literalLength, int formattedCount)
    {
        _ = literalLength;
        values = formattedCount == 0 ? null : new List<object?>(formattedCount);
    }

    /// <summary>What message files know it by: There is no {0} '{1}'. A brace of the text itself stands twice.</summary>
    public string Key { get; private set; } = "";

    /// <summary>What stands in the numbered places, in order.</summary>
    public IReadOnlyList<object?> Values => values ?? [];

    /// <summary>A text that is the same in every language: a name, a value, a text of somebody's own.</summary>
    public static Message Verbatim(string text) => $"{text}";

    /// <summary>A word of the trade that is English in the code and has a translation of its own: section, choice list.</summary>
    public static Message Term(string word) => new(0, 0) { Key = word };

    /// <summary>Several, one after the other, with a text between that is the same in every language.</summary>
    public static Message Join(string between, IEnumerable<Message> messages)
    {
        var joined = new Message(0, 1);
        foreach (var message in messages)
        {
            if (joined.Values.Count > 0)
            {
                joined.AppendFormatted(between);
            }

            joined.AppendFormatted(message);
        }

        return joined;
    }

    /// <summary>Part of the text; the compiler calls this.</summary>
    public void AppendLiteral(string text) =>
        Key += text.AsSpan().ContainsAny(Braces)
            ? text.Replace("{", "{{", StringComparison.Ordinal).Replace("}", "}}", StringComparison.Ordinal)
            : text;

    /// <summary>A value's place; the compiler calls this.</summary>
    public void AppendFormatted<T>(T value)
    {
        Key += string.Create(CultureInfo.InvariantCulture, $"{{{values!.Count}}}");
        values.Add(value);
    }

    /// <summary>A number's place, with its format; the compiler calls this.</summary>
    public void AppendFormatted<T>(T value, string format)
        where T : IFormattable => AppendFormatted(value.ToString(format, CultureInfo.InvariantCulture));

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
}

using System.Globalization;
using System.Text;

namespace BrightTier.Core.Messages;

/// <summary>
/// A text with places, of the ICU message format what translations need: {0}, {0, plural, =0 {…} one {…} other {# …}}, and '{' for a brace.
/// </summary>
public sealed class MessagePattern
{
    private readonly IReadOnlyList<Part> parts;

    private MessagePattern(IReadOnlyList<Part> parts) => this.parts = parts;

    /// <summary>The places it has, each once, in order.</summary>
    public IEnumerable<int> Places => parts.SelectMany(part => part.Places).Distinct().Order();

    /// <summary>The forms its plurals have, for each plural.</summary>
    public IEnumerable<IReadOnlyCollection<string>> Plurals => parts.OfType<Plural>().Select(plural => plural.Forms.Keys.ToArray());

    /// <summary>Reads a translation.</summary>
    /// <exception cref="FormatException">A brace is not closed, or a place is no number and no plural with the form other.</exception>
    public static MessagePattern Parse(string text)
    {
        var at = 0;
        var pattern = Parse(text, ref at, false);
        return at == text.Length ? pattern : throw Wrong(text, at);
    }

    /// <summary>Reads an English key, in which a brace of the text stands twice and nothing else is special.</summary>
    internal static MessagePattern OfKey(string key)
    {
        var read = new List<Part>();
        var literal = new StringBuilder();
        for (var at = 0; at < key.Length; at++)
        {
            if (key[at] is '{' or '}' && key[at + 1] == key[at])
            {
                literal.Append(key[at++]);
            }
            else if (key[at] is '{')
            {
                var end = key.IndexOf('}', at);
                read.Add(new Literal(literal.ToString()));
                literal.Clear();
                read.Add(new Place(int.Parse(key.AsSpan(at + 1, end - at - 1), CultureInfo.InvariantCulture)));
                at = end;
            }
            else
            {
                literal.Append(key[at]);
            }
        }

        read.Add(new Literal(literal.ToString()));
        return new MessagePattern(read);
    }

    internal void Write(StringBuilder text, IReadOnlyList<object?> values, string language, string number = "#")
    {
        foreach (var part in parts)
        {
            part.Write(text, values, language, number);
        }
    }

    private static MessagePattern Parse(string text, ref int at, bool inPlural)
    {
        var read = new List<Part>();
        var literal = new StringBuilder();
        while (at < text.Length && !(inPlural && text[at] == '}'))
        {
            switch (text[at])
            {
                case '\'' when at + 1 < text.Length && text[at + 1] is '{' or '}' or '#':
                    var close = text.IndexOf('\'', at + 1);
                    literal.Append(text, at + 1, (close < 0 ? throw Wrong(text, at) : close) - at - 1);
                    at = close + 1;
                    break;
                case '{':
                    Close();
                    at++;
                    read.Add(ParsePlace(text, ref at));
                    break;
                case '}':
                    throw Wrong(text, at);
                case '#' when inPlural:
                    Close();
                    at++;
                    read.Add(Count.Only);
                    break;
                default:
                    literal.Append(text[at++]);
                    break;
            }
        }

        Close();
        return new MessagePattern(read);

        void Close()
        {
            read.Add(new Literal(literal.ToString()));
            literal.Clear();
        }
    }

    /// <summary>What stands between the braces of a place; the first is behind.</summary>
    private static Part ParsePlace(string text, ref int at)
    {
        var end = text.AsSpan(at).IndexOfAny(',', '}') + at;
        if (
            end < at
            || !int.TryParse(text.AsSpan(at, end - at), NumberStyles.AllowTrailingWhite, CultureInfo.InvariantCulture, out var place)
        )
        {
            throw Wrong(text, at);
        }

        at = end + 1;
        if (text[end] == '}')
        {
            return new Place(place);
        }

        const string Kind = " plural,";
        if (!text.AsSpan(at).StartsWith(Kind))
        {
            throw Wrong(text, at);
        }

        at += Kind.Length;
        var forms = new Dictionary<string, MessagePattern>(StringComparer.Ordinal);
        while (true)
        {
            at += text.AsSpan(at).Length - text.AsSpan(at).TrimStart().Length;
            if (at >= text.Length)
            {
                throw Wrong(text, at);
            }

            if (text[at] == '}')
            {
                at++;
                return forms.ContainsKey("other") ? new Plural(place, forms) : throw Wrong(text, at);
            }

            var open = text.IndexOf('{', at);
            var form = open < 0 ? throw Wrong(text, at) : text[at..open].Trim();
            at = open + 1;
            forms[form] = Parse(text, ref at, true);
            at++;
        }
    }

    private static FormatException Wrong(string text, int at) =>
        new($"'{text}' is no message at {at.ToString(CultureInfo.InvariantCulture)}.");

    private abstract record Part
    {
        public virtual IEnumerable<int> Places => [];

        public abstract void Write(StringBuilder text, IReadOnlyList<object?> values, string language, string number);
    }

    private sealed record Literal(string Text) : Part
    {
        public override void Write(StringBuilder text, IReadOnlyList<object?> values, string language, string number) => text.Append(Text);
    }

    private sealed record Count : Part
    {
        public static readonly Count Only = new();

        public override void Write(StringBuilder text, IReadOnlyList<object?> values, string language, string number) =>
            text.Append(number);
    }

    private sealed record Place(int Index) : Part
    {
        public override IEnumerable<int> Places => [Index];

        public override void Write(StringBuilder text, IReadOnlyList<object?> values, string language, string number) =>
            text.Append(
                values[Index] switch
                {
                    ITranslation translation => translation.In(language),
                    decimal or double or float => new WrittenNumber((IFormattable)values[Index]!, null).In(language),
                    IFormattable formattable => formattable.ToString(null, CultureInfo.InvariantCulture),
                    var other => other?.ToString(),
                }
            );
    }

    private sealed record Plural(int Index, IReadOnlyDictionary<string, MessagePattern> Forms) : Part
    {
        public override IEnumerable<int> Places => [Index, .. Forms.Values.SelectMany(form => form.Places)];

        public override void Write(StringBuilder text, IReadOnlyList<object?> values, string language, string number)
        {
            var amount = Convert.ToInt64(values[Index], CultureInfo.InvariantCulture);
            var written = amount.ToString(CultureInfo.InvariantCulture);
            var form = Forms.GetValueOrDefault("=" + written)
                ?? Forms.GetValueOrDefault(PluralForms.Of(language, amount))
                ?? Forms["other"];
            form.Write(text, values, language, written);
        }
    }
}

using System.Globalization;
using System.Text;

namespace BrightTier.Core.Conditions;

internal enum TokenKind
{
    End,
    Name,
    Int,
    Double,
    String,

    /// <summary>A field's name between backticks, which may have characters a name cannot.</summary>
    Quoted,
    Symbol,
}

/// <summary>One token: its text for names and symbols, its value for literals.</summary>
internal readonly record struct Token(TokenKind Kind, string Text, object? Value, Span At);

/// <summary>Turns a condition's text into tokens, by the lexis of the CEL language definition.</summary>
internal static class Lexer
{
    private static readonly string[] Symbols =
    [
        "&&",
        "||",
        "==",
        "!=",
        "<=",
        ">=",
        "<",
        ">",
        "+",
        "-",
        "*",
        "/",
        "%",
        "!",
        "?",
        ":",
        "(",
        ")",
        "[",
        "]",
        "{",
        "}",
        ".",
        ",",
    ];

    public static (List<Token> Tokens, ConditionProblem? Problem) Read(string text)
    {
        var tokens = new List<Token>();
        var at = 0;
        while (true)
        {
            while (at < text.Length && (char.IsWhiteSpace(text[at]) || Comment(text, at)))
            {
                at = Comment(text, at) ? LineEnd(text, at) : at + 1;
            }

            if (at >= text.Length)
            {
                tokens.Add(new Token(TokenKind.End, "the end", null, new Span(text.Length, 0)));
                return (tokens, null);
            }

            if (Next(text, ref at, out var token) is { } problem)
            {
                return (tokens, problem);
            }

            tokens.Add(token);
        }
    }

    private static ConditionProblem? Next(string text, ref int at, out Token token)
    {
        var start = at;
        var c = text[at];
        token = default;
        if (char.IsAsciiLetter(c) || c == '_')
        {
            return Word(text, ref at, out token);
        }

        if (char.IsAsciiDigit(c) || (c == '.' && at + 1 < text.Length && char.IsAsciiDigit(text[at + 1])))
        {
            return Number(text, ref at, out token);
        }

        if (c == '`')
        {
            var close = text.IndexOf('`', at + 1);
            if (close <= at + 1)
            {
                return new ConditionProblem(new Span(start, 1), $"the name that begins here has no closing `");
            }

            at = close + 1;
            token = new Token(TokenKind.Quoted, text[(start + 1)..close], null, new Span(start, at - start));
            return null;
        }

        if (c is '\'' or '"')
        {
            return Text(text, start, ref at, raw: false, out token);
        }

        if (Habits.Sign(text, start) is { } habit)
        {
            return new ConditionProblem(new Span(start, habit.Sign.Length), $"'{habit.Sign}' is no operator{habit.Hint}");
        }

        if (Symbols.FirstOrDefault(symbol => string.CompareOrdinal(text, start, symbol, 0, symbol.Length) == 0) is { } found)
        {
            at += found.Length;
            token = new Token(TokenKind.Symbol, found, null, new Span(start, found.Length));
            return null;
        }

        Message message = c switch
        {
            '=' => (Message)$"'=' is no operator; to compare write '=='",
            '&' => $"'&' is no operator; write '&&'",
            '|' => $"'|' is no operator; write '||'",
            '‘' or '’' or '“' or '”' => $"curly quotation marks do not enclose a text; use ' or \"",
            _ => $"'{c}' has no meaning here",
        };
        return new ConditionProblem(new Span(start, 1), message);
    }

    /// <summary>A name, or what a letter before a quotation mark begins.</summary>
    private static ConditionProblem? Word(string text, ref int at, out Token token)
    {
        var start = at;
        token = default;
        while (at < text.Length && (char.IsAsciiLetterOrDigit(text[at]) || text[at] == '_'))
        {
            at++;
        }

        var name = text[start..at];
        if (at < text.Length && text[at] is '\'' or '"')
        {
            if (name is "r" or "R")
            {
                return Text(text, start, ref at, raw: true, out token);
            }

            if (name is "b" or "B")
            {
                return new ConditionProblem(new Span(start, 1), $"bytes are not part of conditions here; write a text without 'b'");
            }
        }

        token = new Token(TokenKind.Name, name, null, new Span(start, at - start));
        return null;
    }

    private static ConditionProblem? Text(string text, int start, ref int at, bool raw, out Token token)
    {
        var problem = Quoted(text, ref at, raw, out var content);
        token = new Token(TokenKind.String, "", content, new Span(start, at - start));
        return problem;
    }

    private static bool Comment(string text, int at) => at + 1 < text.Length && text[at] == '/' && text[at + 1] == '/';

    private static int LineEnd(string text, int at) => text.IndexOf('\n', at) is var end and >= 0 ? end : text.Length;

    /// <summary>One more than the largest is let through for the sake of its negative; the parser settles it.</summary>
    private const ulong LargestWithSign = (ulong)long.MaxValue + 1;

    private static ConditionProblem? Hexadecimal(string text, ref int at, out Token token)
    {
        var start = at;
        token = default;
        at += 2;
        while (at < text.Length && char.IsAsciiHexDigit(text[at]))
        {
            at++;
        }

        var span = new Span(start, at - start);
        if (
            !ulong.TryParse(text[(start + 2)..at], NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var whole)
            || whole > LargestWithSign
        )
        {
            return new ConditionProblem(span, $"'{text[start..at]}' is no whole number of 64 bits");
        }

        token = new Token(TokenKind.Int, text[start..at], unchecked((long)whole), span);
        return null;
    }

    /// <summary>Goes over the digits of a number, its fraction and exponent; whether it has either.</summary>
    private static bool Decimal(string text, ref int at)
    {
        var isDouble = false;
        Digits(ref at);
        if (at + 1 < text.Length && text[at] == '.' && char.IsAsciiDigit(text[at + 1]))
        {
            isDouble = true;
            at++;
            Digits(ref at);
        }

        if (at < text.Length && text[at] is 'e' or 'E')
        {
            var exponent = at + 1;
            if (exponent < text.Length && text[exponent] is '+' or '-')
            {
                exponent++;
            }

            if (exponent < text.Length && char.IsAsciiDigit(text[exponent]))
            {
                isDouble = true;
                at = exponent;
                Digits(ref at);
            }
        }

        return isDouble;

        void Digits(ref int at)
        {
            while (at < text.Length && char.IsAsciiDigit(text[at]))
            {
                at++;
            }
        }
    }

    private static ConditionProblem? Number(string text, ref int at, out Token token)
    {
        var start = at;
        token = default;
        if (text[at] == '0' && at + 1 < text.Length && text[at + 1] is 'x' or 'X')
        {
            return Hexadecimal(text, ref at, out token);
        }

        var isDouble = Decimal(text, ref at);
        var span = new Span(start, at - start);
        if (at < text.Length && text[at] is 'u' or 'U')
        {
            return new ConditionProblem(
                new Span(start, at - start + 1),
                $"unsigned numbers are not part of conditions here; write the number without 'u'"
            );
        }

        if (at < text.Length && (char.IsAsciiLetter(text[at]) || text[at] == '_'))
        {
            return new ConditionProblem(new Span(start, at - start + 1), $"'{text[at]}' cannot follow a number directly");
        }

        if (isDouble)
        {
            token = new Token(
                TokenKind.Double,
                text[start..at],
                double.Parse(text.AsSpan(start, at - start), CultureInfo.InvariantCulture),
                span
            );
            return null;
        }

        if (!ulong.TryParse(text.AsSpan(start, at - start), CultureInfo.InvariantCulture, out var whole) || whole > LargestWithSign)
        {
            return new ConditionProblem(span, $"{text[start..at]} is too large; whole numbers have 64 bits");
        }

        token = new Token(TokenKind.Int, text[start..at], unchecked((long)whole), span);
        return null;
    }

    private static ConditionProblem? Quoted(string text, ref int at, bool raw, out string content)
    {
        var start = at;
        var quote = text[at++];
        var three = at + 1 < text.Length && text[at] == quote && text[at + 1] == quote;
        at += three ? 2 : 0;
        var built = new StringBuilder();
        content = "";
        while (at < text.Length && !Closes(text, at, quote, three) && (three || text[at] is not ('\n' or '\r')))
        {
            if (text[at] != '\\' || raw)
            {
                built.Append(text[at++]);
                continue;
            }

            var escapeAt = at++;
            var escape = at < text.Length ? text[at++] : '\0';
            var digits = escape switch
            {
                'x' or 'X' => 2,
                'u' => 4,
                'U' => 8,
                >= '0' and <= '3' => 3,
                _ => 0,
            };
            if (digits == 0)
            {
                var index = "abfnrtv\\'\"`?".IndexOf(escape, StringComparison.Ordinal);
                if (index < 0)
                {
                    return new ConditionProblem(
                        new Span(escapeAt, at - escapeAt),
                        $"'\\{escape}' is no escape; for a backslash write '\\\\'"
                    );
                }

                built.Append("\a\b\f\n\r\t\v\\'\"`?"[index]);
                continue;
            }

            if (digits == 3)
            {
                at--;
            }

            var code = at + digits <= text.Length ? text.Substring(at, digits) : "";
            at = Math.Min(text.Length, at + digits);
            if (!CodePoint(code, digits == 3 ? 8 : 16, out var rune))
            {
                return new ConditionProblem(new Span(escapeAt, at - escapeAt), $"'{text[escapeAt..at]}' is no character");
            }

            built.Append(rune.ToString());
        }

        if (!Closes(text, at, quote, three))
        {
            return new ConditionProblem(
                new Span(start, at - start),
                $"the text that begins here has no closing {(three ? new string(quote, 3) : quote.ToString())}"
            );
        }

        at += three ? 3 : 1;
        content = built.ToString();
        return null;
    }

    private static bool Closes(string text, int at, char quote, bool three) =>
        at < text.Length && text[at] == quote && (!three || (at + 2 < text.Length && text[at + 1] == quote && text[at + 2] == quote));

    private static bool CodePoint(string digits, int radix, out Rune rune)
    {
        rune = default;
        var code = 0L;
        foreach (var c in digits)
        {
            var digit = char.IsAsciiHexDigit(c) ? Convert.ToInt32(c.ToString(), 16) : 99;
            if (digit >= radix)
            {
                return false;
            }

            code = (code * radix) + digit;
        }

        return digits.Length > 0 && code <= 0x10FFFF && Rune.TryCreate((int)code, out rune);
    }
}

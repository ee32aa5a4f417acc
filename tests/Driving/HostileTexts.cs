using System.Text;

namespace BrightTier.Testing;

/// <summary>Texts that have meant something else to one program or another than they say; and all characters there are.</summary>
public static class HostileTexts
{
    public static readonly string[] All =
    [
        "",
        " ",
        "  leading",
        "trailing  ",
        "a: b",
        "a #b",
        "- a",
        "? a",
        "! a",
        "& a",
        "* a",
        "%a",
        "@a",
        "`a`",
        "'",
        "\"",
        "''",
        "\"\"",
        "\\",
        "\\\\",
        "\\u0041",
        "\\x",
        "[",
        "]",
        "{",
        "}",
        "[]",
        "{}",
        "{a}",
        ",",
        "|",
        ">",
        "|-",
        "---",
        "...",
        "--- a",
        "...\n",
        "null",
        "Null",
        "NULL",
        "~",
        "true",
        "TRUE",
        "False",
        "yes",
        "No",
        "on",
        "OFF",
        "y",
        "N",
        "1",
        "1.0",
        "-1",
        "0x1f",
        "0o17",
        "1e3",
        ".inf",
        "-.INF",
        ".nan",
        "2026-05-31",
        "2026-05-31T10:00:00Z",
        "12:30:45",
        "<<",
        "=",
        "!!str a",
        "&a b",
        "*a",
        "a\tb",
        "\ta",
        "a\nb",
        "\n",
        "a\n\n b",
        "a\r\nb",
        "\r",
        "a\u0085b",
        "a\u00A0b",
        "\u00A0",
        "a\u2028b",
        "\u2028",
        "a\u2029b",
        "a\uFEFFb",
        "\uFEFF",
        "a\u200Eb\u202E",
        "a\u200Db",
        "\u0301a",
        "a\u0007b",
        "\u0000",
        "a\u0000",
        "\u001B[31m",
        "\u007F",
        "\u009F",
        "\uFFFD",
        "\uFFFE",
        "\uFFFF",
        "\uD800",
        "a\uDC00b",
        "\uDC00\uD800",
        "\U0001F6A4",
        "\U0001F468\u200D\U0001F469",
        "\U0010FFFF",
        "\uE000",
        "مرسى",
        "קשר",
        "係船",
        "\u3000",
        "ﷺ",
        "<script>alert(1)</script>",
        "'; DROP TABLE vessel; --",
        "${7*7}",
        "{{7*7}}",
        "%s%n",
        "=1+1",
        "../../etc/passwd",
        "C:\\x",
        "a:b",
        "a:",
        ":a",
        "key: [1, 2]",
        "a, b",
        "a | b",
        "# a",
        "a\u2028# b: c",
        "!x\u2028y",
        "\u2028- a",
        "x\u2028  y: z",
        new string('a', 4_000),
        string.Concat(Enumerable.Repeat("\U0001F6A4", 2_000)),
        "a" + new string(' ', 3_000) + "b",
        new string('\n', 4_000),
    ];

    /// <summary>Every character of Unicode that stands for itself, some thousand to a text.</summary>
    public static IEnumerable<string> EveryCharacter()
    {
        var run = new StringBuilder();
        for (var code = 0x20; code <= 0x10FFFF; code++)
        {
            if (code is (>= 0xD800 and <= 0xDFFF) or 0xFFFE or 0xFFFF)
            {
                continue;
            }

            run.Append(char.ConvertFromUtf32(code));
            if (run.Length > 3_900)
            {
                yield return run.ToString();
                run.Clear();
            }
        }

        yield return run.ToString();
    }
}

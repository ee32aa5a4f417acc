using System.Buffers;
using System.Text;

namespace BrightTier.Core.Documents;

/// <summary>
/// Comma-separated values (RFC 4180): what is quoted, and reading it back. A cell that a spreadsheet would take for a formula is written
/// with an
/// apostrophe before it, and that one is taken off again in reading. Tables whose cells are parted by semicolons or tabs are read too,
/// since
/// spreadsheets write those where the comma is a decimal sign.
/// </summary>
public static class CsvText
{
    private const string Formulas = "=+-@\t\r";

    // What parts the cells of other tables is quoted as well, so that a line of ours shows nothing but commas.
    private static readonly SearchValues<char> Quoted = SearchValues.Create(",;\t\"\r\n");

    /// <summary>One line, with its end.</summary>
    public static string Line(IEnumerable<string> cells) => string.Join(',', cells.Select(Cell)) + "\r\n";

    private static string Cell(string text)
    {
        // Numbers begin with a sign too, and are harmless; so is what already begins with an apostrophe, once it has another.
        if (
            (
                text.Length > 0
                && Formulas.Contains(text[0], StringComparison.Ordinal)
                && !decimal.TryParse(
                    text,
                    System.Globalization.NumberStyles.Float,
                    System.Globalization.CultureInfo.InvariantCulture,
                    out _
                )
            ) || text.StartsWith('\'')
        )
        {
            text = "'" + text;
        }

        return text.AsSpan().ContainsAny(Quoted) ? $"\"{text.Replace("\"", "\"\"", StringComparison.Ordinal)}\"" : text;
    }

    /// <summary>
    /// What parts the cells of a table: of comma, semicolon and tab the one that stands most often outside quotation marks in its first
    /// line.
    /// </summary>
    public static char Separator(string text)
    {
        var counts = new Dictionary<char, int>
        {
            [','] = 0,
            [';'] = 0,
            ['\t'] = 0,
        };
        var quoted = false;
        foreach (var each in text)
        {
            if (each == '\n' && !quoted)
            {
                break;
            }

            quoted ^= each == '"';
            if (!quoted && counts.TryGetValue(each, out var count))
            {
                counts[each] = count + 1;
            }
        }

        return counts.MaxBy(pair => pair.Value).Key;
    }

    /// <summary>
    /// All lines with the number each begins at, counted from 1. Line ends may be CRLF or LF; a mark of byte order is passed over.
    /// </summary>
    /// <returns>The lines, or what is wrong and in which line.</returns>
    public static (IReadOnlyList<(int Line, IReadOnlyList<string> Cells)> Lines, (int Line, Message Message)? Problem) Read(string text)
    {
        var lines = new List<(int, IReadOnlyList<string>)>();
        var separator = Separator(text);
        var at = text.StartsWith('\uFEFF') ? 1 : 0;
        var number = 1;
        while (at < text.Length)
        {
            var (start, cells) = (number, new List<string>());
            while (true)
            {
                string word;
                if (at < text.Length && text[at] == '"')
                {
                    var (opened, cell) = (number, new StringBuilder());
                    for (at++; ; at++)
                    {
                        if (at >= text.Length)
                        {
                            return ([], (opened, $"a quotation mark is opened and never closed"));
                        }

                        if (text[at] == '"' && (at + 1 >= text.Length || text[at + 1] != '"'))
                        {
                            at++;
                            break;
                        }

                        at += text[at] == '"' ? 1 : 0;
                        number += text[at] == '\n' ? 1 : 0;
                        cell.Append(text[at]);
                    }

                    if (at < text.Length && text[at] != separator && text[at] is not ('\r' or '\n'))
                    {
                        return ([], (number, $"text stands behind a closing quotation mark; a mark inside a cell is doubled"));
                    }

                    word = cell.ToString();
                }
                else
                {
                    var from = at;
                    while (at < text.Length && text[at] != separator && text[at] is not ('\r' or '\n'))
                    {
                        at++;
                    }

                    word = text[from..at];
                }

                if (cells.Count == Model.Limits.Columns)
                {
                    return ([], (start, $"this line has more than {Model.Limits.Columns} cells, which is the most a table can have"));
                }

                cells.Add(
                    word is ['\'', var first, ..] && (Formulas.Contains(first, StringComparison.Ordinal) || first == '\'')
                        ? word[1..]
                        : word
                );
                if (at < text.Length && text[at] == separator)
                {
                    at++;
                    continue;
                }

                break;
            }

            if (at < text.Length)
            {
                at += text[at] == '\r' && at + 1 < text.Length && text[at + 1] == '\n' ? 2 : 1;
                number++;
            }

            if (cells is not [""])
            {
                lines.Add((start, cells));
            }
        }

        return (lines, null);
    }
}

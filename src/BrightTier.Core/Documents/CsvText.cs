using System.Buffers;
using Sylvan.Data.Csv;

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
    public static char Separator(string text) => FirstLine(text).Separator;

    /// <summary>What parts the cells of the first line, and how often it stands there.</summary>
    private static (char Separator, int Count) FirstLine(string text)
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
            if (!quoted && each is ('\n' or '\r'))
            {
                break;
            }

            quoted ^= each == '"';
            if (!quoted && counts.TryGetValue(each, out var count))
            {
                counts[each] = count + 1;
            }
        }

        var (separator, most) = counts.MaxBy(pair => pair.Value);
        return (separator, most);
    }

    /// <summary>
    /// All lines that are not empty, with the number each begins at, counted from 1. Line ends may be CRLF, LF or CR; a mark of byte
    /// order is passed over.
    /// </summary>
    /// <returns>The lines, or what is wrong and in which line.</returns>
    public static (IReadOnlyList<(int Line, IReadOnlyList<string> Cells)> Lines, (int Line, Message Message)? Problem) Read(string text)
    {
        // The reader makes a column of each cell of the first line: what nobody will read is not given to it.
        var (separator, parted) = FirstLine(text);
        if (parted >= Model.Limits.Columns)
        {
            return ([], TooWide(1));
        }

        var lines = new List<(int, IReadOnlyList<string>)>();
        var number = 1;
        try
        {
            using var source = new StringReader(text.StartsWith('\uFEFF') ? text[1..] : text);
            using var reader = CsvDataReader.Create(source, Options(separator, text.Length));
            for (; reader.Read(); number += LineEnds(reader.GetRawRecordSpan()))
            {
                if (reader.RowFieldCount > Model.Limits.Columns)
                {
                    return ([], TooWide(number));
                }

                var cells = new string[reader.RowFieldCount];
                for (var i = 0; i < cells.Length; i++)
                {
                    cells[i] = Unguarded(reader.GetString(i));
                }

                if (cells is not [""])
                {
                    lines.Add((number, cells));
                }
            }

            return (lines, null);
        }
        catch (CsvFormatException)
        {
            return (
                [],
                (number, $"a quotation mark is never closed, or text stands behind a closing one; a mark inside a cell is doubled")
            );
        }
    }

    private static (int, Message) TooWide(int line) =>
        (line, $"this line has more than {Model.Limits.Columns} cells, which is the most a table can have");

    private static CsvDataReaderOptions Options(char separator, int length) =>
        new()
        {
            HasHeaders = false,
            Delimiter = separator,
            CsvStyle = CsvStyle.Standard,
            ResultSetMode = ResultSetMode.SingleResult,
            // A cell may be as long as what is sent.
            MaxBufferSize = Math.Max(1 << 16, length + 1),
        };

    /// <summary>Without the apostrophe that keeps a spreadsheet from taking it for a formula.</summary>
    private static string Unguarded(string cell) =>
        cell is ['\'', var first, ..] && (Formulas.Contains(first, StringComparison.Ordinal) || first == '\'') ? cell[1..] : cell;

    private static int LineEnds(ReadOnlySpan<char> text)
    {
        var count = text.Count('\n');
        for (var i = 0; i < text.Length; i++)
        {
            count += text[i] == '\r' && (i + 1 == text.Length || text[i + 1] != '\n') ? 1 : 0;
        }

        return count;
    }
}

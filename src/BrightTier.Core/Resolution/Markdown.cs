using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Resolution;

/// <summary>A block of a formatted text: a paragraph, or a list of them.</summary>
public sealed record TextBlock(string Kind, ImmutableArray<ImmutableArray<TextRun>> Lines);

/// <summary>A run of a formatted text: plain, strong, emphasis, or a link to <paramref name="To"/>.</summary>
public sealed record TextRun(string Kind, string Text, string? To = null);

/// <summary>
/// A safe subset of Markdown (CommonMark): paragraphs, lists of '-', '*' or '1.', **strong**, *emphasis* and [links](https://…). Everything
/// else,
/// HTML included, is text. Takes time proportional to the text.
/// </summary>
public static class Markdown
{
    public static ImmutableArray<TextBlock> Parse(string text)
    {
        var blocks = ImmutableArray.CreateBuilder<TextBlock>();
        var kind = "";
        var lines = new List<string>();
        foreach (var line in text.ReplaceLineEndings("\n").Split('\n'))
        {
            var (next, content) = Start(line.Trim());
            if (next != kind || next.Length == 0)
            {
                Close();
                kind = next;
            }

            if (next.Length > 0)
            {
                lines.Add(content);
            }
        }

        Close();
        return blocks.ToImmutable();

        void Close()
        {
            if (lines.Count > 0)
            {
                blocks.Add(new TextBlock(kind, kind == "paragraph" ? [Runs(string.Join(' ', lines))] : [.. lines.Select(Runs)]));
                lines.Clear();
            }
        }
    }

    private static (string Kind, string Content) Start(string line)
    {
        if (line.Length == 0)
        {
            return ("", "");
        }

        if (line.Length > 1 && line[0] is '-' or '*' && line[1] == ' ')
        {
            return ("list", line[2..].TrimStart());
        }

        var digits = line.TakeWhile(char.IsAsciiDigit).Count();
        return digits is > 0 and < 4 && line.Length > digits + 1 && line[digits] == '.' && line[digits + 1] == ' '
            ? ("numbered", line[(digits + 2)..].TrimStart())
            : ("paragraph", line);
    }

    private static ImmutableArray<TextRun> Runs(string line)
    {
        var runs = ImmutableArray.CreateBuilder<TextRun>();
        var plain = 0;
        var at = 0;
        while (at < line.Length)
        {
            var (run, end) = line[at] switch
            {
                '*' when at + 1 < line.Length && line[at + 1] == '*' => Between(line, at, "**", "strong"),
                '*' => Between(line, at, "*", "emphasis"),
                '[' => Link(line, at),
                _ => (null, at),
            };
            if (run is null)
            {
                at = end > at ? end : at + 1;
                continue;
            }

            if (at > plain)
            {
                runs.Add(new TextRun("plain", line[plain..at]));
            }

            runs.Add(run);
            plain = at = end;
        }

        if (plain < line.Length)
        {
            runs.Add(new TextRun("plain", line[plain..]));
        }

        return runs.ToImmutable();
    }

    private static (TextRun? Run, int End) Between(string line, int at, string mark, string kind)
    {
        var start = at + mark.Length;
        var close = start < line.Length && !char.IsWhiteSpace(line[start]) ? line.IndexOf(mark, start, StringComparison.Ordinal) : -1;
        // With no second mark on the line, nothing behind this one needs looking at again.
        return close > start ? (new TextRun(kind, line[start..close]), close + mark.Length) : (null, start);
    }

    private static (TextRun? Run, int End) Link(string line, int at)
    {
        var close = line.IndexOf("](", at, StringComparison.Ordinal);
        var end = close < 0 ? -1 : line.IndexOf(')', close);
        if (end < 0)
        {
            return (null, at + 1);
        }

        var to = line[(close + 2)..end];
        return Grammar.Problem(Grammar.Property("address")!, new Value.Word(to)) is null
            ? (new TextRun("link", line[(at + 1)..close], to), end + 1)
            : (null, at + 1);
    }
}

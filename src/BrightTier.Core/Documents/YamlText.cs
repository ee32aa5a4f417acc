using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using BrightTier.Core.Model;
using YamlDotNet.Core;
using YamlDotNet.Core.Events;

namespace BrightTier.Core.Documents;

/// <summary>
/// YAML 1.2 text to and from <see cref="FileNode"/>. JSON is read as the YAML it is. Anchors, aliases and tags are refused: a document says
/// what it says where it says it, and nothing can make a small file unfold into a large one.
/// </summary>
public static class YamlText
{
    public static (FileNode? Node, FileProblem? Problem) Read(string text)
    {
        if (text.Length > Limits.FileLength)
        {
            return (
                null,
                new FileProblem(new Place(1, 1, ""), $"the file has {text.Length} characters; at most {Limits.FileLength} are read")
            );
        }

        var parser = new YamlDotNet.Core.Parser(new StringReader(text));
        try
        {
            parser.Consume<StreamStart>();
            if (!parser.TryConsume<DocumentStart>(out _))
            {
                return (null, new FileProblem(new Place(1, 1, ""), $"the file is empty"));
            }

            var node = Node(parser, "", 0);
            parser.Consume<DocumentEnd>();
            return parser.TryConsume<StreamEnd>(out _)
                ? (node, null)
                : throw Stop(parser.Current!.Start, $"a second document begins here; a file holds one");
        }
        catch (ReadAbort stopped)
        {
            return (null, stopped.Problem);
        }
        catch (Exception error) when (error is InvalidOperationException or ArgumentException)
        {
            // The parser's own way of giving up on some malformed flow collections and tags.
            return (
                null,
                new FileProblem(
                    parser.Current is { } last ? At(last.End, "") : new Place(1, 1, ""),
                    $"is not YAML behind here: brackets, braces, quotation marks or tags do not fit together"
                )
            );
        }
        catch (YamlException error)
        {
            return (
                null,
                new FileProblem(
                    new Place((int)error.Start.Line, (int)error.Start.Column, ""),
                    $"is not YAML: {error.InnerException?.Message ?? error.Message}"
                )
            );
        }
    }

    private static FileNode Node(YamlDotNet.Core.Parser parser, string pointer, int depth)
    {
        if (depth > Limits.FileDepth)
        {
            throw Stop(parser.Current!.Start, $"nests deeper than {Limits.FileDepth} levels here");
        }

        if (parser.Current is NodeEvent { Anchor.IsEmpty: false } or AnchorAlias)
        {
            throw Stop(parser.Current.Start, $"anchors and aliases are not part of these files; write the value itself");
        }

        switch (parser.Current)
        {
            case YamlDotNet.Core.Events.Scalar scalar:
                parser.MoveNext();
                return new FileNode.Scalar(scalar.Value, scalar.Style is not ScalarStyle.Plain, At(scalar.Start, pointer));
            case SequenceStart list:
                parser.MoveNext();
                var elements = ImmutableArray.CreateBuilder<FileNode>();
                while (!parser.TryConsume<SequenceEnd>(out _))
                {
                    elements.Add(Node(parser, $"{pointer}/{elements.Count.ToString(CultureInfo.InvariantCulture)}", depth + 1));
                }

                return new FileNode.List(elements.ToImmutable(), At(list.Start, pointer));
            case MappingStart map:
                parser.MoveNext();
                var entries = ImmutableArray.CreateBuilder<FileNode.Entry>();
                var keys = new HashSet<string>(StringComparer.Ordinal);
                while (!parser.TryConsume<MappingEnd>(out _))
                {
                    if (parser.Current is not YamlDotNet.Core.Events.Scalar key)
                    {
                        throw Stop(parser.Current!.Start, $"a key must be a plain word");
                    }

                    parser.MoveNext();
                    if (!keys.Add(key.Value))
                    {
                        throw Stop(key.Start, $"'{key.Value}' is given twice");
                    }

                    var keyAt = At(key.Start, pointer).Under(key.Value);
                    entries.Add(new FileNode.Entry(key.Value, keyAt, Node(parser, keyAt.Pointer, depth + 1)));
                }

                return new FileNode.Map(entries.ToImmutable(), At(map.Start, pointer));
            default:
                throw Stop(parser.Current!.Start, $"something unexpected stands here");
        }
    }

    private static Place At(Mark mark, string pointer) => new((int)mark.Line, (int)mark.Column, pointer);

    private static ReadAbort Stop(Mark mark, Message message) => new(new FileProblem(At(mark, ""), message));

    private sealed class ReadAbort(FileProblem problem) : Exception
    {
        public FileProblem Problem { get; } = problem;
    }

    /// <summary>Canonical text: the same tree gives the same bytes.</summary>
    public static string Write(FileNode node)
    {
        var text = new StringBuilder();
        Block(text, node, 0, afterDash: false);
        return text.ToString();
    }

    private static void Block(StringBuilder text, FileNode node, int indent, bool afterDash)
    {
        switch (node)
        {
            case FileNode.Map map:
                for (var i = 0; i < map.Entries.Length; i++)
                {
                    var entry = map.Entries[i];
                    if (i > 0 || !afterDash)
                    {
                        text.Append(' ', indent);
                    }

                    text.Append(Plain(entry.Key)).Append(':');
                    Below(text, entry.Value, indent + 2);
                }

                break;
            case FileNode.List list:
                for (var i = 0; i < list.Elements.Length; i++)
                {
                    var element = list.Elements[i];
                    text.Append(' ', i > 0 || !afterDash ? indent : 0).Append("- ");
                    if (IsInline(element))
                    {
                        Inline(text, element);
                        text.Append('\n');
                    }
                    else
                    {
                        Block(text, element, indent + 2, afterDash: true);
                    }
                }

                break;
            default:
                Inline(text, node);
                text.Append('\n');
                break;
        }
    }

    private static void Below(StringBuilder text, FileNode value, int indent)
    {
        if (IsInline(value))
        {
            text.Append(' ');
            Inline(text, value);
            text.Append('\n');
        }
        else
        {
            text.Append('\n');
            Block(text, value, indent, afterDash: false);
        }
    }

    /// <summary>Scalars, what asks for one line, and what is empty.</summary>
    private static bool IsInline(FileNode node) =>
        node switch
        {
            FileNode.List list => list.Flow || list.Elements.IsEmpty,
            FileNode.Map map => map.Flow
                || map.Entries.IsEmpty
                || map.Entries.All(entry =>
                    entry.Value is FileNode.Scalar && (entry.Key.Length is 2 or 3 || entry.Key.Contains('-', StringComparison.Ordinal))
                ),
            _ => true,
        };

    private static void Inline(StringBuilder text, FileNode node)
    {
        switch (node)
        {
            case FileNode.Scalar scalar:
                text.Append(scalar.Quoted ? Plain(scalar.Content) : scalar.Content);
                break;
            case FileNode.List list:
                text.Append('[');
                for (var i = 0; i < list.Elements.Length; i++)
                {
                    text.Append(i > 0 ? ", " : "");
                    Inline(text, list.Elements[i]);
                }

                text.Append(']');
                break;
            case FileNode.Map map:
                text.Append('{');
                for (var i = 0; i < map.Entries.Length; i++)
                {
                    text.Append(i > 0 ? ", " : " ").Append(Plain(map.Entries[i].Key)).Append(": ");
                    Inline(text, map.Entries[i].Value);
                }

                text.Append(" }");
                break;
        }
    }

    /// <summary>A text without quotation marks where YAML reads it back as the same text, otherwise between them.</summary>
    private static string Plain(string content)
    {
        var safe =
            content.Length > 0
            && (char.IsLetter(content[0]) || content[0] is '/' or '(')
            && !char.IsWhiteSpace(content[^1])
            && content.All(c =>
                c is not ('[' or ']' or '{' or '}' or ',' or '#' or '"' or '\\' or '&' or '*' or '|')
                && !char.IsSurrogate(c)
                && TextCharacters.IsVisible(new Rune(c))
            )
            && !content.Contains(": ", StringComparison.Ordinal)
            && !content.EndsWith(':')
            && content.ToLowerInvariant() is not ("true" or "false" or "null" or "yes" or "no" or "on" or "off" or "y" or "n");
        return safe ? content : Quoted(content);
    }

    /// <summary>Between double quotation marks (YAML 1.2, 5.7 and 7.3.1), with what is not seen written as an escape.</summary>
    private static string Quoted(string content)
    {
        var text = new StringBuilder(content.Length + 8).Append('"');
        foreach (var rune in content.EnumerateRunes())
        {
            _ = rune.Value switch
            {
                '"' => text.Append("\\\""),
                '\\' => text.Append("\\\\"),
                '\n' => text.Append("\\n"),
                '\r' => text.Append("\\r"),
                '\t' => text.Append("\\t"),
                _ when TextCharacters.IsVisible(rune) => text.Append(rune),
                <= 0xFFFF => text.Append(CultureInfo.InvariantCulture, $"\\u{rune.Value:X4}"),
                _ => text.Append(CultureInfo.InvariantCulture, $"\\U{rune.Value:X8}"),
            };
        }

        return text.Append('"').ToString();
    }
}

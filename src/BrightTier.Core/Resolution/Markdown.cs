using System.Collections.Immutable;
using System.Text.RegularExpressions;
using BrightTier.Core.Model;
using Markdig;
using Markdig.Parsers;
using Markdig.Parsers.Inlines;
using Markdig.Syntax;
using Markdig.Syntax.Inlines;

namespace BrightTier.Core.Resolution;

/// <summary>A block of a formatted text: a paragraph, or a list of them.</summary>
public sealed record TextBlock(string Kind, ImmutableArray<ImmutableArray<TextRun>> Lines);

/// <summary>A run of a formatted text: plain, strong, emphasis, or a link to <paramref name="To"/>.</summary>
public sealed record TextRun(string Kind, string Text, string? To = null);

/// <summary>
/// Of Markdown (CommonMark) what is allowed in forms: paragraphs, lists, **strong**, *emphasis* and [links](https://…) to addresses a
/// form may have. Everything else, HTML included, is text. A list within a list goes on in its lines.
/// </summary>
public static partial class Markdown
{
    private static readonly MarkdownPipeline Allowed = Pipeline();

    /// <summary>The blocks of a text, in order.</summary>
    public static ImmutableArray<TextBlock> Parse(string text)
    {
        // A definition of a link shows nothing where it stands; here it is a line like any other.
        var source = Definition().Replace(text, @"${before}\${definition}");
        MarkdownDocument document;
        try
        {
            document = Markdig.Markdown.Parse(source, Allowed);
        }
        catch (ArgumentException)
        {
            // Nested deeper than anybody reads.
            return
            [
                new TextBlock(
                    "paragraph",
                    [
                        [new TextRun("plain", text)],
                    ]
                ),
            ];
        }

        return [.. document.Select(block => Block(block, source)).Where(block => !block.Lines.IsEmpty)];
    }

    private static MarkdownPipeline Pipeline()
    {
        var builder = new MarkdownPipelineBuilder().UsePreciseSourceLocation();
        builder.BlockParsers.Clear();
        builder.BlockParsers.AddIfNotAlready<ListBlockParser>();
        builder.BlockParsers.Add(new ParagraphBlockParser { ParseSetextHeadings = false });
        builder.InlineParsers.Clear();
        builder.InlineParsers.AddIfNotAlready<LinkInlineParser>();
        builder.InlineParsers.AddIfNotAlready<EscapeInlineParser>();
        builder.InlineParsers.AddIfNotAlready<EmphasisInlineParser>();
        builder.InlineParsers.AddIfNotAlready<LineBreakInlineParser>();
        return builder.Build();
    }

    private static TextBlock Block(Block block, string source) =>
        block is ListBlock list
            ? new TextBlock(list.IsOrdered ? "numbered" : "list", [.. list.SelectMany(item => Lines(item, source))])
            : new TextBlock("paragraph", [.. Lines(block, source)]);

    private static IEnumerable<ImmutableArray<TextRun>> Lines(Block block, string source) =>
        block switch
        {
            ContainerBlock container => container.SelectMany(each => Lines(each, source)),
            LeafBlock { Inline: { } line } => [Joined(line.SelectMany(part => Runs(part, source)))],
            _ =>
            [
                [new TextRun("plain", source.Substring(block.Span.Start, block.Span.Length))],
            ],
        };

    /// <param name="kind">What the text around it is; a link stays one in whatever it stands.</param>
    private static IEnumerable<TextRun> Runs(Inline part, string source, string kind = "plain")
    {
        return part switch
        {
            LiteralInline literal => [new TextRun(kind, literal.Content.ToString())],
            LineBreakInline => [new TextRun(kind, " ")],
            EmphasisInline emphasis => Within(
                emphasis,
                kind != "plain" ? kind
                    : emphasis.DelimiterCount == 2 ? "strong"
                    : "emphasis"
            ),
            LinkInline { IsImage: false, Url: { } to } link when MayLead(to) =>
            [
                new TextRun("link", string.Concat(Within(link, "plain").Select(run => run.Text)), to),
            ],
            DelimiterInline alone => Within(alone, kind).Prepend(new TextRun(kind, alone.ToLiteral())),
            // What is not allowed is shown as it was written.
            _ when !part.Span.IsEmpty => [new TextRun(kind, source.Substring(part.Span.Start, part.Span.Length))],
            ContainerInline container => Within(container, kind),
            _ => [],
        };

        IEnumerable<TextRun> Within(ContainerInline container, string inner) => container.SelectMany(each => Runs(each, source, inner));
    }

    private static bool MayLead(string to) => Grammar.Problem(Grammar.Property("address")!, new Value.Word(to)) is null;

    /// <summary>Texts of a kind next to one another are one.</summary>
    private static ImmutableArray<TextRun> Joined(IEnumerable<TextRun> runs)
    {
        var joined = ImmutableArray.CreateBuilder<TextRun>();
        foreach (var run in runs)
        {
            if (run.To is null && joined is [.., { To: null } last] && last.Kind == run.Kind)
            {
                joined[^1] = last with { Text = last.Text + run.Text };
            }
            else
            {
                joined.Add(run);
            }
        }

        return joined.ToImmutable();
    }

    [GeneratedRegex(
        @"^(?<before>[ ]{0,3}(([-*+]|\d{1,9}[.)])[ ]+)*)(?<definition>\[[^\]\n]*\]:)",
        RegexOptions.Multiline | RegexOptions.ExplicitCapture
    )]
    private static partial Regex Definition();
}

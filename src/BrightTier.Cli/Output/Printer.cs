using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization.Metadata;
using Spectre.Console;

namespace BrightTier.Cli.Output;

/// <summary>Words and tables for people, JSON for programs. Colours and lines only where somebody is looking.</summary>
public sealed class Printer
{
    private readonly TextWriter output;

    /// <summary>Nothing where nobody is looking: making one takes longer than much of what a program asks for.</summary>
    private readonly IAnsiConsole? console;

    public Printer(TextWriter output, bool json, bool quiet)
    {
        this.output = output;
        Json = json;
        Quiet = quiet;
        if (output == Console.Out && !Console.IsOutputRedirected && Environment.GetEnvironmentVariable("NO_COLOR") is null or "")
        {
            console = AnsiConsole.Create(
                new AnsiConsoleSettings
                {
                    Ansi = AnsiSupport.Yes,
                    ColorSystem = ColorSystemSupport.Detect,
                    Interactive = InteractionSupport.No,
                    Out = new AnsiConsoleOutput(output),
                }
            );
            Width = console.Profile.Width = Math.Clamp(console.Profile.Width, 60, 200);
        }
    }

    public bool Json { get; }

    /// <summary>Whether only results are printed, and not what was done.</summary>
    public bool Quiet { get; }

    public bool Colours => console is not null;

    public int Width { get; } = 100;

    public void Line(string text = "") => output.WriteLine(text);

    /// <summary>A sentence about what was done, beside the result: nothing where results alone are asked for.</summary>
    public void Note(string text)
    {
        if (!Quiet && !Json)
        {
            output.WriteLine(text);
        }
    }

    /// <summary>What was done: as JSON where that is asked for, else in a sentence.</summary>
    public void Done(JsonObject result, string sentence)
    {
        if (Json)
        {
            Write(result);
        }
        else
        {
            Note(sentence);
        }
    }

    /// <summary>How JSON is written for people and programs alike.</summary>
    public static JsonSerializerOptions Indented { get; } =
        new()
        {
            WriteIndented = true,
            Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
            TypeInfoResolver = Contracts.WireJson.Default,
        };

    /// <summary>A value as its JSON, when JSON is asked for.</summary>
    public void Write<T>(T value, JsonTypeInfo<T> type) => Write(JsonSerializer.SerializeToNode(value, type));

    public void Write(JsonNode? node)
    {
        output.WriteLine(node?.ToJsonString(Indented) ?? "null");
    }

    /// <summary>A table; in a pipe, its rows with tabs between.</summary>
    public void Table(IReadOnlyList<string> columns, IEnumerable<IReadOnlyList<string>> rows)
    {
        if (console is null)
        {
            output.WriteLine(string.Join('\t', columns));
            foreach (var row in rows)
            {
                output.WriteLine(string.Join('\t', row.Select(cell => cell.Replace('\t', ' ').Replace('\n', ' '))));
            }

            return;
        }

        var lines = rows.ToList();
        if (lines.Count == 0)
        {
            console.MarkupLine("[dim]There are none.[/]");
            return;
        }

        // Only what has spaces is broken: a key, an id or a path is there to be copied.
        var table = new Table().Border(TableBorder.Simple);
        for (var i = 0; i < columns.Count; i++)
        {
            var column = new TableColumn($"[bold]{Markup.Escape(columns[i])}[/]");
            table.AddColumn(
                lines.Any(row => row[i].Contains(' ', StringComparison.Ordinal) && row[i].Length > 18) ? column : column.NoWrap()
            );
        }

        foreach (var row in lines)
        {
            table.AddRow([.. row.Select(Markup.Escape)]);
        }

        console.Write(table);
    }

    /// <summary>A word in a colour, where colours are.</summary>
    public void Marked(string colour, string word, string rest)
    {
        if (console is not null)
        {
            console.MarkupLine($"[{colour}]{Markup.Escape(word)}[/]{Markup.Escape(rest)}");
        }
        else
        {
            output.WriteLine(word + rest);
        }
    }
}

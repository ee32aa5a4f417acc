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

    public Printer(TextWriter output, bool json)
    {
        this.output = output;
        Json = json;
        if (output == Console.Out && !Console.IsOutputRedirected && Environment.GetEnvironmentVariable("NO_COLOR") is null or "")
        {
            console = AnsiConsole.Create(new AnsiConsoleSettings { Ansi = AnsiSupport.Yes, ColorSystem = ColorSystemSupport.Detect, Interactive = InteractionSupport.No, Out = new AnsiConsoleOutput(output) });
            Width = console.Profile.Width = Math.Clamp(console.Profile.Width, 60, 200);
        }
    }

    public bool Json { get; }

    public bool Colours => console is not null;

    public int Width { get; } = 100;

    public void Line(string text = "") => output.WriteLine(text);

    /// <summary>A value as its JSON, when JSON is asked for.</summary>
    public void Write<T>(T value, JsonTypeInfo<T> type) => Write(JsonSerializer.SerializeToNode(value, type));

    public void Write(JsonNode? node)
    {
        output.WriteLine(node?.ToJsonString(new JsonSerializerOptions { WriteIndented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping, TypeInfoResolver = Contracts.WireJson.Default }) ?? "null");
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

        var table = new Table().Border(TableBorder.Simple);
        foreach (var column in columns)
        {
            table.AddColumn(new TableColumn($"[bold]{Markup.Escape(column)}[/]"));
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

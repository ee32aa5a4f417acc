using System.Text;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Cli.Output;

/// <summary>A layout in a terminal: its levels as an indented outline, or its rows and cells drawn to scale.</summary>
public static class Outline
{
    public static IEnumerable<string> Lines(Layout layout)
    {
        var depth = new Dictionary<NodeId, int>();
        foreach (var node in layout.Walk())
        {
            var level = layout.ParentOf(node.Id) is { } parent ? depth[parent] + 1 : 0;
            depth[node.Id] = level;
            if (node.Kind is NodeKind.Cell && node.Children.Length == 1)
            {
                depth[node.Id] = level - 1;
                continue;
            }

            var span =
                layout.ParentOf(node.Id) is { } holder
                && layout.Find(holder) is { Kind: NodeKind.Cell } cell
                && cell.Number("span") is { } units
                    ? $"  {units}/12"
                    : "";
            var condition = node.Word("visible") is { } visible ? $"  when {visible}" : "";
            yield return $"{new string(' ', level * 2)}{Name(node)}{span}{condition}";
        }
    }

    private static string Name(Node node) =>
        node.Kind switch
        {
            NodeKind.Layout => $"{node.Word("key")} ({node.Word("entity")})",
            NodeKind.Body => $"body, {node.Word("arrangement") ?? "stack"}",
            NodeKind.Top or NodeKind.Bottom => $"{Grammar.Of(node.Kind).Name}: {node.Text("text")}",
            NodeKind.Page or NodeKind.Section => $"{Grammar.Of(node.Kind).Name} {node.Text("title")}",
            NodeKind.Field => node.Word("field")!,
            _ => $"{Grammar.Of(node.Kind).Name} {node.Text("heading") ?? node.Text("text")}".TrimEnd(),
        };

    /// <summary>Each row as boxes whose widths are their spans; <paramref name="width"/> in characters.</summary>
    public static IEnumerable<string> Wireframe(Layout layout, int width)
    {
        var inner = Math.Clamp(width, 50, 160) - 2;
        foreach (var node in layout.Walk())
        {
            switch (node.Kind)
            {
                case NodeKind.Top or NodeKind.Bottom:
                    yield return $"  {node.Text("text")}";
                    break;
                case NodeKind.Page:
                    yield return "";
                    yield return $"━━ {node.Text("title")} "
                        + $"{new string('━', Math.Max(2, inner - 3 - (node.Text("title")?.ToString().Length ?? 0)))}";
                    break;
                case NodeKind.Section:
                    yield return "";
                    yield return $"  {node.Text("title")}{(node.Word("visible") is { } visible ? $"  (when {visible})" : "")}";
                    break;
                case NodeKind.Row:
                    foreach (var line in Row(node, inner - 2))
                    {
                        yield return "  " + line;
                    }

                    break;
            }
        }
    }

    private static IEnumerable<string> Row(Node row, int width)
    {
        var spans = Spans.Share([.. row.Children.Select(cell => cell.Number("span"))]);
        var widths = spans.Select(span => Math.Max(4, width * span / Limits.Units)).ToArray();
        var height = Math.Max(1, row.Children.Select(cell => cell.Children.Sum(Height)).DefaultIfEmpty(1).Max());
        yield return Line(widths, (_, room) => "┌" + new string('─', room) + "┐");
        for (var line = 0; line < height; line++)
        {
            var at = line;
            yield return Line(widths, (i, room) => "│" + Fit(Content(row.Children[i], at), room) + "│");
        }

        yield return Line(widths, (_, room) => "└" + new string('─', room) + "┘");
    }

    private static string Line(int[] widths, Func<int, int, string> draw)
    {
        var line = new StringBuilder();
        for (var i = 0; i < widths.Length; i++)
        {
            line.Append(draw(i, widths[i] - 2));
        }

        return line.ToString();
    }

    private static int Height(Node item) => item.Kind is NodeKind.Field ? Math.Min(3, item.Number("lines") ?? 1) : 1;

    private static string Content(Node cell, int line)
    {
        foreach (var item in cell.Children)
        {
            if (line == 0)
            {
                return " " + (item.Text("label")?.ToString() ?? Name(item));
            }

            line -= Height(item);
            if (line < 0)
            {
                return "";
            }
        }

        return "";
    }

    private static string Fit(string text, int room) => text.Length > room ? text[..Math.Max(0, room - 1)] + "…" : text.PadRight(room);
}

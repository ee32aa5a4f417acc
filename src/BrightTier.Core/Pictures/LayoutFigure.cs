using System.Collections.Immutable;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Pictures;

/// <summary>Draws what stands where in a layout: small, to be chosen by, or whole, with every page and what became of each item.</summary>
internal sealed class LayoutFigure
{
    public const double Margin = 20;
    private const double Rem = 10;
    private const double Inner = LayoutPicture.Width - (2 * Margin);
    private const double Control = 25;
    private const double Label = 17;
    private const double Gap = 12;

    private readonly SvgText svg;
    private readonly Entity? entity;
    private readonly string language;

    /// <summary>What became of items; null where it is drawn small.</summary>
    private readonly IReadOnlyDictionary<NodeId, ItemChange>? changes;
    private double y = Margin;

    private LayoutFigure(SvgText svg, Entity? entity, string language, IReadOnlyDictionary<NodeId, ItemChange>? changes)
    {
        this.svg = svg;
        this.entity = entity;
        this.language = language;
        this.changes = changes;
    }

    private bool IsWhole => changes is not null;

    /// <summary>Draws the first page.</summary>
    /// <returns>The height it takes.</returns>
    public static double Small(SvgText svg, Layout layout, Entity? entity, string language) =>
        new LayoutFigure(svg, entity, language, null).Drawn(layout);

    /// <summary>Draws every page, one under another, hidden items faintly, with marks at what is another.</summary>
    /// <returns>The height it takes.</returns>
    public static double Whole(
        SvgText svg,
        Layout layout,
        Entity? entity,
        string language,
        IReadOnlyDictionary<NodeId, ItemChange> changes
    ) => new LayoutFigure(svg, entity, language, changes).Drawn(layout);

    private double Drawn(Layout layout)
    {
        Draw(layout.Root);
        return y + Margin - Gap;
    }

    /// <summary>Draws a node, and over it what became of it.</summary>
    private void Marked(Node node, double x, double width, Action draw)
    {
        var top = y;
        var faint = IsWhole && node.Flag("hidden");
        if (faint)
        {
            svg.BeginFaint();
        }

        draw();
        if (faint)
        {
            svg.EndFaint();
        }

        if (changes?.GetValueOrDefault(node.Id) is { } change and not ItemChange.None)
        {
            // Of a part that is only called or set otherwise its heading is another, not all that stands in it.
            var height =
                node.Kind is NodeKind.Page or NodeKind.Section && change is ItemChange.Changed ? 18
                : node.Kind is NodeKind.Section ? y - top - Gap
                : y - top;
            svg.Around(change, x - 5, top - 5, width + 10, Math.Max(16, height) + 6);
        }
    }

    private void Draw(Node root)
    {
        switch (root.Word("kind"))
        {
            case "list":
                Columns([.. root.Children.Where(child => child.Kind is NodeKind.Column)]);
                break;
            case "card":
                Card(root);
                break;
            default:
                foreach (var part in root.Children)
                {
                    Marked(part, Margin, Inner, () => Part(part));
                }

                break;
        }
    }

    private void Part(Node part)
    {
        switch (part.Kind)
        {
            case NodeKind.Top:
                svg.Write("band", Margin, y + 18, Inner, part.Text("empty")?.In(language) ?? entity?.Label.In(language) ?? "");
                y += 34;
                break;
            case NodeKind.Body:
                Pages(part.Children, part.Word("arrangement") ?? "stack", Margin, Inner);
                break;
            case NodeKind.Bottom:
                svg.Rule(Margin, y, Inner);
                y += 24;
                break;
            case NodeKind.Section:
                Section(part, Margin, Inner);
                break;
        }
    }

    private void Pages(ImmutableArray<Node> pages, string arrangement, double x, double width)
    {
        if (IsWhole)
        {
            foreach (var page in pages)
            {
                Marked(page, x, width, () => Page(page, pages.Length > 1, x, width));
                y += Gap;
            }

            return;
        }

        if (arrangement != "stack" && pages.Length > 1)
        {
            var each = width / pages.Length;
            for (var i = 0; i < pages.Length; i++)
            {
                svg.Write(i == 0 ? "open" : "tab", x + (i * each), y + 14, each - 6, pages[i].Text("title")?.In(language) ?? "");
            }

            svg.Rule(x, y + 22, width);
            svg.Mark(x, y + 20, each - 12);
            y += 36;
        }

        foreach (var section in pages.Take(arrangement == "stack" ? pages.Length : 1).SelectMany(page => page.Children))
        {
            Section(section, x, width);
        }
    }

    /// <summary>A page among the others, which one sees one at a time on the form itself.</summary>
    private void Page(Node page, bool titled, double x, double width)
    {
        if (titled)
        {
            svg.Write("open", x, y + 14, width, page.Text("title")?.In(language) ?? "");
            svg.Rule(x, y + 22, width);
            y += 36;
        }

        foreach (var section in page.Children)
        {
            Marked(section, x, width, () => Section(section, x, width));
        }
    }

    private void Section(Node section, double x, double width)
    {
        if (!IsWhole && (y > LayoutPicture.Highest || section.Flag("hidden")))
        {
            return;
        }

        if (section.Text("title")?.In(language) is { Length: > 0 } title)
        {
            svg.Write("title", x, y + 13, width, title);
            y += 24;
        }

        if (IsWhole || !(section.Flag("collapsible") && section.Flag("collapsed")))
        {
            foreach (var row in section.Children)
            {
                Row(row, x, width);
            }
        }

        y += Gap;
    }

    private void Row(Node row, double x, double width)
    {
        var spans = Spans.Share([.. row.Children.Select(cell => cell.Number("span"))]);
        var (top, bottom, at) = (y, y, 0);
        for (var i = 0; i < row.Children.Length; i++)
        {
            if (at + spans[i] > Limits.Units)
            {
                (top, at) = (bottom, 0);
            }

            y = top;
            var left = x + ((width + Gap) * at / Limits.Units);
            var room = ((width + Gap) * Math.Min(Limits.Units, spans[i]) / Limits.Units) - Gap;
            foreach (var item in row.Children[i].Children.Where(item => IsWhole || !item.Flag("hidden")))
            {
                Marked(item, left, room, () => Item(item, left, room));
                y += Gap;
            }

            bottom = Math.Max(bottom, y);
            at += spans[i];
        }

        y = bottom;
    }

    private void Item(Node item, double x, double width)
    {
        if (item.Kind is NodeKind.Panel)
        {
            Pages(item.Children, item.Word("panel") ?? "stack", x, width);
            return;
        }

        if (item.Kind is NodeKind.Text)
        {
            svg.Line(x, y + 4, width * 0.9);
            svg.Line(x, y + 18, width * 0.6);
            y += 28;
            return;
        }

        var (name, lines) = item.Kind switch
        {
            NodeKind.Heading => (item.Text("heading"), 0),
            NodeKind.Divider or NodeKind.Spacer => (null, 0),
            NodeKind.Related => (item.Text("label"), 3),
            NodeKind.Piece => (item.Text("title"), 2),
            _ => (item.Text("label") ?? FieldOf(item)?.Label, item.Number("lines") ?? (FieldOf(item)?.Type is FieldType.LongText ? 4 : 1)),
        };
        if (item.Kind is NodeKind.Divider)
        {
            svg.Rule(x, y + 3, width);
            y += 6;
            return;
        }

        if (FieldOf(item)?.Type is FieldType.Boolean)
        {
            svg.Box(x, y + Label + 5, 15, 15);
            svg.Write("label", x + 22, y + Label + 17, width - 22, name?.In(language) ?? "");
            y += Label + Control;
            return;
        }

        if (name is not null)
        {
            svg.Write(lines == 0 ? "title" : "label", x, y + 11, width, name.In(language));
            y += Label;
        }

        if (lines > 0)
        {
            var height = lines == 1 ? Control : lines * 1.45 * Rem + 11;
            svg.Box(x, y, width, height);
            y += height;
        }
    }

    private Field? FieldOf(Node item) => item.Kind is NodeKind.Field ? entity?.Find(item.Word("field") ?? "") : null;

    /// <summary>A list: its columns' names over a few rows.</summary>
    private void Columns(ImmutableArray<Node> columns)
    {
        const int Rows = 7;
        var shares = columns.Select(column => column.Number("share") ?? 1).ToArray();
        var x = Margin;
        foreach (var (column, share) in columns.Zip(shares))
        {
            var width = Inner * share / Math.Max(1, shares.Sum());
            if (changes?.GetValueOrDefault(column.Id) is { } change and not ItemChange.None)
            {
                svg.Around(change, x - 4, y - 6, width - Gap + 8, 34 + (Rows * 24));
            }

            svg.Write(
                "label",
                x,
                y + 12,
                width - Gap,
                (column.Text("label") ?? entity?.Find(column.Word("column") ?? "")?.Label)?.In(language) ?? ""
            );
            for (var row = 0; row < Rows; row++)
            {
                svg.Line(x, y + 30 + (row * 24), (width - Gap) * (row % 3 == 1 ? 0.5 : 0.75));
            }

            x += width;
        }

        for (var row = 0; row <= Rows; row++)
        {
            svg.Rule(Margin, y + 20 + (row * 24), Inner);
        }

        y += 30 + (Rows * 24);
    }

    /// <summary>A card: its picture, what its record is called, and its lines.</summary>
    private void Card(Node root)
    {
        var left = Margin;
        if (root.Word("picture") is not null)
        {
            svg.Box(Margin, y, 110, 110);
            left += 126;
        }

        svg.Write("band", left, y + 18, LayoutPicture.Width - Margin - left, entity?.Label.In(language) ?? "");
        y += 36;
        foreach (var item in root.Children.SelectMany(row => row.Children).SelectMany(cell => cell.Children))
        {
            Marked(item, left, LayoutPicture.Width - Margin - left, () =>
            {
                svg.Write("label", left, y + 11, 120, (item.Text("label") ?? FieldOf(item)?.Label)?.In(language) ?? "");
                svg.Line(left + 128, y + 7, LayoutPicture.Width - Margin - left - 150);
                y += 18;
            });
            y += 4;
        }

        y = Math.Max(y, Margin + 122);
    }
}

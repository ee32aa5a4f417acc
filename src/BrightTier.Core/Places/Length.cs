using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Places;

/// <summary>
/// How long a form is at one width: rows of cells one under another, height in rem, and screens of <see cref="Length.Screen"/> rem.
/// </summary>
public sealed record FormLength(int Rows, double Rem)
{
    public double Screens => Rem / Length.Screen;
}

/// <summary>
/// The length meter: how long a layout is before anybody draws it. The measures are those of web/form/src/form.css;
/// a test in Chromium holds the two to a tenth of each other. What hides by condition is counted, since a meter answers before there is a
/// record.
/// </summary>
public static class Length
{
    /// <summary>What of a window is left for a form: 45 rem, or 720 of 800 pixels.</summary>
    public const double Screen = 45;

    /// <summary>Below this width, in rem, cells stand one under another.</summary>
    public const int Stacks = 35;

    private const double Label = 1.475;
    private const double Control = 2.5;
    private const double RowGap = 1;
    private const double SideGap = 1.75;
    private const double Line = 1.45;
    private const double LetterWidth = 0.47;

    /// <summary>How long a layout is at a width in rem.</summary>
    /// <param name="definitions">Where the choices are that stand beside each other as boxes.</param>
    public static FormLength Measure(Layout layout, Entity entity, Definitions definitions, int rem)
    {
        var measuring = new LengthMeasure(entity, definitions, rem, layout);
        return measuring.Form(layout.Root);
    }

    /// <summary>How high an item stands, in rem, in a cell of middling width.</summary>
    public static double OfItem(Node item) => new LengthMeasure(null, Definitions.Empty, 60, null).Item(item, 30).Height;

    private readonly record struct Extent(double Height, int Rows)
    {
        public static Extent operator +(Extent a, Extent b) => new(a.Height + b.Height, a.Rows + b.Rows);
    }

    private sealed class LengthMeasure(Entity? entity, Definitions definitions, int rem, Layout? layout)
    {
        private string labels = layout?.Root.Word("labels") ?? "above";

        public FormLength Form(Node root)
        {
            var whole = new Extent(0, 0);
            var sides = root
                .Children.Where(part => part.Kind is NodeKind.Start or NodeKind.End && !part.Flag("hidden"))
                .Select(side => Side(side))
                .ToArray();
            var between = rem < Stacks ? rem : rem - sides.Sum(side => side.Width + SideGap);
            foreach (var part in root.Children)
            {
                whole += part.Kind switch
                {
                    NodeKind.Top => new Extent(3.4 + Band(part), 0),
                    NodeKind.Bottom => new Extent(2.7 + Band(part), 0),
                    NodeKind.Body => Beside(Panel(part, part.Word("arrangement") ?? "stack", between), sides),
                    NodeKind.Row => Row(part, rem) + new Extent(RowGap, 0),
                    _ => default,
                };
            }

            return new FormLength(whole.Rows, Math.Max(0, whole.Height));
        }

        /// <summary>What a band has beyond its line of text: room round a tone, and a bar for its items.</summary>
        private static double Band(Node band) =>
            (band.Word("tone") is null or "plain" ? 0 : 1.25) + (band.Children.Any(item => !item.Flag("hidden")) ? 0.75 + Control : 0);

        /// <summary>A side column: how wide it is, and how high. Its cells stand one under another.</summary>
        private (double Width, Extent Extent) Side(Node side)
        {
            var width = rem < Stacks ? rem : rem * (side.Number("share") ?? 3) / Limits.Units;
            return (width, side.Children.Aggregate(default(Extent), (sum, section) => sum + Section(section, width)));
        }

        /// <summary>
        /// Where there is room side columns stand beside the body, and the highest counts; otherwise all stand one under another.
        /// </summary>
        private Extent Beside(Extent body, (double Width, Extent Extent)[] sides) =>
            rem < Stacks
                ? sides.Aggregate(body, (sum, side) => sum + new Extent(SideGap, 0) + side.Extent)
                : new Extent(Math.Max(body.Height, sides.Select(side => side.Extent.Height).DefaultIfEmpty().Max()), body.Rows);

        private Extent Panel(Node panel, string arrangement, double width)
        {
            var pages = panel
                .Children.Where(page => !page.Flag("hidden"))
                .Select(page => Page(page, arrangement, width))
                .Where(page => page.Height > 0)
                .ToArray();
            if (pages.Length == 0)
            {
                return default;
            }

            // Of tabs, steps and folds one is open; the longest counts.
            return arrangement switch
            {
                "stack" => pages.Aggregate((a, b) => a + new Extent(2, 0) + b),
                "accordion" => new Extent(pages.Max(page => page.Height) + (pages.Length * 2.75), pages.Max(page => page.Rows)),
                "steps" => new Extent(pages.Max(page => page.Height) + Headings(panel, width) + 3.25, pages.Max(page => page.Rows)),
                _ => new Extent(pages.Max(page => page.Height) + (pages.Length > 1 ? 3.8 : 0), pages.Max(page => page.Rows)),
            };
        }

        /// <summary>The headings of steps, which go on in another line where they have no room.</summary>
        private static double Headings(Node panel, double width)
        {
            const double Number = 2.5;
            const double Gap = 1;
            var (lines, used) = (1, 0.0);
            foreach (var page in panel.Children.Where(page => !page.Flag("hidden")))
            {
                var wide = Number + ((page.Text("title")?.ToString().Length ?? 0) * LetterWidth);
                if (used > 0 && used + Gap + wide > width)
                {
                    lines++;
                    used = 0;
                }

                used += (used > 0 ? Gap : 0) + wide;
            }

            return (lines * Control) + ((lines - 1) * 0.25) + 2.06;
        }

        private Extent Page(Node page, string arrangement, double width)
        {
            var sections = page
                .Children.Where(section => !section.Flag("hidden"))
                .Select(section => Section(section, width))
                .Where(section => section.Height > 0)
                .ToArray();
            var title =
                arrangement == "stack"
                && page["title"] is not null
                && layout?.ParentOf(page.Id) is { } holder
                && layout.Find(holder)!.Children.Length > 1
                    ? 2.4
                    : 0;
            return sections.Length == 0 ? default : sections.Aggregate((a, b) => a + b) + new Extent(title, 0);
        }

        private Extent Section(Node section, double width)
        {
            var before = labels;
            labels = section.Word("labels") ?? labels;
            var inner = section.Word("frame") == "outline" || section.Word("tint") is not (null or "none") ? width - 2.125 : width;
            var gap = section.Word("gap") switch
            {
                "tight" => 0.5,
                "wide" => 1.75,
                _ => RowGap,
            };
            var rows = section.Children.Select(row => Row(row, inner)).Where(row => row.Height > 0).ToArray();
            labels = before;
            if (rows.Length == 0)
            {
                return default;
            }

            var frame = section.Word("frame") switch
            {
                "rule" => 1.06,
                "outline" => 2.4,
                _ => section.Word("tint") is null or "none" ? 0 : 2,
            };
            var head =
                (section["title"] is null ? 0 : 2.03)
                + (section.Text("description") is { } about ? 0.5 + (Lines(about.ToString(), Math.Min(inner, 34)) * 1.4) : 0);
            return section.Flag("collapsible") && section.Flag("collapsed")
                ? new Extent(head + frame + 1.75, 0)
                : rows.Aggregate((a, b) => a + new Extent(gap, 0) + b) + new Extent(head + frame + 1.75, 0);
        }

        private Extent Row(Node row, double width)
        {
            var shown = row
                .Children.Where(cell => cell.Children.IsEmpty ? false : cell.Children.Any(item => !item.Flag("hidden")))
                .ToArray();
            if (shown.Length == 0)
            {
                return default;
            }

            var spans = Spans.Share([.. shown.Select(cell => cell.Number("span"))]);
            var stacks = rem < Stacks;
            var cells = shown.Select((cell, i) => Cell(cell, stacks ? width : (width + 1.25) * spans[i] / Limits.Units - 1.25)).ToArray();
            return stacks ? cells.Aggregate((a, b) => a + new Extent(RowGap, 0) + b) : Wrapped(spans, cells);
        }

        /// <summary>Cells that ask for more than 12 units go on in another line of the row.</summary>
        private static Extent Wrapped(ImmutableArray<int> spans, Extent[] cells)
        {
            var whole = new Extent(0, 0);
            var line = new Extent(0, 0);
            var used = 0;
            for (var i = 0; i < cells.Length; i++)
            {
                if (used + spans[i] > Limits.Units && used > 0)
                {
                    whole += line + new Extent(RowGap, 0);
                    (line, used) = (default, 0);
                }

                line = new Extent(Math.Max(line.Height, cells[i].Height), Math.Max(line.Rows, cells[i].Rows));
                used += spans[i];
            }

            return whole + line;
        }

        private Extent Cell(Node cell, double width)
        {
            var items = cell.Children.Where(item => !item.Flag("hidden")).Select(item => Item(item, width)).ToArray();
            return items.Aggregate((a, b) => a + new Extent(RowGap, 0) + b);
        }

        public Extent Item(Node item, double width) =>
            item.Kind switch
            {
                NodeKind.Field => new Extent(Field(item, width), 1),
                NodeKind.Panel => Panel(item, item.Word("panel") ?? "stack", width),
                NodeKind.Heading => new Extent(1.65, 1),
                NodeKind.Text => new Extent(Lines(item.Text("text")?.ToString() ?? "", Math.Min(width, 34)) * 1.4, 1),
                NodeKind.Divider => new Extent(0.56, 0),
                NodeKind.Spacer => new Extent(
                    item.Word("spacer") switch
                    {
                        "large" => 3,
                        "medium" => 1.5,
                        _ => 0.5,
                    },
                    0
                ),
                NodeKind.Image => new Extent((item.Number("lines") ?? 6) * 1.4, 1),
                NodeKind.Related => new Extent(9, 4),
                _ => new Extent(Control, 1),
            };

        private double Field(Node item, double width)
        {
            var field = entity?.Find(item.Word("field") ?? "");
            var type = field?.Type ?? FieldType.Text;
            var lines = item.Number("lines") ?? (type is FieldType.LongText ? 4 : 1);
            var editor = item.Word("editor") ?? (lines > 1 ? "lines" : Editors.Default(type));
            var label = (item.Text("label") ?? field?.Label)?.ToString() ?? "";
            var control = editor switch
            {
                "lines" => Math.Max(Control, (lines * Line) + 1.125),
                "checks" or "radio" => Control + ((Boxes(field, width) - 1) * 2.125),
                _ => Control,
            };
            var help = (item.Text("help") ?? field?.Help)?.ToString() is { Length: > 0 } text
                ? 0.25 + (Lines(text, width * 16 / 14) * 1.225)
                : 0;
            var beside = (item.Word("labels") ?? labels) is "beside" or "inside" && rem >= Stacks;
            return control + help + (beside ? 0 : Label + ((Lines(label, width * 16 / 14) - 1) * 1.225));
        }

        /// <summary>The lines that choices as boxes take, one beside another.</summary>
        private int Boxes(Field? field, double width)
        {
            const double Box = 1.625;
            const double Gap = 1.125;
            var (lines, used) = (1, 0.0);
            foreach (
                var choice in field?.ChoiceList is { } list && definitions.ChoiceLists.GetValueOrDefault(list) is { } choices
                    ? choices.Choices.Where(each => !each.Retired)
                    : []
            )
            {
                var wide = Box + (choice.Label.ToString().Length * LetterWidth);
                if (used > 0 && used + Gap + wide > width)
                {
                    lines++;
                    used = 0;
                }

                used += (used > 0 ? Gap : 0) + wide;
            }

            return lines;
        }

        private static int Lines(string text, double width) =>
            text.ReplaceLineEndings("\n")
                .Split('\n')
                .Sum(line => Math.Max(1, (int)Math.Ceiling(line.Length * LetterWidth / Math.Max(2, width))));
    }
}

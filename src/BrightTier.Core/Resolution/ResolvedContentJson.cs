using System.Collections.Immutable;
using System.Text.Json;
using BrightTier.Core.Icons;
using BrightTier.Core.Model;

namespace BrightTier.Core.Resolution;

/// <summary>The content of a form as JSON: bands, sides, pages, sections, rows, cells, items.</summary>
public static partial class ResolvedFormJson
{
    /// <summary>Writes one content. In a variant, what is the same as at the base is <c>{"same": id}</c>.</summary>
    private readonly partial struct ContentWriter(
        Utf8JsonWriter writer,
        Definitions definitions,
        string language,
        HashSet<object>? shared,
        bool variant
    )
    {
        public void Content(ResolvedContent content)
        {
            Band("top", content.Top);
            Band("bottom", content.Bottom);
            Side("start", content.Start);
            Side("end", content.End);
            Text(writer, "picture", content.Picture ?? "");
            writer.WriteString("arrangement", content.Body.Arrangement);
            Flag(writer, "guarded", content.Body.Guarded);
            Pages(content.Body.Pages);
            if (!content.Columns.IsEmpty)
            {
                writer.WriteStartArray("columns");
                foreach (var column in content.Columns)
                {
                    writer.WriteStartObject();
                    writer.WriteString("id", column.Id);
                    writer.WriteString("field", column.Field);
                    writer.WriteString("label", column.Label);
                    Number(writer, "units", column.Units);
                    writer.WriteString("align", column.Align);
                    writer.WriteEndObject();
                }

                writer.WriteEndArray();
            }

            Words("sort", content.Sort);
            Words("filters", content.Filters);
            if (content.Filter.When is not null)
            {
                WriteDecision(writer, "filter", content.Filter);
            }
        }

        /// <summary>True where the base has the very same, which then is only named.</summary>
        private bool IsShared(object part, string id)
        {
            if (variant && shared!.Contains(part))
            {
                writer.WriteStartObject();
                writer.WriteString("same", id);
                writer.WriteEndObject();
                return true;
            }

            if (!variant)
            {
                shared?.Add(part);
            }

            return false;
        }

        private void Band(string name, ResolvedBand? band)
        {
            if (band is null)
            {
                return;
            }

            writer.WriteStartObject(name);
            writer.WriteString("id", band.Id);
            writer.WriteString("text", band.Text);
            writer.WriteString("empty", band.Empty);
            writer.WriteString("tone", band.Tone);
            Text(writer, "icon", Icon.Path(band.Icon));
            Text(writer, "picture", band.Picture ?? "");
            if (!band.Items.IsEmpty)
            {
                Items(band.Items);
            }

            writer.WriteEndObject();
        }

        private void Side(string name, ResolvedSide? side)
        {
            if (side is null)
            {
                return;
            }

            writer.WritePropertyName(name);
            Open(writer, side.Id, side.Visible, null);
            writer.WriteNumber("share", side.Share);
            Sections(side.Sections);
            writer.WriteEndObject();
        }

        private void Pages(ImmutableArray<ResolvedPage> pages)
        {
            writer.WriteStartArray("pages");
            foreach (var page in pages)
            {
                if (IsShared(page, page.Id))
                {
                    continue;
                }

                Open(writer, page.Id, page.Visible, page.Ghost);
                writer.WriteString("title", page.Title);
                Text(writer, "icon", Icon.Path(page.Icon));
                Sections(page.Sections);
                writer.WriteEndObject();
            }

            writer.WriteEndArray();
        }

        private void Sections(ImmutableArray<ResolvedSection> sections)
        {
            writer.WriteStartArray("sections");
            foreach (var section in sections)
            {
                if (IsShared(section, section.Id))
                {
                    continue;
                }

                Open(writer, section.Id, section.Visible, section.Ghost);
                Text(writer, "title", section.Title);
                Text(writer, "description", section.Description);
                writer.WriteString("frame", section.Frame);
                Unless("tint", section.Tint, "none");
                Unless("gap", section.Gap, "normal");
                Unless("above", section.Above, "normal");
                writer.WriteString("labels", section.Labels);
                Unless("labelAlign", section.LabelAlign, "start");
                Number(writer, "labelWidth", section.LabelWidth);
                Unless("tabOrder", section.TabOrder, "rows");
                writer.WriteNumber("columns", section.Columns);
                Flag(writer, "collapsible", section.Collapsible);
                Flag(writer, "collapsed", section.Collapsed);
                Text(writer, "style", section.Style ?? "");
                writer.WriteStartArray("rows");
                foreach (var row in section.Rows)
                {
                    Row(row);
                }

                writer.WriteEndArray();
                writer.WriteEndObject();
            }

            writer.WriteEndArray();
        }

        private void Row(ResolvedRow row)
        {
            if (IsShared(row, row.Id))
            {
                return;
            }

            writer.WriteStartObject();
            writer.WriteString("id", row.Id);
            writer.WriteStartArray("cells");
            foreach (var cell in row.Cells)
            {
                writer.WriteStartObject();
                writer.WriteString("id", cell.Id);
                writer.WriteNumber("span", cell.Span);
                Flag(writer, "shares", cell.Shares);
                Unless("align", cell.Align, "start");
                Items(cell.Items);
                writer.WriteEndObject();
            }

            writer.WriteEndArray();
            writer.WriteEndObject();
        }

        private void Unless(string name, string value, string standard)
        {
            if (value != standard)
            {
                writer.WriteString(name, value);
            }
        }

        private void Words(string name, ImmutableArray<string> words)
        {
            if (words.IsEmpty)
            {
                return;
            }

            writer.WriteStartArray(name);
            foreach (var word in words)
            {
                writer.WriteStringValue(word);
            }

            writer.WriteEndArray();
        }

        private void Pairs(string name, IReadOnlyDictionary<string, string> pairs)
        {
            if (pairs.Count == 0)
            {
                return;
            }

            writer.WriteStartObject(name);
            foreach (var (key, value) in pairs)
            {
                writer.WriteString(key, value);
            }

            writer.WriteEndObject();
        }
    }
}

using System.Buffers;
using System.Text.Json;
using BrightTier.Core.Conditions;
using BrightTier.Core.Entities;

namespace BrightTier.Core.Resolve;

/// <summary>The resolved form as JSON, for any client that draws it. Described in docs/api.md; what is at its default is left out.</summary>
public static class ResolvedFormJson
{
    /// <summary>UTF-8 bytes; the same form gives the same bytes.</summary>
    public static byte[] Write(ResolvedForm form, Definitions definitions)
    {
        var buffer = new ArrayBufferWriter<byte>(16_384);
        using (var writer = new Utf8JsonWriter(buffer, new JsonWriterOptions { Encoder = Files.JsonText.Options.Encoder }))
        {
            Write(writer, form, definitions);
        }

        return buffer.WrittenSpan.ToArray();
    }

    public static void Write(Utf8JsonWriter writer, ResolvedForm form, Definitions definitions)
    {
        writer.WriteStartObject();
        writer.WriteString("layout", form.Layout);
        writer.WriteString("entity", form.Entity);
        writer.WriteString("mode", form.Mode);
        writer.WriteString("language", form.Language);
        writer.WriteString("title", form.Title);
        writer.WriteString("width", form.Width);
        writer.WriteString("marks", form.Marks);
        Band(writer, "top", form.Top);
        Band(writer, "bottom", form.Bottom);
        writer.WriteString("arrangement", form.Arrangement);
        writer.WriteStartArray("pages");
        foreach (var page in form.Pages)
        {
            Open(writer, page.Id, page.Visible, page.Ghost);
            writer.WriteString("title", page.Title);
            writer.WriteStartArray("sections");
            foreach (var section in page.Sections)
            {
                Section(writer, section);
            }

            writer.WriteEndArray();
            writer.WriteEndObject();
        }

        writer.WriteEndArray();
        writer.WriteStartObject("fields");
        foreach (var field in form.Fields)
        {
            writer.WritePropertyName(field.Key);
            WriteField(writer, field, definitions, form.Language);
        }

        writer.WriteEndObject();
        writer.WriteEndObject();
    }

    private static void Band(Utf8JsonWriter writer, string name, ResolvedBand? band)
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
        writer.WriteEndObject();
    }

    private static void Section(Utf8JsonWriter writer, ResolvedSection section)
    {
        Open(writer, section.Id, section.Visible, section.Ghost);
        Text(writer, "title", section.Title);
        Text(writer, "description", section.Description);
        writer.WriteString("frame", section.Frame);
        writer.WriteString("labels", section.Labels);
        writer.WriteNumber("columns", section.Columns);
        Flag(writer, "collapsible", section.Collapsible);
        writer.WriteStartArray("rows");
        foreach (var row in section.Rows)
        {
            writer.WriteStartObject();
            writer.WriteString("id", row.Id);
            writer.WriteStartArray("cells");
            foreach (var cell in row.Cells)
            {
                writer.WriteStartObject();
                writer.WriteString("id", cell.Id);
                writer.WriteNumber("span", cell.Span);
                Flag(writer, "shares", cell.Shares);
                writer.WriteStartArray("items");
                foreach (var item in cell.Items)
                {
                    Item(writer, item);
                }

                writer.WriteEndArray();
                writer.WriteEndObject();
            }

            writer.WriteEndArray();
            writer.WriteEndObject();
        }

        writer.WriteEndArray();
        writer.WriteEndObject();
    }

    private static void Item(Utf8JsonWriter writer, ResolvedItem item)
    {
        Open(writer, item.Id, item.Visible, item.Ghost);
        switch (item)
        {
            case ResolvedField field:
                writer.WriteString("kind", "field");
                writer.WriteString("field", field.Field);
                writer.WriteString("label", field.Label);
                Text(writer, "help", field.Help);
                Text(writer, "hint", field.Hint);
                writer.WriteString("editor", field.Editor);
                writer.WriteNumber("lines", field.Lines);
                WriteDecision(writer, "required", field.Required);
                WriteDecision(writer, "readOnly", field.ReadOnly);
                Flag(writer, "emphasis", field.Emphasis);
                break;
            case ResolvedMark mark:
                writer.WriteString("kind", mark.Kind);
                writer.WriteString("content", mark.Content);
                break;
        }

        writer.WriteEndObject();
    }

    private static void Open(Utf8JsonWriter writer, string id, Decision visible, string? ghost)
    {
        writer.WriteStartObject();
        writer.WriteString("id", id);
        if (visible.When is not null)
        {
            WriteDecision(writer, "visible", visible);
        }

        Text(writer, "ghost", ghost ?? "");
    }

    /// <summary>True, left out when false, or the residual condition with the fields it reads.</summary>
    private static void WriteDecision(Utf8JsonWriter writer, string name, Decision decision)
    {
        if (decision.When is { } condition)
        {
            writer.WriteStartObject(name);
            writer.WritePropertyName("when");
            CompiledCondition.Write(writer, condition);
            writer.WriteStartArray("reads");
            foreach (var field in condition.FieldsRead())
            {
                writer.WriteStringValue(field);
            }

            writer.WriteEndArray();
            writer.WriteEndObject();
        }
        else
        {
            Flag(writer, name, decision.Holds);
        }
    }

    private static void Text(Utf8JsonWriter writer, string name, string text)
    {
        if (text.Length > 0)
        {
            writer.WriteString(name, text);
        }
    }

    private static void Flag(Utf8JsonWriter writer, string name, bool on)
    {
        if (on)
        {
            writer.WriteBoolean(name, true);
        }
    }

    /// <summary>One field with all a client needs to enter and check its values.</summary>
    public static void WriteField(Utf8JsonWriter writer, Field field, Definitions definitions, string language)
    {
        writer.WriteStartObject();
        writer.WriteString("type", field.Type.Name());
        writer.WriteString("label", field.Label.In(language));
        Flag(writer, "required", field.Required);
        Flag(writer, "unique", field.Unique);
        Text(writer, "target", field.Target ?? "");
        Text(writer, "unit", field.Type is FieldType.Money ? definitions.Application.Currency : field.Unit ?? "");
        Text(writer, "default", field.Default ?? "");
        Number(writer, "maxLength", field.MaxLength);
        Number(writer, "min", field.Min ?? (field.Type is FieldType.Rating ? 1 : null));
        Number(writer, "max", field.Max ?? (field.Type is FieldType.Rating ? 5 : null));
        Number(writer, "scale", field.Type is FieldType.Decimal ? field.Scale : field.Type is FieldType.Money ? 2 : null);
        if (field.Pattern is { } pattern && Patterns.WholePattern.Compile(pattern) is { } program)
        {
            writer.WritePropertyName("pattern");
            CompiledCondition.Write(writer, program);
            writer.WriteString("patternText", pattern);
        }

        Text(writer, "patternMessage", field.PatternMessage?.In(language) ?? "");
        if (field.ChoiceList is not null && definitions.ChoiceLists.TryGetValue(field.ChoiceList, out var list))
        {
            writer.WriteStartArray("choices");
            foreach (var choice in list.Choices)
            {
                writer.WriteStartObject();
                writer.WriteString("key", choice.Key);
                writer.WriteString("label", choice.Label.In(language));
                Flag(writer, "retired", choice.Retired);
                writer.WriteEndObject();
            }

            writer.WriteEndArray();
        }

        writer.WriteEndObject();
    }

    private static void Number(Utf8JsonWriter writer, string name, decimal? number)
    {
        if (number is { } given)
        {
            writer.WriteNumber(name, given);
        }
    }
}

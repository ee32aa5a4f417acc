using System.Buffers;
using System.Collections.Immutable;
using System.Text.Json;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Resolution;

/// <summary>
/// The resolved form as JSON, for any client that draws it. Described in docs/api.md; what is at its default is left out.
/// </summary>
public static partial class ResolvedFormJson
{
    /// <summary>UTF-8 bytes; the same form gives the same bytes.</summary>
    public static byte[] Write(ResolvedForm form, Definitions definitions)
    {
        var buffer = new ArrayBufferWriter<byte>(16_384);
        using (var writer = new Utf8JsonWriter(buffer, new JsonWriterOptions { Encoder = Documents.JsonText.Options.Encoder }))
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
        writer.WriteString("kind", form.Kind);
        writer.WriteString("mode", form.Mode);
        writer.WriteString("language", form.Language);
        writer.WriteString("title", form.Title);
        writer.WriteString("width", form.Width);
        writer.WriteString("density", form.Density);
        writer.WriteString("marks", form.Marks);
        var shared = form.Variants.IsEmpty ? null : new HashSet<object>(ReferenceEqualityComparer.Instance);
        new ContentWriter(writer, definitions, form.Language, shared, false).Content(form.Content);
        if (shared is not null)
        {
            writer.WriteStartArray("variants");
            foreach (var variant in form.Variants)
            {
                writer.WriteStartObject();
                writer.WriteString("name", variant.Range.Name);
                writer.WriteNumber("from", variant.Range.From);
                if (variant.Range.Below is { } below)
                {
                    writer.WriteNumber("below", below);
                }

                new ContentWriter(writer, definitions, form.Language, shared, true).Content(variant.Content);
                writer.WriteEndObject();
            }

            writer.WriteEndArray();
        }

        Fields(writer, form.Fields, definitions, form.Language);
        Steps(writer, form.Steps);
        Styles(writer, definitions.Application);
        Theme(writer, definitions.Application.Theme);
        writer.WriteEndObject();
    }

    private static void Fields(Utf8JsonWriter writer, IEnumerable<Field> fields, Definitions definitions, string language)
    {
        writer.WriteStartObject("fields");
        foreach (var field in fields)
        {
            writer.WritePropertyName(field.Key);
            WriteField(writer, field, definitions, language);
        }

        writer.WriteEndObject();
    }

    private static void Steps(Utf8JsonWriter writer, ImmutableArray<(string Step, Field Field)> steps)
    {
        if (steps.IsEmpty)
        {
            return;
        }

        writer.WriteStartObject("steps");
        foreach (var (step, field) in steps)
        {
            writer.WriteString(step, field.Type.Name());
        }

        writer.WriteEndObject();
    }

    private static void Styles(Utf8JsonWriter writer, Application application)
    {
        if (application.Styles.IsEmpty)
        {
            return;
        }

        writer.WriteStartObject("styles");
        foreach (var style in application.Styles)
        {
            writer.WriteStartObject(style.Key);
            Text(writer, "ink", style.Ink ?? "");
            Text(writer, "paper", style.Paper ?? "");
            Flag(writer, "strong", style.Strong);
            writer.WriteEndObject();
        }

        writer.WriteEndObject();
    }

    private static void Theme(Utf8JsonWriter writer, Theme theme)
    {
        if (theme == Model.Theme.Supplied)
        {
            return;
        }

        writer.WriteStartObject("theme");
        Text(writer, "ground", theme.Ground ?? "");
        Text(writer, "primary", theme.Primary ?? "");
        Text(writer, "accent", theme.Accent ?? "");
        Text(writer, "typeface", theme.Typeface ?? "");
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

    private static void Pattern(Utf8JsonWriter writer, string? pattern, string? message)
    {
        if (pattern is not null && WholePattern.Compile(pattern) is { } program)
        {
            writer.WritePropertyName("pattern");
            CompiledCondition.Write(writer, program);
            writer.WriteString("patternText", pattern);
            Text(writer, "patternMessage", message ?? "");
        }
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
            foreach (var field in condition.Reads())
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
        Number(
            writer,
            "scale",
            field.Type is FieldType.Decimal ? field.Scale
                : field.Type is FieldType.Money ? 2
                : null
        );
        if (definitions.PatternOf(field) is { } rule)
        {
            Pattern(writer, rule.Pattern, rule.Message?.In(language));
        }

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

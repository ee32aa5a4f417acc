using System.Text.Json;
using System.Text.Json.Serialization;

namespace BrightTier.Contracts;

// A resolved form, as any client draws it: what holds for all is decided, what depends on the record's values is left as conditions. What
// is at its default is left out. Written by the core itself, without these types; a test reads all it writes into them.

/// <summary>A form, resolved for somebody: what is laid out how, and all one needs to know of the fields it shows.</summary>
/// <param name="Layout">The key of the layout it is made of.</param>
/// <param name="Kind">full, short, card, list or print.</param>
/// <param name="Mode">create, edit or view.</param>
/// <param name="Language">A language tag (RFC 5646).</param>
/// <param name="Width">full or limited.</param>
/// <param name="Density">roomy or dense.</param>
/// <param name="Marks">Which fields are marked: required, optional or none.</param>
/// <param name="Picture">Of a card: the field whose picture it shows.</param>
/// <param name="Arrangement">How its pages stand: stack, tabs, steps or accordion.</param>
/// <param name="Guarded">Whether a step is left only once it is in order.</param>
/// <param name="Columns">Of a list.</param>
/// <param name="Sort">Of a list: the fields it is sorted by; the last first where a - stands before.</param>
/// <param name="Filters">Of a list: the fields users filter by.</param>
/// <param name="Filter">Of a list: the records it has.</param>
/// <param name="Variants">What is different in ranges of the form's own width.</param>
/// <param name="Fields">The fields it shows, by key.</param>
/// <param name="Steps">Steps through references that conditions take, such as berth.zone, with the type of the field they lead to.</param>
/// <param name="Styles">The application's styles, by name.</param>
public sealed record ResolvedForm(
    string Layout,
    string Entity,
    string Kind,
    string Mode,
    string Language,
    string Title,
    string Width,
    string Density,
    string Marks,
    string Arrangement,
    IReadOnlyList<FormPage> Pages,
    IReadOnlyDictionary<string, FormField> Fields,
    FormBand? Top = null,
    FormBand? Bottom = null,
    FormSide? Start = null,
    FormSide? End = null,
    string? Picture = null,
    bool? Guarded = null,
    IReadOnlyList<FormColumn>? Columns = null,
    IReadOnlyList<string>? Sort = null,
    IReadOnlyList<string>? Filters = null,
    FormDecision? Filter = null,
    IReadOnlyList<FormVariant>? Variants = null,
    IReadOnlyDictionary<string, string>? Steps = null,
    IReadOnlyDictionary<string, FormStyle>? Styles = null,
    FormTheme? Theme = null
);

/// <summary>
/// What is shown in one range of widths, where that is not what is shown at the base. In its parts <c>{"same": id}</c> stands for the
/// page, section, row or item of the base with that id.
/// </summary>
/// <param name="From">The least width, in rem.</param>
/// <param name="Below">The width it ends before, in rem; without one, it has no end.</param>
/// <param name="Pages">As those of the form, each of its parts itself or <c>{"same": id}</c>; bands and sides likewise.</param>
public sealed record FormVariant(
    string Name,
    decimal From,
    string Arrangement,
    IReadOnlyList<JsonElement> Pages,
    decimal? Below = null,
    JsonElement? Top = null,
    JsonElement? Bottom = null,
    JsonElement? Start = null,
    JsonElement? End = null,
    string? Picture = null,
    bool? Guarded = null,
    IReadOnlyList<FormColumn>? Columns = null,
    IReadOnlyList<string>? Sort = null,
    IReadOnlyList<string>? Filters = null,
    FormDecision? Filter = null
);

/// <summary>A column of a list.</summary>
/// <param name="Units">Its share of the list's 12 units, where one is given.</param>
/// <param name="Align">start, center or end.</param>
public sealed record FormColumn(string Id, string Field, string Label, string Align, decimal? Units = null);

/// <summary>The band above or below the body.</summary>
/// <param name="Text">With values of the record in braces.</param>
/// <param name="Empty">What it says of a record that has none of those values.</param>
/// <param name="Tone">plain, quiet or strong.</param>
/// <param name="Icon">An SVG path on a raster of 24.</param>
/// <param name="Picture">The field whose picture it shows.</param>
public sealed record FormBand(
    string Id,
    string Text,
    string Empty,
    string Tone,
    string? Icon = null,
    string? Picture = null,
    IReadOnlyList<FormItem>? Items = null
);

/// <summary>A column beside the body.</summary>
/// <param name="Share">Of the form's 12 units.</param>
public sealed record FormSide(
    string Id,
    decimal Share,
    IReadOnlyList<FormSection> Sections,
    FormDecision? Visible = null,
    string? Ghost = null
);

/// <summary>A page: all of a form, or one tab or step of it.</summary>
/// <param name="Visible">Absent: always.</param>
/// <param name="Ghost">Why users would not see it; only where a form is designed.</param>
/// <param name="Icon">An SVG path on a raster of 24.</param>
public sealed record FormPage(
    string Id,
    string Title,
    IReadOnlyList<FormSection> Sections,
    FormDecision? Visible = null,
    string? Ghost = null,
    string? Icon = null
);

/// <summary>A group of rows under one title.</summary>
/// <param name="Frame">none, rule or outline.</param>
/// <param name="Tint">quiet, warm, cool or alert.</param>
/// <param name="Gap">tight or wide.</param>
/// <param name="Above">none or wide.</param>
/// <param name="Labels">above, beside or inside.</param>
/// <param name="LabelAlign">end.</param>
/// <param name="LabelWidth">In characters.</param>
/// <param name="TabOrder">columns.</param>
/// <param name="Columns">How many its rows have where their cells say nothing else, 1 to 4.</param>
/// <param name="Style">The name of one of the styles.</param>
public sealed record FormSection(
    string Id,
    string Frame,
    string Labels,
    int Columns,
    IReadOnlyList<FormRow> Rows,
    FormDecision? Visible = null,
    string? Ghost = null,
    string? Title = null,
    string? Description = null,
    string? Tint = null,
    string? Gap = null,
    string? Above = null,
    string? LabelAlign = null,
    decimal? LabelWidth = null,
    string? TabOrder = null,
    bool? Collapsible = null,
    bool? Collapsed = null,
    string? Style = null
);

/// <summary>What stands side by side.</summary>
public sealed record FormRow(string Id, IReadOnlyList<FormCell> Cells);

/// <summary>A place in a row.</summary>
/// <param name="Span">In units of 12.</param>
/// <param name="Shares">Whether the width is what its row left it, not what was given.</param>
/// <param name="Align">center or end.</param>
public sealed record FormCell(string Id, int Span, IReadOnlyList<FormItem> Items, bool? Shares = null, string? Align = null);

/// <summary>Always (<c>true</c>), or while a condition on the record holds; absent means never, and of what is visible always.</summary>
/// <param name="When">A compiled condition (docs/model.md).</param>
/// <param name="Reads">The fields it reads, and the steps through references.</param>
[JsonConverter(typeof(FormDecisionConverter))]
public sealed record FormDecision(JsonElement? When, IReadOnlyList<string>? Reads);

/// <summary>All one needs to enter and check the values of a field.</summary>
/// <param name="Target">Of a reference: the entity it leads to.</param>
/// <param name="Scale">Of decimals: the digits behind the point.</param>
/// <param name="Pattern">Compiled; the text must match it whole.</param>
public sealed record FormField(
    string Type,
    string Label,
    bool? Required = null,
    bool? Unique = null,
    string? Target = null,
    string? Unit = null,
    string? Default = null,
    int? MaxLength = null,
    decimal? Min = null,
    decimal? Max = null,
    int? Scale = null,
    JsonElement? Pattern = null,
    string? PatternText = null,
    string? PatternMessage = null,
    IReadOnlyList<FormChoice>? Choices = null
);

/// <summary>One of a field's choices; one that is retired is shown where a record has it, and not offered.</summary>
public sealed record FormChoice(string Key, string Label, bool? Retired = null);

/// <summary>How something stands out: the colour of its text, that behind it, whether it is bold.</summary>
public sealed record FormStyle(string? Ink = null, string? Paper = null, bool? Strong = null);

/// <summary>The application's colours and typeface, where they are its own.</summary>
public sealed record FormTheme(string? Ground = null, string? Primary = null, string? Accent = null, string? Typeface = null);

/// <summary>Reads and writes <c>true</c>, or <c>{"when", "reads"}</c>.</summary>
public sealed class FormDecisionConverter : JsonConverter<FormDecision>
{
    public override FormDecision Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        var element = JsonElement.ParseValue(ref reader);
        return element.ValueKind is JsonValueKind.True
            ? new FormDecision(null, null)
            : new FormDecision(
                element.GetProperty("when"),
                [.. element.GetProperty("reads").EnumerateArray().Select(field => field.GetString()!)]
            );
    }

    public override void Write(Utf8JsonWriter writer, FormDecision value, JsonSerializerOptions options)
    {
        if (value.When is not { } when)
        {
            writer.WriteBooleanValue(true);
            return;
        }

        writer.WriteStartObject();
        writer.WritePropertyName("when");
        when.WriteTo(writer);
        writer.WriteStartArray("reads");
        foreach (var field in value.Reads ?? [])
        {
            writer.WriteStringValue(field);
        }

        writer.WriteEndArray();
        writer.WriteEndObject();
    }
}

using System.Text.Json;
using System.Text.Json.Serialization;

namespace BrightTier.Contracts;

/// <summary>What stands in a cell of a form.</summary>
/// <param name="Visible">Absent: always.</param>
/// <param name="Ghost">Why users would not see it; only where a form is designed.</param>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(FormFieldItem), "field")]
[JsonDerivedType(typeof(FormHeading), "heading")]
[JsonDerivedType(typeof(FormText), "text")]
[JsonDerivedType(typeof(FormDivider), "divider")]
[JsonDerivedType(typeof(FormSpacer), "spacer")]
[JsonDerivedType(typeof(FormImage), "image")]
[JsonDerivedType(typeof(FormLink), "link")]
[JsonDerivedType(typeof(FormAction), "action")]
[JsonDerivedType(typeof(FormRelatedRecords), "related")]
[JsonDerivedType(typeof(FormPanel), "panel")]
public abstract record FormItem(string Id, FormDecision? Visible = null, string? Ghost = null);

/// <summary>A field to enter or to read.</summary>
/// <param name="Prefix">What stands in front of its value, in its frame.</param>
/// <param name="Editor">How it is entered; those of each type are in the grammar (<c>/api/grammar</c>).</param>
/// <param name="Labels">above, beside or inside, where that is not as its section has it.</param>
/// <param name="Punctuation">colon.</param>
/// <param name="Stretches">Whether a text grows with what is typed.</param>
/// <param name="Style">The name of one of the styles.</param>
/// <param name="Default">What a new record has in it here.</param>
/// <param name="Min">The layout's own limits, beside those of the field, like the next four.</param>
/// <param name="Pattern">Compiled; the text must match it whole.</param>
/// <param name="Display">Of a reference: the text records are called by.</param>
/// <param name="FilterBy">Of a reference: the fields of the records offered, each with the field here it must be like.</param>
/// <param name="Copies">Of a reference: fields filled from the record that is picked, each with the one it is copied from.</param>
/// <param name="Creates">Of a reference: whether one may be made from here.</param>
public sealed record FormFieldItem(
    string Id,
    string Field,
    string Label,
    string Editor,
    int Lines,
    FormDecision? Visible = null,
    string? Ghost = null,
    string? Help = null,
    string? Hint = null,
    string? Prefix = null,
    FormDecision? Required = null,
    FormDecision? ReadOnly = null,
    bool? Emphasis = null,
    string? Labels = null,
    string? Punctuation = null,
    bool? Stretches = null,
    bool? SpellCheck = null,
    string? Style = null,
    string? Default = null,
    decimal? Min = null,
    decimal? Max = null,
    decimal? Step = null,
    int? MaxLength = null,
    JsonElement? Pattern = null,
    string? PatternText = null,
    string? PatternMessage = null,
    string? Display = null,
    IReadOnlyDictionary<string, string>? FilterBy = null,
    IReadOnlyDictionary<string, string>? Copies = null,
    bool? Creates = null
) : FormItem(Id, Visible, Ghost);

/// <summary>A heading between fields.</summary>
public sealed record FormHeading(string Id, string Content, FormDecision? Visible = null, string? Ghost = null, string? Style = null)
    : FormItem(Id, Visible, Ghost);

/// <summary>A text between fields.</summary>
/// <param name="Content">As it was written, with values of the record in braces.</param>
/// <param name="Blocks">The same, taken apart.</param>
public sealed record FormText(
    string Id,
    string Content,
    IReadOnlyList<FormTextBlock> Blocks,
    FormDecision? Visible = null,
    string? Ghost = null,
    string? Style = null
) : FormItem(Id, Visible, Ghost);

/// <summary>A line across its cell.</summary>
public sealed record FormDivider(string Id, string Content, FormDecision? Visible = null, string? Ghost = null, string? Style = null)
    : FormItem(Id, Visible, Ghost);

/// <summary>A place that is left empty.</summary>
public sealed record FormSpacer(string Id, string Content, FormDecision? Visible = null, string? Ghost = null, string? Style = null)
    : FormItem(Id, Visible, Ghost);

/// <summary>A picture that is the same for all records.</summary>
public sealed record FormImage(string Id, string Address, string Alt, FormDecision? Visible = null, string? Ghost = null, int? Lines = null)
    : FormItem(Id, Visible, Ghost);

/// <summary>A link; values of the record stand in braces in its address.</summary>
public sealed record FormLink(string Id, string Address, string Label, FormDecision? Visible = null, string? Ghost = null)
    : FormItem(Id, Visible, Ghost);

/// <summary>A button that does something.</summary>
/// <param name="Does">open, set or begin.</param>
/// <param name="Icon">An SVG path on a raster of 24.</param>
/// <param name="Address">Of open: where it leads.</param>
/// <param name="Values">Of set and begin: what it sets, by field, as compiled expressions.</param>
/// <param name="Begins">Of begin: the entity of the new record.</param>
/// <param name="Through">Of begin: the field by which it points at this one.</param>
/// <param name="Side">end.</param>
/// <param name="Weight">main or quiet.</param>
public sealed record FormAction(
    string Id,
    string Does,
    string Label,
    FormDecision? Visible = null,
    string? Ghost = null,
    string? Icon = null,
    string? Address = null,
    IReadOnlyDictionary<string, JsonElement>? Values = null,
    string? Begins = null,
    string? Through = null,
    string? Side = null,
    string? Weight = null
) : FormItem(Id, Visible, Ghost);

/// <summary>The records of another entity that point at this one.</summary>
/// <param name="Through">The field by which they do.</param>
/// <param name="Shows">Their fields in its columns.</param>
/// <param name="Totals">Those that are added up.</param>
/// <param name="Order">The field that keeps the order users give the rows.</param>
/// <param name="As">grid or cards.</param>
/// <param name="Fields">The other entity's fields that are shown or added up, by key.</param>
public sealed record FormRelatedRecords(
    string Id,
    string Entity,
    string Through,
    string Label,
    string As,
    IReadOnlyDictionary<string, FormField> Fields,
    FormDecision? Visible = null,
    string? Ghost = null,
    IReadOnlyList<string>? Shows = null,
    IReadOnlyList<string>? Totals = null,
    IReadOnlyList<string>? Sort = null,
    string? Order = null,
    FormDecision? ReadOnly = null
) : FormItem(Id, Visible, Ghost);

/// <summary>Pages within a page.</summary>
/// <param name="Arrangement">stack, tabs, steps or accordion.</param>
public sealed record FormPanel(
    string Id,
    string Arrangement,
    IReadOnlyList<FormPage> Pages,
    FormDecision? Visible = null,
    string? Ghost = null,
    bool? Guarded = null
) : FormItem(Id, Visible, Ghost);

/// <summary>A paragraph or a list of a text: its lines, each of runs that look alike.</summary>
/// <param name="Kind">paragraph, list or numbered.</param>
public sealed record FormTextBlock(string Kind, IReadOnlyList<IReadOnlyList<FormTextRun>> Lines);

/// <summary>Some words of a text.</summary>
/// <param name="Kind">strong, emphasis or link; absent: plain.</param>
/// <param name="To">Of a link: where it leads.</param>
public sealed record FormTextRun(string Text, string? Kind = null, string? To = null);

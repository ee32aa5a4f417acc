using System.Collections.Immutable;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Resolution;

/// <summary>In which of its three uses a form is drawn.</summary>
public static class Modes
{
    public const string Create = "create";
    public const string Edit = "edit";
    public const string View = "view";

    public static IReadOnlyList<string> All { get; } = [Create, Edit, View];
}

/// <summary>The finished form to draw: defaults filled in, what roles and mode decide decided, texts in one language.</summary>
/// <param name="Kind">full, short, card, list or print.</param>
/// <param name="Content">What is shown where no variant is for the width.</param>
/// <param name="Fields">Every field that is shown, or named in a text or a condition, and that the viewer may read.</param>
/// <param name="Marks">required, optional or none.</param>
public sealed record ResolvedForm(
    string Layout,
    string Entity,
    string Kind,
    string Mode,
    string Language,
    string Title,
    string Width,
    string Density,
    ResolvedContent Content,
    ImmutableArray<ResolvedVariant> Variants,
    ImmutableArray<Field> Fields,
    string Marks
)
{
    /// <summary>
    /// Steps through references that conditions and expressions take, such as berth.zone, with the fields they lead to: a value is
    /// compared as what its own entity says it is.
    /// </summary>
    public ImmutableArray<(string Step, Field Field)> Steps { get; init; } = [];

    /// <summary>The items that show a field at the base, wherever they stand.</summary>
    public IEnumerable<ResolvedField> FieldItems => Content.Items.OfType<ResolvedField>();
}

/// <summary>The parts of a form at its base or in one range of widths.</summary>
public sealed record ResolvedContent(
    ResolvedBand? Top,
    ResolvedBand? Bottom,
    ResolvedSide? Start,
    ResolvedSide? End,
    ResolvedPanel Body,
    ImmutableArray<ResolvedColumn> Columns
)
{
    public string? Picture { get; init; }

    public ImmutableArray<string> Sort { get; init; } = [];

    public ImmutableArray<string> Filters { get; init; } = [];

    /// <summary>For lists: which records are in it.</summary>
    public Decision Filter { get; init; } = Decision.Always;

    /// <summary>Every item, those in panels included, outer ones first.</summary>
    public IEnumerable<ResolvedItem> Items =>
        new[] { Start, End }
            .OfType<ResolvedSide>()
            .SelectMany(side => side.Sections)
            .Concat(Body.Pages.SelectMany(page => page.Sections))
            .SelectMany(In)
            .Concat(new[] { Top, Bottom }.OfType<ResolvedBand>().SelectMany(band => band.Items));

    private static IEnumerable<ResolvedItem> In(ResolvedSection section) =>
        section
            .Rows.SelectMany(row => row.Cells)
            .SelectMany(cell => cell.Items)
            .SelectMany(item =>
                item is ResolvedPanel panel ? panel.Pages.SelectMany(page => page.Sections).SelectMany(In).Prepend(item) : [item]
            );
}

/// <summary>What is shown in one range of widths of the form's own container, in rem.</summary>
public sealed record ResolvedVariant(WidthRange Range, ResolvedContent Content);

/// <summary>Whether something holds: always, never (both without <paramref name="When"/>), or while a residual condition does.</summary>
public sealed record Decision(bool Holds, Expression? When = null)
{
    public static readonly Decision Always = new(true);
    public static readonly Decision Never = new(false);

    public bool IsNever => !Holds && When is null;
}

public sealed record ResolvedBand(
    string Id,
    string Text,
    string Empty,
    string Tone,
    string? Icon,
    string? Picture,
    ImmutableArray<ResolvedItem> Items
);

/// <param name="Share">Units of the form's 12.</param>
public sealed record ResolvedSide(string Id, int Share, Decision Visible, ImmutableArray<ResolvedSection> Sections);

/// <param name="Ghost">Why users would not see this; only ever set for a designer who asked to see what is hidden.</param>
public sealed record ResolvedPage(
    string Id,
    string Title,
    string? Icon,
    Decision Visible,
    ImmutableArray<ResolvedSection> Sections,
    string? Ghost
);

public sealed record ResolvedSection(
    string Id,
    string Title,
    string Description,
    string Frame,
    string Tint,
    string Gap,
    string Above,
    string Labels,
    int? LabelWidth,
    string LabelAlign,
    string TabOrder,
    int Columns,
    bool Collapsible,
    bool Collapsed,
    string? Style,
    Decision Visible,
    ImmutableArray<ResolvedRow> Rows,
    string? Ghost
);

public sealed record ResolvedRow(string Id, ImmutableArray<ResolvedCell> Cells);

/// <param name="Shares">Whether the span was not written but worked out from what the others leave.</param>
public sealed record ResolvedCell(string Id, int Span, bool Shares, string Align, ImmutableArray<ResolvedItem> Items);

public abstract record ResolvedItem(string Id, Decision Visible, string? Ghost);

public sealed record ResolvedField(
    string Id,
    Decision Visible,
    string? Ghost,
    string Field,
    string Label,
    string Help,
    string Hint,
    string Editor,
    int Lines,
    Decision Required,
    Decision ReadOnly,
    bool Emphasis
) : ResolvedItem(Id, Visible, Ghost)
{
    /// <summary>Where its label stands, if otherwise than its section's.</summary>
    public string? Labels { get; init; }

    public string? Punctuation { get; init; }

    public bool Stretches { get; init; }

    public bool? SpellCheck { get; init; }

    public string? Style { get; init; }

    /// <summary>What stands before the value; empty where nothing does.</summary>
    public string Prefix { get; init; } = "";

    /// <summary>What this layout allows within what the entity allows.</summary>
    public Constraints Constraints { get; init; } = Constraints.None;

    public string? Default { get; init; }

    public ReferenceSettings? Reference { get; init; }
}

/// <summary>A layout's own limits for a field, beside the entity's: the stricter of the two decides.</summary>
public sealed record Constraints(decimal? Min, decimal? Max, decimal? Step, int? MaxLength, string? Pattern, string PatternMessage)
{
    public static Constraints None { get; } = new(null, null, null, null, null, "");
}

/// <summary>
/// How a reference is looked up: the text composed from the target, what it is filtered by, what it copies, whether it can make a new one.
/// </summary>
public sealed record ReferenceSettings(
    string Display,
    IReadOnlyDictionary<string, string> FilterBy,
    IReadOnlyDictionary<string, string> Copies,
    bool Creates
);

/// <summary>A heading, text, divider or spacer; <paramref name="Content"/> is its words, or the name of its size.</summary>
public sealed record ResolvedMark(string Id, Decision Visible, string? Ghost, string Kind, string Content)
    : ResolvedItem(Id, Visible, Ghost)
{
    public string? Style { get; init; }
}

public sealed record ResolvedImage(string Id, Decision Visible, string? Ghost, string Address, string Alt, int? Lines)
    : ResolvedItem(Id, Visible, Ghost);

public sealed record ResolvedLink(string Id, Decision Visible, string? Ghost, string Address, string Label)
    : ResolvedItem(Id, Visible, Ghost);

/// <param name="Does">open, set or begin.</param>
public sealed record ResolvedAction(
    string Id,
    Decision Visible,
    string? Ghost,
    string Does,
    string Label,
    string? Icon,
    string? Address,
    IReadOnlyDictionary<string, Expression> Values,
    string? Begins,
    string? Through,
    string Side,
    string Weight
) : ResolvedItem(Id, Visible, Ghost);

/// <param name="Order">The field that keeps the order users give the rows; null where they cannot be moved.</param>
public sealed record ResolvedRelatedRecords(
    string Id,
    Decision Visible,
    string? Ghost,
    string Entity,
    string Through,
    string Label,
    ImmutableArray<string> Shows,
    ImmutableArray<string> Totals,
    ImmutableArray<string> Sort,
    string? Order,
    string As,
    Decision ReadOnly
) : ResolvedItem(Id, Visible, Ghost)
{
    /// <summary>The fields of the other entity that are shown, added up or keep the order.</summary>
    public ImmutableArray<Field> Fields { get; init; } = [];
}

/// <param name="Arrangement">stack, tabs, steps or accordion.</param>
public sealed record ResolvedPanel(
    string Id,
    Decision Visible,
    string? Ghost,
    string Arrangement,
    bool Guarded,
    ImmutableArray<ResolvedPage> Pages
) : ResolvedItem(Id, Visible, Ghost);

public sealed record ResolvedColumn(string Id, string Field, string Label, int? Units, string Align);

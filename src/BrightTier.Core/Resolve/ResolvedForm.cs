using System.Collections.Immutable;
using BrightTier.Core.Conditions;
using BrightTier.Core.Entities;

namespace BrightTier.Core.Resolve;

/// <summary>In which of its three uses a form is drawn.</summary>
public static class Modes
{
    public const string Create = "create";
    public const string Edit = "edit";
    public const string View = "view";

    public static IReadOnlyList<string> All { get; } = [Create, Edit, View];
}

/// <summary>The finished form to draw: defaults filled in, what roles and mode decide decided, texts in one language.</summary>
public sealed record ResolvedForm(
    string Layout,
    string Entity,
    string Mode,
    string Language,
    string Title,
    string Width,
    ResolvedBand? Top,
    ResolvedBand? Bottom,
    string Arrangement,
    ImmutableArray<ResolvedPage> Pages,
    ImmutableArray<Field> Fields,
    string Marks)
{
    public IEnumerable<ResolvedField> FieldItems => Pages
        .SelectMany(page => page.Sections).SelectMany(section => section.Rows).SelectMany(row => row.Cells).SelectMany(cell => cell.Items).OfType<ResolvedField>();
}

/// <summary>Whether something holds: always, never (both without <paramref name="When"/>), or while a residual condition does.</summary>
public sealed record Decision(bool Holds, Expression? When = null)
{
    public static readonly Decision Always = new(true);
    public static readonly Decision Never = new(false);

    public bool IsNever => !Holds && When is null;
}

public sealed record ResolvedBand(string Id, string Text, string Empty, string Tone);

/// <param name="Ghost">Why users would not see this; only ever set for a designer who asked to see what is hidden.</param>
public sealed record ResolvedPage(string Id, string Title, Decision Visible, ImmutableArray<ResolvedSection> Sections, string? Ghost);

public sealed record ResolvedSection(
    string Id, string Title, string Description, string Frame, string Labels, int Columns, bool Collapsible, Decision Visible, ImmutableArray<ResolvedRow> Rows, string? Ghost);

public sealed record ResolvedRow(string Id, ImmutableArray<ResolvedCell> Cells);

/// <param name="Shares">Whether the span was not written but worked out from what the others leave.</param>
public sealed record ResolvedCell(string Id, int Span, bool Shares, ImmutableArray<ResolvedItem> Items);

public abstract record ResolvedItem(string Id, Decision Visible, string? Ghost);

public sealed record ResolvedField(
    string Id, Decision Visible, string? Ghost, string Field, string Label, string Help, string Hint, string Editor, int Lines, Decision Required, Decision ReadOnly, bool Emphasis)
    : ResolvedItem(Id, Visible, Ghost);

/// <summary>A heading, text, divider or spacer; <paramref name="Content"/> is its words, or the name of its size.</summary>
public sealed record ResolvedMark(string Id, Decision Visible, string? Ghost, string Kind, string Content) : ResolvedItem(Id, Visible, Ghost);

using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Composition;

/// <summary>
/// Something that stood in the way of putting a layout together: a stable code, the node of the layout it concerns, and a sentence.
/// </summary>
public sealed record AssemblyProblem(string Code, NodeId Node, Message Message);

/// <summary>A layout as it is in one range of widths.</summary>
public sealed record ComposedVariant(WidthRange Range, Layout Layout);

/// <summary>
/// A layout with what it extends laid under it and its pieces expanded, at its base and in each range that has a variant.
/// </summary>
public sealed record ComposedLayout(
    Layout Source,
    Layout Base,
    ImmutableArray<ComposedVariant> Variants,
    ImmutableArray<AssemblyProblem> Problems
)
{
    /// <summary>The base and every variant.</summary>
    public IEnumerable<Layout> Layouts => Variants.Select(variant => variant.Layout).Prepend(Base);

    /// <summary>The widths one can ask for: the application's scale, and cut points of the layout's own.</summary>
    public IEnumerable<string> WidthNames(Application application) =>
        application.Widths.Select(width => width.Name).Union(Variants.Select(variant => variant.Range.Name));

    /// <summary>The layout as it is at a width; null where there is no such width.</summary>
    public Layout? At(string width, Application application) =>
        Variants.FirstOrDefault(variant => variant.Range.Name == width)?.Layout ?? (WidthNames(application).Contains(width) ? Base : null);
}

/// <summary>
/// Puts layouts together in the order of docs/model.md: the parent's base, the child's changes, pieces, the parent's variant, the child's
/// variant of the
/// same width. What finds nothing to hold on to is told, never an error.
/// </summary>
public sealed class LayoutComposer
{
    private readonly Catalogue catalogue;
    private readonly List<AssemblyProblem> problems = [];

    private LayoutComposer(Catalogue catalogue) => this.catalogue = catalogue;

    /// <summary>One width's changes, and whether they are the layout's own (those of a parent are the parent's to mend).</summary>
    private sealed record Width(string Name, int? Below, ImmutableArray<Node> Changes, Node Variant, bool Own);

    public static ComposedLayout Assemble(Layout layout, Catalogue catalogue)
    {
        var assembling = new LayoutComposer(catalogue);
        var (body, widths) = assembling.Chain(layout, [layout.Key], own: true);
        var whole = new PieceExpansion(catalogue, assembling.problems).Expand(body);
        whole = assembling.ApplyOverrides(whole, layout.Root.Children.Where(IsInside), own: true);
        return new ComposedLayout(layout, whole, assembling.Variants(whole, widths), [.. assembling.problems]);
    }

    /// <summary>
    /// What a layout that extends another lays its changes over, pieces left as they are; null for a layout of its own, or where what it
    /// extends is not there.
    /// </summary>
    public static Layout? Under(Layout layout, Catalogue catalogue) =>
        layout.Extends is { } key
        && key != layout.Key
        && catalogue.Layouts.GetValueOrDefault(key) is { } parent
        && parent.Kind == layout.Kind
        && parent.Entity == layout.Entity
            ? new LayoutComposer(catalogue).Chain(parent, [layout.Key, key], own: false).Base
            : null;

    /// <summary>Whether a change is about a node inside a piece, which is there only once pieces are expanded.</summary>
    private static bool IsInside(Node change) =>
        change.Kind is NodeKind.Change
        && (
            change.Word("target")?.Contains('/', StringComparison.Ordinal) == true
            || change.Word("parent")?.Contains('/', StringComparison.Ordinal) == true
        );

    private (Layout Base, List<Width> Widths) Chain(Layout layout, ImmutableList<string> path, bool own)
    {
        var bare = layout.Bare();
        List<Width> widths = [];
        if (layout.Extends is not { } key)
        {
            bare = ApplyOverrides(bare, layout.Root.Children.Where(child => !IsInside(child)), own);
        }
        else
        {
            foreach (var part in bare.Root.Children)
            {
                Problem(
                    "extends-own-part",
                    part.Id,
                    $"The layout extends '{key}' and says under 'changes' what is different; this "
                        + $"{Grammar.Of(part.Kind).Noun} of its own is not shown.",
                    own
                );
            }

            if (Parent(layout, key, path, own) is { } parent)
            {
                (var under, widths) = Chain(parent, path.Add(key), own: false);
                // What the child says of the form itself stands; of the rest it says what is different.
                var root = under.Root with { Properties = under.Root.Properties.SetItems(layout.Root.Properties) };
                bare = ApplyOverrides(Layout.Of(root), layout.Root.Children.Where(child => !IsInside(child)), own);
            }
        }

        widths.AddRange(
            layout.Variants.Select(variant => new Width(
                variant.Word("variant") ?? "",
                variant.Number("below"),
                variant.Children,
                variant,
                own
            ))
        );
        return (bare, widths);
    }

    /// <summary>The layout another one extends, where it can; else it is said why not.</summary>
    private Layout? Parent(Layout layout, string key, ImmutableList<string> path, bool own)
    {
        if (path.Contains(key) || path.Count > Limits.ExtendsDepth)
        {
            var way = string.Join("', '", path.Add(key).Skip(1));
            Problem("extends-circle", layout.Root.Id, $"The layout extends itself by way of '{way}'.", own);
        }
        else if (catalogue.Layouts.GetValueOrDefault(key) is not { Kind: not "piece" } parent)
        {
            var alike = catalogue.Layouts.Values.Where(each => each.Kind == layout.Kind).Select(each => each.Key);
            Problem(
                "extends-unknown",
                layout.Root.Id,
                Suggestion.Sentence($"The layout extends '{key}', which is not there{catalogue.Suggest(key, alike)}"),
                own
            );
        }
        else if (parent.Kind != layout.Kind || parent.Entity != layout.Entity)
        {
            Problem(
                "extends-unknown",
                layout.Root.Id,
                $"'{key}' is a {parent.Kind} layout of '{parent.Entity}'; a layout extends one of its own kind and entity.",
                own
            );
        }
        else
        {
            return parent;
        }

        return null;
    }

    private ImmutableArray<ComposedVariant> Variants(Layout whole, List<Width> widths)
    {
        if (widths.Count == 0)
        {
            return [];
        }

        var application = catalogue.Definitions.Application;
        var scale = application.Widths.Select(width => width.Name).ToHashSet(StringComparer.Ordinal);
        foreach (var unknown in widths.Where(width => !scale.Contains(width.Name) && width.Below is null && width.Own))
        {
            var near = Suggestion.For(unknown.Name, [.. scale]);
            var wrong = Suggestion.Sentence($"There is no width '{unknown.Name}' on the application's scale{near}");
            problems.Add(
                new AssemblyProblem("variant-unknown", unknown.Variant.Id, $"{wrong} Or give it a cut point of its own with 'below'.")
            );
        }

        var ranges = application.Ranges(
            widths.Where(width => width.Below is not null && !scale.Contains(width.Name)).Select(width => (width.Name, width.Below!.Value))
        );
        return
        [
            .. ranges
                .Where(range => widths.Any(width => width.Name == range.Name))
                .Select(range =>
                {
                    var layout = whole;
                    foreach (var width in widths.Where(width => width.Name == range.Name))
                    {
                        layout = ApplyOverrides(layout, width.Changes, width.Own);
                    }

                    return new ComposedVariant(range, layout);
                }),
        ];
    }

    private Layout ApplyOverrides(Layout under, IEnumerable<Node> changes, bool own)
    {
        var (layout, orphaned) = under.ApplyOverrides(changes);
        foreach (var each in orphaned)
        {
            Problem("override-orphaned", each.Change.Id, $"The change can no longer be applied: {each.Refusal.Message}", own);
        }

        return layout;
    }

    private void Problem(string code, NodeId node, Message message, bool own)
    {
        if (own)
        {
            problems.Add(new AssemblyProblem(code, node, message));
        }
    }
}

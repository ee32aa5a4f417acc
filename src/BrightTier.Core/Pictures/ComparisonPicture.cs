using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Pictures;

/// <summary>One side of a comparison, called such as <c>release 3</c>; a layout that is not there has neither form nor entity.</summary>
/// <param name="Form">The layout as its users see it: with what it extends, its pieces expanded.</param>
public sealed record PicturedSide(string Name, Layout? Layout, Layout? Form, Entity? Entity);

/// <summary>
/// Two states of a layout beside each other, as SVG 1.1: the form before and after, every page of it, what came, went, moved or changed
/// framed and signed, and under it the same in words. It is what a reviewer looks at; light or dark is as the reader has it.
/// </summary>
public sealed class ComparisonPicture
{
    private const int Gutter = 24;
    private const int Width = (2 * LayoutPicture.Width) + Gutter;
    private const double Margin = LayoutFigure.Margin;
    private const double Line = 20;

    /// <summary>How many sentences stand under a picture.</summary>
    private const int Most = 60;

    private static readonly ImmutableArray<(ItemChange Change, Message Word)> Signs =
    [
        (ItemChange.Added, $"added"),
        (ItemChange.Removed, $"removed"),
        (ItemChange.Moved, $"moved"),
        (ItemChange.Changed, $"changed"),
    ];

    private readonly string language;
    private readonly SvgText svg;
    private double y = Margin;

    private ComparisonPicture(string language)
    {
        this.language = language;
        svg = new SvgText(Width, SvgText.IsFromTheRight(language));
    }

    /// <summary>Draws comparisons one under another.</summary>
    /// <param name="pairs">A layout as it was and as it is; one of them is null where it was not there. Of one entity each.</param>
    public static string Of(IEnumerable<(PicturedSide Old, PicturedSide Next)> pairs, string language)
    {
        var picture = new ComparisonPicture(language);
        foreach (var (old, next) in pairs)
        {
            picture.Draw(old, next);
        }

        return picture.svg.Close(picture.y + Margin);
    }

    private void Draw(PicturedSide old, PicturedSide next)
    {
        var changes =
            old.Form is { } before && next.Form is { } after
                ? ItemChanges.Between(before, after, Label(old.Entity), Label(next.Entity))
                : new ItemChanges(ImmutableDictionary<NodeId, ItemChange>.Empty, ImmutableDictionary<NodeId, ItemChange>.Empty);
        svg.Write("band", Margin, y + 18, Width / 2.0, (next.Layout ?? old.Layout)!.Key);
        var there = changes.Before.Values.Concat(changes.After.Values).ToHashSet();
        Legend(
            old.Form is null ? [ItemChange.Added]
            : next.Form is null ? [ItemChange.Removed]
            : there
        );
        y += 44;
        var left = Side(old, changes.Before);
        var right = Side(next, changes.After);
        var top = y;
        svg.Place(left.Drawn, 0, top);
        svg.Place(right.Drawn, LayoutPicture.Width + Gutter, top);
        y = top + Math.Max(left.Height, right.Height) + Line;
        Words(old, next);
        y += Line;
    }

    private void Legend(IReadOnlySet<ItemChange> there)
    {
        var x = Width / 2.0;
        foreach (var (change, word) in Signs.Where(sign => there.Contains(sign.Change)))
        {
            var said = word.In(language);
            svg.Sign(change, x, y + 3);
            svg.Write("said", x + 24, y + 16, 120, said);
            x += 130;
        }
    }

    private (SvgText Drawn, double Height) Side(PicturedSide side, IReadOnlyDictionary<NodeId, ItemChange> changes)
    {
        var drawn = new SvgText(LayoutPicture.Width, SvgText.IsFromTheRight(language));
        drawn.Write("title", Margin, 12, LayoutPicture.Width - (2 * Margin), side.Name);
        drawn.Rule(Margin, 22, LayoutPicture.Width - (2 * Margin));
        var whole = new SvgText(LayoutPicture.Width, SvgText.IsFromTheRight(language));
        var height = side.Form is { } form ? LayoutFigure.Whole(whole, form, side.Entity, language, changes) : 0;
        drawn.Place(whole, 0, 26);
        return (drawn, height + 26);
    }

    private void Words(PicturedSide old, PicturedSide next)
    {
        if (old.Layout is not { } from || next.Layout is not { } to)
        {
            return;
        }

        var said = EditSummary.Describe(from, LayoutDiff.Edits(from, to), field => next.Entity?.Find(field)?.Label).ToArray();
        var more = said.Length > Most ? (Message)$"And {said.Length - Most} changes more." : null;
        foreach (var sentence in said.Take(Most).Concat(more is null ? [] : [more]))
        {
            foreach (var line in Lines(sentence.In(language)))
            {
                svg.Write("said", Margin, y + 12, Width - (2 * Margin), line);
                y += Line;
            }
        }
    }

    /// <summary>A sentence in lines that have room.</summary>
    private static IEnumerable<string> Lines(string sentence)
    {
        var most = SvgText.Letters(Width - (2 * Margin), 13);
        while (sentence.Length > most)
        {
            var at = sentence.LastIndexOf(' ', most);
            at = at <= 0 ? most : at;
            yield return sentence[..at];
            sentence = sentence[at..].TrimStart();
        }

        yield return sentence;
    }

    private Func<Node, string?> Label(Entity? entity) =>
        node => entity?.Find(node.Word("field") ?? node.Word("column") ?? "")?.Label.In(language);
}

using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>What is asked of a layout among thousands, without the tree it is of.</summary>
/// <param name="Kind">full, short, card, list, print or piece.</param>
/// <param name="Extends">The layout it is derived from, by key.</param>
/// <param name="Sorted">The fields a list is sorted or filtered by, each once.</param>
/// <param name="Layouts">The layouts and pieces it names, each once: what it extends, what it holds.</param>
/// <param name="Entities">The entities beside its own whose records it shows or begins, each once.</param>
/// <param name="NamesApplication">Whether it has a style or a width of the application's.</param>
public sealed record LayoutHead(
    string Key,
    string Kind,
    string Entity,
    string? Extends,
    bool IsArchived,
    Texts? Title,
    ImmutableArray<string> Sorted,
    ImmutableArray<string> Layouts,
    ImmutableArray<string> Entities,
    bool NamesApplication
)
{
    public static LayoutHead Of(Layout layout)
    {
        var layouts = new List<string>();
        var entities = new List<string>();
        var namesApplication = false;
        if (layout.Extends is { } parent)
        {
            layouts.Add(parent);
        }

        foreach (var node in layout.Walk())
        {
            switch (node.Kind)
            {
                case NodeKind.Piece when node.Word("piece") is { } piece:
                    layouts.Add(piece);
                    break;
                case NodeKind.Related when node.Word("related") is { } related:
                    entities.Add(related);
                    break;
                case NodeKind.Action when node.Word("begins") is { } begun:
                    entities.Add(begun);
                    break;
                // A width is of the application's scale, save one with a cut point of its own.
                case NodeKind.Variant when node.Number("below") is null:
                    namesApplication = true;
                    break;
            }

            namesApplication |= node.Word("style") is not null;
        }

        return new LayoutHead(
            layout.Key,
            layout.Kind,
            layout.Entity,
            layout.Extends,
            layout.IsArchived,
            layout.Title,
            layout.Kind == "list"
                ? [.. layout.Root.Words("sort").Select(key => key.TrimStart('-')).Concat(layout.Root.Words("filters")).Distinct()]
                : [],
            [.. layouts.Distinct()],
            [.. entities.Distinct()],
            namesApplication
        );
    }
}

/// <summary>Where the tree of a layout comes from that is not at hand: the text it is kept as.</summary>
public abstract class LayoutSource
{
    /// <summary>The layout, with its tree.</summary>
    public abstract Layout Read();

    /// <summary>Whether a word stands in it anywhere; where it does not, the layout names nothing of that name.</summary>
    public abstract bool Has(string word);
}

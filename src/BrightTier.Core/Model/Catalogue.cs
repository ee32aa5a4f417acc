using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>
/// Every document of an application together: what layouts rest on, the layouts and pieces, who gets which, the menu, the templates.
/// </summary>
/// <param name="Layouts">Those in use. One that is archived stands apart, so that whatever names it finds that it is not there.</param>
public sealed record Catalogue(Definitions Definitions, ImmutableSortedDictionary<string, Layout> Layouts)
{
    public static Catalogue Empty { get; } =
        new(Definitions.Empty, ImmutableSortedDictionary<string, Layout>.Empty.WithComparers(StringComparer.Ordinal));

    public ImmutableSortedDictionary<string, Layout> Archived { get; init; } =
        ImmutableSortedDictionary<string, Layout>.Empty.WithComparers(StringComparer.Ordinal);

    public RoutingRules Routing { get; init; } = RoutingRules.None;

    public Navigation Navigation { get; init; } = Navigation.None;

    public ImmutableSortedDictionary<string, Template> Templates { get; init; } =
        ImmutableSortedDictionary<string, Template>.Empty.WithComparers(StringComparer.Ordinal);

    public IEnumerable<Layout> Pieces => OfKind("piece");

    private ImmutableSortedDictionary<string, Layout>? indexed;
    private LayoutIndex? index;

    /// <summary>The layouts in use by what they are of and what they name.</summary>
    public LayoutIndex Index
    {
        get
        {
            if (index is not { } known || !ReferenceEquals(indexed, Layouts))
            {
                known = LayoutIndex.Of([.. Layouts.Values]);
                (index, indexed) = (known, Layouts);
            }

            return known;
        }
    }

    private IEnumerable<Layout> OfKind(string kind) =>
        Index.Sorts.Where(sort => sort.Kind == kind).SelectMany(sort => Index.Of(sort.Entity, kind)).Select(key => Layouts[key]);

    /// <summary>The fields that lists are sorted or filtered by, each with its entity.</summary>
    public IReadOnlySet<(string Entity, string Field)> SortedFields =>
        OfKind("list").SelectMany(layout => layout.Head.Sorted.Select(key => (layout.Entity, key))).ToHashSet();

    /// <summary>Whether a layout has this key, archived or not: no other gets it.</summary>
    public bool IsTaken(string key) => Layouts.ContainsKey(key) || Archived.ContainsKey(key);

    /// <summary>With many layouts put in at once, each in the place of the one of its key; of those of one key the last.</summary>
    public Catalogue With(IEnumerable<Layout> layouts)
    {
        var (used, archived) = (Layouts.ToBuilder(), Archived.ToBuilder());
        foreach (var layout in layouts)
        {
            (layout.IsArchived ? used : archived).Remove(layout.Key);
            (layout.IsArchived ? archived : used)[layout.Key] = layout;
        }

        return this with
        {
            Layouts = used.ToImmutable(),
            Archived = archived.ToImmutable(),
        };
    }

    /// <summary>With a layout put in, in the place of the one of its key.</summary>
    public Catalogue With(Layout layout)
    {
        var layouts = layout.IsArchived ? Layouts.Remove(layout.Key) : Layouts.SetItem(layout.Key, layout);
        var next = this with
        {
            Layouts = layouts,
            Archived = layout.IsArchived ? Archived.SetItem(layout.Key, layout) : Archived.Remove(layout.Key),
            indexed = null,
            index = null,
        };
        if (index is { } known && ReferenceEquals(indexed, Layouts))
        {
            next.index = known.With(Layouts.GetValueOrDefault(layout.Key), layout.IsArchived ? null : layout);
            next.indexed = layouts;
        }

        return next;
    }

    /// <summary>What a message about a layout that is not there ends with: that it is archived, or which may have been meant.</summary>
    /// <param name="there">The keys that could have been named.</param>
    public Message Suggest(string key, IEnumerable<string> there) =>
        Archived.ContainsKey(key) ? $"; it is archived: bring it back, or name another" : Suggestion.For(key, [.. there]);

    /// <summary>A piece by its key; null where there is none or it is a layout.</summary>
    public Layout? Piece(string key) => Layouts.GetValueOrDefault(key) is { Kind: "piece" } piece ? piece : null;

    /// <summary>The layout of an entity and kind that is taken where no rule says which; null where there is none.</summary>
    public Layout? First(string entity, string kind) =>
        Index.Of(entity, kind) is { Count: > 0 } keys ? Layouts[keys.Contains(entity) ? entity : keys[0]] : null;

    /// <summary>The layouts of an entity of one kind, the one named like the entity first.</summary>
    public IEnumerable<Layout> For(string entity, string kind) =>
        Index.Of(entity, kind).OrderBy(key => key == entity ? 0 : 1).Select(key => Layouts[key]);
}

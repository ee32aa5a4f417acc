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

    public IEnumerable<Layout> Pieces => Layouts.Values.Where(layout => layout.Kind == "piece");

    /// <summary>The fields that lists are sorted or filtered by, each with its entity.</summary>
    public IReadOnlySet<(string Entity, string Field)> SortedFields =>
        Layouts
            .Values.Where(layout => layout.Kind == "list")
            .SelectMany(layout =>
                layout
                    .Root.Words("sort")
                    .Select(key => key.TrimStart('-'))
                    .Concat(layout.Root.Words("filters"))
                    .Select(key => (layout.Entity, key))
            )
            .ToHashSet();

    /// <summary>Whether a layout has this key, archived or not: no other gets it.</summary>
    public bool IsTaken(string key) => Layouts.ContainsKey(key) || Archived.ContainsKey(key);

    /// <summary>With a layout put in, in the place of the one of its key.</summary>
    public Catalogue With(Layout layout) =>
        layout.IsArchived
            ? this with
            {
                Layouts = Layouts.Remove(layout.Key),
                Archived = Archived.SetItem(layout.Key, layout),
            }
            : this with
            {
                Layouts = Layouts.SetItem(layout.Key, layout),
                Archived = Archived.Remove(layout.Key),
            };

    /// <summary>What a message about a layout that is not there ends with: that it is archived, or which may have been meant.</summary>
    /// <param name="there">The keys that could have been named.</param>
    public Message Suggest(string key, IEnumerable<string> there) =>
        Archived.ContainsKey(key) ? $"; it is archived: bring it back, or name another" : Suggestion.For(key, [.. there]);

    /// <summary>A piece by its key; null where there is none or it is a layout.</summary>
    public Layout? Piece(string key) => Layouts.GetValueOrDefault(key) is { Kind: "piece" } piece ? piece : null;

    /// <summary>The layouts of an entity of one kind, the one named like the entity first.</summary>
    public IEnumerable<Layout> For(string entity, string kind) =>
        Layouts
            .Values.Where(layout => layout.Kind == kind && layout.Entity == entity)
            .OrderBy(layout => layout.Key == entity ? 0 : 1)
            .ThenBy(layout => layout.Key, StringComparer.Ordinal);
}

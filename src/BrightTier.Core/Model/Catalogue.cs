using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>
/// Every document of an application together: what layouts rest on, the layouts and pieces, who gets which, the menu, the templates.
/// </summary>
public sealed record Catalogue(Definitions Definitions, ImmutableSortedDictionary<string, Layout> Layouts)
{
    public static Catalogue Empty { get; } =
        new(Definitions.Empty, ImmutableSortedDictionary<string, Layout>.Empty.WithComparers(StringComparer.Ordinal));

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

    /// <summary>A piece by its key; null where there is none or it is a layout.</summary>
    public Layout? Piece(string key) => Layouts.GetValueOrDefault(key) is { Kind: "piece" } piece ? piece : null;

    /// <summary>The layouts of an entity of one kind, the one named like the entity first.</summary>
    public IEnumerable<Layout> For(string entity, string kind) =>
        Layouts
            .Values.Where(layout => layout.Kind == kind && layout.Entity == entity)
            .OrderBy(layout => layout.Key == entity ? 0 : 1)
            .ThenBy(layout => layout.Key, StringComparer.Ordinal);
}

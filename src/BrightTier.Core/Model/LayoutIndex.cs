using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>
/// Which layouts there are of an entity and kind, and which name others, found without going through all: what is asked costs what it
/// finds,
/// and what is put in costs what it names.
/// </summary>
public sealed class LayoutIndex
{
    private static readonly ImmutableSortedSet<string> NoKeys = ImmutableSortedSet<string>.Empty.WithComparer(StringComparer.Ordinal);

    private readonly ImmutableDictionary<(string Entity, string Kind), ImmutableSortedSet<string>> sorts;
    private readonly ImmutableDictionary<string, ImmutableSortedSet<string>> naming;
    private readonly ImmutableDictionary<string, ImmutableSortedSet<string>> showing;

    private LayoutIndex(
        ImmutableDictionary<(string Entity, string Kind), ImmutableSortedSet<string>> sorts,
        ImmutableDictionary<string, ImmutableSortedSet<string>> naming,
        ImmutableDictionary<string, ImmutableSortedSet<string>> showing
    )
    {
        this.sorts = sorts;
        this.naming = naming;
        this.showing = showing;
    }

    /// <summary>Of many at once.</summary>
    public static LayoutIndex Of(IReadOnlyCollection<Layout> layouts) =>
        new(
            Sets(layouts.Select(layout => ((layout.Entity, layout.Kind), layout.Key))),
            Sets(layouts.SelectMany(layout => layout.Head.Layouts.Select(key => (key, layout.Key)))),
            Sets(layouts.SelectMany(layout => layout.Head.Entities.Select(key => (key, layout.Key))))
        );

    private static ImmutableDictionary<T, ImmutableSortedSet<string>> Sets<T>(IEnumerable<(T Name, string Key)> pairs)
        where T : notnull =>
        pairs
            .GroupBy(pair => pair.Name, pair => pair.Key)
            .ToImmutableDictionary(group => group.Key, group => group.ToImmutableSortedSet(StringComparer.Ordinal));

    /// <summary>The kinds of layouts there are of entities, each pair once.</summary>
    public IEnumerable<(string Entity, string Kind)> Sorts => sorts.Keys;

    /// <summary>The keys of an entity's layouts of a kind, in their order.</summary>
    public ImmutableSortedSet<string> Of(string entity, string kind) => sorts.GetValueOrDefault((entity, kind), NoKeys);

    /// <summary>The keys of the layouts that extend or hold one.</summary>
    public ImmutableSortedSet<string> Naming(string layout) => naming.GetValueOrDefault(layout, NoKeys);

    /// <summary>The keys of the layouts that show or begin records of an entity that is not their own.</summary>
    public ImmutableSortedSet<string> Showing(string entity) => showing.GetValueOrDefault(entity, NoKeys);

    /// <summary>With one layout in the place of another.</summary>
    /// <param name="before">What was there; null for nothing.</param>
    /// <param name="after">What is; null for nothing.</param>
    public LayoutIndex With(Layout? before, Layout? after) =>
        new(
            Moved(sorts, Sort(before), Sort(after), (after ?? before)?.Key),
            Moved(naming, before?.Head.Layouts, after?.Head.Layouts, (after ?? before)?.Key),
            Moved(showing, before?.Head.Entities, after?.Head.Entities, (after ?? before)?.Key)
        );

    private static ImmutableArray<(string, string)>? Sort(Layout? layout) => layout is null ? null : [(layout.Entity, layout.Kind)];

    private static ImmutableDictionary<T, ImmutableSortedSet<string>> Moved<T>(
        ImmutableDictionary<T, ImmutableSortedSet<string>> sets,
        ImmutableArray<T>? from,
        ImmutableArray<T>? to,
        string? key
    )
        where T : notnull
    {
        var (old, next) = (from ?? [], to ?? []);
        foreach (var name in old.Except(next))
        {
            var left = sets[name].Remove(key!);
            sets = left.IsEmpty ? sets.Remove(name) : sets.SetItem(name, left);
        }

        foreach (var name in next.Except(old))
        {
            sets = sets.SetItem(name, sets.GetValueOrDefault(name, NoKeys).Add(key!));
        }

        return sets;
    }
}

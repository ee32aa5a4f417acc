using System.Collections.Immutable;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation;

/// <summary>Which layouts can have other findings after documents changed: those that are others, and those that rest on what is.</summary>
public static class AffectedLayouts
{
    /// <param name="changed">The layouts that can be others, by key; null where that is not known, and all are compared.</param>
    public static IEnumerable<Layout> Between(Catalogue before, Catalogue next, IEnumerable<string>? changed = null)
    {
        var definitions = ChangedDefinitions(before.Definitions, next.Definitions);
        if (definitions.Contains(Application))
        {
            return next.Layouts.Values;
        }

        var affected = (changed ?? before.Layouts.Keys.Union(next.Layouts.Keys))
            .Where(key => !ReferenceEquals(before.Layouts.GetValueOrDefault(key), next.Layouts.GetValueOrDefault(key)))
            .ToHashSet(StringComparer.Ordinal);
        foreach (var (kind, entity) in definitions)
        {
            if (kind is DocumentKind.Entity)
            {
                affected.UnionWith(
                    next.Index.Sorts.Where(sort => sort.Entity == entity).SelectMany(sort => next.Index.Of(entity, sort.Kind))
                );
                affected.UnionWith(next.Index.Showing(entity));
            }
        }

        // What extends one that is another, or holds such a piece, is another itself.
        var waiting = new Queue<string>(affected);
        while (waiting.TryDequeue(out var key))
        {
            foreach (var user in next.Index.Naming(key).Where(affected.Add))
            {
                waiting.Enqueue(user);
            }
        }

        return affected.Order(StringComparer.Ordinal).Select(key => next.Layouts.GetValueOrDefault(key)).OfType<Layout>();
    }

    private static readonly (DocumentKind Kind, string Key) Application = (DocumentKind.Application, "application");

    /// <summary>Whether a layout, given with all it is made of, rests on one of some definitions.</summary>
    internal static bool RestsOn(IEnumerable<Layout> parts, IReadOnlySet<(DocumentKind Kind, string Key)> changed) =>
        changed.Contains(Application) || parts.Any(part => DocumentDependencies.OfLayout(part).Any(changed.Contains));

    /// <summary>What was asked for last: of thousands of layouts one after another it is the same.</summary>
    private static Difference? last;

    private sealed record Difference(Definitions Before, Definitions Next, IReadOnlySet<(DocumentKind Kind, string Key)> Changed);

    /// <summary>The definitions that are others, and the entities that lead to them.</summary>
    internal static IReadOnlySet<(DocumentKind Kind, string Key)> ChangedDefinitions(Definitions before, Definitions next)
    {
        if (ReferenceEquals(before, next))
        {
            return ImmutableHashSet<(DocumentKind Kind, string Key)>.Empty;
        }

        if (last is { } known && ReferenceEquals(known.Before, before) && ReferenceEquals(known.Next, next))
        {
            return known.Changed;
        }

        var changed = FindChanged(before, next);
        last = new Difference(before, next, changed);
        return changed;
    }

    private static HashSet<(DocumentKind Kind, string Key)> FindChanged(Definitions before, Definitions next)
    {
        var changed = Others(DocumentKind.Entity, before.Entities, next.Entities)
            .Concat(Others(DocumentKind.ChoiceList, before.ChoiceLists, next.ChoiceLists))
            .Concat(Others(DocumentKind.Pattern, before.Patterns, next.Patterns))
            .ToHashSet();
        if (!Equals(before.Application, next.Application))
        {
            changed.Add(Application);
        }

        while (
            next
                .Entities.Values.Where(entity =>
                    !changed.Contains((DocumentKind.Entity, entity.Key))
                    && DocumentDependencies.Directly(new Document.OfEntity(entity)).Any(changed.Contains)
                )
                .ToArray()
                is { Length: > 0 } more
        )
        {
            changed.UnionWith(more.Select(entity => (DocumentKind.Entity, entity.Key)));
        }

        return changed;
    }

    private static IEnumerable<(DocumentKind, string)> Others<T>(
        DocumentKind kind,
        IReadOnlyDictionary<string, T> before,
        IReadOnlyDictionary<string, T> next
    )
        where T : class =>
        before
            .Keys.Union(next.Keys)
            .Where(key => !ReferenceEquals(before.GetValueOrDefault(key), next.GetValueOrDefault(key)))
            .Select(key => (kind, key));
}

using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation;

/// <summary>Which layouts can have other findings after documents changed: those that are others, and those that rest on what is.</summary>
internal static class AffectedLayouts
{
    public static IEnumerable<Layout> Between(Catalogue before, Catalogue next)
    {
        var changed = Definitions(before.Definitions, next.Definitions);
        if (changed.Contains((DocumentKind.Application, "application")))
        {
            return next.Layouts.Values;
        }

        foreach (var (key, layout) in next.Layouts)
        {
            if (!ReferenceEquals(before.Layouts.GetValueOrDefault(key), layout))
            {
                changed.Add((DocumentKind.Layout, key));
            }
        }

        changed.UnionWith(before.Layouts.Keys.Where(key => !next.Layouts.ContainsKey(key)).Select(key => (DocumentKind.Layout, key)));
        if (changed.Count == 0)
        {
            return [];
        }

        // What extends one that is another, or holds such a piece, is another itself.
        while (
            next
                .Layouts.Values.Where(layout =>
                    !changed.Contains((DocumentKind.Layout, layout.Key)) && DocumentDependencies.OfLayout(layout).Any(changed.Contains)
                )
                .ToArray()
                is { Length: > 0 } more
        )
        {
            changed.UnionWith(more.Select(layout => (DocumentKind.Layout, layout.Key)));
        }

        return next.Layouts.Values.Where(layout => changed.Contains((DocumentKind.Layout, layout.Key)));
    }

    /// <summary>The definitions that are others, and the entities that lead to them.</summary>
    private static HashSet<(DocumentKind Kind, string Key)> Definitions(Definitions before, Definitions next)
    {
        if (ReferenceEquals(before, next))
        {
            return [];
        }

        var changed = Others(DocumentKind.Entity, before.Entities, next.Entities)
            .Concat(Others(DocumentKind.ChoiceList, before.ChoiceLists, next.ChoiceLists))
            .Concat(Others(DocumentKind.Pattern, before.Patterns, next.Patterns))
            .ToHashSet();
        if (!Equals(before.Application, next.Application))
        {
            changed.Add((DocumentKind.Application, "application"));
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

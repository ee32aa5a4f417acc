using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Composition;

/// <summary>A document, and which one needs it.</summary>
public sealed record Dependency(DocumentKind Kind, string Key, DocumentKind ForKind, string ForKey);

/// <summary>Which documents others rest on: what has to be published with them, if it was changed too.</summary>
public static class DocumentDependencies
{
    /// <summary>What a document names, directly, each once.</summary>
    public static IEnumerable<(DocumentKind Kind, string Key)> Directly(Document document) =>
        document switch
        {
            Document.OfLayout { Layout: var layout } => OfLayout(layout),
            Document.OfEntity { Entity: var entity } => entity
                .Fields.SelectMany(OfField)
                .Where(each => each != (DocumentKind.Entity, entity.Key))
                .Distinct(),
            Document.OfTemplate { Template: var template } => template.Layouts.Select(key => (DocumentKind.Layout, key)),
            Document.OfRouting { Routing: var routing } => routing
                .Rules.SelectMany(rule => new[] { (DocumentKind.Entity, rule.Entity), (DocumentKind.Layout, rule.Layout) })
                .Distinct(),
            Document.OfNavigation { Navigation: var navigation } => OfEntries(navigation.Entries).Distinct(),
            _ => [],
        };

    /// <summary>
    /// What goes out along with documents: what they rest on, near and far, as far as it was changed. What rests on something that was not
    /// changed
    /// goes no further: it is published already as it is. In the order in which documents rest on one another.
    /// </summary>
    /// <param name="changed">A document's draft, where it is ahead of what is published; otherwise null.</param>
    public static IReadOnlyList<Dependency> Along(
        IReadOnlyCollection<(DocumentKind Kind, string Key)> chosen,
        Func<DocumentKind, string, Document?> changed
    )
    {
        var seen = chosen.ToHashSet();
        var found = new List<Dependency>();
        var waiting = new Queue<(DocumentKind Kind, string Key)>(chosen);
        while (waiting.TryDequeue(out var at))
        {
            if (changed(at.Kind, at.Key) is not { } document)
            {
                continue;
            }

            foreach (var (kind, key) in Directly(document))
            {
                if (!seen.Contains((kind, key)) && changed(kind, key) is not null)
                {
                    seen.Add((kind, key));
                    found.Add(new Dependency(kind, key, at.Kind, at.Key));
                    waiting.Enqueue((kind, key));
                }
            }
        }

        return [.. found.OrderBy(each => each.Kind).ThenBy(each => each.Key, StringComparer.Ordinal)];
    }

    /// <summary>What a layout names, each once.</summary>
    public static IEnumerable<(DocumentKind Kind, string Key)> OfLayout(Layout layout)
    {
        var head = layout.Head;
        if (head.Kind != "piece")
        {
            yield return (DocumentKind.Entity, head.Entity);
        }

        foreach (var key in head.Layouts)
        {
            yield return (DocumentKind.Layout, key);
        }

        foreach (var key in head.Entities)
        {
            if (key != head.Entity || head.Kind == "piece")
            {
                yield return (DocumentKind.Entity, key);
            }
        }

        if (head.NamesApplication)
        {
            yield return (DocumentKind.Application, "application");
        }
    }

    private static IEnumerable<(DocumentKind, string)> OfField(Field field)
    {
        if (field.ChoiceList is { } list)
        {
            yield return (DocumentKind.ChoiceList, list);
        }

        if (field.Uses is { } pattern)
        {
            yield return (DocumentKind.Pattern, pattern);
        }

        if (field.Target is { } target)
        {
            yield return (DocumentKind.Entity, target);
        }
    }

    private static IEnumerable<(DocumentKind, string)> OfEntries(IEnumerable<MenuEntry> entries) =>
        entries.SelectMany(entry => OfEntries(entry.Entries).Concat(entry.Entity is { } entity ? [(DocumentKind.Entity, entity)] : []));
}
